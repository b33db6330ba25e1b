import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { blockGrid } from '../block/grid';
import type { Asset, Collider } from '../kit/asset';
import { placedPieces } from '../kit/placement';
import { Shape } from '../kit/shape';
import type { Piece } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { cornersAt, testKit, testLine } from '../testing/kits';
import { testBlock, testLevel, terrainOf } from '../testing/levels';
import { testPiece } from '../testing/pieces';
import { colliders } from './collider';
import { doorway } from './doorway';
import { Eyes } from './eyes';
import { nearDetail, wantedTexels } from './nearDetail';
import { poking } from './poking';
import { MOST_DEFAULT_NAMES, tidy } from './tidy';

const body = SHIPPED_BODIES.adult;
const box = (name: string, [w, h, d]: Vec3, collider: Collider = 'box', more: Partial<Asset> = {}): Asset => ({
  name,
  role: 'prop',
  collider,
  tags: [],
  trunk: 0,
  lods: [[new Shape().box([-w / 2, 0, -d / 2], [w / 2, h, d / 2], [0.5, 0.5, 0.5]).done('x')]],
  textureBytes: 0,
  ...more,
});
/** Dots 1 m apart over a rectangle, reached. */
const dotsOver = (x0: number, z0: number, x1: number, z1: number, y = 0, reached = 1): Float32Array => {
  const out: number[] = [];
  for (let z = z0; z <= z1; z++) for (let x = x0; x <= x1; x++) out.push(x, y, z, reached);
  return Float32Array.from(out);
};
const at = (asset: string, id: string, where: Vec3, more: Partial<Piece> = {}): Piece => testPiece(id, where, { asset, ...more });
const told = (list: readonly { code: string; message: string }[]): string[] => list.map((s) => `${s.code}: ${s.message}`);
const world = (assets: Map<string, Asset>, pieces: Piece[], dots: Float32Array = new Float32Array()) => ({
  assets,
  pieces,
  placed: placedPieces(pieces, assets),
  body,
  dots,
  kits: [],
  terrain: terrainOf(() => 0),
  blocks: [],
  grid: blockGrid([]),
});

describe('how near an eye gets', () => {
  it('is the least of all places, up and down counted from feet to eye', () => {
    const eyes = new Eyes(Float32Array.from([...dotsOver(0, 0, 20, 20), ...dotsOver(60, 60, 62, 62, 0, 0)]));
    const cube = (x: number, y: number, z: number) => ({ min: [x, y, z] as Vec3, max: [x + 1, y + 1, z + 1] as Vec3 });
    expect(eyes.nearest(cube(23, 0, 10), 1.6, 100)).toBeCloseTo(3, 9);
    expect(eyes.nearest(cube(10, 4.6, 10), 1.6, 100)).toBeCloseTo(3, 9);
    expect(eyes.nearest(cube(24, 4.6, 10), 1.6, 100)).toBeCloseTo(5, 9);
    expect(eyes.nearest(cube(24, 4.6, 10), 1.6, 4.9)).toBeUndefined();
    // Ground that nobody gets to shows nobody anything.
    expect(eyes.nearest(cube(61, 0, 61), 1.6, 100)).toBeGreaterThan(50);
  });
});

describe('colliders', () => {
  const bare = box('crate', [0.8, 0.8, 0.8], 'none');
  it('are missing where one touches and walks through; not far off, of what is low or thin, or of background', () => {
    const assets = new Map([
      ['crate', bare],
      ['sill', box('sill', [0.8, 0.1, 0.8], 'none')],
      ['pole', box('pole', [0.1, 2, 0.1], 'none')],
      ['hill', box('hill', [9, 9, 9], 'none', { role: 'background' })],
    ]);
    const pieces = [
      at('crate', 'a', [5, 0, 5]),
      at('crate', 'b', [60, 0, 60]),
      at('sill', 'c', [6, 0, 6]),
      at('pole', 'd', [7, 0, 7]),
      at('hill', 'e', [8, 0, 8]),
    ];
    expect(told(colliders(world(assets, pieces, dotsOver(0, 0, 10, 10))))).toEqual([
      'collider-missing: a can be touched and is walked through: it has no collider',
    ]);
    expect(colliders(world(assets, [at('crate', 'a', [5, 0, 5], { collider: 'box' })], dotsOver(0, 0, 10, 10)))).toEqual([]);
  });

  it('that nobody gets to are told with their triangles, and none while there is no walk area', () => {
    const assets = new Map([['crate', box('crate', [0.8, 0.8, 0.8])]]);
    const pieces = [at('crate', 'a', [5, 0, 5]), at('crate', 'b', [30, 0, 30]), at('crate', 'c', [34, 0, 30])];
    expect(told(colliders(world(assets, pieces, dotsOver(0, 0, 10, 10))))).toEqual([
      'collider-unreached: nobody gets nearer than 6 m to b and 1 more of it: 24 triangles of colliders stop nobody',
    ]);
    expect(colliders(world(assets, pieces))).toEqual([]);
  });

  it('of a whole mesh are dear, and a cylinder about a beam is larger than the beam', () => {
    const shape = new Shape();
    for (let i = 0; i < 40; i++) shape.box([i * 0.1, 0, 0], [i * 0.1 + 0.05, 1, 1], [1, 1, 1]);
    const assets = new Map([
      ['grille', box('grille', [1, 1, 1], 'mesh', { lods: [[shape.done('x')]] })],
      ['beam', box('beam', [4, 0.3, 0.3], 'cylinder')],
    ]);
    const found = told(colliders(world(assets, [at('grille', 'a', [5, 0, 5]), at('grille', 'b', [9, 0, 5]), at('beam', 'c', [5, 0, 9])])));
    expect(found[0]).toBe('collider-dear: a and 1 more of it stops a body with all its 480 triangles, 960 together: parts would be about 384');
    // Half its diagonal about the middle, against half of 0.3 m: and as much as the 24 sides stand outside their circle.
    expect(found[1]).toMatch(/^collider-large: c stops a body 1\.8\d m beside what is seen of it: its cylinder is larger/);
    expect(found).toHaveLength(2);
  });
});

