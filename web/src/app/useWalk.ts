import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import { heightAt } from '@rammer/core/earth/sample';
import { marker } from '@rammer/core/level/level';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { startWalk, type WalkMode } from '../tools/walkMode';
import type { LevelView } from '../view/LevelView';

export interface Walking {
  walk?: WalkMode;
  /** the same, for listeners that outlive a render */
  now: RefObject<WalkMode | undefined>;
  /** from a point, or the entry, or the middle of the level */
  begin(at?: Vec3): Promise<void>;
  stop(): void;
}

/** Getting into the body and out of it again. */
export function useWalk(session: Session, view: LevelView | undefined): Walking {
  const [walk, setWalk] = useState<WalkMode>();
  const now = useRef<WalkMode>(undefined);
  const starting = useRef(false);

  const stop = useCallback(() => {
    now.current?.stop();
    now.current = undefined;
    setWalk(undefined);
  }, []);
  useEffect(() => stop, [stop]);

  const begin = useCallback(
    async (at?: Vec3) => {
      if (!view || now.current || starting.current) return;
      const { grid } = session.terrain;
      const middle: Vec3 = [grid.width / 2, heightAt(session.terrain, grid.width / 2, grid.depth / 2), grid.depth / 2];
      starting.current = true;
      try {
        now.current = await startWalk(session, view, at ?? marker(session.level, 'entry')?.at ?? middle);
        setWalk(now.current);
      } catch (error) {
        session.say(`walking could not start: ${(error as Error).message}`, true);
      } finally {
        starting.current = false;
      }
    },
    [session, view],
  );

  return { walk, now, begin, stop };
}
