import { CELL, blocksNear, type BlockGrid, wideSpans } from '../block/grid';
import { meshTopAt, type MeshGrid } from '../block/placedMesh';
import { solidSpanAt } from '../block/solid';
import type { Terrain } from '../earth/compose';
import { heightAt, steepnessAt } from '../earth/sample';
import { inBand } from '../num/band';
import type { GroundRaster } from '../surface/ground';
import { groundAt } from '../surface/groundAt';
import { onGround, type Masks } from './masks';

/** What a plant can stand on. */
export interface Standable {
  terrain: Terrain;
  blocks: BlockGrid;
  meshes: MeshGrid;
}

/** What a candidate finds where it would stand. */
export interface Spot {
  height: number;
  gradient: number;
  top: boolean;
}

/** Which 16 m cells hold a block or a piece: everywhere else the terrain is the only host. */
export interface Hosts {
  across: number;
  down: number;
  built: Uint8Array;
}

/** What plants may stand on, looked up by cell. */
export function hostsOf(input: Standable): Hosts {
  const { width, depth } = input.terrain.grid;
  const across = Math.max(1, Math.ceil(width / CELL));
  const down = Math.max(1, Math.ceil(depth / CELL));
  const built = new Uint8Array(across * down);
  for (const grid of [input.blocks, input.meshes]) {
    for (const key of grid.keys()) {
      const [cx, cz] = key.split(',').map(Number);
      if (cx >= 0 && cz >= 0 && cx < across && cz < down) built[cz * across + cx] = 1;
    }
  }
  for (const { cx0, cz0, cx1, cz1 } of wideSpans(input.blocks)) {
    for (let cz = Math.max(0, cz0); cz <= Math.min(down - 1, cz1); cz++) built.fill(1, cz * across + Math.max(0, cx0), cz * across + Math.min(across, cx1 + 1));
  }
  return { across, down, built };
}

/** The highest host over a point in plan, written to `out`. */
export function spotAt(input: Standable, hosts: Hosts, x: number, z: number, out: Spot): Spot {
  out.height = heightAt(input.terrain, x, z);
  out.top = false;
  if (hosts.built[Math.floor(z / CELL) * hosts.across + Math.floor(x / CELL)] === 1) {
    const meshes = input.meshes.get(`${Math.floor(x / CELL)},${Math.floor(z / CELL)}`);
    const covered =
      blocksNear(input.blocks, x, z).some((b) => {
        const s = solidSpanAt(b, x, z);
        return s !== undefined && s.top > out.height;
      }) || meshes?.some((m) => (meshTopAt(m, x, z, Infinity)?.height ?? -Infinity) > out.height);
    if (covered) {
      const g = groundAt(input.terrain, input.blocks, [x, 1e6, z], { meshes: input.meshes });
      const n = g.normal;
      out.height = g.height;
      out.gradient = Math.sqrt(n[0] * n[0] + n[2] * n[2]) / Math.max(Math.abs(n[1]), 1e-6);
      out.top = g.host.kind !== 'terrain';
      return out;
    }
  }
  out.gradient = steepnessAt(input.terrain, x, z);
  return out;
}

/** How much a rule lets grow at a spot, 0 to 1: the product of its masks. */
export function ruleAt(input: { ground: GroundRaster }, masks: Masks, spot: Spot, x: number, z: number): number {
  if (!masks.on) return 0;
  const bySlope = inBand(masks.slope, spot.gradient);
  if (bySlope === 0) return 0;
  const byHeight = inBand(masks.height, spot.height);
  if (byHeight === 0) return 0;
  if (masks.anyGround && !spot.top) return bySlope * byHeight;
  return bySlope * byHeight * onGround(masks, input.ground, x, z, spot.top);
}
