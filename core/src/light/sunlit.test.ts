import { describe, expect, it } from 'vitest';
import { terrainOf, testBlock } from '../testing/levels';
import { occluderHeights, sunDirection, sunlit } from './sunlit';

const flat = terrainOf(() => 0);

describe('the sun', () => {
  it('stands where azimuth and elevation say', () => {
    const near = (a: number[], b: number[]) => a.forEach((v, i) => expect(v).toBeCloseTo(b[i], 12));
    near(sunDirection(0, 0), [0, 0, -1]);
    near(sunDirection(90, 0), [1, 0, 0]);
    near(sunDirection(123, 90), [0, 1, 0]);
  });

  it('throws a shadow as long as the height over the tangent of its elevation', () => {
    const wall = testBlock('box', [1, 4, 40], [32, 0, 32]);
    const occluders = occluderHeights(flat, [wall]);
    // Sun in the west, 45 degrees: the shadow of 4 m falls 4 m to the east.
    const light = sunlit(flat, occluders, sunDirection(270, 45), { x0: 0, z0: 64, x1: 128, z1: 64 });
    const at = (x: number) => light[Math.round(x / 0.5) * 2];
    expect(at(34)).toBe(0);
    expect(at(35.5)).toBeLessThan(60);
    expect(at(38)).toBeGreaterThan(200);
    expect(at(20)).toBe(255);
  });

  it('sees the open sky on a plain, half of it at the foot of a high wall', () => {
    const wall = testBlock('box', [2, 200, 60], [32, 0, 32]);
    const light = sunlit(flat, occluderHeights(flat, [wall]), [0, 1, 0], { x0: 0, z0: 64, x1: 128, z1: 64 });
    expect(light[10 * 2 + 1]).toBe(255);
    const foot = light[Math.round(34 / 0.5) * 2 + 1];
    expect(foot).toBeGreaterThan(110);
    expect(foot).toBeLessThan(175);
  });

  it('shines under a block that hangs high', () => {
    const hung = testBlock('box', [4, 1, 4], [32, 5, 32]);
    expect(Math.max(...occluderHeights(flat, [hung]))).toBe(0);
  });
});
