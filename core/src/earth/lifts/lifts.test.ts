import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdit } from '../../level/edits/index';
import { liftStack, makeLevel, settingsOf, type Level } from '../../level/level';
import { parseObject, type Landform, type Lift, type Pad, type Route } from '../../level/objects';
import { gridOf, TILE_SAMPLES, tileKey } from '../../level/tiles';
import { tanDeg } from '../../num/trig';
import { testBlock, testObjects } from '../../testing/levels';
import { changedRect } from '../changed';
import { composeRect, composeTerrain, type Terrain } from '../compose';
import { routeLine } from '../routeLine';
import { heightAt, slopeAt } from '../sample';
import { aroundLift, liftVolumes } from '../volume';
import { crossSection, landformProfile } from './landform';
import { expectBits } from '../../testing/bits';

const lift = (given: Record<string, unknown>): Lift => {
  const parsed = parseObject({ version: 1, kind: 'lift', name: String(given.id), order: 10, ...given });
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.object as Lift;
};
const landform = (more: Record<string, unknown> = {}) =>
  lift({
    id: 'heap',
    lift: 'landform',
    line: [
      [16, 16],
      [48, 16],
      [48, 48],
      [16, 48],
    ],
    height: 4,
    foot: 4,
    ...more,
  }) as Landform;
const route = (line: [number, number, number][], more: Record<string, unknown> = {}) =>
  lift({ id: 'way', lift: 'route', order: 150, line, width: 3, ...more }) as Route;
const pad = (more: Record<string, unknown> = {}) =>
  lift({
    id: 'yard',
    lift: 'pad',
    order: 160,
    outline: [
      [20, 20],
      [40, 20],
      [40, 30],
      [20, 30],
    ],
    height: 2,
    batter: 45,
    ...more,
  }) as Pad;

/** 64 x 64 m, half a metre apart, flat but for what is given. */
const levelOf = (lifts: Lift[], noise?: Parameters<typeof testObjects>[2]): Level => makeLevel([...testObjects(2, 0.5, noise), ...lifts]);
const faultOf = (value: Record<string, unknown>): string => {
  const parsed = parseObject({ id: 'x', version: 1, kind: 'lift', name: 'x', order: 1, ...value });
  return parsed.ok ? '' : parsed.message;
};

describe('landform', () => {
  it('worked by hand: a heap of 32 x 32 m at its foot, 4 m high, its crest 24 x 24 m, is a frustum of 3157.33 m3', () => {
    const level = levelOf([landform()]);
    const terrain = composeTerrain(level);
    expect(heightAt(terrain, 32, 32)).toBe(4);
    expect(heightAt(terrain, 18, 32)).toBe(2);
    expect(heightAt(terrain, 15.9, 32)).toBe(0);
    expect(slopeAt(terrain, 18, 32)).toBeCloseTo(45, 9);
    // h (A + B + sqrt(A B)) / 3; samples half a metre apart leave 0.1 % to the hips.
    const frustum = (4 * (32 * 32 + 24 * 24 + 32 * 24)) / 3;
    expect(Math.abs(liftVolumes(level, terrain).get('heap')!.fill - frustum) / frustum).toBeLessThan(0.001);
  });

  it('a round cone 10 m wide and high as its radius holds a third of pi r2 h, and a cut takes as much away', () => {
    for (const cut of [false, true]) {
      const level = levelOf([landform({ line: [[32, 32]], radius: 12, height: 6, foot: 12, cut })]);
      const v = liftVolumes(level, composeTerrain(level)).get('heap')!;
      const cone = (Math.PI * 144 * 6) / 3;
      expect(Math.abs((cut ? v.cut : v.fill) - cone) / cone).toBeLessThan(0.002);
      expect(cut ? v.fill : v.cut).toBe(0);
    }
  });

  it('is cut through its middle across its narrower extent, foot to foot, by the longest stretch inside', () => {
    expect(crossSection(landform({ line: [[32, 32]], radius: 12 }))).toEqual({ at: [32, 32], way: [1, 0], from: -12, to: 12 });
    expect(
      crossSection(
        landform({
          line: [
            [10, 10],
            [60, 10],
            [60, 30],
            [10, 30],
          ],
        }),
      ),
    ).toEqual({ at: [35, 20], way: [0, 1], from: -10, to: 10 });
    // A U of two arms, the eastern one wider.
    const u = crossSection(
      landform({
        line: [
          [0, 0],
          [10, 0],
          [10, 30],
          [14, 30],
          [14, 0],
          [30, 0],
          [30, 40],
          [0, 40],
        ],
      }),
    );
    expect([u.at, u.way, u.from, u.to]).toEqual([[15, 20], [1, 0], -1, 15]);
  });

  it('crowns: flat stays, domed goes on rising to its full height, dished sinks to half', () => {
    expect([0, 2, 4, 40].map((d) => landformProfile({ foot: 4, crown: 'flat' }, d))).toEqual([0, 0.5, 1, 1]);
    expect(landformProfile({ foot: 4, crown: 'domed' }, 4)).toBeCloseTo(0.7, 12);
    expect(landformProfile({ foot: 4, crown: 'domed' }, 12)).toBeCloseTo(1, 12);
    expect(landformProfile({ foot: 4, crown: 'dished' }, 12)).toBeCloseTo(0.5, 12);
  });

  it('a ragged foot wanders no farther than it says', () => {
    const terrain = composeTerrain(levelOf([landform({ ragged: 3, foot: 1 })]));
    for (let x = 0; x <= 64; x += 0.5) {
      expect(heightAt(terrain, x, 12.9)).toBe(0);
      if (x > 20.1 && x < 43.9) expect(heightAt(terrain, x, 21)).toBe(4);
    }
  });
});

