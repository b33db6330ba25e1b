import { Primitive as GltfPrimitive, type Accessor, type Node, type Primitive as Prim } from '@gltf-transform/core';
import type { InstancedMesh } from '@gltf-transform/extensions';
import type { Primitive } from '../../kit/asset';
import { flatNormals } from '../../num/flatNormals';
import { fault, type Outcome } from '../fault';
import { determinant3, inverseTranspose3, matrixOf, times, type Matrix } from './matrix';
import type { AssetLimits } from './limits';
import type { MaterialReader } from './readMaterials';

/** What reads the meshes of a file, and what it has met. */
export interface MeshReading {
  name: string;
  limits: AssetLimits;
  materials: MaterialReader;
  /** Rammer's own kit: base colours go into the vertices, whose alpha says how far a tint applies */
  house: boolean;
  notes: Set<string>;
  /** triangles so far */
  triangles: number;
}

/** Reads the meshes of a node and of all below it, as they stand at rest, into primitives of the level's axes. */
export function gatherNode(node: Node, reading: MeshReading, out: Primitive[], above: Matrix = IDENTITY): Outcome<true> {
  const world = times(above, node.getMatrix());
  const mesh = node.getMesh();
  if (mesh) {
    // A skinned mesh stands where its joints are; its own node says nothing (glTF 2.0, 3.7.3.3).
    const skin = node.getSkin();
    for (const matrix of skin ? [IDENTITY] : placesOf(node, world)) {
      for (const primitive of mesh.listPrimitives()) {
        if (primitive.getMode() < GltfPrimitive.Mode.TRIANGLES) {
          reading.notes.add('points and lines are left out: only triangles are drawn');
          continue;
        }
        const read = readPrimitive(primitive, { node, matrix }, reading);
        if (!read.ok) return read;
        if (read.value) out.push(read.value);
        reading.triangles += (read.value?.indices.length ?? 0) / 3;
        if (reading.triangles > reading.limits.triangles)
          return fault('glb-too-large', `${reading.name} has more than ${reading.limits.triangles} triangles, the most that are read`);
      }
    }
    if (skin) reading.notes.add('a skeleton is read at rest: what it moves stands still');
    if (mesh.listPrimitives().some((p) => p.listTargets().length > 0)) reading.notes.add('shapes that change are read as they are set at rest');
  }
  for (const child of node.listChildren()) {
    const got = gatherNode(child, reading, out, world);
    if (!got.ok) return got;
  }
  return { ok: true, value: true };
}

const IDENTITY: Matrix = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** Every place a node draws its mesh at (EXT_mesh_gpu_instancing), or its one. */
function placesOf(node: Node, world: Matrix): Matrix[] {
  const batch = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
  if (!batch) return [world];
  const [t, r, s] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((name) => batch.getAttribute(name));
  const count = Math.max(0, ...batch.listAttributes().map((a) => a.getCount()));
  return Array.from({ length: count }, (_, i) =>
    times(
      world,
      matrixOf(
        t ? t.getElement(i, [] as number[]) : [0, 0, 0],
        r ? r.getElement(i, [] as number[]) : [0, 0, 0, 1],
        s ? s.getElement(i, [] as number[]) : [1, 1, 1],
      ),
    ),
  );
}

/** Triangles of a list, a strip or a fan; strips keep their outside by turning every second one. */
function trianglesOf(primitive: Prim, count: number): Uint32Array {
  const given = primitive.getIndices()?.getArray();
  const mode = primitive.getMode();
  const at = (i: number): number => (given ? given[i] : i);
  const n = given ? given.length : count;
  if (mode === GltfPrimitive.Mode.TRIANGLES) return Uint32Array.from({ length: n - (n % 3) }, (_, i) => at(i));
  const restart = given instanceof Uint8Array ? 0xff : given instanceof Uint16Array ? 0xffff : given ? 0xffff_ffff : -1;
  const out: number[] = [];
  for (let first = 0, i = 0; i <= n; i++) {
    if (i < n && at(i) !== restart) continue;
    for (let k = first + 2; k < i; k++) {
      const odd = mode === GltfPrimitive.Mode.TRIANGLE_STRIP && (k - first) % 2 === 1;
      const [a, b, c] = mode === GltfPrimitive.Mode.TRIANGLE_FAN ? [first, k - 1, k] : odd ? [k - 1, k - 2, k] : [k - 2, k - 1, k];
      const [ia, ib, ic] = [at(a), at(b), at(c)];
      // Strips are joined by triangles of no area.
      if (ia !== ib && ib !== ic && ia !== ic) out.push(ia, ib, ic);
    }
    first = i + 1;
  }
  return Uint32Array.from(out);
}

