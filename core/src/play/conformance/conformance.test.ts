import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../../body/bodies';
import { ledgeVerdict, openingVerdict, slopeVerdict } from '../../body/checks';
import type { PlacedMesh } from '../../block/placedMesh';
import type { SolidKernel } from '../../block/kernel';
import { loadSolidKernel } from '../../block/loadKernel';
import type { Terrain } from '../../earth/compose';
import type { Block } from '../../level/objects';
import { gridOf } from '../../level/tiles';
import { hashInts } from '../../num/hash';
import { sinCosDeg } from '../../num/trig';
import { loadKernels } from '../../testing/kernels';
import { linkedStands } from '../linked';
import { markerStands } from '../markerStands';
import { makeWalkArea, type WalkArea } from '../walkArea';
import { makeWalker } from '../walker';
import { APART, buildLane, endsOf, figures, inLane, terrainIn, TURNS, type Host, type Lane, type What } from './lanes';

/**
 * Metric check, walk area and walker must say one thing, and geometry the same: an opening, a lintel, a step, a
 * slope and a fall, just outside the bands of numbers.md and far from them, by several bodies, at every turn, made of
 * terrain, blocks, cut blocks, pieces and casts, in levels of any size.
 */
let kernel: SolidKernel;
let rapier: Awaited<ReturnType<typeof loadKernels>>['rapier'];
beforeAll(async () => {
  kernel = await loadSolidKernel();
  ({ rapier } = await loadKernels());
});

const WHATS: What[] = ['opening', 'headroom', 'step', 'slope', 'fall'];
const HOSTS: Host[] = ['block', 'piece', 'cut', 'cast'];

/** All lanes for a body, in rows over a level of a size, beginning at `first` metres from its corner. */
function lanesFor(body: string, side: number, first: number, spacing: number, turns: readonly number[], keep: (i: number) => boolean): Lane[] {
  const out: Omit<Lane, 'at'>[] = [];
  for (const what of WHATS) {
    for (const host of what === 'slope' ? (spacing > 1 ? HOSTS : ([...HOSTS, 'terrain'] as Host[])) : HOSTS) {
      for (const turn of turns)
        for (const { figure, passes } of figures(SHIPPED_BODIES[body], what)) out.push({ body, spacing, turn, host, what, figure, passes });
    }
  }
  const across = Math.floor((side - first - APART / 2) / APART);
  return out
    .filter((_, i) => keep(i))
    .map((lane, i) => ({ ...lane, at: [first + (i % across) * APART + 0.037 * (i % 7), first + Math.floor(i / across) * APART + 0.053 * (i % 5)] }));
}

interface Scene {
  terrain: Terrain;
  blocks: Block[];
  meshes: PlacedMesh[];
}

function build(lanes: readonly Lane[], tiles: number, spacing: 0.25 | 0.5 | 1 | 2): Scene {
  const grid = gridOf({ tilesX: tiles, tilesZ: tiles, spacing });
  const terrain: Terrain = { grid, heights: new Float32Array(grid.nx * grid.nz), noise: new Map() };
  const scene: Scene = { terrain, blocks: [], meshes: [] };
  for (const [i, lane] of lanes.entries()) {
    const { blocks, meshes } = buildLane(lane, `l${i}`, kernel);
    scene.blocks.push(...blocks);
    scene.meshes.push(...meshes);
    if (lane.host !== 'terrain') continue;
    const [s, c] = sinCosDeg(lane.turn);
    for (let z = Math.floor((lane.at[1] - 6.5) / spacing); z <= (lane.at[1] + 6.5) / spacing; z++) {
      for (let x = Math.floor((lane.at[0] - 6.5) / spacing); x <= (lane.at[0] + 6.5) / spacing; x++)
        terrain.heights[z * grid.nx + x] = terrainIn(lane, (x * spacing - lane.at[0]) * c - (z * spacing - lane.at[1]) * s);
    }
  }
  return scene;
}

function areaSays(area: WalkArea, lane: Lane): boolean {
  const { from, to } = endsOf(lane);
  const start = markerStands(area, from, 0.5).slice(0, 1);
  expect(start, `${name(lane)} has a start`).toHaveLength(1);
  const linked = linkedStands(area, start);
  return markerStands(area, to, 0.5).some((id) => linked.has(id));
}

