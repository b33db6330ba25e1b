import { describe, expect, it } from 'vitest';
import { waterBodies } from '../earth/waters';
import { SHIPPED_BODIES } from '../body/bodies';
import { MOST_MADE } from '../level/present';
import { presentBlocks } from '../level/level';
import { gridOf } from '../level/tiles';
import { terrainOf, testBlock, testLevel } from '../testing/levels';
import { parseObject } from '../level/objects';
import { acceptanceOf, withAcceptance } from './accept';
import { tally } from '../cost/tally';
import { blockGrid } from '../block/grid';
import { placedPieces } from '../kit/placement';
import type { Piece } from '../level/objects';
import { tiltOf } from '../num/pose';
import type { Asset } from '../kit/asset';
import { Shape } from '../kit/shape';
import { testAssets } from '../testing/assets';
import { growthOn, testSpecies } from '../testing/growth';
import { blockOutside } from './blockOutside';
import { buriedBlock } from './buriedBlock';
import { checkLevel } from '../scene/checkLevel';
import { findSnags } from './findSnags';
import { floatingBlock } from './floatingBlock';
import { denserThanSpacing } from './denserThanSpacing';
import { handPlant } from './handPlant';
import type { SnagInput } from './input';
import { island } from './island';
import { levelTooLarge } from './levelTooLarge';
import { objectiveUnreachable } from './objectiveUnreachable';
import { opening } from './opening';
import { overBudget } from './overBudget';
import { piecePlace, pieceSize } from './piece';
import { steepRamp } from './steepRamp';
import { tooManyCopies } from './tooManyCopies';
import { blockStep, step } from './step';

const flat = terrainOf(() => 2);

/** What the checks look at, of a flat level 2 m up, with what a test wants in it. */
function checked(more: Partial<SnagInput> = {}): SnagInput {
  const { terrain, ground } = growthOn(flat, []);
  const blocks = more.blocks ?? [];
  const assets = testAssets();
  const pieces = more.pieces ?? [];
  return {
    terrain,
    ground,
    blocks,
    grid: blockGrid(blocks),
    pieces,
    placed: placedPieces(pieces, assets),
    walls: placedPieces(pieces, assets),
    assets,
    kits: [],
    voids: [],
    solids: blocks,
    gaps: [],
    playBounds: [],
    species: [],
    plants: [],
    waters: [],
    body: SHIPPED_BODIES.adult,
    reach: { reached: true, path: [], length: 0, walkTime: 0, runTime: 0 },
    dots: new Float32Array(),
    ...more,
  };
}
const piece = (asset: string, at: [number, number, number], more: Partial<Piece> = {}): Piece => ({
  id: `${asset}-${at.join()}`,
  version: 1,
  kind: 'piece',
  name: asset,
  asset,
  at,
  turn: 0,
  sink: 0,
  collider: 'asset',
  hidden: false,
  out: false,
  ...more,
});

describe('floating blocks', () => {
  it('are those that touch neither the ground nor something that does', () => {
    const post = testBlock('box', [0.5, 3, 0.5], [20, 2, 20]);
    const beam = testBlock('box', [4, 0.4, 0.5], [22, 5, 20]);
    const lamp = testBlock('box', [0.3, 0.3, 0.3], [23.5, 4.7, 20]);
    const hung = testBlock('box', [1, 1, 1], [40, 3.2, 40], 0, { name: 'crate' });
    const sunk = testBlock('box', [1, 1, 1], [50, 1, 50]);
    const found = floatingBlock(flat, [post, beam, lamp, hung, sunk]);
    expect(found.map((s) => s.object)).toEqual([hung.id]);
    expect(found[0].message).toBe('crate floats 1.20 m above the ground');
  });
});

describe('blocks outside', () => {
  it('are those wholly beside the ground', () => {
    const grid = gridOf({ tilesX: 2, tilesZ: 2, spacing: 0.5 });
    const out = testBlock('box', [2, 2, 2], [-1.5, 0, 20]);
    const edge = testBlock('box', [4, 2, 2], [-1.5, 0, 20]);
    expect(blockOutside(grid, [out, edge]).map((s) => s.object)).toEqual([out.id]);
  });
});

