import { withAcceptance } from '@rammer/core/snag/accept';
import type { Snag } from '@rammer/core/snag/finding';
import type { Session } from './session';
import { useSession } from './useSession';
import { useWalkArea } from './walkArea';

/** The snags of the last bake, open ones first, with the reasons of those that are accepted as the level stands now. */
export function useSnags(session: Session): { open: Snag[]; accepted: Snag[]; known: boolean; stale: boolean } {
  useSession(session);
  const { snags, areas, stale } = useWalkArea();
  const now = snags.map((s) => withAcceptance(session.level, s));
  return { open: now.filter((s) => !s.accepted), accepted: now.filter((s) => s.accepted), known: areas !== undefined, stale };
}
