import { Document, Logger, WebIO, type Primitive as Prim, type Node } from '@gltf-transform/core';
import { ALL_EXTENSIONS, EXTMeshGPUInstancing, KHRMeshQuantization } from '@gltf-transform/extensions';
import { draco, meshopt, quantize } from '@gltf-transform/functions';
import { validateBytes } from 'gltf-validator';
import { MeshoptEncoder } from 'meshoptimizer';
import { beforeAll, describe, expect, it } from 'vitest';
import { assetBounds, assetFacts, type Asset } from '../../kit/asset';
import { birchGlb, boxStreams } from '../../testing/othersMeshes';
import { readAsset } from '../assetGlb';
import { ASSET_LIMITS, type AssetLimits } from './limits';
import { packGltf } from './packGltf';

/** A file with one mesh under one node, as somebody's program writes it. */
function file(make: (d: Document, p: Prim, n: Node) => void): Document {
  const d = new Document();
  d.setLogger(new Logger(Logger.Verbosity.SILENT));
  d.createBuffer();
  const p = d.createPrimitive();
  const n = d.createNode('n').setMesh(d.createMesh('m').addPrimitive(p));
  d.createScene('s').addChild(n);
  make(d, p, n);
  return d;
}
const f32 = (...v: number[]) => Float32Array.from(v);
type Made = Float32Array<ArrayBuffer> | Uint16Array<ArrayBuffer> | Uint8Array<ArrayBuffer> | Int16Array<ArrayBuffer> | Uint32Array<ArrayBuffer>;
const put = (d: Document, type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4' | 'MAT4', array: Made) =>
  d.createAccessor().setType(type).setArray(array).setBuffer(d.getRoot().listBuffers()[0]);
const io = new WebIO().registerExtensions(ALL_EXTENSIONS);
async function read(d: Document): Promise<Asset> {
  const r = await readAsset(await io.writeBinary(d), 'test');
  if (!r.ok) throw new Error(`${r.code}: ${r.message}`);
  return r.value;
}
/** Corners of each triangle, rounded. */
const triangles = (a: Asset): number[][] =>
  a.lods[0].flatMap((p) =>
    Array.from({ length: p.indices.length / 3 }, (_, t) =>
      [0, 1, 2].flatMap((c) => [0, 1, 2].map((k) => Math.round(p.positions[p.indices[t * 3 + c] * 3 + k] * 1e4) / 1e4 + 0)),
    ),
  );
const square = f32(0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0);

describe('a mesh of another program', () => {
  it('as a strip keeps its outside: every second triangle is turned', async () => {
    const a = await read(file((d, p) => p.setMode(5).setAttribute('POSITION', put(d, 'VEC3', square))));
    expect(triangles(a)).toEqual([
      [0, 0, 0, 1, 0, 0, 0, 1, 0],
      [0, 1, 0, 1, 0, 0, 1, 1, 0],
    ]);
    // No normals: flat, towards +z both.
    expect([...a.lods[0][0].normals]).toEqual(Array(6).fill([0, 0, 1]).flat());
  });

  it('as a fan, and one with strips joined by triangles of no area', async () => {
    const fan = f32(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0);
    expect(triangles(await read(file((d, p) => p.setMode(6).setAttribute('POSITION', put(d, 'VEC3', fan)))))).toEqual([
      [0, 0, 0, 1, 0, 0, 1, 1, 0],
      [0, 0, 0, 1, 1, 0, 0, 1, 0],
    ]);
    const a = await read(
      file((d, p) =>
        p
          .setMode(5)
          .setAttribute('POSITION', put(d, 'VEC3', f32(...square, 5, 0, 0, 6, 0, 0, 5, 1, 0)))
          .setIndices(put(d, 'SCALAR', Uint16Array.from([0, 1, 2, 3, 3, 4, 4, 5, 6]))),
      ),
    );
    expect(triangles(a)).toHaveLength(3);
  });

  it('that is mirrored by its node keeps its outside, and its normals go by the inverse transpose', async () => {
    const slant = f32(0, 0, 0, 1, 0, 0, 0, 1, -1);
    const s = Math.SQRT1_2;
    const a = await read(
      file((d, p, n) => {
        p.setAttribute('POSITION', put(d, 'VEC3', slant)).setAttribute('NORMAL', put(d, 'VEC3', f32(0, s, s, 0, s, s, 0, s, s)));
        n.setScale([-1, 4, 1]);
      }),
    );
    // y is four times as long: the normal of a slope of 4 in 1 is (0, 1, 4) / sqrt(17).
    const [p] = a.lods[0];
    expect(p.normals[1]).toBeCloseTo(1 / Math.sqrt(17), 6);
    expect(p.normals[2]).toBeCloseTo(4 / Math.sqrt(17), 6);
    // By its corners it still looks the way its normals do.
    const [t] = triangles(a);
    const u = [t[3] - t[0], t[4] - t[1], t[5] - t[2]];
    const w = [t[6] - t[0], t[7] - t[1], t[8] - t[2]];
    expect(u[0] * w[1] - u[1] * w[0]).toBeGreaterThan(0);
  });

  it('with a skin stands where its joints are, not where its node is', async () => {
    const a = await read(
      file((d, p, n) => {
        p.setAttribute('POSITION', put(d, 'VEC3', f32(0, 0, 0, 1, 0, 0, 0, 1, 0)))
          .setAttribute('JOINTS_0', put(d, 'VEC4', Uint8Array.from([0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0])))
          .setAttribute('WEIGHTS_0', put(d, 'VEC4', f32(1, 0, 0, 0, 0.5, 0.5, 0, 0, 0, 1, 0, 0)));
        const joints = [d.createNode('a').setTranslation([0, 0, 10]), d.createNode('b').setTranslation([0, 4, 10])];
        for (const j of joints) d.getRoot().listScenes()[0].addChild(j);
        const inverse = put(d, 'MAT4', f32(...[0, 0].flatMap(() => [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])));
        n.setSkin(d.createSkin('k').addJoint(joints[0]).addJoint(joints[1]).setInverseBindMatrices(inverse)).setScale([100, 100, 100]);
      }),
    );
    expect(triangles(a)).toEqual([[0, 0, 10, 1, 2, 10, 0, 5, 10]]);
    expect(a.notes).toEqual(['a skeleton is read at rest: what it moves stands still']);
  });

  it('with shapes that change is read as its weights set it', async () => {
    const a = await read(
      file((d, p, n) => {
        const target = d.createPrimitiveTarget('t').setAttribute('POSITION', put(d, 'VEC3', f32(0, 0, 8, 0, 0, 8, 0, 0, 8)));
        p.setAttribute('POSITION', put(d, 'VEC3', f32(0, 0, 0, 1, 0, 0, 0, 1, 0))).addTarget(target);
        n.getMesh()!.setWeights([1]);
        n.setWeights([0.25]);
      }),
    );
    expect(triangles(a)).toEqual([[0, 0, 2, 1, 0, 2, 0, 1, 2]]);
  });

  it('that is drawn many times stands at every place', async () => {
    const a = await read(
      file((d, p, n) => {
        p.setAttribute('POSITION', put(d, 'VEC3', f32(0, 0, 0, 1, 0, 0, 0, 1, 0)));
        const many = d.createExtension(EXTMeshGPUInstancing).createInstancedMesh();
        n.setExtension('EXT_mesh_gpu_instancing', many.setAttribute('TRANSLATION', put(d, 'VEC3', f32(0, 0, 0, 10, 0, 0, 0, 0, 7)))).setTranslation([1, 0, 0]);
      }),
    );
    expect(triangles(a).map((t) => [t[0], t[1], t[2]])).toEqual([
      [1, 0, 0],
      [11, 0, 0],
      [1, 0, 7],
    ]);
  });

  it('with few numbers a corner, sparse ones, colours and a second set of coordinates', async () => {
    const d = file((d, p) => {
      d.createExtension(KHRMeshQuantization).setRequired(true);
      p.setAttribute('POSITION', put(d, 'VEC3', Int16Array.from([0, 0, 0, 3, 0, 0, 0, 5, 0])))
        .setAttribute('COLOR_0', put(d, 'VEC3', Uint8Array.from([255, 0, 0, 0, 51, 0, 0, 0, 255])).setNormalized(true))
        .setAttribute('TEXCOORD_0', put(d, 'VEC2', Uint16Array.from([0, 0, 65535, 0, 0, 65535])).setNormalized(true))
        .setAttribute('TEXCOORD_1', put(d, 'VEC2', f32(0, 0, 0, 0, 0.25, 0)).setSparse(true));
    });
    const [p] = (await read(d)).lods[0];
    expect([...p.positions]).toEqual([0, 0, 0, 3, 0, 0, 0, 5, 0]);
    expect([...p.colours!].map((v) => Math.round(v * 100) / 100)).toEqual([1, 0, 0, 1, 0, 0.2, 0, 1, 0, 0, 1, 1]);
    expect([...p.uvs!]).toEqual([0, 0, 1, 0, 0, 1]);
    expect([...p.uvs1!]).toEqual([0, 0, 0, 0, 0.25, 0]);
  });

  it('of several scenes is the one it opens with, or the one that is asked for', async () => {
    const d = file((d, p) => p.setAttribute('POSITION', put(d, 'VEC3', square)).setMode(5));
    const other = d.createPrimitive().setAttribute('POSITION', put(d, 'VEC3', f32(0, 0, 0, 1, 0, 0, 0, 9, 0)));
    d.createScene('tall').addChild(d.createNode().setMesh(d.createMesh().addPrimitive(other)));
    const glb = await io.writeBinary(d);
    const [first, tall] = [await readAsset(glb, 'file'), await readAsset(glb, 'file', { scene: 1 })];
    expect(first).toMatchObject({ ok: true, value: { name: 's', notes: ['the file holds 2 scenes: this is s'] } });
    expect(tall.ok && assetBounds(tall.value).max[1]).toBe(9);
  });

  it('takes its name from the scene, or from its file where nobody named the scene', async () => {
    const named = async (scene: string) => {
      const d = file((d, p) => p.setMode(5).setAttribute('POSITION', put(d, 'VEC3', square)));
      d.getRoot().listScenes()[0].setName(scene);
      return (await read(d)).name;
    };
    expect(await named('Old gate')).toBe('Old gate');
    for (const nobody of ['Scene', 'scene.001', 'Root_Scene', 'RootNode', '']) expect(await named(nobody)).toBe('test');
  });
});

describe('a mesh that asks for too much', () => {
  /** The JSON of a GLB changed; its data as they are. */
  function changed(glb: Uint8Array, by: (g: any) => void): Uint8Array {
    const view = new DataView(glb.buffer, glb.byteOffset);
    const length = view.getUint32(12, true);
    const json = JSON.parse(new TextDecoder().decode(glb.subarray(20, 20 + length)));
    by(json);
    const text = new TextEncoder().encode(JSON.stringify(json));
    const padded = Math.ceil(text.length / 4) * 4;
    const out = new Uint8Array(20 + padded + glb.length - 20 - length).fill(32);
    out.set(glb.subarray(0, 20));
    out.set(text, 20);
    out.set(glb.subarray(20 + length), 20 + padded);
    const head = new DataView(out.buffer);
    head.setUint32(8, out.length, true);
    head.setUint32(12, padded, true);
    return out;
  }
  const tri = () => io.writeBinary(file((d, p) => p.setAttribute('POSITION', put(d, 'VEC3', f32(0, 0, 0, 1, 0, 0, 0, 1, 0)))));
  const refused = async (glb: Uint8Array, limits: AssetLimits = ASSET_LIMITS) => {
    const r = await readAsset(glb, 'x', { limits });
    return r.ok ? 'read' : `${r.code}: ${r.message}`;
  };

  it('by its copies, its depth, or what it changes of its values, is refused before it is decoded', async () => {
    const many = await io.writeBinary(
      file((d, p, n) => {
        p.setAttribute('POSITION', put(d, 'VEC3', f32(0, 0, 0, 1, 0, 0, 0, 1, 0)));
        const batch = d.createExtension(EXTMeshGPUInstancing).createInstancedMesh();
        n.setExtension('EXT_mesh_gpu_instancing', batch.setAttribute('TRANSLATION', put(d, 'VEC3', new Float32Array(300))));
      }),
    );
    expect(await refused(many, { ...ASSET_LIMITS, triangles: 99 })).toContain('when each mesh stands where its nodes name it');
    expect(await refused(many, { ...ASSET_LIMITS, triangles: 100 })).toBe('read');
    const deep = changed(await tri(), (g) => {
      g.nodes = Array.from({ length: 500 }, (_, i) => (i < 499 ? { children: [i + 1] } : { mesh: 0 }));
    });
    expect(await refused(deep)).toBe('glb-too-large: x has nodes 401 deep inside each other; at most 400 are read');
    const sparse = (count: number, view = 0) =>
      tri().then((glb) =>
        changed(glb, (g) => {
          g.accessors[0].sparse = { count, indices: { bufferView: view, componentType: 5123 }, values: { bufferView: 0 } };
        }),
      );
    expect(await refused(await sparse(4))).toBe('glb-range: x: accessor 0 changes 4 elements, more than the file holds');
    expect(await refused(await sparse(2, 7))).toContain('glb-range');
  });

  it('and states less than its packed data unpack to, is refused by the count of the packing', async () => {
    const { default: draco3d } = (await import('draco3dgltf' as string)) as { default: { createEncoderModule(): Promise<unknown> } };
    const packing = new WebIO().registerExtensions(ALL_EXTENSIONS).registerDependencies({ 'draco3d.encoder': await draco3d.createEncoderModule() });
    const d = await packing.readBinary(await birchGlb());
    d.setLogger(new Logger(Logger.Verbosity.SILENT));
    await d.transform(draco());
    const glb = await packing.writeBinary(d);
    expect(await refused(glb)).toBe('read');
    const lying = changed(glb, (g) => {
      for (const m of g.meshes) for (const p of m.primitives) for (const a of [p.indices, p.attributes.POSITION]) g.accessors[a].count = 3;
    });
    expect(await refused(lying)).toMatch(/^glb-lies: x: a packed mesh says it has \d+ triangles, its file says 1$/);
  });
});

describe('a packed mesh', () => {
  let plain: Uint8Array;
  let packing: WebIO;
  beforeAll(async () => {
    plain = await birchGlb();
    await MeshoptEncoder.ready;
    const { default: draco3d } = (await import('draco3dgltf' as string)) as { default: { createEncoderModule(): Promise<unknown> } };
    packing = new WebIO()
      .registerExtensions(ALL_EXTENSIONS)
      .registerDependencies({ 'meshopt.encoder': MeshoptEncoder, 'draco3d.encoder': await draco3d.createEncoderModule() });
  });

  it.each([
    ['Draco', draco()],
    ['meshopt', meshopt({ encoder: MeshoptEncoder })],
    ['quantized', quantize()],
  ])('%s is the mesh it was, as one file and as glTF with its files', async (_, pack) => {
    const d = await packing.readBinary(plain);
    d.setLogger(new Logger(Logger.Verbosity.SILENT));
    await d.transform(pack);
    const was = await readAsset(plain, 'birch');
    const { json, resources } = await packing.writeJSON(d, { basename: 'birch' });
    const apart = packGltf(new TextEncoder().encode(JSON.stringify(json)), 'birch.gltf', (path) => resources[path]);
    expect(apart).toMatchObject({ ok: true });
    for (const glb of [await packing.writeBinary(d), apart.ok ? apart.value : new Uint8Array()]) {
      const now = await readAsset(glb, 'birch');
      if (!now.ok || !was.ok) throw new Error(now.ok ? '' : now.message);
      expect(assetFacts(now.value).triangles).toEqual(assetFacts(was.value).triangles);
      expect(now.value.materials).toEqual(was.value.materials);
      for (const [k, v] of assetBounds(was.value).max.entries()) expect(Math.abs(assetBounds(now.value).max[k] - v)).toBeLessThan(0.001);
    }
  });

  it('counts what an independent reader counts', async () => {
    const report = (await validateBytes(plain)) as unknown as { info: { totalTriangleCount: number; totalVertexCount: number; materialCount: number } };
    const read = await readAsset(plain, 'birch');
    if (!read.ok) throw new Error(read.message);
    const { triangles: t, vertices, materials } = assetFacts(read.value);
    expect([t[0], vertices[0], materials.length]).toEqual([report.info.totalTriangleCount, report.info.totalVertexCount, report.info.materialCount]);
  });
});

describe('a box', () => {
  it('interleaved by hand is read with its stride', async () => {
    // Position and normal of each corner beside each other, 24 bytes a corner.
    const box = boxStreams([0, 0, 0], [1, 2, 3]);
    const n = box.positions.length / 3;
    const both = new Float32Array(n * 6);
    for (let i = 0; i < n; i++) {
      both.set(box.positions.subarray(i * 3, i * 3 + 3), i * 6);
      both.set(box.normals.subarray(i * 3, i * 3 + 3), i * 6 + 3);
    }
    const indices = Uint16Array.from(box.indices);
    const bin = new Uint8Array(both.byteLength + indices.byteLength);
    bin.set(new Uint8Array(both.buffer));
    bin.set(new Uint8Array(indices.buffer), both.byteLength);
    const json = {
      asset: { version: '2.0' },
      scenes: [{ nodes: [0] }],
      nodes: [{ mesh: 0 }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0, NORMAL: 1 }, indices: 2 }] }],
      accessors: [
        { bufferView: 0, componentType: 5126, type: 'VEC3', count: n, min: [0, 0, 0], max: [1, 2, 3] },
        { bufferView: 0, byteOffset: 12, componentType: 5126, type: 'VEC3', count: n },
        { bufferView: 1, componentType: 5123, type: 'SCALAR', count: indices.length },
      ],
      bufferViews: [
        { buffer: 0, byteLength: both.byteLength, byteStride: 24, target: 34962 },
        { buffer: 0, byteOffset: both.byteLength, byteLength: indices.byteLength, target: 34963 },
      ],
      buffers: [{ byteLength: bin.length, uri: `data:application/octet-stream;base64,${Buffer.from(bin).toString('base64')}` }],
    };
    const packed = packGltf(new TextEncoder().encode(JSON.stringify(json)), 'box.gltf', () => undefined);
    const read = packed.ok ? await readAsset(packed.value, 'box') : packed;
    if (!read.ok) throw new Error(read.message);
    expect(assetBounds(read.value)).toEqual({ min: [0, 0, 0], max: [1, 2, 3] });
    expect([...read.value.lods[0][0].normals]).toEqual([...box.normals]);
  });
});
