import { openingVerdict } from '../body/checks';
import { rayBlocks } from '../block/grid';
import { blockBounds, blockToLevel } from '../block/solid';
import { meshGrid, rayMeshes } from '../block/placedMesh';
import type { Vec3 } from '../num/vec';
import { sinCosDeg } from '../num/trig';
import { groundAt } from '../surface/groundAt';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** A lintel hangs at least this far over the ground, and no opening wider than this is a door, metres. */
const HANGS = 0.5;
const WIDEST = 4;
/** A void whose foot is farther than this from the floor is a window or a hatch, metres. */
const STEP_IN = 0.4;
/** How far before and behind a void its floor is looked for, metres. */
const BESIDE = 0.3;

/**
 * Doors too low or too narrow for the body. A door is what a piece tagged so leaves open, what is under a
 * block that hangs with a solid at either end, or a void with one floor before and behind it
 * and a solid at either side. Measured by rays: up from the ground in the
 * middle, and to both sides at half the height.
 */
export function opening(input: SnagInput): Snag[] {
  const { terrain, grid, blocks, placed, assets } = input;
  const meshes = meshGrid(placed);
  const found: Snag[] = [];
  const solid = (from: Vec3, to: Vec3, far: number) => {
    const block = rayBlocks(blocks, from, to, far);
    return rayMeshes(placed, from, to, block?.distance ?? far)?.distance ?? block?.distance;
  };
  const look = (name: string, object: string, at: Vec3, across: Vec3, lintel?: number) => {
    // The floor is looked for from knee height, so that a sunk door counts from the ground in it.
    const floor = groundAt(terrain, grid, [at[0], at[1] + 0.5, at[2]], { meshes }).height;
    const up = lintel === undefined ? solid([at[0], floor + 0.02, at[2]], [0, 1, 0], 6) : lintel - floor - 0.02;
    if (up === undefined) return;
    const height = up + 0.02;
    const chest: Vec3 = [at[0], floor + height / 2, at[2]];
    const left = solid(chest, across, WIDEST);
    const right = solid(chest, [-across[0], 0, -across[2]], WIDEST);
    if (left === undefined || right === undefined || left + right > WIDEST) return;
    const width = left + right;
    const verdict = openingVerdict(input.body, width, height);
    if (verdict === 'clear') return;
    const what = { blocked: 'cannot be passed', crouch: 'is passed crouched only', tight: 'is tight' }[verdict];
    found.push({
      code: `opening-${verdict}`,
      severity: verdict === 'blocked' ? 'blocking' : 'warning',
      at: [at[0], floor, at[2]],
      object,
      message: `${name}: an opening ${width.toFixed(2)} m wide and ${height.toFixed(2)} m high ${what}`,
      mend: `make it at least ${(2 * input.body.radius + 0.3).toFixed(2)} m wide and ${(input.body.height + 0.2).toFixed(2)} m high`,
    });
  };
  for (const piece of input.pieces) {
    if (!assets.get(piece.asset)?.tags.includes('door')) continue;
    if (piece.tilt) continue;
    const [s, c] = sinCosDeg(piece.turn);
    look(piece.name, piece.id, piece.at, [c, 0, -s]);
  }
  for (const block of blocks) {
    if (block.shape !== 'box' || block.tilt) continue;
    const ground = groundAt(terrain, grid, [block.at[0], block.at[1] - 0.03, block.at[2]], { meshes }).height;
    if (block.at[1] - ground < HANGS || block.at[1] - ground > 4) continue;
    const { min, max } = blockBounds(block);
    if (max[0] - min[0] > WIDEST + 3 || max[2] - min[2] > WIDEST + 3) continue;
    const long = block.size[0] >= block.size[2];
    const end = blockToLevel(block, long ? 1 : 0, 0, long ? 0 : 1);
    look(block.name, block.id, [block.at[0], ground, block.at[2]], [end[0] - block.at[0], 0, end[2] - block.at[2]], block.at[1]);
  }
  for (const cut of input.voids) {
    if (cut.tilt) continue;
    // A way through has the same floor before and behind it, at its own foot: a window has a sill, a niche a back.
    const [l, , w] = cut.size;
    const floorAt = (x: number, z: number) => {
      const p = blockToLevel(cut, x, 0, z);
      return groundAt(terrain, grid, [p[0], p[1] + STEP_IN, p[2]], { meshes }).height;
    };
    const level = (x: number, z: number) => Math.abs(floorAt(x, z) - cut.at[1]) <= STEP_IN;
    const through = level(0, w / 2 + BESIDE) && level(0, -w / 2 - BESIDE) ? [1, 0] : level(l / 2 + BESIDE, 0) && level(-l / 2 - BESIDE, 0) ? [0, 1] : undefined;
    if (!through) continue;
    const end = blockToLevel(cut, through[0], 0, through[1]);
    look(cut.name, cut.id, cut.at, [end[0] - cut.at[0], 0, end[2] - cut.at[2]]);
  }
  return found;
}
