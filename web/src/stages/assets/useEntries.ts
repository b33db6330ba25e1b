import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { AssetSummary } from '@rammer/core/kit/summary';
import { call } from '../../outbox/api';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { entriesOf, type Entry } from './entries';

/** The library of a level, kept up as the level and the server's assets change. */
export function useEntries(session: Session): { entries: Entry[]; error: Error | null } {
  useSession(session);
  const { data, error } = useQuery({ queryKey: ['assets'], queryFn: () => call<AssetSummary[]>('GET', '/api/assets') });
  const { version } = session.level;
  // eslint-disable-next-line react-hooks/exhaustive-deps -- the level is one object that changes: its version says when
  const entries = useMemo(() => entriesOf(session.level, data ?? []), [session, data, version]);
  return { entries, error };
}
