import { strToU8 } from 'fflate';
import type { GLTF } from '@gltf-transform/core';
import type { Terrain } from '../earth/compose';
import { tileRange } from '../cost/terrainDrawables';
import { normalAt } from '../earth/sample';
import type { Grid } from '../level/tiles';

/** A binary glTF in pieces, so that one of many hundred megabytes need not be in memory at once. */
export interface GlbStream {
  /** of the whole file */
  bytes: number;
  /** the file from its first byte to its last; may be asked for again */
  chunks(): Generator<Uint8Array>;
}

/** Values of an accessor that are made when they are written. */
export interface Streamed {
  /** place in the document's accessors */
  accessor: number;
  type: 'SCALAR' | 'VEC3';
  count: number;
  min?: number[];
  max?: number[];
  index: boolean;
  chunks(): Generator<Float32Array | Uint32Array>;
}

/** What the terrain alone takes in a GLB, bytes: 24 a sample, 24 a quad. */
export const terrainGlbBytes = ({ nx, nz }: Grid): number => nx * nz * 24 + (nx - 1) * (nz - 1) * 24;

/** Rows of samples made at once. */
const ROWS = 32;

/**
 * The terrain at full resolution as streamed values: positions, normals, and the triangles of `terrainMesh`.
 *
 * @param accessors places of the three in the document
 */
export function streamedTerrain(terrain: Terrain, accessors: { positions: number; normals: number; indices: number }): Streamed[] {
  const { nx, nz, spacing, width, depth, tilesX, tilesZ } = terrain.grid;
  function* rows(write: (out: Float32Array, at: number, x: number, z: number) => void): Generator<Float32Array> {
    for (let z0 = 0; z0 < nz; z0 += ROWS) {
      const out = new Float32Array((Math.min(nz, z0 + ROWS) - z0) * nx * 3);
      for (let z = z0, at = 0; z < Math.min(nz, z0 + ROWS); z++) for (let x = 0; x < nx; x++, at += 3) write(out, at, x, z);
      yield out;
    }
  }
  function* triangles(): Generator<Uint32Array> {
    for (let z0 = 0; z0 < nz - 1; z0 += ROWS) {
      const out = new Uint32Array((Math.min(nz - 1, z0 + ROWS) - z0) * (nx - 1) * 6);
      for (let z = z0, o = 0; z < Math.min(nz - 1, z0 + ROWS); z++) {
        for (let x = 0; x < nx - 1; x++) {
          const nw = z * nx + x;
          const sw = nw + nx;
          out[o++] = nw;
          out[o++] = sw;
          out[o++] = sw + 1;
          out[o++] = nw;
          out[o++] = sw + 1;
          out[o++] = nw + 1;
        }
      }
      yield out;
    }
  }
  let [low, high] = [Infinity, -Infinity];
  for (let tz = 0; tz < tilesZ; tz++)
    for (let tx = 0; tx < tilesX; tx++) {
      const [a, b] = tileRange(terrain, tx, tz);
      low = Math.min(low, a);
      high = Math.max(high, b);
    }
  return [
    {
      accessor: accessors.positions,
      type: 'VEC3',
      count: nx * nz,
      index: false,
      min: [0, low, 0],
      max: [width, high, depth],
      chunks: () =>
        rows((out, at, x, z) => {
          out[at] = x * spacing;
          out[at + 1] = terrain.heights[z * nx + x];
          out[at + 2] = z * spacing;
        }),
    },
    {
      accessor: accessors.normals,
      type: 'VEC3',
      count: nx * nz,
      index: false,
      chunks: () => rows((out, at, x, z) => out.set(normalAt(terrain, x * spacing, z * spacing), at)),
    },
    { accessor: accessors.indices, type: 'SCALAR', count: (nx - 1) * (nz - 1) * 6, index: true, chunks: triangles },
  ];
}

/**
 * A document with streamed values after its own. What stood in their accessors is no longer referred to.
 *
 * @param bin the document's own buffer
 */
export function glbStream(json: GLTF.IGLTF, bin: Uint8Array, streamed: readonly Streamed[]): GlbStream {
  const views = [...(json.bufferViews ?? [])];
  const accessors = [...(json.accessors ?? [])];
  let length = padded(bin.length);
  for (const s of streamed) {
    const byteLength = s.count * (s.type === 'VEC3' ? 12 : 4);
    views.push({ buffer: 0, byteOffset: length, byteLength, target: s.index ? 34963 : 34962 });
    accessors[s.accessor] = {
      bufferView: views.length - 1,
      type: s.type,
      componentType: s.index ? 5125 : 5126,
      count: s.count,
      ...(s.min ? { min: s.min, max: s.max } : {}),
    };
    length += byteLength;
  }
  const text = strToU8(JSON.stringify({ ...json, bufferViews: views, accessors, buffers: [{ byteLength: length }] }));
  const head = new Uint8Array(12 + 8 + padded(text.length) + 8).fill(0x20);
  const view = new DataView(head.buffer);
  const bytes = head.length + length;
  if (bytes > 0xffff_ffff) throw new RangeError("a GLB holds at most 4 GB: write the terrain's LODs instead");
  [0x46546c67, 2, bytes, padded(text.length), 0x4e4f534a].forEach((v, i) => view.setUint32(i * 4, v, true));
  head.set(text, 20);
  view.setUint32(head.length - 8, length, true);
  view.setUint32(head.length - 4, 0x004e4942, true);
  return {
    bytes,
    *chunks() {
      yield head;
      yield bin;
      if (padded(bin.length) > bin.length) yield new Uint8Array(padded(bin.length) - bin.length);
      for (const s of streamed) for (const values of s.chunks()) yield new Uint8Array(values.buffer, values.byteOffset, values.byteLength);
    },
  };
}

const padded = (n: number): number => Math.ceil(n / 4) * 4;

/** A stream as one array. */
export function joined({ bytes, chunks }: GlbStream): Uint8Array {
  const out = new Uint8Array(bytes);
  let at = 0;
  for (const chunk of chunks()) {
    out.set(chunk, at);
    at += chunk.length;
  }
  return out;
}
