import { zlibSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { packLzw } from '../testing/lzw';
import { readGeoTiff } from './geotiff';

interface Made {
  width: number;
  height: number;
  bits: number;
  format: number;
  data: Uint8Array[];
  little?: boolean;
  more?: [tag: number, type: number, values: number[]][];
  rows?: number;
}

/** A TIFF written by hand: header, tags, what does not fit them, then the strips or tiles. */
function tiff({ width, height, bits, format, data, little = true, more = [], rows = height }: Made): Uint8Array {
  const tiled = more.some(([t]) => t === 322);
  const tags: [number, number, number[]][] = (
    [
      [256, 3, [width]],
      [257, 3, [height]],
      [258, 3, [bits]],
      [259, 3, [1]],
      [277, 3, [1]],
      [278, 3, [rows]],
      [339, 3, [format]],
      [tiled ? 324 : 273, 4, data.map(() => 0)],
      [tiled ? 325 : 279, 4, data.map((d) => d.length)],
    ] as [number, number, number[]][]
  )
    .filter(([t]) => !more.some(([m]) => m === t))
    .concat(more)
    .sort((a, b) => a[0] - b[0]);
  const size = (type: number) => ({ 2: 1, 3: 2, 4: 4, 12: 8 })[type]!;
  const big = tags.reduce((s, [, type, v]) => s + (v.length * size(type) > 4 ? v.length * size(type) : 0), 0);
  const start = 8 + 2 + tags.length * 12 + 4;
  let at = start + big;
  const offsets = data.map((d) => {
    const o = at;
    at += d.length;
    return o;
  });
  const out = new Uint8Array(at);
  const view = new DataView(out.buffer);
  out.set(little ? [0x49, 0x49] : [0x4d, 0x4d]);
  view.setUint16(2, 42, little);
  view.setUint32(4, 8, little);
  view.setUint16(8, tags.length, little);
  let heap = start;
  tags.forEach(([tag, type, given], i) => {
    const values = tag === 273 || tag === 324 ? offsets : given;
    const e = 10 + i * 12;
    view.setUint16(e, tag, little);
    view.setUint16(e + 2, type, little);
    view.setUint32(e + 4, values.length, little);
    let p = e + 8;
    if (values.length * size(type) > 4) {
      view.setUint32(p, heap, little);
      p = heap;
      heap += values.length * size(type);
    }
    values.forEach((v, k) => {
      const q = p + k * size(type);
      if (type === 2) view.setUint8(q, v);
      else if (type === 3) view.setUint16(q, v, little);
      else if (type === 4) view.setUint32(q, v, little);
      else view.setFloat64(q, v, little);
    });
  });
  data.forEach((d, i) => out.set(d, offsets[i]));
  return out;
}
const shorts = (values: number[], little = true) => {
  const b = new Uint8Array(values.length * 2);
  const v = new DataView(b.buffer);
  values.forEach((n, i) => v.setInt16(i * 2, n, little));
  return b;
};
const floats = (values: number[]) => new Uint8Array(Float32Array.from(values).buffer);
const metres = (bytes: Uint8Array) => {
  const r = readGeoTiff('a.tif', bytes);
  if (!r.ok) throw new Error(r.message);
  const { range, values } = r.value;
  return [...values].map((v) => Math.round((range![0] + v * (range![1] - range![0])) * 100) / 100 + 0);
};
const said = (bytes: Uint8Array) => {
  const r = readGeoTiff('a.tif', bytes);
  return r.ok ? 'read' : `${r.code}: ${r.message}`;
};

describe('a GeoTIFF', () => {
  const wanted = [-3, 0, 12, 7, 8, 250];
  it('of whole numbers is read in both byte orders, in strips, tiles, deflated and by differences', () => {
    const base = { width: 3, height: 2, bits: 16, format: 2 };
    expect(metres(tiff({ ...base, data: [shorts(wanted)] }))).toEqual(wanted);
    expect(metres(tiff({ ...base, data: [shorts(wanted, false)], little: false }))).toEqual(wanted);
    expect(metres(tiff({ ...base, data: [shorts(wanted.slice(0, 3)), shorts(wanted.slice(3))], rows: 1 }))).toEqual(wanted);
    expect(metres(tiff({ ...base, data: [zlibSync(shorts(wanted))], more: [[259, 3, [8]]] }))).toEqual(wanted);
    expect(metres(tiff({ ...base, data: [shorts([-3, 3, 12, 7, 1, 242])], more: [[317, 3, [2]]] }))).toEqual(wanted);
    const [a, b] = [shorts([-3, 0, 7, 8]), shorts([12, 99, 250, 99])];
    expect(
      metres(
        tiff({
          ...base,
          data: [a, b],
          more: [
            [322, 3, [2]],
            [323, 3, [2]],
          ],
        }),
      ),
    ).toEqual(wanted);
  });

  it("packed by LZW is read too, of whole numbers by differences and of floats by their bytes' differences", () => {
    const packed = { width: 3, height: 2, bits: 16, format: 2, data: [packLzw(shorts([-3, 3, 12, 7, 1, 242]))] };
    expect(
      metres(
        tiff({
          ...packed,
          more: [
            [259, 3, [5]],
            [317, 3, [2]],
          ],
        }),
      ),
    ).toEqual(wanted);
    // Two floats a row: 1.5 is 3f c0 00 00, -2 is c0 00 00 00; high bytes first, each less the one before.
    const rows = [0x3f, 0x81, 0x00, 0x40, 0x00, 0x00, 0x00, 0x00, 0x3f, 0x81, 0x00, 0x40, 0x00, 0x00, 0x00, 0x00];
    expect(
      metres(
        tiff({
          width: 2,
          height: 2,
          bits: 32,
          format: 3,
          data: [packLzw(Uint8Array.from(rows))],
          more: [
            [259, 3, [5]],
            [317, 3, [3]],
          ],
        }),
      ),
    ).toEqual([1.5, -2, 1.5, -2]);
  });

  it('of floats keeps its scale in metres and lays what is no data lowest', () => {
    const scale: Made['more'] = [
      [33_550, 12, [2.5, 2.5, 0]],
      [42_113, 2, [...'-9999'].map((c) => c.charCodeAt(0))],
    ];
    const bytes = tiff({ width: 2, height: 2, bits: 32, format: 3, data: [floats([1.5, -9999, 4, 11.5])], more: scale });
    const r = readGeoTiff('a.tif', bytes);
    expect(r.ok && [r.value.pixel, r.value.range]).toEqual([2.5, [1.5, 11.5]]);
    expect(metres(bytes)).toEqual([1.5, 1.5, 4, 11.5]);
    const degrees = tiff({
      width: 2,
      height: 2,
      bits: 32,
      format: 3,
      data: [floats([1, 2, 3, 4])],
      more: [
        [33_550, 12, [0.01, 0.01, 0]],
        [34_735, 3, [1, 1, 0, 1, 1024, 0, 1, 2]],
      ],
    });
    const d = readGeoTiff('a.tif', degrees);
    expect(d.ok && d.value.pixel).toBeUndefined();
  });

  it('that is broken, cut off, huge or of another kind is refused by name', () => {
    const good = { width: 2, height: 2, bits: 16, format: 1, data: [shorts([1, 2, 3, 4])] };
    const bytes = tiff(good);
    expect(said(bytes)).toBe('read');
    expect(said(bytes.subarray(0, bytes.length - 3))).toContain('tiff-truncated: a.tif is cut off: part 1 of 1 ends at byte');
    for (let cut = 8; cut < bytes.length; cut += 7) expect(said(bytes.subarray(0, cut))).toMatch(/^tiff-(truncated|invalid)/);
    expect(said(tiff({ ...good, width: 60_000, height: 60_000 }))).toContain('60000 x 60000 pixels: at most 8192');
    expect(said(tiff({ ...good, more: [[259, 3, [7]]] }))).toBe('tiff-format: a.tif is compressed with JPEG: save it plain, deflated or with LZW');
    expect(said(tiff({ ...good, more: [[259, 3, [5]]] }))).toContain('tiff-truncated: a.tif is cut off');
    expect(said(tiff({ ...good, data: [packLzw(good.data[0]).subarray(0, 5)], more: [[259, 3, [5]]] }))).toBe(
      'tiff-truncated: a.tif is cut off: part 1 of 1 holds 3 bytes, 8 expected',
    );
    expect(said(tiff({ ...good, more: [[317, 3, [3]]] }))).toBe('tiff-format: a.tif is saved with predictor 3: save it without');
    expect(said(tiff({ ...good, more: [[277, 3, [3]]] }))).toContain('3 channels');
    expect(said(tiff({ ...good, bits: 32, format: 3, data: [floats([1, NaN, 3, Infinity])] }))).toBe(
      'heights-nan: a.tif holds 2 heights that are no numbers, the first at pixel 1, 0: fill them first',
    );
    expect(said(Uint8Array.of(0x49, 0x49, 43, 0, 0, 0, 0, 0))).toContain('BigTIFF');
    expect(said(new Uint8Array(0))).toBe('tiff-invalid: a.tif is not a TIFF picture');
    expect(said(Uint8Array.of(1, 2, 3))).toBe('tiff-invalid: a.tif is not a TIFF picture');
  });

  it('that is odd is a named fault and no NaN: thousands of tags, a tag of millions, doubles without end, numbers that are none', () => {
    const base = { width: 2, height: 2, bits: 16, format: 1, data: [shorts([1, 2, 3, 4])] };
    expect(metres(tiff(base))).toEqual([1, 2, 3, 4]);
    expect(said(tiff({ ...base, more: Array.from({ length: 65_000 }, (_, i) => [400 + i, 4, [1]]) }))).toMatch(/^tiff-(invalid|truncated)/);
    expect(said(tiff({ ...base, more: [[42_113, 2, Array(5000).fill(49)]] }))).toMatch(/^tiff-invalid.*42113/);
    const doubles = (values: number[]) => new Uint8Array(Float64Array.from(values).buffer);
    expect(said(tiff({ ...base, bits: 64, format: 3, data: [doubles([1e308, -1e308, 0, 1])] }))).toMatch(/^heights-range/);
    expect(said(tiff({ ...base, more: [[256, 12, [2.5]]] }))).toMatch(/^tiff-invalid.*tag 256|^heightmap-size/);
    expect(said(tiff({ ...base, more: [[256, 12, [Number.NaN]]] }))).toMatch(/^tiff-invalid/);
    expect(said(tiff({ ...base, more: [[279, 12, [Number.NaN]]] }))).toMatch(/^tiff-invalid/);
    expect(
      said(
        tiff({
          ...base,
          more: [
            [322, 4, [60_000]],
            [323, 4, [2000]],
          ],
        }),
      ),
    ).toMatch(/^tiff-invalid/);
    // Any byte changed is heights or a fault.
    const whole = tiff({ ...base, more: [[33_550, 12, [1, 1, 0]]] });
    for (let i = 0; i < whole.length; i++) {
      for (const v of [0, 255, whole[i] ^ 1]) {
        const bent = whole.slice();
        bent[i] = v;
        const read = readGeoTiff('a.tif', bent);
        if (read.ok) expect(read.value.values.every((x) => Number.isFinite(x))).toBe(true);
      }
    }
  });
});
