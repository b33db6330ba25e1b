import type { Asset } from '@rammer/core/kit/asset';
import { hashUnit } from '@rammer/core/num/hash';
import { sinCosDeg } from '@rammer/core/num/trig';
import { add, cross, normalize, scale, type Vec3 } from '@rammer/core/num/vec';
import { mix, shade, type Rgb } from '../paint/sheet';
import { plantAsset } from './asset';
import { Atlas, CARD, LEAF, MORE } from './atlas';
import { Leafy, varied, type Cell, type Tint } from './leafy';

const at = (line: readonly Vec3[], t: number): Vec3 => {
  const k = Math.min(line.length - 1.0001, Math.max(0, t * (line.length - 1)));
  const i = Math.floor(k);
  return add(scale(line[i], 1 - (k - i)), scale(line[i + 1], k - i));
};
const wayAt = (line: readonly Vec3[], t: number): Vec3 => {
  const [a, b] = [at(line, Math.max(0, t - 0.05)), at(line, Math.min(1, t + 0.05))];
  return normalize([b[0] - a[0], b[1] - a[1], b[2] - a[2]]);
};
/** Random about zero, up to a half either way. */
const about = (seed: number, ...k: number[]) => hashUnit(seed, k[0] ?? 0, k[1] ?? 0, k[2] ?? 0) - 0.5;

/** A branch: from the trunk outwards, up at first, its end hanging by its own weight. */
function bough(seed: number, from: Vec3, { turn, long, rise, hang }: { turn: number; long: number; rise: number; hang: number }): Vec3[] {
  const points = 6;
  const [s, c] = sinCosDeg(turn);
  const line: Vec3[] = [];
  for (let i = 0; i < points; i++) {
    const t = i / (points - 1);
    const out = long * t * (1 - 0.12 * t);
    const up = long * (rise * t - hang * t * t);
    line.push([from[0] + c * out + about(seed, i, 1) * 0.12 * t * long * 0.4, from[1] + up, from[2] + s * out + about(seed, i, 2) * 0.12 * t * long * 0.4]);
  }
  return line;
}

interface Twig {
  at: Vec3;
  way: Vec3;
  long: number;
  deep: number;
  seed: number;
}

/** Leaves along a twig, to both sides in turn. */
function leavesOn(leafy: Leafy, { at: from, way, long, deep, seed }: Twig, count: number, size: readonly [number, number], cell: Cell): void {
  const flat = normalize(cross(way, [0.13, 1, 0.07]));
  for (let i = 0; i < count; i++) {
    const t = (i + 0.6) / count;
    const p = add(from, add(scale(way, long * t), [0, -0.12 * long * t * t, 0]));
    const side = i % 2 === 0 ? 1 : -1;
    const droop = -0.35 - 0.5 * hashUnit(seed, i, 3);
    const dir = normalize(add(add(scale(way, 0.55 + 0.4 * about(seed, i, 4)), scale(flat, side * (0.8 + 0.5 * about(seed, i, 5)))), [0, droop, 0]));
    const up = normalize([about(seed, i, 6) * 0.9, 1, about(seed, i, 7) * 0.9]);
    const k = 0.75 + 0.5 * hashUnit(seed, i, 8);
    leafy.leaf(p, dir, up, [size[0] * k, size[1] * k], { cell, tint: varied(seed + 3, i, 0.42, deep) });
  }
}

const BIRCH_LEAF: readonly [Rgb, Rgb] = [
  [0.31, 0.36, 0.145],
  [0.45, 0.485, 0.215],
];

