import type { Fit, FitStep } from '@rammer/core/cost/fitPlants';
import { BUDGET_SHARE, DEVICES } from '@rammer/core/cost/frame';
import { settingsOf } from '@rammer/core/level/level';
import { upright } from '@rammer/core/growth/upright';
import { costPlaces } from '@rammer/core/cost/places';
import { fitToBudget, fittedSpecies, whatIfTaken, type Tried } from '@rammer/core/scene/fitToBudget';
import { pictureDifference } from '@rammer/core/num/pictureDifference';
import type { LevelView } from '../view/LevelView';
import { usePlanting } from '../store/planting';
import type { Session } from '../store/session';
import { growthWorker } from '../workers/pool';

/** Milliseconds a frame may take on the level's device, plants and all. */
export function budgetOf(session: Session): number {
  return DEVICES[settingsOf(session.level).device].target * BUDGET_SHARE;
}

/** Reckons what would bring the plants under the budget; it is shown, and nothing is changed by it. */
export function planFit(session: Session): void {
  reckon(session, () => fitToBudget(session.scene, tried(session)));
}

/** Reckons what one kind of step would save of the species that are picked; it is shown, and nothing is changed by it. */
export function planWhatIf(session: Session, ids: readonly string[], what: FitStep['what']): void {
  reckon(session, () => whatIfTaken(session.scene, new Set(ids), what, tried(session)));
}

/** Grows what other species would, as they would stand. */
const tried =
  (session: Session): Tried =>
  (species) =>
    growthWorker().tried({ species: species.map((s) => upright(s, session.scene.placed.assets)), habitats: [...session.scene.plants.habitats] });

function reckon(session: Session, plan: () => Promise<Fit>): void {
  if (session.scene.plants.running) {
    session.say('plants are growing: ask again when they stand', true);
    return;
  }
  const asked = usePlanting.getState().fitting + 1;
  usePlanting.setState({ fit: undefined, fitting: asked, reckoning: true });
  const last = () => usePlanting.getState().fitting === asked;
  void plan()
    .then((fit) => {
      if (last()) usePlanting.setState({ fit, reckoning: false });
    })
    .catch((error: Error) => {
      if (last()) usePlanting.setState({ reckoning: false });
      session.say(`it could not be reckoned: ${error.message}`, true);
    });
}

/** Sets species as it was reckoned, in one edit. */
export function takeFit(session: Session): void {
  const { fit } = usePlanting.getState();
  if (!fit || fit.patches.length === 0) return;
  if (session.commit({ kind: 'set', patches: fit.patches }, 'fit plants to the budget')) usePlanting.setState({ fit: undefined });
}

/** Pixels of a picture of what would be lost. */
const LOST = [480, 300] as const;

/** A place the level is measured from: as it is, as it would be, and what is another in it. */
export interface Lost {
  place: string;
  now: ImageData;
  after: ImageData;
  difference: ImageData;
  /** share of its pixels that are others */
  share: number;
}

/** Pictures of what a fit would change for the eye, from the dearest places. Drawn plain: shadows are not in them. */
export async function lostBy(session: Session, view: LevelView, fit: Fit): Promise<Lost[]> {
  const species = fittedSpecies(session.level, fit);
  const grown = await tried(session)(species);
  if (!grown) return [];
  const names = new Set([fit.before.place, fit.after.place]);
  const other = { grown, species };
  const own = { grown: session.scene.plants.grown, species: session.scene.plants.species };
  return costPlaces(session.level)
    .filter(({ name }) => names.has(name))
    .map(({ name, pose }): Lost => {
      const [now, after] = [own, other].map((of) => view.snapshotOther(pose, LOST, of));
      const { data, share } = pictureDifference(now, after);
      return { place: name, now, after, difference: new ImageData(data, now.width, now.height), share };
    });
}
