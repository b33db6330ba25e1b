import { expect, it } from 'vitest';
import { blockGrid } from '../block/grid';
import { instanceMatrix } from '../cost/instances';
import type { Species } from '../level/objects';
import { SLOTS } from '../surface/ground';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf, testBlock } from '../testing/levels';
import { grow } from './grow';
import { PLANT_STRIDE, type Plants } from './plants';

const anywhere: Species['rule'] = { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [] };
const stone = (more: Partial<Species>) => testSpecies('gorse', 0, { rule: anywhere, density: 8, spacing: 1, clearance: 0, lean: 0, ...more });
/** Which way a plant's own up is in the level. */
function upOf({ place }: Plants, i: number): number[] {
  const [x, y, z, turn, tall, wide, lean, leanTo, deep] = place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE);
  const m = new Float32Array(16);
  instanceMatrix(m, 0, { at: [x, y, z], turn, tall, wide, lean, leanTo, deep });
  const long = Math.hypot(m[4], m[5], m[6]);
  return [m[4] / long, m[5] / long, m[6] / long];
}
const slope = terrainOf((x, z) => x * 0.6 - z * 0.3, 2);
const long = Math.sqrt(1 + 0.36 + 0.09);
const normal = [-0.6 / long, 1 / long, 0.3 / long];

it('what leans to the slope lies flat on it, whichever way it is turned; a share of it leans by that share', () => {
  const [flat] = grow(growthOn(slope, [stone({ leanToSlope: 1 })]));
  const [half] = grow(growthOn(slope, [stone({ leanToSlope: 0.5 })]));
  expect(flat.count).toBeGreaterThan(100);
  const full = Math.acos(normal[1]);
  for (let i = 0; i < flat.count; i++) {
    upOf(flat, i).forEach((v, k) => expect(v).toBeCloseTo(normal[k], 4));
    expect(Math.acos(upOf(half, i)[1])).toBeCloseTo(full / 2, 4);
  }
});

it('its own lean is on top of that, no farther than it says, and where it is sunk is all that changes of its place', () => {
  const [own] = grow(growthOn(slope, [stone({ leanToSlope: 1, lean: 9 })]));
  const [sunk] = grow(growthOn(slope, [stone({ leanToSlope: 1, lean: 9, sink: 0.2 })]));
  let most = 0;
  for (let i = 0; i < own.count; i++) {
    const up = upOf(own, i);
    most = Math.max(most, (Math.acos(Math.min(1, up[0] * normal[0] + up[1] * normal[1] + up[2] * normal[2])) * 180) / Math.PI);
    expect(sunk.place[i * PLANT_STRIDE + 1]).toBeCloseTo(own.place[i * PLANT_STRIDE + 1] - 0.2, 4);
  }
  expect(most).toBeGreaterThan(6);
  expect(most).toBeLessThan(9.5);
});

it('on a ramp it leans with the ramp, beside it with the ground; on flat ground nothing leans', () => {
  const ramp = testBlock('ramp', [10, 5, 10], [16, 0, 16]);
  const input = growthOn(
    terrainOf(() => 0, 2),
    [stone({ leanToSlope: 1 })],
    { blocks: blockGrid([ramp]) },
  );
  // Nothing grows on bare blockout: turf lies on it.
  for (let i = 0; i < input.ground.tops.length; i += SLOTS) input.ground.tops[i] = 255;
  const [plants] = grow(input);
  let on = 0;
  for (let i = 0; i < plants.count; i++) {
    const [x, y, z] = plants.place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 3);
    const up = upOf(plants, i);
    if (Math.abs(x - 16) < 4.9 && Math.abs(z - 16) < 4.9) {
      expect(y).toBeGreaterThan(0);
      expect((Math.acos(up[1]) * 180) / Math.PI).toBeCloseTo(26.565, 1);
      on++;
    } else if (Math.abs(x - 16) > 5.2 || Math.abs(z - 16) > 5.2) expect(up[1]).toBe(1);
  }
  expect(on).toBeGreaterThan(4);
});
