import { BUDGET_SHARE, DEVICES } from '../cost/frame';
import type { PlaceCost } from '../cost/places';
import { settingsOf, type Level } from '../level/level';
import type { Snag } from './finding';

/** The estimated frame of the dearest place, or the memory of the fullest, stands over the device's budget line. @param places dearest first */
export function overBudget(level: Level, places: readonly PlaceCost[]): Snag[] {
  const device = DEVICES[settingsOf(level).device];
  const budget = device.target * BUDGET_SHARE;
  const [worst] = places;
  if (!worst) return [];
  const room = device.memory * BUDGET_SHARE;
  const full = places.reduce((most, p) => (p.sums.all.bytes > most.sums.all.bytes ? p : most));
  const memory: Snag[] =
    full.sums.all.bytes <= room
      ? []
      : [
          {
            code: 'over-memory',
            severity: 'warning',
            at: full.pose.target,
            message: `${Math.round(full.sums.all.bytes / 1e6)} MB on ${device.name}, ${full.name}; the budget line stands at ${Math.round(room / 1e6)} MB`,
            mend: 'see in the budget, by memory, what takes it',
          },
        ];
  if (worst.frame.frame <= budget) return memory;
  return [
    ...memory,
    {
      code: 'over-budget',
      severity: 'warning',
      at: worst.pose.target,
      message: `${worst.frame.frame.toFixed(1)} ms on ${device.name}, estimate, ${worst.name}; the budget line stands at ${budget.toFixed(1)} ms`,
      mend: 'see in the budget what spends it',
    },
  ];
}
