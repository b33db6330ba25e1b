import { plantCells } from './plantCells';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { composeTerrain } from '../earth/compose';
import { TERRAIN_LOD_STRIDES, terrainTriangles } from '../earth/mesh';
import type { Pose, Surface } from '../level/objects';
import { add, dot, length, scale, sub, type Vec3 } from '../num/vec';
import { terrainOf, testBlock, testLevel } from '../testing/levels';
import { batchList, wholeLevel } from './batches';
import { blockDrawables, blocksByCell, BLOCK_VERTEX_BYTES } from './blockDrawables';
import { COURSES, INSTANCE_BYTES, type Drawable } from './drawable';
import { instanceLod, LOD_ON_SCREEN } from './lods';
import { CASCADES, shadowBatches } from './shadows';
import { emptyTally, tally, viewTally } from './tally';
import { terrainDrawables, updateTerrainDrawables, updateTerrainGround } from './terrainDrawables';
import { boxInFrustum, cameraOf, directionOf, frustumPlanes, screenSize } from './camera';
import { baseTerm, DEVICES, frameOf, savesWithout, termOf } from './frame';
import { SHADE } from './sheet';
import { makeGround } from '../surface/ground';
import { instanceMatrix, pieceCells } from './instances';
import { PLANT_STRIDE } from '../growth/plants';
import { gorsePatch } from '../testing/growth';
import { testAssets } from '../testing/assets';

const orbit: Pose = { view: 'orbit', target: [32, 0, 32], yaw: 0, pitch: -40, distance: 80 };

describe('the camera', () => {
  it('looks north at yaw 0, east at 90, down at pitch -90', () => {
    const near = (v: Vec3, w: Vec3) => v.forEach((c, i) => expect(c).toBeCloseTo(w[i], 12));
    near(directionOf(0, 0), [0, 0, -1]);
    near(directionOf(90, 0), [1, 0, 0]);
    near(directionOf(30, -90), [0, -1, 0]);
  });

  it('stands at the eye, orbits at its distance, and has an upright frame of unit axes', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('plan' as const, 'orbit' as const, 'stand' as const),
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.double({ min: -85, max: 20, noNaN: true }),
        (view, yaw, pitch) => {
          const c = cameraOf({ view, target: [10, 2, 20], yaw, pitch, distance: 30 }, 1.5, 1.65);
          for (const axis of [c.forward, c.up, c.right]) expect(length(axis)).toBeCloseTo(1, 9);
          expect(dot(c.forward, c.up)).toBeCloseTo(0, 9);
          expect(dot(c.forward, c.right)).toBeCloseTo(0, 9);
          if (view === 'stand') expect(c.eye[1]).toBeCloseTo(3.65, 9);
          if (view === 'orbit') add(c.eye, scale(c.forward, 30)).forEach((v, i) => expect(v).toBeCloseTo([10, 2, 20][i], 6));
        },
      ),
    );
  });

  it('never culls a box that holds a point in view', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: 2, max: 300, noNaN: true }),
        fc.double({ min: 0.01, max: 20, noNaN: true }),
        (u, v, depth, half) => {
          const c = cameraOf(orbit, 1.6, 1.65);
          const t = Math.tan((c.fov * Math.PI) / 360);
          const p = add(c.eye, add(scale(c.forward, depth), add(scale(c.right, u * t * 1.6 * depth * 0.999), scale(c.up, v * t * depth * 0.999))));
          expect(boxInFrustum(frustumPlanes(c), sub(p, [half, half, half]), add(p, [half, half, half]))).toBe(true);
        },
      ),
    );
    expect(boxInFrustum(frustumPlanes(cameraOf(orbit, 1.6, 1.65)), [30, 0, 500], [34, 4, 510])).toBe(false);
  });

  it('measures screen size as radius / (distance tan(fov / 2))', () => {
    const c = cameraOf(orbit, 1, 1.65);
    expect(screenSize(c, [32, 0, 32], 2)).toBeCloseTo(2 / (80 * Math.tan((27.5 * Math.PI) / 180)), 9);
  });
});

