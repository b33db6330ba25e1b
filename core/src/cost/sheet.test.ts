import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gridOf } from '../level/tiles';
import { SHIPPED_LIGHTING } from '../level/lighting';
import type { Surface } from '../level/objects';
import { makeGround } from '../surface/ground';
import { terrainOf } from '../testing/levels';
import { batchList } from './batches';
import { tally } from './tally';
import { hazeDrawables, terrainDrawables } from './terrainDrawables';
import { cameraOf } from './camera';
import { DEVICES, frameOf } from './frame';
import { screenShare, SHADE, surfacesMixed } from './sheet';

describe('the share of the screen a sheet covers', () => {
  it('by hand: seen from above, straight down in perspective, to the horizon, behind, and larger than the screen', () => {
    const plan = cameraOf({ view: 'plan', target: [50, 0, 50], yaw: 0, pitch: -90, distance: 40 }, 2, 1.65);
    // The plan is 40 m high and 80 m wide: 20 x 20 m are an eighth of it.
    expect(screenShare(plan, [40, 0, 40], [60, 0, 60], 3)).toBeCloseTo(400 / 3200, 9);
    expect(screenShare(plan, [0, 0, 0], [100, 0, 100], 3)).toBeCloseTo(1, 9);
    // Half of it is past the picture's edge.
    expect(screenShare(plan, [40, 0, 60], [60, 0, 80], 3)).toBeCloseTo(200 / 3200, 9);
    const down = cameraOf({ view: 'orbit', target: [50, 0, 50], yaw: 0, pitch: -89.99, distance: 30 }, 1, 1.65);
    const half = 30 * Math.tan((27.5 * Math.PI) / 180);
    expect(screenShare(down, [45, 0, 45], [55, 0, 55], 0)).toBeCloseTo(100 / (4 * half * half), 4);
    // A level eye over a wide sheet: what is below the horizon, but for the strip that is farther than the sheet goes.
    const level = cameraOf({ view: 'stand', target: [0, 0, 0], yaw: 0, pitch: 0, distance: 10 }, 1.6, 1.65);
    expect(screenShare(level, [-5000, 0, -5000], [5000, 0, 5000], 0)).toBeCloseTo(0.5, 2);
    expect(screenShare(level, [-5, 0, 5], [5, 0, 20], 0)).toBe(0);
  });

  it('of parts add up to that of the whole', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 360, noNaN: true }),
        fc.double({ min: -80, max: 10, noNaN: true }),
        fc.double({ min: 5, max: 95, noNaN: true }),
        (yaw, pitch, cut) => {
          const camera = cameraOf({ view: 'orbit', target: [50, 0, 50], yaw, pitch, distance: 60 }, 1.6, 1.65);
          const [left, right] = [screenShare(camera, [0, 0, 0], [cut, 0, 100], 1), screenShare(camera, [cut, 0, 0], [100, 0, 100], 1)];
          expect(left + right).toBeCloseTo(screenShare(camera, [0, 0, 0], [100, 0, 100], 1), 6);
        },
      ),
    );
  });
});

describe('what is shaded over again', () => {
  it('a tile of three surfaces costs more than one of one, by what it covers of the screen', () => {
    const terrain = terrainOf(() => 0, 2);
    const ground = makeGround(terrain.grid, [{}, {}, {}] as Surface[]);
    for (let i = 0; i < ground.weights.length; i += 4) ground.weights.set([255, 0, 0, 0], i);
    const plan = cameraOf({ view: 'plan', target: [32, 0, 32], yaw: 0, pitch: -90, distance: 64 }, 1, 1.65);
    const spent = () => tally(batchList(terrainDrawables(terrain, ground.surfaces, ground), plan, 0.5, 1)).all;
    expect([surfacesMixed(ground, 0, 0), spent().overdraw]).toEqual([1, 0]);
    for (let i = 0; i < ground.weights.length; i += 4) ground.weights.set([100, 100, 55, 0], i);
    expect(surfacesMixed(ground, 1, 1)).toBe(3);
    // The level fills the plan: two surfaces more on all of it.
    expect(spent().overdraw).toBeCloseTo(2 * SHADE.surface, 9);
    const den = DEVICES['den-60'];
    expect(frameOf(den, spent()).gpu - frameOf(den, { ...spent(), overdraw: 0 }).gpu).toBeCloseTo((1920 * 1080 * 2 * SHADE.surface * 0.75) / 1e6, 9);
  });

  it('haze is a pass over the whole screen from anywhere, and none where there is none', () => {
    const [day] = SHIPPED_LIGHTING;
    const stand = cameraOf({ view: 'stand', target: [1, 0, 1], yaw: 90, pitch: 60, distance: 10 }, 1.6, 1.65);
    expect(tally(batchList(hazeDrawables(day), stand, 0.5, 1)).byCourse.haze).toEqual({
      draws: 0,
      triangles: 0,
      vertices: 0,
      instances: 0,
      overdraw: SHADE.haze,
      bytes: 0,
    });
    expect(hazeDrawables({ ...day, haze: 0 })).toEqual([]);
  });

  it('looks at every fourth sample of a tile, its edges with them', () => {
    const ground = makeGround(gridOf({ tilesX: 2, tilesZ: 2, spacing: 1 }), []);
    for (let i = 0; i < ground.weights.length; i += 4) ground.weights.set([255, 0, 0, 0], i);
    // Column 64 is the edge that tiles 0 and 1 share: one of seventeen columns.
    for (let z = 0; z <= 128; z++) ground.weights.set([128, 127, 0, 0], (z * 129 + 64) * 4);
    expect(surfacesMixed(ground, 0, 0)).toBeCloseTo(18 / 17, 9);
    expect(surfacesMixed(ground, 1, 0)).toBeCloseTo(18 / 17, 9);
  });
});
