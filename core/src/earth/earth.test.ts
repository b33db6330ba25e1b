import { readdirSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { applyEdit, commitChanges } from '../level/edits/index';
import { liftStack, settingsOf, type Level } from '../level/level';
import { gridOf } from '../level/tiles';
import { packRaster, toBase64 } from '../num/fixed';
import { normalize, type Vec3 } from '../num/vec';
import { terrainOf, testLevel } from '../testing/levels';
import { beginStroke, BRUSH_DEFAULTS, dabsAlong, endStroke, falloff, mirrored, strokeTiles, type BrushSettings } from './brush';
import { BRUSHES, brushOf, reversed } from './brushes/index';
import { terraced } from './brushes/terrace';
import { dab, rampStroke } from './dab';
import { composeRect, composeTerrain, wholeRect } from './compose';
import { terrainIndices, terrainMesh, terrainPositions, terrainTriangles, terrainVertexCount, tileNormals } from './mesh';
import { gradientAt, heightAt, normalAt, rayTerrain, slopeAt, steepnessAt } from './sample';
import { liftVolumes } from './volume';
import { expectBits } from '../testing/bits';

const BRUSH: BrushSettings = { ...BRUSH_DEFAULTS, kind: 'raise', radius: 6, strength: 0.15, hardness: 0.3, levelTo: 2 };
const NOISE = { seed: 3, height: 4, scale: 40, octaves: 4 };

/** Draws dabs with a brush and commits them as one stroke, as the tool does. */
function draw(level: Level, brush: BrushSettings, points: [number, number][]): void {
  const terrain = composeTerrain(level);
  const buffer = beginStroke('hand', terrain.grid);
  for (const [x, z] of points) {
    const rect = dab(buffer, level.tiles, terrain, brush, { x, z });
    if (rect) composeRect(terrain, liftStack(level), strokeTiles(buffer, level.tiles), rect);
  }
  const tiles = endStroke(buffer).map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) }));
  const applied = applyEdit(level, { kind: 'stroke', tiles });
  if (!applied.ok) throw new Error(applied.message);
  commitChanges(level, applied.changes);
  // What was previewed is what the level now has.
  expectBits(composeTerrain(level).heights, terrain.heights);
}

const reseed = (level: Level, seed: number): void => {
  const applied = applyEdit(level, { kind: 'set', patches: [{ id: 'noise', set: { seed } }] });
  if (applied.ok) commitChanges(level, applied.changes);
};

describe('composing', () => {
  it('gives the same bits for any rectangle, in any order, as for the whole', () => {
    const level = testLevel(3, 0.5, NOISE);
    draw(level, BRUSH, [
      [31, 31],
      [33, 34],
    ]);
    draw(level, { ...BRUSH, kind: 'level' }, [[64, 60]]);
    const whole = composeTerrain(level);
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(192), fc.nat(192), fc.nat(192), fc.nat(192)), { minLength: 1, maxLength: 6 }), (rects) => {
        const part = { ...whole, heights: whole.heights.slice() };
        for (const [a, b, c, d] of rects) {
          const rect = { x0: Math.min(a, b), x1: Math.max(a, b), z0: Math.min(c, d), z1: Math.max(c, d) };
          for (let z = rect.z0; z <= rect.z1; z++) part.heights.fill(Number.NaN, z * part.grid.nx + rect.x0, z * part.grid.nx + rect.x1 + 1);
          composeRect(part, liftStack(level), level.tiles, rect);
        }
        expectBits(part.heights, whole.heights);
      }),
      { numRuns: 25 },
    );
  });

  it('leaves hidden lifts out', () => {
    const level = testLevel(2, 0.5, NOISE);
    const noise = level.object('noise')!;
    level.objects.set('noise', { ...noise, visible: false } as never);
    expect(composeTerrain(level).heights.every((h) => h === 0)).toBe(true);
  });

  it('says so when noise is missing', () => {
    const level = testLevel(2, 0.5, NOISE);
    const terrain = composeTerrain(level);
    expect(() => composeRect({ ...terrain, noise: new Map() }, liftStack(level), level.tiles, wholeRect(terrain.grid))).toThrow(/noise of lift/);
  });
});

