import type { Asset } from '@rammer/core/kit/asset';
import { hashUnit } from '@rammer/core/num/hash';
import { sinCosDeg } from '@rammer/core/num/trig';
import { add, cross, normalize, scale, type Vec3 } from '@rammer/core/num/vec';
import { mix, shade, type Rgb } from '../paint/sheet';
import { plantAsset } from './asset';
import { Atlas, CARD, LEAF, MORE } from './atlas';
import type { Canvas } from './canvas';
import { Leafy, varied, type Cell, type Tint } from './leafy';

const about = (seed: number, ...k: number[]) => hashUnit(seed, k[0] ?? 0, k[1] ?? 0, k[2] ?? 0) - 0.5;
const UP: Vec3 = [0, 1, 0];
const look = { right: [1, 0, 0] as Vec3, up: UP };

/** A spray upright in its cell: a stem with needles to both sides, and what flowers towards its tip. */
function spray(
  c: Canvas,
  seed: number,
  { needles, long, green, flowers, flower, size }: { needles: number; long: number; green: [Rgb, Rgb]; flowers: number; flower: [Rgb, Rgb]; size: number },
): void {
  const bend = (t: number) => 0.5 + 0.07 * Math.sin(t * 3 + seed) * t;
  const line = Array.from({ length: 9 }, (_, i) => [bend(i / 8), 1 - i / 8.4] as [number, number]);
  c.stroke(
    line,
    (t) => 0.013 * (1 - t * 0.6),
    (t) => mix([0.25, 0.17, 0.12], green[0], t),
  );
  for (let i = 0; i < needles; i++) {
    const t = 0.08 + (0.9 * i) / needles;
    const side = i % 2 ? 1 : -1;
    const x = bend(t);
    const y = 1 - t * 0.95;
    const l = long * (1 - 0.45 * t) * (0.7 + 0.6 * hashUnit(seed, i, 1));
    const rise = 0.5 + 0.5 * hashUnit(seed, i, 2);
    const own = mix(green[0], green[1], hashUnit(seed, i, 3));
    c.stroke(
      [
        [x, y],
        [x + side * l, y - l * rise],
      ],
      (k) => 0.011 * (1 - k * 0.75),
      (k) => shade(own, 0.75 + 0.45 * k),
    );
  }
  for (let i = 0; i < flowers; i++) {
    const t = 0.34 + 0.62 * ((i + 0.5) / flowers);
    const side = i % 2 ? 1 : -1;
    const x = bend(t) + side * (0.03 + 0.09 * hashUnit(seed, i, 5)) * (1.2 - t);
    const y = 1 - t * 0.95 - 0.02 * hashUnit(seed, i, 6);
    const r = size * (0.75 + 0.5 * hashUnit(seed, i, 7)) * (1.15 - 0.5 * t);
    const own = mix(flower[0], flower[1], hashUnit(seed, i, 8));
    c.stroke(
      [
        [x, y],
        [x + side * r * 0.7, y + r * 0.9],
      ],
      (k) => r * (0.65 + 0.35 * Math.sin(k * 3)),
      (k, a) => shade(own, 0.72 + 0.3 * k - 0.2 * Math.abs(a)),
    );
  }
}

interface Bush {
  name: string;
  seed: number;
  tags: string[];
  real: [number, number];
  grounds: string[];
  /** half width and height, metres */
  half: number;
  high: number;
  /** sprays of the finest LOD, and how long they are */
  sprays: number;
  long: number;
  wide: number;
  cell: (c: Canvas, seed: number) => void;
  trunk?: number;
  stems?: number;
  distant: number;
}

