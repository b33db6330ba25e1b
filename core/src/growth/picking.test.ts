import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockGrid, rayBlockGrid, rayBlocks } from '../block/grid';
import { meshGrid, placeMesh, rayMeshes, rayMeshGrid } from '../block/placedMesh';
import { densityAt } from './densityAt';
import { pickPlant } from './pickPlant';
import { leanOfPose, PLANT_STRIDE, type Plants } from './plants';
import { plantsAlong } from './plantsAlong';
import { trunkColliders } from './trunks';
import { assetBounds } from '../kit/asset';
import { boxMesh } from '../kit/assetMesh';
import { shippedPlants } from '../kit/plants';
import type { Species } from '../level/objects';
import { testBlock } from '../testing/levels';
import { cellsAlong } from '../num/cellsAlong';
import { hashUnit } from '../num/hash';
import { placer, tiltOf } from '../num/pose';
import type { Vec3 } from '../num/vec';

const ray = fc
  .tuple(
    fc.tuple(fc.integer({ min: -40, max: 240 }), fc.integer({ min: 0, max: 9 }), fc.integer({ min: -40, max: 240 })),
    fc.tuple(fc.integer({ min: -10, max: 10 }), fc.integer({ min: -1, max: 1 }), fc.integer({ min: -10, max: 10 })),
  )
  .filter(([, d]) => d.some((v) => v !== 0))
  .map(([o, d]) => {
    const l = Math.sqrt(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
    return { o: o as Vec3, d: d.map((v) => v / l) as Vec3 };
  });

describe('cells along a ray', () => {
  it('are those it passes, in order: worked by hand', () => {
    const seen: [number, number][] = [];
    cellsAlong([8, 0, 8], [0.8, 0, 0.6], 40, 16, (x, z) => {
      seen.push([x, z]);
      return false;
    });
    // Over x = 16 at 10, z = 16 at 13.3, x = 32 at 30, past the end at 40.
    expect(seen).toEqual([
      [0, 0],
      [1, 0],
      [1, 1],
      [2, 1],
    ]);
    seen.length = 0;
    cellsAlong([-1, 0, -1], [0, -1, 0], 1000, 16, (x, z) => {
      seen.push([x, z]);
      return false;
    });
    expect(seen).toEqual([[-1, -1]]);
  });
});

describe('picking by cells', () => {
  const blocks = Array.from({ length: 120 }, (_, i) => ({
    ...testBlock(
      i % 3 ? 'box' : 'ramp',
      [2 + hashUnit(1, i) * 30, 1 + hashUnit(2, i) * 6, 2 + hashUnit(3, i) * 5],
      [hashUnit(4, i) * 200, hashUnit(5, i) * 8, hashUnit(6, i) * 200],
      hashUnit(7, i) * 360,
    ),
    id: `b${i}`,
    ...(i % 4 ? {} : { tilt: tiltOf(hashUnit(8, i) * 180 - 90, 20)! }),
  }));
  const meshes = blocks.map((b) => placeMesh(b.id, b.id, boxMesh([-1, 0, -1], [1, 2, 1]), placer({ ...b, scale: [3, 1, 2] })));

  it('finds what looking at each finds, of blocks and of meshes', () => {
    const grid = blockGrid(blocks);
    const placed = meshGrid(meshes);
    let hits = 0;
    fc.assert(
      fc.property(ray, ({ o, d }) => {
        const slow = rayBlocks(blocks, o, d, 500);
        expect(rayBlockGrid(grid, o, d, 500)).toEqual(slow);
        if (slow) hits++;
        const mesh = rayMeshes(meshes, o, d, 500);
        const quick = rayMeshGrid(placed, o, d, 500);
        expect(quick && [quick.mesh.id, quick.distance, quick.triangle]).toEqual(mesh && [mesh.mesh.id, mesh.distance, mesh.triangle]);
        const without = rayBlockGrid(grid, o, d, 500, (b) => b.id === slow?.block.id);
        expect(without).toEqual(
          rayBlocks(
            blocks.filter((b) => b.id !== slow?.block.id),
            o,
            d,
            500,
          ),
        );
      }),
      { numRuns: 300 },
    );
    expect(hits).toBeGreaterThan(50);
  });

  it('finds the plant that looking at each finds, those that lie among them; and counts as many', () => {
    const birch = shippedPlants()[2];
    const count = 400;
    const place = new Float32Array(count * PLANT_STRIDE);
    for (let i = 0; i < count; i++)
      place.set(
        [hashUnit(1, i) * 200, hashUnit(2, i) * 3, hashUnit(3, i) * 200, 0, 0.6 + hashUnit(4, i) * 2, 1, i % 5 ? 3 : 90, hashUnit(5, i) * 360, 1],
        i * PLANT_STRIDE,
      );
    const plants: Plants = { species: 's', count, place, look: new Uint8Array(count), id: new Int32Array(count * 3), hand: [] };
    const one = (i: number): Plants => ({ ...plants, count: 1, place: place.slice(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE) });
    const species = new Map([['s', { id: 's', asset: 'a', hidden: false } as Species]]);
    const assets = new Map([['a', birch]]);
    let hits = 0;
    fc.assert(
      fc.property(ray, ({ o, d }) => {
        let slow: { index: number; distance: number } | undefined;
        for (let i = 0; i < count; i++) {
          const hit = pickPlant({ grown: [one(i)], species, assets }, { origin: o, direction: d, far: 300 });
          if (hit && (!slow || hit.distance < slow.distance)) slow = { index: i, distance: hit.distance };
        }
        const quick = pickPlant({ grown: [plants], species, assets }, { origin: o, direction: d, far: 300 });
        expect(quick && { index: quick.index, distance: quick.distance }).toEqual(slow);
        if (slow) hits++;
        let near = 0;
        for (let i = 0; i < count; i++) if ((place[i * PLANT_STRIDE] - o[0]) ** 2 + (place[i * PLANT_STRIDE + 2] - o[2]) ** 2 <= 100 / Math.PI) near++;
        expect(densityAt([plants], o[0], o[2])).toBe(near);
      }),
      { numRuns: 150 },
    );
    expect(hits).toBeGreaterThan(10);
  });
});

describe('a plant that lies', () => {
  const birch = shippedPlants()[2];
  const plants = (lean: number, to: number): Plants[] => [
    { species: 's', count: 1, place: Float32Array.of(10, 2, 20, 0, 1, 1, lean, to, 1), look: new Uint8Array(1), id: Int32Array.of(0, 0, -1), hand: ['t'] },
  ];
  const species = new Map([['s', { id: 's', name: 'birch', asset: 'a', hidden: false, shadows: true } as Species]]);
  const assets = new Map([['a', birch]]);
  const height = assetBounds(birch).max[1];

  it('is cut where it lies, not where it would stand', () => {
    // Leaning by a right angle about x (to 0), its head lies south (z) of its foot.
    const [cut] = plantsAlong({ grown: plants(90, 0), species, assets }, { x0: 10, z0: 0, dx: 0, dz: 1 }, [0, 100]);
    expect(cut.along).toBeCloseTo(20 + height / 2, 4);
    expect(cut.wide).toBeCloseTo(height, 3);
    expect(cut.base).toBeLessThan(2);
    expect(cut.tall).toBeLessThan(height / 2);
    // Far along its stem a plane across it still meets it; behind its foot none does.
    expect(plantsAlong({ grown: plants(90, 0), species, assets }, { x0: 0, z0: 20 + height - 1, dx: 1, dz: 0 }, [0, 100])).toHaveLength(1);
    expect(plantsAlong({ grown: plants(90, 0), species, assets }, { x0: 0, z0: 18, dx: 1, dz: 0 }, [0, 100])).toHaveLength(0);
  });

  it('is found from the cell beside it, as far as its crown reaches; lying, as far as its stem', () => {
    const at = (x: number, lean: number): Plants[] => [{ ...plants(lean, 270)[0], place: Float32Array.of(x, 2, 20, 0, 1, 1, lean, 270, 1) }];
    expect(pickPlant({ grown: at(15.2, 0), species, assets }, { origin: [16.1, 30, 20], direction: [0, -1, 0], far: 100 })).toBeDefined();
    // Leaning to the east (the axis looks north, to 270), its head is two cells on.
    expect(pickPlant({ grown: at(14, 90), species, assets }, { origin: [14 + height - 1, 30, 20], direction: [0, -1, 0], far: 100 })).toBeDefined();
  });

  it('stops a body along its stem, and is picked there', () => {
    const [trunk] = trunkColliders(plants(90, 0), species, assets);
    expect(trunk.max[2]).toBeGreaterThan(20 + height / 2);
    expect(trunk.max[1]).toBeLessThan(3);
    expect(pickPlant({ grown: plants(90, 0), species, assets }, { origin: [10, 30, 20 + height / 2], direction: [0, -1, 0], far: 100 })).toBeDefined();
    expect(pickPlant({ grown: plants(90, 0), species, assets }, { origin: [10, 30, 20 - height / 2], direction: [0, -1, 0], far: 100 })).toBeUndefined();
    const lean = leanOfPose({ turn: 30, tilt: tiltOf(90, 0) });
    expect(lean.map((v) => Math.round(v * 1e3) / 1e3)).toEqual([30, 90, -30]);
  });
});
