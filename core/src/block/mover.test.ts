import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { parseObject, type Gap, type Stop } from '../level/objects';
import { distance, type Vec3 } from '../num/vec';
import { declaredGap } from '../snag/declaredGap';
import { terrainOf, testBlock } from '../testing/levels';
import { gapRange, gapText, nearestGap } from './gap';
import { moverOffset, moverPeriod, moverPlaces, moverSpeed } from './mover';

const adult = SHIPPED_BODIES.adult;
/** Waits 2 s, up 3 m in 4 s, waits 1 s, back in 6 s. */
const lift: Stop[] = [
  { by: [0, 0, 0], travel: 6, wait: 2 },
  { by: [0, 3, 0], travel: 4, wait: 1 },
];

describe('a mover', () => {
  it('is where its times say, again and again', () => {
    expect(moverPeriod(lift)).toBe(13);
    expect([0, 2, 4, 6, 7, 10, 13, 17, -3].map((t) => moverOffset(lift, t)[1])).toEqual([0, 0, 1.5, 3, 3, 1.5, 0, 1.5, 1.5]);
    expect(moverSpeed(lift)).toBe(0.75);
    expect(moverPlaces(lift, 2)).toEqual([
      [0, 0, 0],
      [0, 1.5, 0],
      [0, 3, 0],
      [0, 1.5, 0],
    ]);
  });

  it('never jumps: in a moment it goes no farther than its speed', () => {
    const stop = fc.record({
      by: fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -9, max: 9 }))) as fc.Arbitrary<Vec3>,
      travel: fc.integer({ min: 1, max: 9 }),
      wait: fc.integer({ min: 0, max: 4 }),
    });
    fc.assert(
      fc.property(fc.array(stop, { minLength: 1, maxLength: 4 }), fc.double({ min: 0, max: 200, noNaN: true }), (more, t) => {
        const stops = [{ by: [0, 0, 0] as Vec3, travel: 2, wait: 1 }, ...more];
        expect(distance(moverOffset(stops, t), moverOffset(stops, t + 0.01))).toBeLessThanOrEqual(moverSpeed(stops) * 0.01 + 1e-9);
      }),
    );
  });

  it('that cannot be is refused in words', () => {
    const refused = (more: object) => {
      const r = parseObject({ ...testBlock('box', [2, 1, 2], [0, 0, 0]), ...more });
      return r.ok ? '' : r.message;
    };
    expect(refused({ stops: lift })).toBe('');
    expect(refused({ stops: [lift[1], lift[0]] })).toMatch(/first stop of a mover is its own place/);
    expect(refused({ stops: [lift[0]] })).toMatch(/at least two stops/);
    expect(refused({ stops: [lift[0], { ...lift[1], travel: 0 }] })).toMatch(/at least 0.1 s/);
    expect(refused({ stops: lift, op: 'void' })).toMatch(/void does not move/);
  });
});

describe('a gap to a mover', () => {
  const ledge = testBlock('box', [4, 1, 4], [0, 0, 0], 0, { name: 'ledge' });
  // At rest 1 m off the ledge, 6 m farther at its other end.
  const wagon = testBlock('box', [2, 1, 2], [4, 0, 0], 0, {
    name: 'wagon',
    stops: [
      { by: [0, 0, 0], travel: 3, wait: 1 },
      { by: [6, 0, 0], travel: 3, wait: 1 },
    ],
  });

  it('is measured at its nearest and its farthest', () => {
    const range = gapRange(ledge, wagon)!;
    expect(range).toMatchObject({ nearest: { width: 1, rise: 0 }, farthest: { width: 7, rise: 0 } });
    expect(gapText(adult, range)).toEqual({ verdict: 'easy', text: 'at its nearest 1.00 m: easy, at its farthest 7.00 m: impossible' });
    expect(nearestGap(ledge, [wagon], adult)?.text).toBe('gap to wagon at its nearest 1.00 m: easy, at its farthest 7.00 m: impossible');
    // A lift that comes flush with the ledge is no crack, though it is far below at rest.
    const raised = testBlock('box', [2, 1, 2], [3, -3, 0], 0, { name: 'lift', stops: lift });
    expect(nearestGap(ledge, [raised], adult)?.text).toMatch(/^gap to lift at its nearest 0.00 m: easy, at its farthest 0.00 m, 3.00 down/);
  });

  it('declared, is checked from then on', () => {
    const gap = (want: Gap['want'], to = wagon.id): Gap => ({ id: 'gap-1', version: 1, kind: 'gap', name: 'gap 1', from: ledge.id, to, want });
    const found = (g: Gap, ...more: (typeof ledge)[]) =>
      declaredGap({ gaps: [g], solids: [ledge, wagon, ...more], body: adult, placed: [], walls: [], blocks: [ledge, ...more], terrain: terrainOf(() => -50) });
    expect(found(gap('easy'))).toEqual([]);
    expect(found(gap('impossible'))).toMatchObject([
      {
        code: 'gap-declared',
        severity: 'warning',
        message: 'the gap from ledge to wagon is declared impossible and is at its nearest 1.00 m: easy, at its farthest 7.00 m: impossible',
        mend: 'move one of them, or declare it easy',
      },
    ]);
    const far = testBlock('box', [4, 1, 4], [9, 0, 0], 0, { name: 'far' });
    expect(found(gap('tight', far.id), far)).toMatchObject([
      { severity: 'blocking', message: 'the gap from ledge to far is declared tight and is 5.00 m: impossible' },
    ]);
    expect(found(gap('impossible', far.id), far)).toEqual([]);
    expect(found(gap('easy', 'gone'))).toMatchObject([{ code: 'gap-lost', severity: 'warning', object: 'gap-1' }]);
  });
});
