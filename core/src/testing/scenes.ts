import { SHIPPED_BODIES } from '../body/bodies';
import { parseObject } from '../level/objects';
import type { LevelObject } from '../level/objects';
import { makeLevel, type Level } from '../level/level';
import { tileKey, TILE_SAMPLES } from '../level/tiles';
import type { AnyEditBody } from '../level/edits/index';
import { groundDefaults } from '../surface/surfaces';
import { speciesFrom } from '../growth/shippedSpecies';
import { hashBytes } from '../num/hash';
import { packBytes, packRaster, toBase64 } from '../num/fixed';
import { shippedPieces } from '../kit/pieces';
import { shippedPlants } from '../kit/plants';
import type { LevelParts } from '../scene/parts';
import { testObjects } from './levels';

/** Meshes of the level below, by asset object. */
export const sceneAssets = () => new Map([...shippedPieces().slice(0, 3), ...shippedPlants().slice(0, 2)].map((a, i) => [`a${i}`, a]));

const object = (o: object): LevelObject => {
  const parsed = parseObject({ version: 1, name: (o as { id: string }).id, hidden: false, out: false, ...o });
  if (!parsed.ok) throw new Error(`${JSON.stringify(o)}: ${parsed.message}`);
  return parsed.object;
};
const plain = (o: object): LevelObject => {
  const parsed = parseObject({ version: 1, name: (o as { id: string }).id, ...o });
  if (!parsed.ok) throw new Error(`${JSON.stringify(o)}: ${parsed.message}`);
  return parsed.object;
};

const box = (i: number) =>
  object({
    id: `b${i}`,
    kind: 'block',
    shape: i % 3 ? 'box' : 'ramp',
    size: [6, 3, 4],
    at: [8 + i * 7, 0, 12 + (i % 3) * 12],
    turn: i * 20,
    ...(i % 2 ? { group: 'g' } : {}),
  });
const piece = (i: number) =>
  object({
    id: `p${i}`,
    kind: 'piece',
    asset: `a${i % 3}`,
    at: [10 + i * 8, 1, 40],
    turn: i * 30,
    sink: 0,
    collider: 'asset',
    ...(i === 1 ? { group: 'g' } : {}),
  });
const voids = (i: number) => object({ id: `v${i}`, kind: 'block', shape: 'box', op: 'void', size: [2, 2, 8], at: [15 + i * 14, 0, 24], turn: 10 });

const openRule = { on: true, slope: [0, 60], height: [-500, 500], soft: 4, grounds: [] };

/** A level of everything that a node is made from: lifts, waters, rules of every bearing, solids cut and plain, copies, pieces, plants. */
export const sceneLevel = (): Level =>
  makeLevel([
    ...testObjects(2, 0.5, { seed: 3, height: 3, scale: 30, octaves: 2 }),
    ...groundDefaults(),
    plain({
      id: 'heap',
      kind: 'lift',
      lift: 'landform',
      order: 10,
      visible: true,
      line: [
        [20, 20],
        [40, 30],
        [24, 40],
      ],
      height: 3,
      foot: 6,
    }),
    plain({
      id: 'pad',
      kind: 'lift',
      lift: 'pad',
      order: 20,
      visible: true,
      outline: [
        [44, 44],
        [56, 44],
        [56, 56],
        [44, 56],
      ],
      height: 1,
      batter: 30,
      follows: [{ id: 'b1' }],
    }),
    plain({ id: 'pool', kind: 'water', form: 'pool', height: 0.5, seed: [12, 50], hidden: false, out: false }),
    plain({ id: 'tops', kind: 'groundRule', order: 90, surface: 'moss', share: 1, where: [], wins: false, on: true, lies: 'tops' }),
    plain({
      id: 'shore',
      kind: 'groundRule',
      order: 30,
      surface: 'gravel',
      share: 1,
      where: [{ by: 'shore', band: [-20, 3], soft: 1 }],
      wins: false,
      on: true,
    }),
    plain({
      id: 'byLift',
      kind: 'groundRule',
      order: 40,
      surface: 'slate',
      share: 0.8,
      where: [{ by: 'lift', band: [0.5, 50], soft: 1, lift: 'heap' }],
      wins: false,
      on: true,
    }),
    ...[0, 1, 2, 3, 4].map((i) => plain({ id: `a${i}`, kind: 'asset', role: i < 3 ? 'piece' : 'plant', hash: `${i}`.repeat(64) })),
    ...[0, 1].map((i) => ({ ...speciesFrom({ id: `a${3 + i}`, name: `s${i}` }, shippedPlants()[i].name, i, 11 + i), id: `s${i}` })),
    ...[0, 1, 2, 3, 4, 5].map(box),
    ...[0, 1].map(voids),
    ...[0, 1, 2, 3].map(piece),
    plain({ id: 'coat0', kind: 'coat', order: 0, colour: '#446633', share: 1, where: [], on: true }),
    plain({ id: 'group', kind: 'assembly', group: 'g', pivot: [0, 0, 0] }),
    object({ id: 'copy', kind: 'copy', assembly: 'group', at: [4, 0, 30], turn: 70 }),
  ]);

