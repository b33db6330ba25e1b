import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TILE_QUADS, ownerTile, type Grid } from '../level/tiles';
import type { Point2 } from '../num/outline';
import { grownRect, overTiles, rectAround, samplesIn, sharedRect, uniteRects, wholeRect, type Rect } from './rect';
import { nearestStretch, noNear, outlineRow, stretchesOf } from './stretches';

const place = fc.tuple(fc.double({ min: -20, max: 60, noNaN: true }), fc.double({ min: -20, max: 60, noNaN: true })) as fc.Arbitrary<Point2>;

/** Distance to a stretch by its formula, each in turn. */
function slow(line: readonly Point2[], closed: boolean, [x, z]: Point2): number {
  let best = Infinity;
  for (let i = 0; i < (closed ? line.length : line.length - 1); i++) {
    const [[ax, az], [bx, bz]] = [line[i], line[(i + 1) % line.length]];
    const [dx, dz] = [bx - ax, bz - az];
    const t = Math.min(1, Math.max(0, ((x - ax) * dx + (z - az) * dz) / (dx * dx + dz * dz || 1)));
    best = Math.min(best, Math.hypot(x - ax - dx * t, z - az - dz * t));
  }
  return best;
}

describe('the nearest stretch of a line', () => {
  it('is as near as the nearest of all, within reach, and none beyond it', () => {
    fc.assert(
      fc.property(
        fc.array(place, { minLength: 2, maxLength: 12 }),
        fc.boolean(),
        fc.array(place, { minLength: 1, maxLength: 20 }),
        fc.double({ min: 0.5, max: 30, noNaN: true }),
        (line, closed, asked, reach) => {
          const stretches = stretchesOf(line, closed, reach);
          const near = noNear();
          for (const p of asked) {
            const wanted = slow(line, closed, p);
            const { id, distance } = nearestStretch(stretches, p[0], p[1], near);
            // At the very end of the reach rounding decides.
            if (Math.abs(wanted - reach) < 1e-6) continue;
            if (wanted > reach) expect(id).toBe(-1);
            else expect(distance).toBeCloseTo(wanted, 6);
          }
        },
      ),
      { numRuns: 150 },
    );
  });

  it('says how far along and on which side: right of the way is positive', () => {
    const near = noNear();
    const stretches = stretchesOf(
      [
        [0, 0],
        [10, 0],
        [10, 10],
      ],
      false,
      5,
    );
    expect(nearestStretch(stretches, 4, 1, near)).toMatchObject({ id: 0, t: 0.4, distance: 1, side: 1 });
    expect(nearestStretch(stretches, 4, -1, near)).toMatchObject({ id: 0, side: -1 });
    expect(nearestStretch(stretches, 8, 6, near)).toMatchObject({ id: 1, distance: 2, side: 1 });
    // Equally near ones: the first.
    expect(nearestStretch(stretches, 12, -2, near)).toMatchObject({ id: 0, t: 1 });
  });

  it('an outline is told inside from outside along a row, as a ray from each place tells it', () => {
    const star: Point2[] = Array.from({ length: 14 }, (_, i) => [
      20 + Math.cos((i / 7) * Math.PI) * (i % 2 ? 7 : 17),
      20 + Math.sin((i / 7) * Math.PI) * (i % 2 ? 7 : 17),
    ]);
    const inside = ([x, z]: Point2) =>
      star.reduce((odd, [ax, az], i) => {
        const [bx, bz] = star[(i + 1) % star.length];
        return az > z !== bz > z && x < ((bx - ax) * (z - az)) / (bz - az) + ax ? !odd : odd;
      }, false);
    const sides = stretchesOf(star, true, 4);
    const row = new Float64Array(81);
    for (let z = 0; z <= 40; z += 0.7) {
      outlineRow(star, sides, { z, x0: 0, count: 81, spacing: 0.5 }, row);
      row.forEach((d, i) => {
        const p: Point2 = [i * 0.5, z];
        const exact = Math.min(4, slow(star, true, p));
        if (exact > 1e-9) expect(d > 0).toBe(inside(p));
        expect(Math.abs(d)).toBeCloseTo(exact, 6);
      });
    }
  });
});

describe('rectangles of samples', () => {
  const grid: Grid = { tilesX: 3, tilesZ: 2, spacing: 0.5, nx: 193, nz: 129, width: 96, depth: 64, ox: 0, oz: 0 };
  const rect = fc
    .tuple(fc.nat(192), fc.nat(128), fc.nat(192), fc.nat(128))
    .map(([a, b, c, d]): Rect => ({ x0: Math.min(a, c), z0: Math.min(b, d), x1: Math.max(a, c), z1: Math.max(b, d) }));

  it('are gone over by tile, each sample once and by its owner', () => {
    fc.assert(
      fc.property(rect, (r) => {
        const seen = new Uint8Array(grid.nx * grid.nz);
        overTiles(r, (tx, tz, own) => {
          for (let z = own.z0; z <= own.z1; z++) {
            for (let x = own.x0; x <= own.x1; x++) {
              seen[z * grid.nx + x]++;
              expect([ownerTile(x), ownerTile(z)]).toEqual([tx, tz]);
            }
          }
        });
        for (let z = 0; z < grid.nz; z++)
          for (let x = 0; x < grid.nx; x++)
            if (seen[z * grid.nx + x] !== (x >= r.x0 && x <= r.x1 && z >= r.z0 && z <= r.z1 ? 1 : 0))
              throw new Error(`sample ${x}, ${z}: ${seen[z * grid.nx + x]} times`);
      }),
      { numRuns: 6 },
    );
    expect([ownerTile(0), ownerTile(1), ownerTile(TILE_QUADS), ownerTile(TILE_QUADS + 1)]).toEqual([0, 0, 0, 1]);
  });

  it('unite, share and grow as sets of samples do', () => {
    fc.assert(
      fc.property(rect, rect, fc.nat(9), (a, b, by) => {
        const both = uniteRects(a, b);
        const shared = sharedRect(a, b);
        expect(sharedRect(both, a)).toEqual(a);
        expect(samplesIn(both)).toBeGreaterThanOrEqual(Math.max(samplesIn(a), samplesIn(b)));
        if (shared) expect(samplesIn(a) + samplesIn(b) - samplesIn(shared)).toBeLessThanOrEqual(samplesIn(both));
        const grown = grownRect(a, by, grid);
        expect(sharedRect(grown, wholeRect(grid))).toEqual(grown);
        expect(sharedRect(grown, a)).toEqual(a);
      }),
    );
    expect(uniteRects(undefined, wholeRect(grid))).toEqual(wholeRect(grid));
  });

  it('lie around points in metres, and nowhere for points beside the level', () => {
    expect(
      rectAround(
        [
          [10, 10],
          [20, 12],
        ],
        1,
        grid,
      ),
    ).toEqual({ x0: 18, z0: 18, x1: 42, z1: 26 });
    expect(rectAround([[-5, 2]], 6, grid)).toEqual({ x0: 0, z0: 0, x1: 2, z1: 16 });
    expect(rectAround([[-5, 2]], 4, grid)).toBeUndefined();
  });
});
