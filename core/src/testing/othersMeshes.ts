import { Document, WebIO } from '@gltf-transform/core';
import { KHRTextureBasisu } from '@gltf-transform/extensions';
import { strToU8 } from 'fflate';
import { cosDeg, sinDeg } from '../num/trig';
import type { Mesh } from '../num/mesh';
import { jpegPicture, ktx2Picture } from './pictures';

/** Meshes as other people leave them, made by hand: what they are is known. */

/** A box between two corners with its normals and each side over a whole picture: 24 corners, 12 triangles. */
export function boxStreams(min: readonly number[], max: readonly number[]): Mesh & { normals: Float32Array; uvs: Float32Array } {
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const indices: number[] = [];
  for (let axis = 0; axis < 3; axis++)
    for (const high of [0, 1]) {
      const [u, v] = [(axis + 1) % 3, (axis + 2) % 3];
      const first = positions.length / 3;
      for (const [a, b] of [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ]) {
        const p = [0, 0, 0];
        p[axis] = high ? max[axis] : min[axis];
        p[u] = a ? max[u] : min[u];
        p[v] = b ? max[v] : min[v];
        positions.push(...p);
        normals.push(...[0, 1, 2].map((k) => (k === axis ? (high ? 1 : -1) : 0)));
        uvs.push(a, b);
      }
      indices.push(...(high ? [0, 1, 2, 0, 2, 3] : [0, 2, 1, 0, 3, 2]).map((i) => first + i));
    }
  return { positions: Float32Array.from(positions), normals: Float32Array.from(normals), uvs: Float32Array.from(uvs), indices: Uint32Array.from(indices) };
}

