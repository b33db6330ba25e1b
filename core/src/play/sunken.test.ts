import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { boxMesh } from '../kit/assetMesh';
import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import type { Terrain } from '../earth/compose';
import { barred } from '../earth/water';
import { waterBodies } from '../earth/waters';
import type { Block, Water } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { loadKernels } from '../testing/kernels';
import { terrainOf, testBlock } from '../testing/levels';
import { findReach } from './reach';
import { makeWalkArea } from './walkArea';
import { makeWalker } from './walker';

const { adult } = SHIPPED_BODIES;
let kernels: Awaited<ReturnType<typeof loadKernels>>;
beforeAll(async () => {
  kernels = await loadKernels();
});

/** A ditch 3 m deep across the level between z 26 and 38. */
const ditch = terrainOf((_, z) => (z > 26 && z < 38 ? -3 : 0));
const water = (height: number, more: Partial<Water> = {}): Terrain =>
  barred(
    ditch,
    waterBodies(ditch, [
      { id: 'w', version: 1, kind: 'water', form: 'plane', name: 'w', height, x0: 0, z0: 27, x1: 64, z1: 37, hidden: false, out: false, ...more } as Water,
    ]).bodies,
    adult.wade,
  );
/** A causeway over the ditch, its top level with its rims: as a block, and as a piece. */
const causeway: Block[] = [testBlock('box', [8, 3, 14], [32, -3, 32])];
const piece: PlacedMesh[] = [placeMesh('p', 'p', boxMesh([-4, 0, -7], [4, 3, 7]), (x, y, z) => [x + 32, y - 3, z + 32])];

function way(terrain: Terrain, blocks: readonly Block[], meshes: readonly PlacedMesh[] = []) {
  const area = makeWalkArea(adult, terrain.grid);
  area.update({ terrain, blocks, meshes });
  return findReach(area, [32, 0, 50], [32, 0, 14]);
}

function walkNorth(terrain: Terrain, x: number): Vec3 {
  const walker = makeWalker(kernels.rapier, adult, { terrain, blocks: causeway }, [x, 0, 44]);
  for (let i = 0; i < 60 * 16; i++) walker.step({ x: 0, z: -1, run: false, jump: false });
  const end: Vec3 = [...walker.at];
  walker.dispose();
  return end;
}

describe('what stands in the water', () => {
  it('carries a body where it is no deeper than it wades, and not where it is', () => {
    // Over the top stand 0.7 m of water, or 1.1; an adult wades 0.9.
    expect(way(ditch, []).reached).toBe(false);
    for (const [blocks, meshes] of [
      [causeway, []],
      [[], piece],
    ] as [Block[], PlacedMesh[]][])
      expect([
        way(water(0.7), blocks, meshes).reached,
        way(water(1.1), blocks, meshes).reached,
        way(water(0.7, { closed: true }), blocks, meshes).reached,
      ]).toEqual([true, false, false]);
  });

  it('is passed beside the water that lies on a part of it', () => {
    const half = water(1.1, { x1: 32 });
    const { reached, path } = way(half, causeway);
    expect(reached).toBe(true);
    for (const [x, , z] of path) if (z > 27 && z < 37) expect(x).toBeGreaterThan(32);
  });

  it('stops the walker where the walk area ends', () => {
    expect(walkNorth(water(0.7), 32)[2]).toBeLessThan(20);
    expect(walkNorth(water(1.1), 32)[2]).toBeGreaterThan(36.5);
    expect(walkNorth(water(1.1, { x1: 30 }), 34)[2]).toBeLessThan(20);
  });
});