/** A dab of whole numbers on a tile. */
const dab = (id: string, channel: 'delta' | 'paint' | 'top' | 'sown' | 'area', tx: number, tz: number, by: number): AnyEditBody => {
  const delta = new Int32Array(TILE_SAMPLES);
  for (let z = 20; z < 40; z++) for (let x = 10; x < 30; x++) delta[z * 65 + x] = by;
  return { kind: 'stroke', tiles: [{ key: tileKey(id, channel, tx, tz), delta: toBase64(packRaster(delta)) }] };
};
const set = (id: string, fields: object): AnyEditBody => ({ kind: 'set', patches: [{ id, set: fields as Record<string, unknown> }] });

const heath = object({
  id: 'heath',
  kind: 'habitat',
  order: 0,
  area: 'drawn',
  outlines: [
    [
      [4, 4],
      [50, 8],
      [40, 52],
    ],
  ],
  soft: 6,
  rules: [
    {
      id: 'r1',
      name: 'low',
      density: 9,
      mix: [{ species: 's1', weight: 2 }, { species: 's0' }],
      children: [{ species: 's0', about: 's1', chance: 0.4, count: [1, 3], spread: 1.5 }],
    },
    { id: 'r2', name: 'high', density: 4, mix: [{ species: 's0' }], where: [{ is: { by: 'marker', band: [5, 200], soft: 2 } }] },
  ],
});

