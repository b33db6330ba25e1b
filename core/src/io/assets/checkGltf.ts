import { fault, type Outcome } from '../fault';
import type { GltfFile } from './gltfFile';
import { dracoForm, instancingForm, meshoptForm, type Gltf } from './gltfForm';
import type { AssetLimits } from './limits';
import { pictureHead, type PictureHead } from './pictureHead';

/** Extensions that change what a mesh is, and are read. What else a file needs is about how it looks, or is refused. */
const READ = new Set([
  'EXT_mesh_gpu_instancing',
  'EXT_meshopt_compression',
  'EXT_texture_avif',
  'EXT_texture_webp',
  'KHR_draco_mesh_compression',
  'KHR_meshopt_compression',
  'KHR_mesh_primitive_restart',
  'KHR_mesh_quantization',
  'KHR_texture_basisu',
  'KHR_texture_transform',
]);
/** Of these what is not drawn is left out, and said. */
const HARMLESS = /^(KHR|EXT)_(materials|lights|texture|animation|audio|node|xmp|interactivity|mesh_features|structural|physics)/;

const COMPONENT_BYTES: Record<number, number> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const COMPONENTS: Record<string, number> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };

/** What is known of a file that may be decoded. */
export interface CheckedGltf {
  /** of each picture, by its place */
  pictures: Map<number, PictureHead & { bytes: Uint8Array }>;
  draco: boolean;
  meshopt: boolean;
}

/**
 * Counts, ranges, node loops, what it comes to when every mesh stands where it is named, and pictures, before any of it is
 * believed or decoded.
 */
export function checkGltf(file: GltfFile, name: string, limits: AssetLimits): Outcome<CheckedGltf> {
  const { json } = file;
  const unread = (json.extensionsRequired ?? []).filter((e) => !READ.has(e) && !HARMLESS.test(e));
  if (unread.length > 0) return fault('glb-extension', `${name} needs ${unread.join(', ')}, which is not read: export it without`);
  const nodes = checkNodes(json, name, limits);
  if (!nodes.ok) return nodes;
  // A reader copies each accessor's and each picture's bytes: many that share one place would be many copies.
  const held = file.buffers.reduce((sum, b) => sum + (b?.length ?? 0), 0);
  // Packed ones unpack to some tens of times what they are.
  const copies = new Copies(name, Math.min(768 << 20, (64 << 20) + 32 * held));
  const views = checkViews(file, name, copies);
  if (!views.ok) return views;
  const draco = dracoPrimitives(json);
  const accessors = checkAccessors(json, name, copies, draco);
  if (!accessors.ok) return accessors;
  const packed = checkDraco(file, name, draco);
  if (!packed.ok) return packed;
  const all = standing(json, name, limits);
  if (!all.ok) return all;
  const pictures = checkPictures(file, name, limits, copies);
  if (!pictures.ok) return pictures;
  return { ok: true, value: { pictures: pictures.value, draco: draco.size > 0, meshopt: views.value } };
}

class Copies {
  private bytes = 0;
  constructor(
    private readonly name: string,
    private readonly most: number,
  ) {}
  /** @returns a fault once all together are too many */
  add(bytes: number, what: string): ReturnType<typeof fault> | undefined {
    this.bytes += bytes;
    return this.bytes > this.most
      ? fault('glb-too-large', `${this.name} holds ${what} that share their data and come to more than ${this.most >> 20} MB`)
      : undefined;
  }
}

