import { heightAt } from '../earth/sample';
import type { Terrain } from '../earth/compose';
import { blockBounds } from '../block/solid';
import type { Assets } from '../kit/placement';
import type { Block, Kit, Piece } from '../level/objects';

/** A void is a doorway up to this width, from this height on, where its foot is no farther from the ground than this, metres. */
const WIDEST = 4;
const LEAST_HIGH = 1.2;
const STEP_IN = 0.4;

interface Given {
  pieces: Iterable<Piece>;
  kits: readonly Kit[];
  assets: Assets;
  blocks: readonly Block[];
  terrain: Terrain;
}

/** Middles of doorways in plan: door parts of kits and meshes tagged as doors wherever they stand, and voids as high and wide as one that reach the ground. */
export function doorwaysOf({ pieces, kits, assets, blocks, terrain }: Given): [x: number, z: number][] {
  const doors = new Set(kits.flatMap((k) => k.parts.filter((p) => p.use === 'door').map((p) => p.asset)));
  const out: [number, number][] = [];
  for (const p of pieces) if (!p.out && (doors.has(p.asset) || assets.get(p.asset)?.tags.includes('door'))) out.push([p.at[0], p.at[2]]);
  for (const block of blocks) {
    if (block.op !== 'void' || block.out) continue;
    const { min, max } = blockBounds(block);
    const [x, z] = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2];
    const high = max[1] - min[1];
    if (high < LEAST_HIGH || Math.min(block.size[0], block.size[2]) > WIDEST || Math.abs(min[1] - heightAt(terrain, x, z)) > STEP_IN) continue;
    out.push([x, z]);
  }
  return out;
}
