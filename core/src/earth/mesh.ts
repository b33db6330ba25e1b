import { TILE_QUADS } from '../level/tiles';
import type { Terrain } from './compose';
import { gradientAtSample } from './sample';
import type { Mesh } from '../num/mesh';

export type { Mesh };

/** Quads a side of a terrain tile at each LOD. */
export const TERRAIN_LOD_STRIDES = [1, 2, 4, 8, 16, 32] as const;

/** Triangles of a terrain tile at a LOD, skirt included. */
export function terrainTriangles(lod: number): number {
  const q = TILE_QUADS / TERRAIN_LOD_STRIDES[lod];
  return q * q * 2 + q * 4 * 2;
}

/**
 * Indices of a tile's grid of q x q quads with a skirt: vertices 0 .. (q+1)^2 - 1 are the grid row by
 * row, then the rim again, lowered by the skirt, clockwise from the north-west corner. Quads split
 * from north-west to south-east.
 */
export function terrainIndices(lod: number): Uint16Array {
  const q = TILE_QUADS / TERRAIN_LOD_STRIDES[lod];
  const side = q + 1;
  const out = new Uint16Array(terrainTriangles(lod) * 3);
  let o = 0;
  for (let z = 0; z < q; z++) {
    for (let x = 0; x < q; x++) {
      const nw = z * side + x;
      const sw = nw + side;
      out.set([nw, sw, sw + 1, nw, sw + 1, nw + 1], o);
      o += 6;
    }
  }
  const rim = rimOf(q);
  for (let i = 0; i < rim.length; i++) {
    const j = (i + 1) % rim.length;
    const a = side * side + i;
    const b = side * side + j;
    out.set([rim[i], rim[j], b, rim[i], b, a], o);
    o += 6;
  }
  return out;
}

function rimOf(q: number): number[] {
  const side = q + 1;
  const rim: number[] = [];
  for (let x = 0; x < q; x++) rim.push(x);
  for (let z = 0; z < q; z++) rim.push(z * side + q);
  for (let x = q; x > 0; x--) rim.push(q * side + x);
  for (let z = q; z > 0; z--) rim.push(z * side);
  return rim;
}

/** Writes a tile's vertices at a LOD into `out` (length 3 * ((q+1)^2 + 4q)); skirts hang `skirt` m. */
export function terrainPositions(terrain: Terrain, [tx, tz]: readonly [number, number], lod: number, skirt: number, out: Float32Array): void {
  const stride = TERRAIN_LOD_STRIDES[lod];
  const q = TILE_QUADS / stride;
  const { nx, spacing } = terrain.grid;
  let o = 0;
  for (let z = 0; z <= q; z++) {
    for (let x = 0; x <= q; x++) {
      const sx = tx * TILE_QUADS + x * stride;
      const sz = tz * TILE_QUADS + z * stride;
      out[o++] = sx * spacing;
      out[o++] = terrain.heights[sz * nx + sx];
      out[o++] = sz * spacing;
    }
  }
  for (const v of rimOf(q)) {
    out[o++] = out[v * 3];
    out[o++] = out[v * 3 + 1] - skirt;
    out[o++] = out[v * 3 + 2];
  }
}

/** Vertices of a terrain tile at a LOD, its skirt with them. @param lod 0 the finest */
export function terrainVertexCount(lod: number): number {
  const q = TILE_QUADS / TERRAIN_LOD_STRIDES[lod];
  return (q + 1) * (q + 1) + 4 * q;
}

/**
 * Normals of a tile at full resolution as two bytes a sample (x and z, -1..1 to 0..255), 65 x 65,
 * row by row. The tile samples beyond its rim (the apron) so that neighbours agree.
 */
export function tileNormals(terrain: Terrain, tx: number, tz: number, out: Uint8Array, stride: number): void {
  for (let z = 0, o = 0; z <= TILE_QUADS; z++) {
    for (let x = 0; x <= TILE_QUADS; x++, o += stride) {
      const [gx, gz] = gradientAtSample(terrain, tx * TILE_QUADS + x, tz * TILE_QUADS + z);
      const l = Math.sqrt(gx * gx + gz * gz + 1);
      out[o] = Math.round((-gx / l) * 127.5 + 127.5);
      out[o + 1] = Math.round((-gz / l) * 127.5 + 127.5);
    }
  }
}

/**
 * Terrain triangles of a rectangle of quads at full resolution, for the walk area, the walker and
 * export. Quads are inclusive of q0, exclusive of q1; clamped to the level.
 */
export function terrainMesh(terrain: Terrain, qx0 = 0, qz0 = 0, qx1 = terrain.grid.nx - 1, qz1 = terrain.grid.nz - 1): Mesh {
  const { nx, nz, spacing } = terrain.grid;
  const x0 = Math.max(0, qx0);
  const z0 = Math.max(0, qz0);
  const x1 = Math.min(nx - 1, qx1);
  const z1 = Math.min(nz - 1, qz1);
  const w = x1 - x0 + 1;
  const d = z1 - z0 + 1;
  const positions = new Float32Array(w * d * 3);
  const indices = new Uint32Array((w - 1) * (d - 1) * 6);
  for (let z = 0, o = 0; z < d; z++) {
    for (let x = 0; x < w; x++) {
      positions[o++] = (x0 + x) * spacing;
      positions[o++] = terrain.heights[(z0 + z) * nx + x0 + x];
      positions[o++] = (z0 + z) * spacing;
    }
  }
  for (let z = 0, o = 0; z < d - 1; z++) {
    for (let x = 0; x < w - 1; x++) {
      const nw = z * w + x;
      const sw = nw + w;
      indices[o++] = nw;
      indices[o++] = sw;
      indices[o++] = sw + 1;
      indices[o++] = nw;
      indices[o++] = sw + 1;
      indices[o++] = nw + 1;
    }
  }
  return { positions, indices };
}
