import { assetBounds } from '@rammer/core/kit/asset';
import { blockBounds, blockToLevel, boundsOf, type Bounds } from '@rammer/core/block/solid';
import { copyBlocks } from '@rammer/core/level/copies';
import { ofKind } from '@rammer/core/level/level';
import type { Block, CopyObject } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import type { Thing } from './things';

/**
 * A thing as the box around it, for outlines, dimensions and handles: what is true of a block's edges
 * is true of a piece's bounds.
 */
export function asBlock(session: Session, t: Thing): Block {
  if (t.kind === 'block') return t;
  if (t.kind === 'copy') {
    const { min, max } = copyBounds(session, t);
    return { id: t.id, version: t.version, kind: 'block', name: t.name, shape: 'box', size: [0, 1, 2].map((k) => Math.max(0.05, max[k] - min[k])) as Vec3, at: blockToLevel(t, (min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2), turn: t.turn, hidden: t.hidden, out: t.out };
  }
  const assetId = t.kind === 'piece' ? t.asset : session.level.object(t.species)?.kind === 'species' ? (session.level.object(t.species) as { asset: string }).asset : '';
  const asset = session.made.assets.get(assetId);
  const [sx, sy, sz] = t.kind === 'plant' ? [t.scale, t.scale, t.scale] : t.scale ?? [1, 1, 1];
  const { min, max } = asset ? assetBounds(asset) : { min: [-0.5, 0, -0.5] as Vec3, max: [0.5, 1, 0.5] as Vec3 };
  const size = [0, 1, 2].map((k) => Math.max(0.05, (max[k] - min[k]) * [sx, sy, sz][k])) as Vec3;
  const at = blockToLevel(t, ((min[0] + max[0]) / 2) * sx, min[1] * sy, ((min[2] + max[2]) / 2) * sz);
  return { id: t.id, version: t.version, kind: 'block', name: t.name, shape: 'box', size, at, turn: t.turn, hidden: 'hidden' in t ? t.hidden : false, out: 'out' in t ? t.out : false };
}

/** The box around an assembly's master about its pivot, in the master's own axes: what a copy of it fills. */
function copyBounds(session: Session, copy: CopyObject): Bounds {
  const of = session.level.object(copy.assembly);
  if (of?.kind !== 'assembly') return { min: [-0.5, 0, -0.5], max: [0.5, 1, 0.5] };
  const corners = copyBlocks({ ...copy, at: [0, 0, 0], turn: 0 }, of, ofKind(session.level, 'block')).flatMap((b) => { const { min, max } = blockBounds(b); return [min, max]; });
  return corners.length > 0 ? boundsOf(corners) : { min: [-0.5, 0, -0.5], max: [0.5, 1, 0.5] };
}

/** The blocks of a copy as the level has them now, or as they would be at another place. */
export function blocksOfCopy(session: Session, copy: CopyObject): Block[] {
  const of = session.level.object(copy.assembly);
  return of?.kind === 'assembly' ? copyBlocks(copy, of, ofKind(session.level, 'block')) : [];
}

/** The thing moved and turned as the box around it was. */
export function followBlock<T extends Thing>(session: Session, t: T, moved: Block): T {
  if (t.kind === 'block') return { ...t, at: moved.at, size: moved.size, turn: moved.turn, ...(moved.line ? { line: moved.line, tall: moved.tall, wide: moved.wide } : {}) };
  // The box turns about its own middle; the pivot goes with it.
  const box = asBlock(session, { ...t, at: [0, 0, 0], turn: moved.turn });
  return { ...t, turn: moved.turn, at: [moved.at[0] - box.at[0], moved.at[1] - box.at[1], moved.at[2] - box.at[2]] };
}