function checkNodes(json: Gltf, name: string, limits: AssetLimits): Outcome<true> {
  const nodes = json.nodes ?? [];
  if (nodes.length > limits.nodes) return fault('glb-too-large', `${name} has ${nodes.length} nodes; at most ${limits.nodes} are read`);
  for (const [i, { children = [] }] of nodes.entries()) {
    const missing = children.find((c) => !nodes[c]);
    if (missing !== undefined) return fault('glb-node', `${name}: node ${i} names a child ${missing} that does not exist`);
  }
  for (const children of [...nodes.map((n) => n.children), ...(json.scenes ?? []).map((s) => s.nodes)])
    if (new Set(children).size !== (children?.length ?? 0)) return fault('glb-node', `${name}: a node is named twice in one list`);
  const parent = new Int32Array(nodes.length).fill(-1);
  let twice = -1;
  for (const [i, { children = [] }] of nodes.entries())
    for (const c of children) {
      if (parent[c] >= 0 && twice < 0) twice = c;
      parent[c] = i;
    }
  // Each node is walked up to its root; where the walk is longer than there are nodes it never ends.
  const depth = new Int32Array(nodes.length).fill(-1);
  for (let i = 0; i < nodes.length; i++) {
    let steps = 0;
    let at = i;
    while (at >= 0 && depth[at] < 0) {
      if (++steps > nodes.length) return fault('glb-node-loop', `${name}: node ${i} is its own ancestor`);
      at = parent[at];
    }
    let deep = (at >= 0 ? depth[at] : 0) + steps;
    if (deep > limits.depth) return fault('glb-too-large', `${name} has nodes ${deep} deep inside each other; at most ${limits.depth} are read`);
    for (at = i; at >= 0 && depth[at] < 0; at = parent[at]) depth[at] = deep--;
  }
  if (twice >= 0) return fault('glb-node', `${name}: node ${twice} has two parents`);
  return { ok: true, value: true };
}

const meshoptOf = (extensions: Record<string, unknown> | undefined): unknown => extensions?.EXT_meshopt_compression ?? extensions?.KHR_meshopt_compression;

/** @returns whether any is packed by meshopt */
function checkViews({ json, buffers }: GltfFile, name: string, copies: Copies): Outcome<boolean> {
  let meshopt = false;
  for (const [i, view] of (json.bufferViews ?? []).entries()) {
    const outside = () => fault('glb-range', `${name}: buffer view ${i} lies outside the file`);
    const packed = meshoptOf(view.extensions);
    if (packed === undefined) {
      const held = buffers[view.buffer];
      if (!held || (view.byteOffset ?? 0) + view.byteLength > held.length) return outside();
      continue;
    }
    meshopt = true;
    const form = meshoptForm.safeParse(packed);
    if (!form.success) return fault('glb-invalid', `${name}: buffer view ${i} says in an unknown way how it is packed`);
    const { buffer, byteOffset = 0, byteLength, byteStride, count } = form.data;
    const held = buffers[buffer];
    if (!held || byteOffset + byteLength > held.length) return outside();
    if (byteStride < 1 || byteStride > 256 || count * byteStride !== view.byteLength)
      return fault('glb-range', `${name}: buffer view ${i} unpacks to another size than it states`);
    const many = copies.add(view.byteLength, 'packed data');
    if (many) return many;
  }
  return { ok: true, value: meshopt };
}

/** Accessors that a packed primitive fills, with the parts they lie in. */
function dracoPrimitives(json: Gltf): Map<number, { positions: number; triangles: number }> {
  const out = new Map<number, { positions: number; triangles: number }>();
  for (const mesh of json.meshes ?? [])
    for (const p of mesh.primitives) {
      const form = dracoForm.safeParse(p.extensions?.KHR_draco_mesh_compression);
      if (!form.success) continue;
      const positions = json.accessors?.[p.attributes.POSITION ?? -1]?.count ?? 0;
      const triangles = (json.accessors?.[p.indices ?? -1]?.count ?? 0) / 3;
      out.set(form.data.bufferView, { positions, triangles });
    }
  return out;
}

