import { blockBounds, namedNormal, solidSpanAt } from '../block/solid';
import { meshTopAt, type PlacedMesh } from '../block/placedMesh';
import { sharedRect, uniteRects, type Rect } from '../earth/rect';
import type { Block } from '../level/objects';
import type { Grid } from '../level/tiles';
import type { Vec3 } from '../num/vec';

/** What stands on the terrain and has a top: blocks as they are massed, and pieces and blocks that are meshes. */
export interface Hosts {
  readonly blocks: readonly Block[];
  readonly meshes: readonly PlacedMesh[];
  /** Those over a rectangle in plan, metres; a few more do no harm. Left out, all are looked at. */
  near?(x0: number, z0: number, x1: number, z1: number): { blocks: readonly Block[]; meshes: readonly PlacedMesh[] };
}

/**
 * The tops of what stands on the terrain over a rectangle of samples, row by row: height in metres and
 * steepness (rise over run) of the highest, NaN where nothing stands. Each top reaches one sample past its
 * edge, so that between samples its edge is mixed from its own.
 */
export interface Tops {
  rect: Rect;
  height: Float32Array;
  steep: Float32Array;
}

/** Samples a host may have a top over, its edge included; nothing where it stands beside the level. */
export function hostRect(grid: Grid, min: Vec3, max: Vec3): Rect | undefined {
  const rect = {
    x0: Math.max(0, Math.floor(min[0] / grid.spacing) - 1),
    z0: Math.max(0, Math.floor(min[2] / grid.spacing) - 1),
    x1: Math.min(grid.nx - 1, Math.ceil(max[0] / grid.spacing) + 1),
    z1: Math.min(grid.nz - 1, Math.ceil(max[2] / grid.spacing) + 1),
  };
  return rect.x0 <= rect.x1 && rect.z0 <= rect.z1 ? rect : undefined;
}

/** @returns nothing where nothing stands in the rectangle */
export function topsIn(grid: Grid, hosts: Hosts, rect: Rect): Tops | undefined {
  // One sample more all around: what stands there reaches in by its edge.
  const wide = { x0: rect.x0 - 1, z0: rect.z0 - 1, x1: rect.x1 + 1, z1: rect.z1 + 1 };
  const part = (min: Vec3, max: Vec3) => {
    const at = hostRect(grid, min, max);
    return at && sharedRect(at, wide);
  };
  const reach = 2 * grid.spacing;
  const near =
    hosts.near?.(wide.x0 * grid.spacing - reach, wide.z0 * grid.spacing - reach, wide.x1 * grid.spacing + reach, wide.z1 * grid.spacing + reach) ?? hosts;
  const blocks = near.blocks.flatMap((block) => {
    const { min, max } = blockBounds(block);
    const at = part(min, max);
    return at ? [{ block, at }] : [];
  });
  const meshes = near.meshes.flatMap((mesh) => {
    const at = part(mesh.min, mesh.max);
    return at ? [{ mesh, at }] : [];
  });
  let all: Rect | undefined;
  for (const { at } of [...blocks, ...meshes]) all = uniteRects(all, at);
  if (!all) return undefined;
  const w = all.x1 - all.x0 + 1;
  const height = new Float32Array(w * (all.z1 - all.z0 + 1)).fill(NaN);
  const steep = new Float32Array(height.length);
  const over = (at: Rect, top: (x: number, z: number) => { height: number; normal: Vec3 } | undefined) => {
    for (let z = at.z0; z <= at.z1; z++) {
      for (let x = at.x0; x <= at.x1; x++) {
        const found = top(x * grid.spacing, z * grid.spacing);
        const i = (z - all.z0) * w + x - all.x0;
        // Of NaN nothing is more.
        if (!found || found.height <= height[i]) continue;
        height[i] = found.height;
        steep[i] = Math.sqrt(found.normal[0] * found.normal[0] + found.normal[2] * found.normal[2]) / Math.max(Math.abs(found.normal[1]), 1e-6);
      }
    }
  };
  for (const { block, at } of blocks) {
    const normals = new Map<string, Vec3>();
    const normalOf = (face: string): Vec3 => normals.get(face) ?? normals.set(face, namedNormal(block, face)).get(face)!;
    over(at, (x, z) => {
      const span = solidSpanAt(block, x, z);
      return span && { height: span.top, normal: normalOf(span.face) };
    });
  }
  for (const { mesh, at } of meshes) over(at, (x, z) => meshTopAt(mesh, x, z, Infinity));
  return cut(withEdges(height, steep, all), rect);
}

/** Each top one sample wider: where nothing stands, the highest of the eight samples around. */
function withEdges(height: Float32Array, steep: Float32Array, rect: Rect): Tops {
  const w = rect.x1 - rect.x0 + 1;
  const d = rect.z1 - rect.z0 + 1;
  const out: Tops = { rect, height: height.slice(), steep };
  for (let i = 0; i < height.length; i++) {
    if (!Number.isNaN(height[i])) continue;
    const x = i % w;
    const z = Math.floor(i / w);
    for (let nz = Math.max(0, z - 1); nz <= Math.min(d - 1, z + 1); nz++) {
      for (let nx = Math.max(0, x - 1); nx <= Math.min(w - 1, x + 1); nx++) {
        const k = nz * w + nx;
        if (Number.isNaN(height[k]) || height[k] <= out.height[i]) continue;
        out.height[i] = height[k];
        out.steep[i] = steep[k];
      }
    }
  }
  return out;
}

/** The part of tops that lies in a rectangle. */
function cut({ rect: from, height, steep }: Tops, to: Rect): Tops | undefined {
  const rect = sharedRect(from, to);
  if (!rect) return undefined;
  const w = rect.x1 - rect.x0 + 1;
  const out: Tops = { rect, height: new Float32Array(w * (rect.z1 - rect.z0 + 1)), steep: new Float32Array(w * (rect.z1 - rect.z0 + 1)) };
  for (let z = rect.z0; z <= rect.z1; z++) {
    const i = (z - from.z0) * (from.x1 - from.x0 + 1) + rect.x0 - from.x0;
    out.height.set(height.subarray(i, i + w), (z - rect.z0) * w);
    out.steep.set(steep.subarray(i, i + w), (z - rect.z0) * w);
  }
  return out;
}
