import { describe, expect, it } from 'vitest';
import type { Pose } from '@rammer/core/level/objects';
import { Fingers } from './touch';

const orbit: Pose = { view: 'orbit', target: [80, 2, 80], yaw: 0, pitch: -30, distance: 40 };

describe('fingers', () => {
  it('one turns the view and leaves it where it looks', () => {
    const f = new Fingers();
    f.press(1, [100, 100], 0);
    const pose = f.move(1, [150, 100], orbit, 0.1);
    expect(pose.yaw).toBeCloseTo(14, 9);
    expect([pose.target, pose.distance]).toEqual([orbit.target, orbit.distance]);
    expect(f.lift(1, [150, 100], 100)).toBeUndefined();
    expect(f.any).toBe(false);
  });

  it('two draw it nearer as they part, and move it as they go together', () => {
    const f = new Fingers();
    f.press(1, [100, 100], 0);
    f.press(2, [200, 100], 10);
    expect(f.move(2, [300, 100], orbit, 0.1).distance).toBeCloseTo(20, 9);
    const g = new Fingers();
    g.press(1, [100, 100], 0);
    g.press(2, [200, 100], 10);
    const half = g.move(1, [100, 140], orbit, 0.1);
    const both = g.move(2, [200, 140], half, 0.1);
    // 40 pixels at a decimetre each; what they part and close again is nothing.
    expect(both.distance).toBeCloseTo(40, 9);
    expect(both.target[2] - orbit.target[2]).toBeCloseTo(-4, 9);
    expect(both.yaw).toBe(0);
  });

  it('a short touch of one is a tap; of two, or a long one, is not', () => {
    const f = new Fingers();
    f.press(1, [50, 60], 1000);
    expect(f.lift(1, [52, 61], 1200)).toEqual([52, 61]);
    f.press(1, [50, 60], 2000);
    expect(f.lift(1, [50, 60], 2600)).toBeUndefined();
    f.press(1, [50, 60], 3000);
    f.press(2, [90, 60], 3050);
    expect(f.lift(1, [50, 60], 3100)).toBeUndefined();
    f.clear();
    expect(f.any).toBe(false);
  });
});