describe('route', () => {
  const steep = () =>
    route(
      [
        [8, 0, 32],
        [56, 9, 32],
      ],
      { grade: 12 },
    );

  it('holds its grade within a thousandth, whatever its points ask for', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: 0, max: 64, noNaN: true }), fc.double({ min: -20, max: 20, noNaN: true }), fc.double({ min: 0, max: 64, noNaN: true })),
          { minLength: 2, maxLength: 8 },
        ),
        fc.integer({ min: 1, max: 40 }),
        (points, grade) => {
          const apart = points.filter((p, i) => i === 0 || Math.hypot(p[0] - points[i - 1][0], p[2] - points[i - 1][2]) > 0.5);
          fc.pre(apart.length > 1);
          const line = routeLine({ line: apart, grade });
          for (let i = 1; i < line.count; i++) expect(Math.abs(line.y[i] - line.y[i - 1]) / line.step).toBeLessThanOrEqual((grade / 100) * 1.001 + 1e-9);
        },
      ),
    );
  });

  it('is exactly what its points ask for where they keep the grade', () => {
    const line = routeLine({
      line: [
        [0, 1, 0],
        [50, 4, 0],
      ],
      grade: 12,
    });
    for (let i = 0; i < line.count; i++) expect(line.y[i]).toBeCloseTo(1 + 3 * (i / (line.count - 1)), 9);
  });

  it('in the ground: 12 m on 100 m along the middle, level across, its earth at the batter', () => {
    const terrain = composeTerrain(levelOf([steep()]));
    // Far from the ends, which are rounded.
    for (let x = 20; x < 44; x++) expect((heightAt(terrain, x + 1, 32) - heightAt(terrain, x, 32)) * 100).toBeCloseTo(12, 1);
    expect(heightAt(terrain, 32, 33.5)).toBeCloseTo(heightAt(terrain, 32, 32), 5);
    expect(heightAt(terrain, 32, 32)).toBeGreaterThan(3);
    expect((heightAt(terrain, 32, 34.5) - heightAt(terrain, 32, 35)) / 0.5).toBeCloseTo(tanDeg(40), 4);
    expect(heightAt(terrain, 32, 45)).toBe(0);
  });

  it('falls to its right by its crossfall', () => {
    const terrain = composeTerrain(
      levelOf([
        route(
          [
            [8, 3, 32],
            [56, 3, 32],
          ],
          { crossfall: 4, width: 4 },
        ),
      ]),
    );
    // It runs east: its right is south.
    expect(heightAt(terrain, 32, 33.5)).toBeCloseTo(3 - 0.06, 5);
    expect(heightAt(terrain, 32, 30.5)).toBeCloseTo(3 + 0.06, 5);
  });

  it('stays open under sculpting below it, and may only fill or only cut', () => {
    const way = route([
      [8, 3, 32],
      [56, 3, 32],
    ]);
    const level = levelOf([way]);
    const before = heightAt(composeTerrain(level), 32, 32);
    level.tiles.set(tileKey('hand', 'delta', 0, 0), new Int32Array(TILE_SAMPLES).fill(5 * 1024));
    const after = composeTerrain(level);
    expect(heightAt(after, 31, 31.5)).toBe(before);
    expect(heightAt(after, 4, 4)).toBe(5);
    level.objects.set('way', { ...way, blend: 'max' });
    expect(heightAt(composeTerrain(level), 31, 31.5)).toBe(5);
    level.objects.set('way', { ...way, blend: 'min' });
    expect(heightAt(composeTerrain(level), 31, 31.5)).toBe(3);
  });
});

