import { axisRotation } from '@rammer/core/num/pose';
import { sinCosDeg } from '@rammer/core/num/trig';
import { hashUnit } from '@rammer/core/num/hash';
import type { LaidLine } from '@rammer/core/level/objects';
import { footOfShed, laidAlong } from './kits';
import type { KitYard } from './kitShed';
import { INCLINE } from './quarry';

/** The sheds: cells in length, where they stand, and whether their foot is dressed. */
const SHEDS = [
  { name: 'engine shed', cells: 6, at: { x: 96, z: 112, turn: 8 }, more: { door: [2, 3], windows: [1, 5, 6, -2, -5] }, foot: false },
  { name: 'winding house', cells: 4, at: { x: INCLINE.x + 0.5, z: 13.5, turn: 0 }, more: { door: [2], windows: [4, 1, -3] }, foot: false },
  { name: 'dressing shed 2', cells: 5, at: { x: 53, z: 52, turn: -3 }, more: { door: [2, 4], windows: [1, 3, 5] }, foot: true },
  { name: 'dressing shed 3', cells: 4, at: { x: 72, z: 49, turn: -6 }, more: { door: [1], windows: [3] }, foot: true },
  // Deliberately let in too far: its door is too low to walk through upright.
  { name: 'powder store', cells: 2, at: { x: 140, z: 79, turn: 90 }, more: { door: [1], sunk: 0.4 }, foot: false },
  { name: 'smithy', cells: 3, at: { x: 74, z: 104, turn: 6 }, more: { door: [2, -2], windows: [1, 3] }, foot: false },
];

/** What is laid along lines: rails up the incline that lie as it does, a railing where one could step off the dock, and what hides the foot of sheds. */
export const laidWorks = (ground: (x: number, z: number) => number, dockTop: number): LaidLine[] => [
  laidAlong('line-rails', 'rails', {
    kit: 'kit-of-tramways',
    places: [
      [INCLINE.x, 119.5],
      [INCLINE.x, 28],
    ],
    height: (x, z) => ground(x, z) + 0.04,
  }),
  laidAlong('line-railing', 'railing of the dock', {
    kit: 'kit-of-railings',
    places: [
      [103.7, 125.85],
      [112.35, 125.85],
      [112.35, 122.2],
    ],
    height: () => dockTop,
  }),
  ...SHEDS.filter((s) => s.foot).map(({ name, cells, at }, i) =>
    footOfShed(`line-foot-${i}`, `foot of the ${name}`, { cells, ...at, seed: 11 + i * 7 }, ground),
  ),
];

type Place = readonly [x: number, z: number];

