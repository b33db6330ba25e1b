import { strToU8 } from 'fflate';
import { describe, expect, it } from 'vitest';
import { surveyHeight } from '../earth/survey';
import { writeAsset } from './assetGlb';
import { heightFileFault, isRaw, readHeightFile } from './heightFile';
import { meshHeights } from './meshHeights';
import { readObj } from './readObj';

const obj = (text: string) => readObj('ground.obj', strToU8(text));
const codeOf = (result: { ok: boolean; code?: string }) => (result.ok ? 'ok' : result.code);
/** A slope: 40 m wide, 20 m deep, from 2 m in the west to 12 m in the east. */
const SLOPE = '# made by hand\nv 100 2 50\nv 140 12 50\nv 140 12 70\nv 100 2 70\n\nf 1/1/1 4/4/4 3/3/3 2/2/2\n';

describe('an OBJ', () => {
  it('is read as its corners and faces, fanned, counted from either end, on any line ending', () => {
    const read = obj(SLOPE.replace(/\n/g, '\r\n'));
    if (!read.ok) throw new Error(read.message);
    expect([...read.value.indices]).toEqual([0, 3, 2, 0, 2, 1]);
    expect([...read.value.positions.subarray(3, 6)]).toEqual([140, 12, 50]);
    const back = obj('v 0 0 0\nv 1 0 0\nv 0 0 1\nf -3 -2 -1');
    expect(back.ok && [...back.value.indices]).toEqual([0, 1, 2]);
  });

  it('that is broken is refused by the fault and its line', () => {
    expect([
      codeOf(obj('')),
      codeOf(obj('v 1 2')),
      codeOf(obj('v 1 NaN 2')),
      codeOf(obj('v 0 0 0\nf 1 2 3')),
      codeOf(obj('v 0 0 0\nv 1 0 0\nf 1 2')),
      codeOf(obj('v 0 0 0\nf 0 1 1')),
      codeOf(obj('v 1e9 0 0')),
      codeOf(obj('PNG or so')),
    ]).toEqual(['obj-no-triangles', 'obj-not-finite', 'obj-not-finite', 'obj-index', 'obj-invalid', 'obj-index', 'obj-size', 'obj-no-triangles']);
    const where = obj('v 0 0 0\n\nv x 0 0');
    expect(where.ok ? '' : where.message).toContain('line 3');
  });
});

describe('a mesh as a survey', () => {
  it('has its own size and heights, and the slope it was made with', () => {
    const mesh = obj(SLOPE);
    const map = meshHeights('ground.obj', [mesh.ok ? mesh.value : (undefined as never)]);
    if (!map.ok) throw new Error(map.message);
    const { width, height, pixel, range, values } = map.value;
    expect([width, height, range]).toEqual([1025, 513, [2, 12]]);
    expect(pixel! * (width - 1)).toBeCloseTo(40, 9);
    const place = { x: 0, z: 0, width: 40, depth: 20, low: range![0], high: range![1] };
    for (const x of [0, 10, 25, 40]) expect(surveyHeight(map.value, place, x, 7.3)).toBeCloseTo(2 + x / 4, 4);
    expect(values.some(Number.isNaN)).toBe(false);
  });

  it('takes the top where faces lie over each other, and has no height where there are none', () => {
    // Two strips with a gap between them, and a roof over the first.
    const mesh = obj(
      'v 0 0 0\nv 4 0 0\nv 4 0 10\nv 0 0 10\nv 6 1 0\nv 10 1 0\nv 10 1 10\nv 6 1 10\nv 1 3 2\nv 3 3 2\nv 3 3 8\nv 1 3 8\nf 1 2 3 4\nf 5 6 7 8\nf 9 10 11 12',
    );
    const map = meshHeights('strips', [mesh.ok ? mesh.value : (undefined as never)]);
    if (!map.ok) throw new Error(map.message);
    const at = (x: number, z: number) => surveyHeight(map.value, { x: 0, z: 0, width: 10, depth: 10, low: 0, high: 3 }, x, z);
    expect([at(0.5, 5), at(2, 5), at(5, 5), at(8, 5)].map((h) => h && Math.round(h * 1000) / 1000)).toEqual([0, 3, undefined, 1]);
  });

  it('that is no ground is refused: too small, upright', () => {
    const tiny = obj('v 0 0 0\nv 0.2 0 0\nv 0 0 0.2\nf 1 2 3');
    expect(codeOf(meshHeights('tiny', [tiny.ok ? tiny.value : (undefined as never)]))).toBe('survey-size');
    const wall = obj('v 0 0 0\nv 4 0 4\nv 4 5 4\nv 0 5 0\nf 1 2 3 4');
    expect(codeOf(meshHeights('wall', [wall.ok ? wall.value : (undefined as never)]))).toBe('survey-size');
  });

  it('of large faces over each other is refused before it holds anything up', () => {
    const lines = Array.from({ length: 300 }, () => 'v 0 0 0\nv 1000 1 0\nv 0 2 1000\nf -3 -2 -1');
    const mesh = obj(lines.join('\n'));
    expect(codeOf(meshHeights('pile', [mesh.ok ? mesh.value : (undefined as never)]))).toBe('survey-overlaid');
    const few = obj(lines.slice(0, 3).join('\n'));
    expect(codeOf(meshHeights('few', [few.ok ? few.value : (undefined as never)]))).toBe('ok');
  });

  it('comes from a GLB likewise', async () => {
    const positions = Float32Array.from([0, 0, 0, 30, 6, 0, 30, 6, 30, 0, 0, 30]);
    const bytes = await writeAsset({
      name: 'ground',
      role: 'reference',
      collider: 'none',
      real: [1, 2],
      tags: [],
      trunk: 0,
      textureBytes: 0,
      lods: [
        [
          {
            positions,
            normals: new Float32Array(12).fill(0.577),
            colours: new Float32Array(16),
            indices: Uint32Array.from([0, 3, 2, 0, 2, 1]),
            material: 'm',
            alphaTested: false,
          },
        ],
      ],
    });
    const read = await readHeightFile('ground.glb', bytes);
    if (!read.ok) throw new Error(read.message);
    expect(read.value.range).toEqual([0, 6]);
    expect(read.value.values[512 * 1025 + 512]).toBeCloseTo(0.5, 3);
    expect(codeOf(await readHeightFile('cut.glb', bytes.slice(0, 100)))).toBe('glb-truncated');
    expect(codeOf(await readHeightFile('x.obj', strToU8('nothing')))).toBe('obj-no-triangles');
    expect(codeOf(await readHeightFile('x.tif', strToU8('nothing')))).toBe('tiff-invalid');
    expect(codeOf(await readHeightFile('x.png', strToU8('nothing')))).toBe('png-invalid');
  });
});

describe('before a file of heights is read', () => {
  it('its size and its header tell whether it is worth it', () => {
    const head = new Uint8Array(33);
    head.set([137, 80, 78, 71, 13, 10, 26, 10]);
    new DataView(head.buffer).setUint32(16, 60_000);
    new DataView(head.buffer).setUint32(20, 60_000);
    expect(heightFileFault('vast.png', 9_000, head)?.message).toMatch(/60000 x 60000 pixels/);
    expect(heightFileFault('vast.raw', 5 * 2 ** 30, new Uint8Array(33))?.message).toMatch(/5120 MB/);
    expect(heightFileFault('small.png', 10, new Uint8Array(10))).toBeUndefined();
    expect([isRaw('a.RAW'), isRaw('a.r16'), isRaw('a.png')]).toEqual([true, true, false]);
  });
});
