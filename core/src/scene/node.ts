import type { Rect } from '../earth/rect';
import type { Aspect } from '../level/kinds/kind';
import type { Level } from '../level/level';
import type { Channel } from '../level/tiles';
import type { Whole } from './whole';

/** Results in the order they follow a change: each is made from the document and from those before it. */
export const NODES = ['terrain', 'waters', 'solids', 'placed', 'ground', 'plants', 'cover', 'drawables', 'cost', 'walk', 'walkAreas', 'snags'] as const;
export type NodeName = (typeof NODES)[number];

/** What of a result is another than it was: samples of the level's rasters, or (`true`) it may be any of it. */
export type Dirt = Rect | true;

/** A change on its way through the nodes: what of the document it touched, and what the nodes before made of it. */
export interface News {
  /** kinds of the objects that came, went or changed */
  readonly kinds: ReadonlySet<string>;
  /** keys of the raster tiles that are others */
  readonly tiles: readonly string[];
  /** the level has another size or another spacing */
  readonly resized: boolean;
  /** the ground made as a whole, in the workers or at the start; its nodes take it on as it is */
  readonly whole?: Whole;
  /** what is another in the nodes before */
  readonly dirt: ReadonlyMap<NodeName, Dirt>;
  /** Whether an object that bears on one of some aspects came, went or changed. */
  touches(...aspects: Aspect[]): boolean;
}

/**
 * A result that is derived from the document: what it is made from is stated, and it is told of nothing else. What
 * is small it does at once; long work it gives to the runner, and tells the scene when that is done.
 */
export interface Node {
  readonly name: NodeName;
  /** aspects of the document it is made from */
  readonly aspects: readonly Aspect[];
  /** channels of the raster tiles it is made from */
  readonly channels: readonly Channel[];
  /** nodes it is made from */
  readonly from: readonly NodeName[];
  /** Takes a change in. @returns what is another now; nothing where it stays as it was, or where the runner is still at it */
  follow(news: News): Dirt | undefined;
  /** the runner is at work for it: it stands as it was until then */
  readonly running: boolean;
}

/** What nodes know of the scene they are part of. */
export interface Host {
  readonly level: Level;
  readonly closed: boolean;
  /** Long work of a node is done: those made from it follow. */
  spread(from: NodeName, dirt: Dirt): void;
  /** Says to the person what went wrong, and what to do: work that was to be done is not. */
  fail(message: string): void;
  /** Says what came out otherwise than they may think. */
  warn(message: string): void;
}
