import { useEffect } from 'react';
import { useBlockDraft } from '../store/blockDraft';
import type { LevelView } from '../view/LevelView';

/** Lets the movers run in the view while nobody walks: in Walk they run by the body's own clock. */
export function useRunning(view: LevelView | undefined, walking: boolean): void {
  const running = useBlockDraft((s) => s.running);
  useEffect(() => {
    if (!view || !running || walking) return;
    const start = performance.now();
    const timer = setInterval(() => view.blocks.runTo((performance.now() - start) / 1000), 50);
    return () => {
      clearInterval(timer);
      view.blocks.runTo(undefined);
    };
  }, [view, running, walking]);
}