describe('what pokes through', () => {
  const assets = new Map([
    ['crate', box('crate', [0.8, 0.8, 0.8])],
    ['wall', box('wall', [4, 3, 0.3])],
  ]);
  it('is told by how far it comes out on the far side of a piece or a block', () => {
    // The wall goes from z = 9.85 to 10.15; the crate's far side is at 10.4.
    const through = [at('wall', 'w', [10, 0, 10]), at('crate', 'c', [10, 0, 10.0])];
    expect(poking(world(assets, through))).toEqual([]);
    const behind = [at('wall', 'w', [10, 0, 10]), at('crate', 'c', [10, 0, 9.8])];
    expect(poking(world(assets, behind))).toEqual([]);
    // Its middle stands free before the wall: from 9.2 to 10.5.
    const long = new Map([...assets, ['beam', box('beam', [0.2, 0.2, 1.6])]]);
    expect(told(poking(world(long, [at('wall', 'w', [10, 0, 10]), at('beam', 'b', [10, 1, 9.7])])))).toEqual([
      'piece-poking: b comes out 0.35 m on the far side of w',
    ]);
    expect(poking(world(long, [at('wall', 'w', [10, 0, 10]), at('beam', 'b', [10, 1, 9.4])]))).toEqual([]);
    const block = testBlock('box', [4, 3, 0.3], [10, 0, 10], 0, { name: 'screen' });
    expect(told(poking({ ...world(long, [at('beam', 'b', [10, 1, 9.7])]), blocks: [block], grid: blockGrid([block]) }))).toEqual([
      'piece-poking: b comes out 0.35 m on the far side of screen',
    ]);
  });

  it('is not what is a part of a kit, nor what sinks into the ground', () => {
    const beams = new Map([...assets, ['beam', box('beam', [0.2, 0.2, 1.6])]]);
    const kit = testKit();
    const kits = [{ ...kit, parts: [...kit.parts, { ...kit.parts[0], asset: 'beam' }] }];
    const pieces = [at('wall', 'w', [10, 0, 10]), at('beam', 'b', [10, 1, 9.7])];
    expect(poking({ ...world(beams, pieces), kits })).toEqual([]);
    expect(poking(world(beams, [at('beam', 'b', [10, -0.1, 9.7])]))).toEqual([]);
  });
});

