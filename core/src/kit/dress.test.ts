import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { poseAxes } from '../num/pose';
import { distance, dot, normalize, type Vec3 } from '../num/vec';
import { Apart, dressDab, type Cast } from './dress';
import { DRESSING, type Dressed, type Dressing } from '../level/lay/dressed';

/** A level plane at height 0, met from above; one at 5 m, met from below. */
const cave: Cast = (o, d, far) => {
  const t = d[1] < 0 ? -o[1] / d[1] : d[1] > 0 ? (5 - o[1]) / d[1] : Infinity;
  return t >= 0 && t <= far ? { at: [o[0] + d[0] * t, o[1] + d[1] * t, o[2] + d[2] * t], normal: [0, d[1] < 0 ? 1 : -1, 0] } : undefined;
};
/** A ball of 6 m about the origin, met from outside. */
const ball: Cast = (o, d, far) => {
  const b = dot(o, d);
  const c = dot(o, o) - 36;
  const root = b * b - c;
  if (root < 0) return undefined;
  const t = -b - Math.sqrt(root);
  const at: Vec3 = [o[0] + d[0] * t, o[1] + d[1] * t, o[2] + d[2] * t];
  return t >= 0 && t <= far ? { at, normal: normalize(at) } : undefined;
};
const rocks: Dressing = { ...DRESSING, list: [{ asset: 'rock', weight: 1 }], seed: 3 };
const up = (d: Dressed): Vec3 => poseAxes(d)[1];

function stroke(
  dressing: Dressing,
  dabs: readonly { at: Vec3; normal: Vec3; radius: number }[],
  cast: Cast,
  apart = new Apart(dressing.spacing),
  which = 0,
): Dressed[] {
  return dabs.flatMap((d, i) => dressDab(dressing, d, [which, i], apart, cast));
}

