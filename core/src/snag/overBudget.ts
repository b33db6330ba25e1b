import type { Snag } from './finding';

/** The estimated frame of the measured view stands over the budget line. @param frame, budget ms */
export function overBudget(device: string, frame: number, budget: number): Snag[] {
  if (frame <= budget) return [];
  return [{ code: 'over-budget', severity: 'warning', message: `${frame.toFixed(1)} ms on ${device}, estimate; the budget line stands at ${budget.toFixed(1)} ms`, mend: 'see on the wall which course spends it' }];
}
