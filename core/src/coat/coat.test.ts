import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { batchList } from '../cost/batches';
import { INSTANCE_BYTES } from '../cost/drawable';
import { cameraOf } from '../cost/camera';
import { instanceDrawables, pieceCells } from '../cost/instances';
import { SHADE } from '../cost/sheet';
import { boxMesh } from '../kit/assetMesh';
import type { Asset } from '../kit/asset';
import { coatObject, MOST_PAINT, paintSchema, type Coat } from '../level/kinds/coat';
import type { Mesh } from '../num/mesh';
import { patches } from '../num/patches';
import { normalize, type Vec3 } from '../num/vec';
import { testPiece } from '../testing/pieces';
import { bends, bendsOf, FLAT } from './bends';
import { cellAt, coatGrid, pointsNear, pointsOf } from './grid';
import { BARE, dabbed, filled, packedPaint, paintOn } from './paint';
import { COAT_RECIPES } from './recipes';
import { bearingWay, readyCoat, ruleShare, withPaint } from './shares';

const assetOf = (mesh: Mesh): Pick<Asset, 'lods'> => ({ lods: [[{ ...mesh, normals: new Float32Array(mesh.positions.length), material: '' } as never]] });
const wall = () => assetOf(boxMesh([-1, 0, -0.2], [1, 3, 0.2]));
const coat = (more: Partial<Coat> = {}): Coat => coatObject.parse({ id: 'c', kind: 'coat', name: 'c', order: 0, colour: '#445566', ...more });
const place = (more: Partial<Parameters<typeof ruleShare>[1]> = {}) => ({
  at: [3, 2, 5] as Vec3,
  normal: [0, 1, 0] as Vec3,
  foot: 1,
  sky: 1,
  bend: 0,
  ...more,
});

/** An L lying on its back: two boxes' outline as one mesh, its inner corner along z at (1, 1). */
function corner(): Mesh {
  const outline = [
    [0, 0],
    [2, 0],
    [2, 1],
    [1, 1],
    [1, 2],
    [0, 2],
  ];
  const positions: number[] = [];
  for (const z of [0, 2]) for (const [x, y] of outline) positions.push(x, y, z);
  const indices: number[] = [];
  for (let i = 0; i < 6; i++) {
    const j = (i + 1) % 6;
    indices.push(i, j + 6, j, i, i + 6, j + 6);
  }
  for (const [a, b, c] of [
    [0, 2, 1],
    [0, 3, 2],
    [0, 5, 3],
    [5, 4, 3],
  ])
    indices.push(a, b, c, a + 6, c + 6, b + 6);
  // Counter-clockwise from outside.
  for (let t = 0; t < indices.length; t += 3) [indices[t + 1], indices[t + 2]] = [indices[t + 2], indices[t + 1]];
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
}

describe('the grid of a mesh', () => {
  it('holds its bounds, is no finer than 3 cm and no larger than a document may hold', () => {
    fc.assert(
      fc.property(fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0.01, max: 60, noNaN: true }))), ([x, y, z]) => {
        const grid = coatGrid(assetOf(boxMesh([-x / 2, 0, 1], [x / 2, y, 1 + z])));
        expect(grid.cell).toBeGreaterThanOrEqual(0.03);
        expect(pointsOf(grid)).toBeLessThanOrEqual(MOST_PAINT);
        [-x / 2, 0, 1].forEach((low, k) => expect(grid.min[k]).toBeLessThanOrEqual(low + 1e-6));
        [x / 2, y, 1 + z].forEach((high, k) => expect(grid.min[k] + (grid.size[k] - 1) * grid.cell).toBeGreaterThanOrEqual(high - 1e-6));
      }),
    );
  });

  it('gives between its points what is linear, and knows those near a place', () => {
    const grid = { min: [1, 2, 3] as Vec3, cell: 0.5, size: [5, 4, 6] as [number, number, number] };
    const cells = new Uint8Array(pointsOf(grid));
    for (let z = 0, i = 0; z < 6; z++) for (let y = 0; y < 4; y++) for (let x = 0; x < 5; x++) cells[i++] = 10 + 8 * x + 20 * y + 4 * z;
    expect(cellAt(grid, cells, [1.75, 2.6, 4.1])).toBeCloseTo(10 + 8 * 1.5 + 20 * 1.2 + 4 * 2.2, 9);
    expect(cellAt(grid, cells, [-9, 2, 3])).toBe(10);
    const near: number[] = [];
    pointsNear(grid, [2, 2.5, 3.5], 0.5, (point) => near.push(point));
    // The point itself and its six neighbours.
    expect(near).toHaveLength(7);
  });
});

