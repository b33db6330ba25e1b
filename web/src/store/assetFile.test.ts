import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Asset } from '@rammer/core/kit/asset';

const read = vi.fn();
vi.mock('../workers/pool', () => ({ assetWorker: () => ({ read }) }));
const { assetBytes, assetFile } = await import('./assetFile');

/** A mesh that says it takes so many bytes. */
const heavy = (bytes: number): Asset =>
  ({ lods: [[{ positions: { byteLength: bytes }, normals: { byteLength: 0 }, indices: { byteLength: 0 } }]] }) as unknown as Asset;

describe('meshes at hand', () => {
  beforeEach(() => read.mockReset());

  it('of 200 meshes of 5 MB stay under the bound: what was asked for longest ago goes, and comes back', async () => {
    read.mockImplementation(async () => heavy(5 << 20));
    for (let i = 0; i < 200; i++) {
      await assetFile(`mesh ${i}`);
      // One that is asked for again and again stays.
      await assetFile('mesh 0');
      expect(assetBytes()).toBeLessThanOrEqual(512 << 20);
    }
    expect(read).toHaveBeenCalledTimes(200);
    await assetFile('mesh 0');
    await assetFile('mesh 199');
    expect(read).toHaveBeenCalledTimes(200);
    await assetFile('mesh 1');
    expect(read).toHaveBeenLastCalledWith('mesh 1');
    expect(read).toHaveBeenCalledTimes(201);
  });

  it('that could not be read are asked for again', async () => {
    read.mockRejectedValueOnce(new Error('gone'));
    await expect(assetFile('lost')).rejects.toThrow('gone');
    read.mockResolvedValueOnce(heavy(1));
    expect(await assetFile('lost')).toBeTruthy();
  });
});
