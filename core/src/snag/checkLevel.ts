import { barred } from '../earth/water';
import type { Tally } from '../cost/batches';
import { BUDGET_SHARE, DEVICES, type Frame } from '../cost/frame';
import { assembleWith, levelDrawables, needsKernel } from '../cost/parts';
import { costPlaces, placeCosts } from '../cost/places';
import { derivedFigures, type DerivedFigures } from '../body/derived';
import type { BodyFigures } from '../body/bodies';
import type { SolidKernel } from '../block/kernel';
import { marker, ofKind, playerBody, presentBlocks, presentPieces, settingsOf, type Level } from '../level/level';
import type { Pose } from '../level/objects';
import { tanDeg } from '../num/trig';
import { findReach, type Reach } from '../play/reach';
import { walkDots } from '../play/walkDots';
import type { Assets } from '../kit/placement';
import { makeWalkArea } from '../play/walkArea';
import { withAcceptance } from './accept';
import type { Snag } from './finding';
import { findSnags } from './findSnags';
import { overBudget } from './overBudget';
import { tooManyCopies } from './tooManyCopies';

/** The whole check of a level, as the CLI prints it and the Levels page sums it up. */
export interface Check {
  size: { width: number; depth: number; tilesX: number; tilesZ: number; spacing: number; lowest: number; highest: number; blocks: number };
  bodies: { id: string; name: string; player: boolean; figures: BodyFigures; derived: DerivedFigures }[];
  reach: Reach & { body: string };
  cost: { device: string; view: string; drawn: Tally; frame: Frame; budget: number; over: boolean; estimate: true };
  snags: Snag[];
}

/** A view of the whole level from the south, above: where no better place is known. */
export function overviewPose(width: number, depth: number, height: number): Pose {
  return { view: 'orbit', target: [width / 2, height, depth / 2], yaw: 0, pitch: -32, distance: Math.max(width, depth) * 0.95 };
}

/** Share of a check that its progress gives to cutting solids. */
const CUTTING = 0.2;

/**
 * @param onProgress share done; false stops, and the result is `undefined`
 * @param assets the level's meshes, see io/readAssets
 * @param kernel for a level with voids or shapes, see `needsKernel`
 */
export function checkLevel(level: Level, onProgress?: (done: number) => boolean, assets: Assets = new Map(), kernel?: SolidKernel): Check | undefined {
  const cutting = onProgress && needsKernel(level) ? CUTTING : 0;
  const parts = assembleWith(level, assets, kernel, { onCut: onProgress && ((share) => onProgress(cutting * share)) });
  if (!parts) return undefined;
  const { terrain } = parts;
  // Movers come and go: nothing may count on standing on one, or on being stopped by it.
  const blocks = parts.blocks.filter((b) => !b.stops && !b.background);
  const { grid } = terrain;
  const settings = settingsOf(level);
  const body = playerBody(level);
  const entry = marker(level, 'entry')?.at;
  const area = makeWalkArea(body.figures, grid);
  const on = { terrain: barred(terrain, parts.waters, body.figures.wade), blocks, meshes: parts.solids };
  if (area.update(on, onProgress && ((share) => onProgress(cutting + (1 - cutting) * share)), entry) === undefined) return undefined;
  const reach = findReach(area, entry, marker(level, 'objective')?.at);
  const dots = walkDots(area, entry);
  let lowest = Infinity;
  let highest = -Infinity;
  for (const h of terrain.heights) {
    if (h < lowest) lowest = h;
    if (h > highest) highest = h;
  }
  const device = DEVICES[settings.device];
  const known = costPlaces(level);
  const places = placeCosts(
    level,
    levelDrawables(parts),
    grid.spacing,
    known.length > 0 ? known : [{ name: 'overview', pose: overviewPose(grid.width, grid.depth, (lowest + highest) / 2) }],
  );
  const [worst] = places;
  const budget = device.target * BUDGET_SHARE;
  return {
    size: {
      width: grid.width,
      depth: grid.depth,
      tilesX: grid.tilesX,
      tilesZ: grid.tilesZ,
      spacing: grid.spacing,
      lowest,
      highest,
      blocks: presentBlocks(level).length,
    },
    bodies: ofKind(level, 'body').map((b) => ({
      id: b.id,
      name: b.name,
      player: b.id === body.id,
      figures: b.figures,
      derived: derivedFigures(b.figures, Math.max(grid.width, grid.depth), tanDeg(b.figures.maxSlope)),
    })),
    reach: { ...reach, body: body.name },
    cost: { device: device.name, view: worst.name, drawn: worst.sums.all, frame: worst.frame, budget, over: worst.frame.frame > budget, estimate: true },
    snags: [
      ...findSnags({
        ...parts,
        blocks: parts.blocks.filter((b) => !b.background),
        solids: presentBlocks(level),
        gaps: ofKind(level, 'gap'),
        playBounds: ofKind(level, 'playBounds'),
        placed: parts.pieces,
        walls: parts.solids,
        pieces: presentPieces(level),
        plants: ofKind(level, 'plant'),
        body: body.figures,
        reach,
        dots,
      }),
      ...overBudget(level, places),
      ...tooManyCopies(level),
    ].map((snag) => withAcceptance(level, snag)),
  };
}