describe('the size of a level', () => {
  it('is a snag from ten minutes at a run: 3000 m for the adult', () => {
    expect(levelTooLarge(gridOf({ tilesX: 23, tilesZ: 2, spacing: 2 }), SHIPPED_BODIES.adult)).toEqual([]);
    expect(levelTooLarge(gridOf({ tilesX: 24, tilesZ: 2, spacing: 2 }), SHIPPED_BODIES.adult)).toMatchObject([{ code: 'level-large', severity: 'warning' }]);
  });
});

describe('buried blocks', () => {
  it('are those wholly under the ground', () => {
    const deep = testBlock('box', [1, 1, 1], [20, 0.5, 20], 0, { name: 'plinth' });
    const peeping = testBlock('box', [1, 1.6, 1], [30, 0.5, 20]);
    const ramp = testBlock('ramp', [4, 1, 2], [40, 0.4, 20]);
    expect(buriedBlock(flat, [deep, peeping, ramp]).map((s) => [s.object, s.message])).toEqual([
      [deep.id, 'plinth lies 0.50 m under the ground'],
      [ramp.id, `${ramp.name} lies 0.60 m under the ground`],
    ]);
  });
});

describe('the budget', () => {
  it('is a snag where the dearest place stands over its line', () => {
    const level = testLevel();
    const place = (frame: number) => [
      {
        name: 'from the gate',
        pose: { view: 'stand' as const, target: [1, 2, 3] as [number, number, number], yaw: 0, pitch: 0, distance: 1 },
        sums: tally([]),
        frame: { cpu: frame, gpu: 1, frame, governs: 'CPU' as const },
      },
    ];
    expect(overBudget(level, place(13.2))).toEqual([]);
    expect(overBudget(level, place(14))).toMatchObject([
      { code: 'over-budget', at: [1, 2, 3], message: '14.0 ms on Den 60, estimate, from the gate; the budget line stands at 13.3 ms' },
    ]);
    expect(overBudget(level, [])).toEqual([]);
    // Den 60 has 3000 MB: the line stands at 2400.
    const holds = (bytes: number) =>
      overBudget(
        level,
        place(1).map((p) => ({ ...p, sums: { ...p.sums, all: { ...p.sums.all, bytes } } })),
      );
    expect(holds(2.39e9)).toEqual([]);
    expect(holds(2.5e9)).toMatchObject([{ code: 'over-memory', message: '2500 MB on Den 60, from the gate; the budget line stands at 2400 MB' }]);
  });
});

describe('accepting a snag', () => {
  const level = testLevel();
  const crate = testBlock('box', [1, 1, 1], [20, 5, 20], 0, { name: 'crate' });
  level.objects.set(crate.id, crate);
  const [snag] = floatingBlock(
    terrainOf(() => 0),
    [crate],
  );

  it('keeps the reason, and lapses when the thing changes', () => {
    expect(withAcceptance(level, snag).accepted).toBeUndefined();
    level.objects.set('a1', acceptanceOf(level, snag, 'it hangs on a rope that comes later', 'a1'));
    expect(withAcceptance(level, snag).accepted).toBe('it hangs on a rope that comes later');
    expect(withAcceptance(level, { ...snag, code: 'block-outside' }).accepted).toBeUndefined();
    expect(withAcceptance(level, { ...snag, object: 'another' }).accepted).toBeUndefined();
    level.objects.set(crate.id, { ...crate, version: 2 });
    expect(withAcceptance(level, snag).accepted).toBeUndefined();
  });

  it('is an object that a level may hold', () => {
    expect(parseObject(acceptanceOf(level, snag, 'because', 'a2')).ok).toBe(true);
    expect(parseObject({ ...acceptanceOf(level, snag, 'because', 'a2'), reason: ' ' }).ok).toBe(false);
    expect(parseObject({ id: 'n', version: 1, kind: 'note', name: 'look', text: 'look here', at: [1, 2, 3] }).ok).toBe(true);
  });
});