/** A bush: sprays standing out of a cushion on all sides, each two cards across each other near by. */
async function bush({ name, seed, tags, real, grounds, half, high, sprays, long, wide, cell, trunk = 0, stems = 0, distant }: Bush): Promise<Asset> {
  const atlas = new Atlas();
  const cells = [0, 1, 2].map((i) => atlas.draw(LEAF[i], (c) => cell(c, seed + i * 17)));
  const flat = (count: number, w: number, h: number): Leafy => {
    const leafy = new Leafy([0, h * 0.3, -2], 0);
    for (let i = 0; i < count; i++) {
      const x = (hashUnit(seed, i, 11) - 0.5) * w;
      const y = hashUnit(seed, i, 12) ** 1.1 * h * 0.55;
      const lean = (x / w) * 1.1 + 0.25 * about(seed, i, 13);
      const way = normalize([lean, 1, 0]);
      const z = 0.001 * i - y * 0.5;
      leafy.strip(
        [[x, y, z], add([x, y, z], scale(way, h * 0.52))],
        () => h * 0.26,
        normalize(cross(way, [0, 0, 1])),
        cells[i % 3],
        () => varied(seed, i, 0.3, 0.62 + 0.5 * (y / h)),
      );
    }
    return leafy;
  };
  const a = atlas.card(CARD[0], flat(26, 0.62, 1), { ...look, low: [-0.5, -0.02], high: [0.5, 1.04] });
  const b = atlas.card(CARD[1], flat(60, 1.15, 0.8), { ...look, low: [-0.75, -0.02], high: [0.75, 0.98] });
  const standing = (count: number, lod: number): Leafy => {
    const leafy = new Leafy([0, high * 0.18, 0], 0.7);
    for (let i = 0; i < count; i++) {
      const k = (i + 0.5) / count;
      const [s, c] = sinCosDeg(i * 137.5 + 30 * about(seed, i, 21));
      const r = Math.sqrt(k);
      // Out of the cushion's middle to its rim: upright within, leaning outside.
      const p: Vec3 = [c * half * r * 0.62, lod === 0 ? high * 0.02 + high * 0.42 * (1 - r) * hashUnit(seed, i, 22) : 0, s * half * r * 0.62];
      const lean = 0.25 + 0.95 * r;
      const way = normalize([c * lean + 0.3 * about(seed, i, 23), 1, s * lean + 0.3 * about(seed, i, 24)]);
      const reach = long * (0.75 + 0.5 * hashUnit(seed, i, 25)) * (lod === 0 ? 1 : 1.15);
      const card = lod === 0 ? cells[i % 3] : a;
      const w = lod === 0 ? wide : reach * 0.48;
      const side = normalize(cross(way, [s, 0.2, -c]));
      const tint = (t: number): Tint => varied(seed, i, 0.34, 0.5 + 0.55 * t);
      for (const turn of lod === 0 || i % 2 === 0 ? [0, 1] : [0]) {
        const across = turn === 0 ? normalize(cross(way, side)) : side;
        const mid = add(p, scale(way, reach * 0.55));
        const tip = add(add(p, scale(way, reach)), [c * reach * 0.1, -reach * 0.05 * r, s * reach * 0.1]);
        leafy.strip(lod === 0 ? [p, mid, tip] : [p, tip], () => w, across, card, tint);
      }
    }
    for (let i = 0; i < (lod === 0 ? stems : 0); i++) {
      const [s, c] = sinCosDeg(i * 137.5);
      const r = half * (0.15 + 0.5 * hashUnit(seed, i, 31));
      leafy.stem(
        [
          [c * 0.06, -0.15, s * 0.06],
          [c * r * 0.5, high * 0.3, s * r * 0.5],
          [c * r, high * 0.62, s * r],
        ],
        (t) => 0.022 * (1 - 0.8 * t),
        4,
      );
    }
    return leafy;
  };
  const cards = new Leafy([0, high * 0.2, 0], 0.7);
  for (let i = 0; i < 4; i++) {
    const [s, c] = sinCosDeg(i * 45 + 10);
    cards.strip(
      [
        [s * half * 0.12 * (i % 2 ? 1 : -1), -0.02, -c * half * 0.12 * (i % 2 ? 1 : -1)],
        [0, high, 0],
      ],
      () => half * 1.12,
      [c, 0, s],
      b,
      (t) => [0.6 + 0.4 * t, 0.6 + 0.4 * t, 0.6 + 0.4 * t],
    );
  }
  return plantAsset({
    name,
    tags,
    real,
    trunk,
    grounds,
    atlas,
    ...(stems ? { bark: 'bark' as const } : {}),
    distant,
    lods: [standing(sprays, 0), standing(Math.round(sprays * 0.22), 1), cards],
  });
}

