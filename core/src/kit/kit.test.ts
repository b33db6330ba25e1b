import { describe, expect, it } from 'vitest';
import { meshGrid, meshTopAt, rayMeshes } from '../block/placedMesh';
import { cutMesh } from '../block/cutMesh';
import { blockGrid } from '../block/grid';
import type { Piece } from '../level/objects';
import { groundAlong, groundAt } from '../surface/groundAt';
import { testAssets } from '../testing/assets';
import { terrainOf } from '../testing/levels';
import { assetBounds, assetFacts, meshArea } from './asset';
import { DOOR, shippedPieces, STAIR, STOREY } from './pieces';
import { colliderOf, pieceColliders, placedPieces } from './placement';
import { boxMesh } from './assetMesh';
import { shippedPlants } from './plants';
import { Shape } from './shape';
import { snapPiece } from './snap';

const assets = testAssets();
const piece = (asset: string, at: [number, number, number], turn = 0, more: Partial<Piece> = {}): Piece => ({
  id: `${asset}${at.join()}`,
  version: 1,
  kind: 'piece',
  name: asset,
  asset,
  at,
  turn,
  sink: 0,
  collider: 'asset',
  hidden: false,
  out: false,
  ...more,
});
const flat = terrainOf(() => 0);

describe('the shipped kit', () => {
  it('is six pieces of honest size on a 2 m grid, storeys of 3 m', () => {
    expect(shippedPieces().map((a) => a.name)).toEqual(['wall', 'corner', 'door wall', 'floor', 'roof', 'stair']);
    for (const asset of shippedPieces()) {
      const { min, max } = assetBounds(asset);
      const tall = max[1] - min[1];
      expect(tall).toBeGreaterThanOrEqual(asset.real![0] * 0.8);
      expect(tall).toBeLessThanOrEqual(asset.real![1] * 1.25);
    }
    expect(assetFacts(assets.get('wall')!).size[0]).toBeCloseTo(2, 6);
    expect(assetBounds(assets.get('stair')!).max[1]).toBeCloseTo(STOREY, 6);
    expect(2 * STAIR.riser + STAIR.going).toBeCloseTo(0.625, 9);
  });

  it('has plants with three LODs and a billboard, each coarser than the one before', () => {
    for (const asset of shippedPlants()) {
      const { triangles } = assetFacts(asset);
      expect(triangles).toHaveLength(4);
      for (let i = 1; i < 4; i++) expect([asset.name, i, triangles[i] < triangles[i - 1]]).toEqual([asset.name, i, true]);
    }
  });

  it('meshes face outwards: the volume inside them is positive', () => {
    for (const asset of [...shippedPieces(), ...shippedPlants()]) {
      let six = 0;
      for (const { positions: p, indices } of asset.lods[0]) {
        for (let i = 0; i < indices.length; i += 3) {
          const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
          six +=
            p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) -
            p[a + 1] * (p[b] * p[c + 2] - p[b + 2] * p[c]) +
            p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c]);
        }
      }
      expect([asset.name, six > 0]).toEqual([asset.name, true]);
    }
  });
});

describe('facts', () => {
  it('of a box of 2 x 3 x 4 m: 52 m2, 12 triangles, 40 bytes a vertex', () => {
    const box = new Shape().box([0, 0, 0], [2, 3, 4], [1, 1, 1]).done('m');
    expect(meshArea(box)).toBeCloseTo(52, 9);
    expect(assetFacts({ name: 'box', role: 'piece', collider: 'box', real: [1, 1], tags: [], trunk: 0, lods: [[box]], textureBytes: 100 })).toEqual({
      size: [2, 3, 4],
      triangles: [12],
      vertices: [24],
      materials: ['m'],
      alphaArea: 0,
      bytes: 24 * 40 + 36 * 4 + 100,
    });
    expect(meshArea(boxMesh([0, 0, 0], [2, 3, 4]))).toBeCloseTo(52, 9);
  });
});