describe('pad', () => {
  it('is level under its outline, meets the ground at its batter, and leaves the rest alone', () => {
    const terrain = composeTerrain(levelOf([pad()]));
    expect(heightAt(terrain, 30, 25)).toBe(2);
    expect(heightAt(terrain, 30, 31)).toBeCloseTo(1, 5);
    expect(heightAt(terrain, 30, 32.5)).toBe(0);
  });

  it('follows a block that moves and turns, and a piece by its foot; stays when they are gone', () => {
    const shed = testBlock('box', [10, 3, 6], [40, 1.5, 40], 90);
    const own = pad({ follows: [{ id: shed.id }], margin: 1 });
    const level = levelOf([own]);
    level.objects.set(shed.id, shed);
    let terrain = composeTerrain(level);
    // Turned by 90 degrees: 6 along x, 10 along z, and a margin of a metre.
    expect([heightAt(terrain, 40, 40), heightAt(terrain, 43.5, 45.5), heightAt(terrain, 30, 25)]).toEqual([1.5, 1.5, 0]);
    const before = liftStack(level);
    level.objects.set(shed.id, { ...shed, at: [20, 0.5, 20] });
    const rect = changedRect(before, liftStack(level), terrain, level.tiles)!;
    composeRect(terrain, liftStack(level), level.tiles, rect);
    expectBits(terrain.heights, composeTerrain(level).heights);
    expect(heightAt(terrain, 20, 20)).toBe(0.5);
    level.objects.delete(shed.id);
    terrain = composeTerrain(level);
    expect(heightAt(terrain, 30, 25)).toBe(2);
  });
});

describe('blend, weight and mask', () => {
  const at = (lifts: Lift[], x: number, z: number, noise?: Parameters<typeof testObjects>[2]) => heightAt(composeTerrain(levelOf(lifts, noise)), x, z);

  it('worked by hand on a heap of 4 m over another of 3 m', () => {
    const low = landform({ id: 'low', order: 5, height: 3 });
    const over = (more: Record<string, unknown>) => at([low, landform({ height: 4, ...more })], 32, 32);
    expect(over({})).toBe(7);
    expect(over({ weight: 0.5 })).toBe(5);
    expect(over({ blend: 'max' })).toBe(4);
    expect(over({ blend: 'max', base: -2 })).toBe(3);
    expect(over({ blend: 'min', base: -2 })).toBe(2);
    expect(over({ blend: 'replace', base: 1, weight: 0.5 })).toBe(4);
    expect(over({ visible: false })).toBe(3);
    expect(over({ weight: 0 })).toBe(3);
  });

  it('a mask counts by outline, by height and by slope of what lies below', () => {
    const ramp = landform({ id: 'low', order: 5, foot: 16, height: 16 });
    const over = (mask: unknown, x: number) =>
      at(
        [
          ramp,
          pad({
            outline: [
              [0, 0],
              [64, 0],
              [64, 64],
              [0, 64],
            ],
            height: 30,
            mask,
          }),
        ],
        x,
        32,
      );
    expect(
      over(
        {
          outline: {
            line: [
              [0, 0],
              [10, 0],
              [10, 64],
              [0, 64],
            ],
            soft: 0,
          },
        },
        5,
      ),
    ).toBe(30);
    expect(
      over(
        {
          outline: {
            line: [
              [0, 0],
              [10, 0],
              [10, 64],
              [0, 64],
            ],
            soft: 4,
          },
        },
        10,
      ),
    ).toBe(15);
    expect(
      over(
        {
          outline: {
            line: [
              [0, 0],
              [10, 0],
              [10, 64],
              [0, 64],
            ],
            soft: 0,
          },
        },
        24,
      ),
    ).toBe(8);
    expect(over({ height: { band: [6, 20], soft: 0 } }, 24)).toBe(30);
    expect(over({ height: { band: [10, 20], soft: 0 } }, 24)).toBe(8);
    expect(over({ slope: { band: [30, 60], soft: 0 } }, 24)).toBe(30);
    expect(over({ slope: { band: [0, 30], soft: 0 } }, 24)).toBe(8);
  });
});