const heather = () =>
  bush({
    name: 'heather',
    seed: 821,
    tags: ['heather', 'low', 'moor'],
    real: [0.25, 0.7],
    grounds: ['turf', 'moss', 'heath'],
    half: 0.34,
    high: 0.42,
    sprays: 42,
    long: 0.3,
    wide: 0.085,
    distant: 64,
    cell: (c, seed) =>
      spray(c, seed, {
        needles: 54,
        long: 0.15,
        green: [
          [0.2, 0.22, 0.1],
          [0.36, 0.36, 0.19],
        ],
        flowers: 30,
        flower: [
          [0.5, 0.35, 0.45],
          [0.64, 0.5, 0.58],
        ],
        size: 0.034,
      }),
  });
const bellHeather = () =>
  bush({
    name: 'bell heather',
    seed: 823,
    tags: ['heather', 'low', 'moor'],
    real: [0.2, 0.5],
    grounds: ['turf', 'heath'],
    half: 0.28,
    high: 0.3,
    sprays: 32,
    long: 0.24,
    wide: 0.07,
    distant: 64,
    cell: (c, seed) =>
      spray(c, seed, {
        needles: 60,
        long: 0.12,
        green: [
          [0.17, 0.2, 0.09],
          [0.29, 0.31, 0.15],
        ],
        flowers: 16,
        flower: [
          [0.42, 0.2, 0.34],
          [0.56, 0.31, 0.46],
        ],
        size: 0.055,
      }),
  });
const gorse = () =>
  bush({
    name: 'gorse',
    seed: 825,
    tags: ['gorse', 'bush', 'moor'],
    real: [0.8, 2.2],
    grounds: ['turf', 'heath'],
    half: 0.85,
    high: 1.35,
    sprays: 130,
    long: 0.68,
    wide: 0.18,
    trunk: 0.3,
    stems: 12,
    distant: 112,
    cell: (c, seed) =>
      spray(c, seed, {
        needles: 90,
        long: 0.2,
        green: [
          [0.16, 0.21, 0.09],
          [0.31, 0.36, 0.16],
        ],
        flowers: seed % 2 ? 15 : 5,
        flower: [
          [0.8, 0.6, 0.12],
          [0.88, 0.72, 0.22],
        ],
        size: 0.045,
      }),
  });

/** Half a pinna as it hangs on a frond: lobes to both sides, shorter to its tip. */
const pinna = (s: number, t: number): Rgb | undefined => {
  const k = 1 - t;
  const x = Math.abs(s - 0.5);
  if (x < 0.012 && k < 0.97) return [0.42, 0.44, 0.2];
  const half = 0.47 * (1 - k) ** 0.75 * Math.min(1, k * 9 + 0.35);
  const lobe = ((k + x * 0.35) * 15) % 1;
  if (x > half * (0.42 + 0.58 * Math.sin(Math.PI * lobe) ** 0.5)) return undefined;
  return shade(mix([0.27, 0.34, 0.12], [0.44, 0.5, 0.2], 0.3 + 0.7 * k), 0.85 + 0.3 * Math.sin(Math.PI * lobe));
};

