import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { blockGrid } from '../block/grid';
import type { Asset } from '../kit/asset';
import { placedPieces } from '../kit/placement';
import { Shape } from '../kit/shape';
import type { Piece } from '../level/objects';
import { tiltOf } from '../num/pose';
import type { Vec3 } from '../num/vec';
import { testAssets } from '../testing/assets';
import { presentOf } from '../level/present';
import { cornersAt, endJoins, testKit, testLine } from '../testing/kits';
import { testPiece as piece } from '../testing/pieces';
import { terrainOf, testLevel } from '../testing/levels';
import { BoxIndex } from './boxIndex';
import { coplanar } from './coplanar';
import { hollowSeen } from './hollowSeen';
import { joinFit } from './joinFit';
import { doubled, twins } from './samePlace';

const said = (list: readonly { code: string; message: string }[]) => list.map((s) => [s.code, s.message]);
const kits = [testKit()];

describe('joins of kits', () => {
  it('that meet to a millimetre are well; gaps, overlaps and what lies aside are told by their size, each pair once', () => {
    expect(joinFit({ kits, pieces: [piece('a', [0, 0, 0]), piece('b', [2.0009, 0, 0])] })).toEqual([]);
    expect(said(joinFit({ kits, pieces: [piece('a', [0, 0, 0]), piece('b', [2.012, 0, 0])] }))).toEqual([
      ['join-apart', 'a and b have a gap of 12 mm where they join'],
    ]);
    expect(said(joinFit({ kits, pieces: [piece('a', [0, 0, 0]), piece('b', [1.95, 0, 0])] }))).toEqual([
      ['join-apart', 'a and b lie 50 mm into each other where they join'],
    ]);
    expect(said(joinFit({ kits, pieces: [piece('a', [0, 0, 0]), piece('b', [2, 0, 0.03])] }))).toEqual([
      ['join-apart', 'a and b lie 30 mm aside of each other where they join'],
    ]);
    // A gap one walks through is meant.
    expect(joinFit({ kits, pieces: [piece('a', [0, 0, 0]), piece('b', [3, 0, 0])] })).toEqual([]);
  });

  it('of a house of two storeys that is laid askew, turned by 37 degrees, all meet', () => {
    const level = testLevel();
    const corners = cornersAt([0, 0], [0, 8.6], [9.3, 8.6], [9.3, 0]);
    const house = testLine({ turn: 37, at: [60, 1, 60], corners, closed: true, storeys: 2, floors: true, roof: true, remainder: 'stretch' });
    for (const o of [...kits, house]) level.objects.set(o.id, o);
    const pieces = presentOf(level.objects).of('piece');
    expect(pieces.length).toBeGreaterThan(40);
    expect(said(joinFit({ kits, pieces }))).toEqual([]);
  });

  it('that meet something else already are not told of what is near them as well', () => {
    expect(joinFit({ kits, pieces: [piece('a', [0, 0, 0]), piece('b', [2, 0, 0]), piece('c', [2.1, 0, 0])] }).length).toBe(0);
  });

  it('that do not take each other are told', () => {
    const rail = testKit({ id: 'rails', parts: [{ ...testKit().parts[0], asset: 'rail', joins: endJoins(1, 'rail') }] });
    const pieces = [piece('a', [0, 0, 0]), piece('b', [2, 0, 0], { asset: 'rail' })];
    expect(said(joinFit({ kits: [...kits, rail], pieces }))).toEqual([['join-misfit', 'a and b meet, and wall does not take rail']]);
    const takes = { ...rail, parts: [{ ...rail.parts[0], joins: endJoins(1, 'rail').map((j) => ({ ...j, fits: ['rail', 'wall'] })) }] };
    const wide = testKit({ parts: [{ ...testKit().parts[0], joins: endJoins(1).map((j) => ({ ...j, fits: ['rail', 'wall'] })) }] });
    expect(joinFit({ kits: [wide, takes], pieces })).toEqual([]);
  });

  it('of walls that meet nothing are told where the kit has an end for them', () => {
    const ended = testKit({ parts: [...testKit().parts, { ...testKit().parts[0], asset: 'end', use: 'end', joins: endJoins(0.2).slice(0, 1) }] });
    const pieces = [piece('a', [0, 0, 0]), piece('b', [2, 0, 0])];
    expect(joinFit({ kits, pieces })).toEqual([]);
    expect(said(joinFit({ kits: [ended], pieces }))).toEqual([
      ['join-open', 'a ends in the open at -1.0, 0.0'],
      ['join-open', 'b ends in the open at 3.0, 0.0'],
    ]);
    expect(
      joinFit({ kits: [ended], pieces: [...pieces, piece('e', [3.2, 0, 0], { asset: 'end' }), piece('f', [-1.2, 0, 0], { asset: 'end', turn: 180 })] }),
    ).toEqual([]);
  });

  it('along one laid line may stand on steps', () => {
    expect(joinFit({ kits, pieces: [piece('l~c0-0-0', [0, 0, 0]), piece('l~c0-0-1', [2, 0.25, 0])] })).toEqual([]);
    expect(joinFit({ kits, pieces: [piece('l~c0-0-0', [0, 0, 0]), piece('m~c0-0-1', [2, 0.25, 0])] }).length).toBe(1);
  });
});

