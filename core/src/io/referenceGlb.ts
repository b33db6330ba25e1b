import { Document, WebIO } from '@gltf-transform/core';
import { ASSET_LIMITS } from './assetGlb';
import { withCodecs } from './assets/codecs';
import { checkPng } from './rasterPng';
import { fault, type Outcome } from './fault';

/**
 * A picture as a mesh asset, so that it travels as every asset does: a board 1 m high, its foot at the
 * origin, as wide as the picture is, facing +z, with the PNG as its texture.
 */
export async function pictureGlb(png: Uint8Array, name: string): Promise<Outcome<{ bytes: Uint8Array; width: number; height: number }>> {
  const checked = checkPng(png, name, ASSET_LIMITS.pictureSide);
  if (!checked.ok) return checked;
  const { width, height } = checked.value;
  const half = width / height / 2;
  const document = new Document();
  document.getRoot().getAsset().generator = 'Rammer';
  const buffer = document.createBuffer();
  const scene = document.createScene(name).setExtras({ rammer: { role: 'reference', collider: 'none', tags: ['reference'] } });
  document.getRoot().setDefaultScene(scene);
  const accessor = (type: 'VEC2' | 'VEC3' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint32Array<ArrayBuffer>) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const texture = document.createTexture(name).setImage(png).setMimeType('image/png');
  const primitive = document
    .createPrimitive()
    .setMaterial(document.createMaterial('picture').setBaseColorTexture(texture).setRoughnessFactor(1).setMetallicFactor(0).setDoubleSided(true))
    .setAttribute('POSITION', accessor('VEC3', Float32Array.from([-half, 0, 0, half, 0, 0, half, 1, 0, -half, 1, 0])))
    .setAttribute('NORMAL', accessor('VEC3', Float32Array.from([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1])))
    .setAttribute('TEXCOORD_0', accessor('VEC2', Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0])))
    .setIndices(accessor('SCALAR', Uint32Array.from([0, 1, 2, 0, 2, 3])));
  scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
  return { ok: true, value: { bytes: await new WebIO().writeBinary(document), width, height } };
}

/** The picture that a reference's mesh carries, as it is packed there: PNG of those that came in as pictures. */
export async function pictureOf(glb: Uint8Array): Promise<Outcome<Uint8Array>> {
  let image: Uint8Array | null | undefined;
  try {
    image = (await (await withCodecs(new WebIO(), { draco: false, meshopt: false })).readBinary(glb)).getRoot().listTextures()[0]?.getImage();
  } catch (error) {
    return fault('glb-invalid', `this asset cannot be read as glTF: ${(error as Error).message}`);
  }
  return image ? { ok: true, value: image } : fault('reference-empty', 'this asset carries no picture');
}
