import type { BodyFigures } from '../body/bodies';
import { blockGrid } from '../block/grid';
import type { PlacedMesh } from '../block/placedMesh';
import type { Block } from '../level/objects';
import type { Grid } from '../level/tiles';
import type { Vec3 } from '../num/vec';
import { findReach, type Reach } from '../play/reach';
import type { Standing, WalkArea } from '../play/walkArea';
import { walkDots } from '../play/walkDots';
import type { Snag } from '../snag/finding';
import { findSnags, seenBy } from '../snag/findSnags';
import type { SnagInput } from '../snag/input';

/** What one body's walk area is baked from, and what is looked for in it. */
export interface BakeInput {
  grid: Grid;
  heights: Float32Array;
  /** see Terrain */
  barred?: Float32Array;
  /** plain blocks, movers and background with them */
  plain: readonly Block[];
  /** ids of plain blocks that count for nothing, for their group does not */
  passed?: readonly string[];
  /** pieces, built blocks and trunks as they stop a body */
  solids: readonly PlacedMesh[];
  body: BodyFigures;
  entry?: Vec3;
  objective?: Vec3;
  /** of a body that is not the player's: what it may see that it should not, and what it is called */
  looks?: Pick<SnagInput, 'pieces' | 'placed' | 'assets'> & { by: string };
  /** what the checks look at beside these; left out, nothing else is checked (a threat's area) */
  checks?: Omit<SnagInput, 'terrain' | 'blocks' | 'grid' | 'walls' | 'body' | 'reach' | 'dots'>;
}

/** What was found in a walk area. */
export interface Found {
  reach: Reach;
  /** see play/walkDots */
  dots: Float32Array;
  snags: Snag[];
}

/** Nothing may count on standing on what comes and goes, or on being stopped by it. */
export const standingOf = ({ grid, heights, barred, plain, passed = [], solids }: BakeInput): Standing => ({
  terrain: { grid, heights, noise: new Map(), barred },
  blocks: plain.filter((b) => !b.stops && !b.background && !passed.includes(b.id)),
  meshes: solids,
});

/** Looks for the way, the ground that is linked and, where it was asked for, the snags. @param area baked from the same input */
export function lookOver(area: WalkArea, { grid, heights, plain, solids, body, entry, objective, checks, looks }: BakeInput): Found {
  const reach = findReach(area, entry, objective);
  const dots = walkDots(area, entry);
  const terrain = { grid, heights, noise: new Map() };
  const blocks = plain.filter((b) => !b.background);
  const on = { terrain, grid: blockGrid(plain), body, dots };
  const snags = checks ? findSnags({ ...checks, ...on, blocks, walls: solids, reach }) : looks ? seenBy({ ...looks, ...on }) : [];
  return { reach, dots, snags };
}