describe('detail where an eye gets', () => {
  it('wants 512 pixels a metre up to 3 m, then fewer in proportion, and 64 at least', () => {
    expect([0, 3, 6, 24, 100].map(wantedTexels)).toEqual([512, 512, 256, 64, 64]);
  });

  /** A square of 2 m with one picture over it. */
  const board = (pixels: number): Asset => {
    const flat = new Shape().box([-1, 0, -0.05], [1, 2, 0.05], [1, 1, 1]).done('x');
    const uvs = new Float32Array((flat.positions.length / 3) * 2);
    for (let i = 0; i < uvs.length / 2; i++) [uvs[i * 2], uvs[i * 2 + 1]] = [flat.positions[i * 3] / 2, flat.positions[i * 3 + 1] / 2];
    return box('board', [2, 2, 0.1], 'box', {
      lods: [[{ ...flat, uvs, look: 0 }]],
      materials: [{ textures: { baseColour: { texture: 0, uv: 0, scale: [1, 1], offset: [0, 0], rotation: 0 } } }] as unknown as Asset['materials'],
      textures: [{ width: pixels, height: pixels }] as unknown as Asset['textures'],
    });
  };
  it('is coarse or fine by the nearest eye to any piece of a mesh', () => {
    const found = (pixels: number, z: number) =>
      told(nearDetail(world(new Map([['board', board(pixels)]]), [at('board', 'far', [5, 0, 60]), at('board', 'b', [5, 0, z])], dotsOver(0, 0, 10, 10))));
    // 1024 pixels over 2 m are 512 a metre.
    expect(found(1024, 12)).toEqual([]);
    expect(found(256, 12)).toEqual(['texels-coarse: b has 128 pixels a metre where 512 are wanted: an eye gets as near as 1.9 m']);
    expect(found(4096, 12)).toEqual(['texels-fine: b has 2048 pixels a metre where 512 are wanted: an eye gets as near as 1.9 m']);
    expect(found(256, 22)).toEqual([]);
  });

  it('counts materials and triangles', () => {
    const shape = new Shape();
    for (let i = 0; i < 200; i++) shape.lump([0, 0.5, 0], [0.02, 0.02, 0.02], 1, { rough: 0, seed: i, colour: [1, 1, 1] });
    const many = box('nail', [0.04, 0.04, 0.04], 'box', {
      lods: [[shape.done('x')]],
      materials: Array.from({ length: 6 }, () => ({ textures: {} })) as unknown as Asset['materials'],
    });
    const found = told(nearDetail(world(new Map([['nail', many]]), [at('nail', 'n', [5, 0, 5])], dotsOver(0, 0, 10, 10))));
    expect(found[0]).toBe('materials-many: nail wears 6 materials, 4 are advised: 2 draws more for its 1');
    expect(found[1]).toMatch(/^triangles-fine: n has 6400 triangles of 0\.\d pixels each at 0\.\d m/);
  });
});

describe('doorways', () => {
  const kits = [testKit()];
  it('are told where nobody gets to one side, or to either', () => {
    const door = testPiece('door', [10, 0, 10], { asset: 'kit-door' });
    const both = Float32Array.from([...dotsOver(5, 5, 15, 9), ...dotsOver(5, 11, 15, 15)]);
    expect(doorway({ pieces: [door], kits, dots: both })).toEqual([]);
    expect(told(doorway({ pieces: [door], kits, dots: dotsOver(5, 5, 15, 9) }))).toEqual(['doorway-unreached: nobody gets to door from one side of it']);
    expect(told(doorway({ pieces: [door], kits, dots: dotsOver(50, 50, 55, 59) }))).toEqual(['doorway-unreached: nobody gets to door from either side']);
    // The floor above is another storey; without a walk area nothing is known.
    const upstairs = Float32Array.from([...dotsOver(5, 5, 15, 9), ...dotsOver(5, 11, 15, 15, 3)]);
    expect(doorway({ pieces: [door], kits, dots: upstairs })).toHaveLength(1);
    expect(doorway({ pieces: [door], kits, dots: new Float32Array() })).toEqual([]);
  });
});

describe('lists that stay short', () => {
  it('empty assemblies, lines with faults and names that say nothing are told', () => {
    const level = testLevel();
    expect(tidy(level)).toEqual([]);
    level.objects.set('yard', { id: 'yard', version: 1, kind: 'assembly', name: 'yard', group: 'yard', pivot: [0, 0, 0] });
    level.objects.set('kit', testKit());
    level.objects.set('line', testLine({ corners: cornersAt([0, 0], [4, 0]), roof: true }));
    level.objects.set('crate', { id: 'crate', version: 1, kind: 'asset', name: 'crate', role: 'prop', hash: 'a'.repeat(64) });
    for (let i = 0; i < MOST_DEFAULT_NAMES; i++) level.objects.set(`p${i}`, testPiece(`p${i}`, [i, 0, 0], { asset: 'crate', name: `crate ${i + 1}` }));
    expect(told(tidy(level))).toEqual([
      'group-empty: the assembly yard has no members',
      'line-fault: line: floors, stairs and roofs are laid over closed outlines with corners',
    ]);
    level.objects.set('b', testBlock('box', [1, 1, 1], [0, 0, 0], 0, { id: 'b', name: 'box 3' }));
    level.objects.set('p0', testPiece('p0', [0, 0, 0], { asset: 'crate', name: 'crate by the door' }));
    expect(tidy(level)).toHaveLength(2);
    level.objects.set('p0', testPiece('p0', [0, 0, 0], { asset: 'crate', name: 'crate 1' }));
    expect(told(tidy(level))[2]).toMatch(/^names-default: 61 things have the names they were made with/);
  });
});
