import { useSyncExternalStore } from 'react';

/** How much room there is: `wide`, `narrow` under 1100 px (bench and wall fold), `small` under 820 (staff below), `phone` under 600 (review only). */
export type Room = 'wide' | 'narrow' | 'small' | 'phone';

const LIMITS = [
  ['(max-width: 599px)', 'phone'],
  ['(max-width: 819px)', 'small'],
  ['(max-width: 1099px)', 'narrow'],
] as const;

const watch = (changed: () => void) => {
  const lists = LIMITS.map(([q]) => matchMedia(q));
  for (const l of lists) l.addEventListener('change', changed);
  return () => {
    for (const l of lists) l.removeEventListener('change', changed);
  };
};

export const useRoom = (): Room => useSyncExternalStore(watch, () => LIMITS.find(([q]) => matchMedia(q).matches)?.[1] ?? 'wide');
