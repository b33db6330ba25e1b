import { blockGrid } from '@rammer/core/block/grid';
import { meshGrid } from '@rammer/core/block/placedMesh';
import { blockSolid } from '@rammer/core/block/solid';
import { ownerOf } from '@rammer/core/level/instance';
import { presentOf } from '@rammer/core/level/present';
import type { CopyObject } from '@rammer/core/level/objects';
import { add, type Vec3 } from '@rammer/core/num/vec';
import { groundAt } from '@rammer/core/surface/groundAt';
import type { Session } from '../store/session';
import { mm, setThings, things, type Thing } from './things';

/** A lying mesh is felt at no more points than this. */
const MOST_FEET = 400;

/** The points a thing stands on, in the level: what lies out of the upright is felt all over. */
function feetOf(session: Session, t: Thing): Vec3[] {
  if (t.kind === 'block') return t.tilt ? blockSolid(t).corners : [...blockSolid(t).corners.slice(0, 4), t.at];
  const mesh = t.kind === 'piece' && t.tilt ? session.scene.placed.scene.get(t.id) : undefined;
  if (!mesh) return [t.at];
  const n = mesh.positions.length / 3;
  const step = Math.max(1, Math.ceil(n / MOST_FEET));
  return Array.from({ length: Math.ceil(n / step) }, (_, i): Vec3 => [
    mesh.positions[i * step * 3],
    mesh.positions[i * step * 3 + 1],
    mesh.positions[i * step * 3 + 2],
  ]);
}

/** How far over its own place what a thing may be let into is looked for, metres. */
const above = (t: Thing): number => (t.kind === 'piece' ? Math.max(0, t.sink) + 0.5 : t.kind === 'block' ? 0 : 2);

/**
 * Drops things onto what is below them: a block at its corners, a piece less how far it is sunk.
 *
 * @param together as they are arranged, until the first of them stands; else each by itself
 */
export function dropThings(session: Session, list: readonly Thing[] = things(session), together = false): boolean {
  const ids = new Set(list.map((t) => t.id));
  const isOwn = (id: string) => ids.has(id) || ids.has(ownerOf(id));
  const grid = blockGrid(session.scene.solids.plain.list.filter((b) => !isOwn(b.id)));
  const meshes = meshGrid(session.scene.placed.list.filter((m) => !isOwn(m.id)));
  /** the height a thing stands at by itself */
  const stood = (t: Thing): number => {
    const up = 0.001 + above(t);
    const y = Math.max(...feetOf(session, t).map((p) => groundAt(session.terrain, grid, add(p, [0, up, 0]), { meshes }).height - (p[1] - t.at[1])));
    return y - (t.kind === 'piece' ? t.sink : 0);
  };
  const by = together ? list.reduce((most, t) => Math.max(most, stood(t) - t.at[1]), -Infinity) : undefined;
  return setThings(
    session,
    list,
    (t) => ({ at: [t.at[0], mm(by === undefined ? stood(t) : t.at[1] + by), t.at[2]] }),
    by === undefined ? 'drop' : 'drop together',
  );
}

/** Drops every member of copies onto what is below it: their places of before are the masters' no more. One edit. */
export const dropMembers = (session: Session, copies: readonly CopyObject[]): boolean =>
  dropThings(
    session,
    copies.flatMap((c) => presentOf(session.level.objects).inCopy(c.id)),
  );