/** What stands about the quarry: sheds, the tramway, the sluices, and what was left lying when it closed. */
export function standWorks(kit: KitYard, ground: (x: number, z: number) => number): void {
  for (const { name, cells, at, more } of SHEDS) kit.shed(name, cells, at, more);
  // Deliberately leads nowhere.
  kit.piece('kit-stair', 'stair without a storey', [84.5, 108], 90);

  wagons(kit);
  kit.piece('kit-winding-wheel', 'winding wheel', [INCLINE.x, 24.2], 90);
  kit.piece('kit-boiler', 'boiler', [86.8, 115.5], 14);
  for (const [name, x, z, turn] of [
    ['sluice wheel, low', 84, 128, 12],
    ['sluice wheel, middle', 72, 80, 12],
    ['sluice wheel, high', 88, 30, 12],
  ] as const)
    kit.piece('kit-sluice-wheel', name, [x, z], turn);
  gantry(kit, ground);

  const lying: [asset: string, name: string, x: number, z: number, turn: number][] = [
    ['slate-stack', 'slate stack 1', 60, 104, 10],
    ['slate-stack', 'slate stack 2', 63.2, 105.2, -4],
    ['slate-stack', 'slate stack 3', 57, 106, 38],
    ['slate-stack', 'slate stack 4', 112, 84, 80],
    ['slate-stack', 'slate stack 5', 114.6, 80.6, 65],
    ['slate-stack', 'slate stack 6', 40, 83, 20],
    ['slate-stack', 'slate stack 7', 126.8, 130.5, -32],
    ['slate-stack', 'slate stack 8', 125.2, 132.6, -24],
    ['crate', 'crate 1', 112.6, 118.2, 14],
    ['crate', 'crate 2', 113.4, 119.1, -22],
    ['crate', 'crate 3', 99.4, 117.4, 8],
    ['barrel', 'barrel 1', 101.2, 116.9, 0],
    ['barrel', 'barrel 2', 101.9, 117.3, 80],
    ['barrel', 'barrel 3', 128.4, 133.6, 20],
    ['sack', 'sack 1', 92.6, 115.6, 30],
    ['sack', 'sack 2', 93.2, 115.9, 160],
    ['timber-stack', 'timber stack', 116.5, 113.5, 72],
    ['timber-stack', 'timber stack at the smithy', 79.4, 101.6, 4],
    ['lamp', 'lamp at the dock', 105.2, 122.6, 0],
    ['sign', 'sign at the gate', 134.2, 141.6, 24],
    ['fallen-slab', 'fallen slab 1', 66, 96.2, 30],
    ['fallen-slab', 'fallen slab 2', 101, 95.6, 190],
    ['fallen-slab', 'fallen slab 3', 84, 67.6, 70],
    ['fallen-slab', 'fallen slab 4', 118, 68.4, 250],
    ['fallen-slab', 'fallen slab 5', 130.6, 126.4, 110],
    ['sleeper', 'sleeper 1', 117.2, 117.4, 34],
    ['sleeper', 'sleeper 2', 117.8, 118.6, 52],
    ['lintel', 'lintel put by', 77.8, 107.6, 62],
  ];
  for (const [asset, name, x, z, turn] of lying) kit.piece(`kit-${asset}`, name, [x, z], turn, asset === 'fallen-slab' ? { sink: 0.08 } : {});
  kit.piece('kit-crate', 'crate on two', [112.95, 118.6], 40, { up: 0.8 });
  // Against the smithy's west end, its foot well out.
  const [s, c] = sinCosDeg(6);
  const at = (lx: number, lz: number): Place => [74 + c * lx + s * lz, 104 - s * lx + c * lz];
  kit.piece('kit-ladder', 'ladder at the smithy', at(-4.05, 0.6), 96, { tilt: axisRotation([1, 0, 0], -16) });
  for (const [i, [x, z]] of (
    [
      [131.4, 143.2],
      [129.6, 140.9],
      [127.9, 138.4],
      [126.4, 135.8],
    ] as Place[]
  ).entries())
    kit.piece('kit-post', `gate post ${i + 1}`, [x, z], 20 * hashUnit(5, i));
}

/** Wagons of the tramway: one at its foot, one that left it. */
function wagons(kit: KitYard): void {
  kit.piece('kit-wagon', 'wagon at the foot', [INCLINE.x, 116.4], 90, { up: 0.21 });
  kit.piece('kit-wagon', 'wagon off the rails', [125.6, 112.4], 60, { up: 0.02, tilt: axisRotation([1, 0, 0], 7) });
}

/** Two piers of quoins carry the beam; its chain hangs over where the wagons stood. */
function gantry(kit: KitYard, ground: (x: number, z: number) => number): void {
  const foot = Math.min(ground(88, 100.9), ground(88, 106.1));
  for (const [i, z] of [100.9, 106.1].entries())
    kit.piece('kit-corner', `gantry pier ${i + 1}`, [88, z], 0, { up: foot - ground(88, z), scale: [1.6, 1, 1.6] });
  kit.piece('kit-gantry-beam', 'gantry beam', [88, 103.5], 90, { up: foot + 3 - ground(88, 103.5) });
  kit.piece('kit-chain', 'chain', [88, 102.05], 0, { up: foot + 3 - 0.28 - 1.4 - ground(88, 102.05) });
}
