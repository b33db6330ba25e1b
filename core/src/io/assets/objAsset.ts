import type { Asset, Primitive } from '../../kit/asset';
import { fault, type Outcome } from '../fault';
import { linesOf, OBJ_LIMITS } from '../readObj';
import { flatNormals } from '../../num/flatNormals';
import type { Beside } from './gltfFile';
import { MtlReader } from './mtl';

/**
 * Reads a Wavefront OBJ with the materials and pictures it names: one primitive a material, metres, Y up as it says nothing of
 * either; faces of more than three corners are fanned; without normals it is flat.
 *
 * @param beside files that lie with it
 * @returns faults of `readObj`
 */
export function readObjAsset(bytes: Uint8Array, name: string, beside: Beside): Outcome<Asset> {
  if (bytes.length > OBJ_LIMITS.bytes) return fault('obj-too-large', `${name} is larger than ${OBJ_LIMITS.bytes >> 20} MB`);
  const [v, vt, vn]: [Numbers, Numbers, Numbers] = [new Numbers(3), new Numbers(2), new Numbers(3)];
  const colours = new Numbers(3);
  const mtl = new MtlReader(beside);
  const builders = new Map<number, Builder>();
  let builder: Builder | undefined;
  let triangles = 0;
  let line = 0;
  let lines = 0;
  const use = (material: string): void => {
    const at = mtl.place(material);
    builder = builders.get(at) ?? new Builder(v, vt, vn, colours);
    builders.set(at, builder);
  };
  for (const text of linesOf(bytes)) {
    line++;
    const words = text.trim().split(/\s+/);
    const [word] = words;
    if (word === 'v' || word === 'vt' || word === 'vn') {
      const list = word === 'v' ? v : word === 'vt' ? vt : vn;
      const given = words.slice(1, 1 + list.size).map(Number);
      if (given.length < Math.min(2, list.size) || !given.every(Number.isFinite))
        return fault('obj-not-finite', `${name}, line ${line}: ${word === 'v' ? 'a corner' : 'a value'} that is not ${list.size} numbers`);
      if (word === 'v' && given.some((x) => Math.abs(x) > 1_000_000))
        return fault('obj-size', `${name}, line ${line}: a corner 1000 km away or more. Is it in metres?`);
      list.push(given);
      if (word === 'v' && words.length >= 7) colours.set(v.count - 1, words.slice(4, 7).map(Number));
      if (list.count > OBJ_LIMITS.vertices * 3) return fault('obj-too-large', `${name} has more than ${OBJ_LIMITS.vertices * 3} corners`);
    } else if (word === 'f') {
      if (!builder) use('');
      const wrong = builder!.face(words.slice(1));
      if (wrong) return fault(wrong.code, `${name}, line ${line}: ${wrong.message}`);
      triangles += words.length - 3;
      if (triangles > OBJ_LIMITS.triangles) return fault('obj-too-large', `${name} has more than ${OBJ_LIMITS.triangles} triangles`);
    } else if (word === 'l' || word === 'p') lines++;
    else if (word === 'usemtl') use(text.trim().slice(7).trim().slice(0, 80));
    else if (word === 'mtllib') mtl.read(text.trim().slice(7).trim());
  }
  const lod = [...builders].flatMap(([look, b]): Primitive[] => {
    const made = b.done();
    if (!made) return [];
    const { name: material, alpha } = mtl.materials[look];
    return [{ ...made, material, look, alphaTested: alpha === 'mask' }];
  });
  if (lod.length === 0) return fault('obj-no-triangles', `${name} has no faces: it is no OBJ, or one of points and lines alone`);
  if (lines > 0) mtl.notes.add('points and lines are left out: only triangles are drawn');
  return {
    ok: true,
    value: {
      name,
      role: 'piece',
      collider: 'mesh',
      tags: [],
      trunk: 0,
      lods: [lod],
      textureBytes: mtl.textures.reduce((s, t) => s + t.gpuBytes, 0),
      materials: mtl.materials,
      textures: mtl.textures,
      ...(mtl.notes.size > 0 ? { notes: [...mtl.notes] } : {}),
    },
  };
}

/** A list of numbers, `size` together, that grows. */
class Numbers {
  data = new Float64Array(3 << 10);
  count = 0;
  constructor(readonly size: number) {}
  push(values: readonly number[]): void {
    this.set(this.count, values);
  }
  set(at: number, values: readonly number[]): void {
    while ((at + 1) * this.size > this.data.length) {
      const wider = new Float64Array(this.data.length * 2);
      wider.set(this.data);
      this.data = wider;
    }
    for (let k = 0; k < this.size; k++) this.data[at * this.size + k] = values[k] ?? 0;
    this.count = Math.max(this.count, at + 1);
  }
}

