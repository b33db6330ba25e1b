import type { Kit, LaidLine, LineDressing, Part } from '@rammer/core/level/objects';
import { foundJoins } from '@rammer/core/kit/joins';
import { placer } from '@rammer/core/num/pose';
import type { Vec3 } from '@rammer/core/num/vec';

type Box = Part['box'];

/** A part as the bench would make it of the mesh, and its joins where they were corrected by hand. */
const part = (name: string, use: Part['use'], box: Box, more: { kind?: string; joins?: Part['joins'] } = {}): Part => ({
  asset: `kit-${name}`,
  use,
  weight: 1,
  box,
  joins: more.joins ?? foundJoins(use, box, 2).map((j) => (more.kind ? { ...j, kind: more.kind } : j)),
});

const box = (low: Vec3, high: Vec3): Box => [low, high];
const kit = (id: string, name: string, parts: Part[]): Kit => ({ id, version: 1, kind: 'kit', name, pitch: 2, storey: 3, stretch: [0.8, 1.25], parts });

/** The ridge stands a little lower than the roof's top: its flanks lie on the last course. */
const RIDGE = 1.56;

/** The kits of both levels: boxes are those of the meshes, which a test holds them to. */
export const demoKits = (): Kit[] => [
  kit('kit-of-sheds', 'shed', [
    part('wall', 'wall', box([-1, -0.4, -0.1895], [1, 3, 0.1895])),
    part('door-wall', 'door', box([-1, -0.4, -0.1895], [1, 3, 0.1895])),
    part('window-wall', 'window', box([-1, -0.4, -0.22], [1, 3, 0.22])),
    part('corner', 'corner', box([-0.3018, -0.4, -0.3003], [0.3018, 3.015, 0.3003])),
    part('floor', 'floor', box([-1, 0, -1], [1, 0.15, 1])),
    part('stair', 'stair', box([-2.02, 0, -0.62], [2, 3, 0.62])),
    part('roof', 'roof', box([-1, -0.19, -1], [1, 1.59, 1.369]), {
      joins: foundJoins('roof', box([-1, -0.19, -1], [1, 1.59, 1.369]), 2).map((j) => (j.kind === 'ridge' ? { ...j, at: [0, RIDGE, -1] as Vec3 } : j)),
    }),
    part('ridge', 'ridge', box([-1, -0.1273, -0.2012], [1, 0.08, 0.2012])),
    part('gable', 'gable', box([-2.0335, 0, -0.1831], [2.0335, 1.45, 0.1831])),
  ]),
  kit('kit-of-railings', 'railing', [part('railing', 'wall', box([-1.045, -0.25, -0.045], [1.045, 1.17, 0.045]), { kind: 'railing' })]),
  kit('kit-of-tramways', 'tramway', [part('rail-track', 'wall', box([-1, -0.08, -0.7155], [1, 0.19, 0.7174]), { kind: 'track' })]),
];

const mm = (v: number): number => Math.round(v * 1000) / 1000;

/** A line of a kit through places of the level, on heights that are given: those along each stretch too. */
export function laidAlong(
  id: string,
  name: string,
  { kit: of, places, height }: { kit: string; places: readonly (readonly [x: number, z: number])[]; height(x: number, z: number): number },
  more: Partial<LaidLine> = {},
): LaidLine {
  const [x0, z0] = places[0];
  const at: Vec3 = [x0, mm(height(x0, z0)), z0];
  const corners = places.map(([x, z], n) => {
    const here: Vec3 = [mm(x - x0), mm(height(x, z) - at[1]), mm(z - z0)];
    const next = places[n + 1];
    if (!next) return { n, at: here };
    const steps = Math.max(1, Math.ceil(Math.sqrt((next[0] - x) ** 2 + (next[1] - z) ** 2) * 2));
    const ground = Array.from({ length: steps + 1 }, (_, k) => mm(height(x + ((next[0] - x) * k) / steps, z + ((next[1] - z) * k) / steps) - at[1]));
    return { n, at: here, ground };
  });
  return {
    id,
    version: 1,
    kind: 'laidLine',
    name,
    kit: of,
    at,
    turn: 0,
    corners,
    slope: 'lean',
    remainder: 'stretch',
    storeys: 1,
    seed: 1,
    hidden: false,
    out: false,
    ...more,
  };
}

/** What grows at the foot of a wall where nobody treads. */
const FOOT: LineDressing = {
  pieces: [],
  plants: [
    { species: 'bracken', weight: 3, scale: 0.85 },
    { species: 'heather', weight: 3, scale: 0.9 },
    { species: 'bell-heather', weight: 2, scale: 0.9 },
    { species: 'gorse', weight: 0.4, scale: 1.15 },
  ],
  spacing: 0.62,
  loose: 0.9,
  aside: [0.05, 0.5],
  turn: [-180, 180],
  size: [0.7, 1.2],
  uneven: 0.1,
  sink: [0, 0.04],
  lean: 0.4,
  tilt: 6,
  flip: 0,
};

/** Outside of a shed's wall its foot is dressed so far from the middle of the wall, metres. */
const WALL = 0.22;

/**
 * A seam line along the back and both ends of a shed of so many cells in length and two in depth; its front, where the doors are, stays free.
 *
 * @param ground height of the ground at a place
 */
export function footOfShed(
  id: string,
  name: string,
  { cells, x, z, turn, seed }: { cells: number; x: number; z: number; turn: number; seed: number },
  ground: (x: number, z: number) => number,
): LaidLine {
  const place = placer({ at: [x, 0, z], turn });
  const [half, deep] = [cells + WALL, 2 + WALL];
  const places = (
    [
      [half, deep],
      [half, -deep],
      [-half, -deep],
      [-half, deep],
    ] as const
  ).map(([a, b]) => place(a, 0, b));
  const line = laidAlong(
    id,
    name,
    { kit: '', places: places.map((p) => [p[0], p[2]] as const), height: ground },
    { dress: FOOT, slope: 'lean', remainder: 'leave', seed },
  );
  const { kit: _, ...dressed } = line;
  const corners = dressed.corners.map((c, i) => {
    const next = dressed.corners[i + 1];
    if (!c.ground || !next) return c;
    const [dx, dz] = [next.at[0] - c.at[0], next.at[2] - c.at[2]];
    const length = Math.sqrt(dx * dx + dz * dz);
    const steps = c.ground.length - 1;
    const beside = FOOT.aside.map((aside) =>
      c.ground!.map((_unused, k) =>
        mm(
          ground(line.at[0] + c.at[0] + (dx * k) / steps - (dz / length) * aside, line.at[2] + c.at[2] + (dz * k) / steps + (dx / length) * aside) - line.at[1],
        ),
      ),
    ) as [number[], number[]];
    return { ...c, beside };
  });
  return { ...dressed, corners };
}
