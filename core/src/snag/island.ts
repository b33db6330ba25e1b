import { gapVerdict } from '../body/jump';
import { meshGrid } from '../block/placedMesh';
import { heightAt } from '../earth/sample';
import { groundAt } from '../surface/groundAt';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Islands smaller than this are rims and boulders, m2; and how many are told. */
const LEAST = 16;
const MOST = 8;

/**
 * Ground that a body could stand on and cannot get to: dots of the walk area that the entry does not
 * link to, gathered into islands (a dot stands for a square metre), with the nearest linked ground
 * and what lies between. Tops of blocks and pieces are left out: they are not ground.
 */
export function island(input: SnagInput): Snag[] {
  const { terrain, dots, body } = input;
  const count = dots.length / 4;
  const at = new Map<string, number[]>();
  const linked: number[] = [];
  const key = (x: number, z: number) => `${x},${z}`;
  for (let i = 0; i < count; i++) {
    if (dots[i * 4 + 3] > 0.5) { linked.push(i); continue; }
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
          for (const k of at.get(key(dots[i * 4] + dx, dots[i * 4 + 2] + dz)) ?? []) {
            if (seen.has(k) || Math.abs(dots[k * 4 + 1] - dots[i * 4 + 1]) > 1.2) continue;
            seen.add(k);
            queue.push(k);
          }
        }
      }
    }
    if (members.length >= LEAST) islands.push(members);
  }
  islands.sort((a, b) => b.length - a.length);
  return islands.slice(0, MOST).map((members): Snag => {
    let best = { d: Infinity, from: members[0], to: linked[0] };
    for (const i of members) {
      for (const k of linked) {
        const dx = dots[i * 4] - dots[k * 4];
        const dz = dots[i * 4 + 2] - dots[k * 4 + 2];
        const d = dx * dx + dz * dz;
        if (d < best.d) best = { d, from: i, to: k };
      }
    }
    const rise = dots[best.from * 4 + 1] - dots[best.to * 4 + 1];
    const gap = Math.sqrt(best.d);
    const wall = between(input, dots.subarray(best.to * 4, best.to * 4 + 3), dots.subarray(best.from * 4, best.from * 4 + 3));
    const verdict = wall ? 'impossible' : gapVerdict(body, gap, rise);
    const where = `${gap.toFixed(0)} m away and ${Math.abs(rise).toFixed(1)} m ${rise >= 0 ? 'up' : 'down'}`;
    return {
      code: verdict === 'impossible' ? 'ground-unreachable' : 'gap',
      severity: 'warning', at: [dots[best.from * 4], dots[best.from * 4 + 1], dots[best.from * 4 + 2]],
      message: `${members.length} m² of ground cannot be walked to: the nearest way is ${where}${wall ? `, behind ${wall}` : verdict === 'impossible' ? '' : `, a jump that is ${verdict}`}`,
      mend: verdict === 'impossible' ? 'link it with a ramp or steps, or close it off' : 'mark the jump for the player, or bridge it',
    };
  });
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
