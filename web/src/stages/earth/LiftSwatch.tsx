import type { Lift } from '@rammer/core/level/objects';

/** Patterns of the strata, one a kind of lift, 16 x 14. */
const MARKS: Record<Lift['lift'], string> = {
  noise: 'M1 9C4 4 6 12 9 7S13 5 15 8',
  landform: 'M1 12L5 4H11L15 12',
  survey: 'M2 12V6M5 12V3M8 12V7M11 12V4M14 12V8',
  weather: 'M4 2L3 5M8 2L7 5M12 2L11 5M1 12C4 12 5 8 8 8S12 12 15 12',
  hand: 'M3 12L6 3M7 12L10 3M11 12L14 3',
  route: 'M1 11H6L10 4H15M1 13H7L11 6H15',
  pad: 'M1 11L4 7H12L15 11',
};

/** A lift as a stratum: its kind told by a pattern. */
export function LiftSwatch({ lift }: { lift: Lift }) {
  return (
    <svg width="16" height="14" className="shrink-0" role="img" aria-label={lift.lift}>
      <rect x="0.5" y="0.5" width="15" height="13" fill={lift.lift === 'hand' ? 'var(--chosen)' : 'var(--raised)'} stroke="var(--ink)" />
      <path d={MARKS[lift.lift]} fill="none" stroke="var(--ink)" />
      <title>{lift.lift}</title>
    </svg>
  );
}
