import type { Block } from '../level/objects';
import { blockBounds, blockSolid, blockToLevel, raySolid, type Bounds } from './solid';
import { cellsAlong } from '../num/cellsAlong';
import { Sorted } from '../num/sorted';
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

const isWide = ({ cx0, cz0, cx1, cz1 }: Span): boolean => (cx1 - cx0 + 1) * (cz1 - cz0 + 1) > MOST_CELLS;

/** A grid of which some blocks are so wide that they are found by their bounds. */
class WideGrid extends Map<string, Block[]> {
  private readonly wide = new Map<Block, Span>();

  /** @param order of the blocks in a cell */
  constructor(private readonly order: (a: Block, b: Block) => number) {
    super();
  }

  /** The cell's blocks, wide ones among them. */
  override get(key: string): Block[] | undefined {
    const own = super.get(key);
    if (this.wide.size === 0) return own;
    const [cx, cz] = key.split(',').map(Number);
    const over = [...this.wide].filter(([, span]) => cx >= span.cx0 && cx <= span.cx1 && cz >= span.cz0 && cz <= span.cz1).map(([block]) => block);
    return over.length === 0 ? own : [...(own ?? []), ...over].sort(this.order);
  }

  /** Spans of cells of the wide blocks. */
  spans(): Span[] {
    return [...this.wide.values()];
  }

  put(block: Block): void {
    const span = spanOf(block);
    if (isWide(span)) this.wide.set(block, span);
    else
      overCells(span, (key) => {
        const list = super.get(key);
        if (!list) this.set(key, [block]);
        else {
          let at = list.length;
          while (at > 0 && this.order(list[at - 1], block) > 0) at--;
          list.splice(at, 0, block);
        }
      });
  }

  take(block: Block): void {
    if (this.wide.delete(block)) return;
    overCells(spanOf(block), (key) => {
      const list = super.get(key)!;
      list.splice(list.indexOf(block), 1);
      if (list.length === 0) this.delete(key);
    });
  }
}

function overCells({ cx0, cz0, cx1, cz1 }: Span, each: (key: string) => void): void {
  for (let cx = cx0; cx <= cx1; cx++) for (let cz = cz0; cz <= cz1; cz++) each(`${cx},${cz}`);
}

/** Blocks by cell, those of a cell in the order they are given. */
export function blockGrid(blocks: Iterable<Block>): BlockGrid {
  const places = new Map<Block, number>();
  const grid = new WideGrid((a, b) => places.get(a)! - places.get(b)!);
  for (const block of blocks) {
    places.set(block, places.size);
    grid.put(block);
  }
  return grid;
}

/**
 * Blocks kept by id and by cell as single ones come, change and go: a change looks at the cells it touches and at nothing
 * else. The grid is what `blockGrid` gives of the list.
 */
export class BlockScene {
  private readonly cells = new WideGrid((a, b) => (a.id < b.id ? -1 : 1));
  private readonly sorted = new Sorted<Block>();
  private moved: Bounds[] = [];

  /** It changes with the scene. */
  get grid(): BlockGrid {
    return this.cells;
  }
  /** By id; a list that stays as it is. */
  get list(): readonly Block[] {
    return this.sorted.all;
  }
  get(id: string): Block | undefined {
    return this.sorted.get(id);
  }

  /** A block comes, or takes the place of the one of its id. */
  put(block: Block): void {
    if (this.get(block.id) === block) return;
    this.delete(block.id);
    this.sorted.set(block);
    this.cells.put(block);
    this.moved.push(blockBounds(block));
  }

  delete(id: string): void {
    const before = this.get(id);
    if (!before) return;
    this.cells.take(before);
    this.sorted.delete(id);
    this.moved.push(blockBounds(before));
  }

  /** Where something came, went or changed since this was asked for. */
  takeMoved(): Bounds[] {
    const out = this.moved;
    this.moved = [];
    return out;
  }
}

/** Spans of cells that wide blocks cover besides those in the keys. */
export const wideSpans = (grid: BlockGrid): readonly Span[] => (grid instanceof WideGrid ? grid.spans() : []);

/** Blocks of the cell a point of the plan lies in, see `BlockGrid`. @param x metres @param z metres */
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
