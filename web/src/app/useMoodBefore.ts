import { useEffect, useRef, type RefObject } from 'react';
import type { Mood } from '@rammer/core/level/objects';
import { moodOf } from '@rammer/core/mood/moods';
import type { Session } from '../store/session';

/** The mood as it was before its last change or choice: what `B` shows while it is held. */
export function useMoodBefore(session: Session): RefObject<Mood | undefined> {
  const before = useRef<Mood>(undefined);
  useEffect(() => {
    let now = moodOf(session.level);
    before.current ??= now;
    return session.subscribe((change) => {
      if (!change.objects) return;
      const next = moodOf(session.level);
      if (next === now) return;
      before.current = now;
      now = next;
    });
  }, [session]);
  return before;
}