/** Edits that reach every node; what is no longer possible is refused. */
export const SCENE_EDITS: readonly AnyEditBody[] = [
  set('b1', { at: [30, 0, 24], turn: 15 }),
  set('b2', { size: [10, 4, 4], tilt: undefined, name: 'long' }),
  set('b3', { out: true }),
  set('b3', { out: false, hidden: true }),
  set('b4', { op: 'void' }),
  set('b4', { op: null }),
  set('b5', { shape: 'cylinder' }),
  set('b5', {
    stops: [
      { by: [0, 0, 0], travel: 1, wait: 1 },
      { by: [0, 2, 0], travel: 1, wait: 1 },
    ],
  }),
  set('v0', { at: [22, 0, 24] }),
  set('v1', { size: [3, 5, 30] }),
  set('v1', { cuts: 'group' }),
  { kind: 'remove', ids: ['v0'] },
  { kind: 'add', objects: [voids(0)] },
  { kind: 'remove', ids: ['b0'] },
  { kind: 'add', objects: [box(0)] },
  { kind: 'add', objects: [box(6), box(7)] },
  set('p0', { at: [20, 1.5, 20], scale: [1, 2, 1] }),
  set('p1', { asset: 'a2' }),
  set('p0', { bend: { at: [-1, 0, 0], length: 2, run: 3, rise: 0.5, side: [-0.3, 0.4], slope: [0.1, 0.3] } }),
  set('p2', { tint: '#aa5500' }),
  set('p2', { paint: { min: [0, 0, 0], cell: 1, size: [2, 2, 2], coats: [{ coat: 'coat1', cells: toBase64(packBytes(new Uint8Array(8).fill(200))) }] } }),
  set('coat0', { assets: ['a1'] }),
  set('coat0', { on: false }),
  { kind: 'add', objects: [object({ id: 'coat1', kind: 'coat', order: 1, colour: '#446633', share: 0, where: [], on: true })] },
  { kind: 'remove', ids: ['coat0'] },
  { kind: 'remove', ids: ['p3'] },
  { kind: 'add', objects: [piece(3)] },
  set('copy', { at: [0, 0, 20], turn: 200 }),
  set('copy', { overrides: [{ member: 'b1', move: [2, 0, 3] }] }),
  set('group', { pivot: [4, 0, 2] }),
  set('heap', {
    height: 5,
    line: [
      [30, 20],
      [44, 36],
      [20, 44],
    ],
  }),
  set('heap', { visible: false }),
  set('heap', { visible: true }),
  set('noise', { seed: 9 }),
  set('noise', { height: 2 }),
  set('pool', { height: 1.5 }),
  set('pool', { out: true }),
  set('pool', { out: false }),
  set('tops', { on: false }),
  set('tops', { on: true, surface: 'turf' }),
  set('shore', { where: [{ by: 'shore', band: [-20, 6], soft: 1 }] }),
  set('s0', { density: 0.2 }),
  set('s1', { out: true }),
  set('s1', { out: false }),
  set('settings', { device: 'den-60' }),
  set('settings', { plantCeiling: 12 }),
  set('settings', { plantCeiling: null }),
  set('s1', { ceiling: 6 }),
  set('s0', {
    rule: {
      ...openRule,
      where: [
        { is: { by: 'noise', band: [0.3, 1], soft: 0.2, seed: 4, scale: 9 } },
        { is: { by: 'lift', band: [0.1, 500], soft: 0.1, lift: 'heap' }, or: true },
      ],
    },
  }),
  set('s1', {
    rule: {
      ...openRule,
      where: [
        { is: { by: 'plants', band: [0, 6], soft: 2, species: 's0' } },
        { is: { by: 'marker', band: [4, 200], soft: 1 } },
        { is: { by: 'block', band: [0, 3], soft: 1 }, not: true },
        { is: { by: 'piece', band: [0, 2], soft: 1 }, not: true },
        { is: { by: 'canopy', band: [0, 0.6], soft: 0.4 } },
      ],
    },
  }),
  { kind: 'add', objects: [heath] },
  set('heath', { area: 'rest', where: [{ is: { by: 'lift', band: [-500, 0.2], soft: 0.1, lift: 'heap' } }] }),
  set('heath', { on: false }),
  dab('hand', 'delta', 0, 0, 900),
  dab('hand', 'delta', 1, 0, -1500),
  dab('moss', 'paint', 0, 1, 700),
  dab('moss', 'top', 0, 0, 700),
  dab('s0', 'sown', 1, 1, 2000),
  set('heath', { on: true, area: 'drawn' }),
  dab('heath', 'area', 1, 0, 900),
  { kind: 'remove', ids: ['heath'] },
  { kind: 'add', objects: [plain({ id: 'cover0', kind: 'cover', order: 0, surface: 'turf', species: 's0', density: 30 })] },
  set('cover0', { density: 12 }),
  set('s0', { cutoff: 14, meshes: [{ asset: 'a4', weight: 2 }] }),
  dab('hand', 'delta', 0, 0, -700),
  dab('moss', 'paint', 1, 1, 400),
  set('b2', { at: [36, 0, 30] }),
  set('cover0', { surface: 'moss' }),
  { kind: 'remove', ids: ['cover0'] },
  set('s1', { rule: { ...openRule, where: [{ is: { by: 'walk', band: [0, 200], soft: 1 } }] } }),
  set('adult', { figures: { ...SHIPPED_BODIES.adult, maxSlope: 12 } }),
  set('b2', { at: [30, 0, 36] }),
];

/** A value with its arrays of numbers as hashes of their bits: quick to hold against another. */
function digest(value: unknown): unknown {
  if (ArrayBuffer.isView(value)) {
    const bytes = new Uint8Array(value.buffer, value.byteOffset, value.byteLength);
    return `${value.constructor.name} ${bytes.length} ${hashBytes(bytes)}`;
  }
  if (Array.isArray(value)) return value.map(digest);
  if (value && typeof value === 'object') return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, digest(v)]));
  return value;
}

/** Results as plain values that can be held against each other bit for bit; lists without an order by their keys. */
export function resultsOf({
  terrain,
  ground,
  blocks,
  grid,
  built,
  pieces,
  meshes,
  grown,
  waters,
  solids,
  drawables,
  species,
  voids: cutting,
}: LevelParts): Record<string, unknown> {
  const byKey = (a: { key: string }, b: { key: string }) => (a.key < b.key ? -1 : 1);
  const all = {
    heights: terrain.heights,
    ground: [ground.surfaces, ground.of, ground.weights, ground.tops.map((n) => n), ground.topOf.map((of, i) => (ground.tops[i] > 0 ? of : 0))],
    blocks: [...blocks],
    grid: [...grid.keys()].sort().map((key) => [key, grid.get(key)]),
    built: built.map((mesh) => ({ ...mesh, key: undefined })),
    voids: [...cutting],
    pieces: pieces.map((p) => ({ ...p, key: undefined })),
    meshes: [...meshes].sort().map(([key, list]) => [key, list.map((m) => m.id)]),
    species: [...species],
    grown,
    waters,
    solids: solids.map((p) => ({ ...p, key: undefined })),
    drawables: [...drawables].sort(byKey),
  };
  return digest(all) as Record<string, unknown>;
}
