import { Document, Primitive as GltfPrimitive, WebIO, type Material, type Node, type Primitive as Prim } from '@gltf-transform/core';
import { z } from 'zod';
import { COLLIDERS, type Asset, type Primitive } from '../kit/asset';
import { fault, type Outcome } from './fault';
import { parseJson } from './json';
import { checkPng } from './rasterPng';

/**
 * A mesh asset as binary glTF 2.0: one node a LOD under the scene, finest first, and what Rammer
 * knows of it in the scene's `extras.rammer`. Colours are COLOR_0; its alpha says how far the
 * instance's tint applies, which a reader that does not know it draws as an opaque colour.
 */
const extrasSchema = z.object({
  role: z.enum(['piece', 'plant', 'reference']).default('piece'),
  collider: z.enum(COLLIDERS).default('mesh'),
  real: z.tuple([z.number().positive(), z.number().positive()]).optional(),
  tags: z.array(z.string().max(40)).max(20).default([]),
  trunk: z.number().min(0).max(50).default(0),
});

/** The most an asset may have. */
export const ASSET_LIMITS = Object.freeze({ bytes: 16 << 20, triangles: 200_000, nodes: 1000, lods: 6, pictureSide: 4096, metres: 500 });
type Limits = Readonly<Record<keyof typeof ASSET_LIMITS, number>>;

/** An asset as a GLB with its LODs, collider and facts; `readAsset` gives it back. */
export async function writeAsset(asset: Asset): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Rammer';
  const buffer = document.createBuffer();
  const { role, collider, real, tags, trunk } = asset;
  const scene = document.createScene(asset.name).setExtras({ rammer: { role, collider, ...(real ? { real } : {}), tags, trunk } });
  document.getRoot().setDefaultScene(scene);
  const materials = new Map<string, Material>();
  asset.lods.forEach((lod, i) => {
    const name = role === 'plant' && i === asset.lods.length - 1 ? 'billboard' : `lod${i}`;
    const mesh = document.createMesh(name);
    for (const p of lod) {
      let material = materials.get(p.material);
      if (!material) {
        material = document
          .createMaterial(p.material)
          .setRoughnessFactor(1)
          .setMetallicFactor(0)
          .setAlphaMode(p.alphaTested ? 'MASK' : 'OPAQUE')
          .setDoubleSided(name === 'billboard' || p.alphaTested);
        materials.set(p.material, material);
      }
      const accessor = (type: 'VEC2' | 'VEC3' | 'VEC4' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint32Array<ArrayBuffer>) =>
        document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
      const primitive = document
        .createPrimitive()
        .setMaterial(material)
        .setAttribute('POSITION', accessor('VEC3', Float32Array.from(p.positions)))
        .setAttribute('NORMAL', accessor('VEC3', Float32Array.from(p.normals)))
        .setAttribute('COLOR_0', accessor('VEC4', Float32Array.from(p.colours)))
        .setIndices(accessor('SCALAR', Uint32Array.from(p.indices)));
      if (p.uvs) primitive.setAttribute('TEXCOORD_0', accessor('VEC2', Float32Array.from(p.uvs)));
      mesh.addPrimitive(primitive);
    }
    scene.addChild(document.createNode(name).setMesh(mesh));
  });
  return new WebIO().writeBinary(document);
}

/**
 * Reads an asset that nobody vouches for. Headers and counts are checked before anything is decoded;
 * every fault is named and nothing is made.
 */
export async function readAsset(bytes: Uint8Array, name = 'asset', limits: Limits = ASSET_LIMITS): Promise<Outcome<Asset>> {
  try {
    return await read(bytes, name, limits);
  } catch (error) {
    // A field of a form that nobody thought of: whatever it is, the file is at fault.
    return fault('glb-invalid', `${name} cannot be read as glTF: ${(error as Error).message}`);
  }
}