describe('a brush', () => {
  it('falls off from 1 at its hardness to 0 at its rim, never rising', () => {
    expect(falloff(0.3, 0.3)).toBe(1);
    expect(falloff(1, 0.3)).toBe(0);
    expect(falloff(0.65, 0.3)).toBeCloseTo(0.5, 12);
    for (let i = 1; i <= 100; i++) expect(falloff(i / 100, 0.2)).toBeLessThanOrEqual(falloff((i - 1) / 100, 0.2));
  });

  it('raises by its strength at the centre and not beyond its radius', () => {
    const level = testLevel();
    draw(level, BRUSH, [[30, 30]]);
    const t = composeTerrain(level);
    expect(heightAt(t, 30, 30)).toBeCloseTo(0.15, 2);
    expect(heightAt(t, 30 + 6, 30)).toBe(0);
    draw(level, { ...BRUSH, kind: 'lower' }, [[30, 30]]);
    expect(composeTerrain(level).heights.every((h) => h === 0)).toBe(true);
  });

  it('is the same over a tile corner as inside a tile', () => {
    const a = testLevel();
    const b = testLevel();
    draw(a, BRUSH, [[32, 32]]);
    draw(b, BRUSH, [[16, 16]]);
    const [ta, tb] = [composeTerrain(a), composeTerrain(b)];
    for (let x = -7; x <= 7; x += 0.5) for (let z = -7; z <= 7; z += 0.5) expect(heightAt(ta, 32 + x, 32 + z)).toBe(heightAt(tb, 16 + x, 16 + z));
  });

  it('sets a dab every quarter of its radius', () => {
    expect(dabsAlong([0, 0], [4, 0], 4)).toEqual([
      [1, 0],
      [2, 0],
      [3, 0],
      [4, 0],
    ]);
    expect(dabsAlong([0, 0], [0.9, 0], 4)).toEqual([]);
  });

  it('smooths towards its surroundings', () => {
    const level = testLevel(2, 0.5, { ...NOISE, scale: 4 });
    const rough = (l: Level) => {
      const t = composeTerrain(l);
      let s = 0;
      for (let x = 26; x < 34; x += 0.5) s += Math.abs(heightAt(t, x + 0.5, 30) - heightAt(t, x, 30));
      return s;
    };
    const before = rough(level);
    draw(level, { ...BRUSH, kind: 'smooth', strength: 0.6 }, [
      [30, 30],
      [30, 30],
      [30, 30],
    ]);
    expect(rough(level)).toBeLessThan(before * 0.6);
  });

  it('levels towards a typed height and arrives there', () => {
    const level = testLevel(2, 0.5, NOISE);
    draw(
      level,
      { ...BRUSH, kind: 'level', strength: 0.6, levelTo: 2.5 },
      Array.from({ length: 12 }, () => [30, 30] as [number, number]),
    );
    expect(heightAt(composeTerrain(level), 30, 30)).toBeCloseTo(2.5, 2);
  });
});

describe('the brushes', () => {
  it('are one file each, and what one is reversed is reversed back', () => {
    expect(
      readdirSync(new URL('./brushes', import.meta.url))
        .map((f) => f.replace('.ts', ''))
        .filter((f) => !['index', 'brushKind', 'meanAround'].includes(f))
        .sort(),
    ).toEqual([...BRUSHES].sort());
    for (const kind of BRUSHES) expect(reversed(reversed(kind))).toBe(kind);
    expect([reversed('raise'), reversed('sharpen'), reversed('print')]).toEqual(['lower', 'smooth', 'print']);
    expect([brushOf('level').label!({ ...BRUSH, levelTo: 1.5 }), brushOf('terrace').label!({ ...BRUSH, rise: 2 }), brushOf('raise').label]).toEqual([
      'to 1.50 m',
      'steps of 2.00 m',
      undefined,
    ]);
  });
});