/** A birch leaf: broad below its middle, drawn to a point, its edge saw-toothed, its veins paler. */
const birchLeaf =
  (yellow: number) =>
  (s: number, t: number): Rgb | undefined => {
    const k = 1 - t;
    // Within the kite that a leaf is cut from, see `Leafy.leaf`.
    const kite = k < 0.48 ? k / 0.48 : (1 - k) / 0.52;
    const half = k < 0.06 ? 0 : 0.47 * kite ** (k < 0.48 ? 0.98 : 1.12);
    const tooth = 0.03 * Math.abs(((k * 15) % 1) - 0.5);
    const x = Math.abs(s - 0.5);
    if (k < 0.08 && x < 0.014) return [0.4, 0.42, 0.2];
    if (x > half - tooth) return undefined;
    const vein = Math.abs(((k + x * 0.9) * 7.5) % 1) < 0.09 || x < 0.012 ? 1 : 0;
    const c = mix(BIRCH_LEAF[0], BIRCH_LEAF[1], 0.35 + 0.4 * k + 0.25 * (x / Math.max(0.01, half)));
    return mix(mix(c, [0.62, 0.56, 0.2], yellow), [0.56, 0.6, 0.3], vein * 0.35);
  };

interface Shape {
  seed: number;
  height: number;
  trunk: number;
  lean: [number, number];
  boughs: number;
  /** shares of the height where boughs begin and end */
  from: number;
  reach: number;
  hang: number;
}

/** Trunk and boughs of a birch: the same at every LOD. */
function birchBones({ seed, height, lean, boughs, from, reach, hang }: Shape): { trunk: Vec3[]; boughs: { line: Vec3[]; t: number; deep: number }[] } {
  const trunk: Vec3[] = Array.from({ length: 10 }, (_, i) => {
    const t = i / 9;
    return [lean[0] * t * t * height + about(seed, i, 1) * 0.1 * t, -0.35 + (height + 0.35) * t, lean[1] * t * t * height + about(seed, i, 2) * 0.1 * t];
  });
  return {
    trunk,
    boughs: Array.from({ length: boughs }, (_, i) => {
      const t = from + (0.97 - from) * ((i + 0.5 * hashUnit(seed, i, 3)) / boughs) ** 0.9;
      // An oval crown, widest below its middle.
      const k = (t - from) / (1 - from);
      const long = reach * Math.max(0.2, Math.sin(Math.min(1, 0.26 + k * 0.86) * Math.PI) ** 0.75) * (0.75 + 0.45 * hashUnit(seed, i, 4)) + 0.12;
      const turn = i * 137.5 + 40 * about(seed, i, 5);
      return { line: bough(seed + i * 7, at(trunk, t), { turn, long, rise: 1.05 + 0.55 * k + 0.3 * hashUnit(seed, i, 6), hang }), t, deep: 1 };
    }),
  };
}

function twigsOf(shape: Shape): Twig[] {
  const { seed, height } = shape;
  const out: Twig[] = [];
  birchBones(shape).boughs.forEach(({ line }, b) => {
    const length = Math.hypot(line[5][0] - line[0][0], line[5][1] - line[0][1], line[5][2] - line[0][2]);
    const count = Math.max(4, Math.round(length * 6.4));
    for (let i = 0; i < count; i++) {
      const t = 0.16 + (0.84 * (i + 0.5)) / count;
      const p = at(line, t);
      const along = wayAt(line, t);
      const side = normalize(cross(along, [0, 1, 0]));
      const s = i % 2 === 0 ? 1 : -1;
      const way = normalize(add(add(scale(along, 0.7), scale(side, s * (0.75 + 0.5 * about(seed, b, i)))), [0, -0.55 + 0.6 * about(seed, b, i), 0]));
      // Deep in the crown less light comes in.
      out.push({
        at: p,
        way,
        long: 0.38 + 0.26 * hashUnit(seed, b, i),
        deep: 0.6 + 0.4 * Math.min(1, t * 0.75 + (p[1] / height) * 0.35),
        seed: seed * 31 + b * 40 + i,
      });
    }
  });
  return out;
}

const DARK: Tint = [0.34, 0.27, 0.24];