describe('bends', () => {
  it('are whole on the right edges of a box, none in the middle of a side', () => {
    const asset = wall();
    const grid = coatGrid(asset);
    const at = (p: Vec3) => (cellAt(grid, bendsOf(asset), p) - FLAT) / 127;
    expect(at([1, 1.5, 0.2])).toBeGreaterThan(0.9);
    expect(at([0.3, 3, -0.2])).toBeGreaterThan(0.9);
    expect(at([0, 1.5, 0.2])).toBeCloseTo(0, 9);
    expect(at([-0.5, 1, -0.2])).toBeCloseTo(0, 9);
  });

  it('are below nothing in a corner that goes in', () => {
    const grid = { min: [-0.1, -0.1, -0.1] as Vec3, cell: 0.1, size: [23, 23, 23] as [number, number, number] };
    const cells = bends(corner(), grid);
    const at = (p: Vec3) => (cellAt(grid, cells, p) - FLAT) / 127;
    expect(at([1, 1, 1])).toBeLessThan(-0.9);
    expect(at([2, 1, 1])).toBeGreaterThan(0.9);
    expect(at([1.5, 1, 1])).toBeCloseTo(0, 9);
  });

  it('are none at the joins of a part of a kit, and whole on its other edges', () => {
    const asset = wall();
    const grid = coatGrid(asset);
    const joins = [
      { at: [-1, 0, 0] as Vec3, turn: 180, kind: 'wall', width: 0.4 },
      { at: [1, 0, 0] as Vec3, turn: 0, kind: 'wall', width: 0.4 },
    ];
    const at = (p: Vec3) => (cellAt(grid, bendsOf(asset, joins), p) - FLAT) / 127;
    expect(at([1, 1.5, 0.2])).toBeCloseTo(0, 9);
    expect(at([0.2, 3, 0.2])).toBeGreaterThan(0.9);
  });

  it('of a thin body among others hardly count', () => {
    // A slate of 2 cm in a grid of 10 cm, against a stone as wide.
    const grid = { min: [-1, -1, -1] as Vec3, cell: 0.1, size: [21, 21, 21] as [number, number, number] };
    const at = (mesh: Mesh) => (cellAt(grid, bends(mesh, grid), [0.5, 0, 0]) - FLAT) / 127;
    expect(at(boxMesh([-0.5, -0.01, -0.5], [0.5, 0.01, 0.5]))).toBeLessThan(0.15);
    expect(at(boxMesh([-0.5, -0.2, -0.5], [0.5, 0, 0.5]))).toBeGreaterThan(0.9);
  });

  it('are the same for a bevelled edge as for the edge it breaks, and none where a plane is only cut up', () => {
    const grid = { min: [-1, -1, -1] as Vec3, cell: 0.1, size: [21, 21, 21] as [number, number, number] };
    // Two sides that meet at the z axis by a bevel of 2 cm.
    const fold = (points: number[][]): Mesh => {
      const positions = points.flatMap(([x, y]) => [x, y, -1, x, y, 1]);
      const indices = points.slice(1).flatMap((_, i) => [i * 2, i * 2 + 2, i * 2 + 1, i * 2 + 1, i * 2 + 2, i * 2 + 3]);
      return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
    };
    const sharp = bends(
      fold([
        [-1, 0],
        [0, 0],
        [0, -1],
      ]),
      grid,
    );
    const bevelled = bends(
      fold([
        [-1, 0],
        [-0.02, 0],
        [0, -0.02],
        [0, -1],
      ]),
      grid,
    );
    const middle = 10 + 21 * (10 + 21 * 10);
    expect(Math.abs(sharp[middle] - FLAT)).toBeGreaterThan(100);
    expect(Math.abs(bevelled[middle] - sharp[middle])).toBeLessThan(12);
    expect(
      bends(
        fold([
          [-1, 0],
          [0, 0],
          [1, 0],
        ]),
        grid,
      ).every((b) => b === FLAT),
    ).toBe(true);
  });
});

