import { Mesh, Scene, Vector3, WebGLRenderer, type ShaderMaterial } from 'three';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { blockDrawable } from '@rammer/core/cost/blockDrawables';
import type { Drawable } from '@rammer/core/cost/drawable';
import { cameraOf } from '@rammer/core/cost/camera';
import { SHIPPED_LIGHTING } from '@rammer/core/level/lighting';
import { AIR, type Block, type Lighting, type Pose } from '@rammer/core/level/objects';
import { gridOf } from '@rammer/core/level/tiles';
import { through } from '@rammer/core/light/haze';
import { graded, toneMap } from '@rammer/core/light/toneMap';
import { srgbToLinear } from '@rammer/core/num/srgb';
import type { Vec3 } from '@rammer/core/num/vec';
import { testBlock } from '@rammer/core/testing/levels';
import { blockGeometry } from '../../web/src/view/blockMesh';
import { blockMaterial } from '../../web/src/view/blockView';
import { Eye } from '../../web/src/view/eye';
import { figureMesh } from '../../web/src/view/figure';
import { FullPicture } from '../../web/src/view/full/FullPicture';
import { PEOPLE } from '../../web/src/view/layers';
import { Look } from '../../web/src/view/look';

/** Pictures of a few blocks in the full picture's light, as pixels: what `lights.spec` looks at. */

/** The colour of a block that is 18 % grey: a block's colour is taken for what one sees once it is light, see `blockMaterial`. */
const GREY = '#b5b5b5';
const plain: Lighting = { ...SHIPPED_LIGHTING[0], sky: '#ffffff', horizon: '#ffffff', haze: 0, air: { ...AIR, clouds: 0, shafts: 0, wind: 0 } };

interface Shot {
  blocks: Block[];
  lighting: Lighting;
  pose: Pose;
  width: number;
  height: number;
  /** frames gathered after the first; none for one in motion */
  frames?: number;
  figure?: boolean;
  colour?: string;
  lens?: Pose['lens'];
  calm?: boolean;
}

let made: { renderer: WebGLRenderer; look: Look; picture: FullPicture } | undefined;
function tools() {
  if (!made) {
    const renderer = new WebGLRenderer({ antialias: false });
    renderer.autoClear = false;
    renderer.info.autoReset = false;
    const look = new Look(gridOf({ tilesX: 2, tilesZ: 2, spacing: 0.5 }));
    made = { renderer, look, picture: new FullPicture(renderer, look.uniforms, { shadows: 512, shafts: [4, 1] }) };
  }
  return made;
}

function shoot({ blocks, lighting, pose, width, height, frames, figure, lens, calm, colour = GREY }: Shot): ImageData {
  const { look, picture } = tools();
  look.setLighting(lighting);
  picture.setLighting(lighting);
  const camera = cameraOf(pose, width / height, 1.65);
  const scene = new Scene();
  const material: ShaderMaterial = blockMaterial(look.uniforms, colour);
  const meshes = blocks.map((b) => {
    const mesh = new Mesh(blockGeometry([b]), material);
    mesh.frustumCulled = false;
    scene.add(mesh);
    return mesh;
  });
  const people = new Scene();
  if (figure) {
    const one = figureMesh(SHIPPED_BODIES.adult);
    one.layers.enable(PEOPLE);
    people.add(one);
  }
  const drawables: Drawable[] = blocks.map((b) => blockDrawable(b.id, [b], new Map()));
  const bounds = { min: [-20, -1, -20] as Vec3, max: [20, 8, 20] as Vec3 };
  const lods = new Map(drawables.map((d) => [d.key, 0]));
  const eye = new Eye();
  const staged = {
    scene,
    shared: look.uniforms,
    look: () => {
      eye.at(camera);
      (look.uniforms.uEye.value as Vector3).set(...camera.eye);
      (look.uniforms.uView.value as Vector3).set(...camera.forward);
    },
    show: (wanted: ReadonlyMap<string, number>) => meshes.forEach((m, i) => (m.visible = wanted.has(drawables[i].key))),
    fade: () => {},
    casters: drawables.map((drawable) => ({ drawable, lod: 0 })),
    bounds,
    people,
  };
  for (let step = 0; step <= (frames ?? 0); step++)
    picture.draw({
      camera,
      eye: eye.at(camera),
      width,
      height,
      lods,
      staged,
      seeThrough: () => false,
      time: 0,
      lens,
      calm,
      ...(frames === undefined ? {} : { step }),
    });
  const image = picture.pixels();
  for (const m of meshes) m.geometry.dispose();
  material.dispose();
  return image;
}

const light = (image: ImageData, x: number, y: number): Vec3 => {
  const i = (y * image.width + x) * 4;
  return [0, 1, 2].map((k) => srgbToLinear(image.data[i + k] / 255)) as Vec3;
};
const ground = (): Block => ({ ...testBlock('box', [40, 1, 40], [0, -1, 0]), id: 'ground' });
const sunOnly = (elevation: number): Lighting => ({ ...plain, sun: { azimuth: 90, elevation }, fill: 0 });