describe('pieces in one place, and twins', () => {
  const assets = new Map<string, Asset>([
    ['crate', { ...testAssets().get('corner')!, name: 'crate', role: 'prop' }],
    ['kit-wall', testAssets().get('wall')!],
  ]);
  const crate = (id: string, at: Vec3, more: Partial<Piece> = {}) => piece(id, at, { asset: 'crate', ...more });

  it('one mesh twice in one place is told of the second; another mesh, size or turn is none', () => {
    const a = crate('a', [1, 0, 1]);
    expect(said(doubled({ pieces: [a, crate('b', [1.004, 0, 1])] }))).toEqual([['piece-doubled', 'b stands where a does']]);
    expect(doubled({ pieces: [a, crate('b', [1.05, 0, 1])] })).toEqual([]);
    expect(doubled({ pieces: [a, crate('b', [1, 0, 1], { turn: 5 })] })).toEqual([]);
    expect(doubled({ pieces: [a, crate('b', [1, 0, 1], { scale: [1.2, 1, 1] })] })).toEqual([]);
    expect(doubled({ pieces: [a, piece('w', [1, 0, 1])] })).toEqual([]);
    expect(doubled({ pieces: [crate('a', [1, 0, 1], { turn: 180 }), crate('b', [1, 0, 1], { turn: -180 })] }).length).toBe(1);
  });

  it('props the same way round near each other are one finding a cluster; turned, sized or far they are none, and walls never', () => {
    const row = [crate('a', [0, 0, 0]), crate('b', [3, 0, 0], { turn: 4 }), crate('c', [6, 0, 0])];
    expect(said(twins({ pieces: row, assets }))).toEqual([['piece-twins', 'a and 2 others of it stand the same way round within 10 m']]);
    expect(twins({ pieces: [row[0], crate('b', [3, 0, 0], { turn: 60 }), crate('c', [6, 0, 0], { scale: [1.2, 1.2, 1.2] })], assets })).toEqual([]);
    expect(twins({ pieces: [row[0], crate('b', [14, 0, 0])], assets })).toEqual([]);
    expect(twins({ pieces: [piece('a', [0, 0, 0]), piece('b', [2, 0, 0])], assets })).toEqual([]);
  });
});

