import { cameraOf } from '../cost/camera';
import { isCover, type Drawable } from '../cost/drawable';
import { viewTally } from '../cost/tally';
import { fitPlants, whatIf, type Fit, type FitGiven, type FitStep } from '../cost/fitPlants';
import { BUDGET_SHARE, DEVICES, frameOf } from '../cost/frame';
import { instanceDrawables } from '../cost/instances';
import { plantCells } from '../cost/plantCells';
import { costEyes, costPlaces } from '../cost/places';
import type { Plants } from '../growth/plants';
import type { Assets } from '../kit/placement';
import { playerBody, settingsOf, speciesOf, type Level } from '../level/level';
import type { Species } from '../level/objects';
import type { CoverNode } from './nodes/cover';
import type { DrawablesNode } from './nodes/drawables';
import type { TerrainNode } from './nodes/terrain';

/** So often what was reckoned is grown and reckoned anew where it is still over. */
const MOST_TRIES = 4;

interface Of {
  level: Level;
  drawables: DrawablesNode;
  cover: CoverNode;
  terrain: TerrainNode;
  placed: { readonly assets: Assets };
}

/**
 * What would bring a level's plants under its budget at every place it is measured from. Nothing is changed. Thinning is
 * reckoned evenly; which plants go is another matter, so what comes out is grown, and taken further where it is still over.
 *
 * @param tried grows the level with other species in the place of its own
 */
export async function fitToBudget(of: Of, tried: Tried): Promise<Fit> {
  const given = givenOf(of);
  const { budget } = given;
  let fit = fitPlants(given);
  let aim = budget;
  for (let i = 0; i < MOST_TRIES && fit.patches.length > 0; i++) {
    const after = await grownAfter(of, given, fit, tried);
    if (!after) break;
    const reckoned = fit.after.frame;
    fit = { ...fit, after, inside: after.frame <= budget };
    if (fit.inside || reckoned > aim) break;
    // What came out was so much more than what was reckoned: so much lower is aimed at.
    aim -= after.frame - budget + 0.002 * budget;
    fit = fitPlants({ ...given, budget: aim });
  }
  return fit;
}

/**
 * What one kind of step would save of some species, before it is taken: reckoned, and what comes out grown and measured.
 *
 * @param tried as in `fitToBudget`
 */
export async function whatIfTaken(of: Of, ids: ReadonlySet<string>, what: FitStep['what'], tried: Tried): Promise<Fit> {
  const given = givenOf(of);
  const fit = whatIf(given, ids, what);
  const after = fit.patches.length > 0 ? await grownAfter(of, given, fit, tried) : undefined;
  return after ? { ...fit, after, inside: after.frame <= given.budget } : fit;
}

/** Grows a level with other species in the place of its own. */
export type Tried = (species: Species[]) => Promise<readonly Plants[] | undefined>;

function givenOf({ level, drawables, terrain }: Of): FitGiven {
  const device = DEVICES[settingsOf(level).device];
  const { eye } = playerBody(level).figures;
  return {
    drawables: drawables.list,
    species: speciesOf(level),
    places: costPlaces(level).map(({ name, pose }) => ({ name, camera: cameraOf(pose, device.width / device.height, eye) })),
    device,
    spacing: terrain.value.grid.spacing,
    budget: device.target * BUDGET_SHARE,
  };
}

/** Species as a fit would set them. */
export function fittedSpecies(level: Level, { patches }: Pick<Fit, 'patches'>): Species[] {
  const set = new Map(patches.map((p) => [p.id, p.set]));
  return speciesOf(level).map((s): Species => ({ ...s, ...set.get(s.id) }));
}

/** The dearest place once all has grown as a fit would have it. */
async function grownAfter(of: Of, { places, device, spacing }: FitGiven, fit: Fit, tried: Tried): Promise<Fit['after'] | undefined> {
  const { level, drawables, cover, placed } = of;
  const next = fittedSpecies(level, fit);
  const grown = await tried(next);
  if (!grown) return undefined;
  const byId = new Map(next.map((s) => [s.id, s]));
  const list: Drawable[] = [
    ...drawables.list.filter((d) => !d.key.startsWith('plants/') && !isCover(d)),
    ...cover.drawables(costEyes(level), next),
    ...instanceDrawables(plantCells([...grown], byId, placed.assets), placed.assets, byId),
  ];
  const frames = places.map(({ name, camera }) => ({ place: name, frame: frameOf(device, viewTally(list, camera, spacing).all).frame }));
  return frames.reduce((a, b) => (b.frame > a.frame ? b : a), { place: '', frame: 0 });
}
