import { Document, WebIO, type Material, type Node } from '@gltf-transform/core';
import {
  EXTMeshGPUInstancing,
  EXTTextureWebP,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsSpecular,
  KHRMaterialsUnlit,
  KHRMeshQuantization,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import { jpegPicture, webpPicture } from '@rammer/core/testing/pictures';
import { encode } from 'fast-png';

type Made = Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer> | Uint8Array<ArrayBuffer> | Uint32Array<ArrayBuffer>;

/** A ball of radius 1 with normals and coordinates. */
function ball(): { position: Made; normal: Made; uv: Made; indices: Made } {
  const [rows, columns] = [24, 48];
  const [position, uv, indices]: [number[], number[], number[]] = [[], [], []];
  for (let r = 0; r <= rows; r++)
    for (let c = 0; c <= columns; c++) {
      const [a, b] = [(r / rows) * Math.PI, (c / columns) * Math.PI * 2];
      position.push(Math.sin(a) * Math.cos(b), Math.cos(a), -Math.sin(a) * Math.sin(b));
      uv.push(c / columns, r / rows);
      if (r === rows || c === columns) continue;
      const i = r * (columns + 1) + c;
      if (r > 0) indices.push(i, i + columns + 1, i + 1);
      if (r < rows - 1) indices.push(i + 1, i + columns + 1, i + columns + 2);
    }
  const p = Float32Array.from(position);
  return { position: p, normal: p.slice(), uv: Float32Array.from(uv), indices: Uint16Array.from(indices) };
}

/** A picture of 32 x 32 pixels by a formula. */
const picture = (channels: 3 | 4, of: (x: number, y: number) => number[]): Uint8Array<ArrayBuffer> => {
  const data = new Uint8Array(32 * 32 * channels);
  for (let y = 0; y < 32; y++) for (let x = 0; x < 32; x++) data.set(of(x, y).slice(0, channels), (y * 32 + x) * channels);
  return encode({ width: 32, height: 32, data, channels, depth: 8 }) as Uint8Array<ArrayBuffer>;
};
const bumps = picture(3, (x, y) => [128 + 60 * Math.sin(x / 2), 128 + 60 * Math.cos(y / 2), 220]);
const checks = picture(4, (x, y) => (((x >> 2) + (y >> 2)) % 2 ? [200, 80, 40, 255] : [40, 120, 200, 60]));
const shine = picture(3, (x, y) => [255 - y * 6, 40 + x * 6, y * 8]);

/** What is drawn both ways: each a feature of glTF 2.0 that people's meshes use. */
export async function lookMeshes(): Promise<[string, Uint8Array][]> {
  const out: [string, Uint8Array][] = [];
  const add = async (name: string, make: (d: Document, m: Material, n: Node) => void, more: { uv1?: boolean; noNormals?: boolean } = {}) => {
    const d = new Document();
    const buffer = d.createBuffer();
    const put = (type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4', array: Made) => d.createAccessor().setType(type).setArray(array).setBuffer(buffer);
    const b = ball();
    const p = d
      .createPrimitive()
      .setAttribute('POSITION', put('VEC3', b.position))
      .setAttribute('TEXCOORD_0', put('VEC2', b.uv))
      .setIndices(put('SCALAR', b.indices));
    if (!more.noNormals) p.setAttribute('NORMAL', put('VEC3', b.normal));
    if (more.uv1)
      p.setAttribute(
        'TEXCOORD_1',
        put(
          'VEC2',
          (b.uv as Float32Array<ArrayBuffer>).map((v) => v * 2),
        ),
      );
    const m = d.createMaterial(name).setMetallicFactor(0).setRoughnessFactor(0.6).setBaseColorFactor([0.7, 0.6, 0.5, 1]);
    const n = d.createNode('n').setMesh(d.createMesh('m').addPrimitive(p.setMaterial(m)));
    d.createScene('s').addChild(n);
    make(d, m, n);
    out.push([name, await new WebIO().registerExtensions(USED).writeBinary(d)]);
  };
  const png = (d: Document, bytes: Uint8Array<ArrayBuffer>) => d.createTexture('t').setImage(bytes).setMimeType('image/png');
  await add('plain', () => {});
  await add('metal', (_, m) => void m.setMetallicFactor(1).setRoughnessFactor(0.3));
  await add('shiny', (_, m) => void m.setRoughnessFactor(0.15));
  await add('unlit', (d, m) => void m.setExtension('KHR_materials_unlit', d.createExtension(KHRMaterialsUnlit).createUnlit()));
  await add(
    'JPEG',
    (d, m) =>
      void m.setBaseColorFactor([1, 1, 1, 1]).setBaseColorTexture(
        d
          .createTexture('t')
          .setImage(jpegPicture() as Uint8Array<ArrayBuffer>)
          .setMimeType('image/jpeg'),
      ),
  );
  await add('WebP', (d, m) => {
    d.createExtension(EXTTextureWebP).setRequired(true);
    m.setBaseColorTexture(
      d
        .createTexture('t')
        .setImage(webpPicture() as Uint8Array<ArrayBuffer>)
        .setMimeType('image/webp'),
    );
  });
  await add('metal and roughness', (d, m) => void m.setMetallicFactor(1).setRoughnessFactor(1).setMetallicRoughnessTexture(png(d, shine)));
  await add('normals', (d, m) => void m.setNormalTexture(png(d, bumps)).setNormalScale(0.8));
  await add('occlusion', (d, m) => void m.setOcclusionTexture(png(d, shine)).setOcclusionStrength(0.9));
  await add('second coordinates', (d, m) => void m.setOcclusionTexture(png(d, shine)).getOcclusionTextureInfo()!.setTexCoord(1), { uv1: true });
  await add('emission', (d, m) => {
    m.setEmissiveFactor([0.4, 0.2, 0.1]).setEmissiveTexture(png(d, shine));
    m.setExtension('KHR_materials_emissive_strength', d.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength().setEmissiveStrength(2));
  });
  await add('mask', (d, m) => void m.setBaseColorTexture(png(d, checks)).setAlphaMode('MASK').setAlphaCutoff(0.5).setDoubleSided(true));
  await add('blend', (_, m) => void m.setBaseColorFactor([0.7, 0.3, 0.2, 0.5]).setAlphaMode('BLEND'));
  await add('transform', (d, m) => {
    m.setBaseColorTexture(png(d, checks));
    const moved = d.createExtension(KHRTextureTransform).createTransform().setOffset([0.25, 0.5]).setRotation(0.6).setScale([3, 2]);
    m.getBaseColorTextureInfo()!.setExtension('KHR_texture_transform', moved);
  });
  await add('specular', (d, m) => {
    m.setRoughnessFactor(0.3);
    m.setExtension(
      'KHR_materials_specular',
      d.createExtension(KHRMaterialsSpecular).createSpecular().setSpecularFactor(0.6).setSpecularColorFactor([1, 0.4, 0.2]),
    );
    m.setExtension('KHR_materials_ior', d.createExtension(KHRMaterialsIOR).createIOR().setIOR(1.9));
  });
  await add('specular pictures', (d, m) => {
    const specular = d.createExtension(KHRMaterialsSpecular).createSpecular();
    m.setRoughnessFactor(0.3).setExtension('KHR_materials_specular', specular.setSpecularTexture(png(d, checks)).setSpecularColorTexture(png(d, shine)));
    m.setExtension('KHR_materials_ior', d.createExtension(KHRMaterialsIOR).createIOR().setIOR(2));
  });
  await add('colours', (d, _, n) => {
    const p = n.getMesh()!.listPrimitives()[0];
    const at = p.getAttribute('POSITION')!;
    const colours = new Float32Array(at.getCount() * 4);
    for (let i = 0; i < at.getCount(); i++) colours.set([...at.getElement(i, []).map((v: number) => v * 0.5 + 0.5), 1], i * 4);
    p.setAttribute('COLOR_0', d.createAccessor().setType('VEC4').setArray(colours).setBuffer(d.getRoot().listBuffers()[0]));
  });
  await add('mirrored and stretched', (_, __, n) => void n.setScale([-1, 2, 0.5]).setRotation([0.2, 0.3, 0.1, Math.sqrt(1 - 0.14)]));
  await add('no normals', () => {}, { noNormals: true });
  await add('quantized', (d, _, n) => {
    d.createExtension(KHRMeshQuantization).setRequired(true);
    const normal = n.getMesh()!.listPrimitives()[0].getAttribute('NORMAL')!;
    normal.setArray(Int8Array.from(normal.getArray() as Float32Array, (v) => Math.round(v * 127)) as never).setNormalized(true);
  });
  await add('instances', (d, _, n) => {
    const many = d.createExtension(EXTMeshGPUInstancing).createInstancedMesh();
    const at = d
      .createAccessor()
      .setType('VEC3')
      .setArray(Float32Array.from([0, 0, 0, 2.2, 0, 0, 0, 2.2, 0]))
      .setBuffer(d.getRoot().listBuffers()[0]);
    n.setExtension('EXT_mesh_gpu_instancing', many.setAttribute('TRANSLATION', at));
  });
  await add('shapes that change', (d, _, n) => {
    const p = n.getMesh()!.listPrimitives()[0];
    const moved = Float32Array.from(p.getAttribute('POSITION')!.getArray() as Float32Array, (v, i) => (i % 3 === 1 ? v * 0.8 : 0));
    p.addTarget(d.createPrimitiveTarget().setAttribute('POSITION', d.createAccessor().setType('VEC3').setArray(moved).setBuffer(d.getRoot().listBuffers()[0])));
    n.getMesh()!.setWeights([0.7]);
  });
  return out;
}

const USED = [
  EXTMeshGPUInstancing,
  EXTTextureWebP,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsSpecular,
  KHRMaterialsUnlit,
  KHRMeshQuantization,
  KHRTextureTransform,
];
