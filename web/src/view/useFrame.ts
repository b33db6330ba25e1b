import { useEffect, useState } from 'react';
import type { LevelView } from './LevelView';

/**
 * Renders the component again after each drawn frame, so that what it shows is what is drawn.
 *
 * @param frames least time between two renders, counted in frame times; the last frame is always shown.
 * Where frames are fast this is not seen; where they are drawn in software, the page's own painting
 * comes out of the same two cores, so what need not stick to the view follows it less often.
 */
export function useDrawnFrame(view: LevelView, frames = 0): number {
  const [n, set] = useState(0);
  useEffect(() => {
    let last = -Infinity;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const render = () => {
      timer = undefined;
      last = performance.now();
      set((k) => k + 1);
    };
    const off = view.onFrame(() => {
      const wait = last + frames * view.governor.lastMs - performance.now();
      clearTimeout(timer);
      if (wait <= 0) render();
      else timer = setTimeout(render, wait);
    });
    return () => {
      off();
      clearTimeout(timer);
    };
  }, [view, frames]);
  return n;
}

/** How often the section and the wall follow a view that moves, in frames. */
export const FOLLOW_FRAMES = 6;
