import type { BodyFigures } from '../body/bodies';
import type { BlockGrid } from '../block/grid';
import type { PlacedMesh } from '../block/placedMesh';
import type { Terrain } from '../earth/compose';
import type { Assets } from '../kit/placement';
import type { WaterBody } from '../earth/water';
import type { Block, Gap, Kit, Piece, PlantObject, PlayBounds, Species } from '../level/objects';
import type { Reach } from '../play/reach';
import type { GroundRaster } from '../surface/ground';

/** What the checks look at. */
export interface SnagInput {
  terrain: Terrain;
  ground: GroundRaster;
  blocks: readonly Block[];
  grid: BlockGrid;
  /** every block that is in the level, however its solid is made */
  solids: readonly Block[];
  /** gaps that were declared */
  gaps: readonly Gap[];
  playBounds: readonly PlayBounds[];
  /** blocks that cut others */
  voids: readonly Block[];
  pieces: readonly Piece[];
  /** pieces and built blocks as they are seen, in no special order */
  placed: readonly PlacedMesh[];
  /** pieces, built blocks and trunks as they stop a body */
  walls: readonly PlacedMesh[];
  assets: Assets;
  kits: readonly Kit[];
  species: readonly Species[];
  /** set by hand */
  plants: readonly PlantObject[];
  waters: readonly WaterBody[];
  body: BodyFigures;
  reach: Reach;
  /** the walk area as dots, see play/walkDots; empty while there is none */
  dots: Float32Array;
}