/** Corners of one material, each (position, texture coordinate, normal) once, found by an open hash of the three. */
class Builder {
  private corners = new Int32Array(3 << 8);
  private count = 0;
  private table = new Int32Array(1 << 10).fill(-1);
  private indices: number[] = [];
  private hasUv = true;
  private hasNormal = true;

  constructor(
    private readonly v: Numbers,
    private readonly vt: Numbers,
    private readonly vn: Numbers,
    private readonly colours: Numbers,
  ) {}

  face(words: readonly string[]): { code: string; message: string } | undefined {
    if (words.length < 3) return { code: 'obj-invalid', message: `a face of ${words.length} corners` };
    const face: number[] = [];
    for (const word of words) {
      const [a, b, c] = word.split('/', 3);
      const p = place(a, this.v.count);
      const t = b ? place(b, this.vt.count) : -1;
      const n = c ? place(c, this.vn.count) : -1;
      if (p === undefined || p < 0 || t === undefined || n === undefined) return { code: 'obj-index', message: 'a face names a corner that is not there' };
      if (t < 0) this.hasUv = false;
      if (n < 0) this.hasNormal = false;
      face.push(this.corner(p, t, n));
    }
    for (let i = 2; i < face.length; i++) this.indices.push(face[0], face[i - 1], face[i]);
    return undefined;
  }

  private corner(p: number, t: number, n: number): number {
    const c = this.corners;
    const mask = this.table.length - 1;
    let slot = (Math.imul(p, 73_856_093) ^ Math.imul(t, 19_349_663) ^ Math.imul(n, 83_492_791)) & mask;
    for (; this.table[slot] >= 0; slot = (slot + 1) & mask) {
      const at = this.table[slot] * 3;
      if (c[at] === p && c[at + 1] === t && c[at + 2] === n) return this.table[slot];
    }
    if ((this.count + 1) * 3 > c.length) {
      this.corners = new Int32Array(c.length * 2);
      this.corners.set(c);
    }
    this.corners.set([p, t, n], this.count * 3);
    this.table[slot] = this.count;
    if (++this.count * 2 > this.table.length) this.rehash();
    return this.count - 1;
  }

  private rehash(): void {
    this.table = new Int32Array(this.table.length * 2).fill(-1);
    const mask = this.table.length - 1;
    for (let i = 0; i < this.count; i++) {
      const [p, t, n] = this.corners.subarray(i * 3, i * 3 + 3);
      let slot = (Math.imul(p, 73_856_093) ^ Math.imul(t, 19_349_663) ^ Math.imul(n, 83_492_791)) & mask;
      while (this.table[slot] >= 0) slot = (slot + 1) & mask;
      this.table[slot] = i;
    }
  }

  done(): Omit<Primitive, 'material' | 'alphaTested'> | undefined {
    if (this.indices.length === 0) return undefined;
    // Without normals each triangle has corners of its own.
    const order = this.hasNormal ? Int32Array.from({ length: this.count }, (_, i) => i) : Int32Array.from(this.indices);
    const positions = new Float32Array(order.length * 3);
    const normals = new Float32Array(order.length * 3);
    const uvs = this.hasUv ? new Float32Array(order.length * 2) : undefined;
    const coloured = this.colours.count === this.v.count && this.colours.count > 0;
    const colours = coloured ? new Float32Array(order.length * 4).fill(1) : undefined;
    order.forEach((from, i) => {
      const [p, t, n] = this.corners.subarray(from * 3, from * 3 + 3);
      for (let k = 0; k < 3; k++) {
        positions[i * 3 + k] = this.v.data[p * 3 + k];
        if (this.hasNormal) normals[i * 3 + k] = this.vn.data[n * 3 + k];
        if (colours) colours[i * 4 + k] = this.colours.data[p * 3 + k];
      }
      if (uvs) {
        uvs[i * 2] = this.vt.data[t * 2];
        // OBJ counts v upwards from the picture's foot, glTF downwards from its head.
        uvs[i * 2 + 1] = 1 - this.vt.data[t * 2 + 1];
      }
    });
    const indices = this.hasNormal ? Uint32Array.from(this.indices) : Uint32Array.from(order, (_, i) => i);
    if (this.hasNormal) unitNormals(normals);
    else flatNormals(positions, normals);
    return { positions, normals, indices, ...(colours ? { colours } : {}), ...(uvs ? { uvs } : {}) };
  }
}

/** Place of what an OBJ counts from 1, or from its end: -1 where it says nothing, `undefined` where it is not there. */
function place(word: string, count: number): number | undefined {
  const i = Number(word);
  const at = i < 0 ? count + i : i - 1;
  return Number.isInteger(at) && at >= 0 && at < count ? at : undefined;
}

function unitNormals(n: Float32Array): void {
  for (let o = 0; o < n.length; o += 3) {
    const l = Math.sqrt(n[o] * n[o] + n[o + 1] * n[o + 1] + n[o + 2] * n[o + 2]) || 1;
    for (let k = 0; k < 3; k++) n[o + k] /= l;
  }
}