/** Values of an attribute as floats, normalized ones from 0 or -1 to 1. */
function floats(accessor: Accessor, size: number, count: number): Float32Array {
  const out = new Float32Array(count * size);
  const array = accessor.getArray();
  const own = accessor.getElementSize();
  if (array instanceof Float32Array && own === size) {
    out.set(array.subarray(0, count * size));
    return out;
  }
  const v: number[] = [];
  for (let i = 0; i < count; i++) {
    accessor.getElement(i, v);
    for (let k = 0; k < size; k++) out[i * size + k] = k < own ? v[k] : 1;
  }
  return out;
}

function readPrimitive(primitive: Prim, { node, matrix }: { node: Node; matrix: Matrix }, reading: MeshReading): Outcome<Primitive | undefined> {
  const { name, limits, materials, house } = reading;
  const position = primitive.getAttribute('POSITION');
  if (!position) return fault('glb-invalid', `${name} has a mesh without positions`);
  const count = position.getCount();
  let indices = trianglesOf(primitive, count);
  for (const i of indices) if (i >= count) return fault('glb-index', `${name} has a triangle that names vertex ${i} of ${count}`);
  if (indices.length === 0) return { ok: true, value: undefined };
  const take = (semantic: string, size: number): Float32Array | undefined => {
    const a = primitive.getAttribute(semantic);
    return a && a.getCount() >= count ? floats(a, size, count) : undefined;
  };
  const positions = take('POSITION', 3)!;
  const normals = take('NORMAL', 3);
  const tangents = normals && take('TANGENT', 4);
  morphed(primitive, node, { POSITION: positions, NORMAL: normals, TANGENT: tangents });
  const skinned = node.getSkin() ? skinMatrices(node, primitive, count) : undefined;
  const placed = place({ positions, normals, tangents }, (i) => skinned?.(i) ?? matrix);
  const wrong = positions.findIndex((p) => !Number.isFinite(p));
  if (wrong >= 0) return fault('glb-not-finite', `${name} has a vertex that is not a number (vertex ${Math.floor(wrong / 3)})`);
  const far = positions.find((p) => Math.abs(p) > limits.metres);
  if (far !== undefined)
    return fault('glb-size', `${name} reaches ${Math.round(Math.abs(far))} m from its pivot; at most ${limits.metres} m are read. Is it in millimetres?`);
  const uvs = take('TEXCOORD_0', 2);
  const uvs1 = take('TEXCOORD_1', 2);
  for (const set of [uvs, uvs1]) {
    const bad = set ? set.findIndex((u) => !Number.isFinite(u)) : -1;
    if (bad >= 0) return fault('glb-not-finite', `${name} has a texture coordinate that is not a number (vertex ${bad >> 1})`);
  }
  const material = primitive.getMaterial();
  const given = take('COLOR_0', 4);
  given?.forEach((c, i) => {
    if (!Number.isFinite(c)) given[i] = 1;
  });
  const colours = house ? houseColours(count, given, primitive) : given;
  if (placed.mirrored) for (let i = 0; i < indices.length; i += 3) [indices[i + 1], indices[i + 2]] = [indices[i + 2], indices[i + 1]];
  const plain = {
    positions,
    normals: normals ?? new Float32Array(0),
    ...(tangents ? { tangents } : {}),
    ...(colours ? { colours } : {}),
    ...(uvs ? { uvs } : {}),
    ...(uvs1 ? { uvs1 } : {}),
  };
  const whole = normals ? plain : flat(plain, indices);
  if (!normals) indices = Uint32Array.from(indices, (_, i) => i);
  const at = house ? undefined : materials.place(material);
  const look = at === undefined ? undefined : materials.materials[at];
  return {
    ok: true,
    value: {
      ...whole,
      indices,
      material: look?.name ?? (material?.getName() || 'material'),
      alphaTested: (look?.alpha ?? (material?.getAlphaMode() === 'MASK' ? 'mask' : 'opaque')) === 'mask',
      ...(at === undefined ? {} : { look: at }),
    },
  };
}

/** Colours of Rammer's own kit: its base colour in them, and in their alpha how far a tint applies. */
function houseColours(count: number, given: Float32Array | undefined, primitive: Prim): Float32Array {
  const base = primitive.getMaterial()?.getBaseColorFactor() ?? [0.6, 0.6, 0.58, 1];
  const stated = primitive.getAttribute('COLOR_0')?.getElementSize() === 4;
  const out = new Float32Array(count * 4);
  for (let i = 0; i < count * 4; i += 4) {
    for (let k = 0; k < 3; k++) out[i + k] = (given ? given[i + k] : 1) * base[k];
    out[i + 3] = given && stated ? given[i + 3] : 0;
  }
  return out;
}