describe('all checks', () => {
  it('put the blocking ones first', () => {
    const reach = { reached: false, path: [], length: 0, walkTime: 0, runTime: 0, stop: { code: 'slope' as const, message: 'too steep' } };
    const found = findSnags(checked({ blocks: [testBlock('box', [1, 1, 1], [20, 9, 20]), testBlock('box', [1, 1, 1], [30, 0, 20])], reach }));
    expect(found.map((s) => s.code)).toEqual(['objective-unreachable', 'block-floating', 'block-buried']);
  });
});

describe('the objective', () => {
  it('blocks where it cannot be reached, warns where a marker is missing', () => {
    const reach = { reached: false, path: [], length: 0, walkTime: 0, runTime: 0 };
    expect(objectiveUnreachable({ ...reach, reached: true })).toEqual([]);
    expect(objectiveUnreachable({ ...reach, stop: { code: 'slope', message: 'ground too steep', at: [1, 2, 3] } })).toMatchObject([
      { code: 'objective-unreachable', severity: 'blocking', at: [1, 2, 3] },
    ]);
    expect(objectiveUnreachable({ ...reach, stop: { code: 'no-entry', message: 'no entry' } })).toMatchObject([
      { code: 'marker-missing', severity: 'warning' },
    ]);
  });
});

describe('the whole check', () => {
  it('gives size, bodies, reach, cost and snags of a small level', async () => {
    const level = testLevel();
    level.objects.set('entry', { id: 'entry', version: 1, kind: 'marker', marker: 'entry', name: 'entry', at: [10, 0, 32], turn: 0 });
    level.objects.set('objective', { id: 'objective', version: 1, kind: 'marker', marker: 'objective', name: 'objective', at: [50, 0, 32], turn: 0 });
    const wall = testBlock('box', [0.5, 3, 64], [30, 0, 32]);
    const open = (await checkLevel(level))!;
    expect(open.size).toMatchObject({ width: 64, depth: 64, lowest: 0, highest: 0, blocks: 0 });
    expect(open.bodies).toMatchObject([{ name: 'adult', player: true }]);
    expect(open.reach).toMatchObject({ reached: true, body: 'adult' });
    expect(open.reach.length).toBeCloseTo(40, 0);
    expect(open.cost).toMatchObject({ device: 'Den 60', over: false, estimate: true });
    expect(open.cost.drawn.draws).toBe(4);
    expect(open.snags).toEqual([]);
    level.objects.set(wall.id, wall);
    expect((await checkLevel(level))!.snags).toMatchObject([
      { code: 'objective-unreachable', severity: 'blocking', object: wall.id },
      { code: 'ground-unreachable', message: expect.stringMatching(/^2\d{3} m² of ground cannot be walked to: .*, behind box/) },
    ]);
    expect(await checkLevel(level, { onProgress: () => false })).toBeUndefined();
  });
});