describe('the batch list', () => {
  it('worked by hand: a 2 x 2 tile level and three blocks in two cells are 6 draws, one hidden from view the same, one taken out not', () => {
    const terrain = terrainOf(() => 0);
    const blocks = [
      testBlock('box', [1, 1, 1], [4, 0, 4]),
      testBlock('ramp', [1, 1, 1], [5, 0, 5]),
      testBlock('box', [1, 1, 1], [40, 0, 40]),
      testBlock('box', [1, 1, 1], [4, 0, 4], 0, { hidden: true }),
      testBlock('box', [1, 1, 1], [4, 0, 4], 0, { out: true }),
    ];
    const cells = blocksByCell(blocks);
    const batches = batchList([...terrainDrawables(terrain, []), ...blockDrawables(cells)], cameraOf({ ...orbit, distance: 400 }, 1.6, 1.65), 0.5, 1);
    const { all, byCourse } = tally(batches);
    expect(all.draws).toBe(6);
    expect(byCourse.blocks).toEqual({
      ...emptyTally(),
      draws: 2,
      triangles: 12 + 8 + 12 + 12,
      vertices: (12 + 8 + 12 + 12) * 3,
      bytes: (12 + 8 + 12 + 12) * 3 * BLOCK_VERTEX_BYTES,
    });
    expect([...blocksByCell(blocks, 'seen').values()].flat()).toEqual(blocks.slice(0, 3));
    expect(byCourse.terrain!.triangles).toBe(batches.filter((b) => b.course === 'terrain').reduce((sum, b) => sum + terrainTriangles(b.lod), 0));
    expect(all.triangles).toBe(byCourse.blocks!.triangles + byCourse.terrain!.triangles);
  });

  it('brought up to date after a local change is the one made anew', () => {
    const terrain = terrainOf(() => 0, 3);
    const parts = terrainDrawables(terrain, []);
    fc.assert(
      fc.property(fc.nat(192), fc.nat(192), fc.nat(20), fc.nat(20), fc.double({ min: -5, max: 5, noNaN: true }), (x, z, w, d, h) => {
        const rect = { x0: x, z0: z, x1: Math.min(192, x + w), z1: Math.min(192, z + d) };
        for (let iz = rect.z0; iz <= rect.z1; iz++) for (let ix = rect.x0; ix <= rect.x1; ix++) terrain.heights[iz * 193 + ix] = h;
        updateTerrainDrawables(parts, terrain, rect);
        expect(parts).toEqual(terrainDrawables(terrain, []));
      }),
      { numRuns: 40 },
    );
    // The ground likewise: 256 pixels a side with their mip levels take a third more than 4 bytes each.
    const ground = makeGround(terrain.grid, [{ pixels: 256 } as Surface]);
    updateTerrainGround(parts, ground);
    expect(parts).toEqual(terrainDrawables(terrain, ground.surfaces, ground));
    expect(parts[0].shared![0].bytes).toBe(349_525);
    for (let i = 0; i < ground.weights.length; i += 4) ground.weights.set([85, 85, 85, 0], i);
    updateTerrainGround(parts, ground, { x0: 70, z0: 70, x1: 80, z1: 80 });
    // Two surfaces more than one, in the middle tile alone.
    expect(parts.map((p) => p.sheet!.shade)).toEqual(parts.map((_, i) => (i === 4 ? 2 * SHADE.surface : 0)));
  });

  it('draws coarser ground farther off, and never finer when told to be coarser', () => {
    const drawables = terrainDrawables(composeTerrain(testLevel(4, 0.5, { seed: 1, height: 3, scale: 30, octaves: 3 })), []);
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 900, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.double({ min: 1, max: 5, noNaN: true }),
        (distance, yaw, coarse) => {
          const camera = cameraOf({ ...orbit, target: [64, 0, 64], distance, yaw }, 1.6, 1.65);
          const fine = batchList(drawables, camera, 0.5, 1);
          const rough = batchList(drawables, camera, 0.5, coarse);
          expect(rough.map((b) => b.key)).toEqual(fine.map((b) => b.key));
          rough.forEach((b, i) => expect(b.lod).toBeGreaterThanOrEqual(fine[i].lod));
        },
      ),
    );
    const lods = (distance: number) => batchList(drawables, cameraOf({ ...orbit, target: [64, 0, 64], distance }, 1.6, 1.65), 0.5, 1).map((b) => b.lod);
    expect(Math.min(...lods(10))).toBe(0);
    expect(Math.min(...lods(900))).toBe(TERRAIN_LOD_STRIDES.length - 1);
  });
});

