import { create } from 'zustand';
import { heightAt } from '@rammer/core/earth/sample';
import { Resting, type Stood } from '@rammer/core/kit/resting';
import { isMade } from '@rammer/core/level/instance';
import { presentOf } from '@rammer/core/level/present';
import type { Session } from './session';

/** Ids of what stood on ground that has moved since, by the level. */
export const useRedrop = create<{ level?: string; ids: ReadonlySet<string> }>(() => ({ ids: new Set() }));

/** All of a level that stands by itself and may be dropped. */
const standing = (session: Session): Stood[] => {
  const present = presentOf(session.level.objects);
  return [...present.of('piece').filter((p) => !isMade(p.id)), ...present.of('plant').filter((p) => !p.gone && !isMade(p.id))];
};

/** Watches what stands on the ground while a level is open. @returns stops */
export function watchGround(session: Session): () => void {
  const resting = new Resting();
  const ground = (x: number, z: number) => heightAt(session.terrain, x, z);
  useRedrop.setState({ level: session.id, ids: new Set() });
  resting.prime(standing(session), ground);
  return session.subscribe((change) => {
    const { rect } = change;
    if (rect) {
      const s = session.terrain.grid.spacing;
      const within = standing(session).filter(
        ({ at: [x, , z] }) => x >= (rect.x0 - 1) * s && x <= (rect.x1 + 1) * s && z >= (rect.z0 - 1) * s && z <= (rect.z1 + 1) * s,
      );
      const { off, on } = resting.moved(within, ground);
      if (off.length + on.length > 0) {
        const ids = new Set(useRedrop.getState().ids);
        for (const t of on) ids.delete(t.id);
        for (const t of off) ids.add(t.id);
        useRedrop.setState({ level: session.id, ids });
      }
    }
    if (!change.pieces && !change.plants) return;
    const all = standing(session);
    resting.prime(all, ground);
    const { ids } = useRedrop.getState();
    if (ids.size === 0) return;
    // What is gone or was moved is offered no more.
    const left = all.filter((t) => ids.has(t.id) && resting.moved([t], ground).off.length > 0);
    if (left.length < ids.size) useRedrop.setState({ ids: new Set(left.map((t) => t.id)) });
  });
}
