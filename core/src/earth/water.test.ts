import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseObject, type Water } from '../level/objects';
import { terrainOf } from '../testing/levels';
import { EDGES, flood, spillOf, spillsOf } from './flood';
import { heightAt } from './sample';
import { OPEN } from './compose';
import { barred, depthAt, underWater, waterBody, type WaterBody } from './water';
import { waterBodies } from './waters';

const water = (given: Partial<Water>): Water => {
  const parsed = parseObject({ id: 'w', version: 1, kind: 'water', name: 'pool', ...given });
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.object as Water;
};
const pool = (height: number, seed: [number, number] = [32, 32]) => water({ form: 'pool', height, seed });
const filled = (t: Parameters<typeof waterBody>[0], w: Water): WaterBody => {
  const body = waterBody(t, w);
  if (typeof body === 'string') throw new Error(body);
  return body;
};
const cheb = (x: number, z: number) => Math.max(Math.abs(x - 32), Math.abs(z - 32));

/** A square basin: floor 0 within 8 m, walls rising 1:1 to a rim 4 m high at 12 m, then outer ground at 1 m; a notch 2.5 m high in the east. */
const basin = terrainOf((x, z) => {
  const d = cheb(x, z);
  const h = d > 16 ? 1 : d >= 12 ? 4 : Math.max(0, d - 8);
  return x > 32 && Math.abs(z - 32) <= 1 ? Math.min(h, 2.5) : h;
});
/** A cone pointing down: height is the distance from the middle over 4. */
const funnel = terrainOf((x, z) => Math.sqrt((x - 32) ** 2 + (z - 32) ** 2) / 4);

describe('a pool', () => {
  it('worked by hand: 1 m deep in the square basin it is 18 x 18 m and holds 289.33 m3, less what the hips round off', () => {
    const body = filled(basin, pool(1));
    expect(body.area).toBeCloseTo(18 * 18, 0);
    // A frustum: 1 (16^2 + 18^2 + 16 x 18) / 3.
    expect(Math.abs(body.volume - (256 + 324 + 288) / 3)).toBeLessThan(0.4);
    expect(body.deepest).toBe(1);
    expect(body.leak).toBeUndefined();
  });

  it('its shore is exact: on a funnel every point of it lies where the ground is as high as the water', () => {
    const body = filled(funnel, pool(3));
    expect(body.shore.length / 4).toBeGreaterThan(60);
    for (let i = 0; i < body.shore.length; i += 2) {
      expect(heightAt(funnel, body.shore[i], body.shore[i + 1])).toBeCloseTo(3, 5);
      expect(Math.hypot(body.shore[i] - 32, body.shore[i + 1] - 32)).toBeCloseTo(12, 1);
    }
    expect(Math.abs(body.area - Math.PI * 144) / (Math.PI * 144)).toBeLessThan(0.005);
    expect(Math.abs(body.volume - (Math.PI * 144 * 3) / 3) / (Math.PI * 144)).toBeLessThan(0.01);
  });

  it('is drawn just over the ground: its triangles have its area, all face up, few for a wide one', () => {
    const body = filled(basin, pool(1));
    const { positions: p, indices } = body.mesh;
    let area = 0;
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
      const twice = (p[b + 2] - p[a + 2]) * (p[c] - p[a]) - (p[b] - p[a]) * (p[c + 2] - p[a + 2]);
      expect(twice).toBeGreaterThanOrEqual(0);
      area += twice / 2;
    }
    // Its rows lap over each other by 4 cm of half a metre.
    expect(area).toBeGreaterThanOrEqual(body.area - 1e-3);
    expect(area).toBeLessThan(body.area * 1.09);
    // 36 x 36 quads would be 2592.
    expect(indices.length / 3).toBeLessThan(500);
  });

  it('spills over the notch at 2.5 m, worked by hand, and leaks when it is filled higher', () => {
    const spill = filled(basin, pool(1)).spills!.at(-1)!;
    expect(spill.height).toBe(2.5);
    // The sill is level from 10.5 m out: its near edge.
    expect(spill.at[0]).toBe(42.5);
    expect(Math.abs(spill.at[2] - 32)).toBeLessThanOrEqual(1.5);
    expect(filled(basin, pool(2.5)).leak).toBeUndefined();
    const over = filled(basin, pool(2.6));
    expect(over.leak![1]).toBe(1);
  });

  it('on a peak says what to do, as a sea over high edges and a plane over high ground do', () => {
    expect(waterBody(basin, pool(3, [32, 44]))).toBe(
      'the ground at its seed is 4.00 m high, its water 3.00 m: raise the water, or put the seed in a lower place',
    );
    expect(waterBody(basin, water({ form: 'sea', height: 0.5 }))).toContain('the edge of the level lies above the sea');
    expect(waterBody(basin, water({ form: 'plane', height: -1, x0: 0, z0: 0, x1: 60, z1: 60 }))).toContain('everywhere');
    expect(waterBodies(basin, [pool(3, [32, 44]), { ...pool(1), out: true }])).toMatchObject({ bodies: [], dry: [{ id: 'w' }] });
  });

  it('without a seed, and a plane without a rectangle, are refused', () => {
    const fault = (given: object) => {
      const p = parseObject({ id: 'w', version: 1, kind: 'water', name: 'w', height: 1, ...given });
      return p.ok ? '' : p.message;
    };
    expect(fault({ form: 'pool' })).toContain('a pool has a seed');
    expect(fault({})).toContain('a plane of water has a rectangle');
    expect(fault({ form: 'pool', seed: [NaN, 1] })).toContain('seed.0');
  });
});

