import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LabelRoom } from './labelRoom';

describe('room for labels', () => {
  it('is where it is wanted, else a line over or under it, else there is none', () => {
    const room = new LabelRoom(20, 100);
    expect(room.take(50, 60, 40)).toBe(60);
    expect(room.take(60, 60, 40)).toBe(46);
    expect(room.take(60, 60, 40)).toBe(74);
    // Beside them there is room at once.
    expect(room.take(140, 60, 40)).toBe(60);
    expect([room.take(60, 60, 40), room.take(60, 60, 40)]).toEqual([32, 88]);
    expect(room.take(60, 60, 40)).toBeUndefined();
  });

  it('is never shared, and lies within its bounds', () => {
    const label = fc.tuple(fc.integer({ min: 0, max: 300 }), fc.integer({ min: -20, max: 140 }), fc.integer({ min: 5, max: 120 }));
    fc.assert(
      fc.property(fc.array(label, { maxLength: 40 }), (labels) => {
        const room = new LabelRoom(20, 100);
        const kept = labels.flatMap(([x, y, wide]) => {
          const at = room.take(x, y, wide);
          return at === undefined ? [] : [{ x, at, wide }];
        });
        for (const [i, a] of kept.entries()) {
          expect(a.at).toBeGreaterThanOrEqual(20);
          expect(a.at).toBeLessThanOrEqual(100);
          for (const b of kept.slice(i + 1)) expect(a.x + a.wide <= b.x || b.x + b.wide <= a.x || Math.abs(a.at - b.at) >= 14).toBe(true);
        }
      }),
    );
  });
});
