import { create } from 'zustand';
import { CELL } from '@rammer/core/block/grid';
import type { MeshGrid } from '@rammer/core/block/placedMesh';
import { heightAt } from '@rammer/core/earth/sample';
import { carriedBy, footOf, type Carrier } from '@rammer/core/kit/carried';
import { NEAR_ENOUGH, Resting, type Stood } from '@rammer/core/kit/resting';
import { isMade } from '@rammer/core/level/instance';
import { presentOf } from '@rammer/core/level/present';
import type { Mark } from '@rammer/core/num/journal';
import { groundAt } from '@rammer/core/surface/groundAt';
import type { Session } from './session';

/** Ids of what stood on something that has moved since, by the level. */
export const useRedrop = create<{ level?: string; ids: ReadonlySet<string> }>(() => ({ ids: new Set() }));

/** All of a level that stands by itself and may be dropped. */
const standing = (session: Session): Stood[] => {
  const present = presentOf(session.level.objects);
  return [...present.of('piece').filter((p) => !isMade(p.id)), ...present.of('plant').filter((p) => !p.gone && !isMade(p.id))];
};

/** Blocks and meshes as they were when they were last looked at: what one carried is known once it moved. */
class Carriers {
  private readonly known = new Map<string, Carrier>();
  private solids?: Mark;
  private placed?: Mark;

  constructor(private readonly session: Session) {
    this.moved();
  }

  private now(id: string): Carrier | undefined {
    const { solids, placed } = this.session.scene;
    return placed.scene.get(id) ?? solids.plain.get(id);
  }

  /** Those that moved or went since this was asked for, as they were. */
  moved(): Carrier[] {
    const { solids, placed } = this.session.scene;
    const [a, b] = [solids.journal.since(this.solids), placed.journal.since(this.placed)];
    [this.solids, this.placed] = [a.mark, b.mark];
    const ids = a.ids && b.ids ? [...a.ids, ...b.ids] : [...this.known.keys(), ...solids.plain.list.map((s) => s.id), ...placed.list.map((m) => m.id)];
    const out: Carrier[] = [];
    for (const id of ids) {
      const [before, now] = [this.known.get(id), this.now(id)];
      if (before === now) continue;
      if (before) out.push(before);
      if (now) this.known.set(id, now);
      else this.known.delete(id);
    }
    // What may be anything was opened, not moved.
    return a.ids && b.ids ? out : [];
  }
}

/** Watches what stands on ground, blocks and pieces while a level is open. @returns stops */
export function watchGround(session: Session): () => void {
  const resting = new Resting();
  const carriers = new Carriers(session);
  /** what stood on a block or a piece, as it stands */
  const carried = new Map<string, Stood>();
  const ground = (x: number, z: number) => heightAt(session.terrain, x, z);
  const supported = (t: Stood): boolean => {
    const { solids, placed } = session.scene;
    const foot = footOf(t);
    const { height } = groundAt(session.terrain, solids.plain.grid, [t.at[0], foot, t.at[2]], { meshes: withoutSelf(placed.scene.grid, t) });
    return Math.abs(foot - height) <= NEAR_ENOUGH;
  };
  useRedrop.setState({ level: session.id, ids: new Set() });
  resting.prime(standing(session), ground);
  return session.subscribe((change) => {
    const { rect } = change;
    const ids = new Set(useRedrop.getState().ids);
    if (rect) {
      const s = session.terrain.grid.spacing;
      const within = standing(session).filter(
        ({ at: [x, , z] }) => x >= (rect.x0 - 1) * s && x <= (rect.x1 + 1) * s && z >= (rect.z0 - 1) * s && z <= (rect.z1 + 1) * s,
      );
      const { off, on } = resting.moved(within, ground);
      for (const t of on) if (!carried.has(t.id)) ids.delete(t.id);
      for (const t of off) ids.add(t.id);
    }
    if (change.pieces || change.plants || change.blocks) {
      const all = standing(session);
      resting.prime(all, ground);
      const before = carriers.moved();
      if (before.length > 0)
        for (const t of carriedBy(before, all)) {
          carried.set(t.id, t);
          ids.add(t.id);
        }
      if (ids.size > 0) {
        // What is gone, was moved since, or has something under it again is offered no more.
        const here = new Map(all.map((t) => [t.id, t]));
        for (const id of ids) {
          const t = here.get(id);
          const off = t && (carried.get(id) === t ? !supported(t) : resting.moved([t], ground).off.length > 0);
          if (off) continue;
          ids.delete(id);
        }
      }
    }
    const was = useRedrop.getState().ids;
    if (ids.size !== was.size || [...ids].some((id) => !was.has(id))) useRedrop.setState({ level: session.id, ids });
  });
}

/** A grid of meshes as a thing finds it that does not stand on itself. */
function withoutSelf(grid: MeshGrid, t: Stood): MeshGrid {
  const key = `${Math.floor(t.at[0] / CELL)},${Math.floor(t.at[2] / CELL)}`;
  return new Map([[key, (grid.get(key) ?? []).filter((m) => m.id !== t.id)]]);
}
