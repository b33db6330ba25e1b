import { encode } from 'fast-png';
import { validateBytes } from 'gltf-validator';
import { describe, expect, it } from 'vitest';
import type { Asset } from '../../kit/asset';
import { PLAIN_MATERIAL, type AssetMaterial, type TextureUse } from '../../kit/material';
import { srgbToLinear } from '../../num/srgb';
import { boxStreams } from '../../testing/othersMeshes';
import { jpegPicture, webpPicture } from '../../testing/pictures';
import { readAsset, writeAsset } from '../assetGlb';
import { pictureHead } from './pictureHead';

const png = encode({ width: 8, height: 4, data: new Uint8Array(8 * 4 * 3).fill(90), channels: 3, depth: 8 });
const use = (texture: number, more: Partial<TextureUse> = {}): TextureUse => ({
  texture,
  uv: 0,
  offset: [0, 0],
  rotation: 0,
  scale: [1, 1],
  wrap: ['repeat', 'repeat'],
  ...more,
});
const picture = (name: string, mime: string, bytes: Uint8Array, [width, height]: [number, number], gpuBytes = Math.round((width * height * 16) / 3)) => ({
  name,
  mime,
  bytes,
  width,
  height,
  gpuBytes,
});

/** A box with all that a material may say. */
function everything(): Asset {
  const material: AssetMaterial = {
    ...PLAIN_MATERIAL,
    name: 'all of it',
    baseColour: [0.5, 0.25, 1, 0.75],
    metalness: 0.5,
    roughness: 0.25,
    emission: [4, 2, 0],
    normalScale: 0.5,
    occlusionStrength: 0.75,
    alpha: 'mask',
    cutoff: 0.25,
    doubleSided: true,
    specular: 0.5,
    specularColour: [1, 0.5, 0.25],
    ior: 1.25,
    textures: {
      baseColour: use(0, { wrap: ['clamp', 'mirror'], offset: [0.5, 0.25], rotation: 0.5, scale: [2, 4] }),
      metalRough: use(1),
      normal: use(1, { nearest: true }),
      occlusion: use(2, { uv: 1 }),
      emission: use(0),
    },
  };
  const glass: AssetMaterial = { ...PLAIN_MATERIAL, name: 'glass', alpha: 'blend', unlit: true, textures: {} };
  const box = boxStreams([0, 0, 0], [1, 1, 1]);
  const primitive = { ...box, uvs1: box.uvs, material: 'all of it', alphaTested: true, look: 0 };
  return {
    name: 'box',
    role: 'prop',
    collider: 'hull',
    tags: ['crate'],
    trunk: 0,
    lods: [[primitive, { ...boxStreams([2, 0, 0], [3, 1, 1]), material: 'glass', alphaTested: false, look: 1 }], [primitive]],
    errors: [0.125],
    materials: [material, glass],
    textures: [
      picture('a', 'image/png', png, [8, 4]),
      picture('b', 'image/jpeg', jpegPicture(), [32, 16]),
      picture('c', 'image/webp', webpPicture(), [32, 16]),
    ],
    textureBytes: 171 + 2731 * 2,
    colliders: [{ positions: boxStreams([0, 0, 0], [1, 1, 1]).positions.slice(0, 12), indices: Uint32Array.from([0, 1, 2, 0, 2, 3]) }],
    licence: 'own work',
  };
}

describe('a mesh with materials of its own', () => {
  it('comes back as it went: every figure of its materials, its pictures to the byte, LODs, colliders', async () => {
    const asset = everything();
    const glb = await writeAsset(asset);
    const read = await readAsset(glb, 'other name');
    if (!read.ok) throw new Error(read.message);
    expect(read.value).toEqual(asset);
    const again = await writeAsset(read.value);
    expect(Buffer.from(again).equals(Buffer.from(glb))).toBe(true);
    const report = await validateBytes(glb);
    // Tangents are none of ours to make: as it came without, so it goes.
    expect(report.issues.messages.filter((m) => m.severity < 2 && m.code !== 'MESH_PRIMITIVE_GENERATED_TANGENT_SPACE')).toEqual([]);
  });

  it('keeps materials without a name apart', async () => {
    const asset = everything();
    asset.materials!.forEach((m) => (m.name = ''));
    const read = await readAsset(await writeAsset(asset), 'x');
    expect(read.ok && read.value.materials!.map((m) => m.name)).toEqual(['material', 'material 2']);
  });
});

describe('a picture', () => {
  it('is known by its bytes: kind and size', () => {
    const head = (bytes: Uint8Array) => {
      const r = pictureHead(bytes, 'p', 8192);
      return r.ok ? [r.value.mime, r.value.width, r.value.height] : r.code;
    };
    expect(head(png)).toEqual(['image/png', 8, 4]);
    expect(head(jpegPicture())).toEqual(['image/jpeg', 32, 16]);
    expect(head(webpPicture())).toEqual(['image/webp', 32, 16]);
    const ktx = new Uint8Array(96);
    ktx.set([0xab, 0x4b, 0x54, 0x58, 0x20, 0x32, 0x30, 0xbb, 0x0d, 0x0a, 0x1a, 0x0a]);
    new DataView(ktx.buffer).setUint32(20, 640, true);
    new DataView(ktx.buffer).setUint32(24, 480, true);
    expect(head(ktx)).toEqual(['image/ktx2', 640, 480]);
    expect(head(new TextEncoder().encode('BM is another kind'))).toBe('picture-unknown');
    expect(head(new Uint8Array())).toBe('picture-unknown');
  });

  it('of 65,535 pixels a side is refused by its header, whatever kind it is', () => {
    const lie = jpegPicture();
    const at = lie.findIndex((b, i) => b === 0xff && lie[i + 1] === 0xc0);
    lie.set([0xff, 0xff, 0xff, 0xff], at + 5);
    expect(pictureHead(lie, 'p', 8192)).toMatchObject({
      ok: false,
      code: 'picture-size',
      message: 'p says it is 65535 x 65535 pixels; 1 to 8192 a side are read',
    });
    for (let cut = 0; cut < at + 9; cut += 7) expect(pictureHead(jpegPicture().subarray(0, cut), 'p', 8192).ok).toBe(false);
  });
});

describe('sRGB', () => {
  it('as light is the standard, to a millionth', () => {
    for (let i = 0; i <= 255; i++) {
      const v = i / 255;
      expect(Math.abs(srgbToLinear(v) - (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4))).toBeLessThan(1e-6);
    }
  });
});
