import type { LevelObject } from '@rammer/core/level/objects';
import { fractalNoise } from '@rammer/core/num/noise';
import { clamp, lerp, smoothstep } from '@rammer/core/num/vec';

/**
 * The ground plan of Harrow Ledge, 160 x 160 m: a slate quarry cut into a hillside that rises to the
 * north. From south to north: the pit, the lower yard, three terraces, the winding house's ledge.
 *
 * `target` is the worked height (held), `weight` how far it is worked (0 wild hillside), `rise` the
 * hillside under it (relative).
 */
export interface QuarryGround {
  target: number;
  weight: number;
  rise: number;
}

/** Lower yard, then the three terraces: height and the line (z) of the face below each. */
export const TERRACES = [
  { height: 0, face: 160 },
  { height: 4.4, face: 92 },
  { height: 8.9, face: 64 },
  { height: 13.2, face: 37 },
] as const;
export const INCLINE = { x: 122, width: 6.5, foot: 104, head: 27 } as const;
export const PIT = { x: 62, z: 130, radius: 25, floor: -6.5 } as const;

const ragged = fractalNoise(41, 4);
const stone = fractalNoise(97, 5);

export function quarryGround(x: number, z: number): QuarryGround {
  const wobble = ragged.at(x / 26, z / 60) * 5 + ragged.at(x / 6, z / 9) * 0.9;
  let target: number = TERRACES[0].height;
  for (const t of TERRACES.slice(1)) {
    const past = t.face + wobble - z;
    // A face stands at about 70 degrees: 1.5 m of run for 4.4 m of rise.
    target += (t.height - TERRACES[TERRACES.indexOf(t) - 1].height) * smoothstep(-0.75, 0.75, past);
  }
  // Floors fall a little outwards and are littered with spoil.
  target += stone.at(x / 11, z / 11) * 0.16 + stone.at(x / 3, z / 3) * 0.05;

  const px = x - PIT.x;
  const pz = (z - PIT.z) * 1.15;
  const r = Math.sqrt(px * px + pz * pz) + ragged.at(x / 12 + 9, z / 12) * 3;
  target = lerp(target, PIT.floor + stone.at(x / 7, z / 7) * 0.3, 1 - smoothstep(PIT.radius - 4, PIT.radius + 0.4, r));
  // A slip road into the pit from the east, at about 16 degrees.
  const road = smoothstep(4.2, 2.6, Math.abs(z - 136)) * smoothstep(60, 66, x) * smoothstep(97, 92, x);
  target = lerp(target, lerp(PIT.floor, 0, clamp((x - 66) / 24, 0, 1)), road);

  // The tramway incline cuts through every face.
  const across = Math.abs(x - INCLINE.x);
  const onIncline = smoothstep(INCLINE.width / 2 + 1.6, INCLINE.width / 2, across);
  const along = clamp((INCLINE.foot - z) / (INCLINE.foot - INCLINE.head), 0, 1);
  if (z > INCLINE.head - 4 && z < INCLINE.foot + 4) target = lerp(target, along * 13.2, onIncline);

  // A ramped path climbs from the lower yard to the first terrace in the west, and on to the second.
  target = path(target, x, z, { x0: 44, x1: 58, south: 97.5, north: 90, low: 0, high: 4.4 });
  target = path(target, x, z, { x0: 60, x1: 76, south: 70, north: 62, low: 4.4, high: 8.9 });

  const rim = Math.min(x, 160 - x, z + 6);
  const weight = smoothstep(2, 15, rim + ragged.at(x / 18, z / 18 + 4) * 5);
  const rise = smoothstep(150, -10, z) * 15 + (1 - smoothstep(0, 22, Math.min(x, 160 - x))) * 5 - 0.5;
  return { target, weight, rise };
}

/** Lifts over the quarry's hand work: spoil heaps on the lower yard's west side and on the terraces, and the track in from the gate. */
export function quarryLifts(): LevelObject[] {
  const heap = (n: number, x: number, z: number, radius: number, height: number): LevelObject => ({
    id: `spoil-${n}`,
    version: 1,
    kind: 'lift',
    lift: 'landform',
    name: `spoil heap ${n}`,
    order: 110 + n,
    visible: true,
    line: [[x, z]],
    radius,
    height,
    cut: false,
    foot: radius * 0.9,
    crown: 'flat',
    ragged: 1.6,
    seed: 40 + n,
  });
  return [
    heap(1, 22, 112, 12, 4.6),
    heap(2, 30, 78, 8, 2.4),
    heap(3, 95, 50, 7, 2),
    {
      id: 'gate-track',
      version: 1,
      kind: 'lift',
      lift: 'route',
      name: 'gate track',
      order: 120,
      visible: true,
      line: [
        [151, 0.4, 157],
        [139, 0.05, 147],
        [130, 0.05, 131],
        [113, 0.1, 121],
      ],
      width: 3.2,
      shoulder: 1,
      grade: 8,
      crossfall: 2,
      batter: 35,
      ground: 'gravel',
    },
  ];
}

interface Way {
  x0: number;
  x1: number;
  south: number;
  north: number;
  low: number;
  high: number;
}

/** A road `width` wide that runs along a face and climbs from one floor to the next. */
function path(target: number, x: number, z: number, { x0, x1, south, north, low, high }: Way): number {
  const run = 26;
  const t = clamp((x - x0) / run, 0, 1);
  const inside =
    smoothstep(x0 - 2, x0, x) * smoothstep(x1 + run - 12, x1 + run - 14, x) * smoothstep(north - 2.4, north - 0.8, z) * smoothstep(south + 0.4, south - 0.8, z);
  return lerp(target, lerp(low, high, t), inside);
}

/** What is painted by hand over the rules, 0 to 1: trodden gravel. */
export function quarryPaint(x: number, z: number): number {
  const fray = ragged.at(x / 9 + 3, z / 9) * 1.6;
  const strip = (d: number, half: number) => smoothstep(half + 1.4, half - 0.6, d + fray);
  // The lower yard between the sheds, the ways up, the slip road, and a trodden line along each terrace.
  const yard = smoothstep(30, 18, Math.sqrt((x - 104) ** 2 + ((z - 113) * 1.7) ** 2) + fray * 3);
  const incline = strip(Math.abs(x - INCLINE.x), INCLINE.width / 2) * smoothstep(24, 28, z);
  const slip = strip(Math.abs(z - 136), 2.6) * smoothstep(60, 66, x);
  const ways =
    strip(Math.abs(z - 93.6), 2.2) * smoothstep(42, 46, x) * smoothstep(86, 80, x) +
    strip(Math.abs(z - 66), 2.2) * smoothstep(58, 62, x) * smoothstep(102, 96, x);
  const along = TERRACES.slice(1).reduce(
    (sum, t) => sum + strip(Math.abs(z - (t.face - 8) - fray * 2), 1.1) * smoothstep(14, 24, x) * smoothstep(124, 118, x),
    0,
  );
  return clamp(yard + incline + slip + ways + along * 0.85, 0, 1);
}
