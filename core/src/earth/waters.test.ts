import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseObject, type Lift, type Water } from '../level/objects';
import { terrainOf } from '../testing/levels';
import type { Terrain } from './compose';
import { meets, type Looked } from './looked';
import type { Rect } from './rect';
import type { WaterBody } from './water';
import { fill, stays, waterBodies, watersOf, type Filled } from './waters';

const object = <T>(given: Record<string, unknown>): T => {
  const parsed = parseObject({ version: 1, ...given });
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.object as T;
};
const water = (id: string, given: Record<string, unknown>) => object<Water>({ id, kind: 'water', name: id, ...given });
const brook = object<Lift>({
  id: 'brook',
  kind: 'lift',
  lift: 'route',
  name: 'brook',
  order: 1,
  visible: true,
  line: [
    [10, 1, 100],
    [110, 0, 104],
  ],
  width: 2,
  shoulder: 0,
  sunk: 3,
});
/** One of each form, in a level of 4 x 4 tiles. */
const WATERS = [
  water('west', { form: 'pool', height: 0.6, seed: [22, 24] }),
  water('east', { form: 'pool', height: 3.2, seed: [100, 30] }),
  water('sea', { form: 'sea', height: -0.4 }),
  water('plane', { form: 'plane', height: 0.5, x0: 70, z0: 70, x1: 90, z1: 84 }),
  water('brook-water', { form: 'stream', height: 2.6, route: 'brook' }),
];
/** Bowls and humps, with a beach at the south. */
const ground = (): Terrain => terrainOf((x, z) => 1 + 2 * Math.sin(x / 9) * Math.cos(z / 11) - (z > 118 ? (z - 118) * 0.4 : 0), 4);
const at = ({ grid }: Terrain, rect: Rect, raise: (i: number) => void) => {
  for (let z = rect.z0; z <= rect.z1; z++) for (let x = rect.x0; x <= rect.x1; x++) raise(z * grid.nx + x);
};
/** Two bodies alike in all they hold, sample by sample; faster than a test's own deep comparison. */
const same = (a: WaterBody, b: WaterBody): boolean =>
  plain(a) === plain(b) &&
  [
    [a.wet, b.wet],
    [a.mesh.positions, b.mesh.positions],
    [a.mesh.indices, b.mesh.indices],
    [a.shore, b.shore],
  ].every(([p, q]) => p.length === q.length && p.every((v, i) => v === q[i]));
const plain = ({ wet: _wet, levels: _levels, mesh: _mesh, shore: _shore, ...rest }: WaterBody): string => JSON.stringify(rest);
const some = fc.record({
  x: fc.integer({ min: 0, max: 250 }),
  z: fc.integer({ min: 0, max: 250 }),
  w: fc.integer({ min: 0, max: 40 }),
  d: fc.integer({ min: 0, max: 40 }),
  by: fc.double({ min: -3, max: 3, noNaN: true }),
});