function birchLod(shape: Shape, lod: number, cells: { leaf: readonly Cell[]; twig: readonly Cell[]; bough: readonly Cell[] }): Leafy {
  const { height, trunk: r } = shape;
  const bones = birchBones(shape);
  const leafy = new Leafy([shape.lean[0] * height * 0.35, height * 0.58, shape.lean[1] * height * 0.35]);
  const sides = [10, 6, 4][lod];
  const line = lod === 2 ? bones.trunk.filter((_, i) => i % 3 === 0) : bones.trunk;
  leafy.stem(line, (t) => r * (1 - t) ** 0.85 * (1 + 0.5 * Math.max(0, 0.08 - t) * 8) + 0.006, sides);
  for (const [i, b] of bones.boughs.entries()) {
    const thick = r * 0.34 * (1 - b.t) + 0.012;
    if (lod === 0) leafy.stem(b.line, (t) => thick * (1 - t) + 0.003, 5, b.t > 0.55 ? DARK : [0.7, 0.66, 0.62]);
    else if (lod === 1)
      leafy.stem(
        b.line.filter((_, k) => k % 2 === 1 || k === 0),
        (t) => thick * (1 - t),
        3,
        DARK,
      );
    else {
      // Two cards a bough, across each other, as wide as its twigs reach.
      const tip = b.line[b.line.length - 1];
      const from = at(b.line, 0.08);
      const way = normalize([tip[0] - from[0], tip[1] - from[1], tip[2] - from[2]]);
      const long = Math.hypot(tip[0] - from[0], tip[1] - from[1], tip[2] - from[2]) + 0.34;
      const side = normalize(cross(way, [0, 1, 0]));
      const deep = 0.75 + 0.25 * b.t;
      for (const k of [0, 1]) {
        const across = normalize(k === 0 ? add(side, [0, 0.25, 0]) : add(cross(side, way), scale(side, 0.3)));
        leafy.strip(
          [from, add(from, scale(way, long))],
          () => Math.max(0.3, long * 0.34),
          across,
          cells.bough[(i + k) % cells.bough.length],
          () => varied(shape.seed, i, 0.25, deep * 0.88),
        );
      }
    }
  }
  for (const [i, t] of lod < 2 ? twigsOf(shape).entries() : []) {
    if (lod === 0) {
      leafy.stem([t.at, add(t.at, add(scale(t.way, t.long), [0, -0.12 * t.long, 0]))], (k) => 0.005 * (1 - k) + 0.0012, 3, DARK);
      leavesOn(leafy, t, 12, [0.108, 0.05], cells.leaf[i % cells.leaf.length]);
    } else if (i % 4 !== 3) {
      const flat = normalize(cross(t.way, [0.13, 1, 0.07]));
      const end = add(t.at, add(scale(t.way, t.long * 1.5), [0, -0.25 * t.long, 0]));
      leafy.strip(
        [t.at, end],
        () => 0.3,
        normalize(add(flat, [0, 0.5 * about(t.seed, 1), 0])),
        cells.twig[i % cells.twig.length],
        () => varied(t.seed, 9, 0.3, t.deep),
      );
    }
  }
  return leafy;
}

/** The cells of a tree's picture: leaves, a twig of them, a bough of twigs. */
function treeAtlas(
  leaves: readonly ((s: number, t: number) => Rgb | undefined)[],
  twig: (leaf: readonly Cell[]) => Leafy,
  bough: (leaf: readonly Cell[]) => Leafy,
) {
  const atlas = new Atlas();
  const leaf = leaves.map((l, i) => atlas.draw(LEAF[i], (c) => c.fill([0, 0, 1, 1], l)));
  const look = { right: [1, 0, 0] as Vec3, up: [0, 1, 0] as Vec3 };
  const a = atlas.card(CARD[0], twig(leaf), { ...look, low: [-0.3, 0], high: [0.3, 0.6] });
  const b = atlas.card(CARD[1], bough(leaf), { ...look, low: [-0.66, -0.02], high: [0.66, 1.3] });
  return { atlas, cells: { leaf, twig: [a], bough: [b] } };
}