/** Walks along the lane; a fall is walked from below, for it must lead back. */
function walkerSays(scene: Scene, lane: Lane): boolean {
  const ends = endsOf(lane);
  const [from, to] = lane.what === 'fall' ? [ends.to, ends.from] : [ends.from, ends.to];
  const walker = makeWalker(rapier, SHIPPED_BODIES[lane.body], { terrain: scene.terrain, blocks: scene.blocks, meshes: scene.meshes }, [
    from[0],
    from[1] + 0.03,
    from[2],
  ]);
  const [dx, , dz] = inLane({ at: [0, 0], turn: lane.turn }, lane.what === 'fall' ? -1 : 1, 0, 0);
  let there = false;
  for (let i = 0; i < 60 * 9 && !there; i++) {
    walker.step({ x: dx, z: dz, run: false, jump: false });
    there = (walker.at[0] - to[0]) * dx + (walker.at[2] - to[2]) * dz > -0.4 && Math.abs(walker.at[1] - to[1]) < 0.3;
  }
  walker.dispose();
  return there;
}

/** What the published rule says, where it has one for the thing. */
function metricSays({ body, what, figure }: Lane): boolean | undefined {
  const figuresOf = SHIPPED_BODIES[body];
  // Under a lintel the rule leaves a hand's width to the head that the body itself does not need: nothing is said there.
  if (what === 'headroom')
    return figure > figuresOf.height - 0.02 && figure < figuresOf.height + 0.05 ? undefined : ['clear', 'tight'].includes(openingVerdict(figuresOf, 3, figure));
  if (what === 'opening') return openingVerdict(figuresOf, figure, 3) !== 'blocked';
  if (what === 'slope') return slopeVerdict(figuresOf, figure) !== 'too steep';
  return ledgeVerdict(figuresOf, figure) === 'step';
}

const name = ({ body, what, figure, host, turn, at }: Lane): string =>
  `${body}: ${what} of ${figure.toFixed(3)}, ${host}, turned ${turn} at ${at[0].toFixed(1)}, ${at[1].toFixed(1)}`;

/** Lanes that are judged otherwise than geometry has it. */
const wrong = (lanes: readonly Lane[], says: (lane: Lane) => boolean | undefined): string[] =>
  lanes
    .filter((lane) => {
      const said = says(lane);
      return said !== undefined && said !== lane.passes;
    })
    .map(name);

describe.each([
  ['adult', 1],
  ['ram', 2],
  ['child', 3],
])('for the body %s', (body, part) => {
  const lanes = lanesFor(body, 480, 9, 0.5, TURNS, (i) => i % part === 0);

  it('the metric check agrees with geometry', () => {
    expect(wrong(lanes, metricSays)).toEqual([]);
  });

  it('the walk area agrees with geometry', () => {
    const scene = build(lanes, 15, 0.5);
    const area = makeWalkArea(SHIPPED_BODIES[body], scene.terrain.grid);
    area.update(scene);
    expect(wrong(lanes, (lane) => areaSays(area, lane))).toEqual([]);
  }, 120_000);

  it('the walker agrees with geometry', () => {
    // Every slope of terrain: there the physics' own contacts lean.
    const some = lanes.filter(({ host }, i) => host === 'terrain' || hashInts(5, i) % Math.round(9 / part) === 0);
    const scene = build(some, 15, 0.5);
    expect(wrong(some, (lane) => walkerSays(scene, lane))).toEqual([]);
  }, 240_000);
});

describe.each([
  [160, 10, 0.25],
  [640, 10, 1],
  [1024, 16, 1],
  [4096, 32, 2],
] as const)('in a level of %i m', (side, tiles, spacing) => {
  it('the walk area agrees with geometry', () => {
    const lanes = lanesFor(
      'adult',
      side,
      side === 160 ? 9 : side / 2 + 3.1,
      spacing,
      side > 1000 ? [30, 73] : TURNS,
      (i) => i % (side === 160 ? 4 : 3) === 0,
    ).slice(0, 100);
    const scene = build(lanes, tiles, spacing);
    const area = makeWalkArea(SHIPPED_BODIES.adult, scene.terrain.grid);
    area.update(scene);
    expect(wrong(lanes, (lane) => areaSays(area, lane))).toEqual([]);
  }, 120_000);
});
