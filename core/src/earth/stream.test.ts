import { describe, expect, it } from 'vitest';
import { makeLevel, liftStack } from '../level/level';
import { parseObject, type Lift, type Route, type Water } from '../level/objects';
import { testObjects } from '../testing/levels';
import { composeTerrain } from './compose';
import { routeLine } from './routeLine';
import { streamLevels } from './stream';
import { OPEN } from './compose';
import { barred, depthAt, sameShores, stretchHeight, surfaceOver, underWater, waterAlong, waterBody, type WaterBody } from './water';
import { waterBodies } from './waters';

const parsed = (given: Record<string, unknown>) => {
  const result = parseObject({ version: 1, name: String(given.id), ...given });
  if (!result.ok) throw new Error(result.message);
  return result.object;
};
const faultOf = (given: Record<string, unknown>) => {
  const result = parseObject({ id: 'x', version: 1, name: 'x', kind: 'water', form: 'stream', height: 1, ...given });
  return result.ok ? '' : result.message;
};
/** Along z = 32 from west to east; the ground beside it lies at 0. */
const route = (more: Record<string, unknown> = {}) =>
  parsed({
    id: 'way',
    kind: 'lift',
    lift: 'route',
    order: 150,
    visible: true,
    line: [
      [8, 0, 32],
      [56, 0, 32],
    ],
    width: 4,
    shoulder: 0,
    batter: 45,
    sunk: 1,
    ...more,
  }) as Route;
const stream = (more: Record<string, unknown> = {}) => parsed({ id: 'beck', kind: 'water', form: 'stream', height: 0.5, route: 'way', ...more }) as Water;

function run(lifts: Lift[], water = stream()) {
  const level = makeLevel([...testObjects(2, 0.5), ...lifts]);
  const terrain = composeTerrain(level);
  return { terrain, stack: liftStack(level), body: waterBody(terrain, water, liftStack(level)) };
}
const wetOf = (lifts: Lift[], water?: Water): { body: WaterBody; terrain: ReturnType<typeof composeTerrain> } => {
  const { body, terrain } = run(lifts, water);
  if (typeof body === 'string') throw new Error(body);
  return { body, terrain };
};

