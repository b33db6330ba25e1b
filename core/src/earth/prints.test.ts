import { describe, expect, it } from 'vitest';
import { liftStack } from '../level/level';
import { tanDeg } from '../num/trig';
import { testLevel } from '../testing/levels';
import { beginStroke, BRUSH_DEFAULTS, strokeTiles, type BrushSettings } from './brush';
import { composeRect, composeTerrain, type Terrain } from './compose';
import { dab } from './dab';
import { PRINTS, shippedPrint } from './prints';
import { heightAt, steepnessAt } from './sample';
import type { HeightPicture } from './survey';

/** Sets dabs at a place on flat ground (or on what is given) and returns it. */
function dabbed(brush: Partial<BrushSettings>, at: [number, number], times = 1, print?: HeightPicture, begin?: (t: Terrain) => void): Terrain {
  const level = testLevel(2, 0.5);
  const terrain = composeTerrain(level);
  const buffer = beginStroke('hand', terrain.grid);
  if (begin) begin(terrain);
  for (let i = 0; i < times; i++) {
    const rect = dab(buffer, level.tiles, terrain, { ...BRUSH_DEFAULTS, ...brush }, { x: at[0], z: at[1], print });
    if (rect && !begin) composeRect(terrain, liftStack(level), strokeTiles(buffer, level.tiles), rect);
  }
  return terrain;
}
const sum = ({ heights }: Terrain) => heights.reduce((a, b) => a + b, 0);

describe('the print brush', () => {
  /** A wedge: 0 in the west, 1 in the east. */
  const wedge: HeightPicture = { width: 2, height: 2, values: Float32Array.from([0, 1, 0, 1]) };
  const hard: Partial<BrushSettings> = { kind: 'print', radius: 8, hardness: 0.95, tall: 4 };

  it('lays a picture down as wide as the brush, as tall as it is told, turned about its middle', () => {
    const plain = dabbed(hard, [32, 32], 1, wedge);
    expect([heightAt(plain, 28, 32), heightAt(plain, 32, 32), heightAt(plain, 36, 32)].map((h) => Math.round(h * 100) / 100)).toEqual([1, 2, 3]);
    const south = dabbed({ ...hard, turn: 90 }, [32, 32], 1, wedge);
    expect([heightAt(south, 32, 28), heightAt(south, 32, 32), heightAt(south, 32, 36), heightAt(south, 36, 32)].map((h) => Math.round(h * 100) / 100)).toEqual([
      1, 2, 3, 2,
    ]);
    expect(heightAt(dabbed({ ...hard, tall: -4 }, [32, 32], 1, wedge), 36, 32)).toBeCloseTo(-3, 2);
  });

  it('keeps the proportions of a picture and leaves alone what lies beside it, or has no height', () => {
    const long: HeightPicture = { width: 3, height: 2, values: new Float32Array(6).fill(1) };
    const t = dabbed(hard, [32, 32], 1, long);
    expect([heightAt(t, 32, 29), heightAt(t, 32, 35), heightAt(t, 32, 26), heightAt(t, 38, 32)].map((h) => Math.round(h * 10) / 10)).toEqual([4, 4, 0, 4]);
    const holed = dabbed(hard, [32, 32], 1, { width: 2, height: 2, values: Float32Array.from([NaN, 1, 1, 1]) });
    expect(sum(holed)).toBe(0);
    expect(sum(dabbed(hard, [32, 32]))).toBe(0);
  });

  it('ships prints that end at their rim, between -1 and 1, and are the same each time', () => {
    for (const name of PRINTS) {
      const { width, height, values } = shippedPrint(name);
      expect(shippedPrint(name)).toBe(shippedPrint(name));
      expect(values.every((v) => v >= -1.2 && v <= 1.3)).toBe(true);
      expect(values.some((v) => Math.abs(v) > 0.3)).toBe(true);
      for (let i = 0; i < width; i++)
        for (const at of [i, (height - 1) * width + i, i * width, i * width + width - 1]) expect(Math.abs(values[at])).toBeLessThan(0.02);
    }
  });
});

describe('the weather brush', () => {
  it('lets steep ground slide to its talus angle, loses none of it, and leaves gentle ground alone', () => {
    const brush: Partial<BrushSettings> = { kind: 'weather', radius: 12, hardness: 0.6, strength: 0.15, talus: 30 };
    const level = testLevel(2, 0.5);
    const terrain = composeTerrain(level);
    const buffer = beginStroke('hand', terrain.grid);
    const put = (b: Partial<BrushSettings>) => {
      const rect = dab(buffer, level.tiles, terrain, { ...BRUSH_DEFAULTS, ...b }, { x: 32, z: 32 })!;
      composeRect(terrain, liftStack(level), strokeTiles(buffer, level.tiles), rect);
    };
    for (let i = 0; i < 4; i++) put({ kind: 'raise', radius: 4, hardness: 0.9, strength: 1 });
    const before = sum(terrain);
    const steep = (t: Terrain) => {
      let most = 0;
      for (let x = 24; x < 40; x += 0.5) for (let z = 24; z < 40; z += 0.5) most = Math.max(most, steepnessAt(t, x, z));
      return most;
    };
    expect(steep(terrain)).toBeGreaterThan(tanDeg(60) ** 2);
    for (let i = 0; i < 30; i++) put(brush);
    expect(Math.abs(sum(terrain) - before) / before).toBeLessThan(0.002);
    // Between the eight ways ground slides along, and where the brush runs out, it lies a little steeper.
    expect(Math.sqrt(steep(terrain))).toBeLessThan(tanDeg(39));
    const still = terrain.heights.slice();
    put({ ...brush, talus: 60 });
    expect(terrain.heights).toEqual(still);
  });

  it('loses none of it where the brush runs out over the slope either', () => {
    const level = testLevel(2, 0.5);
    const terrain = composeTerrain(level);
    const buffer = beginStroke('hand', terrain.grid);
    const put = (b: Partial<BrushSettings>, x: number) => {
      const rect = dab(buffer, level.tiles, terrain, { ...BRUSH_DEFAULTS, ...b }, { x, z: 32 })!;
      composeRect(terrain, liftStack(level), strokeTiles(buffer, level.tiles), rect);
    };
    for (let i = 0; i < 4; i++) put({ kind: 'raise', radius: 4, hardness: 0.9, strength: 1 }, 32);
    const before = sum(terrain);
    for (let i = 0; i < 12; i++) put({ kind: 'weather', radius: 6, hardness: 0, strength: 0.1, talus: 20 }, 36);
    expect(heightAt(terrain, 32, 32)).toBeLessThan(4);
    // What is rounded to whole 1024ths of a metre a sample and a dab.
    expect(Math.abs(sum(terrain) - before) / before).toBeLessThan(0.0005);
  });

  it("at the level's edge takes no hurt", () => {
    const t = dabbed({ kind: 'weather', radius: 6, talus: 10 }, [0, 0], 3, undefined, (terrain) => {
      terrain.heights[0] = 5;
    });
    expect(t.heights.every(Number.isFinite)).toBe(true);
  });
});
