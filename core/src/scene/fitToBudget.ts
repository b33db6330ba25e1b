import { cameraOf } from '../cost/camera';
import { isCover, viewTally, type Drawable } from '../cost/batches';
import { fitPlants, type Fit } from '../cost/fitPlants';
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
export async function fitToBudget(of: Of, tried: (species: Species[]) => Promise<readonly Plants[] | undefined>): Promise<Fit> {
  const { level, drawables, cover, terrain, placed } = of;
  const device = DEVICES[settingsOf(level).device];
  const { eye } = playerBody(level).figures;
  const { spacing } = terrain.value.grid;
  const species = speciesOf(level);
  const places = costPlaces(level).map(({ name, pose }) => ({ name, camera: cameraOf(pose, device.width / device.height, eye) }));
  const budget = device.target * BUDGET_SHARE;
  const given = { drawables: drawables.list, species, places, device, spacing };
  let fit = fitPlants({ ...given, budget });
  let aim = budget;
  for (let i = 0; i < MOST_TRIES && fit.patches.length > 0; i++) {
    const set = new Map(fit.patches.map((p) => [p.id, p.set]));
    const next = species.map((s): Species => ({ ...s, ...set.get(s.id) }));
    const grown = await tried(next);
    if (!grown) break;
    const byId = new Map(next.map((s) => [s.id, s]));
    const list: Drawable[] = [
      ...drawables.list.filter((d) => !d.key.startsWith('plants/') && !isCover(d)),
      ...cover.drawables(costEyes(level), next),
      ...instanceDrawables(plantCells([...grown], byId, placed.assets), placed.assets, byId),
    ];
    const frames = places.map(({ name, camera }) => ({ place: name, frame: frameOf(device, viewTally(list, camera, spacing).all).frame }));
    const after = frames.reduce((a, b) => (b.frame > a.frame ? b : a));
    const reckoned = fit.after.frame;
    fit = { ...fit, after, inside: after.frame <= budget };
    if (fit.inside || reckoned > aim) break;
    // What came out was so much more than what was reckoned: so much lower is aimed at.
    aim -= after.frame - budget + 0.002 * budget;
    fit = fitPlants({ ...given, budget: aim });
  }
  return fit;
}