describe('waters that follow the ground', () => {
  it('lie as if all were filled anew, whatever is raised or lowered, one thing after the other', () => {
    let kept = 0;
    fc.assert(
      fc.property(fc.array(some, { minLength: 1, maxLength: 4 }), (changes) => {
        const terrain = ground();
        let filled = WATERS.map((w) => fill(terrain, w, [brook]));
        for (const { x, z, w, d, by } of changes) {
          const rect = { x0: x, z0: z, x1: Math.min(256, x + w), z1: Math.min(256, z + d) };
          at(terrain, rect, (i) => {
            terrain.heights[i] += by;
          });
          const stay = filled.map((f) => stays(f, f.water, [brook], rect));
          kept += stay.filter(Boolean).length;
          filled = filled.map((f, i) => (stay[i] ? f : fill(terrain, f.water, [brook])));
          const anew = waterBodies(terrain, WATERS, [brook]);
          const now = watersOf(filled);
          expect([now.dry, now.bodies.length]).toEqual([anew.dry, anew.bodies.length]);
          now.bodies.forEach((body, k) => expect(same(body, anew.bodies[k])).toBe(true));
        }
      }),
      { numRuns: 12 },
    );
    expect(kept).toBeGreaterThan(30);
  });

  it('know what they looked at: a pool its basin and the way to its saddle, a sea the edge, a dry seed one square', () => {
    const terrain = terrainOf((x, z) => (Math.max(Math.abs(x - 30), Math.abs(z - 30)) < 6 ? 0 : x > 60 ? 2 : 5), 4);
    const squares = (of: Looked) => of.squares.reduce((n, s) => n + s, 0);
    const looked = (given: Record<string, unknown>) => fill(terrain, water('w', given), []).looked;
    // Samples 48 to 72 are the bowl, in one corner of four squares of 64; its saddle lies as high as the plain, and a way out of the level is looked for.
    const bowl = looked({ form: 'pool', height: 1, seed: [30, 30] });
    expect(meets(bowl, { x0: 60, z0: 60, x1: 60, z1: 60 })).toBe(true);
    expect(meets(bowl, { x0: 250, z0: 250, x1: 256, z1: 256 })).toBe(false);
    const sea = looked({ form: 'sea', height: -1 });
    expect([meets(sea, { x0: 0, z0: 100, x1: 0, z1: 100 }), meets(sea, { x0: 100, z0: 100, x1: 120, z1: 120 })]).toEqual([true, false]);
    expect(squares(looked({ form: 'pool', height: 1, seed: [100, 100] }))).toBe(1);
    // A stream that has no route looks at nothing.
    expect(squares(looked({ form: 'stream', height: 1, route: 'gone' }))).toBe(0);
  });

  it('look at the dry rim in the next square, at a saddle far off, and along all of a stream', () => {
    // Wet are samples 40 to 63; the rim beside them is the first of another square.
    const rim = terrainOf((x, z) => (x >= 20 && x < 32 && z >= 20 && z < 32 ? 0 : x > 100 && Math.abs(z - 26) < 2 ? 3 : 5), 4);
    const pool = fill(rim, water('w', { form: 'pool', height: 1, seed: [26, 26] }), []);
    expect([pool.lies].map((l) => typeof l !== 'string' && [l.rect.x1, l.spills!.at(-1)!.height])).toEqual([[63, 5]]);
    const touched = (x: number, z: number) => !stays(pool, pool.water, [], { x0: x, z0: z, x1: x, z1: z });
    expect([touched(64, 50), touched(50, 64), touched(200, 200)]).toEqual([true, true, false]);
    // A bowl in a long trough: the saddle lies where the trough ends, 80 m from the water.
    const walled = terrainOf((x, z) => (Math.abs(z - 30) > 3 || x < 4 ? 9 : x < 20 ? 0 : x < 100 ? 2 : x < 104 ? 4 : 1), 4);
    const far = fill(walled, water('w', { form: 'pool', height: 1, seed: [10, 30] }), []);
    expect(typeof far.lies !== 'string' && far.lies.spills!.at(-1)!.height).toBe(4);
    expect(stays(far, far.water, [], { x0: 204, z0: 60, x1: 204, z1: 60 })).toBe(false);
    // A sea up to the last sample of a square, the shore in the next.
    const shore = terrainOf((x) => (x < 32 ? 0 : 5), 4);
    const sea = fill(shore, water('w', { form: 'sea', height: 1 }), []);
    expect([64, 200].map((x) => stays(sea, sea.water, [], { x0: x, z0: 100, x1: x, z1: 100 }))).toEqual([false, true]);
    const stream = fill(ground(), WATERS[4], [brook]);
    expect(
      [
        [40, 202],
        [210, 206],
      ].map(([x, z]) => stays(stream, stream.water, [brook], { x0: x, z0: z, x1: x, z1: z })),
    ).toEqual([false, false]);
    expect(stays(stream, stream.water, [brook], { x0: 40, z0: 20, x1: 200, z1: 60 })).toBe(true);
  });

  it('are filled again when they or their route are changed, and only then', () => {
    const terrain = ground();
    const of = new Map(WATERS.map((w): [string, Filled] => [w.id, fill(terrain, w, [brook])]));
    const west = of.get('west')!;
    expect(stays(west, west.water, [brook], undefined)).toBe(true);
    expect(stays(west, { ...west.water, height: 0.7 }, [brook], undefined)).toBe(false);
    expect(stays(west, west.water, [{ ...brook }], undefined)).toBe(true);
    const stream = of.get('brook-water')!;
    expect(stream.lies).toMatchObject({ id: 'brook-water' });
    expect([
      stays(stream, stream.water, [brook], undefined),
      stays(stream, stream.water, [{ ...brook }], undefined),
      stays(stream, stream.water, [], undefined),
    ]).toEqual([true, false, false]);
  });
});