describe('faces in one plane', () => {
  const box: Asset = {
    name: 'box',
    role: 'prop',
    collider: 'box',
    tags: [],
    trunk: 0,
    textureBytes: 0,
    lods: [[new Shape().box([-1, 0, -0.5], [1, 2, 0.5], [0.5, 0.5, 0.5]).done('x')]],
  };
  const assets = new Map([['box', box]]);
  const at = (id: string, where: Vec3, more: Partial<Piece> = {}) => piece(id, where, { asset: 'box', ...more });
  const look = (...pieces: Piece[]) => said(coplanar({ pieces, placed: placedPieces(pieces, assets), assets }));

  it('are told by what both cover: fronts, backs and tops of boxes that run into each other in line', () => {
    // 0.5 m long: fronts and backs 0.5 x 2 each, tops and bottoms 0.5 x 1 each.
    expect(look(at('a', [0, 0, 0]), at('b', [1.5, 0, 0]))).toEqual([['faces-fight', 'a and b have 3.00 m² of faces in one plane: they flicker']]);
    // Turned together they are the same.
    expect(look(at('a', [0, 0, 0], { turn: 30 }), at('b', [1.5 * Math.cos(Math.PI / 6), 0, -0.75], { turn: 30 }))).toEqual([
      ['faces-fight', 'a and b have 3.00 m² of faces in one plane: they flicker'],
    ]);
  });

  it('that look at each other, meet end to end or lie a centimetre off do not fight', () => {
    expect(look(at('a', [0, 0, 0]), at('b', [2, 0, 0]))).toEqual([]);
    expect(look(at('a', [0, 0, 0]), at('b', [0, 2, 0]))).toEqual([]);
    expect(look(at('a', [0, 0, 0]), at('b', [1.5, 0.01, 0.01]))).toEqual([]);
    // What a third box covers is not seen: 0.1 m larger all round.
    expect(look(at('a', [0, 0, 0]), at('b', [1.5, 0, 0]), at('c', [0.75, -0.1, 0], { scale: [0.5, 1.1, 1.2] }))).toEqual([]);
  });

  it('are told however they are turned: what two squares askew share is an octagon, less what lies on the ground', () => {
    // Squares of 1 m, one turned by 45 degrees: 2 (sqrt 2 - 1) = 0.828 m2 on top, and as much below.
    const pieces = [at('a', [20, 0, 20], { scale: [0.5, 1, 1] }), at('b', [20, 0, 20], { scale: [0.5, 1, 1], turn: 45 })];
    expect(look(...pieces)).toEqual([['faces-fight', 'a and b have 1.66 m² of faces in one plane: they flicker']]);
    const input = { pieces, placed: placedPieces(pieces, assets), assets };
    expect(said(coplanar({ ...input, terrain: terrainOf(() => 0, 1, 0.5) }))).toEqual([
      ['faces-fight', 'a and b have 0.83 m² of faces in one plane: they flicker'],
    ]);
    // Tilted together about x they are the same; tilted apart they cross in a line.
    const tilt = tiltOf(25, 0);
    expect(look(at('a', [0, 0, 0], { tilt }), at('b', [0.5, 0, 0], { tilt }))).toHaveLength(1);
    expect(look(at('a', [0, 0, 0], { tilt }), at('b', [0.5, 0, 0], { tilt: tiltOf(28, 0) }))).toEqual([]);
  });
});