/** A twig upright before the eye. */
const flatTwig = (count: number, size: readonly [number, number], seed: number) => (leaf: readonly Cell[]) => {
  const leafy = new Leafy([0, 0.25, -3], 0);
  leafy.strip(
    [
      [0, 0, -0.01],
      [0, 0.46, -0.01],
    ],
    (t) => 0.004 * (1 - t) + 0.001,
    [1, 0, 0],
    [0.02, 0.77, 0.2, 0.98],
    () => [0.3, 0.25, 0.2],
  );
  for (let i = 0; i < count; i++) {
    const t = (i + 0.5) / count;
    const s = i % 2 === 0 ? 1 : -1;
    leafy.leaf(
      [0, 0.46 * t, 0.002 * i],
      normalize([s * (0.9 + 0.5 * about(seed, i)), 0.5 + about(seed, i, 1), 0.15]),
      [0, 0, 1],
      [size[0] * (0.8 + 0.4 * hashUnit(seed, i, 2)), size[1] * (0.8 + 0.4 * hashUnit(seed, i, 3))],
      { cell: leaf[i % leaf.length], tint: varied(seed, i, 0.4) },
    );
  }
  return leafy;
};

/** A bough before the eye: many twigs' leaves, thinner to its edge. */
const flatBough = (count: number, size: readonly [number, number], seed: number) => (leaf: readonly Cell[]) => {
  const leafy = new Leafy([0, 0.5, -3], 0);
  for (let i = 0; i < count; i++) {
    const t = hashUnit(seed, i, 1) ** 0.8;
    const half = 0.46 * Math.sin(Math.min(1, t * 1.25 + 0.12) * Math.PI * 0.93) ** 0.7;
    const x = (hashUnit(seed, i, 2) * 2 - 1) * half;
    const a = hashUnit(seed, i, 3) * 360;
    const [s, c] = sinCosDeg(a);
    const k = 0.8 + 0.6 * hashUnit(seed, i, 4);
    leafy.leaf([x, 0.04 + t * 1.1, 0.3 * hashUnit(seed, i, 5)], normalize([c, s * 0.8, 0.2]), [0, 0, 1], [size[0] * k, size[1] * k], {
      cell: leaf[i % leaf.length],
      tint: varied(seed, i, 0.5, 0.62 + 0.45 * hashUnit(seed, i, 5)),
    });
  }
  return leafy;
};

const birch = (name: string, shape: Shape): Promise<Asset> => {
  const { atlas, cells } = treeAtlas(
    [birchLeaf(0), birchLeaf(0.12), birchLeaf(0.38)],
    flatTwig(18, [0.11, 0.05], shape.seed),
    flatBough(240, [0.16, 0.075], shape.seed),
  );
  atlas.solid(MORE[0], () => [0.24, 0.2, 0.17]);
  return plantAsset({
    name,
    tags: ['tree', 'birch'],
    real: [4, 14],
    trunk: Math.round(shape.trunk * 120) / 100,
    grounds: ['turf', 'moss'],
    atlas,
    bark: 'birch bark',
    distant: 160,
    lods: [0, 1, 2].map((lod) => birchLod(shape, lod, cells)),
  });
};