async function read(bytes: Uint8Array, name: string, limits: Limits): Promise<Outcome<Asset>> {
  const json = glbJson(bytes, name, limits);
  if (!json.ok) return json;
  const sound = checkGltf(json.value.json, json.value.binary, name, limits);
  if (!sound.ok) return sound;
  let document: Document;
  try {
    document = await new WebIO().readBinary(bytes);
  } catch (error) {
    return fault('glb-invalid', `${name} cannot be read as glTF: ${(error as Error).message}`);
  }
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  if (!scene) return fault('glb-empty', `${name} has no scene`);
  const extras = extrasSchema.safeParse((scene.getExtras() as { rammer?: unknown }).rammer ?? {});
  if (!extras.success) return fault('glb-extras', `${name}: extras.rammer.${extras.error.issues[0].path.join('.')}: ${extras.error.issues[0].message}`);
  const children = scene.listChildren();
  const ranked = children.some((n) => /^lod\d$/.test(n.getName())) ? children.filter((n) => /^(lod\d|billboard)$/.test(n.getName())) : undefined;
  if (ranked && ranked.length > limits.lods) return fault('glb-too-large', `${name} has ${ranked.length} LODs; at most ${limits.lods} are read`);
  const lods: Primitive[][] = [];
  for (const group of ranked ? ranked.map((n) => [n]) : [children]) {
    const lod: Primitive[] = [];
    for (const node of group) {
      const got = gather(node, name, lod, limits);
      if (!got.ok) return got;
    }
    if (lod.reduce((s, p) => s + p.indices.length, 0) === 0)
      return fault('glb-no-triangles', `${name} has no triangles${ranked ? ` in ${group[0].getName()}` : ''}: there is nothing to place`);
    lods.push(lod);
  }
  const total = lods.flat().reduce((s, p) => s + p.indices.length / 3, 0);
  if (total > limits.triangles) return fault('glb-too-large', `${name} has ${total} triangles; at most ${limits.triangles} are read`);
  const e = extras.data;
  if (e.role === 'plant' && lods.length < 2) return fault('glb-extras', `${name} is a plant and needs at least one LOD and a billboard`);
  const textureBytes = root.listTextures().reduce((s, t) => {
    const size = t.getSize();
    return s + (size ? (size[0] * size[1] * 4 * 4) / 3 : 0);
  }, 0);
  return {
    ok: true,
    value: {
      name: scene.getName() || name,
      role: e.role,
      collider: e.collider,
      ...(e.real ? { real: e.real } : {}),
      tags: e.tags,
      trunk: e.trunk,
      lods,
      textureBytes,
    },
  };
}

function gather(node: Node, name: string, out: Primitive[], limits: Limits): Outcome<true> {
  const m = node.getWorldMatrix();
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
    if (primitive.getMode() !== GltfPrimitive.Mode.TRIANGLES) continue;
    const read = readPrimitive(primitive, m, name, limits);
    if (!read.ok) return read;
    out.push(read.value);
  }
  for (const child of node.listChildren()) {
    const got = gather(child, name, out, limits);
    if (!got.ok) return got;
  }
  return { ok: true, value: true };
}

