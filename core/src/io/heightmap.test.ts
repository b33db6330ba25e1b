import { encode } from 'fast-png';
import { describe, expect, it } from 'vitest';
import { composeTerrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import { insertLift } from '../earth/stack';
import { surveyHeight, surveyStroke, type SurveyPlace } from '../earth/survey';
import { applyEdit, commitChanges } from '../level/edits/index';
import { liftStack } from '../level/level';
import { parseObject, type Survey } from '../level/objects';
import { testLevel } from '../testing/levels';
import { readHeightPng, readHeightRaw, rawSizes } from './heightmap';
import { heightsPng } from './rasters';

const survey = (): Survey => {
  const parsed = parseObject({ id: 'survey', version: 1, kind: 'lift', lift: 'survey', name: 'survey', order: 0 });
  if (!parsed.ok) throw new Error(parsed.message);
  return parsed.object as Survey;
};
const lay = (picture: Parameters<typeof surveyStroke>[1], place: SurveyPlace) => {
  const level = testLevel();
  const { grid } = composeTerrain(level);
  for (const edit of [insertLift(liftStack(level), survey()), surveyStroke(survey(), picture, place, grid)!]) {
    const applied = applyEdit(level, edit);
    if (!applied.ok) throw new Error(applied.message);
    commitChanges(level, applied.changes);
  }
  return composeTerrain(level);
};
const png = (width: number, height: number, data: Uint16Array | Uint8Array, depth: 8 | 16 = 16, channels: 1 | 3 = 1) =>
  encode({ width, height, data, depth, channels });
const code = (outcome: { ok: boolean; code?: string; message?: string }) => (outcome.ok ? 'read' : outcome.code);

describe('a heightmap', () => {
  it('of a terrain goes out and comes in within one step of 16 bits', () => {
    const before = composeTerrain(testLevel(2, 0.5, { seed: 3, height: 9, scale: 30, octaves: 5 }));
    const { png: bytes, sidecar } = heightsPng(before);
    const read = readHeightPng('heights.png', bytes);
    if (!read.ok) throw new Error(read.message);
    const after = lay(read.value, { x: 0, z: 0, width: before.grid.width, depth: before.grid.depth, low: sidecar.low, high: sidecar.high });
    // And half a 1/1024 m, in which heights are kept.
    const step = (sidecar.high - sidecar.low) / 65_535 + 0.5 / 1024;
    expect(after.heights.every((h, i) => Math.abs(h - before.heights[i]) <= step)).toBe(true);
  });

  it('of any aspect lies at its real size, straight between its pixels, and leaves the rest alone', () => {
    const read = readHeightPng('ramp.png', png(3, 2, Uint16Array.of(0, 32_768, 65_535, 0, 32_768, 65_535)));
    if (!read.ok) throw new Error(read.message);
    const place = { x: 10, z: 20, width: 40, depth: 10, low: 2, high: 6 };
    expect(surveyHeight(read.value, place, 20, 25)).toBeCloseTo(3, 3);
    expect(surveyHeight(read.value, place, 9.9, 25)).toBeUndefined();
    const terrain = lay(read.value, place);
    expect([heightAt(terrain, 10, 25), heightAt(terrain, 30, 25), heightAt(terrain, 50, 25)].map((h) => Math.round(h * 100) / 100)).toEqual([2, 4, 6]);
    expect(heightAt(terrain, 30, 40)).toBe(0);
  });

  it('of 8 bits and of colours is read as well', () => {
    const grey = readHeightPng('grey.png', png(2, 2, Uint8Array.of(0, 255, 51, 102), 8));
    expect(grey.ok && [...grey.value.values].map((v) => Math.round(v * 10) / 10)).toEqual([0, 1, 0.2, 0.4]);
    const colours = readHeightPng('rgb.png', png(2, 2, Uint8Array.of(0, 0, 0, 255, 255, 255, 30, 60, 90, 0, 0, 0), 8, 3));
    expect(colours.ok && Math.round(colours.value.values[2] * 255)).toBe(60);
  });

  it('as bare numbers is read in both byte orders, at a size that fits', () => {
    const bytes = Uint8Array.of(0x12, 0x34, 0, 0, 0xff, 0xff, 0x80, 0);
    const [little, big] = [false, true].map((b) => {
      const r = readHeightRaw('a.raw', bytes, 2, 2, b);
      return r.ok ? [...r.value.values].map((v) => Math.round(v * 65_535)) : [];
    });
    expect(little).toEqual([0x3412, 0, 0xffff, 0x0080]);
    expect(big).toEqual([0x1234, 0, 0xffff, 0x8000]);
    expect(rawSizes(24)[0]).toEqual({ width: 3, height: 4 });
    expect(rawSizes(7)).toEqual([]);
    expect(code(readHeightRaw('a.raw', bytes, 3, 2, false))).toBe('raw-size');
  });

  it('that is broken, huge or no ground at all is refused by name, before anything is made', () => {
    const good = png(2, 2, Uint16Array.of(1, 2, 3, 4));
    const changed = (change: (b: Uint8Array, v: DataView) => void) => {
      const b = good.slice();
      change(b, new DataView(b.buffer));
      return readHeightPng('x.png', b);
    };
    expect(code(readHeightPng('x.png', good))).toBe('read');
    expect(
      changed((_, v) => {
        v.setUint32(16, 60_000);
        v.setUint32(20, 60_000);
      }),
    ).toMatchObject({ code: 'heightmap-size', message: 'x.png is 60000 x 60000 pixels: at most 8192 a side; scale it down first' });
    expect(readHeightPng('x.png', png(1, 1, Uint16Array.of(1)))).toMatchObject({
      code: 'heightmap-size',
      message: 'x.png is 1 x 1 pixels: ground needs at least 2 x 2',
    });
    expect(
      changed((b) => {
        b[28] = 1;
      }),
    ).toMatchObject({ code: 'png-format', message: 'x.png is interlaced: save it without interlacing' });
    expect(changed((_, v) => v.setUint32(16, 500))).toMatchObject({ code: 'png-truncated' });
    expect(code(readHeightPng('x.png', good.subarray(0, good.length - 20)))).toBe('png-truncated');
    expect(code(readHeightPng('x.png', Uint8Array.of(1, 2, 3)))).toBe('png-invalid');
    expect(code(readHeightPng('x.png', new Uint8Array(0)))).toBe('png-invalid');
    expect(rawSizes(0)).toEqual([]);
    expect(code(readHeightRaw('x.raw', new Uint8Array(0), 2, 2, false))).toBe('raw-size');
    expect(
      code(
        changed((b) => {
          b[25] = 3;
        }),
      ),
    ).toBe('png-format');
  });
});