describe('openings', () => {
  it('of the door wall: 1.10 m wide and 2.10 m high is clear, sunk by 0.3 m it is passed crouched, by 1 m it is blocked', () => {
    expect(opening(checked({ pieces: [piece('door wall', [20, 2, 20])] }))).toEqual([]);
    expect(opening(checked({ pieces: [piece('door wall', [20, 1.7, 20], { turn: 37 })] }))).toMatchObject([
      { code: 'opening-crouch', severity: 'warning', message: 'door wall: an opening 1.10 m wide and 1.80 m high is passed crouched only' },
    ]);
    expect(opening(checked({ pieces: [piece('door wall', [20, 1, 20])] }))).toMatchObject([{ code: 'opening-blocked', severity: 'blocking' }]);
    expect(opening(checked({ pieces: [piece('wall', [20, 1, 20])] }))).toEqual([]);
  });

  it('of blocks: a lintel over two jambs, measured between and under them', () => {
    const door = (width: number, height: number, turn = 0) => {
      const along = (d: number): [number, number] => (turn === 0 ? [20 + d, 20] : [20, 20 - d]);
      const jamb = (side: number) => {
        const [x, z] = along(side * (width / 2 + 0.5));
        return testBlock('box', [1, 3, 0.3], [x, 2, z], turn);
      };
      return [jamb(-1), jamb(1), testBlock('box', [width + 2, 0.4, 0.3], [20, 2 + height, 20], turn, { name: 'lintel' })];
    };
    expect(opening(checked({ blocks: door(1.2, 2.1) }))).toEqual([]);
    expect(opening(checked({ blocks: door(0.92, 2.1, 90) }))).toMatchObject([
      { code: 'opening-tight', message: 'lintel: an opening 0.92 m wide and 2.10 m high is tight' },
    ]);
    expect(opening(checked({ blocks: door(0.7, 2.1) }))).toMatchObject([{ code: 'opening-blocked', severity: 'blocking' }]);
    expect(opening(checked({ blocks: door(1.2, 1.1) }))).toMatchObject([{ code: 'opening-blocked', message: expect.stringContaining('1.10 m high') }]);
  });
});

describe('steps', () => {
  it('of the stair are 0.1875 m: the adult steps them, a cart of 0.15 m does not', () => {
    const stair = piece('stair', [20, 2, 20], { turn: 120 });
    expect(step(checked({ pieces: [stair] }))).toEqual([]);
    expect(step(checked({ pieces: [stair], body: { ...SHIPPED_BODIES.adult, step: 0.15 } }))).toMatchObject([
      { code: 'step-too-high', message: 'stair: a riser of 0.19 m is a hop, the body steps 0.15 m' },
    ]);
  });

  it('of blocks count as a flight from three on, and one snag tells the worst riser', () => {
    const flight = (rise: number, n: number) => Array.from({ length: n }, (_, i) => testBlock('box', [0.4, rise * (i + 1), 2], [20 + i * 0.4, 2, 20]));
    expect(blockStep(checked({ blocks: flight(0.2, 5) }))).toEqual([]);
    expect(blockStep(checked({ blocks: flight(0.5, 2) }))).toEqual([]);
    expect(blockStep(checked({ blocks: flight(0.5, 4) }))).toMatchObject([
      { code: 'step-too-high', message: expect.stringContaining('a riser of 0.50 m is a hop') },
    ]);
  });
});

describe('ramps', () => {
  it('too steep for the body are told where one can step onto them', () => {
    const ramp = (rise: number, at: number) => testBlock('ramp', [2, rise, 2], [20, at, 20]);
    expect(steepRamp(checked({ blocks: [ramp(1.9, 2)] }))).toEqual([]);
    expect(steepRamp(checked({ blocks: [ramp(2.5, 2)] }))).toMatchObject([
      { code: 'ramp-too-steep', message: expect.stringMatching(/rises 51°, the body walks up to 45°/), mend: 'make it at least 2.5 m long' },
    ]);
    expect(steepRamp(checked({ blocks: [ramp(2.5, 6)] }))).toEqual([]);
  });
});

describe('islands', () => {
  it('are ground that is not linked, with the jump that leads there or what stands between', () => {
    const dots: number[] = [];
    for (let x = 10; x < 20; x++) for (let z = 10; z < 20; z++) dots.push(x, 2, z, 1);
    for (let x = 22; x < 27; x++) for (let z = 10; z < 15; z++) dots.push(x, 2, z, 0);
    dots.push(50, 2, 50, 0);
    const found = island(checked({ dots: Float32Array.from(dots) }));
    // From x 19 to x 22 are 3 m: 0.70 of the adult's 4.28 m reach.
    expect(found).toMatchObject([
      { code: 'gap', message: '25 m² of ground cannot be walked to: the nearest way is 3 m away and 0.0 m up, a jump that is tight' },
    ]);
    const wall = testBlock('box', [0.5, 3, 40], [20.5, 2, 14], 0, { name: 'long wall' });
    expect(island(checked({ dots: Float32Array.from(dots), blocks: [wall] }))).toMatchObject([
      { code: 'ground-unreachable', message: expect.stringContaining('behind long wall') },
    ]);
  });
});