describe('joins', () => {
  it('walls lie on grid lines, corners on grid points, floors in cells, whichever way they are turned', () => {
    expect(snapPiece(['wall'], 0, 4.6, 3.4)).toEqual([5, 4]);
    expect(snapPiece(['wall'], 90, 4.6, 3.4)).toEqual([4, 3]);
    expect(snapPiece(['wall'], -90, 4.6, 3.4)).toEqual([4, 3]);
    expect(snapPiece(['corner'], 0, 4.6, 3.4)).toEqual([4, 4]);
    expect(snapPiece(['floor'], 180, 4.6, 3.4)).toEqual([5, 3]);
    expect(snapPiece(['stair'], 0, 4.6, 3.4)).toEqual([4, 3]);
    expect(snapPiece(['wall'], 30, 4.6, 3.4)).toEqual([5, 3]);
    expect(snapPiece([], 0, 4.6, 3.4)).toEqual([5, 3]);
  });
});

describe('a placed piece', () => {
  const [stair] = placedPieces([piece('stair', [20, 1, 20], 90)], assets);

  it('stands where it is put: the stair turned by a quarter rises to the north', () => {
    // Local +x goes to -z; the last tread ends 2 m north of the pivot.
    expect(meshTopAt(stair, 20, 18.1, 99)!.height).toBeCloseTo(4, 5);
    expect(meshTopAt(stair, 20, 21.9, 99)!.height).toBeCloseTo(1 + STAIR.riser, 5);
    expect(meshTopAt(stair, 20, 18.1, 3.9)?.height ?? 0).toBeLessThan(3.9);
    expect(meshTopAt(stair, 25, 20, 99)).toBeUndefined();
  });

  it('is ground to stand on and is met by rays', () => {
    const meshes = meshGrid([stair]);
    expect(groundAt(flat, blockGrid([]), [20, 9, 18.1], { meshes })).toMatchObject({ host: { kind: 'piece', id: stair.id }, slope: 0, ground: 'blockout' });
    expect(groundAt(flat, blockGrid([]), [20, 0.9, 18.1], { meshes }).host.kind).toBe('terrain');
    expect(rayMeshes([stair], [20, 9, 18.1], [0, -1, 0], 99)!.distance).toBeCloseTo(5, 5);
    expect(groundAlong(flat, [], { origin: [20, 9, 18.1], direction: [0, -1, 0], far: 99 }, { pieces: [stair] })).toMatchObject({
      host: { kind: 'piece', face: 'top' },
      height: 4,
    });
    expect(rayMeshes([stair], [20, 9, 18.1], [0, 1, 0], 99)).toBeUndefined();
  });

  it('is cut by a section where it stands', () => {
    const segments = cutMesh(stair, { x0: 20, z0: 20, dx: 0, dz: -1 });
    expect(segments.length % 4).toBe(0);
    const heights = segments.filter((_, i) => i % 2 === 1);
    expect(Math.max(...heights)).toBeCloseTo(4, 5);
    const along = segments.filter((_, i) => i % 2 === 0);
    expect([Math.min(...along), Math.max(...along)].map((v) => Math.round(v * 1e4) / 1e4)).toEqual([-2, 2]);
    expect(cutMesh(stair, { x0: 0, z0: 50, dx: 1, dz: 0 })).toEqual([]);
  });

  it('stops a body by its own collider unless another is chosen', () => {
    expect(colliderOf(piece('stair', [0, 0, 0]), assets.get('stair')!)).toBe('mesh');
    expect(pieceColliders([piece('stair', [0, 0, 0], 0, { collider: 'box' })], assets)[0].indices).toHaveLength(36);
    expect(pieceColliders([piece('stair', [0, 0, 0], 0, { collider: 'none' }), piece('unknown', [0, 0, 0])], assets)).toEqual([]);
    const [door] = pieceColliders([piece('door wall', [0, 0, 0])], assets);
    // Through the opening nothing is met; beside it the wall is.
    expect(rayMeshes([door], [0, 1, 3], [0, 0, -1], 9)).toBeUndefined();
    expect(rayMeshes([door], [DOOR.width / 2 + 0.1, 1, 3], [0, 0, -1], 9)).toBeDefined();
  });
});