async function bracken(): Promise<Asset> {
  const seed = 831;
  const atlas = new Atlas();
  const leaf = atlas.draw(LEAF[0], (c) => c.fill([0, 0, 1, 1], pinna));
  const rust = atlas.draw(LEAF[1], (c) =>
    c.fill([0, 0, 1, 1], (s, t) => {
      const p = pinna(s, t);
      return p && mix(p, [0.5, 0.33, 0.14], 0.75);
    }),
  );
  const stem = atlas.solid(MORE[0], () => [0.36, 0.35, 0.17]);
  /** A frond: its stalk bare below, then pinnae in pairs, shorter and shorter. */
  const frond = (leafy: Leafy, line: readonly Vec3[], side: Vec3, { pairs, cell, n }: { pairs: number; cell: Cell; n: number }) => {
    const at = (t: number): Vec3 => {
      const k = Math.min(line.length - 1.0001, t * (line.length - 1));
      const i = Math.floor(k);
      return add(scale(line[i], 1 - (k - i)), scale(line[i + 1], k - i));
    };
    leafy.strip(line, (t) => 0.006 * (1 - 0.7 * t), side, stem);
    for (let i = 0; i < pairs; i++) {
      const t = 0.3 + (0.68 * (i + 0.3)) / pairs;
      const p = at(t);
      const q = at(Math.min(1, t + 0.04));
      const way = normalize([q[0] - p[0], q[1] - p[1], q[2] - p[2]]);
      const long = 0.3 * (1.04 - t) ** 0.8 * (0.85 + 0.3 * hashUnit(seed, n, i));
      for (const s of [-1, 1]) {
        const out = normalize(add(add(scale(side, s), scale(way, 0.35)), [0, -0.06, 0]));
        const mid = add(p, scale(out, long * 0.55));
        const tip = add(add(p, scale(out, long)), [0, -0.12 * long, 0]);
        leafy.strip(
          [p, mid, tip],
          () => 0.064 * (1.15 - t * 0.6),
          way,
          cell,
          () => varied(seed + n, i, 0.25, 0.75 + 0.3 * t),
        );
      }
    }
  };
  const flat = new Leafy([0, 0.5, -3], 0);
  frond(
    flat,
    [
      [0, 0, 0],
      [0, 0.5, 0],
      [0, 1, 0],
    ],
    [1, 0, 0],
    { pairs: 15, cell: leaf, n: 50 },
  );
  const card = atlas.card(CARD[0], flat, { ...look, low: [-0.33, 0], high: [0.33, 1.02] });
  const clump = new Leafy([0, 0.3, -3], 0);
  for (let i = 0; i < 6; i++) {
    const x = (i - 2.5) * 0.16;
    const way = normalize([x * 1.2, 1, 0]);
    clump.strip(
      [[x * 0.3, 0, 0.01 * i], add([x * 0.3, 0, 0.01 * i], scale(way, 0.95))],
      () => 0.3,
      normalize(cross(way, [0, 0, 1])),
      card,
      () => varied(seed, i, 0.3),
    );
  }
  const far = atlas.card(CARD[1], clump, { ...look, low: [-0.7, 0], high: [0.7, 1.1] });
  const lods = [0, 1, 2].map((lod) => {
    const leafy = new Leafy([0, 0.1, 0], 0.5);
    if (lod === 2) {
      for (const turn of [0, 60, 120]) {
        const [s, c] = sinCosDeg(turn);
        leafy.strip(
          [
            [0, -0.02, 0],
            [0, 0.86, 0],
          ],
          () => 0.62,
          [c, 0, s],
          far,
        );
      }
      return leafy;
    }
    const count = 7;
    for (let i = 0; i < count; i++) {
      const [s, c] = sinCosDeg(i * 137.5 + 40 * about(seed, i));
      const reach = 0.42 + 0.3 * hashUnit(seed, i, 2);
      const tall = 0.7 + 0.35 * hashUnit(seed, i, 3);
      const points = lod === 0 ? 6 : 4;
      const line = Array.from({ length: points }, (_, k): Vec3 => {
        const t = k / (points - 1);
        return [c * (0.05 + reach * t ** 1.5), -0.03 + tall * (1.25 * t - 0.42 * t * t * t), s * (0.05 + reach * t ** 1.5)];
      });
      const side: Vec3 = [-s, 0, c];
      const cell = i === 5 ? rust : leaf;
      if (lod === 0) frond(leafy, line, side, { pairs: 11, cell, n: i });
      else
        leafy.strip(
          line,
          () => 0.3,
          side,
          card,
          (t) => varied(seed, i, 0.3, 0.75 + 0.25 * t),
        );
    }
    return leafy;
  });
  return plantAsset({ name: 'bracken', tags: ['bracken', 'fern'], real: [0.5, 1.5], trunk: 0, grounds: ['turf', 'heath'], atlas, distant: 96, lods });
}

