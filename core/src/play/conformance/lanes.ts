import type { BodyFigures } from '../../body/bodies';
import { BlockBuilder } from '../../block/build';
import type { SolidKernel } from '../../block/kernel';
import { placeMesh, type PlacedMesh } from '../../block/placedMesh';
import { boxMesh } from '../../kit/assetMesh';
import type { Block } from '../../level/objects';
import { sinCosDeg, tanDeg } from '../../num/trig';
import type { Vec3 } from '../../num/vec';

/**
 * A lane: a closed corridor 3 m wide and 10 m long in plan, turned about its middle, with one thing to pass half
 * way. Lanes stand apart, so that one bake judges many.
 */
export interface Lane {
  body: string;
  turn: number;
  host: Host;
  what: What;
  /** metres, or degrees for a slope */
  figure: number;
  /** distance between the terrain's samples, metres */
  spacing: number;
  /** its middle in the level */
  at: readonly [x: number, z: number];
  /** what geometry says: the body's own cylinder fits, steps, or stands on it */
  passes: boolean;
}

export type Host = 'block' | 'piece' | 'cut' | 'cast' | 'terrain';
export type What = 'opening' | 'headroom' | 'step' | 'slope' | 'fall';
export const TURNS = [0, 17, 30, 45, 73] as const;

/** Distance between lanes, metres: no two touch. */
export const APART = 14;
const LONG = 10;
const WIDE = 3;
const THICK = 0.3;
const TALL = 4;
/** How far a slope rises, metres; of terrain with samples a metre apart twice as far, or it would have no straight part. */
const riseOf = ({ host, spacing }: Pick<Lane, 'host' | 'spacing'>): number => (host === 'terrain' && spacing > 0.5 ? 3.2 : 1.6);

/** Figures to try: on both sides of the limit, just outside the bands of numbers.md, and far from it. */
export function figures(body: BodyFigures, what: What): { figure: number; passes: boolean }[] {
  const { radius, height, step, maxSlope } = body;
  const of = (limit: number, ...offsets: [number, boolean][]) => offsets.map(([by, passes]) => ({ figure: limit + by, passes }));
  // An opening's limit lies between the body's own width and what is published for it: 0.05 m from both.
  if (what === 'opening') return of(2 * radius, [-0.1, false], [-0.005, false], [0.1, true], [0.25, true]);
  if (what === 'headroom') return of(height, [-0.3, false], [-0.02, false], [0, true], [0.05, true]);
  if (what === 'slope') return of(maxSlope, [-10, true], [-0.5, true], [0.6, false], [4, false], [15, false]);
  return of(step, [-0.2, true], [0, true], [0.025, false], [0.1, false], [0.6, false]);
}

/** A point of a lane, x along it and z across from its middle, in the level. */
export function inLane({ at, turn }: Pick<Lane, 'at' | 'turn'>, x: number, y: number, z: number): Vec3 {
  const [s, c] = sinCosDeg(turn);
  return [at[0] + c * x + s * z, y, at[1] - s * x + c * z];
}

/** Where a body starts in a lane and where it must get to. */
export function endsOf(lane: Lane): { from: Vec3; to: Vec3 } {
  const high = lane.what === 'slope' ? riseOf(lane) : lane.what === 'step' || lane.what === 'fall' ? lane.figure : 0;
  const [from, to] = lane.what === 'fall' ? [high, 0] : [0, high];
  return { from: inLane(lane, -3.5, from, 0), to: inLane(lane, 3.5, to, 0) };
}

/** Terrain under a lane at one of its points, metres: only slopes of the terrain's own are not flat. */
export function terrainIn(lane: Lane, x: number): number {
  if (lane.host !== 'terrain') return 0;
  const rise = riseOf(lane);
  const run = rise / tanDeg(lane.figure);
  return Math.min(rise, Math.max(0, ((x + run / 2) / run) * rise));
}

type Part = { size: Vec3; at: Vec3; shape?: Block['shape']; turn?: number; op?: 'void' };