describe('the cost model', () => {
  it('worked by hand for Den 60: 100 draws, 50,000 triangles, 60,000 vertices', () => {
    const f = frameOf(DEVICES['den-60'], { ...emptyTally(), draws: 100, triangles: 50_000, vertices: 60_000, bytes: 0 });
    expect(f.cpu).toBeCloseTo(3 + 1.1, 9);
    // 2 + 60,000 * 0.42 ns + 50,000 * 0.2 ns + 1920 * 1080 * 1.1 ns = 2 + 0.0252 + 0.01 + 2.28096 ms
    expect(f.gpu).toBeCloseTo(4.31616, 5);
    expect(f.governs).toBe('GPU');
    expect(f.frame).toBe(f.gpu);
  });

  it('saves less than a course costs where the other side governs without it', () => {
    const all = { ...emptyTally(), draws: 400, triangles: 3_000_000, vertices: 2_000_000, bytes: 0 };
    const part = { ...emptyTally(), draws: 10, triangles: 2_900_000, vertices: 1_900_000, bytes: 0 };
    const device = DEVICES['den-60'];
    // With it 5.721 ms of GPU; without it the CPU governs with 3 + 390 * 0.011 = 7.29 ms either way.
    expect(frameOf(device, all).governs).toBe('CPU');
    expect(savesWithout(device, all, part)).toBeCloseTo(0.11, 9);
    expect(savesWithout(device, all, emptyTally())).toBe(0);
  });

  it('is CPU-bound with many draws, and instances and overdraw count', () => {
    const many = { ...emptyTally(), draws: 2000 };
    expect(frameOf(DEVICES['pocket-30'], many)).toMatchObject({ cpu: 60, governs: 'CPU', frame: 60 });
    expect(frameOf(DEVICES['pocket-30'], { ...many, instances: 10_000 }).cpu).toBeCloseTo(60.2, 9);
    expect(frameOf(DEVICES['visor-72'], { ...emptyTally(), overdraw: 1 }).gpu - frameOf(DEVICES['visor-72'], emptyTally()).gpu).toBeCloseTo(6.48, 6);
  });
});

/** A hand-made scene: 50 bushes of 100, 20 and 4 triangles in a cell 40 m ahead, and a masked fern. */
const bushes: Drawable = {
  key: 'plants/bush/0,0',
  course: 'plants',
  of: 'bush',
  min: [-8, 0, -48],
  max: [8, 2, -40],
  triangles: [100, 20, 4],
  vertices: [90, 24, 6],
  draws: [2, 1, 1],
  instances: 50,
  radius: 1,
  cutoff: 0,
  casts: true,
  alphaArea: [0, 0, 0],
  bytes: 50 * INSTANCE_BYTES,
  shared: [{ key: 'bush', bytes: 9000 }],
};
const fern: Drawable = {
  ...bushes,
  key: 'plants/fern/0,0',
  of: 'fern',
  instances: 10,
  alphaArea: [1, 1, 1],
  bytes: 10 * INSTANCE_BYTES,
  shared: [{ key: 'fern', bytes: 500 }],
  casts: false,
};
const ahead = cameraOf({ view: 'stand', target: [0, 0, 0], yaw: 0, pitch: 0, distance: 10 }, 2, 0);
const TAN = Math.tan((27.5 * Math.PI) / 180);

