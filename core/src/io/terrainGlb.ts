import { Document, WebIO } from '@gltf-transform/core';
import type { Terrain } from '../earth/compose';
import { TERRAIN_LOD_STRIDES } from '../earth/mesh';
import { normalAt } from '../earth/sample';

/** The finest mesh has no more vertices than this: a larger level begins at every second sample, or fourth. */
const MOST_VERTICES = 1_100_000;

/** One level of detail: samples from one vertex to the next, and its triangles. */
export interface TerrainLod {
  name: string;
  stride: number;
  triangles: number;
}

/**
 * The terrain alone as binary glTF 2.0, a node a level of detail, `terrain_LOD0` the finest, all in one
 * place; metres, Y up. Texture coordinates run from 0 to 1 over the level, v from the north, as the
 * exported pictures of weights and ground lie.
 */
export async function terrainLodsToGlb(terrain: Terrain): Promise<{ glb: Uint8Array; lods: TerrainLod[] }> {
  const { nx, nz, spacing } = terrain.grid;
  const document = new Document();
  document.getRoot().getAsset().generator = 'Rammer';
  const buffer = document.createBuffer();
  const scene = document.createScene('terrain');
  document.getRoot().setDefaultScene(scene);
  const material = document.createMaterial('ground').setBaseColorFactor([0.35, 0.36, 0.27, 1]).setRoughnessFactor(1).setMetallicFactor(0);
  const accessor = (type: 'VEC2' | 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer);
  const lods: TerrainLod[] = [];
  for (const stride of TERRAIN_LOD_STRIDES) {
    const [w, d] = [(nx - 1) / stride + 1, (nz - 1) / stride + 1];
    if (w * d > MOST_VERTICES) continue;
    const positions = new Float32Array(w * d * 3);
    const normals = new Float32Array(w * d * 3);
    const places = new Float32Array(w * d * 2);
    for (let z = 0, i = 0; z < d; z++) {
      for (let x = 0; x < w; x++, i++) {
        const [px, pz] = [x * stride * spacing, z * stride * spacing];
        positions[i * 3] = px;
        positions[i * 3 + 1] = terrain.heights[z * stride * nx + x * stride];
        positions[i * 3 + 2] = pz;
        normals.set(normalAt(terrain, px, pz), i * 3);
        places[i * 2] = x / (w - 1);
        places[i * 2 + 1] = z / (d - 1);
      }
    }
    const indices = new Uint32Array((w - 1) * (d - 1) * 6);
    for (let z = 0, o = 0; z < d - 1; z++) {
      for (let x = 0; x < w - 1; x++, o += 6) {
        const nw = z * w + x;
        const sw = nw + w;
        indices[o] = nw;
        indices[o + 1] = sw;
        indices[o + 2] = sw + 1;
        indices[o + 3] = nw;
        indices[o + 4] = sw + 1;
        indices[o + 5] = nw + 1;
      }
    }
    const name = `terrain_LOD${lods.length}`;
    const primitive = document
      .createPrimitive()
      .setMaterial(material)
      .setAttribute('POSITION', accessor('VEC3', positions))
      .setAttribute('NORMAL', accessor('VEC3', normals))
      .setAttribute('TEXCOORD_0', accessor('VEC2', places))
      .setIndices(accessor('SCALAR', indices));
    scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(primitive)));
    lods.push({ name, stride, triangles: indices.length / 3 });
  }
  return { glb: await new WebIO().writeBinary(document), lods };
}