/** Adds what each target moves, by its weight: the node's, else the mesh's. */
function morphed(primitive: Prim, node: Node, into: Record<string, Float32Array | undefined>): void {
  const targets = primitive.listTargets();
  if (targets.length === 0) return;
  const own = node.getWeights();
  const weights = own.length > 0 ? own : (node.getMesh()?.getWeights() ?? []);
  targets.forEach((target, t) => {
    const weight = weights[t] ?? 0;
    if (!Number.isFinite(weight) || weight === 0) return;
    for (const [semantic, values] of Object.entries(into)) {
      const moves = values && target.getAttribute(semantic);
      if (!values || !moves) continue;
      const size = semantic === 'TANGENT' ? 4 : 3;
      const v: number[] = [];
      for (let i = 0, n = Math.min(moves.getCount(), values.length / size); i < n; i++) {
        moves.getElement(i, v);
        for (let k = 0; k < 3; k++) values[i * size + k] += v[k] * weight;
      }
    }
  });
}

/** The matrix of each vertex of a skinned mesh as its skeleton stands in the file. */
function skinMatrices(node: Node, primitive: Prim, count: number): ((vertex: number) => Matrix) | undefined {
  const skin = node.getSkin()!;
  const inverse = skin.getInverseBindMatrices();
  const joints = skin.listJoints().map((joint, i) => times(joint.getWorldMatrix(), inverse ? inverse.getElement(i, [] as number[]) : IDENTITY));
  const sets: { joint: Accessor; weight: Accessor }[] = [];
  for (let s = 0; ; s++) {
    const joint = primitive.getAttribute(`JOINTS_${s}`);
    const weight = primitive.getAttribute(`WEIGHTS_${s}`);
    if (!joint || !weight || joint.getCount() < count || weight.getCount() < count) break;
    sets.push({ joint, weight });
  }
  if (sets.length === 0 || joints.length === 0) return undefined;
  const [j, w]: [number[], number[]] = [[], []];
  return (i) => {
    const out = Array.from({ length: 16 }, () => 0);
    let sum = 0;
    for (const { joint, weight } of sets) {
      joint.getElement(i, j);
      weight.getElement(i, w);
      for (let k = 0; k < 4; k++) {
        const m = joints[j[k]];
        if (!m || !(w[k] > 0)) continue;
        sum += w[k];
        for (let e = 0; e < 16; e++) out[e] += m[e] * w[k];
      }
    }
    return sum > 0 ? (out.map((v) => v / sum) as unknown as Matrix) : (joints[0] as Matrix);
  };
}

interface Placing {
  positions: Float32Array;
  normals?: Float32Array;
  tangents?: Float32Array;
}

/** Moves vertices by their matrix: normals by the inverse transpose, tangents with the surface. @returns whether inside and outside change places */
function place({ positions: p, normals: n, tangents: t }: Placing, matrixAt: (vertex: number) => Matrix): { mirrored: boolean } {
  let last: Matrix | undefined;
  let turn: readonly number[] = [];
  let mirrored = false;
  for (let i = 0; i * 3 < p.length; i++) {
    const m = matrixAt(i);
    if (m !== last) {
      last = m;
      turn = inverseTranspose3(m);
      mirrored = determinant3(m) < 0;
    }
    const o = i * 3;
    const [x, y, z] = [p[o], p[o + 1], p[o + 2]];
    for (let k = 0; k < 3; k++) p[o + k] = m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k];
    if (n) unit(n, o, turn);
    if (t) {
      unit(t, i * 4, [m[0], m[1], m[2], m[4], m[5], m[6], m[8], m[9], m[10]]);
      if (mirrored) t[i * 4 + 3] = -t[i * 4 + 3];
    }
  }
  return { mirrored };
}

/** Turns a direction by a matrix of columns and makes it one long; what has no length stays nothing. */
function unit(v: Float32Array, o: number, c: readonly number[]): void {
  const [x, y, z] = [v[o], v[o + 1], v[o + 2]];
  const out = [c[0] * x + c[3] * y + c[6] * z, c[1] * x + c[4] * y + c[7] * z, c[2] * x + c[5] * y + c[8] * z];
  const l = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
  for (let k = 0; k < 3; k++) v[o + k] = l > 0 && Number.isFinite(l) ? out[k] / l : 0;
}

type Streams = Omit<Primitive, 'indices' | 'material' | 'alphaTested' | 'look'>;

/** Each triangle with corners of its own and its own normal (glTF 2.0: where none are given they are flat). */
function flat(from: Streams, indices: Uint32Array): Streams {
  const expand = (values: Float32Array, size: number): Float32Array => {
    const out = new Float32Array(indices.length * size);
    for (let i = 0; i < indices.length; i++) for (let k = 0; k < size; k++) out[i * size + k] = values[indices[i] * size + k];
    return out;
  };
  const positions = expand(from.positions, 3);
  return {
    positions,
    normals: flatNormals(positions),
    ...(from.colours ? { colours: expand(from.colours, 4) } : {}),
    ...(from.uvs ? { uvs: expand(from.uvs, 2) } : {}),
    ...(from.uvs1 ? { uvs1: expand(from.uvs1, 2) } : {}),
  };
}