describe('more brushes', () => {
  const at = (level: Level, x: number, z: number) => heightAt(composeTerrain(level), x, z);
  const often = (n: number, p: [number, number] = [30, 30]) => Array.from({ length: n }, () => p);

  it('sharpen draws crests up and hollows down, no faster than a dab raises', () => {
    const level = testLevel(2, 0.5, { ...NOISE, scale: 4 });
    const rough = (l: Level) => {
      const t = composeTerrain(l);
      let s = 0;
      for (let x = 26; x < 34; x += 0.5) s += Math.abs(heightAt(t, x + 0.5, 30) - heightAt(t, x, 30));
      return s;
    };
    const before = composeTerrain(level);
    const was = rough(level);
    draw(level, { ...BRUSH, kind: 'sharpen', strength: 0.3 }, often(1));
    expect(rough(level)).toBeGreaterThan(was * 1.05);
    expect(composeTerrain(level).heights.every((h, i) => Math.abs(h - before.heights[i]) <= 0.3 + 1 / 1024)).toBe(true);
  });

  it('terrace makes level treads a rise apart, and they stay under a new seed', () => {
    expect([0, 0.4, 1, 1.6, 2, 3.9, -0.2].map((h) => Math.round(terraced(h, 2) * 1000) / 1000)).toEqual([0, 0, 1, 2, 2, 4, 0]);
    const level = testLevel(2, 0.5, { ...NOISE, height: 6 });
    draw(level, { ...BRUSH, kind: 'terrace', strength: 0.6, rise: 2, hardness: 0.9 }, often(30));
    const tread = at(level, 30, 30);
    expect(Math.abs(tread / 2 - Math.round(tread / 2))).toBeLessThan(0.01);
    reseed(level, 55);
    expect(at(level, 30, 30)).toBeCloseTo(tread, 3);
  });

  it('noise is the same from any dab order, none at its size zero lines, bounded by the strength', () => {
    const level = testLevel();
    draw(level, { ...BRUSH, kind: 'noise', strength: 0.5, grain: 4 }, [[30, 30]]);
    const heights = composeTerrain(level).heights;
    expect(heights.some((h) => h > 0.05) && heights.some((h) => h < -0.05)).toBe(true);
    expect(heights.every((h) => Math.abs(h) <= 0.5)).toBe(true);
  });

  it('erase goes back to what lies below, held ground too', () => {
    const level = testLevel(2, 0.5, NOISE);
    const below = composeTerrain(level).heights;
    draw(level, { ...BRUSH, strength: 1 }, often(5));
    draw(level, { ...BRUSH, kind: 'level', strength: 0.6, levelTo: 9 }, often(4, [34, 30]));
    draw(level, { ...BRUSH, kind: 'erase', strength: 0.6, radius: 20, hardness: 0.95 }, often(3, [32, 30]));
    expectBits(composeTerrain(level).heights, below);
  });

  it('a ramp runs straight from height to height and holds', () => {
    const level = testLevel(2, 0.5, NOISE);
    const buffer = beginStroke('hand', composeTerrain(level).grid);
    rampStroke(buffer, level.tiles, [10, 1, 30], [30, 6, 30], { radius: 3, hardness: 0.5 });
    for (const [key, tile] of buffer.work) level.tiles.set(key, tile);
    for (const seed of [3, 44]) {
      reseed(level, seed);
      expect([10, 20, 30].map((x) => Math.round(at(level, x, 30) * 100) / 100)).toEqual([1, 3.5, 6]);
      expect(at(level, 20, 31.5)).toBeCloseTo(3.5, 2);
    }
    const bare = testLevel(2, 0.5, NOISE);
    reseed(bare, 44);
    expect(at(level, 20, 33.5)).toBe(at(bare, 20, 33.5));
  });

  it('mirrors at the middle of the level', () => {
    const { grid } = composeTerrain(testLevel());
    expect(mirrored([10, 20], 'none', grid)).toEqual([[10, 20]]);
    expect(mirrored([10, 20], 'east-west', grid)).toEqual([
      [10, 20],
      [54, 20],
    ]);
    expect(mirrored([10, 20], 'north-south', grid)).toEqual([
      [10, 20],
      [10, 44],
    ]);
    expect(dabsAlong([0, 0], [4, 0], 4, 0.5)).toEqual([
      [2, 0],
      [4, 0],
    ]);
  });
});