describe('composition', () => {
  /** A stack of every kind, with masks that look around. */
  const full = (): Level => {
    const level = levelOf(
      [
        landform({ ragged: 2, crown: 'domed', mask: { slope: { band: [0, 20], soft: 6 } } }),
        lift({
          id: 'crags',
          lift: 'noise',
          order: 12,
          seed: 9,
          height: 2,
          scale: 20,
          octaves: 3,
          style: 'ridged',
          warp: 5,
          blend: 'max',
          mask: { slope: { band: [5, 60], soft: 10 }, height: { band: [0, 3], soft: 1 } },
        }),
        route(
          [
            [4, 1, 10],
            [30, 3, 40],
            [60, 2, 50],
          ],
          { grade: 9, crossfall: 3 },
        ),
        pad({ mask: { slope: { band: [0, 50], soft: 8 } } }),
      ],
      { seed: 3, height: 2, scale: 30, octaves: 4 },
    );
    let seed = 1;
    for (const channel of ['delta', 'held', 'weight'] as const) {
      level.tiles.set(
        tileKey('hand', channel, 0, 1),
        Int32Array.from({ length: TILE_SAMPLES }, () => {
          seed = (seed * 16_807) % 2_147_483_647;
          return channel === 'weight' ? seed % 1024 : (seed % 4096) - 2048;
        }),
      );
    }
    return level;
  };
  const whole = composeTerrain(full());

  it('by any rectangles, in any order, is the whole bit for bit', () => {
    const level = full();
    const { grid } = whole;
    const side = fc.integer({ min: 0, max: grid.nx - 1 });
    fc.assert(
      fc.property(fc.array(fc.tuple(side, side, side, side), { maxLength: 6 }), (rects) => {
        const terrain: Terrain = { ...whole, heights: whole.heights.slice() };
        for (const [a, b, c, d] of rects) {
          const rect = { x0: Math.min(a, c), z0: Math.min(b, d), x1: Math.max(a, c), z1: Math.max(b, d) };
          for (let z = rect.z0; z <= rect.z1; z++) terrain.heights.fill(NaN, z * grid.nx + rect.x0, z * grid.nx + rect.x1 + 1);
          composeRect(terrain, liftStack(level), level.tiles, rect);
        }
        expectBits(terrain.heights, whole.heights);
      }),
      { numRuns: 12 },
    );
  });

  it('after any changes of lifts, the changed rectangle is enough', () => {
    const changes = fc.constantFrom<(l: Level) => void>(
      (l) => l.objects.set('heap', { ...landform(), height: 7 }),
      (l) => {
        l.objects.delete('heap');
      },
      (l) => l.objects.set('way', { ...(l.object('way') as Route), width: 6, visible: true }),
      (l) => l.objects.set('way', { ...(l.object('way') as Route), visible: false }),
      (l) => l.objects.set('yard', { ...(l.object('yard') as Pad), order: 3 }),
      (l) => l.objects.set('yard', { ...(l.object('yard') as Pad), weight: 0.4, order: 70 }),
      (l) => l.objects.set('hand', { ...(l.object('hand') as Lift), order: 40 }),
      (l) => l.objects.set('crags', { ...(l.object('crags') as Lift), weight: 0.5, name: 'other' }),
    );
    fc.assert(
      fc.property(fc.array(changes, { minLength: 1, maxLength: 6 }), (list) => {
        const level = full();
        const terrain: Terrain = { ...whole, heights: whole.heights.slice() };
        for (const change of list) {
          const before = liftStack(level);
          change(level);
          const rect = changedRect(before, liftStack(level), terrain, level.tiles);
          if (rect) composeRect(terrain, liftStack(level), level.tiles, rect);
        }
        expectBits(terrain.heights, composeTerrain(level, terrain.noise).heights);
      }),
      { numRuns: 12 },
    );
  });

  it('a name alone changes nothing', () => {
    const level = full();
    const before = liftStack(level);
    level.objects.set('way', { ...(level.object('way') as Route), name: 'other', locked: true });
    expect(changedRect(before, liftStack(level), whole, level.tiles)).toBeUndefined();
  });

  it('what lies around one lift differs by just what it does', () => {
    const level = levelOf([landform(), pad()]);
    const { below, above } = aroundLift(level, composeTerrain(level), 'yard')!;
    expect([heightAt(below, 30, 25), heightAt(above, 30, 25)]).toEqual([4, 2]);
    expect(aroundLift(level, composeTerrain(level), 'nothing')).toBeUndefined();
  });
});

