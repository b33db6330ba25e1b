import { describe, expect, it } from 'vitest';
import { terrainOf } from '../testing/levels';
import { proposeRoute } from './proposeRoute';
import { routeLine } from './routeLine';
import { heightAt } from './sample';
import { barred, waterBody } from './water';

const proposed = (...args: Parameters<typeof proposeRoute>) => {
  const p = proposeRoute(...args);
  if (!p.ok) throw new Error(p.message);
  return p.line;
};
const lengthOf = (line: readonly (readonly [number, number, number])[]) =>
  line.slice(1).reduce((s, p, i) => s + Math.hypot(p[0] - line[i][0], p[2] - line[i][2]), 0);

describe('a proposed route', () => {
  const slope = terrainOf((_, z) => (64 - z) * 0.3);

  it('climbs a slope of 30 % in bends that keep 12 %, near the ground all the way', () => {
    const line = proposed(slope, [32, 60], [32, 4], { grade: 12, seed: 1 });
    const rise = heightAt(slope, 32, 4) - heightAt(slope, 32, 60);
    // At 12 % a rise of 16.8 m needs 140 m; straight up it is 56.
    expect(lengthOf(line)).toBeGreaterThan((rise / 0.12) * 0.85);
    expect(line.length).toBeGreaterThan(3);
    const way = routeLine({ line, grade: 12 });
    for (let i = 1; i < way.count; i++) expect(Math.abs(way.y[i] - way.y[i - 1]) / way.step).toBeLessThanOrEqual(0.1202);
    let off = 0;
    for (let i = 0; i < way.count; i++) off += Math.abs(way.y[i] - heightAt(slope, way.x[i], way.z[i])) / way.count;
    expect(off).toBeLessThan(1);
  });

  it('on level ground is about straight, begins and ends where it is asked to, and is the same for the same seed', () => {
    const flat = terrainOf(() => 2);
    const line = proposed(flat, [5.3, 7.1], [57, 50], { grade: 8, seed: 4 });
    expect(lengthOf(line)).toBeLessThan(Math.hypot(51.7, 42.9) * 1.12);
    expect([line[0], line[line.length - 1]]).toEqual([
      [5.3, 2, 7.1],
      [57, 2, 50],
    ]);
    expect(proposed(flat, [5.3, 7.1], [57, 50], { grade: 8, seed: 4 })).toEqual(line);
    const other = [2, 3, 9, 11].map((seed) => JSON.stringify(proposed(flat, [5, 7], [57, 50], { grade: 8, seed })));
    expect(new Set(other).size).toBeGreaterThan(1);
  });

  it('goes round deep water, and says where there is no way', () => {
    const trench = (end: number) => terrainOf((x, z) => (x > 28 && x < 36 && z < end ? -4 : 1));
    const wet = (end: number) => {
      const t = trench(end);
      const body = waterBody(t, { id: 'w', version: 1, kind: 'water', form: 'pool', name: 'w', seed: [32, 10], height: 0.5, hidden: false, out: false });
      return typeof body === 'string' ? t : barred(t, [body], 0.9);
    };
    const line = proposed(wet(50), [10, 10], [54, 10], { grade: 12, seed: 1 });
    expect(Math.max(...line.map((p) => p[2]))).toBeGreaterThan(49);
    expect(proposeRoute(wet(65), [10, 10], [54, 10], { grade: 12, seed: 1 })).toMatchObject({
      ok: false,
      message: 'no way leads there on dry ground: bring the ends nearer, or lower the water',
    });
    expect(proposeRoute(wet(50), [32, 10], [54, 10], { grade: 12, seed: 1 })).toMatchObject({ ok: false });
    expect(proposeRoute(slope, [10, 10], [10.5, 10], { grade: 12, seed: 1 })).toMatchObject({ ok: false });
  });
});
