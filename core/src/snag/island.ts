import { gapVerdict } from '../body/jump';
import { meshGrid } from '../block/placedMesh';
import { heightAt } from '../earth/sample';
import { dotsApart } from '../play/walkDots';
import { groundAt } from '../surface/groundAt';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Islands smaller than this are rims and boulders, m2; and how many are told. */
const LEAST = 16;
const MOST = 8;

/**
 * Ground that a body could stand on and cannot get to: dots of the walk area that the entry does not
 * link to, gathered into islands (a dot stands for the square around it), with the nearest linked ground
 * and what lies between. Tops of blocks and pieces are left out: they are not ground.
 */
export function island(input: SnagInput): Snag[] {
  const { terrain, dots, body } = input;
  const count = dots.length / 4;
  const apart = dotsApart(terrain.grid);
  const at = new Map<string, number[]>();
  const linked: number[] = [];
  const key = (x: number, z: number) => `${x},${z}`;
  for (let i = 0; i < count; i++) {
    if (dots[i * 4 + 3] > 0.5) {
      linked.push(i);
      continue;
    }
    if (Math.abs(dots[i * 4 + 1] - heightAt(terrain, dots[i * 4], dots[i * 4 + 2])) > 0.6) continue;
    const k = key(dots[i * 4], dots[i * 4 + 2]);
    const list = at.get(k);
    if (list) list.push(i);
    else at.set(k, [i]);
  }
  if (linked.length === 0) return [];
  const seen = new Set<number>();
  const islands: number[][] = [];
  for (const first of [...at.values()].flat()) {
    if (seen.has(first)) continue;
    const members: number[] = [];
    const queue = [first];
    seen.add(first);
    while (queue.length > 0) {
      const i = queue.pop()!;
      members.push(i);
      for (let dz = -1; dz <= 1; dz++) {
        for (let dx = -1; dx <= 1; dx++) {
          for (const k of at.get(key(dots[i * 4] + dx * apart, dots[i * 4 + 2] + dz * apart)) ?? []) {
            if (seen.has(k) || Math.abs(dots[k * 4 + 1] - dots[i * 4 + 1]) > 1.2 * apart) continue;
            seen.add(k);
            queue.push(k);
          }
        }
      }
    }
    if (members.length * apart * apart >= LEAST) islands.push(members);
  }
  islands.sort((a, b) => b.length - a.length);
  const near = cellsOf(dots, linked);
  return islands.slice(0, MOST).map((members): Snag => {
    const best = nearestPair(dots, members, near);
    const rise = dots[best.from * 4 + 1] - dots[best.to * 4 + 1];
    const gap = Math.sqrt(best.d);
    const wall = between(input, dots.subarray(best.to * 4, best.to * 4 + 3), dots.subarray(best.from * 4, best.from * 4 + 3));
    const verdict = wall ? 'impossible' : gapVerdict(body, gap, rise);
    const where = `${gap.toFixed(0)} m away and ${Math.abs(rise).toFixed(1)} m ${rise >= 0 ? 'up' : 'down'}`;
    return {
      code: verdict === 'impossible' ? 'ground-unreachable' : 'gap',
      severity: 'warning',
      at: [dots[best.from * 4], dots[best.from * 4 + 1], dots[best.from * 4 + 2]],
      message:
        `${members.length * apart * apart} m² of ground cannot be walked to: the nearest way is ` +
        `${where}${wall ? `, behind ${wall}` : verdict === 'impossible' ? '' : `, a jump that is ${verdict}`}`,
      mend: verdict === 'impossible' ? 'link it with a ramp or steps, or close it off' : 'mark the jump for the player, or bridge it',
    };
  });
}

/** Side of a cell in which linked dots are looked for, metres. */
const CELL = 16;

/** Dots by the cell of plan they lie in, each list in their order. */
export interface DotCells {
  cells: Map<number, number[]>;
  x0: number;
  z0: number;
  x1: number;
  z1: number;
}

const cellKey = (cx: number, cz: number): number => cx * 65_536 + cz;

/** Dots of the walk area by the cell they lie in. @param dots see play/walkDots @param list indexes of those that count */
export function cellsOf(dots: Float32Array, list: readonly number[]): DotCells {
  const out: DotCells = { cells: new Map(), x0: Infinity, z0: Infinity, x1: -Infinity, z1: -Infinity };
  for (const k of list) {
    const [cx, cz] = [Math.floor(dots[k * 4] / CELL), Math.floor(dots[k * 4 + 2] / CELL)];
    const found = out.cells.get(cellKey(cx, cz));
    if (found) found.push(k);
    else out.cells.set(cellKey(cx, cz), [k]);
    out.x0 = Math.min(out.x0, cx);
    out.z0 = Math.min(out.z0, cz);
    out.x1 = Math.max(out.x1, cx);
    out.z1 = Math.max(out.z1, cz);
  }
  return out;
}

/**
 * The two dots nearest each other in plan, one of an island and one that is linked; of equal distances the first
 * in the order of the island, then of the linked. Cells are looked at in rings, no farther than the best so far.
 *
 * @returns `d` the square of their distance, metres
 */
export function nearestPair(dots: Float32Array, members: readonly number[], { cells, x0, z0, x1, z1 }: DotCells): { d: number; from: number; to: number } {
  const best = { d: Infinity, from: -1, to: -1 };
  for (const i of members) {
    const [x, z] = [dots[i * 4], dots[i * 4 + 2]];
    const [cx, cz] = [Math.floor(x / CELL), Math.floor(z / CELL)];
    const rings = Math.max(cx - x0, x1 - cx, cz - z0, z1 - cz);
    let own = { d: Infinity, to: -1 };
    for (let r = Math.max(0, x0 - cx, cx - x1, z0 - cz, cz - z1); r <= rings; r++) {
      // What lies r rings out is farther than r - 1 cells.
      const least = Math.max(0, r - 1) * CELL;
      if (least * least > Math.min(best.d, own.d)) break;
      for (let gz = cz - r; gz <= cz + r; gz++) {
        const step = gz === cz - r || gz === cz + r ? 1 : Math.max(1, 2 * r);
        for (let gx = cx - r; gx <= cx + r; gx += step) {
          for (const k of cells.get(cellKey(gx, gz)) ?? []) {
            const [dx, dz] = [x - dots[k * 4], z - dots[k * 4 + 2]];
            const d = dx * dx + dz * dz;
            if (d < own.d || (d === own.d && k < own.to)) own = { d, to: k };
          }
        }
      }
    }
    if (own.d < best.d) Object.assign(best, own, { from: i });
  }
  return best;
}

/** What stands between two spots higher than a jump from the first one carries. */
function between({ terrain, grid, placed, body }: SnagInput, from: Float32Array, to: Float32Array): string | undefined {
  const meshes = meshGrid(placed);
  const dx = to[0] - from[0];
  const dz = to[2] - from[2];
  const l = Math.sqrt(dx * dx + dz * dz);
  for (let s = 0.1; s < l; s += 0.1) {
    const top = groundAt(terrain, grid, [from[0] + (dx * s) / l, 1e5, from[2] + (dz * s) / l], { meshes });
    if (top.height > from[1] + body.jumpApex) return top.host.kind === 'terrain' ? 'a rise of the ground' : top.host.name;
  }
  return undefined;
}