describe('hand work under a new seed', () => {
  it('raised ground stays raised by as much, levelled ground stays at its height', () => {
    const level = testLevel(3, 0.5, NOISE);
    const bare = testLevel(3, 0.5, NOISE);
    draw(level, { ...BRUSH, strength: 0.5 }, [
      [20, 20],
      [21, 20],
      [22, 21],
    ]);
    draw(
      level,
      { ...BRUSH, kind: 'level', strength: 0.6, levelTo: 7 },
      Array.from({ length: 20 }, () => [70, 70] as [number, number]),
    );
    const raised = (l: Level, b: Level) => heightAt(composeTerrain(l), 21, 20) - heightAt(composeTerrain(b), 21, 20);
    const before = raised(level, bare);
    expect(before).toBeGreaterThan(1);
    for (const seed of [11, 12, 13]) {
      reseed(level, seed);
      reseed(bare, seed);
      expect(raised(level, bare)).toBeCloseTo(before, 4);
      expect(heightAt(composeTerrain(level), 70, 70)).toBeCloseTo(7, 3);
    }
  });

  it('ground raised after it was levelled stays raised over its levelled height', () => {
    const level = testLevel(2, 0.5, NOISE);
    draw(
      level,
      { ...BRUSH, kind: 'level', strength: 0.6, levelTo: 3 },
      Array.from({ length: 20 }, () => [30, 30] as [number, number]),
    );
    draw(level, { ...BRUSH, strength: 0.5 }, [[30, 30]]);
    const before = heightAt(composeTerrain(level), 30, 30);
    expect(before).toBeCloseTo(3.5, 2);
    reseed(level, 99);
    expect(heightAt(composeTerrain(level), 30, 30)).toBeCloseTo(before, 3);
  });
});

describe('sampling', () => {
  const bumpy = terrainOf((x, z) => Math.sin(x / 3) * 2 + Math.cos(z / 4) * 1.5 + x * 0.05);

  it('reads the two triangles of each quad as the mesh has them', () => {
    const { positions, indices } = terrainMesh(bumpy, 10, 10, 14, 13);
    for (let t = 0; t < indices.length; t += 3) {
      const p = [0, 1, 2].map((k) => [0, 1, 2].map((c) => positions[indices[t + k] * 3 + c]));
      const mid = [0, 1, 2].map((c) => p[0][c] * 0.2 + p[1][c] * 0.5 + p[2][c] * 0.3);
      expect(heightAt(bumpy, mid[0], mid[2])).toBeCloseTo(mid[1], 5);
    }
  });

  it('worked by hand: a plane rising 1 in 2 has a slope of 26.57 degrees', () => {
    const plane = terrainOf((x) => x / 2);
    expect(slopeAt(plane, 20, 30)).toBeCloseTo(26.565, 3);
    expect(slopeAt(plane, 0, 0)).toBeCloseTo(26.565, 3);
    expect(normalAt(plane, 20, 30).map((v) => Math.round(v * 1e4) / 1e4)).toEqual([-0.4472, 0.8944, -0]);
  });

  it('rays hit where a slow march does', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 59, noNaN: true }),
        fc.double({ min: 5, max: 59, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: -1, max: 1, noNaN: true }),
        fc.double({ min: 4, max: 30, noNaN: true }),
        (x, z, dx, dz, up) => {
          const origin: Vec3 = [x, 12 + up, z];
          const d = normalize([dx, -0.7, dz]);
          const hit = rayTerrain(bumpy, origin, d, 500);
          let slow: number | undefined;
          for (let t = 0; t < 90 && slow === undefined; t += 0.01) {
            const p = [origin[0] + d[0] * t, origin[1] + d[1] * t, origin[2] + d[2] * t];
            if (p[0] < 0 || p[2] < 0 || p[0] > 64 || p[2] > 64) break;
            if (p[1] <= heightAt(bumpy, p[0], p[2])) slow = t;
          }
          if (slow === undefined) expect(hit === undefined || hit > 20).toBe(true);
          else expect(Math.abs(hit! - slow)).toBeLessThan(0.02);
        },
      ),
      { numRuns: 80 },
    );
    expect(rayTerrain(bumpy, [10, 50, 10], [0, 1, 0], 500)).toBeUndefined();
    expect(rayTerrain(bumpy, [-10, 3, 10], [-1, 0, 0], 500)).toBeUndefined();
  });
});