describe('a brush of pieces', () => {
  it('fills a disc: none outside it, none nearer than the spacing, and room for no other', () => {
    const list = stroke(
      { ...rocks, spacing: 1 },
      Array.from({ length: 12 }, () => ({ at: [0, 0, 0] as Vec3, normal: [0, 1, 0] as Vec3, radius: 5 })),
      cave,
    );
    expect(list.every((p) => Math.hypot(p.at[0], p.at[2]) <= 5 && p.at[1] === 0)).toBe(true);
    // A disc of 5 m holds between 40 and 91 discs of 1 m spacing: a twelvefold dab is near the lower end of full.
    expect(list.length).toBeGreaterThan(48);
    for (const [i, a] of list.entries()) for (const b of list.slice(i + 1)) expect(distance(a.at, b.at)).toBeGreaterThanOrEqual(1 - 2e-4);
  });

  it('keeps its spacing across strokes and from what stands already, on any side of anything', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 9999 }),
        fc.integer({ min: 4, max: 30 }),
        fc.array(fc.tuple(fc.integer({ min: -100, max: 100 }), fc.integer({ min: -100, max: 100 }), fc.integer({ min: -100, max: 100 })), {
          minLength: 1,
          maxLength: 6,
        }),
        (seed, spacing, ways) => {
          const dressing = { ...rocks, seed, spacing: spacing / 10 };
          const apart = new Apart(dressing.spacing);
          const there: Vec3 = [0, 6, 0];
          apart.put(there);
          const dabs = ways.flatMap((w) => {
            const n = normalize(w.every((v) => v === 0) ? [0, 1, 0] : (w as Vec3));
            return [{ at: n.map((v) => v * 6) as Vec3, normal: n, radius: 3 }];
          });
          const all = [...stroke(dressing, dabs, ball, apart, 0), ...stroke(dressing, dabs, ball, apart, 1)];
          for (const [i, a] of all.entries()) {
            expect(distance(a.at, [0, 0, 0])).toBeCloseTo(6, 3);
            expect(distance(a.at, there)).toBeGreaterThanOrEqual(dressing.spacing - 2e-4);
            for (const b of all.slice(i + 1)) expect(distance(a.at, b.at)).toBeGreaterThanOrEqual(dressing.spacing - 2e-4);
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  it('is fixed by seed, stroke and dab', () => {
    const dabs = [{ at: [0, 0, 0] as Vec3, normal: [0, 1, 0] as Vec3, radius: 4 }];
    expect(stroke(rocks, dabs, cave)).toEqual(stroke(rocks, dabs, cave));
    expect(stroke({ ...rocks, seed: 4 }, dabs, cave)).not.toEqual(stroke(rocks, dabs, cave));
    expect(stroke(rocks, dabs, cave, undefined, 1)).not.toEqual(stroke(rocks, dabs, cave));
  });

  it('stands upright, out of the surface, or half way; on undersides and flanks as on floors', () => {
    const floor = [{ at: [0, 0, 0] as Vec3, normal: [0, 1, 0] as Vec3, radius: 4 }];
    for (const d of stroke({ ...rocks, lean: 1 }, floor, cave)) expect([up(d), d.tilt]).toEqual([[0, 1, 0], undefined]);
    const roof = stroke({ ...rocks, lean: 1 }, [{ at: [0, 5, 0], normal: [0, -1, 0], radius: 4 }], cave);
    expect(roof.length).toBeGreaterThan(5);
    for (const d of roof) {
      expect(d.at[1]).toBe(5);
      expect(up(d)[1]).toBeCloseTo(-1, 6);
    }
    for (const d of stroke({ ...rocks, lean: 1 }, [{ at: [6, 0, 0], normal: [1, 0, 0], radius: 3 }], ball))
      expect(dot(up(d), normalize(d.at))).toBeCloseTo(1, 4);
    for (const d of stroke({ ...rocks, lean: 0 }, [{ at: [6, 0, 0], normal: [1, 0, 0], radius: 3 }], ball)) expect(up(d)[1]).toBeCloseTo(1, 6);
  });

  it('draws turn, size, sink and tilt from their ranges, and the list by its weights', () => {
    const dressing: Dressing = {
      ...rocks,
      list: [
        { asset: 'rock', weight: 1 },
        { asset: 'slab', weight: 3 },
      ],
      spacing: 0.5,
      turn: [10, 40],
      size: [0.5, 2],
      uneven: 0.1,
      sink: [0.1, 0.3],
      tilt: 15,
    };
    const dabs = Array.from({ length: 20 }, (_, i) => ({ at: [i * 4, 0, 0] as Vec3, normal: [0, 1, 0] as Vec3, radius: 4 }));
    const list = stroke(dressing, dabs, cave);
    const slabs = list.filter((d) => d.asset === 'slab').length / list.length;
    expect(list.length).toBeGreaterThan(400);
    expect(Math.abs(slabs - 0.75)).toBeLessThan(0.07);
    for (const d of list) {
      expect(d.sink).toBeGreaterThanOrEqual(0.1);
      expect(d.sink).toBeLessThanOrEqual(0.3);
      expect(d.at[1]).toBeCloseTo(-d.sink, 3);
      for (const s of d.scale!) expect(s >= 0.5 * 0.9 - 1e-3 && s <= 2 * 1.1 + 1e-3).toBe(true);
      expect(up(d)[1]).toBeGreaterThan(Math.cos((15.01 * Math.PI) / 180));
    }
    const level = stroke({ ...dressing, tilt: 0, uneven: 0 }, dabs.slice(0, 3), cave);
    for (const d of level) expect(d.turn >= 10 - 1e-6 && d.turn <= 40 + 1e-6).toBe(true);
    expect(stroke({ ...dressing, tilt: 0, flip: 1 }, dabs.slice(0, 1), cave).every((d) => up(d)[1] < -0.999)).toBe(true);
  });

  it('sets nothing where nothing is under it, nor of an empty list', () => {
    const dab = [{ at: [0, 0, 0] as Vec3, normal: [0, 1, 0] as Vec3, radius: 4 }];
    expect(stroke(rocks, dab, () => undefined)).toEqual([]);
    expect(stroke({ ...rocks, list: [] }, dab, cave)).toEqual([]);
    expect(stroke({ ...rocks, list: [{ asset: 'rock', weight: 0 }] }, dab, cave)).toEqual([]);
  });
});
