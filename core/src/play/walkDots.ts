import type { Recast } from './recast';
import type { WalkArea } from './walkArea';
import type { Vec3 } from '../num/vec';

/**
 * The walk area as points a metre apart, for drawing: x, y, z and 1 where the entry's ground links to
 * it or 0, float32 each.
 */
export function walkDots(recast: Recast, area: WalkArea, entry: Vec3 | undefined): Float32Array {
  const linked = entry ? linkedPolys(recast, area, entry) : new Set<number>();
  const out: number[] = [];
  for (let t = 0; t < area.navMesh.getMaxTiles(); t++) {
    const tile = area.navMesh.getTile(t);
    const header = tile.header();
    if (!header) continue;
    const base = area.navMesh.getPolyRefBase(tile);
    for (let p = 0; p < header.polyCount(); p++) {
      const isLinked = linked.has(base + p) ? 1 : 0;
      const poly = tile.polys(p);
      const corners: Vec3[] = [];
      for (let k = 0; k < poly.vertCount(); k++) {
        const at = poly.verts(k) * 3;
        corners.push([tile.verts(at), tile.verts(at + 1), tile.verts(at + 2)]);
      }
      dotsIn(corners, isLinked, out);
    }
  }
  return Float32Array.from(out);
}

/** Metre grid points inside a convex polygon in plan; height from the triangle fan. */
function dotsIn(corners: Vec3[], linked: number, out: number[]): void {
  for (let i = 2; i < corners.length; i++) {
    const [a, b, c] = [corners[0], corners[i - 1], corners[i]];
    const area = (b[0] - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (b[2] - a[2]);
    if (Math.abs(area) < 1e-9) continue;
    for (let x = Math.ceil(Math.min(a[0], b[0], c[0])); x <= Math.max(a[0], b[0], c[0]); x++) {
      for (let z = Math.ceil(Math.min(a[2], b[2], c[2])); z <= Math.max(a[2], b[2], c[2]); z++) {
        const u = ((x - a[0]) * (c[2] - a[2]) - (c[0] - a[0]) * (z - a[2])) / area;
        const v = ((b[0] - a[0]) * (z - a[2]) - (x - a[0]) * (b[2] - a[2])) / area;
        if (u < 0 || v < 0 || u + v >= 1) continue;
        out.push(x, a[1] + (b[1] - a[1]) * u + (c[1] - a[1]) * v, z, linked);
      }
    }
  }
}

/** Polygons that can be walked to from the one nearest the entry, by the mesh's own links. */
function linkedPolys(recast: Recast, area: WalkArea, entry: Vec3): Set<number> {
  const start = area.query.findNearestPoly({ x: entry[0], y: entry[1], z: entry[2] }, { halfExtents: { x: 1, y: 2, z: 1 } });
  const seen = new Set<number>();
  if (!start.success || !start.nearestRef) return seen;
  const queue = [start.nearestRef];
  seen.add(start.nearestRef);
  const none = recast.Detour.DT_NULL_LINK;
  while (queue.length > 0) {
    const { tile, poly } = area.navMesh.getTileAndPolyByRefUnsafe(queue.pop()!);
    for (let l = poly.firstLink(); l !== none && l !== 0xffffffff; l = tile.links(l).next()) {
      const ref = tile.links(l).ref();
      if (ref && !seen.has(ref)) {
        seen.add(ref);
        queue.push(ref);
      }
    }
  }
  return seen;
}