describe('a hand-made scene', () => {
  it('is drawn at the LOD of its height on the screen: 1 m at 40 m is 0.048 of half the screen', () => {
    expect(screenSize(ahead, [0, 0, -40], 1)).toBeCloseTo(1 / (40 * TAN), 9);
    // Three LODs use the last two limits, 0.13 and 0.045: 0.048 lies between them.
    const [batch] = batchList([bushes], ahead, 0.5, 1);
    expect(batch).toMatchObject({ lod: 1, draws: 1, triangles: 50 * 20, vertices: 50 * 24, instances: 50, bytes: 3200 });
    expect(instanceLod(3, 1, 1 / (LOD_ON_SCREEN[1] * TAN) - 0.01, { fov: 55, halfHeight: 0 }, 1)).toBe(0);
    expect(instanceLod(3, 1, 1 / (LOD_ON_SCREEN[2] * TAN) + 0.01, { fov: 55, halfHeight: 0 }, 1)).toBe(2);
  });

  it('is overdrawn by each plant where it stands and as large as it is; one behind the eye is not', () => {
    const matrix = (x: number, z: number, size: number) => [size, 0, 0, 0, 0, size, 0, 0, 0, 0, size, 0, x, ahead.eye[1], z, 1];
    const three: Drawable = { ...fern, instances: 3, places: Float32Array.from([...matrix(0, -40, 1), ...matrix(0, -20, 2), ...matrix(0, 10, 1)]) };
    const share = (area: number, distance: number) => area / (4 * (distance * TAN) ** 2 * 2);
    expect(batchList([three], ahead, 0.5, 1)[0].overdraw).toBeCloseTo(share(1, 40) + share(4, 20), 7);
    // Right before the eye it covers the screen once and no more.
    expect(batchList([{ ...three, instances: 1, places: Float32Array.from(matrix(0, -0.2, 1)) }], ahead, 0.5, 1)[0].overdraw).toBe(1);
  });

  it('costs what the formulas say on Den 60', () => {
    const sums = viewTally([bushes, fern], ahead, 0.5);
    // A fern of 1 m2 at 40 m: its share of a screen 2 x 40 tan high and twice as wide.
    const share = 1 / (4 * (40 * TAN) ** 2 * 2);
    expect(sums.all.overdraw).toBeCloseTo(10 * share, 9);
    // In its cell from 40 to 49 m only the third cascade (35 to 80 m) sees the bushes; the fern casts none.
    expect(sums.byCourse.shadows).toMatchObject({ draws: 1, triangles: 1000, instances: 50, bytes: 0 });
    const d = DEVICES['den-60'];
    const f = frameOf(d, sums.all);
    expect(f.cpu).toBeCloseTo(3 + (3 * 11 + 110 * 0.008) / 1000, 9);
    expect(f.gpu).toBeCloseTo(2 + ((1200 * 2 + 240) * 0.42 + (1000 * 2 + 200) * 0.2 + 1920 * 1080 * (1.1 + 10 * share * 0.75)) / 1e6, 9);
    // Meshes once, instances each.
    expect(sums.all.bytes).toBe(3200 + 640 + 9000 + 500);
  });

  it('is left out beyond its cut-off and out of view, and counted once at its finest for the whole level', () => {
    expect(batchList([{ ...bushes, cutoff: 39 }], ahead, 0.5, 1)).toEqual([]);
    expect(batchList([{ ...bushes, min: [-8, 0, 40], max: [8, 2, 48] }], ahead, 0.5, 1)).toEqual([]);
    expect(tally(wholeLevel([bushes])).all).toMatchObject({ triangles: 5000, draws: 2, instances: 50 });
    // Behind the eye nothing is drawn, but it may throw its shadow into the picture.
    expect(shadowBatches([{ ...bushes, min: [-8, 0, 2], max: [8, 2, 10] }], ahead, 0.5).map((b) => b.key)).toEqual(['plants/bush/0,0#0', 'plants/bush/0,0#1']);
    expect(shadowBatches([{ ...bushes, min: [-8, 0, -200], max: [8, 2, -CASCADES[2] - 1] }], ahead, 0.5)).toEqual([]);
    // Near only: from 2 m off it throws them, from beyond it none.
    const at = (castsTo: number) => shadowBatches([{ ...bushes, castsTo, min: [-8, 0, 2], max: [8, 2, 10] }], ahead, 0.5).length;
    expect([at(3), at(1)]).toEqual([2, 0]);
  });

  it('terms of the governing side and the base sum to the frame, whichever side governs', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(DEVICES)),
        fc.array(
          fc.record({
            course: fc.constantFrom(...COURSES.slice(1)),
            draws: fc.nat(900),
            triangles: fc.nat(4e6),
            instances: fc.nat(1e5),
            overdraw: fc.double({ min: 0, max: 6, noNaN: true }),
          }),
          { maxLength: 12 },
        ),
        (device, parts) => {
          const { all, byCourse } = tally(parts.map((p, i) => ({ ...p, key: String(i), of: p.course, lod: 0, vertices: p.triangles, bytes: 0 })));
          const frame = frameOf(device, all);
          const sum = Object.values(byCourse).reduce((s, t) => s + termOf(device, t, frame.governs), baseTerm(device, frame.governs));
          expect(Math.abs(sum - frame.frame)).toBeLessThan(1e-9 * Math.max(1, frame.frame));
        },
      ),
    );
  });
});