/** Length of the shadow of the figure of 1.8 m, metres, in a sun of 30 degrees in the east: along the ground to the west. */
export function shadowLength(): number {
  const side = 480;
  const image = shoot({
    blocks: [ground()],
    lighting: sunOnly(30),
    pose: { view: 'plan', target: [-1.5, 0, 0], yaw: 0, pitch: -90, distance: 6 },
    width: side,
    height: side,
    frames: 16,
    figure: true,
  });
  const metre = side / 6;
  const bright = light(image, 20, 20)[1];
  let last = 0;
  for (let x = 0; x < side; x++) {
    const at = -4.5 + (x + 0.5) / metre;
    for (let y = 0; y < side; y++) if (light(image, x, y)[1] < bright / 2) last = Math.max(last, -at);
  }
  return last;
}

/** The brightest pixel inside a box, of 255, and the mean of all. @param open without its roof */
export function box(open: boolean): { most: number; mean: number } {
  const wall = (id: string, size: Vec3, at: Vec3): Block => ({ ...testBlock('box', size, at), id });
  const image = shoot({
    blocks: [
      wall('floor', [6, 0.3, 6], [0, -0.3, 0]),
      ...(open ? [] : [wall('roof', [6, 0.3, 6], [0, 3, 0])]),
      wall('n', [6, 3, 0.3], [0, 0, -2.85]),
      wall('s', [6, 3, 0.3], [0, 0, 2.85]),
      wall('e', [0.3, 3, 6], [2.85, 0, 0]),
      wall('w', [0.3, 3, 6], [-2.85, 0, 0]),
    ],
    lighting: plain,
    pose: { view: 'stand', target: [1.5, 0, 1.5], yaw: 315, pitch: -5, distance: 10 },
    width: 160,
    height: 100,
    frames: 16,
  });
  let [most, sum] = [0, 0];
  for (let i = 0; i < image.data.length; i++) {
    if (i % 4 === 3) continue;
    most = Math.max(most, image.data[i]);
    sum += image.data[i];
  }
  return { most, mean: sum / (image.width * image.height * 3) };
}

/** Light of an even sky on the ground under the middle of an arch, over that in the open. @param boxes lowest and highest corners */
export function underArch(boxes: [Vec3, Vec3][], frames: number): number {
  const blocks = boxes.map(([a, b], i): Block => ({
    ...testBlock('box', [b[0] - a[0], b[1] - a[1], b[2] - a[2]], [(a[0] + b[0]) / 2, a[1], (a[2] + b[2]) / 2]),
    id: `b${i}`,
  }));
  const shot = { lighting: { ...plain, sunlight: 0 }, width: 48, height: 48, frames };
  // From under the roof, looking down at the ground.
  const pose: Pose = { view: 'orbit', target: [0, 0, 0], yaw: 0, pitch: -89, distance: 1.5 };
  // What tone mapping takes off dark and middle tones.
  const untoned = (v: number): number => (v < 0.04 ? Math.sqrt(v / 6.25) : v + 0.04);
  const inside = untoned(mean(shoot({ ...shot, pose, blocks: [ground(), ...blocks] })));
  const open = untoned(mean(shoot({ ...shot, pose, blocks: [ground()] })));
  return inside / open;
}

const mean = (image: ImageData): number => {
  let sum = 0;
  for (let y = 20; y < 28; y++) for (let x = 20; x < 28; x++) sum += light(image, x, y)[1] / 64;
  return sum;
};

/** A card of 18 % grey that faces the sun: what it looks like, of 255, and what its light comes to by core's own tone mapping. */
export function greyCard(exposure: number, contrast: number, saturation: number): { seen: number[]; reckoned: number[] } {
  const { picture } = tools();
  const image = shoot({
    blocks: [ground()],
    lighting: { ...sunOnly(90), exposure, contrast, saturation },
    pose: { view: 'plan', target: [0, 0, 0], yaw: 0, pitch: -90, distance: 10 },
    width: 64,
    height: 64,
  });
  const albedo = srgbToLinear(srgbToLinear(0xb5 / 255));
  const sun = picture.uniforms.uSunHere.value.toArray();
  const out = toneMap(graded(sun.map((v) => v * albedo) as Vec3, 2 ** exposure, contrast, saturation));
  const i = (32 * 64 + 20) * 4;
  return { seen: Array.from(image.data.subarray(i, i + 3)), reckoned: out.map(seen) };
}

/** Light as a byte of sRGB, not rounded. */
const seen = (v: number): number => (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055) * 255;

