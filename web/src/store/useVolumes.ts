import { useEffect, useState } from 'react';
import { liftVolumes, type CutAndFill } from '@rammer/core/earth/volume';
import type { Session } from './session';

const NONE: ReadonlyMap<string, CutAndFill> = new Map();

/** Cut and fill of each lift, worked out once the level has been still for a moment; empty while they are stale. */
export function useVolumes(session: Session): ReadonlyMap<string, CutAndFill> {
  const [ticket, setTicket] = useState(0);
  const [made, setMade] = useState<{ ticket: number; volumes: ReadonlyMap<string, CutAndFill> }>();
  useEffect(
    () =>
      session.subscribe((c) => {
        if (c.rect || c.objects) setTicket((n) => n + 1);
      }),
    [session],
  );
  useEffect(() => {
    const timer = setTimeout(() => {
      if (!session.composing) setMade({ ticket, volumes: liftVolumes(session.level, session.terrain) });
    }, 400);
    return () => clearTimeout(timer);
  }, [ticket, session]);
  return made?.ticket === ticket ? made.volumes : NONE;
}