describe('a stream', () => {
  it('worked by hand: half a metre deep in a bed 4 m wide with banks at 45 degrees it is 5 m wide at its surface', () => {
    const { body, terrain } = wetOf([route()]);
    expect(body.height).toBe(-0.5);
    expect(body.deepest).toBeCloseTo(0.5, 6);
    // 48 m long with a half disc at either end.
    expect(Math.abs(body.area - (5 * 48 + Math.PI * 2.5 ** 2))).toBeLessThan(2);
    // Of its section, 4 x 0.5 m and two banks of 0.125 m2; a frustum at the ends.
    expect(Math.abs(body.volume - (2.25 * 48 + (Math.PI * 0.5 * (4 + 6.25 + 5)) / 3))).toBeLessThan(1);
    expect(
      [depthAt(terrain, [body], 32, 32), depthAt(terrain, [body], 32, 34.25), depthAt(terrain, [body], 32, 36)].map((v) => Math.round(v * 100) / 100),
    ).toEqual([0.5, 0.25, 0]);
    expect(body.leak).toBeUndefined();
  });

  it('falls with its bed, whichever end of the route is the higher one', () => {
    for (const line of [
      [
        [8, 2, 32],
        [56, 0, 32],
      ],
      [
        [56, 0, 32],
        [8, 2, 32],
      ],
    ]) {
      const { body } = wetOf([
        parsed({
          id: 'bank',
          kind: 'lift',
          lift: 'landform',
          order: 5,
          visible: true,
          line: [
            [1, 1],
            [63, 1],
            [63, 63],
            [1, 63],
          ],
          height: 3,
          foot: 0.5,
        }) as Lift,
        route({ line }),
      ]);
      expect(body.height).toBeCloseTo(1.5, 1);
      const [west, middle, east] = [12, 32, 52].map((x) => surfaceOver(body, x, 32));
      expect(west - middle).toBeCloseTo(20 * (2 / 48), 1);
      expect(middle - east).toBeCloseTo(20 * (2 / 48), 1);
      expect(middle).toBeCloseTo(0.5, 1);
      expect(underWater([body], 32, 0.3, 32)).toBe(true);
      expect(underWater([body], 32, 0.7, 32)).toBe(false);
      const [cut] = waterAlong(body, { x0: 0, z0: 32, dx: 1, dz: 0 }, 0, 64);
      expect(stretchHeight(cut, 32)).toBeCloseTo(middle, 2);
      expect(stretchHeight(cut, 12) - stretchHeight(cut, 52)).toBeCloseTo(west - east, 2);
    }
  });

  it('never runs uphill: behind a sill in its bed it stays as low as it was', () => {
    const levels = streamLevels({ ...routeLine(route()), count: 5, y: Float64Array.from([4, 2, 3, 1, 0]) }, 0, 0.5);
    expect([...levels]).toEqual([4.5, 2.5, 2.5, 1.5, 0.5]);
    expect([...streamLevels({ ...routeLine(route()), count: 5, y: Float64Array.from([0, 1, 3, 2, 4]) }, 1, 0.5)]).toEqual([-0.5, 0.5, 1.5, 1.5, 3.5]);
  });

  it('on a bank without sides ends beside its bed and says where it runs off; in a terrace it is held, and behind its edge it is dry', () => {
    const raised = route({
      line: [
        [8, 3, 32],
        [56, 3, 32],
      ],
    });
    const bare = wetOf([raised]);
    expect(bare.body.height).toBeCloseTo(2.5, 3);
    expect(depthAt(bare.terrain, [bare.body], 32, 32)).toBeCloseTo(0.5, 3);
    for (let z = 35; z < 48; z += 0.5) expect(depthAt(bare.terrain, [bare.body], 32, z)).toBe(0);
    expect(bare.body.leak).toHaveLength(3);
    // In a terrace 3 m high that ends behind a bank of one sample it is held: half a metre on the ground lies lower than the water.
    const terrace = parsed({
      id: 'terrace',
      kind: 'lift',
      lift: 'landform',
      order: 5,
      visible: true,
      line: [
        [1, 1],
        [63, 1],
        [63, 34.6],
        [1, 34.6],
      ],
      height: 3,
      foot: 0.1,
    }) as Lift;
    const held = wetOf(
      [
        terrace,
        route({
          line: [
            [8, 3, 32],
            [56, 3, 32],
          ],
        }),
      ],
      stream({ height: 0.4 }),
    );
    const height = (z: number) => held.terrain.heights[z * 2 * held.terrain.grid.nx + 64];
    expect(depthAt(held.terrain, [held.body], 32, 32)).toBeCloseTo(0.4, 3);
    expect([height(34.5) > 2.4, height(35) < 2.4]).toEqual([true, true]);
    for (let z = 35; z < 40; z += 0.5) expect(depthAt(held.terrain, [held.body], 32, z)).toBe(0);
    expect(held.body.leak).toBeUndefined();
  });

  it('tells where it runs over its banks, and why there is none', () => {
    expect(wetOf([route()], stream({ height: 2 })).body.leak).toHaveLength(3);
    const why = (lifts: Lift[], water?: Water) => run(lifts, water).body as string;
    expect(why([])).toMatch(/route is not there/);
    expect(why([route({ visible: false })])).toMatch(/way is hidden/);
    expect(
      why([
        route({
          line: [
            [400, 0, 400],
            [440, 0, 400],
          ],
        }),
      ]),
    ).toMatch(/outside the level/);
    expect(
      why([
        route(),
        parsed({
          id: 'heap',
          kind: 'lift',
          lift: 'landform',
          order: 200,
          visible: true,
          line: [
            [1, 1],
            [63, 1],
            [63, 63],
            [1, 63],
          ],
          height: 9,
          foot: 0.5,
        }) as Lift,
      ]),
    ).toMatch(/above its water/);
    expect([faultOf({}), faultOf({ route: 'way', height: 0 }), faultOf({ route: 'way', height: 51 }), faultOf({ route: 'way' })]).toEqual([
      expect.stringMatching(/has a route/),
      expect.stringMatching(/more than 0/),
      expect.stringMatching(/at most 50/),
      '',
    ]);
  });

  it('bars what cannot wade, wets its own samples alone, and its triangles lie on its surface', () => {
    const { body, terrain } = wetOf([route({ sunk: 2 })], stream({ height: 1.2 }));
    const bars = barred(terrain, [body], 0.9).barred!;
    expect(bars.reduce((n, v) => n + (v === OPEN ? 0 : 1), 0)).toBeGreaterThan(500);
    expect(barred(terrain, [body], 1.3).barred).toBeUndefined();
    for (let i = 0; i < body.mesh.positions.length; i += 3) {
      const [x, y, z] = body.mesh.positions.subarray(i, i + 3);
      expect(y).toBeCloseTo(-0.8, 5);
      expect(Math.abs(z - 32)).toBeLessThan(3.3);
      expect(x).toBeGreaterThan(4.7);
      expect(x).toBeLessThan(59.3);
    }
    // The shore runs along both banks, 1.2 m out on 45 degrees.
    let long = 0;
    for (let i = 0; i < body.shore.length; i += 4) long += Math.hypot(body.shore[i + 2] - body.shore[i], body.shore[i + 3] - body.shore[i + 1]);
    expect(Math.abs(long - (96 + Math.PI * 6.4))).toBeLessThan(1.5);
  });

  it('is another shore when only its level changed', () => {
    const lifts = [route({ sunk: 2 })];
    const one = run(lifts);
    const { bodies } = waterBodies(one.terrain, [stream()], one.stack);
    expect(sameShores(bodies, waterBodies(one.terrain, [stream()], one.stack).bodies)).toBe(true);
    expect(sameShores(bodies, waterBodies(one.terrain, [stream({ height: 0.501 })], one.stack).bodies)).toBe(false);
  });
});
