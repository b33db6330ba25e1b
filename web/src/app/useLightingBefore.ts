import { useEffect, useRef, type RefObject } from 'react';
import type { Lighting } from '@rammer/core/level/objects';
import { lightingOf } from '@rammer/core/level/lighting';
import type { Session } from '../store/session';

/** The lighting as it was before its last change or choice: what `B` shows while it is held. */
export function useLightingBefore(session: Session): RefObject<Lighting | undefined> {
  const before = useRef<Lighting>(undefined);
  useEffect(() => {
    let now = lightingOf(session.level);
    before.current ??= now;
    return session.subscribe((change) => {
      if (!change.objects) return;
      const next = lightingOf(session.level);
      if (next === now) return;
      before.current = now;
      now = next;
    });
  }, [session]);
  return before;
}
