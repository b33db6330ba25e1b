import { CELL } from '../block/grid';
import type { PlacedMesh } from '../block/placedMesh';
import { blockBounds, blockTriangles } from '../block/solid';
import type { Block } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { merged, type Drawable, type Listed } from './drawable';

/** Bytes a block vertex takes: position 3, normal 3, place on its face 4, height over the base 1, float32 each. */
export const BLOCK_VERTEX_BYTES = 44;

/** The cell a block is drawn in: that of its centre. */
export const drawCell = (block: Block): string => `${Math.floor(block.at[0] / CELL)},${Math.floor(block.at[2] / CELL)}`;

/** Blocks that are drawn, by cell: one mesh and one draw a cell. Voids and taken-out ones are not. */
export function blocksByCell(blocks: Iterable<Block>, listed: Listed = 'all'): Map<string, Block[]> {
  const cells = new Map<string, Block[]>();
  for (const block of blocks) {
    if ((listed === 'seen' && block.hidden) || block.out || block.op === 'void') continue;
    const key = drawCell(block);
    const list = cells.get(key);
    if (list) list.push(block);
    else cells.set(key, [block]);
  }
  return cells;
}

/** @param built blocks that are meshes, by id, see block/build */
export const blockDrawables = (cells: ReadonlyMap<string, readonly Block[]>, built: ReadonlyMap<string, PlacedMesh> = new Map()): Drawable[] =>
  [...cells].map(([cell, blocks]) => blockDrawable(cell, blocks, built));

/** The blocks of a cell as the batch list sees them. @param built see `blockDrawables` */
export function blockDrawable(cell: string, blocks: readonly Block[], built: Pick<ReadonlyMap<string, PlacedMesh>, 'get'>): Drawable {
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  let triangles = 0;
  for (const block of blocks) {
    const mesh = built.get(block.id);
    const b = mesh ?? blockBounds(block);
    for (let k = 0; k < 3; k++) {
      min[k] = Math.min(min[k], b.min[k]);
      max[k] = Math.max(max[k], b.max[k]);
    }
    triangles += mesh ? mesh.indices.length / 3 : blockTriangles(block);
  }
  // Flat shaded: each triangle has its own three vertices.
  const bytes = triangles * 3 * BLOCK_VERTEX_BYTES;
  return merged({ key: `blocks/${cell}`, course: 'blocks', min, max, triangles: [triangles], vertices: [triangles * 3], bytes });
}
