import { InstancedMesh, Matrix4, Mesh, OrthographicCamera, Scene, Vector3, WebGLRenderTarget, type IUniform, type WebGLRenderer } from 'three';
import type { BodyFigures } from '@rammer/core/body/bodies';
import { assetBounds, hasBillboard, type Asset } from '@rammer/core/kit/asset';
import { AuthoredMaterials, type AuthoredTextures } from './authoredMaterials';
import type { Vec3 } from '@rammer/core/num/vec';
import { figureMesh } from './figure';
import { instanceMaterial, primitiveGeometry } from './instanceView';

export interface PictureOptions {
  /** pixels; 224 x 160 */
  width?: number;
  height?: number;
  /** degrees the eye goes round it, counter-clockwise from above, and over it */
  round?: number;
  over?: number;
  /** which of its LODs */
  lod?: number;
  /** others to stand beside it, for their size */
  beside?: readonly Asset[];
}

interface Renderer {
  renderer: WebGLRenderer;
  shared: Record<string, IUniform>;
  textures: AuthoredTextures;
}

const made = new WeakMap<Asset, Map<string, Promise<string>>>();

/**
 * A picture of an asset beside the figure, all at one scale, in even light: drawn here, by the view's
 * own renderer, once an asset, body and way of looking. A data URL.
 */
export function assetPicture(by: Renderer, asset: Asset, body: BodyFigures, options: PictureOptions = {}): Promise<string> {
  const { beside = [], ...look } = options;
  const key = JSON.stringify([body.height, body.radius, look]);
  const byKey = made.get(asset) ?? new Map<string, Promise<string>>();
  made.set(asset, byKey);
  const known = beside.length === 0 ? byKey.get(key) : undefined;
  if (known) return known;
  const picture = draw(by, asset, body, options);
  // A picture that is turned by hand is drawn many times and looked at once.
  if (beside.length === 0 && look.round === undefined) byKey.set(key, picture);
  return picture;
}

async function draw(by: Renderer, asset: Asset, body: BodyFigures, options: PictureOptions): Promise<string> {
  const { renderer, shared, textures } = by;
  const { width = 224, height = 160, lod = 0, beside = [] } = options;
  // It stands on no ground: the level's is out of reach.
  const uniforms = { ...shared, uWork: { value: 1 }, uEye: { value: new Vector3() }, uView: { value: new Vector3(0, 0, -1) }, uGroundLow: { value: 1e4 } };
  const authored = new AuthoredMaterials(uniforms, textures);
  await Promise.all([asset, ...beside].map((a) => authored.ready(a)));
  const scene = new Scene();
  const house = instanceMaterial(uniforms, asset.role === 'plant' ? 'plant' : 'piece', true);
  const stand = (a: Asset, x: number, z: number, level: number): void => {
    for (const p of a.lods[Math.min(level, a.lods.length - 1 - (hasBillboard(a) ? 1 : 0))]) {
      const mesh = new InstancedMesh(primitiveGeometry(p), p.look === undefined ? house : authored.of(a, p, { merged: false }), 1);
      mesh.setMatrixAt(0, new Matrix4().setPosition(x, 0, z));
      mesh.frustumCulled = false;
      scene.add(mesh);
    }
  };
  const { min, max } = assetBounds(asset);
  stand(asset, 0, 0, lod);
  // The figure to its right, the others to its left, all on one line at its middle.
  const front = (min[2] + max[2]) / 2;
  const figure = figureMesh(body);
  figure.position.set(max[0] + body.radius + 0.35, 0, front);
  scene.add(figure);
  let left = min[0];
  let top = Math.max(max[1], body.height);
  for (const other of beside) {
    const b = assetBounds(other);
    left -= b.max[0] - b.min[0] + 0.4;
    top = Math.max(top, b.max[1]);
    stand(other, left - b.min[0], front - (b.min[2] + b.max[2]) / 2, 1);
  }
  const camera = cameraOf(asset, body, options, { left, top });
  uniforms.uEye.value.copy(camera.position);
  const url = await rendered(renderer, scene, camera, [width, height]);
  authored.dispose();
  house.dispose();
  scene.traverse((m) => {
    if (m instanceof Mesh) m.geometry.dispose();
  });
  return url;
}

