import { BUDGET_SHARE, DEVICES } from '../cost/frame';
import type { PlaceCost } from '../cost/places';
import { settingsOf, type Level } from '../level/level';
import type { Snag } from './finding';

/** The estimated frame of the dearest place stands over the budget line. @param places dearest first */
export function overBudget(level: Level, places: readonly PlaceCost[]): Snag[] {
  const device = DEVICES[settingsOf(level).device];
  const budget = device.target * BUDGET_SHARE;
  const [worst] = places;
  if (!worst || worst.frame.frame <= budget) return [];
  return [{ code: 'over-budget', severity: 'warning', at: worst.pose.target, message: `${worst.frame.frame.toFixed(1)} ms on ${device.name}, estimate, ${worst.name}; the budget line stands at ${budget.toFixed(1)} ms`, mend: 'see on the wall which course spends it' }];
}
