import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { composeTerrain } from '../earth/compose';
import { terrainTriangles } from '../earth/mesh';
import type { Pose } from '../level/objects';
import { add, dot, length, scale, sub, type Vec3 } from '../num/vec';
import { terrainOf, testBlock, testLevel } from '../testing/levels';
import { batchList, blockDrawables, blocksByCell, BLOCK_VERTEX_BYTES, tally, terrainDrawables, updateTerrainDrawables } from './batches';
import { boxInFrustum, cameraOf, directionOf, frustumPlanes, screenSize } from './camera';
import { DEVICES, frameOf, savesWithout } from './frame';

const orbit: Pose = { view: 'orbit', target: [32, 0, 32], yaw: 0, pitch: -40, distance: 80 };

describe('the camera', () => {
  it('looks north at yaw 0, east at 90, down at pitch -90', () => {
    const near = (v: Vec3, w: Vec3) => v.forEach((c, i) => expect(c).toBeCloseTo(w[i], 12));
    near(directionOf(0, 0), [0, 0, -1]);
    near(directionOf(90, 0), [1, 0, 0]);
    near(directionOf(30, -90), [0, -1, 0]);
  });

  it('stands at the eye, orbits at its distance, and has an upright frame of unit axes', () => {
    fc.assert(fc.property(fc.constantFrom('plan' as const, 'orbit' as const, 'stand' as const), fc.double({ min: 0, max: 360, noNaN: true }), fc.double({ min: -85, max: 20, noNaN: true }), (view, yaw, pitch) => {
      const c = cameraOf({ view, target: [10, 2, 20], yaw, pitch, distance: 30 }, 1.5, 1.65);
      for (const axis of [c.forward, c.up, c.right]) expect(length(axis)).toBeCloseTo(1, 9);
      expect(dot(c.forward, c.up)).toBeCloseTo(0, 9);
      expect(dot(c.forward, c.right)).toBeCloseTo(0, 9);
      if (view === 'stand') expect(c.eye[1]).toBeCloseTo(3.65, 9);
      if (view === 'orbit') add(c.eye, scale(c.forward, 30)).forEach((v, i) => expect(v).toBeCloseTo([10, 2, 20][i], 6));
    }));
  });

  it('never culls a box that holds a point in view', () => {
    fc.assert(fc.property(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: 2, max: 300, noNaN: true }), fc.double({ min: 0.01, max: 20, noNaN: true }), (u, v, depth, half) => {
      const c = cameraOf(orbit, 1.6, 1.65);
      const t = Math.tan((c.fov * Math.PI) / 360);
      const p = add(c.eye, add(scale(c.forward, depth), add(scale(c.right, u * t * 1.6 * depth * 0.999), scale(c.up, v * t * depth * 0.999))));
      expect(boxInFrustum(frustumPlanes(c), sub(p, [half, half, half]), add(p, [half, half, half]))).toBe(true);
    }));
    expect(boxInFrustum(frustumPlanes(cameraOf(orbit, 1.6, 1.65)), [30, 0, 500], [34, 4, 510])).toBe(false);
  });

  it('measures screen size as radius / (distance tan(fov / 2))', () => {
    const c = cameraOf(orbit, 1, 1.65);
    expect(screenSize(c, [32, 0, 32], 2)).toBeCloseTo(2 / (80 * Math.tan((27.5 * Math.PI) / 180)), 9);
  });
});

