import { BUDGET_SHARE, DEVICES } from '@rammer/core/cost/frame';
import { settingsOf } from '@rammer/core/level/level';
import { fitToBudget } from '@rammer/core/scene/fitToBudget';
import { usePlanting } from '../store/planting';
import type { Session } from '../store/session';
import { growthWorker } from '../workers/pool';

/** Milliseconds a frame may take on the level's device, plants and all. */
export function budgetOf(session: Session): number {
  return DEVICES[settingsOf(session.level).device].target * BUDGET_SHARE;
}

/** Reckons what would bring the plants under the budget; it is shown, and nothing is changed by it. */
export function planFit(session: Session): void {
  if (session.scene.plants.running) {
    session.say('plants are growing: ask again when they stand', true);
    return;
  }
  const asked = usePlanting.getState().fitting + 1;
  usePlanting.setState({ fit: undefined, fitting: asked, reckoning: true });
  const last = () => usePlanting.getState().fitting === asked;
  void fitToBudget(session.scene, (species) => growthWorker().tried({ species, habitats: [...session.scene.plants.habitats] }))
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
