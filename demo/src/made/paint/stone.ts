import { hashUnit } from '@rammer/core/num/hash';
import { cells, fractal, noise } from '@rammer/core/num/tiling';
import { clamp, smoothstep } from '@rammer/core/num/vec';
import { mix, paint, shade, type Rgb, type Sheet, type Texel } from './sheet';

/** Slate has one hue with many casts: blue, purple, green, and rust where iron weathered out. */
const BLUE: Rgb = [0.375, 0.388, 0.41];
const PURPLE: Rgb = [0.395, 0.38, 0.4];
const GREEN: Rgb = [0.38, 0.393, 0.378];
const PALE: Rgb = [0.475, 0.48, 0.485];
const RUST: Rgb = [0.445, 0.39, 0.335];
const LICHEN: Rgb = [0.58, 0.585, 0.54];
const MORTAR: Rgb = [0.42, 0.4, 0.365];

/** The cast of one stone of many. */
export function slateCast(seed: number, id: number): Rgb {
  const which = hashUnit(seed, id, 1);
  const base = which < 0.48 ? BLUE : which < 0.64 ? PURPLE : which < 0.8 ? GREEN : which < 0.955 ? PALE : RUST;
  return shade(base, 0.82 + 0.36 * hashUnit(seed, id, 2));
}

/** Lichen grows in round patches of a few centimetres, some years thick in one place and none in the next. */
function spots(seed: number, period: number, u: number, v: number): number {
  const [near, , id] = cells(seed, period, u + 0.12 * (noise(seed + 1, period * 3, u, v) / period), v);
  const there = smoothstep(0.5, 0.8, fractal({ seed: seed + 2, period: 5, octaves: 3 }, u, v));
  const size = 0.1 + 0.32 * hashUnit(seed + 3, id);
  return hashUnit(seed + 4, id) < 0.15 + 0.5 * there ? smoothstep(size, size * 0.6, near) * (0.55 + 0.45 * noise(seed + 5, period * 6, u, v)) : 0;
}

/** Where each of a row's parts begins, shares of the whole: lengths vary by `vary` about their mean. */
function parts(seed: number, row: number, count: number, vary: number): number[] {
  const lengths = Array.from({ length: count }, (_, i) => 1 + (hashUnit(seed, row, i) - 0.5) * 2 * vary);
  const all = lengths.reduce((a, b) => a + b, 0);
  let at = 0;
  return lengths.map((l) => {
    const from = at;
    at += l / all;
    return from;
  });
}

/** Which part a place lies in, and how far it is from either end, in shares of the whole. */
function within(starts: readonly number[], at: number): [part: number, before: number, after: number] {
  let i = starts.length - 1;
  while (i > 0 && starts[i] > at) i--;
  return [i, at - starts[i], (starts[i + 1] ?? 1) - at];
}

/** Walls of split slate brought to courses, with mortar set back between them: 2 m a side. */
export const masonry = (): Promise<Sheet> => {
  const rows = parts(301, 0, 15, 0.45);
  const stones = rows.map((_, r) => parts(302, r, 5 + Math.floor(hashUnit(303, r) * 3), 0.5));
  return paint({ name: 'masonry', side: 1024, metres: 2, hollows: 0.75 }, (u, v): Texel => {
    // Joints wander by a few millimetres, and beds are never quite level.
    const wu = u + 0.004 * (noise(304, 28, u, v) - 0.5) + 0.003 * (noise(305, 60, u, v) - 0.5);
    const wv = v + 0.006 * (noise(306, 6, u, v) - 0.5) + 0.003 * (noise(307, 50, u, v) - 0.5);
    const [row, above, below] = within(rows, clamp(((wv % 1) + 1) % 1, 0, 0.99999));
    const shift = hashUnit(308, row);
    const along = (((wu + shift) % 1) + 1) % 1;
    const [stone, left, right] = within(stones[row], along);
    const id = row * 16 + stone;
    const edge = Math.min(above, below, left, right) * 2;
    const chipped = 0.007 + 0.006 * noise(309, 90, u, v);
    const body = smoothstep(chipped * 0.6, chipped * 2.1, edge);
    // Split faces: thin leaves lying along the bed, each a little further back than the next.
    const leaf = noise(310, 5, u, v, 110) * 0.6 + noise(311, 9, u, v, 240) * 0.4;
    const step = Math.floor((noise(312, 4, u + 0.1 * hashUnit(313, id), v, 26) + leaf * 0.15) * 5) / 5;
    const lean = (hashUnit(314, id) - 0.5) * (left - right) * 0.09 + (hashUnit(315, id) - 0.5) * (above - below) * 0.2;
    const out = 0.004 + 0.014 * hashUnit(316, id) + lean + step * 0.006 + leaf * 0.0016;
    const grit = noise(317, 200, u, v);
    let c = shade(slateCast(318, id), 0.86 + 0.28 * leaf + 0.08 * (grit - 0.5));
    c = mix(c, RUST, smoothstep(0.66, 0.9, fractal({ seed: 319, period: 7, octaves: 3 }, u, v)) * 0.4);
    c = mix(c, LICHEN, spots(320, 46, u, v) * 0.55);
    const sand = mix(shade(MORTAR, 0.8 + 0.3 * grit), shade(MORTAR, 0.6), smoothstep(0.4, 0.7, fractal({ seed: 321, period: 9, octaves: 2 }, u, v)));
    return { colour: mix(sand, c, body), height: body * out + grit * 0.001 * (1 - body), rough: 0.95 - 0.22 * body * (0.5 + 0.5 * leaf) };
  });
};

