import { encode } from 'fast-png';
import { validateBytes } from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import { assetBounds } from '../kit/asset';
import { readAsset } from './assetGlb';
import { pictureGlb, pictureOf } from './referenceGlb';

const png = encode({ width: 40, height: 20, channels: 3, depth: 8, data: new Uint8Array(40 * 20 * 3).map((_, i) => i % 251) });

describe('a reference picture', () => {
  it('travels in a board 1 m high, as wide as it is, and comes out as it went in', async () => {
    const made = await pictureGlb(png, 'quarry, 1890');
    expect(made).toMatchObject({ ok: true, value: { width: 40, height: 20 } });
    if (!made.ok) return;
    expect((await validateBytes(made.value.bytes)).issues.numErrors).toBe(0);
    const read = await readAsset(made.value.bytes);
    expect(read.ok && read.value.role).toBe('reference');
    if (read.ok) expect(assetBounds(read.value)).toEqual({ min: [-1, 0, 0], max: [1, 1, 0] });
    const out = await pictureOf(made.value.bytes);
    expect(out.ok && Buffer.from(out.value).equals(Buffer.from(png))).toBe(true);
  });

  it('that is none is refused by name', async () => {
    expect(await pictureGlb(Uint8Array.of(1, 2, 3), 'x')).toMatchObject({ ok: false, code: 'png-invalid' });
    expect(await pictureGlb(png.subarray(0, 40), 'x')).toMatchObject({ ok: false });
    expect(await pictureGlb(new Uint8Array(), 'x')).toMatchObject({ ok: false, code: 'png-invalid' });
    expect(await pictureOf(Uint8Array.of(1, 2, 3))).toMatchObject({ ok: false, code: 'glb-invalid' });
  });
});
