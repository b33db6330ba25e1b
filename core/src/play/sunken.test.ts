import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { boxMesh } from '../kit/placement';
import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import { OPEN, type Terrain } from '../earth/compose';
import { barred } from '../earth/water';
import { waterBodies } from '../earth/waters';
import type { Block, Water } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { loadKernels } from '../testing/kernels';
import { terrainOf, testBlock } from '../testing/levels';
import { openFaces } from './openFaces';
import { findReach } from './reach';
import { makeWalkArea } from './walkArea';
import { makeWalker } from './walker';

const { adult } = SHIPPED_BODIES;
let kernels: Awaited<ReturnType<typeof loadKernels>>;
beforeAll(async () => { kernels = await loadKernels(); });

/** A ditch 3 m deep across the level between z 26 and 38. */
const ditch = terrainOf((_, z) => (z > 26 && z < 38 ? -3 : 0));
const water = (height: number, more: Partial<Water> = {}): Terrain => barred(ditch, waterBodies(ditch, [{ id: 'w', version: 1, kind: 'water', form: 'plane', name: 'w', height, x0: 0, z0: 27, x1: 64, z1: 37, hidden: false, out: false, ...more } as Water]).bodies, adult.wade);
/** A causeway over the ditch, its top level with its rims: as a block, and as a piece. */
const causeway: Block[] = [testBlock('box', [8, 3, 14], [32, -3, 32])];
const piece: PlacedMesh[] = [placeMesh('p', 'p', boxMesh([-4, 0, -7], [4, 3, 7]), (x, y, z) => [x + 32, y - 3, z + 32])];

function way(terrain: Terrain, blocks: readonly Block[], meshes: readonly PlacedMesh[] = []) {
  const area = makeWalkArea(kernels.recast, adult, 64, 64);
  area.update(terrain, blocks, undefined, meshes);
  const found = findReach(area, terrain, blocks, [32, 0, 50], [32, 0, 14], meshes);
  area.dispose();
  return found;
}

function walkNorth(terrain: Terrain, x: number): Vec3 {
  const walker = makeWalker(kernels.rapier, adult, terrain, causeway, [x, 0, 44]);
  for (let i = 0; i < 60 * 16; i++) walker.step({ x: 0, z: -1, run: false, jump: false });
  const end: Vec3 = [...walker.at];
  walker.dispose();
  return end;
}

describe('what stands in the water', () => {
  it('carries a body where it is no deeper than it wades, and not where it is', () => {
    // Over the top stand 0.7 m of water, or 1.1; an adult wades 0.9.
    expect(way(ditch, []).reached).toBe(false);
    for (const [blocks, meshes] of [[causeway, []], [[], piece]] as [Block[], PlacedMesh[]][]) expect([way(water(0.7), blocks, meshes).reached, way(water(1.1), blocks, meshes).reached, way(water(0.7, { closed: true }), blocks, meshes).reached]).toEqual([true, false, false]);
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

describe('faces in the water', () => {
  let made = 0;
  /** The faces left of a square of 8 m at a height, and the plan area of those that look up. */
  const left = (terrain: Terrain, y: number, turned = false, rect = { x0: 0, z0: 0, x1: 64, z1: 64 }): number => {
    const positions = [28, y, 28, 36, y, 28, 36, y, 36, 28, y, 36];
    const indices = turned ? [0, 1, 2, 0, 2, 3] : [0, 2, 1, 0, 3, 2];
    openFaces(terrain, rect, 0, positions, indices);
    made = positions.length / 3;
    let area = 0;
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => indices[i + k] * 3);
      area += ((positions[b + 2] - positions[a + 2]) * (positions[c] - positions[a]) - (positions[b] - positions[a]) * (positions[c + 2] - positions[a + 2])) / 2;
    }
    return area;
  };
  const half: Terrain = { ...ditch, barred: Float32Array.from({ length: ditch.heights.length }, (_, i) => (i % ditch.grid.nx >= 64 ? 1 : OPEN)) };

  it('are left out up to the shore to half a sample, and kept over the water and where they look down', () => {
    // From x 32 on nothing stands under 1 m: half of the square.
    expect(Math.abs(left(half, 0.5) - 32)).toBeLessThanOrEqual(8 * ditch.grid.spacing);
    expect(left(half, 1)).toBeCloseTo(64, 6);
    expect(left(half, 0.5, true)).toBeCloseTo(-64, 6);
  });

  it('are cut only in the rectangle that is asked for', () => {
    left(half, 0.5);
    const whole = made;
    expect(left(half, 0.5, false, { x0: 35, z0: 35, x1: 36, z1: 36 })).toBeGreaterThan(56);
    expect(made).toBeLessThan(whole / 3);
    expect(left(half, 0.5, false, { x0: 28, z0: 28, x1: 30, z1: 36 })).toBeCloseTo(64, 6);
  });
});
