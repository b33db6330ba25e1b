import { SRGB_LIGHT, srgbByte } from '../../num/srgb';
import { halvePicture, type Pixels } from '../../num/halvePicture';
import { orthoRaster, type OrthoView } from '../../num/orthoRaster';
import { cosDeg, sinDeg } from '../../num/trig';
import { assetBounds, type Asset, type DistantPicture, type Primitive } from '../asset';
import { PLAIN_MATERIAL, textureBytes, type AssetTexture, type Wrap } from '../material';
import { tidyMaterials } from './mergeMaterials';
import type { PictureTools } from './tools';

/** Sides it is seen from, about the vertical, and how their pictures lie in one. */
export const SIDES = 8;
const COLUMNS = 4;
const ROWS = SIDES / COLUMNS;
/** Each pixel is the mean of so many a side. */
const FINER = 2;

/** A look along the horizon. @param deg about the vertical: 0 is from the front, +z; 90 from +x */
function lookFrom(deg: number, { half, low, high }: Pick<DistantPicture, 'half' | 'low' | 'high'>): OrthoView {
  const [s, c] = [sinDeg(deg), cosDeg(deg)];
  return { right: [c, 0, -s], up: [0, 1, 0], to: [s, 0, c], middle: [0, (low + high) / 2, 0], half, halfUp: (high - low) / 2 };
}

/** An asset without its distant picture: what it showed may be no longer so. */
export function withoutDistant(asset: Asset): Asset {
  if (!asset.distant) return asset;
  return tidyMaterials({
    ...asset,
    distant: undefined,
    lods: asset.lods.slice(0, -1),
    ...(asset.errors ? { errors: asset.errors.slice(0, -1) } : {}),
  });
}

/**
 * The last LOD as pictures from eight sides on a card that turns to the eye: colours with how much of a pixel is covered, and
 * directions with depth. Between two sides the card is as much wider as the mesh covers more there than the mean of both.
 *
 * @param side pixels of the height of one picture
 * @throws Error where a picture it wears cannot be unpacked
 */
export async function makeDistant(given: Asset, side: number, tools: PictureTools): Promise<Asset> {
  const asset = withoutDistant(given);
  if (!asset.materials) return asset;
  const { min, max } = assetBounds(asset);
  let half = 0;
  for (const { positions: p } of asset.lods[0]) for (let i = 0; i < p.length; i += 3) half = Math.max(half, p[i] * p[i] + p[i + 2] * p[i + 2]);
  half = Math.max(0.01, Math.sqrt(half)) * 1.02;
  const room = (max[1] - min[1]) * 0.01 + 0.001;
  const frame = { half, low: min[1] - room, high: max[1] + room };
  const high = Math.max(8, Math.round(side / 4) * 4);
  const wide = Math.min(high * 4, Math.max(8, Math.round(((2 * half) / (frame.high - frame.low)) * (high / 4)) * 4));
  const worn = await wornBy(asset, tools);
  const colours = blank(wide * COLUMNS, high * ROWS);
  const normals = blank(wide * COLUMNS, high * ROWS);
  const covered: number[] = [];
  for (let k = 0; k < SIDES; k++) {
    const [x, y] = [(k % COLUMNS) * wide, Math.floor(k / COLUMNS) * high];
    covered.push(drawSide(asset, worn, { view: lookFrom(k * (360 / SIDES), frame), at: [x, y], size: [wide, high] }, [colours, normals]));
  }
  const cutoff = cutoffOf(colours);
  const between = covered.map((a, k) => {
    const mean = (a + covered[(k + 1) % SIDES]) / 2;
    const covers = coveredFrom(asset, worn, lookFrom((k + 0.5) * (360 / SIDES), frame), [wide, high]);
    return mean > 0 ? Math.min(1, Math.max(-0.5, covers / mean - 1)) : 0;
  });
  bleed(colours);
  const textures = [...(asset.textures ?? [])];
  const put = async (name: string, pixels: Pixels): Promise<number> => {
    const texture: AssetTexture = {
      name,
      width: pixels.width,
      height: pixels.height,
      gpuBytes: textureBytes(pixels.width, pixels.height),
      ...(await tools.pack(pixels, 'image/png')),
    };
    return textures.push(texture) - 1;
  };
  const colourAt = await put('distant colours', colours);
  const normalsAt = await put('distant normals', normals);
  const clamp: [Wrap, Wrap] = ['clamp', 'clamp'];
  const materials = [
    ...asset.materials,
    {
      ...PLAIN_MATERIAL,
      name: 'distant',
      metalness: 0,
      roughness: 0.9,
      alpha: 'mask' as const,
      cutoff,
      doubleSided: true,
      textures: {
        baseColour: { texture: colourAt, uv: 0 as const, offset: [0, 0] as [number, number], rotation: 0, scale: [1, 1] as [number, number], wrap: clamp },
      },
    },
  ];
  const card = cardOf(frame, materials.length - 1);
  return {
    ...asset,
    materials,
    textures,
    textureBytes: textures.reduce((s, t) => s + t.gpuBytes, 0),
    lods: [...asset.lods, [card]],
    ...(asset.errors ? { errors: [...asset.errors, Math.max(asset.errors.at(-1) ?? 0, half * 0.1)] } : {}),
    distant: { ...frame, columns: COLUMNS, rows: ROWS, between, normals: normalsAt },
  };
}