function readPrimitive(primitive: Prim, m: readonly number[], name: string, limits: Limits): Outcome<Primitive> {
  const position = primitive.getAttribute('POSITION');
  if (!position) return fault('glb-invalid', `${name} has a mesh without positions`);
  const count = position.getCount();
  const given = primitive.getIndices()?.getArray();
  const indices = given ? Uint32Array.from(given) : Uint32Array.from({ length: count }, (_, i) => i);
  for (const i of indices) if (i >= count) return fault('glb-index', `${name} has a triangle that names vertex ${i} of ${count}`);
  const positions = new Float32Array(count * 3);
  const normals = new Float32Array(count * 3);
  const colours = new Float32Array(count * 4);
  const normal = primitive.getAttribute('NORMAL');
  const uv = primitive.getAttribute('TEXCOORD_0');
  const uvs = uv && uv.getCount() === count ? new Float32Array(count * 2) : undefined;
  const colour = primitive.getAttribute('COLOR_0');
  const base = primitive.getMaterial()?.getBaseColorFactor() ?? [0.6, 0.6, 0.58, 1];
  const v: number[] = [0, 0, 0, 0];
  for (let i = 0; i < count; i++) {
    position.getElement(i, v);
    for (let k = 0; k < 3; k++) {
      const p = m[k] * v[0] + m[4 + k] * v[1] + m[8 + k] * v[2] + m[12 + k];
      if (!Number.isFinite(p)) return fault('glb-not-finite', `${name} has a vertex that is not a number (vertex ${i})`);
      if (Math.abs(p) > limits.metres)
        return fault('glb-size', `${name} reaches ${Math.round(Math.abs(p))} m from its pivot; at most ${limits.metres} m are read. Is it in centimetres?`);
      positions[i * 3 + k] = p;
    }
    if (uvs) {
      uv!.getElement(i, v);
      if (!Number.isFinite(v[0]) || !Number.isFinite(v[1]))
        return fault('glb-not-finite', `${name} has a texture coordinate that is not a number (vertex ${i})`);
      uvs[i * 2] = v[0];
      uvs[i * 2 + 1] = v[1];
    }
    if (normal) {
      normal.getElement(i, v);
      const n = [0, 1, 2].map((k) => m[k] * v[0] + m[4 + k] * v[1] + m[8 + k] * v[2]);
      const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
      for (let k = 0; k < 3; k++) normals[i * 3 + k] = Number.isFinite(n[k]) ? n[k] / l : 0;
    }
    v[0] = v[1] = v[2] = v[3] = 1;
    colour?.getElement(i, v);
    for (let k = 0; k < 3; k++) colours[i * 4 + k] = v[k] * base[k];
    colours[i * 4 + 3] = colour && colour.getElementSize() === 4 ? v[3] : 0;
  }
  if (!normal) faceNormals(positions, indices, normals);
  return {
    ok: true,
    value: {
      positions,
      normals,
      colours,
      ...(uvs ? { uvs } : {}),
      indices,
      material: primitive.getMaterial()?.getName() || 'material',
      alphaTested: primitive.getMaterial()?.getAlphaMode() === 'MASK',
    },
  };
}

/** Normals where a file has none: the sum of the triangles at each vertex. */
function faceNormals(p: Float32Array, indices: Uint32Array, out: Float32Array): void {
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const u = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const w = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
    for (const at of [a, b, c]) for (let k = 0; k < 3; k++) out[at + k] += n[k];
  }
  for (let i = 0; i < out.length; i += 3) {
    const l = Math.sqrt(out[i] * out[i] + out[i + 1] * out[i + 1] + out[i + 2] * out[i + 2]) || 1;
    for (let k = 0; k < 3; k++) out[i + k] /= l;
  }
}

/** Depth and number of values of a GLB's JSON. */
const JSON_PART = { bytes: 16 << 20, depth: 48, values: 1_000_000 };

const index = z.number().int().min(0);
const many = <T extends z.ZodType>(item: T) => z.array(item).optional();
/** The parts of glTF 2.0 that are looked at before anything is decoded; what else there is is left alone. */
const gltfForm = z.looseObject({
  scene: index.optional(),
  scenes: many(z.looseObject({ nodes: many(index) })),
  nodes: many(z.looseObject({ children: many(index), mesh: index.optional() })),
  meshes: many(z.looseObject({ primitives: z.array(z.looseObject({ attributes: z.record(z.string(), index), indices: index.optional() })) })),
  accessors: many(
    z.looseObject({
      bufferView: index.optional(),
      byteOffset: index.optional(),
      componentType: z.number(),
      count: index,
      type: z.string(),
      sparse: z.unknown().optional(),
    }),
  ),
  bufferViews: many(z.looseObject({ buffer: index, byteOffset: index.optional(), byteLength: index, byteStride: index.optional() })),
  buffers: many(z.looseObject({ byteLength: index, uri: z.string().optional() })),
  images: many(z.looseObject({ bufferView: index.optional(), uri: z.string().optional(), mimeType: z.string().optional() })),
  extensionsRequired: many(z.string()),
});
type Gltf = z.infer<typeof gltfForm>;

