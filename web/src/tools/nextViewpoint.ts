import { ofKind } from '@rammer/core/level/level';
import type { Pose, Viewpoint } from '@rammer/core/level/objects';
import type { Session } from '../store/session';

/** The viewpoint after the one that is looked from now, or before it; the first, or last, where it is none of them. */
export function nextViewpoint(session: Session, pose: Pose, by: 1 | -1): Viewpoint | undefined {
  const all = ofKind(session.level, 'viewpoint');
  const now = JSON.stringify(pose);
  const at = all.findIndex((v) => JSON.stringify(v.pose) === now);
  return all[at < 0 ? (by > 0 ? 0 : all.length - 1) : (at + by + all.length) % all.length];
}
