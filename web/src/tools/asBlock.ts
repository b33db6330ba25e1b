import { assetBounds } from '@rammer/core/kit/asset';
import { blockToLevel } from '@rammer/core/block/solid';
import type { Block } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import type { Thing } from './things';

/**
 * A thing as the box around it, for outlines, dimensions and handles: what is true of a block's edges
 * is true of a piece's bounds.
 */
export function asBlock(session: Session, t: Thing): Block {
  if (t.kind === 'block') return t;
  const assetId = t.kind === 'piece' ? t.asset : session.level.object(t.species)?.kind === 'species' ? (session.level.object(t.species) as { asset: string }).asset : '';
  const asset = session.made.assets.get(assetId);
  const [sx, sy, sz] = t.kind === 'plant' ? [t.scale, t.scale, t.scale] : t.scale ?? [1, 1, 1];
  const { min, max } = asset ? assetBounds(asset) : { min: [-0.5, 0, -0.5] as Vec3, max: [0.5, 1, 0.5] as Vec3 };
  const size = [0, 1, 2].map((k) => Math.max(0.05, (max[k] - min[k]) * [sx, sy, sz][k])) as Vec3;
  const at = blockToLevel(t, ((min[0] + max[0]) / 2) * sx, min[1] * sy, ((min[2] + max[2]) / 2) * sz);
  return { id: t.id, version: t.version, kind: 'block', name: t.name, shape: 'box', size, at, turn: t.turn, hidden: 'hidden' in t ? t.hidden : false, out: 'out' in t ? t.out : false };
}

/** The thing moved and turned as the box around it was. */
export function followBlock<T extends Thing>(session: Session, t: T, moved: Block): T {
  if (t.kind === 'block') return { ...t, at: moved.at, size: moved.size, turn: moved.turn, ...(moved.line ? { line: moved.line, tall: moved.tall, wide: moved.wide } : {}) };
  // The box turns about its own middle; the pivot goes with it.
  const box = asBlock(session, { ...t, at: [0, 0, 0], turn: moved.turn });
  return { ...t, turn: moved.turn, at: [moved.at[0] - box.at[0], moved.at[1] - box.at[1], moved.at[2] - box.at[2]] };
}