/** A rowan's leaf: eleven leaflets in pairs and one at the end. */
const rowanLeaf =
  (red: number) =>
  (s: number, t: number): Rgb | undefined => {
    const k = 1 - t;
    const x = s - 0.5;
    if (Math.abs(x) < 0.008 && k < 0.86) return [0.45, 0.42, 0.22];
    const leaflet = (px: number, py: number, turn: number, long: number): Rgb | undefined => {
      const [sn, cs] = sinCosDeg(turn);
      const [dx, dy] = [x - px, k - py];
      const l = (dx * cs + dy * sn) / long;
      const w = Math.abs(-dx * sn + dy * cs) / long;
      if (l < 0 || l > 1) return undefined;
      const half = 0.17 * Math.sin(Math.PI * l) ** 0.7 - 0.012 * Math.abs(((l * 14) % 1) - 0.5);
      if (w > half) return undefined;
      const c = mix([0.25, 0.34, 0.13], [0.38, 0.46, 0.19], 0.4 * l + 0.6 * (w / Math.max(half, 0.001)));
      return mix(mix(c, [0.6, 0.3, 0.14], red), [0.5, 0.55, 0.3], w < 0.012 ? 0.5 : 0);
    };
    const end = leaflet(0, 0.78, 90, 0.22);
    if (end) return end;
    for (let i = 4; i >= 0; i--) {
      const y = 0.2 + i * 0.145;
      const long = 0.42 - 0.04 * Math.abs(i - 1.5);
      const got = leaflet(0, y, 28, long) ?? leaflet(0, y, 152, long);
      if (got) return got;
    }
    return undefined;
  };

const berries = (s: number, t: number): Rgb | undefined => {
  let best: Rgb | undefined;
  for (let i = 0; i < 26; i++) {
    const a = i * 2.4;
    const r = 0.4 * Math.sqrt((i + 0.5) / 26);
    const [dx, dy] = [s - 0.5 - Math.cos(a) * r, t - 0.5 - Math.sin(a) * r * 0.8];
    const d = Math.hypot(dx, dy) / 0.058;
    if (d < 1) best = shade([0.72, 0.17, 0.07], 0.75 + 0.5 * Math.max(0, -dx * 6 - dy * 6) * (1 - d * 0.4));
  }
  return best;
};

