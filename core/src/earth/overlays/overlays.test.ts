import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { terrainOf } from '../../testing/levels';
import { heightAt } from '../sample';
import { barred, waterBody } from '../water';
import { contours } from './contours';
import { curvature } from './curvature';
import { islands } from './islands';
import { runoff } from './runoff';

const cone = terrainOf((x, z) => 10 - Math.sqrt((x - 32) ** 2 + (z - 32) ** 2) / 3);

describe('contours', () => {
  it('of a cone are circles: one closed line a height, its length 2 pi r', () => {
    const lines = contours(cone, 2).filter((c) => c.height >= 2 && c.height < 10);
    expect(lines.map((c) => [c.height, c.closed])).toEqual([
      [2, true],
      [4, true],
      [6, true],
      [8, true],
    ]);
    for (const c of lines) expect(Math.abs(c.length - 2 * Math.PI * (10 - c.height) * 3) / c.length).toBeLessThan(0.01);
  });

  it('lie at their height, every point, and run on without a jump', () => {
    const bumpy = terrainOf((x, z) => Math.sin(x / 3) * 2 + Math.cos(z / 4) * 1.5 + x * 0.05);
    const lines = contours(bumpy, 0.5);
    expect(lines.length).toBeGreaterThan(20);
    for (const { points, height } of lines) {
      for (let i = 0; i < points.length; i += 2) {
        expect(Math.abs(heightAt(bumpy, points[i], points[i + 1]) - height)).toBeLessThan(1e-4);
        if (i > 0) expect(Math.hypot(points[i] - points[i - 2], points[i + 1] - points[i - 1])).toBeLessThan(0.8);
      }
    }
  });

  it('that do not close end at the rim of the level', () => {
    const slope = terrainOf((x) => x / 4 + 0.01);
    for (const { points, closed } of contours(slope, 1)) {
      expect(closed).toBe(false);
      expect([points[1], points[points.length - 1]].sort((a, b) => a - b)).toEqual([0, 64]);
    }
  });

  it('short ones can be left out', () => {
    expect(contours(cone, 2, 60).every((c) => c.length >= 60)).toBe(true);
  });
});

describe('curvature', () => {
  it('worked by hand: a bowl of x2 + z2 over 20 has 0.2 everywhere, a plane 0, a crest less than 0', () => {
    const bowl = curvature(terrainOf((x, z) => ((x - 32) ** 2 + (z - 32) ** 2) / 20));
    expect(bowl.every((v) => Math.abs(v - 0.2) < 2e-3)).toBe(true);
    expect(curvature(terrainOf((x, z) => x / 2 - z / 3)).every((v) => Math.abs(v) < 1e-4)).toBe(true);
    expect(Math.min(...curvature(cone))).toBeLessThan(-0.5);
  });
});

describe('runoff', () => {
  it('a valley gathers what falls on both its sides, and nothing is lost on the way', () => {
    const valley = terrainOf((x, z) => Math.abs(x - 32) / 2 + z / 50);
    const r = runoff(valley);
    const { nx, nz, spacing } = valley.grid;
    // All of it comes out at the north end of its bed.
    expect(r[64]).toBeCloseTo(nx * nz * spacing * spacing, 0);
    expect(r[60 * nx + 10]).toBeLessThan(20);
  });

  it('samples in hollows keep it all: what stands in them is the whole level', () => {
    const h = terrainOf((x, z) => Math.sin(x * 0.7) + Math.cos(z * 0.9) + Math.sin(x * z * 0.01));
    const r = runoff(h);
    const { nx, nz, spacing } = h.grid;
    let kept = 0;
    for (let z = 0; z < nz; z++) {
      for (let x = 0; x < nx; x++) {
        let low = true;
        for (let dz = -1; dz <= 1; dz++)
          for (let dx = -1; dx <= 1; dx++) {
            const [u, v] = [x + dx, z + dz];
            if (u >= 0 && v >= 0 && u < nx && v < nz && h.heights[v * nx + u] < h.heights[z * nx + x]) low = false;
          }
        if (low) kept += r[z * nx + x];
      }
    }
    expect(Math.abs(kept / (nx * nz * spacing * spacing) - 1)).toBeLessThan(1e-4);
  });
});

describe('islands', () => {
  /** Two knolls 2 m high in the north-west and south-east over ground at -3 m, a causeway between them where `bridge` is higher. */
  const knolls = (bridge: number) =>
    terrainOf((x, z) => {
      const knoll = (cx: number, cz: number) => 2 - Math.max(0, Math.hypot(x - cx, z - cz) - 8) * 0.5;
      const way = Math.abs(x - z) < 3 && x > 14 && x < 50 ? bridge : -3;
      return Math.max(knoll(16, 16), knoll(48, 48), way, -3);
    });
  const sea = (bridge: number) => {
    const t = knolls(bridge);
    const body = waterBody(t, { id: 's', version: 1, kind: 'water', form: 'sea', name: 'sea', height: 0, hidden: false, out: false });
    return typeof body === 'string' ? t : barred(t, [body], 0.9);
  };

  it('two knolls in a sea are two islands, the one with the entry first; a causeway shallow enough to wade links them', () => {
    const apart = islands(sea(-3), 45, [48, 48]);
    expect(apart.areas).toHaveLength(2);
    const at = (i: typeof apart, x: number, z: number) => i.of[(z / 0.5) * 129 + x / 0.5];
    expect([at(apart, 48, 48), at(apart, 16, 16), at(apart, 2, 60)]).toEqual([1, 2, 0]);
    const linked = islands(sea(-0.8), 45, [48, 48]);
    expect(linked.areas).toHaveLength(1);
    expect(at(linked, 16, 16)).toBe(1);
    expect(islands(sea(-1), 45).areas).toHaveLength(2);
  });

  it('a terrace behind a face too steep to walk is an island of its own', () => {
    const step = terrainOf((x) => (x < 32 ? 0 : 4));
    expect(islands(step, 45).areas).toHaveLength(2);
    expect(
      islands(
        terrainOf((x) => Math.min(4, Math.max(0, (x - 30) * 0.9))),
        45,
      ).areas,
    ).toHaveLength(1);
  });

  it('cover all ground that can be stood on, and the areas say how much', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), (seed) => {
        const t = terrainOf((x, z) => Math.sin(x * 0.5 + seed) * 3 + Math.cos(z * 0.4 * (1 + (seed % 3))) * 3);
        const found = islands(t, 40);
        const counts = new Map<number, number>();
        for (const v of found.of) if (v > 0) counts.set(v, (counts.get(v) ?? 0) + 0.25);
        expect(found.areas).toEqual(found.areas.map((_, i) => counts.get(i + 1)));
        expect([...found.areas].sort((a, b) => b - a)).toEqual(found.areas);
      }),
      { numRuns: 20 },
    );
  });
});