const blank = (width: number, height: number): Pixels => ({ width, height, data: new Uint8Array(width * height * 4) });

/** The card that carries them, facing +z with the picture from the front: what a program that knows no more draws. */
function cardOf({ half, low, high }: Pick<DistantPicture, 'half' | 'low' | 'high'>, look: number): Primitive {
  const [u, v] = [1 / COLUMNS, 1 / ROWS];
  return {
    positions: Float32Array.from([-half, low, 0, half, low, 0, half, high, 0, -half, high, 0]),
    normals: Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]),
    uvs: Float32Array.from([0, v, u, v, u, 0, 0, 0]),
    indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
    material: 'distant',
    alphaTested: true,
    look,
  };
}

/** Base colours of each primitive at a point of a triangle: light, and how opaque. */
type Worn = (primitive: number, triangle: number, second: number, third: number) => readonly [number, number, number, number];

async function wornBy(asset: Asset, tools: PictureTools): Promise<Worn> {
  const pictures = new Map<number, Pixels>();
  for (const p of asset.lods[0]) {
    const use = asset.materials![p.look!].textures.baseColour;
    if (!use || pictures.has(use.texture) || asset.textures![use.texture].mime === 'image/ktx2') continue;
    let pixels = await tools.unpack(asset.textures![use.texture]);
    // Finer than it will ever be seen costs time alone.
    while (Math.max(pixels.width, pixels.height) > 512) pixels = halvePicture(pixels, 'colour');
    pictures.set(use.texture, pixels);
  }
  return (m, t, second, third) => {
    const p = asset.lods[0][m];
    const look = asset.materials![p.look!];
    const [a, b, c] = [p.indices[t * 3], p.indices[t * 3 + 1], p.indices[t * 3 + 2]];
    const first = 1 - second - third;
    const of = (values: Float32Array, size: number, k: number) => values[a * size + k] * first + values[b * size + k] * second + values[c * size + k] * third;
    const out: [number, number, number, number] = [...look.baseColour];
    if (p.colours) for (let k = 0; k < 4; k++) out[k] *= of(p.colours, 4, k);
    const use = look.textures.baseColour;
    const pixels = use && pictures.get(use.texture);
    const uv = use?.uv === 1 ? p.uvs1 : p.uvs;
    if (use && pixels && uv) {
      const [u, v] = [of(uv, 2, 0) * use.scale[0], of(uv, 2, 1) * use.scale[1]];
      const [sin, cos] = [sinDeg((use.rotation * 180) / Math.PI), cosDeg((use.rotation * 180) / Math.PI)];
      const x = wrapped(cos * u + sin * v + use.offset[0], use.wrap[0], pixels.width);
      const y = wrapped(-sin * u + cos * v + use.offset[1], use.wrap[1], pixels.height);
      const o = (y * pixels.width + x) * 4;
      for (let k = 0; k < 3; k++) out[k] *= SRGB_LIGHT[pixels.data[o + k]];
      out[3] *= pixels.data[o + 3] / 255;
    }
    // What is blended is there by half; what is masked is or is not.
    if (look.alpha === 'opaque') out[3] = 1;
    else if (look.alpha === 'mask') out[3] = out[3] >= look.cutoff ? 1 : 0;
    return out;
  };
}

