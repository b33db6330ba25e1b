import { useEffect, useState } from 'react';
import type { Terrain } from '@rammer/core/earth/compose';
import { aroundLift } from '@rammer/core/earth/volume';
import type { Session } from '../store/session';

/** The ground below a lift, once the level has been still for a moment. */
export function useGroundBelow(session: Session, lift: string, revision: number): Terrain | undefined {
  const [made, setMade] = useState<{ lift: string; below: Terrain }>();
  useEffect(() => {
    const timer = setTimeout(() => {
      const around = session.composing ? undefined : aroundLift(session.level, session.terrain, lift);
      if (around) setMade({ lift, below: around.below });
    }, 120);
    return () => clearTimeout(timer);
  }, [session, lift, revision]);
  // That of another lift is no ground of this one.
  return made?.lift === lift ? made.below : undefined;
}