/** What stands in a lane: blocks, and placed meshes. */
export function buildLane(lane: Lane, id: string, kernel: SolidKernel): { blocks: Block[]; meshes: PlacedMesh[] } {
  const block = (part: Part, name: string): Block => {
    const [x, y, z] = part.at;
    return {
      id: `${id}-${name}`,
      version: 1,
      kind: 'block',
      name,
      shape: part.shape ?? 'box',
      size: part.size,
      at: inLane(lane, x, y, z),
      turn: lane.turn + (part.turn ?? 0),
      hidden: false,
      out: false,
      ...(part.op ? { op: part.op } : {}),
    } as Block;
  };
  const walls: Part[] = [
    { size: [LONG + 2 * THICK, TALL, THICK], at: [0, -1, (WIDE + THICK) / 2] },
    { size: [LONG + 2 * THICK, TALL, THICK], at: [0, -1, -(WIDE + THICK) / 2] },
    { size: [THICK, TALL, WIDE], at: [(LONG + THICK) / 2, -1, 0] },
    { size: [THICK, TALL, WIDE], at: [-(LONG + THICK) / 2, -1, 0] },
  ];
  const { solids, voids } = parts(lane);
  const made = solids.map((part, i) => block(part, `part${i}`));
  const blocks = walls.map((part, i) => block(part, `wall${i}`));
  if (lane.host === 'block') return { blocks: [...blocks, ...made], meshes: [] };
  if (lane.host === 'terrain') return { blocks, meshes: [] };
  if (lane.host === 'piece') {
    return {
      blocks,
      meshes: made.map((b, i) => {
        const [s, c] = sinCosDeg(b.turn);
        const [l, h, w] = b.size;
        return placeMesh(b.id, b.name, solids[i].shape === 'ramp' ? rampMesh(b.size) : boxMesh([-l / 2, 0, -w / 2], [l / 2, h, w / 2]), (x, y, z) => [
          b.at[0] + c * x + s * z,
          b.at[1] + y,
          b.at[2] - s * x + c * z,
        ]);
      }),
    };
  }
  const builder = new BlockBuilder(kernel);
  const cutters = voids.map((part, i) => block(part, `void${i}`));
  const all = [...made, ...cutters];
  if (lane.host === 'cast') {
    const mesh = builder.joined(all, new Set(made.map((b) => b.id)));
    return { blocks, meshes: [placeMesh(id, 'cast', mesh, (x, y, z) => [x, y, z])] };
  }
  const built = builder.build(all).map((b): PlacedMesh => ({ id: b.id, name: b.name, positions: b.positions, indices: b.indices, min: b.min, max: b.max }));
  const whole = new Set(built.map((b) => b.id));
  return { blocks: [...blocks, ...made.filter((b) => !whole.has(b.id))], meshes: built };
}

/** What is to be passed, as blocks; cut out of a whole wall by a void where the host is a cut block. */
function parts(lane: Lane): { solids: Part[]; voids: Part[] } {
  const { what, figure, host } = lane;
  if (what === 'opening') {
    if (host === 'cut') return { solids: [{ size: [THICK, 3, WIDE], at: [0, 0, 0] }], voids: [{ op: 'void', size: [1, 2.5, figure], at: [0, 0, 0] }] };
    const side = (WIDE - figure) / 2;
    return {
      solids: [
        { size: [THICK, 3, side], at: [0, 0, (figure + side) / 2] },
        { size: [THICK, 3, side], at: [0, 0, -(figure + side) / 2] },
      ],
      voids: [],
    };
  }
  if (what === 'headroom') {
    if (host === 'cut') return { solids: [{ size: [THICK, 3, WIDE], at: [0, 0, 0] }], voids: [{ op: 'void', size: [1, figure, 1.6], at: [0, 0, 0] }] };
    return { solids: [{ size: [THICK, 1, WIDE], at: [0, figure, 0] }], voids: [] };
  }
  if (what === 'slope') {
    const rise = riseOf(lane);
    const run = rise / tanDeg(figure);
    const half = (LONG - run) / 2;
    return {
      solids: [
        { shape: 'ramp', size: [run, rise, WIDE], at: [0, 0, 0] },
        { size: [half, rise, WIDE], at: [(run + half) / 2, 0, 0] },
      ],
      voids: host === 'cut' ? [{ op: 'void', size: [0.4, 0.4, 0.4], at: [run / 2 - 0.3, -0.1, WIDE / 2] }] : [],
    };
  }
  const x = what === 'fall' ? -LONG / 4 : LONG / 4;
  if (host === 'cut')
    return { solids: [{ size: [LONG / 2, 3, WIDE], at: [x, 0, 0] }], voids: [{ op: 'void', size: [LONG / 2 + 1, 4, WIDE + 1], at: [x, figure, 0] }] };
  return { solids: [{ size: [LONG / 2, figure, WIDE], at: [x, 0, 0] }], voids: [] };
}

/** A ramp as a mesh, rising along x. */
function rampMesh([l, h, w]: Vec3): { positions: Float32Array; indices: Uint32Array } {
  return {
    positions: Float32Array.from([-l / 2, 0, -w / 2, l / 2, 0, -w / 2, l / 2, 0, w / 2, -l / 2, 0, w / 2, l / 2, h, -w / 2, l / 2, h, w / 2]),
    indices: Uint32Array.from([0, 1, 2, 0, 2, 3, 0, 3, 5, 0, 5, 4, 1, 4, 5, 1, 5, 2, 0, 4, 1, 3, 2, 5]),
  };
}