describe('the batch list', () => {
  it('worked by hand: a 2 x 2 tile level and three blocks in two cells are 6 draws', () => {
    const terrain = terrainOf(() => 0);
    const cells = blocksByCell([testBlock('box', [1, 1, 1], [4, 0, 4]), testBlock('ramp', [1, 1, 1], [5, 0, 5]), testBlock('box', [1, 1, 1], [40, 0, 40]), testBlock('box', [1, 1, 1], [4, 0, 4], 0, { hidden: true }), testBlock('box', [1, 1, 1], [4, 0, 4], 0, { out: true })]);
    const batches = batchList([...terrainDrawables(terrain), ...blockDrawables(cells)], cameraOf({ ...orbit, distance: 400 }, 1.6, 1.65), 0.5, 1);
    const { all, byCourse } = tally(batches);
    expect(all.draws).toBe(6);
    expect(byCourse.blocks).toEqual({ draws: 2, triangles: 12 + 8 + 12, vertices: (12 + 8 + 12) * 3, bytes: (12 + 8 + 12) * 3 * BLOCK_VERTEX_BYTES });
    expect(byCourse.terrain!.triangles).toBe(4 * terrainTriangles(batches[0].lod));
    expect(all.triangles).toBe(byCourse.blocks!.triangles + byCourse.terrain!.triangles);
  });

  it('brought up to date after a local change is the one made anew', () => {
    const terrain = terrainOf(() => 0, 3);
    const parts = terrainDrawables(terrain);
    fc.assert(fc.property(fc.nat(192), fc.nat(192), fc.nat(20), fc.nat(20), fc.double({ min: -5, max: 5, noNaN: true }), (x, z, w, d, h) => {
      const rect = { x0: x, z0: z, x1: Math.min(192, x + w), z1: Math.min(192, z + d) };
      for (let iz = rect.z0; iz <= rect.z1; iz++) for (let ix = rect.x0; ix <= rect.x1; ix++) terrain.heights[iz * 193 + ix] = h;
      updateTerrainDrawables(parts, terrain, rect);
      expect(parts).toEqual(terrainDrawables(terrain));
    }), { numRuns: 40 });
  });

  it('draws coarser ground farther off, and never finer when told to be coarser', () => {
    const drawables = terrainDrawables(composeTerrain(testLevel(4, 0.5, { seed: 1, height: 3, scale: 30, octaves: 3 })));
    fc.assert(fc.property(fc.double({ min: 5, max: 900, noNaN: true }), fc.double({ min: 0, max: 360, noNaN: true }), fc.double({ min: 1, max: 5, noNaN: true }), (distance, yaw, coarse) => {
      const camera = cameraOf({ ...orbit, target: [64, 0, 64], distance, yaw }, 1.6, 1.65);
      const fine = batchList(drawables, camera, 0.5, 1);
      const rough = batchList(drawables, camera, 0.5, coarse);
      expect(rough.map((b) => b.key)).toEqual(fine.map((b) => b.key));
      rough.forEach((b, i) => expect(b.lod).toBeGreaterThanOrEqual(fine[i].lod));
    }));
    const lods = (distance: number) => batchList(drawables, cameraOf({ ...orbit, target: [64, 0, 64], distance }, 1.6, 1.65), 0.5, 1).map((b) => b.lod);
    expect(Math.min(...lods(10))).toBe(0);
    expect(Math.min(...lods(900))).toBe(3);
  });
});

describe('the cost model', () => {
  it('worked by hand for Den 60: 100 draws, 50,000 triangles, 60,000 vertices', () => {
    const f = frameOf(DEVICES['den-60'], { draws: 100, triangles: 50_000, vertices: 60_000, bytes: 0 });
    expect(f.cpu).toBeCloseTo(3 + 1.1, 9);
    // 2 + 60,000 * 0.42 ns + 50,000 * 0.2 ns + 1920 * 1080 * 1.1 ns = 2 + 0.0252 + 0.01 + 2.28096 ms
    expect(f.gpu).toBeCloseTo(4.31616, 5);
    expect(f.governs).toBe('GPU');
    expect(f.frame).toBe(f.gpu);
  });

  it('saves less than a course costs where the other side governs without it', () => {
    const all = { draws: 400, triangles: 3_000_000, vertices: 2_000_000, bytes: 0 };
    const part = { draws: 10, triangles: 2_900_000, vertices: 1_900_000, bytes: 0 };
    const device = DEVICES['den-60'];
    // With it 5.721 ms of GPU; without it the CPU governs with 3 + 390 * 0.011 = 7.29 ms either way.
    expect(frameOf(device, all).governs).toBe('CPU');
    expect(savesWithout(device, all, part)).toBeCloseTo(0.11, 9);
    expect(savesWithout(device, all, { draws: 0, triangles: 0, vertices: 0, bytes: 0 })).toBe(0);
  });

  it('is CPU-bound with many draws, and instances and overdraw count', () => {
    const many = { draws: 2000, triangles: 0, vertices: 0, bytes: 0 };
    expect(frameOf(DEVICES['pocket-30'], many)).toMatchObject({ cpu: 60, governs: 'CPU', frame: 60 });
    expect(frameOf(DEVICES['pocket-30'], many, 10_000).cpu).toBeCloseTo(60.2, 9);
    const none = { draws: 0, triangles: 0, vertices: 0, bytes: 0 };
    expect(frameOf(DEVICES['visor-72'], none, 0, 1).gpu - frameOf(DEVICES['visor-72'], none).gpu).toBeCloseTo(6.48, 6);
  });
});
