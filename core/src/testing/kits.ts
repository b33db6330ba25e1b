import type { Kit, Part, PartUse } from '../level/kinds/kit';
import type { LaidCorner, LaidLine } from '../level/kinds/laidLine';
import type { Vec3 } from '../num/vec';

const part = (use: PartUse, low: Vec3, high: Vec3, joins: Part['joins'] = []): Part => ({
  asset: `kit-${use.replace(' ', '-')}`,
  use,
  weight: 1,
  box: [low, high],
  joins,
});

/** Joins at the left and the right end of something so long. */
export const endJoins = (half: number, kind = 'wall'): Part['joins'] => [
  { at: [-half, 0, 0], turn: 180, kind, width: 0.3 },
  { at: [half, 0, 0], turn: 0, kind, width: 0.3 },
];

/** A kit of walls 2 m long and 3 m high with their feet 0.4 m deep, worked by hand. */
export const testKit = (more: Partial<Kit> = {}): Kit => ({
  id: 'kit',
  version: 1,
  kind: 'kit',
  name: 'kit',
  pitch: 2,
  storey: 3,
  stretch: [0.8, 1.25],
  parts: [
    part('wall', [-1, -0.4, -0.15], [1, 3, 0.15], endJoins(1)),
    part('door', [-1, -0.4, -0.15], [1, 3, 0.15], endJoins(1)),
    part('window', [-1, -0.4, -0.15], [1, 3, 0.15], endJoins(1)),
    part('filler', [-0.5, -0.4, -0.15], [0.5, 3, 0.15], endJoins(0.5)),
    part('corner', [-0.3, -0.4, -0.3], [0.3, 3, 0.3]),
    part('floor', [-1, 0, -1], [1, 0.15, 1]),
    part(
      'roof',
      [-1, -0.19, -1],
      [1, 1.5, 1.3],
      [
        { at: [-1, 0, 0], turn: 180, kind: 'roof', width: 2 },
        { at: [1, 0, 0], turn: 0, kind: 'roof', width: 2 },
      ],
    ),
    part('ridge', [-1, -0.1, -0.2], [1, 0.1, 0.2]),
    part('gable', [-2, 0, -0.15], [2, 1.5, 0.15]),
    part('stair', [-2, 0, -0.6], [2, 3, 0.6]),
  ],
  ...more,
});

/** Corners numbered as they come, from x and z, or x, y and z. */
export const cornersAt = (...points: (readonly [number, number] | Vec3)[]): LaidCorner[] =>
  points.map((p, n) => ({ n, at: p.length === 2 ? [p[0], 0, p[1]] : [...p] }));

export const testLine = (more: Partial<LaidLine> = {}): LaidLine => ({
  id: 'line',
  version: 1,
  kind: 'laidLine',
  name: 'line',
  kit: 'kit',
  at: [0, 0, 0],
  turn: 0,
  corners: cornersAt([0, 0], [8, 0]),
  slope: 'level',
  remainder: 'leave',
  storeys: 1,
  seed: 1,
  hidden: false,
  out: false,
  ...more,
});
