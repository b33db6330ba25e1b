import type { BodyFigures } from '../body/bodies';
import { derivedFigures, type DerivedFigures } from '../body/derived';
import type { SolidKernel } from '../block/kernel';
import type { Tally } from '../cost/tally';
import { BUDGET_SHARE, DEVICES, type Frame } from '../cost/frame';
import { costPlaces } from '../cost/places';
import type { Assets } from '../kit/placement';
import { ofKind, playerBody, presentBlocks, settingsOf, type Level } from '../level/level';
import type { Pose } from '../level/objects';
import { tanDeg } from '../num/trig';
import type { Reach } from '../play/reach';
import type { Snag } from '../snag/finding';
import { needsKernel, sceneOf } from './parts';

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

export interface CheckOptions {
  /** the level's meshes, see io/readAssets; none */
  assets?: Assets;
  /** for a level with voids or shapes, see `needsKernel` */
  kernel?: SolidKernel;
  /** told the share done; false stops, and there is no result */
  onProgress?(share: number): boolean;
}

/** Makes all of a level in place, bakes its walk area and runs the checks. */
export async function checkLevel(level: Level, { assets = new Map(), kernel, onProgress = () => true }: CheckOptions = {}): Promise<Check | undefined> {
  const cutting = needsKernel(level) ? CUTTING : 0;
  const scene = await sceneOf(level, assets, { kernel, onCut: (share) => onProgress(cutting * share) });
  if (!scene) return undefined;
  const done = await scene.walkAreas.bake((share) => onProgress(cutting + (1 - cutting) * share));
  if (!done) return undefined;
  const { grid, heights } = scene.terrain.value;
  const settings = settingsOf(level);
  const body = playerBody(level);
  let lowest = Infinity;
  let highest = -Infinity;
  for (const h of heights) {
    if (h < lowest) lowest = h;
    if (h > highest) highest = h;
  }
  const device = DEVICES[settings.device];
  const overview = [{ name: 'overview', pose: overviewPose(grid.width, grid.depth, (lowest + highest) / 2) }];
  const places = costPlaces(level).length > 0 ? scene.cost.places : scene.cost.at(overview);
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
    reach: { ...scene.walkAreas.value!.reach, body: body.name },
    cost: { device: device.name, view: worst.name, drawn: worst.sums.all, frame: worst.frame, budget, over: worst.frame.frame > budget, estimate: true },
    snags: scene.snags.at(places),
  };
}
