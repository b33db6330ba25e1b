import { hashUnit } from '../num/hash';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import type { Asset } from './asset';
import { Shape, type Colour } from './shape';

/** The three shipped plants, each with three LODs and a billboard; opaque, so that near ones stay cheap. */
export const shippedPlants = (): Asset[] => [heather(), gorse(), birch()];

const HEATHER: Colour = [0.56, 0.31, 0.45];
const HEATHER_LEAF: Colour = [0.3, 0.34, 0.19];
const GORSE: Colour = [0.29, 0.37, 0.16];
const GORSE_FLOWER: Colour = [0.86, 0.66, 0.16];
const BIRCH_LEAF: Colour = [0.45, 0.5, 0.2];
const BARK: Colour = [0.78, 0.76, 0.72];
const BARK_DARK: Colour = [0.3, 0.28, 0.26];

const ring = (n: number): Vec3[] =>
  Array.from({ length: n }, (_, i) => {
    const [s, c] = sinCosDeg((i * 360) / n);
    return [c, 0, s];
  });

/** Colour of a lump by its number, a little lighter or darker. */
const vary = (c: Colour, seed: number): Colour => {
  const k = 0.85 + hashUnit(seed, 3) * 0.3;
  return [c[0] * k, c[1] * k, c[2] * k];
};

const plant = (name: string, real: [number, number], tags: string[], trunk: number, lods: Shape[]): Asset => ({
  name,
  role: 'plant',
  collider: trunk > 0 ? 'mesh' : 'none',
  real,
  tags,
  trunk,
  lods: lods.map((s) => [s.done('leaf')]),
  textureBytes: 0,
});

/** A flat silhouette in the x-y plane, lighter at its crown: what a plant is from afar. */
function silhouette(outline: readonly [number, number][], low: Colour, high: Colour, top: number): Shape {
  return new Shape().fan(
    [0, top * 0.55, 0],
    outline.map(([x, y]): Vec3 => [x, y, 0]),
    ([, y]) => {
      const k = y / top;
      return [low[0] + (high[0] - low[0]) * k, low[1] + (high[1] - low[1]) * k, low[2] + (high[2] - low[2]) * k];
    },
    1,
  );
}

function heather(): Asset {
  const lods = [7, 3, 1].map((count, lod) => {
    const shape = new Shape();
    for (let i = 0; i < count; i++) {
      const [s, c] = sinCosDeg(i * 137.5 + 20);
      const r = count === 1 ? 0 : 0.06 + 0.22 * Math.sqrt((i + 0.4) / count);
      const size = count === 1 ? 0.36 : count === 3 ? 0.24 : 0.13 + hashUnit(11, i) * 0.07;
      const high = count === 1 ? 0.4 : 0.3 + hashUnit(12, i) * 0.14;
      shape.lump([c * r, high * 0.42, s * r], [size, high * 0.58, size], lod === 0 ? 1 : 0, {
        rough: 0.18,
        seed: 40 + i,
        colour: vary(i % 4 === 3 ? HEATHER_LEAF : HEATHER, 20 + i),
        tint: i % 4 === 3 ? 0 : 1,
        below: 0.5,
      });
    }
    return shape;
  });
  return plant('heather', [0.25, 0.7], ['low', 'moor'], 0, [
    ...lods,
    silhouette(
      [
        [-0.34, 0],
        [0.34, 0],
        [0.3, 0.26],
        [0.08, 0.42],
        [-0.2, 0.36],
      ],
      HEATHER_LEAF,
      HEATHER,
      0.42,
    ),
  ]);
}

