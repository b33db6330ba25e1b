import { blockDrawables, blocksByCell, hazeDrawables, terrainDrawables, type Drawable } from '@rammer/core/cost/batches';
import { instanceDrawables, pieceCells, plantCells, waterDrawables } from '@rammer/core/cost/instances';
import { owners } from '@rammer/core/cost/parts';
import { presentOf } from '@rammer/core/level/present';
import { lightingOf } from '@rammer/core/level/lighting';
import type { Session } from './session';

const _last = new WeakMap<Session, { revision: number; list: Drawable[] }>();

/** Everything the open level draws in the game, whether or not a view is open or hides it. */
export function costDrawables(session: Session): Drawable[] {
  const last = _last.get(session);
  if (last?.revision === session.revision) return last.list;
  const { terrain, made, level } = session;
  const cells = [...pieceCells(made.pieces, made.assets), ...plantCells(made.grown, made.speciesById, made.assets)];
  const list = [
    ...terrainDrawables(terrain, made.ground.surfaces, made.ground),
    ...blockDrawables(blocksByCell(made.blocks), made.built),
    ...instanceDrawables(cells, made.assets, owners(level)),
    ...waterDrawables(made.waters),
    ...hazeDrawables(lightingOf(level)),
  ];
  _last.set(session, { revision: session.revision, list });
  return list;
}

/** Whether anything of a level is hidden from view. */
export const hidesAny = ({ made, level }: Session): boolean =>
  presentOf(level.objects)
    .of('plant')
    .some((p) => p.hidden) ||
  made.blocks.some((b) => b.hidden) ||
  made.pieces.some((p) => p.hidden) ||
  made.species.some((s) => s.hidden) ||
  made.waters.some((w) => w.hidden);
