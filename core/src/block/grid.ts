import type { Block } from '../level/objects';
import { blockBounds, blockSolid, blockToLevel, raySolid } from './solid';
import { cellsAlong } from '../num/cellsAlong';
import type { Vec3 } from '../num/vec';

/** Side of a cell, metres: the grid of drawing, picking and culling. */
export const CELL = 16;

/** Blocks by the 16 m cells their plan bounds touch. A flat map from "cx,cz" to blocks. */
export type BlockGrid = Map<string, Block[]>;

/** A block over more cells than this (some 1 km square) is kept beside them: a thousand such blocks would fill tens of millions. */
const MOST_CELLS = 4096;

/** Cells, both ends included. */
export interface Span {
  cx0: number;
  cz0: number;
  cx1: number;
  cz1: number;
}

function spanOf(block: Block): Span {
  const { min, max } = blockBounds(block);
  return { cx0: Math.floor(min[0] / CELL), cz0: Math.floor(min[2] / CELL), cx1: Math.floor(max[0] / CELL), cz1: Math.floor(max[2] / CELL) };
}

/** A grid of which some blocks are so wide that they are found by their bounds. */
class WideGrid extends Map<string, Block[]> {
  constructor(
    private readonly wide: readonly { block: Block; place: number; span: Span }[],
    private readonly places: ReadonlyMap<Block, number>,
  ) {
    super();
  }

  /** The cell's blocks, wide ones among them, in the order they were given. */
  override get(key: string): Block[] | undefined {
    const own = super.get(key);
    const [cx, cz] = key.split(',').map(Number);
    const over = this.wide.filter(({ span }) => cx >= span.cx0 && cx <= span.cx1 && cz >= span.cz0 && cz <= span.cz1);
    if (over.length === 0) return own;
    return [...(own ?? []).map((block) => ({ block, place: this.places.get(block)! })), ...over].sort((a, b) => a.place - b.place).map(({ block }) => block);
  }

  /** Spans of cells of the wide blocks. */
  spans(): Span[] {
    return this.wide.map(({ span }) => span);
  }
}

export function blockGrid(blocks: Iterable<Block>): BlockGrid {
  const all = [...blocks].map((block, place) => ({ block, place, span: spanOf(block) }));
  const isWide = ({ span: { cx0, cz0, cx1, cz1 } }: { span: Span }) => (cx1 - cx0 + 1) * (cz1 - cz0 + 1) > MOST_CELLS;
  const wide = all.filter(isWide);
  const grid: BlockGrid = wide.length === 0 ? new Map() : new WideGrid(wide, new Map(all.map(({ block, place }) => [block, place])));
  // Lists are filled apart from the grid: a wide one merges what it gives.
  const lists = new Map<string, Block[]>();
  for (const { block, span } of all) {
    if (wide.length > 0 && isWide({ span })) continue;
    for (let cx = span.cx0; cx <= span.cx1; cx++) {
      for (let cz = span.cz0; cz <= span.cz1; cz++) {
        const key = `${cx},${cz}`;
        const list = lists.get(key);
        if (list) list.push(block);
        else {
          const made = [block];
          lists.set(key, made);
          grid.set(key, made);
        }
      }
    }
  }
  return grid;
}

/** Spans of cells that wide blocks cover besides those in the keys. */
export const wideSpans = (grid: BlockGrid): readonly Span[] => (grid instanceof WideGrid ? grid.spans() : []);

export const blocksNear = (grid: BlockGrid, x: number, z: number): readonly Block[] => grid.get(`${Math.floor(x / CELL)},${Math.floor(z / CELL)}`) ?? [];

export interface BlockHit {
  block: Block;
  distance: number;
  face: string;
  normal: Vec3;
}

/** Nearest block a ray enters, every one looked at. */
export function rayBlocks(blocks: Iterable<Block>, origin: Vec3, direction: Vec3, far: number): BlockHit | undefined {
  let best: BlockHit | undefined;
  for (const block of blocks) best = nearer(block, origin, direction, far, best);
  return best;
}

/**
 * The same over a grid: only blocks of the cells the ray passes are looked at.
 *
 * @param skip those it goes through
 */
export function rayBlockGrid(grid: BlockGrid, origin: Vec3, direction: Vec3, far: number, skip?: (block: Block) => boolean): BlockHit | undefined {
  let best: BlockHit | undefined;
  cellsAlong(origin, direction, far, CELL, (cx, cz, leaves) => {
    for (const block of grid.get(`${cx},${cz}`) ?? []) if (!skip?.(block)) best = nearer(block, origin, direction, far, best);
    return best !== undefined && best.distance <= leaves;
  });
  return best;
}

function nearer(block: Block, origin: Vec3, direction: Vec3, far: number, best: BlockHit | undefined): BlockHit | undefined {
  // A sphere around the block turns most away before its faces are made.
  const middle = block.tilt ? blockToLevel(block, 0, block.size[1] / 2, 0) : undefined;
  const cx = (middle ? middle[0] : block.at[0]) - origin[0];
  const cy = (middle ? middle[1] : block.at[1] + block.size[1] / 2) - origin[1];
  const cz = (middle ? middle[2] : block.at[2]) - origin[2];
  const along = cx * direction[0] + cy * direction[1] + cz * direction[2];
  const r2 = (block.size[0] * block.size[0] + block.size[1] * block.size[1] + block.size[2] * block.size[2]) / 4;
  if (cx * cx + cy * cy + cz * cz - along * along > r2) return best;
  const solid = blockSolid(block);
  const hit = raySolid(solid, origin, direction);
  // Of two as near the one of the lesser id, in whatever order they are looked at.
  if (!hit || hit.distance > far || (best && (hit.distance > best.distance || (hit.distance === best.distance && best.block.id <= block.id)))) return best;
  return { block, distance: hit.distance, face: solid.faces[hit.face].name, normal: hit.normal };
}