describe('pieces', () => {
  it('float, lie buried, or stand on each other', () => {
    const wall = piece('wall', [20, 2, 20]);
    const roof = piece('roof', [20, 5, 19], { name: 'roof on a wall' });
    const hung = piece('floor', [40, 3.5, 40], { name: 'shelf' });
    const deep = piece('floor', [10, 1, 10], { name: 'cellar' });
    expect(piecePlace(checked({ pieces: [wall, roof, hung, deep] })).map((s) => [s.code, s.message])).toEqual([
      ['piece-floating', 'shelf floats 1.50 m above the ground'],
      ['piece-buried', 'cellar lies 0.85 m under the ground'],
    ]);
    expect(piecePlace(checked({ pieces: [piece('nothing', [1, 2, 1])] }))).toMatchObject([{ code: 'piece-no-mesh' }]);
  });
});

describe('plants set by hand', () => {
  const heather = testSpecies('heather', 0, { rule: { on: true, slope: [0, 30], height: [-10, 10], soft: 5, grounds: ['moss'] } });
  const plant = (at: [number, number, number], scale = 1) => ({
    id: `h${at.join()}${scale}`,
    version: 1,
    kind: 'plant' as const,
    name: 'heather 1',
    species: 'heather',
    at,
    turn: 0,
    scale,
    gone: false,
  });
  const codes = (p: ReturnType<typeof plant>, more: Partial<SnagInput> = {}) =>
    handPlant(checked({ species: [heather], plants: [p], ...more })).map((s) => s.code);

  it('are told where their ground, height, water or size is not theirs', () => {
    expect(codes(plant([20, 2, 20]))).toEqual(['plant-wrong-ground']);
    expect(handPlant(checked({ species: [heather], plants: [plant([20, 2, 20])] }))[0].message).toBe('heather 1 stands on turf, where heather does not grow');
    const anywhere = { species: [{ ...heather, rule: { ...heather.rule, grounds: [] } }] };
    expect(codes(plant([20, 2, 20]), anywhere)).toEqual([]);
    expect(codes(plant([20, 2.8, 20]), anywhere)).toEqual(['plant-floating']);
    expect(codes(plant([20, 1.2, 20]), anywhere)).toEqual(['plant-buried']);
    expect(
      codes(plant([20, 2, 20]), {
        ...anywhere,
        waters: waterBodies(checked({}).terrain, [
          { id: 'w', version: 1, kind: 'water', form: 'plane', name: 'pit', height: 3, x0: 0, z0: 0, x1: 30, z1: 30, hidden: false, out: false },
        ]).bodies,
      }),
    ).toEqual(['plant-wet']);
    expect(codes(plant([20, 2, 20], 3), anywhere)).toEqual(['size-unlikely']);
  });

  it('are told where they are tipped so that one sees into their open side', () => {
    const shell = (open: ('bottom' | 'top')[]): Asset => ({
      ...testAssets().get('gorse')!,
      name: 'lump',
      role: 'prop',
      real: undefined,
      lods: [[new Shape().box([-0.4, 0, -0.4], [0.4, 0.4, 0.4], [0.5, 0.5, 0.5], open).done('x')]],
    });
    const anywhere = { ...heather, asset: 'rock', rule: { ...heather.rule, grounds: [] } };
    const tipped = (lean: number, open: ('bottom' | 'top')[], more: object = {}) =>
      codes(
        { ...plant([20, 2, 20]), ...(lean > 0 ? { tilt: tiltOf(lean, 0)! } : {}) },
        { species: [{ ...anywhere, ...more }], assets: new Map([['rock', shell(open)]]) },
      );
    expect(tipped(25, ['bottom'])).toEqual(['plants-tipped']);
    expect(tipped(5, ['bottom'])).toEqual([]);
    expect(tipped(25, [])).toEqual([]);
    // As its slope lies it shows nothing.
    expect(tipped(25, ['bottom'], { leanToSlope: 1 })).toEqual([]);
  });

  it('along a line are told once a species, where most of it is not at home there', () => {
    const along = (count: number, species = 'heather') =>
      Array.from({ length: count }, (_, i) => ({ ...plant([20 + i, 2, 20]), id: `line~m0-${species}${i}`, name: `foot of the shed: 1.${i + 1}`, species }));
    const anywhere = { ...heather, id: 'fern', name: 'fern', rule: { ...heather.rule, grounds: [] } };
    const found = handPlant(checked({ species: [heather, anywhere], plants: [...along(9), ...along(4, 'fern')] }));
    expect(found.map((s) => [s.code, s.message, s.object])).toEqual([
      ['plant-wrong-ground', 'heather along foot of the shed stands on turf, where it does not grow', 'line'],
    ]);
  });

  it('and species that ask for more than their spacing allows', () => {
    // A spacing of 2 m holds about 66 / 2^2 plants on 100 m².
    const asks = (density: number, more: object = {}) => denserThanSpacing({ species: [{ ...heather, spacing: 2, density, ...more }] });
    expect(asks(15)).toEqual([]);
    expect(asks(40)).toMatchObject([
      {
        code: 'plants-too-dense',
        object: 'heather',
        message: expect.stringMatching(/^heather: 40 plants a 100 m² are asked for, its spacing of 2 m has room for 1[67]$/),
      },
    ]);
    expect(asks(40, { out: true })).toEqual([]);
  });

  it('pieces too, by published sizes and not by their own', () => {
    const assets = testAssets();
    const barrel = { ...assets.get('wall')!, name: 'old barrel', tags: [], real: undefined };
    const at = (scale: number) =>
      pieceSize({ assets: new Map([['barrel', barrel]]), pieces: [piece('barrel', [1, 2, 3], { asset: 'barrel', scale: [1, scale, 1] })] });
    // The mesh is 3.4 m high: no barrel is, however large its own file makes it.
    expect(at(1)).toMatchObject([{ code: 'size-unlikely', message: 'barrel is 3.4 m high; old barrel stands for 0.5 to 1.3 m', at: [1, 2, 3] }]);
    expect([at(0.4), at(0.3), at(0.1)].map((s) => s.length)).toEqual([0, 0, 1]);
    // What its file says comes first; of what nobody knows nothing is said.
    expect(pieceSize({ assets: new Map([['barrel', { ...barrel, real: [2.5, 3.5] }]]), pieces: [piece('barrel', [1, 2, 3], { asset: 'barrel' })] })).toEqual(
      [],
    );
    expect(pieceSize({ assets: new Map([['barrel', { ...barrel, name: 'thing' }]]), pieces: [piece('barrel', [1, 2, 3], { asset: 'barrel' })] })).toEqual([]);
  });
});

describe('a level that asks for too much', () => {
  it('makes so many copies and tells of the rest; grows so many plants and names the species', () => {
    const level = testLevel();
    for (let i = 0; i < 1000; i++) level.objects.set(`m${i}`, testBlock('box', [1, 1, 1], [0, 0, 0], 0, { id: `m${i}`, group: 'yard' }) as never);
    level.objects.set('yard', { id: 'yard', version: 1, kind: 'assembly', name: 'yard', group: 'yard', pivot: [0, 0, 0] });
    for (let i = 0; i < 20_000; i++)
      level.objects.set(`c${i}`, {
        id: `c${i}`,
        version: 1,
        kind: 'copy',
        name: `yard ${i}`,
        assembly: 'yard',
        at: [i, 0, 0],
        turn: 0,
        hidden: false,
        out: false,
      });
    expect(presentBlocks(level)).toHaveLength(1000 + MOST_MADE);
    expect(tooManyCopies(level)).toMatchObject([
      { code: 'copies-too-many', severity: 'blocking', object: 'c100', message: expect.stringContaining('19900 copies') },
    ]);
    expect(tooManyCopies(testLevel())).toEqual([]);
  });
});