function wrapped(v: number, wrap: Wrap, size: number): number {
  const whole = Math.floor(v);
  const at = wrap === 'clamp' ? Math.min(0.999999, Math.max(0, v)) : wrap === 'mirror' && whole % 2 !== 0 ? 1 - (v - whole) : v - whole;
  return Math.min(size - 1, Math.max(0, Math.floor(at * size)));
}

interface Look {
  view: OrthoView;
  at: readonly [number, number];
  size: readonly [number, number];
}

function rasterOf(asset: Asset, worn: Worn, view: OrthoView, [wide, high]: readonly [number, number]) {
  return orthoRaster(asset.lods[0], view, [wide * FINER, high * FINER], (m, t, second, third) => worn(m, t, second, third)[3] >= 0.5);
}

/** Pixels that a mesh covers from a side. */
function coveredFrom(asset: Asset, worn: Worn, view: OrthoView, size: readonly [number, number]): number {
  return rasterOf(asset, worn, view, size).triangle.reduce((n, t) => n + (t >= 0 ? 1 : 0), 0) / (FINER * FINER);
}

/** Draws one side into both pictures. @returns pixels that are covered */
function drawSide(asset: Asset, worn: Worn, { view, at, size }: Look, [colours, normals]: readonly [Pixels, Pixels]): number {
  const { triangle, depth, width } = rasterOf(asset, worn, view, size);
  const starts: number[] = [];
  asset.lods[0].reduce((n, p) => (starts.push(n), n + p.indices.length / 3), 0);
  let covered = 0;
  for (let y = 0; y < size[1]; y++)
    for (let x = 0; x < size[0]; x++) {
      const sum = [0, 0, 0];
      const n = [0, 0, 0];
      let [count, deep] = [0, 0];
      for (let sy = 0; sy < FINER; sy++)
        for (let sx = 0; sx < FINER; sx++) {
          const from = (y * FINER + sy) * width + x * FINER + sx;
          if (triangle[from] < 0) continue;
          let m = starts.length - 1;
          while (starts[m] > triangle[from]) m--;
          const share = shareAt(asset.lods[0][m], triangle[from] - starts[m], view, { x: x * FINER + sx, y: y * FINER + sy, size });
          const colour = worn(m, triangle[from] - starts[m], share[0], share[1]);
          const facing = normalAt(asset.lods[0][m], triangle[from] - starts[m], share, view);
          for (let k = 0; k < 3; k++) {
            sum[k] += colour[k];
            n[k] += facing[k];
          }
          deep += depth[from];
          count++;
        }
      if (count === 0) continue;
      covered += count / (FINER * FINER);
      const o = ((at[1] + y) * colours.width + at[0] + x) * 4;
      for (let k = 0; k < 3; k++) colours.data[o + k] = srgbByte(sum[k] / count);
      colours.data[o + 3] = Math.round((count / (FINER * FINER)) * 255);
      const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
      for (let k = 0; k < 3; k++) normals.data[o + k] = Math.round((n[k] / l) * 127.5 + 127.5);
      normals.data[o + 3] = Math.round(Math.min(1, Math.max(0, deep / count / (2 * view.half) + 0.5)) * 254) + 1;
    }
  return covered;
}