/** The two chunks of a GLB; lengths are those of the file, not what it says of itself. */
function glbJson(bytes: Uint8Array, name: string, limits: Limits): Outcome<{ json: Gltf; binary: Uint8Array }> {
  if (bytes.length === 0) return fault('glb-invalid', `${name} is empty`);
  if (bytes.length > limits.bytes) return fault('glb-too-large', `${name} is larger than ${limits.bytes >> 20} MB`);
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== 0x46546c67) return fault('glb-invalid', `${name} is not a binary glTF file (.glb)`);
  if (view.getUint32(4, true) !== 2) return fault('glb-invalid', `${name} is glTF ${view.getUint32(4, true)}; version 2 is read`);
  if (view.getUint32(8, true) !== bytes.length)
    return fault('glb-truncated', `${name} says it is ${view.getUint32(8, true)} bytes and is ${bytes.length}: it was cut off`);
  const length = view.getUint32(12, true);
  if (view.getUint32(16, true) !== 0x4e4f534a || 20 + length > bytes.length) return fault('glb-truncated', `${name} has no whole JSON part`);
  const read = parseJson(name, bytes.subarray(20, 20 + length), JSON_PART);
  if (!read.ok)
    return read.code === 'json-invalid'
      ? fault('glb-invalid', `${name} holds JSON that cannot be read: ${read.message}`)
      : fault('glb-too-large', read.message);
  const form = gltfForm.safeParse(read.value);
  if (!form.success) return fault('glb-invalid', `${name}: ${form.error.issues[0].path.join('.') || 'its JSON'}: ${form.error.issues[0].message}`);
  const json = form.data;
  const at = 20 + length;
  const size = at + 8 <= bytes.length ? view.getUint32(at, true) : 0;
  if (at + 8 + size > bytes.length && size > 0) return fault('glb-truncated', `${name} has a cut binary part`);
  return { ok: true, value: { json, binary: bytes.subarray(at + 8, at + 8 + size) } };
}

const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const COMPONENTS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };

/** Pixels of all pictures of a file together. */
const MOST_PIXELS = 64 << 20;

