import { adopted } from '@rammer/core/growth/adopt';
import { PLANT_STRIDE } from '@rammer/core/growth/plants';
import type { PlantObject } from '@rammer/core/level/objects';
import { insideOutline, type Point2 } from '@rammer/core/num/outline';
import { newId, nextName } from '../store/names';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';

/** The most plants that are adopted at once: each is a thing of the level from then on. */
const MOST = 2000;

/** Which generated plants of a species stand in an outline, by their place among them. */
export function generatedIn(session: Session, species: string, outline: readonly Point2[]): number[] {
  const plants = session.scene.plants.grown.find((p) => p.species === species);
  if (!plants) return [];
  const inside: number[] = [];
  for (let i = 0; i < plants.count; i++) {
    const [x, , z] = plants.place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 3);
    if (plants.id[i * 3 + 2] >= 0 && insideOutline([x, z], outline)) inside.push(i);
  }
  return inside;
}

/** Sets the generated plants of a species in an outline by hand, as they stand, in one edit; they are selected then. */
export function adoptIn(session: Session, speciesId: string, outline: readonly Point2[]): boolean {
  const { grown, byId } = session.scene.plants;
  const plants = grown.find((p) => p.species === speciesId);
  const species = byId.get(speciesId);
  const inside = generatedIn(session, speciesId, outline);
  if (!plants || !species || inside.length === 0) {
    session.say('no generated plant stands in it', true);
    return false;
  }
  if (inside.length > MOST) {
    session.say(`${inside.length} stand in it, and ${MOST} are adopted at once: draw a smaller outline`, true);
    return false;
  }
  const first = Number(/\d+$/.exec(nextName(session.level, species.name))![0]);
  const objects = inside.map((i, k): PlantObject => ({ ...adopted(plants, i, species), id: newId('plant'), version: 1, name: `${species.name} ${first + k}` }));
  const done = session.commit({ kind: 'add', objects }, `adopt ${objects.length} ${species.name}`);
  if (done) useUi.getState().select(objects.map((o) => o.id));
  return done;
}
