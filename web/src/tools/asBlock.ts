import { handAsset } from '@rammer/core/growth/growing';
import { assetBounds } from '@rammer/core/kit/asset';
import { assetOf } from '@rammer/core/kit/bentAsset';
import { blockBounds, boundsOf, type Bounds } from '@rammer/core/block/solid';
import { atPose, poseOf } from '@rammer/core/level/instance';
import type { Block, Standing } from '@rammer/core/level/objects';
import { isMaker, presentOf, type Maker } from '@rammer/core/level/present';
import { placer } from '@rammer/core/num/pose';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import type { Thing } from './things';

const SMALLEST = 0.05;
const UNIT: Bounds = { min: [-0.5, 0, -0.5], max: [0.5, 1, 0.5] };
/** A marker as something to take hold of: about a figure. */
const MARKER: Bounds = { min: [-0.35, 0, -0.35], max: [0.35, 1.8, 0.35] };

/** The box around a thing in its own axes, before its scale. */
function ownBounds(session: Session, t: Exclude<Thing, Block>): Bounds {
  if (t.kind === 'marker' || t.kind === 'people') return MARKER;
  if (isMaker(t)) return makerBounds(session, t);
  const species = t.kind === 'plant' ? session.level.object(t.species) : undefined;
  const { assets } = session.scene.placed;
  const asset = t.kind === 'piece' ? assetOf(assets, t) : species?.kind === 'species' ? handAsset(species, t, assets) : undefined;
  return asset ? assetBounds(asset) : UNIT;
}

/**
 * A thing as the box around it, for outlines, dimensions and handles: what is true of a block's edges
 * is true of a piece's bounds.
 */
export function asBlock(session: Session, t: Thing): Block {
  if (t.kind === 'block') return t;
  const pose = poseOf(t);
  const { min, max } = ownBounds(session, t);
  const size = [0, 1, 2].map((k) => Math.max(SMALLEST, (max[k] - min[k]) * (pose.scale?.[k] ?? 1))) as Vec3;
  const at = placer(pose)((min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2);
  return {
    id: t.id,
    version: t.version,
    kind: 'block',
    name: t.name,
    shape: 'box',
    size,
    at,
    turn: t.turn,
    ...(pose.tilt ? { tilt: pose.tilt } : {}),
    hidden: t.hidden ?? false,
    out: t.out ?? false,
  };
}

const lineBounds = new WeakMap<Maker, Bounds>();

/** The box around an assembly's master about its pivot, in the master's own axes: what a copy of it fills. Or that of a line. */
function makerBounds(session: Session, maker: Maker): Bounds {
  const known = lineBounds.get(maker);
  if (known) return known;
  const { tilt: _, scale: __, ...upright } = { tilt: undefined, scale: undefined, ...maker };
  const boxes = thingsOfCopy(session, { ...upright, at: [0, 0, 0], turn: 0 }).map((t) => blockBounds(asBlock(session, t)));
  const bounds = boxes.length > 0 ? boundsOf(boxes.flatMap((b) => [b.min, b.max])) : UNIT;
  // A line changes with its pieces; a copy stays as it is when its masters do not.
  if (maker.kind === 'laidLine' && session.scene.placed.assets.size > 0) lineBounds.set(maker, bounds);
  return bounds;
}

/** What stands in a copy or along a line as the level has it now, or as it would at another place. */
export const thingsOfCopy = (session: Session, copy: Maker): Standing[] => presentOf(session.level.objects).would(copy);

/** The thing moved, turned, tilted and sized as the box around it was. */
export function followBlock<T extends Thing>(session: Session, t: T, moved: Block): T {
  if (t.kind === 'block') {
    const { tilt: _, ...own } = t as Block;
    return {
      ...own,
      at: moved.at,
      size: moved.size,
      turn: moved.turn,
      ...(moved.tilt ? { tilt: moved.tilt } : {}),
      ...(moved.line ? { line: moved.line, tall: moved.tall, wide: moved.wide } : {}),
    } as unknown as T;
  }
  const { min, max } = ownBounds(session, t as Exclude<Thing, Block>);
  const was = asBlock(session, t);
  const before = poseOf(t).scale;
  // The box turns about its own middle; the pivot goes with it.
  const scale = moved.size.some((s, k) => Math.abs(s - was.size[k]) > 1e-6) ? (moved.size.map((s, k) => s / Math.max(1e-6, max[k] - min[k])) as Vec3) : before;
  const place = placer({ at: [0, 0, 0], turn: moved.turn, tilt: moved.tilt, scale });
  const [x, y, z] = place((min[0] + max[0]) / 2, min[1], (min[2] + max[2]) / 2);
  return atPose(t, { at: [moved.at[0] - x, moved.at[1] - y, moved.at[2] - z], turn: moved.turn, tilt: moved.tilt, scale });
}

/** The pose of a thing as fields to be set on what it was. */
export function poseFields(was: Thing, is: Thing): Record<string, unknown> {
  const before = poseOf(was);
  const { at, turn, tilt, scale } = poseOf(is);
  return {
    at: at.map(round),
    turn: round(turn),
    ...(tilt || before.tilt ? { tilt: tilt ?? null } : {}),
    ...(is.kind === 'plant'
      ? { scale: typeof is.scale === 'number' ? fine(is.scale) : is.scale.map(fine) }
      : scale || before.scale
        ? { scale: scale?.map(fine) ?? null }
        : {}),
  };
}

const round = (v: number): number => Math.round(v * 1000) / 1000;
const fine = (v: number): number => Math.min(100, Math.max(0.01, Math.round(v * 1e4) / 1e4));