async function foxglove(): Promise<Asset> {
  const seed = 841;
  const atlas = new Atlas();
  const leaf = atlas.draw(LEAF[0], (c) =>
    c.fill([0, 0, 1, 1], (s, t) => {
      const k = 1 - t;
      const x = Math.abs(s - 0.5);
      const half = 0.46 * Math.sin(Math.min(1, k * 1.04 + 0.02) * Math.PI) ** 0.75;
      if (x > half - 0.01 * Math.abs(((k * 20) % 1) - 0.5)) return undefined;
      const vein = x < 0.02 || Math.abs(((k - x * 0.8 + 1) * 8) % 1) < 0.1;
      return mix(mix([0.26, 0.33, 0.16], [0.38, 0.44, 0.23], k), [0.52, 0.56, 0.36], vein ? 0.5 : 0);
    }),
  );
  const bell = atlas.solid(MORE[0], (s, t) => mix([0.5, 0.25, 0.4], [0.7, 0.5, 0.62], t * 0.8 + 0.1 * Math.sin(s * 12)));
  const stem = atlas.solid(MORE[1], () => [0.36, 0.42, 0.22]);
  const bud = atlas.solid(MORE[2], (_, t) => mix([0.42, 0.46, 0.24], [0.6, 0.42, 0.46], t));
  const high = 1.25;
  const bells = (leafy: Leafy, lod: number, side?: boolean) => {
    for (let i = 0; i < 26; i++) {
      const t = i / 26;
      const y = 0.52 + t * 0.7;
      // They hang to one side, the lowest open first.
      const turn = side ? (i % 2 ? -12 : 192) : 70 * about(seed, i) + (i % 3) * 26 - 26;
      const [s, c] = sinCosDeg(turn);
      const long = (t > 0.72 ? 0.026 : 0.07) * (1.1 - 0.45 * t);
      const p: Vec3 = [c * 0.012, y, s * 0.012];
      const way = normalize([c, t > 0.72 ? 0.2 : -0.75, s]);
      const a = normalize(cross(way, [s, 0, -c + 0.001]));
      const b = cross(way, a);
      const rim = lod === 0 ? 6 : 3;
      const ring = (r: number, along: number) =>
        Array.from({ length: rim + 1 }, (_, k): Vec3 => {
          const [sn, cs] = sinCosDeg((k * 360) / rim);
          return add(add(p, scale(way, along)), add(scale(a, cs * r), scale(b, sn * r)));
        });
      const [r0, r1, r2] = [ring(0.006, 0), ring(long * 0.3, long * 0.45), ring(long * 0.42, long)];
      for (let k = 0; k < rim; k++)
        for (const [lo, hi] of [
          [r0, r1],
          [r1, r2],
        ] as const) {
          const mid = (q: readonly Vec3[]) => scale(add(q[k], q[k + 1]), 0.5);
          const half = Math.hypot(...([0, 1, 2].map((m) => hi[k + 1][m] - hi[k][m]) as Vec3)) / 2;
          leafy.strip(
            [mid(lo), mid(hi)],
            (q) => half * (0.55 + 0.45 * q),
            normalize([hi[k + 1][0] - hi[k][0], hi[k + 1][1] - hi[k][1], hi[k + 1][2] - hi[k][2]]),
            t > 0.72 ? bud : bell,
            () => varied(seed, i, 0.2),
          );
        }
    }
  };
  const flat = new Leafy([0, 0.8, -3], 0);
  flat.strip(
    [
      [0, 0, -0.03],
      [0, high, -0.03],
    ],
    (t) => 0.012 * (1 - 0.6 * t),
    [1, 0, 0],
    stem,
  );
  bells(flat, 0, true);
  const card = atlas.card(CARD[0], flat, { ...look, low: [-0.2, 0.3], high: [0.2, 1.3] });
  const lods = [0, 1, 2].map((lod) => {
    const leafy = new Leafy([0, 0.2, 0], 0.4);
    const leaves = lod === 0 ? 11 : lod === 1 ? 8 : 5;
    for (let i = 0; i < leaves; i++) {
      const [s, c] = sinCosDeg(i * 137.5);
      const long = 0.3 - 0.012 * i;
      const points = lod === 0 ? 5 : 3;
      const y0 = i > 6 ? 0.1 + 0.06 * (i - 6) : 0;
      const line = Array.from({ length: points }, (_, k): Vec3 => {
        const t = k / (points - 1);
        return [c * (0.02 + long * t), y0 + 0.02 + 0.16 * t - 0.17 * t * t, s * (0.02 + long * t)];
      });
      leafy.strip(
        line,
        () => 0.075,
        [-s, 0, c],
        leaf,
        (t) => varied(seed, i, 0.25, 0.7 + 0.3 * t),
      );
    }
    if (lod < 2) {
      for (const k of [0, 1])
        leafy.strip(
          [
            [0, -0.02, 0],
            [0.01, 0.6, 0],
            [0.03, high, 0],
          ],
          (t) => 0.011 * (1 - 0.65 * t),
          k ? [0, 0, 1] : [1, 0, 0],
          stem,
        );
    }
    if (lod === 0) bells(leafy, 0);
    else
      for (const turn of [0, 90]) {
        const [s, c] = sinCosDeg(turn);
        leafy.strip(
          [
            [0, 0.3, 0],
            [0.02, 1.3, 0],
          ],
          () => 0.2,
          [c, 0, s],
          card,
        );
      }
    return leafy;
  });
  return plantAsset({ name: 'foxglove', tags: ['foxglove', 'flower'], real: [0.8, 1.6], trunk: 0, grounds: ['turf', 'scree'], atlas, distant: 96, lods });
}