/** Shares of the second and third corner at a pixel's middle. */
function shareAt(p: Primitive, t: number, view: OrthoView, { x, y, size }: { x: number; y: number; size: readonly [number, number] }): [number, number] {
  const flat = [0, 1, 2].map((c): [number, number] => {
    const i = p.indices[t * 3 + c] * 3;
    const d = [0, 1, 2].map((k) => p.positions[i + k] - view.middle[k]);
    const [u, v] = [view.right, view.up].map((axis) => d[0] * axis[0] + d[1] * axis[1] + d[2] * axis[2]);
    return [((u + view.half) * size[0] * FINER) / (2 * view.half), ((view.halfUp! - v) * size[1] * FINER) / (2 * view.halfUp!)];
  });
  const [[ax, ay], [bx, by], [cx, cy]] = flat;
  const area = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
  const [px, py] = [x + 0.5 - ax, y + 0.5 - ay];
  return [(px * (cy - ay) - (cx - ax) * py) / area, ((bx - ax) * py - px * (by - ay)) / area];
}

function normalAt(p: Primitive, t: number, [second, third]: readonly [number, number], view: OrthoView): number[] {
  const [a, b, c] = [p.indices[t * 3] * 3, p.indices[t * 3 + 1] * 3, p.indices[t * 3 + 2] * 3];
  const n = [0, 1, 2].map((k) => p.normals[a + k] * (1 - second - third) + p.normals[b + k] * second + p.normals[c + k] * third);
  // The back of a leaf looks at who sees it.
  const s = n[0] * view.to[0] + n[1] * view.to[1] + n[2] * view.to[2] < 0 ? -1 : 1;
  return n.map((v) => v * s);
}

/** The share of a pixel from which on it is drawn, so that as many are drawn as are covered together. */
function cutoffOf({ data }: Pixels): number {
  const counts = new Uint32Array(256);
  let covered = 0;
  for (let i = 3; i < data.length; i += 4) {
    counts[data[i]]++;
    covered += data[i] / 255;
  }
  let [drawn, best, cutoff] = [0, Infinity, 0.5];
  for (let a = 255; a > 0; a--) {
    drawn += counts[a];
    if (counts[a] > 0 && Math.abs(drawn - covered) < best) {
      best = Math.abs(drawn - covered);
      cutoff = (a - 0.5) / 255;
    }
  }
  return cutoff;
}

/** Gives clear pixels the colour of covered ones beside them, a few pixels far: where pictures are blended no edge darkens. */
function bleed(p: Pixels): void {
  const { width, height, data } = p;
  let front = new Uint8Array(width * height);
  for (let i = 0; i < front.length; i++) front[i] = data[i * 4 + 3] > 0 ? 1 : 0;
  for (let round = 0; round < 6; round++) {
    const next = front.slice();
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const i = y * width + x;
        if (front[i]) continue;
        for (const j of [i - 1, i + 1, i - width, i + width]) {
          if (j < 0 || j >= front.length || !front[j]) continue;
          for (let k = 0; k < 3; k++) data[i * 4 + k] = data[j * 4 + k];
          next[i] = 1;
          break;
        }
      }
    front = next;
  }
}

/** What a distant picture covers from a direction, m2: by the rule the view draws it by. @param colours its first picture, unpacked */
export function distantCoverage(asset: Asset, colours: Pixels, deg: number): number {
  const { half, low, high, columns, rows, between } = asset.distant!;
  const cutoff = asset.materials![asset.lods.at(-1)![0].look!].cutoff * 255;
  const [wide, tall] = [colours.width / columns, colours.height / rows];
  const at = ((((deg % 360) + 360) % 360) / 360) * SIDES;
  const [k, t] = [Math.floor(at) % SIDES, at - Math.floor(at)];
  const share = (n: number): number => {
    let covered = 0;
    for (let y = 0; y < tall; y++)
      for (let x = 0; x < wide; x++)
        if (colours.data[((Math.floor(n / columns) * tall + y) * colours.width + (n % columns) * wide + x) * 4 + 3] >= cutoff) covered++;
    return covered / (wide * tall);
  };
  return (share(k) * (1 - t) + share((k + 1) % SIDES) * t) * 2 * half * (high - low) * (1 + between[k] * 4 * t * (1 - t));
}