function gorse(): Asset {
  const lods = [9, 4, 1].map((count, lod) => {
    const shape = new Shape();
    for (let i = 0; i < count; i++) {
      const [s, c] = sinCosDeg(i * 137.5);
      const r = count === 1 ? 0 : 0.62 * Math.sqrt((i + 0.3) / count);
      const y = count === 1 ? 0.6 : 0.42 + (1 - r) * 0.55 + (hashUnit(31, i) - 0.5) * 0.2;
      const size = count === 1 ? 0.8 : count === 4 ? 0.52 : 0.3 + hashUnit(32, i) * 0.14;
      shape.lump([c * r, y, s * r], [size, count === 1 ? 0.72 : size * 0.95, size], lod === 0 ? (i < 6 ? 1 : 0) : lod === 1 && i < 2 ? 1 : 0, {
        rough: 0.2,
        seed: 60 + i,
        colour: vary(GORSE, 50 + i),
        tint: 1,
        below: 0.45,
      });
    }
    // Flowers are at the tips, where they are seen.
    for (let i = 0; i < (lod === 0 ? 9 : lod === 1 ? 3 : 0); i++) {
      const [s, c] = sinCosDeg(i * 137.5 + 60);
      const r = 0.2 + 0.5 * hashUnit(33, i);
      shape.lump([c * r, 0.95 + (0.7 - r) * 0.6, s * r], [0.13, 0.1, 0.13], 0, { rough: 0.3, seed: 80 + i, colour: GORSE_FLOWER, tint: 0, below: 0.8 });
    }
    return shape;
  });
  return plant('gorse', [0.8, 2.2], ['bush', 'moor'], 0.3, [
    ...lods,
    silhouette(
      [
        [-0.6, 0],
        [0.6, 0],
        [0.85, 0.55],
        [0.55, 1.15],
        [0, 1.42],
        [-0.6, 1.1],
        [-0.85, 0.5],
      ],
      GORSE,
      [0.45, 0.46, 0.17],
      1.42,
    ),
  ]);
}

function birch(): Asset {
  const height = 7;
  const lods = [14, 6, 3].map((count, lod) => {
    const shape = new Shape();
    const sides = ring(lod === 0 ? 6 : lod === 1 ? 4 : 3);
    shape.stem([0, -0.15, 0], [0.1, 3.3, 0.04], [0.13, 0.09], sides, { colour: BARK, dark: BARK_DARK });
    if (lod < 2) shape.stem([0.1, 3.3, 0.04], [0.02, 5.9, -0.06], [0.09, 0.035], sides, { colour: BARK, dark: BARK_DARK });
    if (lod === 0) {
      for (let i = 0; i < 4; i++) {
        const [s, c] = sinCosDeg(i * 100 + 30);
        shape.stem([0.08, 2.6 + i * 0.6, 0.03], [c * 0.9, 3.3 + i * 0.65, s * 0.9], [0.045, 0.02], ring(3), { colour: BARK_DARK, dark: BARK_DARK });
      }
    }
    for (let i = 0; i < count; i++) {
      const k = (i + 0.5) / count;
      const [s, c] = sinCosDeg(i * 137.5);
      const y = 2.7 + k * 3.7;
      const r = (1.25 - k * 1.05) * (0.55 + 0.45 * hashUnit(71, i)) * (count === 3 ? 0.42 : 1);
      const size = (count === 14 ? 0.56 : count === 6 ? 0.86 : 1.12) * (1.15 - 0.55 * k) * (0.85 + hashUnit(72, i) * 0.3);
      shape.lump([c * r, y, s * r], [size, size * 0.9, size], lod === 0 || (lod === 1 && i < 4) || i === 0 ? 1 : 0, {
        rough: 0.2,
        seed: 90 + i,
        colour: vary(BIRCH_LEAF, 70 + i),
        tint: 1,
        below: 0.58,
      });
    }
    return shape;
  });
  const bill = silhouette(
    [
      [-0.1, 0],
      [0.1, 0],
      [0.12, 2.1],
      [0.85, 2.3],
      [1.3, 3.1],
      [1.2, 4.2],
      [0.95, 5.2],
      [0.55, 6.2],
      [0.05, 6.7],
      [-0.5, 6.1],
      [-0.9, 5.3],
      [-1.25, 4.1],
      [-1.2, 3],
      [-0.8, 2.3],
      [-0.12, 2.1],
    ],
    [0.3, 0.33, 0.15],
    BIRCH_LEAF,
    height,
  );
  return plant('birch', [4, 14], ['tree'], 0.16, [...lods, bill]);
}