/** Counts, ranges, node loops, what it comes to when every mesh stands where it is named, and pictures, before any of it is believed. */
function checkGltf(json: Gltf, binary: Uint8Array, name: string, limits: Limits): Outcome<true> {
  if (json.extensionsRequired?.length)
    return fault('glb-extension', `${name} needs ${json.extensionsRequired.join(', ')}, which is not read: export it without`);
  const nodes = json.nodes ?? [];
  if (nodes.length > limits.nodes) return fault('glb-too-large', `${name} has ${nodes.length} nodes; at most ${limits.nodes} are read`);
  const state = new Uint8Array(nodes.length);
  const loops = (i: number): boolean => {
    if (!nodes[i] || state[i] === 2) return false;
    if (state[i] === 1) return true;
    state[i] = 1;
    const found = (nodes[i].children ?? []).some(loops);
    state[i] = 2;
    return found;
  };
  for (let i = 0; i < nodes.length; i++) {
    const missing = (nodes[i].children ?? []).find((c) => !nodes[c]);
    if (missing !== undefined) return fault('glb-node', `${name}: node ${i} names a child ${missing} that does not exist`);
    if (loops(i)) return fault('glb-node-loop', `${name}: node ${i} is its own ancestor`);
  }
  const parents = new Uint8Array(nodes.length);
  for (const children of [...nodes.map((n) => n.children), ...(json.scenes ?? []).map((s) => s.nodes)]) {
    const seen = new Set(children);
    if (seen.size !== (children?.length ?? 0)) return fault('glb-node', `${name}: a node is named twice in one list`);
  }
  for (const n of nodes) for (const c of n.children ?? []) if (parents[c]++) return fault('glb-node', `${name}: node ${c} has two parents`);
  if ((json.buffers ?? []).some((b) => b.uri !== undefined))
    return fault('glb-outside', `${name} reads its data from another file: pack everything into one .glb`);
  const views = json.bufferViews ?? [];
  for (const [i, v] of views.entries()) {
    if (!(v.byteLength >= 0) || (v.byteOffset ?? 0) < 0 || (v.byteOffset ?? 0) + v.byteLength > binary.length)
      return fault('glb-range', `${name}: buffer view ${i} lies outside the file`);
  }
  // A reader copies each accessor's and each picture's bytes: many that share one place would be many copies.
  const mostCopied = Math.max(64 << 20, 4 * binary.length);
  let copied = 0;
  for (const [i, a] of (json.accessors ?? []).entries()) {
    const size = (COMPONENT_BYTES[a.componentType] ?? 0) * (COMPONENTS[a.type] ?? 0);
    if (size === 0) return fault('glb-invalid', `${name}: accessor ${i} has a form that does not exist`);
    if (a.sparse) return fault('glb-extension', `${name}: accessor ${i} is sparse, which is not read`);
    const view = a.bufferView === undefined ? undefined : views[a.bufferView];
    if (!view) return fault('glb-range', `${name}: accessor ${i} has no data`);
    const last = a.count > 0 ? (a.byteOffset ?? 0) + (a.count - 1) * (view.byteStride ?? size) + size : 0;
    if (last > view.byteLength) return fault('glb-range', `${name}: accessor ${i} asks for ${a.count} elements, more than the file holds`);
    copied += a.count * size;
    if (copied > mostCopied) return fault('glb-too-large', `${name} holds accessors that share their data and come to more than ${mostCopied >> 20} MB`);
  }
  const all = standing(json, name, limits);
  if (!all.ok) return all;
  const pictures = new Map<string, number>();
  for (const [i, image] of (json.images ?? []).entries()) {
    if (image.uri !== undefined) return fault('glb-outside', `${name}: picture ${i} lies in another file: pack everything into one .glb`);
    const view = views[image.bufferView ?? -1];
    if (!view) return fault('glb-range', `${name}: picture ${i} has no data`);
    copied += view.byteLength;
    if (copied > mostCopied) return fault('glb-too-large', `${name} holds pictures that share their data and come to more than ${mostCopied >> 20} MB`);
    const place = `${view.byteOffset ?? 0}+${view.byteLength}`;
    if (pictures.has(place)) continue;
    const png = checkPng(binary.subarray(view.byteOffset ?? 0, (view.byteOffset ?? 0) + view.byteLength), `${name}: picture ${i}`, ASSET_LIMITS.pictureSide);
    if (!png.ok) return png;
    pictures.set(place, png.value.width * png.value.height);
    if ([...pictures.values()].reduce((sum, n) => sum + n, 0) > MOST_PIXELS)
      return fault('glb-too-large', `${name} holds pictures of more than ${MOST_PIXELS >> 20} million pixels together`);
  }
  return { ok: true, value: true };
}

/** Counts the corners of every mesh at every node that names it, as they will be read: a mesh may stand in a thousand places. */
function standing(json: Gltf, name: string, limits: Limits): Outcome<true> {
  // Parts of a mesh may share their corners, and each takes a copy.
  const most = limits.triangles * 6;
  const of = (i: number | undefined) => (i === undefined ? undefined : json.accessors?.[i]);
  const corners = (json.meshes ?? []).map((mesh, m) =>
    mesh.primitives.reduce((sum, p, k) => {
      const positions = of(p.attributes.POSITION);
      const indices = of(p.indices);
      if ((p.attributes.POSITION !== undefined && !positions) || (p.indices !== undefined && !indices))
        throw new RangeError(`primitive ${k} of mesh ${m} names an accessor that does not exist`);
      return sum + Math.max(positions?.count ?? 0, indices?.count ?? 0);
    }, 0),
  );
  let sum = 0;
  for (const [i, node] of (json.nodes ?? []).entries()) {
    if (node.mesh === undefined) continue;
    if (corners[node.mesh] === undefined) return fault('glb-node', `${name}: node ${i} names a mesh ${node.mesh} that does not exist`);
    sum += corners[node.mesh];
    if (sum > most)
      return fault(
        'glb-too-large',
        `${name} has more than ${most} corners when each mesh stands where its nodes name it; at most ${limits.triangles} triangles are read`,
      );
  }
  return { ok: true, value: true };
}