describe('shares of a coat', () => {
  it('are worked by hand for each condition', () => {
    const share = (where: Coat['where'], at: ReturnType<typeof place>) => ruleShare(readyCoat(coat({ where })), at);
    const tilted = normalize([0, Math.cos(Math.PI / 4), Math.sin(Math.PI / 4)]);
    expect(share([], place())).toBe(1);
    // 45 degrees is the middle of the soft end: a smooth step is a half there.
    expect(share([{ by: 'facing', band: [0, 45], soft: 20 }], place({ normal: tilted }))).toBeCloseTo(0.5, 6);
    expect(share([{ by: 'facing', band: [135, 180], soft: 0 }], place({ normal: [0, -1, 0] }))).toBe(1);
    expect(share([{ by: 'side', band: [0, 60], soft: 0, towards: 90 }], place({ normal: [1, 0, 0] }))).toBe(1);
    expect(share([{ by: 'side', band: [0, 60], soft: 0, towards: 90 }], place({ normal: [0, 0, -1] }))).toBe(0);
    expect(share([{ by: 'foot', band: [-50, 1], soft: 1 }], place({ foot: 1.25 }))).toBeCloseTo(1 - 0.75 ** 2 * (3 - 1.5), 6);
    expect(share([{ by: 'foot', band: [-50, 1], soft: 1 }], place({ foot: NaN }))).toBe(0);
    expect(share([{ by: 'height', band: [3, 9], soft: 0 }], place())).toBe(0);
    expect(share([{ by: 'sky', band: [0.5, 1], soft: 0.4 }], place({ sky: 0.5 }))).toBeCloseTo(0.5, 9);
    expect(share([{ by: 'bend', band: [0.5, 1], soft: 0.2 }], place({ bend: 1 }))).toBe(1);
    expect(ruleShare(readyCoat(coat({ share: 0.4, where: [{ by: 'facing', band: [0, 10], soft: 0 }] })), place())).toBeCloseTo(0.4, 9);
  });

  it('are laid on by paint and taken away', () => {
    expect(withPaint(0.3, BARE)).toBe(0.3);
    expect(withPaint(0.3, 255)).toBe(1);
    expect(withPaint(1, 1)).toBe(0);
    expect(withPaint(0, 128 + 63.5)).toBeCloseTo(0.5, 9);
  });

  it('know bearings clockwise from north', () => {
    [
      [0, 0, -1],
      [1, 0, 0],
      [0, 0, 1],
      [-1, 0, 0],
    ].forEach((way, i) => bearingWay(i * 90).forEach((v, k) => expect(v).toBeCloseTo(way[k], 9)));
  });

  it('of patches lie about a half, go smoothly and are the same for a seed', () => {
    let sum = 0;
    let steepest = 0;
    for (let i = 0; i < 4000; i++) {
      const [x, y, z] = [i * 0.37, (i % 61) * 0.91, (i % 17) * 1.3];
      const v = patches(5, x, y, z);
      expect(v >= 0 && v <= 1).toBe(true);
      sum += v;
      steepest = Math.max(steepest, Math.abs(patches(5, x + 1e-3, y, z) - v) / 1e-3);
    }
    expect(sum / 4000).toBeCloseTo(0.5, 1);
    // Two octaves of a smooth step, stretched by 1.6: at most (2 * 1.5 + 2 * 1.5) / 3 * 1.6.
    expect(steepest).toBeLessThan(3.3);
    expect(patches(5, -3.2, 7.7, -0.1)).toBe(patches(5, -3.2, 7.7, -0.1));
    expect(patches(6, -3.2, 7.7, -0.1)).not.toBe(patches(5, -3.2, 7.7, -0.1));
  });

  it('of recipes are of documents, and lie where they say', () => {
    for (const r of COAT_RECIPES) expect(coatObject.safeParse({ ...r, id: 'r', kind: 'coat', order: 0 }).success, r.name).toBe(true);
    const of = (name: string, at: ReturnType<typeof place>) => {
      const ready = readyCoat(coat({ ...COAT_RECIPES.find((r) => r.name === name)! }));
      delete ready.ends.noise;
      return ruleShare(ready, at);
    };
    expect([of('snow', place()), of('snow', place({ normal: [1, 0, 0] }))]).toEqual([1, 0]);
    expect([of('wear', place({ bend: 1 })), of('wear', place())]).toEqual([0.8, 0]);
    expect([of('foot', place({ foot: 0 })), of('foot', place({ foot: 2 }))]).toEqual([1, 0]);
  });
});

