import { cameraOf } from '../cost/camera';
import { fitPlants, type Fit } from '../cost/fitPlants';
import { BUDGET_SHARE, DEVICES } from '../cost/frame';
import { costPlaces } from '../cost/places';
import { playerBody, settingsOf, speciesOf, type Level } from '../level/level';
import type { DrawablesNode } from './nodes/drawables';
import type { TerrainNode } from './nodes/terrain';

/** What would bring a level's plants under its budget at every place it is measured from. Nothing is changed. */
export function fitToBudget({ level, drawables, terrain }: { level: Level; drawables: DrawablesNode; terrain: TerrainNode }): Fit {
  const device = DEVICES[settingsOf(level).device];
  const { eye } = playerBody(level).figures;
  return fitPlants({
    drawables: drawables.list,
    species: speciesOf(level),
    places: costPlaces(level).map(({ name, pose }) => ({ name, camera: cameraOf(pose, device.width / device.height, eye) })),
    device,
    spacing: terrain.value.grid.spacing,
    budget: device.target * BUDGET_SHARE,
  });
}