/** A crate of 0.8 x 0.8 m, 1 m high, in centimetres and with z up, as glTF with a buffer and a JPEG beside it. */
export async function crateFiles(high = 1): Promise<Record<string, Uint8Array>> {
  const d = new Document();
  const buffer = d.createBuffer('crate.bin').setURI('crate.bin');
  const box = boxStreams([-40, -40, 0], [40, 40, 100 * high]);
  const accessor = (type: 'VEC2' | 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    d
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const texture = d
    .createTexture('planks')
    .setURI('planks.jpg')
    .setMimeType('image/jpeg')
    .setImage(jpegPicture() as Uint8Array<ArrayBuffer>);
  const material = d.createMaterial('planks').setBaseColorTexture(texture).setMetallicFactor(0).setRoughnessFactor(0.8);
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', box.positions))
    .setAttribute('NORMAL', accessor('VEC3', box.normals))
    .setAttribute('TEXCOORD_0', accessor('VEC2', box.uvs))
    .setIndices(accessor('SCALAR', box.indices))
    .setMaterial(material);
  d.createScene('Scene').addChild(d.createNode('Cube').setMesh(d.createMesh('Cube').addPrimitive(primitive)));
  const { json, resources } = await new WebIO().writeJSON(d, { basename: 'crate' });
  return { 'old crate.gltf': strToU8(JSON.stringify(json)), ...resources };
}

/** A wall 2 m long, 2.5 m high and 0.3 m thick as OBJ without its back, in two colours of its MTL. */
export function wallFiles(): Record<string, Uint8Array> {
  const obj = `# a wall, open at the back
mtllib hollow wall.mtl
o wall
v 0 0 0
v 2 0 0
v 2 2.5 0
v 0 2.5 0
v 0 0 -0.3
v 2 0 -0.3
v 2 2.5 -0.3
v 0 2.5 -0.3
usemtl render
f 1 2 3 4
usemtl stone
f 4 3 7 8
f 1 4 8 5
f 2 6 7 3
f 1 5 6 2
`;
  const mtl = `newmtl render
Kd 0.8 0.7 0.6
Ns 10
newmtl stone
Kd 0.4 0.4 0.45
d 1
`;
  return { 'hollow wall.obj': strToU8(obj), 'hollow wall.mtl': strToU8(mtl) };
}

/** A round thing of rings, closed at both ends. @param rings radius and height, foot first */
export function turnedStreams(
  rings: readonly [number, number][],
  sides: number,
  [cx, cz]: readonly [number, number] = [0, 0],
): Mesh & { normals: Float32Array } {
  const positions: number[] = [];
  const normals: number[] = [];
  const indices: number[] = [];
  const at = (ring: number, s: number) => ring * sides + (s % sides);
  for (const [r, y] of rings)
    for (let s = 0; s < sides; s++) {
      const [c, n] = [cosDeg((s * 360) / sides), sinDeg((s * 360) / sides)];
      positions.push(cx + r * c, y, cz + r * n);
      normals.push(c, 0, n);
    }
  for (let ring = 0; ring + 1 < rings.length; ring++)
    for (let s = 0; s < sides; s++) indices.push(at(ring, s), at(ring + 1, s), at(ring + 1, s + 1), at(ring, s), at(ring + 1, s + 1), at(ring, s + 1));
  const last = rings.length - 1;
  for (let s = 1; s + 1 < sides; s++) indices.push(at(0, 0), at(0, s), at(0, s + 1), at(last, 0), at(last, s + 1), at(last, s));
  return { positions: Float32Array.from(positions), normals: Float32Array.from(normals), indices: Uint32Array.from(indices) };
}

/** A birch 6 m high with a trunk of 0.15 m radius and a crown of five greens: six materials, 1,992 triangles, as one GLB. */
export async function birchGlb(): Promise<Uint8Array> {
  const d = new Document();
  const buffer = d.createBuffer();
  const mesh = d.createMesh('birch');
  const add = (name: string, [r, g, b]: readonly number[], { positions, normals, indices }: ReturnType<typeof turnedStreams>) => {
    const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
      d
        .createAccessor()
        .setType(type)
        .setArray(array as Float32Array<ArrayBuffer>)
        .setBuffer(buffer);
    mesh.addPrimitive(
      d
        .createPrimitive()
        .setAttribute('POSITION', accessor('VEC3', positions))
        .setAttribute('NORMAL', accessor('VEC3', normals))
        .setIndices(accessor('SCALAR', indices))
        .setMaterial(d.createMaterial(name).setBaseColorFactor([r, g, b, 1]).setMetallicFactor(0).setRoughnessFactor(0.9)),
    );
  };
  add('bark', [0.7, 0.68, 0.62], turnedStreams([[0.15, 0], [0.15, 1.5], [0.1, 4]], 12)); // prettier-ignore
  for (let i = 0; i < 5; i++) {
    const [x, z, y] = [cosDeg(i * 72) * 0.7, sinDeg(i * 72) * 0.7, 3 + i * 0.3];
    const rings = Array.from({ length: 9 }, (_, k): [number, number] => [Math.max(0.02, 1.1 * sinDeg((k * 180) / 8)), y + 0.9 - 0.9 * cosDeg((k * 180) / 8)]);
    add(`leaf ${i + 1}`, [0.16 + i * 0.03, 0.32 + i * 0.04, 0.08], turnedStreams(rings, 22, [x, z]));
  }
  d.createScene('birch').addChild(d.createNode('birch').setMesh(mesh));
  return new WebIO().writeBinary(d);
}

/** A crate of 1 m with its foot at the origin, in a picture that stays packed on the GPU: KTX2 in ETC1S. */
export async function packedCrateGlb(): Promise<Uint8Array> {
  const d = new Document();
  const buffer = d.createBuffer();
  const { positions, normals, uvs, indices } = boxStreams([-0.5, 0, -0.5], [0.5, 1, 0.5]);
  const accessor = (type: 'VEC2' | 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    d
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  d.createExtension(KHRTextureBasisu).setRequired(true);
  const texture = d
    .createTexture('planks')
    .setImage(ktx2Picture() as Uint8Array<ArrayBuffer>)
    .setMimeType('image/ktx2');
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', positions))
    .setAttribute('NORMAL', accessor('VEC3', normals))
    .setAttribute('TEXCOORD_0', accessor('VEC2', uvs))
    .setIndices(accessor('SCALAR', indices))
    .setMaterial(d.createMaterial('planks').setMetallicFactor(0).setBaseColorTexture(texture));
  d.createScene('packed crate').addChild(d.createNode('crate').setMesh(d.createMesh('crate').addPrimitive(primitive)));
  return new WebIO().registerExtensions([KHRTextureBasisu]).writeBinary(d);
}
