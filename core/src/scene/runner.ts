import type { BuiltBlock } from '../block/build';
import type { Terrain } from '../earth/compose';
import type { SlabSource } from '../earth/slab';
import type { Filled } from '../earth/waters';
import type { Plants } from '../growth/plants';
import type { Asset } from '../kit/asset';
import type { AssetObject, Block, Lift, Surface, Water } from '../level/objects';
import type { GroundRaster, GroundSource } from '../surface/ground';
import type { BakeInput, Found } from './bake';
import type { PlantsInput } from './plantsInput';

/** Noise rasters of lifts by their hash, kept while a lift uses them. */
export type Noise = Map<string, Float32Array>;

/**
 * Where the long work of a scene is done: in workers of the browser, or in place by the CLI and the server. The same
 * functions of core do it, so that a figure is the same figure everywhere.
 */
export interface Runner {
  /** Composes the heights of a whole level. @param source as it is now: what changes later is not seen. Noise that had to be made joins its `noise` */
  compose(source: SlabSource & { noise: Noise }, overtaken: () => boolean): Promise<Terrain>;
  /** Composes the whole ground of a level; what lies on tops is laid later. */
  ground(surfaces: Surface[], source: GroundSource, overtaken: () => boolean): Promise<GroundRaster>;
  /** Fills waters, in their order. @param stack the lifts the terrain is composed from */
  fill(terrain: Terrain, waters: readonly Water[], stack: readonly Lift[]): Promise<Filled[]>;
  /**
   * Builds the solids among some blocks, each less the voids among them that cut it.
   *
   * @throws Error in words for the person
   */
  build(blocks: readonly Block[]): Promise<BuiltBlock[]>;
  /** The same while some are dragged: quick, and not to be kept. `undefined` where it is no longer wanted. */
  preview?(blocks: readonly Block[], moving: ReadonlySet<string>): Promise<BuiltBlock[] | undefined>;
  /** Grows every species anew. */
  grow(input: PlantsInput): Promise<Plants[]>;
  /** Reads the mesh of an asset; without it the scene has the meshes it is given. @throws Error in words for the person */
  asset?(object: AssetObject): Promise<Asset>;
  /**
   * Brings the walk area of a body up to date and looks over it.
   *
   * @param onProgress told the share done; false stops
   * @returns with how many nav tiles were baked; nothing where it was cancelled, or asked for again meanwhile
   */
  bake(input: BakeInput, onProgress: (share: number) => boolean): Promise<(Found & { baked: number }) | undefined>;
  /** Waits until a gesture pauses, so that growing does not begin with each of its steps. */
  pause?(): Promise<void>;
  /** Levels with more samples than this have what touches all of them done by the runner, not at once. */
  readonly mostAtOnce: number;
}