async function tussock(): Promise<Asset> {
  const seed = 851;
  const atlas = new Atlas();
  const blade = atlas.solid(LEAF[0], (s, t) =>
    shade(mix([0.5, 0.46, 0.28], [0.3, 0.34, 0.15], Math.min(1, 1.25 * t)), 0.82 + 0.3 * Math.abs(s - 0.5) + 0.1 * t),
  );
  const straw = atlas.solid(LEAF[1], (s, t) => shade(mix([0.66, 0.58, 0.4], [0.45, 0.4, 0.24], t), 0.85 + 0.3 * Math.abs(s - 0.5)));
  const blades = (leafy: Leafy, count: number, points: number, flat = false) => {
    for (let i = 0; i < count; i++) {
      const k = (i + 0.5) / count;
      const [s, c] = flat ? [0.15 * (i % 5), i % 2 ? 1 : -1] : sinCosDeg(i * 137.5);
      const r = 0.1 * Math.sqrt(k);
      const tall = (0.34 + 0.26 * hashUnit(seed, i, 1)) * (1 - 0.25 * k);
      const out = (0.08 + 0.42 * k) * (0.6 + 0.8 * hashUnit(seed, i, 2));
      const line = Array.from({ length: points }, (_, n): Vec3 => {
        const t = n / (points - 1);
        return [c * (r + out * t * t), -0.02 + tall * (t * 1.35 - 0.5 * t ** 2.6 * (0.6 + out)), s * (r + out * t * t)];
      });
      leafy.strip(
        line,
        (t) => (points > 3 ? 0.0066 : 0.011) * (t < 0.5 ? 1 : 2 * (1 - t)),
        flat ? [1, 0, 0] : [-s, 0, c],
        i % 5 === 0 ? straw : blade,
        (t) => varied(seed, i, 0.3, 0.45 + 0.55 * t),
      );
    }
  };
  const flat = new Leafy([0, 0.2, -3], 0);
  blades(flat, 130, 6, true);
  const card = atlas.card(CARD[0], flat, { ...look, low: [-0.42, -0.02], high: [0.42, 0.6] });
  const lods = [0, 1, 2].map((lod) => {
    const leafy = new Leafy([0, -0.2, 0], 0.75);
    if (lod === 0) blades(leafy, 96, 4);
    if (lod === 1) blades(leafy, 36, 3);
    if (lod > 0)
      for (const turn of lod === 1 ? [20, 110] : [0, 60, 120]) {
        const [s, c] = sinCosDeg(turn);
        leafy.strip(
          [
            [0, -0.02, 0],
            [0, 0.52, 0],
          ],
          () => 0.36,
          [c, 0, s],
          card,
          (t) => [0.7 + 0.3 * t, 0.7 + 0.3 * t, 0.7 + 0.3 * t],
        );
      }
    return leafy;
  });
  return plantAsset({
    name: 'tussock grass',
    tags: ['grass', 'tussock'],
    real: [0.3, 0.8],
    trunk: 0,
    grounds: ['turf', 'moss', 'mud'],
    atlas,
    distant: 64,
    lods,
  });
}