describe('paint', () => {
  it('lies where it is laid, on the side that was touched, and not on the other', () => {
    const asset = wall();
    const grid = coatGrid(asset);
    const cells = dabbed(asset, undefined, { at: [0, 1.5, 0.2], normal: [0, 0, 1], radius: 0.5, strength: 1 });
    expect(cellAt(grid, cells, [0, 1.5, 0.2])).toBeGreaterThan(225);
    expect(cellAt(grid, cells, [0, 1.5, -0.2])).toBeCloseTo(BARE, 9);
    expect(cellAt(grid, cells, [0.8, 1.5, 0.2])).toBeCloseTo(BARE, 9);
    const away = dabbed(asset, cells, { at: [0, 1.5, 0.2], normal: [0, 0, 1], radius: 0.5, strength: -1 });
    expect(cellAt(grid, away, [0, 1.5, 0.2])).toBeLessThan(40);
    expect(dabbed(asset, cells, { at: [9, 9, 9], normal: [0, 0, 1], radius: 0.5, strength: 1 })).toBe(cells);
  });

  it('goes through a document and comes back, and what changes nothing is not kept', () => {
    const asset = wall();
    const cells = dabbed(asset, undefined, { at: [0, 1.5, 0.2], normal: [0, 0, 1], radius: 0.5, strength: 0.7 });
    const packed = packedPaint(asset, new Map([['moss', cells]]))!;
    expect(paintSchema.parse(packed)).toEqual(packed);
    expect(paintOn(wall(), packed).get('moss')).toEqual(cells);
    expect(packedPaint(asset, filled(asset, new Map(), 'moss', BARE))).toBeUndefined();
  });

  it('stays at its place on a mesh that is cast again', () => {
    const asset = wall();
    const packed = packedPaint(asset, new Map([['moss', dabbed(asset, undefined, { at: [0.5, 2, 0.2], normal: [0, 0, 1], radius: 0.6, strength: 1 })]]))!;
    const longer = assetOf(boxMesh([-1, 0, -0.2], [3, 3, 0.2]));
    const moved = paintOn(longer, packed).get('moss')!;
    expect(cellAt(coatGrid(longer), moved, [0.5, 2, 0.2])).toBeGreaterThan(210);
    expect(cellAt(coatGrid(longer), moved, [2.5, 2, 0.2])).toBeCloseTo(BARE, 9);
  });

  it('that is not paint is refused by name', () => {
    const packed = packedPaint(wall(), filled(wall(), new Map(), 'moss', 200))!;
    const message = (paint: unknown) => paintSchema.safeParse(paint).error?.issues[0].message;
    expect(message({ ...packed, coats: [{ coat: 'moss', cells: 'AAAA' }] })).toMatch(/the paint of moss does not unpack to its \d+ points/);
    expect(message({ ...packed, coats: [{ coat: 'moss', cells: 'not base64' }] })).toMatch(/does not unpack/);
    expect(message({ ...packed, size: [128, 128, 128] })).toBe(`paint of 2097152 points; ${MOST_PAINT} are the most`);
    expect(message({ ...packed, coats: [...packed.coats, ...packed.coats] })).toMatch(/two paints of the coat moss/);
    const twice = coatObject.safeParse({
      ...coat(),
      where: [
        { by: 'foot', band: [0, 1], soft: 0 },
        { by: 'foot', band: [2, 3], soft: 0 },
      ],
    });
    expect(twice.error?.issues[0].message).toBe('two conditions go by foot: put both into one band');
  });
});

describe('what coats cost', () => {
  const walls = (n: number, more: object = {}) =>
    Array.from({ length: n }, (_, i) => testPiece(`w${i}`, [10 + (i % 4) * 2, 0, 10], { asset: 'wall', ...more }));
  const assets = new Map([['wall', { ...wall(), role: 'piece', name: 'wall', textureBytes: 0 } as unknown as Asset]]);
  const of = (pieces: ReturnType<typeof walls>, coats: Coat[]) => instanceDrawables(pieceCells(pieces, assets), assets, new Map(), coats)[0];

  it('is a quarter of the surface a coat, by hand: a wall of 2 x 3 x 0.4 m has 16 m2', () => {
    expect(of(walls(1), []).coated).toBeUndefined();
    expect(of(walls(1), [coat()]).coated!.area[0]).toBeCloseTo(4, 6);
    expect(of(walls(3), [coat(), coat({ id: 'd' })]).coated!.area[0]).toBeCloseTo(8, 6);
    // Neither of these lies on it by rule.
    expect(of(walls(2), [coat({ share: 0 }), coat({ id: 'd', assets: ['other'] })]).coated).toBeUndefined();
    // One of two is painted with one that lies nowhere by rule.
    const asset = assets.get('wall')!;
    const painted = walls(2);
    painted[1] = { ...painted[1], paint: packedPaint(asset, filled(asset, new Map(), 'c', 255)) };
    const drawn = of(painted, [coat({ share: 0 })]);
    expect(drawn.coated!.area[0]).toBeCloseTo(2, 6);
    expect(drawn.bytes).toBe(2 * INSTANCE_BYTES + pointsOf(coatGrid(asset)) * 4);
  });

  it('is at most a screen for each coat there is, however many pieces stand before each other', () => {
    const camera = cameraOf({ view: 'orbit', target: [12, 1.5, 10], yaw: 0, pitch: -5, distance: 3 }, 16 / 9, 1.6);
    const overdraw = (pieces: ReturnType<typeof walls>, coats: Coat[]) => batchList([of(pieces, coats)], camera, 1, 1).reduce((s, b) => s + b.overdraw, 0);
    expect(overdraw(walls(200), [coat()])).toBeCloseTo(SHADE.coat, 9);
    expect(overdraw(walls(200), [coat(), coat({ id: 'd' })])).toBeCloseTo(2 * SHADE.coat, 9);
    const one = overdraw(walls(1), [coat()]);
    expect(one).toBeGreaterThan(0);
    expect(one).toBeLessThan(SHADE.coat);
  });
});