describe('open sides that are seen into', () => {
  /** A box 2 m a side whose south side is missing. */
  const shell: Asset = {
    name: 'shell',
    role: 'prop',
    collider: 'box',
    tags: [],
    trunk: 0,
    textureBytes: 0,
    lods: [[new Shape().box([-1, 0, -1], [1, 2, 1], [0.5, 0.5, 0.5], ['south']).done('x')]],
  };
  const assets = new Map([
    ['shell', shell],
    ['kit-wall', testAssets().get('wall')!],
  ]);
  const look = (pieces: Piece[], dots: readonly Vec3[], linked = 1, by?: 'child' | 'adult') =>
    hollowSeen({
      by,
      terrain: terrainOf(() => 0),
      grid: blockGrid([]),
      pieces,
      placed: placedPieces(pieces, assets),
      assets,
      body: SHIPPED_BODIES[by ?? 'adult'],
      dots: new Float32Array(dots.flatMap((d) => [...d, linked])),
    });
  const at = (turn: number) => piece('shell 1', [20, 0, 20], { asset: 'shell', turn });

  it('from before it, and from nowhere else', () => {
    expect(said(look([at(0)], [[20, 0, 30]]))).toEqual([['hollow-seen', 'shell 1: from 20.0, 30.0 one sees into the open side (front)']]);
    expect(
      look(
        [at(0)],
        [
          [20, 0, 10],
          [10, 0, 20],
          [30, 0, 20],
        ],
      ),
    ).toEqual([]);
    // Turned by a quarter its front looks east.
    expect(look([at(90)], [[20, 0, 30]])).toEqual([]);
    expect(look([at(90)], [[30, 0, 20]]).length).toBe(1);
  });

  it('by each body from its own eye: over a wall of 1.2 m a tall one looks and a small one does not', () => {
    const wall = piece('wall', [20, 0, 26], { asset: 'kit-wall', scale: [2, 0.4, 1] });
    expect(said(look([at(0), wall], [[20, 0, 30]], 1, 'adult'))).toEqual([['hollow-seen', 'shell 1: from 20.0, 30.0 adult sees into the open side (front)']]);
    expect(look([at(0), wall], [[20, 0, 30]], 1, 'child')).toEqual([]);
  });

  it('not over the ground nobody gets to, not from too far, and not behind a wall', () => {
    expect(look([at(0)], [[20, 0, 30]], 0)).toEqual([]);
    expect(look([at(0)], [[20, 0, 47]])).toEqual([]);
    const wall = piece('wall', [20, 0, 24]);
    expect(look([at(0), wall], [[20, 0, 30]])).toEqual([]);
    expect(
      look(
        [at(0), wall],
        [
          [20, 0, 30],
          [20, 0, 22.5],
        ],
      ).length,
    ).toBe(1);
  });

  it('are one finding for all pieces of a mesh', () => {
    const two = [at(0), { ...at(0), id: 'shell 2', name: 'shell 2', at: [30, 0, 20] as Vec3 }];
    expect(look(two, [[25, 0, 30]])[0].message).toBe('shell 1 and 1 more of it: from 25.0, 30.0 one sees into the open side (front)');
  });
});

describe('an index of boxes', () => {
  it('finds what a look at all of them does', () => {
    const box = fc
      .tuple(fc.integer({ min: -20, max: 20 }), fc.integer({ min: -5, max: 5 }), fc.integer({ min: -20, max: 20 }), fc.integer({ min: 0, max: 6 }))
      .map(([x, y, z, s]) => ({ min: [x, y, z] as Vec3, max: [x + s, y + s, z + s] as Vec3 }));
    fc.assert(
      fc.property(fc.array(box, { maxLength: 60 }), box, fc.constantFrom(0, 0.5), (boxes, of, by) => {
        const slow = boxes.flatMap((b, i) => ([0, 1, 2].every((k) => b.min[k] <= of.max[k] + by && of.min[k] - by <= b.max[k]) ? [i] : []));
        expect(new BoxIndex(boxes).touching(of, by).sort((a, b) => a - b)).toEqual(slow);
      }),
    );
  });
});

describe('faces within a mesh', () => {
  it('fight for no pixels: a wall of boxes has sides where they meet', () => {
    // Two leaves and a lintel between them without sides of its own.
    const walled = new Shape()
      .box([-1, 0, -0.15], [-0.45, 3, 0.15], [1, 1, 1])
      .box([0.45, 0, -0.15], [1, 3, 0.15], [1, 1, 1])
      .box([-0.45, 2, -0.15], [0.45, 3, 0.15], [1, 1, 1], ['east', 'west'])
      .done('x');
    const assets = new Map<string, Asset>([['kit-wall', { ...testAssets().get('wall')!, lods: [[walled]] }]]);
    // Thinner and over the other by 0.4 m: only the sides between leaf and lintel lie in one plane, within both of them.
    const pieces = [piece('low', [0, 0, 0]), piece('high', [0, 2.6, 0], { scale: [1, 1, 0.9] })];
    const found = coplanar({ pieces, assets, placed: placedPieces(pieces, assets) });
    // The ends at x = -1 and 1 are seen.
    expect(said(found)).toEqual([['faces-fight', 'low and high have 0.22 m² of faces in one plane: they flicker']]);
  });
});