function checkAccessors(json: Gltf, name: string, copies: Copies, draco: ReadonlyMap<number, unknown>): Outcome<true> {
  const views = json.bufferViews ?? [];
  const within = (view: number | undefined, offset: number, count: number, size: number): boolean => {
    const v = views[view ?? -1];
    return v !== undefined && (count === 0 || offset + (count - 1) * (v.byteStride ?? size) + size <= v.byteLength);
  };
  for (const [i, a] of (json.accessors ?? []).entries()) {
    const size = (COMPONENT_BYTES[a.componentType] ?? 0) * (COMPONENTS[a.type] ?? 0);
    if (size === 0) return fault('glb-invalid', `${name}: accessor ${i} has a form that does not exist`);
    if (a.bufferView === undefined && !a.sparse && draco.size === 0) return fault('glb-range', `${name}: accessor ${i} has no data`);
    if (a.bufferView !== undefined && !within(a.bufferView, a.byteOffset ?? 0, a.count, size))
      return fault('glb-range', `${name}: accessor ${i} asks for ${a.count} elements, more than the file holds`);
    if (a.sparse) {
      const { count, indices, values } = a.sparse;
      const indexSize = COMPONENT_BYTES[indices.componentType] ?? 0;
      if (
        indexSize === 0 ||
        count > a.count ||
        !within(indices.bufferView, indices.byteOffset ?? 0, count, indexSize) ||
        !within(values.bufferView, values.byteOffset ?? 0, count, size)
      )
        return fault('glb-range', `${name}: accessor ${i} changes ${count} elements, more than the file holds`);
    }
    const many = copies.add(a.count * size, 'accessors');
    if (many) return many;
  }
  return { ok: true, value: true };
}

/** Holds what a packed mesh states of itself to what its accessors say, before it is unpacked. */
function checkDraco({ json, buffers }: GltfFile, name: string, draco: ReadonlyMap<number, { positions: number; triangles: number }>): Outcome<true> {
  for (const [at, stated] of draco) {
    const view = json.bufferViews?.[at];
    const held = view && buffers[view.buffer];
    if (!held) return fault('glb-range', `${name}: a packed mesh names data that is not there`);
    const counts = dracoCounts(held.subarray(view.byteOffset ?? 0, (view.byteOffset ?? 0) + view.byteLength));
    if (!counts) return fault('glb-invalid', `${name}: a packed mesh has no Draco header`);
    // A point may be split where its attributes differ, and an open edge may be closed and opened again.
    if (counts.faces > stated.triangles * 2 + 64 || counts.points > Math.max(stated.positions, stated.triangles * 3) * 2 + 64)
      return fault('glb-lies', `${name}: a packed mesh says it has ${counts.faces} triangles, its file says ${stated.triangles}`);
  }
  return { ok: true, value: true };
}

/** Triangles and points a Draco mesh states (bitstream 2.2: header, then the connectivity's counts). */
function dracoCounts(b: Uint8Array): { faces: number; points: number } | undefined {
  if (b.length < 16 || String.fromCharCode(...b.subarray(0, 5)) !== 'DRACO' || b[7] !== 1) return undefined;
  const version = b[5] * 10 + b[6];
  const method = b[8];
  let at = 11;
  const varint = (): number => {
    let [value, shift] = [0, 0];
    for (; at < b.length; shift += 7) {
      const byte = b[at++];
      value += (byte & 0x7f) * 2 ** shift;
      if (byte < 0x80 || shift > 35) break;
    }
    return value;
  };
  // Metadata before the connectivity are rare, and their end is found by reading all of them: the decoder does that.
  if (((b[10] << 8) | b[9]) & 0x8000) return { faces: 0, points: 0 };
  // glTF asks for 2.2; what is older is left to the decoder.
  if (version < 22) return { faces: 0, points: 0 };
  if (method !== 0) {
    at++;
    return { points: varint(), faces: varint() };
  }
  return { faces: varint(), points: varint() };
}