/** Slabs sawn and tooled: quoins, lintels, treads and copings; 1 m a side. */
export const sawn = (): Promise<Sheet> =>
  paint({ name: 'sawn slate', side: 512, metres: 1 }, (u, v): Texel => {
    const broad = fractal({ seed: 331, period: 3, octaves: 4 }, u, v);
    const bed = noise(332, 2, u, v, 40);
    const tool = Math.abs(Math.sin((u * 31 + v * 12 + 0.15 * noise(333, 12, u, v)) * Math.PI));
    const fine = noise(334, 180, u, v);
    let c = mix(shade(BLUE, 1.14), shade(PALE, 1.02), broad);
    c = mix(c, RUST, smoothstep(0.7, 0.95, fractal({ seed: 335, period: 4, octaves: 4 }, u, v)) * 0.3);
    c = mix(c, LICHEN, spots(336, 24, u, v) * 0.5);
    return { colour: shade(c, 0.84 + 0.16 * bed + 0.12 * fine), height: tool * 0.0012 + fine * 0.0006 + broad * 0.003, rough: 0.72 + 0.2 * broad };
  });

/** A roof of slates laid in courses of 0.2 m, each lapping the one below: 2 m a side, eaves downwards. */
export const slates = (): Promise<Sheet> => {
  const courses = 10;
  const laid = Array.from({ length: courses }, (_, r) => parts(341, r, 8, 0.16));
  return paint({ name: 'roof slates', side: 1024, metres: 2, hollows: 0.7 }, (u, v): Texel => {
    const ragged = 0.009 * (noise(342, 70, u, v) - 0.5) + 0.006 * (noise(343, 26, u, v) - 0.5);
    const down = (((v * courses + ragged * courses) % courses) + courses) % courses;
    const row = Math.min(courses - 1, Math.floor(down));
    const along = (((u + (row % 2) * 0.0625 + 0.012 * hashUnit(344, row)) % 1) + 1) % 1;
    const [slate, left, right] = within(laid[row], along);
    const id = row * 32 + slate;
    // Some hang a little lower than their neighbours, and one in thirty is gone: the one beneath is seen.
    const slip = hashUnit(345, id) < 0.12 ? 0.05 : 0;
    const k = down - row + slip * (hashUnit(346, id) - 0.2);
    const gone = hashUnit(347, id) < 0.03;
    const gap = smoothstep(0.0008, 0.0028, Math.min(left, right) * 2 - 0.001 * noise(348, 120, u, v));
    const edge = smoothstep(0.0, 0.03, k);
    const leaf = noise(349, 26, u, v, 9) * 0.5 + noise(350, 60, u, v, 22) * 0.5;
    const rise = 0.002 + 0.0085 * k + (hashUnit(351, id) - 0.5) * 0.003 + (hashUnit(352, id) - 0.5) * (left - right) * 0.05 + leaf * 0.0009;
    const grit = noise(353, 220, u, v);
    let c = shade(slateCast(354, id), (0.8 + 0.2 * leaf + 0.1 * (grit - 0.5)) * 0.92);
    c = mix(c, LICHEN, spots(355, 42, u, v) * 0.6);
    c = mix(c, [0.3, 0.33, 0.17], smoothstep(0.66, 0.95, fractal({ seed: 356, period: 6, octaves: 5 }, u, v) + 0.3 * (1 - edge)) * 0.6);
    const height = gone ? 0.002 : rise * gap * edge;
    return { colour: shade(c, (gone ? 0.55 : 1) * (0.5 + 0.5 * gap) * (0.45 + 0.55 * edge)), height, rough: 0.52 + 0.25 * leaf };
  });
};