/** A black wall `away` metres before the eye, through haze alone: what it looks like, and what core's own haze makes of it, of 255. */
export function hazed(half: number, height: number, away: number): { seen: number[]; reckoned: number[] } {
  const { picture } = tools();
  const image = shoot({
    blocks: [{ ...testBlock('box', [60, 60, 1], [0, -20, -away - 0.5]), id: 'wall' }],
    lighting: { ...plain, sunlight: 0, fill: 0, horizon: '#a0b0c0', haze: half, air: { ...plain.air!, hazeHeight: height } },
    pose: { view: 'stand', target: [0, 0, 0], yaw: 0, pitch: 20, distance: 10 },
    width: 64,
    height: 64,
    colour: '#000000',
  });
  // The middle of the picture: twenty degrees up.
  const rise = Math.tan((20 * Math.PI) / 180) * away;
  const t = through({ half, height, base: 0 }, 1.65, 1.65 + rise, Math.hypot(away, rise));
  const air = picture.uniforms.uAir.value.toArray();
  const i = (32 * 64 + 32) * 4;
  return { seen: Array.from(image.data.subarray(i, i + 3)), reckoned: toneMap(air.map((v) => v * (1 - t)) as Vec3).map(seen) };
}

/** A leaning block before the sky: how far the edges of so many frames are from those of 256, of 255, as a mean over the pixels that edges cross. */
export function edges(frames: number): { mean: number; most: number; raw: number } {
  const shot = {
    blocks: [ground(), { ...testBlock('box', [3, 5, 0.4], [0, -0.5, -6], 17), id: 'lean', tilt: [0, 0, 0.2588, 0.9659] as [number, number, number, number] }],
    lighting: plain,
    pose: { view: 'stand', target: [0, 0, 0], yaw: 0, pitch: 10, distance: 10 } as Pose,
    width: 112,
    height: 84,
    colour: '#303030',
  };
  const exact = shoot({ ...shot, frames: 256 });
  const refined = shoot({ ...shot, frames });
  const first = shoot({ ...shot, frames: 0 });
  let [sum, most, n, raw] = [0, 0, 0, 0];
  for (let i = 0; i < exact.data.length; i += 4) {
    // Where one frame and all differ much an edge crosses the pixel.
    const crossed = Math.abs(exact.data[i + 1] - first.data[i + 1]) > 8;
    if (!crossed) continue;
    const d = Math.abs(exact.data[i + 1] - refined.data[i + 1]);
    sum += d;
    raw += Math.abs(exact.data[i + 1] - first.data[i + 1]);
    most = Math.max(most, d);
    n++;
  }
  return { mean: sum / n, most, raw: raw / n };
}

/** How many bytes of a still differ when it is made twice. */
export function twice(): number {
  const shot: Shot = {
    blocks: [ground(), { ...testBlock('box', [3, 5, 0.4], [0, 0, -6], 17), id: 'a' }],
    lighting: { ...plain, air: { ...plain.air!, clouds: 0.4, shafts: 1 }, haze: 100 },
    pose: { view: 'stand', target: [0, 0, 0], yaw: 10, pitch: 5, distance: 10 },
    width: 160,
    height: 120,
    frames: 24,
    figure: true,
  };
  const [a, b] = [shoot(shot), shoot(shot)];
  let differ = 0;
  for (let i = 0; i < a.data.length; i++) if (a.data[i] !== b.data[i]) differ++;
  return differ;
}

/** Strength of the wind that plants are drawn in: in a wind of 6, calm, and in that wind again. */
export function winds(): number[] {
  const lighting: Lighting = { ...plain, air: { ...plain.air!, wind: 6, windFrom: 250 } };
  const pose: Pose = { view: 'stand', target: [0, 0, 0], yaw: 0, pitch: 0, distance: 10 };
  return [false, true, false].map((calm) => {
    shoot({ blocks: [ground()], lighting, pose, width: 16, height: 16, calm });
    return tools().picture.uniforms.uWind.value.length();
  });
}

/** How many pixels of a row the sides of two posts blur over: one 8 m away, which is in focus, and one 2 m away. */
export function lens(width: number): { focus: number; near: number } {
  const post = (id: string, at: Vec3, wide: number): Block => ({ ...testBlock('box', [wide, 6, wide], at), id });
  const image = shoot({
    blocks: [post('far', [1.6, -1, -8], 1.2), post('near', [-0.5, -1, -2], 0.3)],
    lighting: plain,
    pose: { view: 'stand', target: [0, 0, 0], yaw: 0, pitch: 0, distance: 10 },
    width: 320,
    height: 120,
    frames: 24,
    colour: '#202020',
    lens: { width, focus: 8 },
  });
  // Between the dark of a post and the bright of the sky.
  const between = (from: number, to: number): number => {
    let n = 0;
    for (let x = from; x < to; x++) {
      const v = image.data[(60 * 320 + x) * 4 + 1];
      if (v > 60 && v < 200) n++;
    }
    return n;
  };
  return { focus: between(155, 320), near: between(0, 155) };
}