/** A dome of moss with its tufts standing up, and a few stalks of its fruit. */
async function mossCushion(): Promise<Asset> {
  const seed = 861;
  const atlas = new Atlas();
  const tuft = (c: Canvas, s0: number) => {
    for (let i = 0; i < 40; i++) {
      const a = (hashUnit(s0, i) - 0.5) * 2.2;
      const l = 0.3 + 0.6 * hashUnit(s0, i, 1);
      const x = 0.5 + 0.5 * (hashUnit(s0, i, 2) - 0.5);
      c.stroke(
        [
          [x, 1],
          [x + Math.sin(a) * l * 0.4, 1 - l * 0.55],
          [x + Math.sin(a) * l * 0.6, 1 - l],
        ],
        (t) => 0.03 * (1 - t * 0.8),
        (t) => shade(mix([0.2, 0.23, 0.09], [0.42, 0.44, 0.17], hashUnit(s0, i, 3)), 0.6 + 0.6 * t),
      );
    }
  };
  const cells = [0, 1].map((i) => atlas.draw(LEAF[i], (c) => tuft(c, seed + i)));
  const dense = atlas.draw(CARD[0], (c) => {
    for (let i = 0; i < 2600; i++) {
      const [x, y] = [hashUnit(seed, i, 5), hashUnit(seed, i, 6)];
      const a = hashUnit(seed, i, 7) * 6.28;
      const own = mix([0.16, 0.19, 0.075], [0.4, 0.42, 0.16], (i / 2600) * (0.6 + 0.4 * hashUnit(seed, i, 8)));
      c.stroke(
        [
          [x, y],
          [x + Math.cos(a) * 0.022, y + Math.sin(a) * 0.022],
        ],
        (t) => 0.006 * (1 - 0.7 * t),
        (t) => shade(own, 0.8 + 0.3 * t),
      );
    }
    for (let i = 0; i < c.data.length; i += 4) if (c.data[i + 3] === 0) c.data.set([0.14, 0.16, 0.07, 1], i);
  });
  const dome = (leafy: Leafy, sides: number, rows: number) => {
    const at = (i: number, k: number): Vec3 => {
      const [s, c] = sinCosDeg((k * 360) / sides);
      const t = i / rows;
      const r = 0.24 * (1 - t * t) * (1 + 0.22 * about(seed, k % sides, 41));
      return [c * r, -0.03 + 0.15 * Math.sqrt(t) * (1 + 0.2 * about(seed, i, 42)), s * r];
    };
    for (let k = 0; k < sides; k++) {
      const line = Array.from({ length: rows + 1 }, (_, i) => scale(add(at(i, k), at(i, k + 1)), 0.5) as Vec3);
      const [s, c] = sinCosDeg(((k + 0.5) * 360) / sides);
      const wide = (t: number) => {
        const i = t * rows;
        const [p, q] = [at(i, k), at(i, k + 1)];
        return Math.hypot(p[0] - q[0], p[2] - q[2]) / 2 + 0.0005;
      };
      const u0 = dense[0] + ((dense[2] - dense[0]) * (k % 4)) / 4;
      leafy.strip(
        line,
        (t) => (t >= 1 ? 0 : wide(t)),
        [-s, 0, c],
        [u0, dense[1], u0 + (dense[2] - dense[0]) / 4, dense[3]],
        (t) => [0.55 + 0.45 * t, 0.55 + 0.45 * t, 0.55 + 0.45 * t],
      );
    }
  };
  const lods = [0, 1].map((lod) => {
    const leafy = new Leafy([0, -0.15, 0], 0.9);
    dome(leafy, lod === 0 ? 14 : 7, lod === 0 ? 5 : 2);
    for (let i = 0; i < (lod === 0 ? 70 : 0); i++) {
      const k = (i + 0.5) / 70;
      const [s, c] = sinCosDeg(i * 137.5);
      const r = 0.23 * Math.sqrt(k);
      const y = 0.12 * (1 - k) ** 0.6 - 0.005;
      const way = normalize([c * k * 0.9, 1, s * k * 0.9]);
      leafy.strip(
        [[c * r, y, s * r], add([c * r, y, s * r], scale(way, 0.035))],
        () => 0.022,
        [-s, 0, c],
        cells[i % 2],
        () => varied(seed, i, 0.3, 0.8),
      );
    }
    return leafy;
  });
  return plantAsset({ name: 'moss cushion', tags: ['moss'], real: [0.06, 0.25], trunk: 0, grounds: ['moss', 'slate', 'scree'], atlas, distant: 0, lods });
}

export const lowPlants = (): (() => Promise<Asset>)[] => [gorse, heather, bellHeather, bracken, foxglove, mossCushion, tussock];