/** The eye of a picture: round the asset, the figure and what stands beside them, framed by what is seen of their corners. */
function cameraOf(
  asset: Asset,
  body: BodyFigures,
  { width = 224, height = 160, round = 25, over = 22 }: PictureOptions,
  { left, top }: { left: number; top: number },
): OrthographicCamera {
  const { min, max } = assetBounds(asset);
  const front = (min[2] + max[2]) / 2;
  const [low, right] = [Math.min(min[1], 0), max[0] + body.radius * 2 + 0.7];
  const centre = new Vector3((left - 0.3 + right) / 2, (top + low) / 2, front);
  const [yaw, pitch] = [(round * Math.PI) / 180, (over * Math.PI) / 180];
  const to = new Vector3(Math.sin(yaw) * Math.cos(pitch), Math.sin(pitch), Math.cos(yaw) * Math.cos(pitch));
  const aspect = width / height;
  const reach = Math.max(right - left, top - low, max[2] - min[2]) + 4;
  const camera = new OrthographicCamera(-aspect, aspect, 1, -1, reach * 0.01, reach * 4);
  camera.position.copy(centre).addScaledVector(to, reach * 2);
  camera.lookAt(centre);
  camera.updateMatrixWorld();
  let half = 0;
  const inverse = camera.matrixWorldInverse;
  for (const x of [left - 0.2, right])
    for (const y of [low - 0.1, top + 0.1])
      for (const z of [min[2], max[2]]) {
        const p = new Vector3(x, y, z).applyMatrix4(inverse);
        half = Math.max(half, Math.abs(p.x) / aspect, Math.abs(p.y));
      }
  half *= 1.04;
  Object.assign(camera, { left: -half * aspect, right: half * aspect, top: half, bottom: -half });
  camera.updateProjectionMatrix();
  return camera;
}

/** Where a point of an asset's own axes lies in its picture, pixels from the top left; with nothing beside it. */
export function pictured(asset: Asset, body: BodyFigures, options: PictureOptions): (p: Vec3) => [x: number, y: number] {
  const { min, max } = assetBounds(asset);
  const { width = 224, height = 160 } = options;
  const camera = cameraOf(asset, body, options, { left: min[0], top: Math.max(max[1], body.height) });
  return ([x, y, z]) => {
    const p = new Vector3(x, y, z).project(camera);
    return [((p.x + 1) / 2) * width, ((1 - p.y) / 2) * height];
  };
}

/** Draws now; its pixels are fetched when they are done, so that nobody waits for a renderer in software. */
async function rendered(renderer: WebGLRenderer, scene: Scene, camera: OrthographicCamera, [width, height]: [number, number]): Promise<string> {
  const target = new WebGLRenderTarget(width, height, { samples: 4 });
  const before = renderer.getRenderTarget();
  const clear = renderer.getClearAlpha();
  renderer.setRenderTarget(target);
  renderer.setClearAlpha(0);
  renderer.clear();
  renderer.render(scene, camera);
  const pixels = new Uint8Array(width * height * 4);
  const read = renderer.readRenderTargetPixelsAsync(target, 0, 0, width, height, pixels);
  renderer.setRenderTarget(before);
  renderer.setClearAlpha(clear);
  await read;
  target.dispose();
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const context = canvas.getContext('2d')!;
  const image = context.createImageData(width, height);
  // The renderer's rows start at the bottom.
  for (let y = 0; y < height; y++) image.data.set(pixels.subarray((height - 1 - y) * width * 4, (height - y) * width * 4), y * width * 4);
  context.putImageData(image, 0, 0);
  return canvas.toDataURL('image/png');
}
