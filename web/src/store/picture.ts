import { create } from 'zustand';

/** How the level is drawn: `full` for a GPU, `plain` for a machine without; `auto` by how long frames take. */
export const TIERS = ['auto', 'full', 'plain'] as const;
export type TierChoice = (typeof TIERS)[number];
export type Tier = Exclude<TierChoice, 'auto'>;

/** Frames a picture at rest is made of, and those of a still. */
export const REFINED = 32;
export const STILL = 128;

interface Picture {
  choice: TierChoice;
  /** at rest the picture is drawn again and again, finer each time */
  refine: boolean;
  /** wind and waves move while the view does */
  moves: boolean;
  /** what frames said of this machine when it was last looked at */
  last: Tier;
  /** what the view is drawn with now */
  tier: Tier;
  /** whether this browser can draw the full one */
  able: boolean;
  /** frames the picture at rest has, of `REFINED`; none while it moves */
  refined?: number;
  /** a still that is being made: frames drawn, of `STILL` */
  still?: number;
}

const KEY = 'rammer-picture';

type Kept = Pick<Picture, 'choice' | 'refine' | 'moves' | 'last'>;

/** What was chosen in this browser. */
function kept(): Kept {
  const usual: Kept = { choice: 'auto', refine: true, moves: true, last: 'plain' };
  let known: Partial<Kept> = {};
  try {
    known = JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Kept>;
  } catch {
    // What cannot be read is as if nothing had been chosen.
  }
  return { ...usual, ...known, choice: TIERS.find((t) => t === known.choice) ?? usual.choice };
}

const first = kept();
export const usePicture = create<Picture>(() => ({ ...first, tier: 'plain', able: true }));

/** Chooses and keeps it for the next time. */
export function choosePicture(chosen: Partial<Kept>): void {
  usePicture.setState(chosen);
  const { choice, refine, moves, last } = usePicture.getState();
  localStorage.setItem(KEY, JSON.stringify({ choice, refine, moves, last } satisfies Kept));
}
