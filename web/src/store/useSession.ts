import { useSyncExternalStore } from 'react';
import type { Session } from './session';

/** Renders again whenever the level, its saving or its message changes. */
export const useSession = (session: Session): number => useSyncExternalStore(session.watch, () => session.revision);