describe('tile meshes', () => {
  const t = terrainOf((x, z) => x * 0.1 + z * 0.2, 2);

  it('have the counts that are published, at every LOD', () => {
    for (let lod = 0; lod < 4; lod++) {
      expect(terrainIndices(lod).length).toBe(terrainTriangles(lod) * 3);
      expect(Math.max(...terrainIndices(lod))).toBe(terrainVertexCount(lod) - 1);
    }
    expect(terrainTriangles(0)).toBe(64 * 64 * 2 + 64 * 8);
  });

  it('meet their neighbours exactly, and hang skirts below', () => {
    const write = (tx: number, lod: number) => {
      const out = new Float32Array(terrainVertexCount(lod) * 3);
      terrainPositions(t, [tx, 0], lod, 3, out);
      return out;
    };
    for (let lod = 0; lod < 4; lod++) {
      const q = 64 >> lod;
      const [a, b] = [write(0, lod), write(1, lod)];
      for (let z = 0; z <= q; z++) {
        const east = (z * (q + 1) + q) * 3;
        const west = z * (q + 1) * 3;
        expect([a[east], a[east + 1], a[east + 2]]).toEqual([b[west], b[west + 1], b[west + 2]]);
      }
      expect(a[(q + 1) * (q + 1) * 3 + 1]).toBeCloseTo(a[1] - 3, 5);
    }
  });

  it('face up, skirts outwards', () => {
    const out = new Float32Array(terrainVertexCount(3) * 3);
    terrainPositions(t, [0, 0], 3, 3, out);
    const idx = terrainIndices(3);
    const at = (i: number): Vec3 => [out[i * 3], out[i * 3 + 1], out[i * 3 + 2]];
    for (let i = 0; i < idx.length; i += 3) {
      const [a, b, c] = [at(idx[i]), at(idx[i + 1]), at(idx[i + 2])];
      const n: Vec3 = [
        (b[1] - a[1]) * (c[2] - a[2]) - (b[2] - a[2]) * (c[1] - a[1]),
        (b[2] - a[2]) * (c[0] - a[0]) - (b[0] - a[0]) * (c[2] - a[2]),
        (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]),
      ];
      if (i < 8 * 8 * 2 * 3) expect(n[1]).toBeGreaterThan(0);
      else expect(n[0] * (a[0] - 16) + n[2] * (a[2] - 16)).toBeGreaterThan(0);
    }
  });

  it('agree on normals along a shared edge', () => {
    const bumpy = terrainOf((x, z) => Math.sin(x) + Math.cos(z * 0.7), 2);
    const a = new Uint8Array(65 * 65 * 4);
    const b = new Uint8Array(65 * 65 * 4);
    tileNormals(bumpy, 0, 0, a, 4);
    tileNormals(bumpy, 1, 0, b, 4);
    for (let z = 0; z <= 64; z++) expect([a[(z * 65 + 64) * 4], a[(z * 65 + 64) * 4 + 1]]).toEqual([b[z * 65 * 4], b[z * 65 * 4 + 1]]);
  });
});

describe('cut and fill', () => {
  it('worked by hand: the whole of a 64 x 64 m level raised by 1 m is 4096 m3', () => {
    const level = testLevel();
    const grid = gridOf(settingsOf(level));
    for (const key of ['0,0', '1,0', '0,1', '1,1']) {
      const [tx, tz] = key.split(',').map(Number);
      const tile = new Int32Array(65 * 65);
      for (let z = 0; z <= 64; z++) for (let x = 0; x <= 64; x++) if ((x > 0 || tx === 0) && (z > 0 || tz === 0)) tile[z * 65 + x] = 1024;
      level.tiles.set(`hand/delta/${key}`, tile);
    }
    const terrain = composeTerrain(level);
    const volumes = liftVolumes(level, terrain);
    expect(volumes.get('hand')).toEqual({ cut: 0, fill: grid.width * grid.depth });
    expect(volumes.get('noise')).toEqual({ cut: 0, fill: 0 });
  });
});

describe('steepness', () => {
  it('is the length of the gradient, bit for bit, rim included', () => {
    const terrain = terrainOf((x, z) => Math.sin(x / 3) * 2 + Math.cos(z / 5) * 3);
    fc.assert(
      fc.property(fc.double({ min: -2, max: 66, noNaN: true }), fc.double({ min: -2, max: 66, noNaN: true }), (x, z) => {
        const [gx, gz] = gradientAt(terrain, x, z);
        expect(steepnessAt(terrain, x, z)).toBe(Math.sqrt(gx * gx + gz * gz));
      }),
    );
  });
});