/** Broken slate of the ground: plates of three sizes over dirt, each tipped its own way; 3 m a side. */
export const gravel = (): Promise<Sheet> =>
  paint({ name: 'gravel', side: 1024, metres: 3, hollows: 0.8, ground: true }, (u, v): Texel => {
    const wu = u + 0.006 * noise(361, 40, u, v);
    const wv = v + 0.006 * noise(362, 40, u, v);
    let height = 0.004 * fractal({ seed: 363, period: 5, octaves: 4 }, u, v);
    let colour: Rgb = mix([0.29, 0.275, 0.255], [0.4, 0.385, 0.36], fractal({ seed: 364, period: 11, octaves: 4 }, u, v));
    let rough = 0.95;
    for (const [seed, period, kept, tall] of [
      [371, 96, 0.75, 0.006],
      [372, 44, 0.5, 0.011],
      [373, 19, 0.24, 0.02],
    ] as const) {
      const [near, second, id] = cells(seed, period, wu * (1 + 0), wv);
      if (hashUnit(seed + 10, id) > kept) continue;
      const body = smoothstep(0.06, 0.2, second - near) * smoothstep(0.72, 0.5, near);
      const px = (wu * period) % 1;
      const py = (wv * period) % 1;
      const tilt = (hashUnit(seed + 20, id) - 0.5) * (px - 0.5) + (hashUnit(seed + 30, id) - 0.5) * (py - 0.5);
      const top = tall * (0.45 + 0.55 * hashUnit(seed + 40, id) + tilt * 1.1) * body;
      if (top <= height * 0.6 && body < 0.5) continue;
      const leaf = noise(seed + 50, period * 3, u, v, period * 7);
      if (body > 0.02) {
        height = Math.max(height, top + leaf * 0.0008);
        colour = mix(colour, shade(slateCast(seed + 60, id), 0.98 + 0.2 * leaf), smoothstep(0.1, 0.5, body));
        rough = 0.95 - 0.25 * body;
      }
    }
    return { colour: shade(colour, 0.93 + 0.14 * noise(374, 260, u, v)), height, rough };
  });

/** Quarried rock: beds split by joints into blocks that stand back from each other, leaves of stone within them, stains down them; 4 m a side. */
export const rock = (): Promise<Sheet> => {
  const beds = parts(381, 0, 9, 0.7);
  const blocks = beds.map((_, r) => parts(382, r, 3 + Math.floor(hashUnit(383, r) * 4), 0.75));
  const ledges = parts(384, 0, 26, 0.8);
  return paint({ name: 'slate rock', side: 1024, metres: 4, hollows: 0.9, ground: true }, (u, v): Texel => {
    // Beds dip and bend; joints cross them at a slant, each its own.
    const bend = 0.03 * (fractal({ seed: 385, period: 3, octaves: 2 }, u, v) - 0.5) + 0.006 * (noise(386, 30, u, v) - 0.5);
    const bv = (((v + bend + 0.008 * Math.sin(u * 2 * Math.PI)) % 1) + 1) % 1;
    const [bed, above, below] = within(beds, bv);
    const slant = (hashUnit(387, bed) - 0.5) * 0.5 * above + 0.008 * (noise(388, 24, u, v) - 0.5);
    const [block, left, right] = within(blocks[bed], (((u + hashUnit(389, bed) + slant) % 1) + 1) % 1);
    const id = bed * 16 + block;
    const [ledge, over, under] = within(ledges, (((v + bend * 1.1 + 0.03 * hashUnit(390, id)) % 1) + 1) % 1);
    const leaf = noise(391, 6, u, v + bend, 150) * 0.6 + noise(392, 13, u, v + bend, 330) * 0.4;
    const broken = noise(393, 11, u + 0.1 * hashUnit(394, id), v, 7);
    const bedEdge = smoothstep(0.001, 0.012 + 0.012 * broken, Math.min(above, below));
    const joint = smoothstep(0.0005, 0.006 + 0.01 * broken, Math.min(left, right));
    const step = smoothstep(0, 0.006, Math.min(over, under));
    const back = hashUnit(395, id) * 0.09 + hashUnit(396, ledge, id) * 0.035 + (hashUnit(397, id) - 0.5) * (left - right) * 0.35;
    const flake = Math.floor((broken + 0.2 * leaf) * 4) / 4;
    const height = back + flake * 0.022 + leaf * 0.01 + 0.045 * Math.min(bedEdge, joint) + 0.008 * step;
    let c = mix(slateCast(398, id), slateCast(399, ledge * 31 + id), 0.4);
    c = shade(c, 0.74 + 0.34 * leaf + 0.16 * (flake - 0.5) + 0.1 * (noise(400, 150, u, v) - 0.5));
    c = mix(c, RUST, smoothstep(0.62, 0.9, fractal({ seed: 325, period: 5, octaves: 4 }, u, v)) * 0.5);
    const stain = smoothstep(0.58, 0.82, noise(326, 26, u + 0.01 * broken, v, 3)) * 0.45;
    c = shade(c, (1 - stain * 0.45) * (0.72 + 0.28 * Math.min(bedEdge, joint)) * (0.9 + 0.1 * step));
    c = mix(c, LICHEN, spots(327, 60, u, v) * 0.5);
    return { colour: c, height, rough: 0.74 + 0.2 * leaf - 0.3 * stain };
  });
};