describe('instances by cell', () => {
  it('hold every piece and plant once, and their bounds hold all of its points', () => {
    const assets = testAssets();
    const pieces = [
      [3, 4],
      [31.9, 2],
      [32.1, 2],
      [40, 33],
    ].map(([x, z], i) => ({
      id: `p${i}`,
      version: 1,
      kind: 'piece' as const,
      name: 'stair',
      asset: 'stair',
      at: [x, 1, z] as Vec3,
      turn: i * 35,
      sink: 0,
      collider: 'asset' as const,
      hidden: i === 3,
      out: false,
    }));
    const cells = pieceCells(pieces, assets);
    expect(cells.map((c) => [c.key, c.ids])).toEqual([
      ['kit/stair/0,0', ['p0', 'p1']],
      ['kit/stair/1,0', ['p2']],
      ['kit/stair/1,1', ['p3']],
    ]);
    // Hidden from view it is not drawn here, and costs all the same.
    expect(pieceCells(pieces, assets, 'seen').map((c) => c.ids)).toEqual([['p0', 'p1'], ['p2']]);
    const { grown, species } = gorsePatch();
    const plants = plantCells(grown, species, assets);
    expect(plants.reduce((s, c) => s + (c.holds ? 0 : c.count), 0)).toBe(grown[0].count);
    for (const cell of [...cells, ...plants]) {
      const { positions } = assets.get(cell.asset)!.lods[0][0];
      let out = 0;
      for (let n = 0; n < cell.matrices.length; n += 16) {
        const m = cell.matrices.subarray(n, n + 16);
        for (let v = 0; v < positions.length; v += 3) {
          for (let k = 0; k < 3; k++) {
            const at = m[k] * positions[v] + m[4 + k] * positions[v + 1] + m[8 + k] * positions[v + 2] + m[12 + k];
            if (at < cell.min[k] - 1e-3 || at > cell.max[k] + 1e-3) out++;
          }
        }
      }
      expect([cell.key, out]).toEqual([cell.key, 0]);
    }
    expect(grown[0].place.length).toBe(grown[0].count * PLANT_STRIDE);
  });

  it('an instance turned and leaned keeps lengths, and upright it only turns', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.double({ min: 0, max: 45, noNaN: true }),
        fc.double({ min: 0, max: 360, noNaN: true }),
        (turn, lean, to) => {
          const m = new Float32Array(16);
          instanceMatrix(m, 0, { at: [1, 2, 3], turn, tall: 2, wide: 3, lean, leanTo: to });
          const column = (c: number): Vec3 => [m[c * 4], m[c * 4 + 1], m[c * 4 + 2]];
          expect(length(column(0))).toBeCloseTo(3, 4);
          expect(length(column(1))).toBeCloseTo(2, 4);
          expect(dot(column(0), column(1))).toBeCloseTo(0, 4);
          // The trunk leans by exactly the angle.
          expect(column(1)[1] / 2).toBeCloseTo(Math.cos((lean * Math.PI) / 180), 4);
        },
      ),
    );
    const m = new Float32Array(16);
    instanceMatrix(m, 0, { at: [0, 0, 0], turn: 90, tall: 1, wide: 1, lean: 0, leanTo: 0 });
    // A quarter turn, counter-clockwise seen from above, takes +x to -z.
    expect([m[0], m[1], m[2]].map((v) => Math.round(v * 1e6) / 1e6 + 0)).toEqual([0, 0, -1]);
  });
});