const ROWAN: Shape = { seed: 811, height: 4.6, trunk: 0.075, lean: [0.05, 0.02], boughs: 20, from: 0.16, reach: 1.35, hang: 0.6 };
const rowan = (): Promise<Asset> => {
  const { atlas, cells } = treeAtlas([rowanLeaf(0), rowanLeaf(0.1), rowanLeaf(0.3)], flatTwig(9, [0.2, 0.09], 812), flatBough(110, [0.3, 0.14], 813));
  const red = atlas.draw(LEAF[3], (c) => c.fill([0, 0, 1, 1], berries));
  atlas.solid(MORE[0], () => [0.24, 0.2, 0.17]);
  const lods = [0, 1, 2].map((lod) => {
    const leafy = new Leafy([0.1, 2.9, 0]);
    // Three stems from one foot.
    [0, 1, 2].forEach((k) => {
      const [s, c] = sinCosDeg(k * 125 + 20);
      const shape: Shape = {
        ...ROWAN,
        seed: ROWAN.seed + k * 9,
        height: ROWAN.height * (1 - 0.13 * k),
        lean: [c * 0.05 + 0.02, s * 0.05],
        boughs: ROWAN.boughs - k * 3,
        trunk: ROWAN.trunk * (1 - 0.15 * k),
      };
      const bones = birchBones(shape);
      leafy.stem(lod === 2 ? bones.trunk.filter((_, i) => i % 3 === 0) : bones.trunk, (t) => shape.trunk * (1 - t) ** 0.8 + 0.006, [8, 5, 3][lod]);
      bones.boughs.forEach((b, i) => {
        const thick = shape.trunk * 0.4 * (1 - b.t) + 0.01;
        if (lod < 2) leafy.stem(lod === 0 ? b.line : b.line.filter((_, n) => n % 2 === 1 || n === 0), (t) => thick * (1 - t) + 0.002, lod === 0 ? 5 : 3);
        const tip = b.line[5];
        if (lod === 2) {
          const way = normalize([tip[0] - b.line[0][0], tip[1] - b.line[0][1], tip[2] - b.line[0][2]]);
          const long = Math.hypot(tip[0] - b.line[0][0], tip[1] - b.line[0][1], tip[2] - b.line[0][2]) + 0.4;
          const side = normalize(cross(way, [0, 1, 0]));
          leafy.strip(
            [at(b.line, 0.1), add(b.line[0], scale(way, long))],
            () => Math.max(0.36, long * 0.42),
            i % 2 ? normalize(add(side, [0, 0.3, 0])) : normalize(add(cross(side, way), scale(side, 0.4))),
            cells.bough[0],
            () => varied(shape.seed, i, 0.25, 0.95),
          );
          return;
        }
        const twigs = Math.max(3, Math.round(Math.hypot(tip[0] - b.line[0][0], tip[2] - b.line[0][2]) * 4.4));
        for (let n = 0; n < twigs; n++) {
          const t = 0.2 + (0.8 * (n + 0.5)) / twigs;
          const p = at(b.line, t);
          const along = wayAt(b.line, t);
          const side = normalize(cross(along, [0, 1, 0]));
          const deep = 0.65 + 0.35 * t;
          const spread = n % 2 ? 1 : -1;
          if (lod === 0)
            // Leaves stand in a spiral at the twig's end, each bent under its own weight.
            for (let m = 0; m < 6; m++) {
              const [sn, cs] = sinCosDeg(m * 60 + n * 50);
              const way = normalize(add(add(scale(along, 0.5), scale(side, spread * 0.5 + cs * 0.9)), [0, 0.15 + 0.5 * sn, 0]));
              const long = 0.2 * (0.8 + 0.5 * hashUnit(shape.seed, i, n, m));
              const mid = add(p, scale(way, long * 0.5));
              const end = add(add(p, scale(way, long)), [0, -0.07, 0]);
              leafy.strip(
                [p, mid, end],
                () => 0.075,
                normalize(cross(way, [0, 1, 0.01])),
                cells.leaf[(m + n) % 3],
                () => varied(shape.seed + i, n * 5 + m, 0.4, deep),
              );
            }
          else {
            const way = normalize(add(add(scale(along, 0.6), scale(side, spread * 0.7)), [0, -0.05, 0]));
            leafy.strip(
              [p, add(p, scale(way, 0.42))],
              () => 0.21,
              normalize(add(side, [0, 0.4 * about(i, n), 0])),
              cells.twig[0],
              () => varied(shape.seed + i, n, 0.3, deep),
            );
          }
        }
        if (lod < 2 && i % 2 === 0) {
          const p = add(at(b.line, 0.9), [0, 0.02, 0]);
          for (const k2 of lod === 0 ? [0, 1] : [0]) {
            const [sn, cs] = sinCosDeg(k2 * 90 + i * 30);
            leafy.strip([add(p, [0, -0.1, 0]), add(p, [0, 0.02, 0])], () => 0.06, [cs, 0, sn], red);
          }
        }
      });
    });
    return leafy;
  });
  return plantAsset({
    name: 'rowan',
    tags: ['tree', 'rowan'],
    real: [3, 9],
    trunk: 0.12,
    grounds: ['turf', 'heath', 'moss'],
    atlas,
    bark: 'bark',
    distant: 160,
    lods,
  });
};

export const trees = (): (() => Promise<Asset>)[] => [
  () => birch('birch', { seed: 801, height: 7.2, trunk: 0.13, lean: [0.02, 0.01], boughs: 34, from: 0.22, reach: 1.55, hang: 0.75 }),
  () => birch('birch 2', { seed: 802, height: 9.4, trunk: 0.16, lean: [-0.03, 0.02], boughs: 40, from: 0.28, reach: 1.75, hang: 0.85 }),
  () => birch('birch 3', { seed: 803, height: 4.6, trunk: 0.08, lean: [0.1, -0.05], boughs: 22, from: 0.18, reach: 1.05, hang: 0.6 }),
  rowan,
];