describe('what was meant stays', () => {
  it('a held yard keeps its height and a raised knoll its rise under a new seed, another landform and another route below', () => {
    const level = levelOf(
      [
        landform({ order: 5 }),
        route(
          [
            [8, 3, 60],
            [56, 3, 60],
          ],
          { order: 20 },
        ),
      ],
      { seed: 3, height: 2, scale: 30, octaves: 4 },
    );
    const delta = new Int32Array(TILE_SAMPLES);
    const held = new Int32Array(TILE_SAMPLES);
    const weight = new Int32Array(TILE_SAMPLES);
    const local = (x: number, z: number) => z * 65 + x;
    for (let z = 40; z < 50; z++)
      for (let x = 40; x < 50; x++) {
        held[local(x, z)] = 1536;
        weight[local(x, z)] = 1024;
      }
    for (let z = 10; z < 20; z++) for (let x = 10; x < 20; x++) delta[local(x, z)] = 2048;
    level.tiles.set('hand/delta/0,0', delta);
    level.tiles.set('hand/held/0,0', held);
    level.tiles.set('hand/weight/0,0', weight);
    const looks = () => {
      const { below, above } = aroundLift(level, composeTerrain(level), 'hand')!;
      return { yard: heightAt(above, 22.5, 22.5), knoll: heightAt(above, 7.5, 7.5) - heightAt(below, 7.5, 7.5) };
    };
    for (const change of [
      {},
      { id: 'noise', seed: 77 },
      { id: 'heap', height: 9 },
      {
        id: 'way',
        line: [
          [8, 5, 4],
          [56, 5, 20],
        ],
      },
    ] as { id?: string }[]) {
      if (change.id) level.objects.set(change.id, { ...level.object(change.id)!, ...change } as Lift);
      expect(looks().yard).toBe(1.5);
      expect(looks().knoll).toBeCloseTo(2, 5);
    }
  });
});

describe('bad lifts', () => {
  it('are refused by name', () => {
    expect(
      faultOf({
        lift: 'landform',
        line: [
          [0, 0],
          [10, 10],
          [10, 0],
          [0, 10],
        ],
        height: 2,
        foot: 1,
      }),
    ).toContain('the outline crosses itself: the side from corner 1 meets the side from corner 3');
    expect(
      faultOf({
        lift: 'landform',
        line: [
          [0, 0],
          [10, 10],
        ],
        height: 2,
        foot: 1,
      }),
    ).toContain('one point or at least three corners');
    expect(faultOf({ lift: 'landform', line: [[0, NaN]], height: 2, foot: 1 })).toContain('line.0.1');
    expect(faultOf({ lift: 'landform', line: [[0, 0]], height: 2, foot: 0 })).toContain('0.05');
    expect(faultOf({ lift: 'route', line: [[0, 0, 0]], width: 3 })).toContain('at least two points');
    expect(
      faultOf({
        lift: 'route',
        line: [
          [0, 0, 0],
          [0, 5, 0],
        ],
        width: 3,
      }),
    ).toContain('points 1 and 2 of the route lie on each other');
    expect(
      faultOf({
        lift: 'route',
        line: [
          [0, 0, 0],
          [9, 5, 0],
        ],
        width: 0,
      }),
    ).toContain('0.3 m wide');
    expect(
      faultOf({
        lift: 'pad',
        outline: [
          [0, 0],
          [9, 0],
        ],
        height: 1,
      }),
    ).toContain('three corners');
    expect(
      faultOf({
        lift: 'pad',
        outline: [
          [0, 0],
          [9, 0],
          [9, 9],
        ],
        height: 1,
        batter: 90,
      }),
    ).toContain('85 degrees');
    expect(faultOf({ lift: 'hand', weight: 2 })).toContain('weight');
    expect(faultOf({ lift: 'hand', blend: 'screen' })).toContain('blend');
  });

  it('can be taken away and put back, tiles and all', () => {
    const level = levelOf([]);
    level.tiles.set('hand/delta/0,0', new Int32Array(TILE_SAMPLES).fill(1024));
    const removed = applyEdit(level, { kind: 'remove', ids: ['hand'] });
    if (!removed.ok) throw new Error(removed.message);
    level.objects.delete('hand');
    expect(heightAt(composeTerrain(level), 4, 4)).toBe(0);
    const back = applyEdit(level, removed.inverse);
    if (!back.ok) throw new Error(back.message);
    level.objects.set('hand', back.changes.objects.get('hand')!);
    expect(heightAt(composeTerrain(level), 4, 4)).toBe(1);
    expect(gridOf(settingsOf(level)).nx).toBe(129);
  });
});