/** Triangles and corners of a primitive as they will be read. */
function comesTo(json: Gltf, p: NonNullable<Gltf['meshes']>[number]['primitives'][number]): { triangles: number; corners: number } {
  const of = (i: number | undefined) => (i === undefined ? undefined : json.accessors?.[i]);
  const positions = of(p.attributes.POSITION);
  const indices = of(p.indices);
  if ((p.attributes.POSITION !== undefined && !positions) || (p.indices !== undefined && !indices))
    throw new RangeError('a primitive names an accessor that does not exist');
  const mode = p.mode ?? 4;
  const corners = indices?.count ?? positions?.count ?? 0;
  const triangles = mode === 4 ? corners / 3 : mode > 4 ? Math.max(0, corners - 2) : 0;
  // Without normals each triangle has corners of its own.
  return { triangles, corners: Math.max(positions?.count ?? 0, p.attributes.NORMAL === undefined ? triangles * 3 : 0) };
}

/** Counts the triangles of every mesh at every node that names it, as they will be read: a mesh may stand in a thousand places. */
function standing(json: Gltf, name: string, limits: AssetLimits): Outcome<true> {
  const meshes = (json.meshes ?? []).map((mesh) =>
    mesh.primitives.reduce(
      (sum, p) => {
        const { triangles, corners } = comesTo(json, p);
        return { triangles: sum.triangles + triangles, corners: sum.corners + corners };
      },
      { triangles: 0, corners: 0 },
    ),
  );
  const sum = { triangles: 0, corners: 0 };
  for (const [i, node] of (json.nodes ?? []).entries()) {
    if (node.mesh === undefined) continue;
    const mesh = meshes[node.mesh];
    if (!mesh) return fault('glb-node', `${name}: node ${i} names a mesh ${node.mesh} that does not exist`);
    const copies = copiesOf(json, node.extensions);
    sum.triangles += mesh.triangles * copies;
    sum.corners += mesh.corners * copies;
    if (sum.triangles > limits.triangles || sum.corners > limits.triangles * 3)
      return fault(
        'glb-too-large',
        `${name} has more than ${limits.triangles} triangles when each mesh stands where its nodes name it, the most that are read: ` +
          'export fewer, or a part of it',
      );
  }
  return { ok: true, value: true };
}

/** How often a node draws its mesh. */
function copiesOf(json: Gltf, extensions: Record<string, unknown> | undefined): number {
  const form = instancingForm.safeParse(extensions?.EXT_mesh_gpu_instancing);
  if (!form.success) return 1;
  const counts = Object.values(form.data.attributes).map((a) => json.accessors?.[a]?.count ?? 0);
  return counts.length > 0 ? Math.max(...counts) : 1;
}

function checkPictures({ json, buffers, images }: GltfFile, name: string, limits: AssetLimits, copies: Copies): Outcome<CheckedGltf['pictures']> {
  const out: CheckedGltf['pictures'] = new Map();
  const known = new Map<string, PictureHead & { bytes: Uint8Array }>();
  let pixels = 0;
  for (const [i, image] of (json.images ?? []).entries()) {
    let bytes = images.get(i);
    let place = `file ${i}`;
    if (!bytes) {
      const view = json.bufferViews?.[image.bufferView ?? -1];
      const held = view && buffers[view.buffer];
      if (!view || !held) return fault('glb-range', `${name}: picture ${i} has no data`);
      bytes = held.subarray(view.byteOffset ?? 0, (view.byteOffset ?? 0) + view.byteLength);
      place = `${view.buffer} ${view.byteOffset ?? 0}+${view.byteLength}`;
      const many = copies.add(view.byteLength, 'pictures');
      if (many) return many;
    }
    const before = known.get(place);
    if (before) {
      out.set(i, before);
      continue;
    }
    const head = pictureHead(bytes, `${name}: picture ${i}`, limits.pictureSide);
    if (!head.ok) return head;
    pixels += head.value.width * head.value.height;
    if (pixels > limits.pixels) return fault('glb-too-large', `${name} holds pictures of more than ${limits.pixels >> 20} million pixels together`);
    const picture = { ...head.value, bytes };
    known.set(place, picture);
    out.set(i, picture);
  }
  return { ok: true, value: out };
}