describe('a sea', () => {
  it('comes in from the edge and leaves the basin dry until it runs over', () => {
    const low = filled(basin, water({ form: 'sea', height: 2 }));
    expect(depthAt(basin, [low], 2, 2)).toBe(1);
    expect(depthAt(basin, [low], 32, 32)).toBe(0);
    expect(depthAt(basin, [filled(basin, water({ form: 'sea', height: 3 }))], 32, 32)).toBe(3);
  });
});

describe('floods', () => {
  const bumps = (seed: number) => terrainOf((x, z) => (Math.sin(x * 1.3 + seed) + Math.cos(z * 0.9 - seed) + Math.sin((x + z) * 0.37 * seed)) * 2, 2, 2);

  it('agree with a slow fill by passes over all samples', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 200 }),
        fc.integer({ min: 0, max: 128 * 129 }),
        fc.double({ min: -4, max: 4, noNaN: true }),
        (seed, start, height) => {
          const { grid, heights } = bumps(seed);
          const slow = new Uint8Array(grid.nx * grid.nz);
          if (heights[start] < height) slow[start] = 1;
          for (let changed = true; changed;) {
            changed = false;
            for (let i = 0; i < slow.length; i++) {
              if (!slow[i]) continue;
              const [x, z] = [i % grid.nx, Math.floor(i / grid.nx)];
              for (const [dx, dz] of EDGES) {
                const [u, v] = [x + dx, z + dz];
                if (u < 0 || v < 0 || u >= grid.nx || v >= grid.nz) continue;
                const t = v * grid.nx + u;
                if (!slow[t] && heights[t] < height) {
                  slow[t] = 1;
                  changed = true;
                }
              }
            }
          }
          const fast = flood({ grid, heights }, [start], height);
          const count = slow.reduce((n, v) => n + v, 0);
          expect(fast?.count ?? 0).toBe(count);
          if (!fast) return;
          const w = fast.rect.x1 - fast.rect.x0 + 1;
          expect(fast.wet.every((v, i) => v === slow[(fast.rect.z0 + Math.floor(i / w)) * grid.nx + fast.rect.x0 + (i % w)])).toBe(true);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('runs over into the basin beside it first, then out of the level, worked by hand', () => {
    // Two pits of 0 and 1 m in a plateau of 10, a cut of 3 m between them and one of 4 m from the second to the edge.
    const pits = terrainOf((x, z) => {
      const cut = Math.abs(z - 32) < 1.6;
      if (Math.hypot(x - 16, z - 32) < 8) return 0;
      if (Math.hypot(x - 44, z - 32) < 8) return 1;
      return cut && x > 16 && x < 44 ? 3 : cut && x > 44 ? 4 : 10;
    });
    const at = (x: number, z: number) => Math.round(z / pits.grid.spacing) * pits.grid.nx + Math.round(x / pits.grid.spacing);
    const told = (x: number) => spillsOf(pits, at(x, 32)).map((s) => [s.height, s.into, s.at[0] > 16 && s.at[0] < 44]);
    expect(told(16)).toEqual([
      [3, 'basin', true],
      [4, 'edge', false],
    ]);
    // From the second pit it is the same saddle, the other way.
    expect(told(44)).toEqual([
      [3, 'basin', true],
      [4, 'edge', false],
    ]);
    expect(filled(pits, { ...pool(3.5), seed: [16, 32] }).spills!.filter((s) => s.height >= 3.5)).toMatchObject([{ height: 4, into: 'edge' }]);
  });

  it('has new ground under water just above each spill, that was none at it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 0, max: 129 * 129 - 1 }), (seed, start) => {
        const t = bumps(seed);
        const spills = spillsOf(t, start);
        const wet = (height: number) => flood(t, [start], height);
        const lowest = (f: ReturnType<typeof flood>, less: ReturnType<typeof flood>) => {
          let low = Infinity;
          f?.wet.forEach((v, i) => {
            const w = f.rect.x1 - f.rect.x0 + 1;
            const [x, z] = [f.rect.x0 + (i % w), f.rect.z0 + Math.floor(i / w)];
            const was =
              less &&
              x >= less.rect.x0 &&
              x <= less.rect.x1 &&
              z >= less.rect.z0 &&
              z <= less.rect.z1 &&
              less.wet[(z - less.rect.z0) * (less.rect.x1 - less.rect.x0 + 1) + x - less.rect.x0];
            if (v && !was) low = Math.min(low, t.heights[z * t.grid.nx + x]);
          });
          return low;
        };
        spills.forEach((s, i) => {
          if (i > 0) expect(s.height).toBeGreaterThan(spills[i - 1].height);
          if (s.into === 'basin') expect(lowest(wet(s.height + 1e-5), wet(s.height))).toBeLessThan(s.height - 0.1);
        });
        // Nothing was left out: between spills water only rises.
        const steps = [t.heights[start], ...spills.map((s) => s.height)];
        for (let i = 1; i < steps.length; i++) {
          const low = lowest(wet(steps[i]), wet(steps[i - 1] + 1e-5));
          if (i > 1 && low < Infinity) expect(low).toBeGreaterThanOrEqual(steps[i - 1] - 0.1 - 1e-4);
        }
      }),
      { numRuns: 25 },
    );
  });

  it('a basin leaks just above the height at which it spills, and not at it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 0, max: 129 * 129 - 1 }), (seed, start) => {
        const t = bumps(seed);
        const { height } = spillOf(t, start);
        expect(flood(t, [start], height)?.leak).toBeUndefined();
        expect(flood(t, [start], height + 1e-5)?.leak).toBeDefined();
      }),
      { numRuns: 60 },
    );
  });
});

describe('what is in the water', () => {
  const body = filled(basin, pool(1.5));

  it('is under it only where it is wet', () => {
    expect([underWater([body], 32, 1, 32), underWater([body], 32, 1.6, 32), underWater([body], 60, 0, 60)]).toEqual([true, false, false]);
    expect(depthAt(basin, [body], 41, 32)).toBeCloseTo(0.5, 5);
  });

  it('bars the ground that is deeper than a body wades up to where it could stand, all of it where nobody may enter', () => {
    const { grid } = basin;
    const at = (t: typeof basin, x: number, z: number) => t.barred?.[(z / grid.spacing) * grid.nx + x / grid.spacing] ?? OPEN;
    const adult = barred(basin, [body], 0.9);
    expect([at(adult, 32, 32), at(adult, 40.5, 32), at(adult, 41, 32), at(adult, 60, 32)]).toEqual([0.6, 0.6, OPEN, OPEN].map(Math.fround));
    expect(at(barred(basin, [{ ...body, closed: true }], 0.9), 41, 32)).toBe(1.5);
    expect(barred(basin, [body], 2)).toBe(basin);
  });
});
