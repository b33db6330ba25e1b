import { useEffect, useState } from 'react';
import type { LevelView } from './LevelView';

/** Renders the component again after each drawn frame, so that marks sit on what is shown. */
export function useDrawnFrame(view: LevelView): number {
  const [n, set] = useState(0);
  useEffect(() => view.onFrame(() => set((k) => k + 1)), [view]);
  return n;
}
