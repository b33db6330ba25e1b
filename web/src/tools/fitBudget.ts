import { BUDGET_SHARE, DEVICES } from '@rammer/core/cost/frame';
import { settingsOf } from '@rammer/core/level/level';
import { fitToBudget } from '@rammer/core/scene/fitToBudget';
import { usePlanting } from '../store/planting';
import type { Session } from '../store/session';

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
  usePlanting.setState({ fit: fitToBudget(session.scene) });
}

/** Sets species as it was reckoned, in one edit. */
export function takeFit(session: Session): void {
  const { fit } = usePlanting.getState();
  if (!fit || fit.patches.length === 0) return;
  if (session.commit({ kind: 'set', patches: fit.patches }, 'fit plants to the budget')) usePlanting.setState({ fit: undefined });
}
