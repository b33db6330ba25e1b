import type { SolidKernel } from '../../block/kernel';
import type { Mesh } from '../../num/mesh';
import { cosDeg, sinDeg } from '../../num/trig';
import { assetBounds, type Asset, type Collider } from '../asset';
import { assetMesh, boxMesh } from '../assetMesh';
import { bentMesh, straightOf } from '../bentAsset';
import { convexParts } from './convexParts';
import type { MendTools } from './tools';

/** Sides of a cylinder and a capsule; they go about the round one, never inside it. */
const SIDES = 24;
/** Rings of the round ends of a capsule. */
const RINGS = 6;

/** The hull of points by the kernel of solids. */
export const hullBy =
  ({ Manifold }: SolidKernel): MendTools['hull'] =>
  (points) => {
    const list: [number, number, number][] = [];
    for (let i = 0; i < points.length; i += 3) list.push([points[i], points[i + 1], points[i + 2]]);
    const made = Manifold.hull(list);
    try {
      if (made.isEmpty() || made.volume() <= 0) return undefined;
      const { vertProperties, triVerts, numProp } = made.getMesh();
      const positions = new Float32Array((vertProperties.length / numProp) * 3);
      for (let i = 0; i < positions.length / 3; i++) positions.set(vertProperties.subarray(i * numProp, i * numProp + 3), i * 3);
      return { positions, indices: Uint32Array.from(triVerts) };
    } finally {
      made.delete();
    }
  };

/**
 * Gives an asset what stops a body. Plain shapes need none of their own; a hull or parts are made of its finest LOD.
 *
 * @param most parts
 */
export function makeCollider(asset: Asset, as: Collider, most: number, tools: MendTools): Asset {
  const { colliders: _, ...rest } = asset;
  if (as !== 'hull' && as !== 'parts') return { ...rest, collider: as };
  const mesh = assetMesh(asset);
  return { ...rest, collider: as, colliders: as === 'hull' ? [tools.hull(mesh.positions) ?? slab(asset)] : convexParts(mesh, most, tools.hull) };
}

/** The box about something flat, a millimetre thick at least. */
function slab(asset: Asset): Mesh {
  const { min, max } = assetBounds(asset);
  const grown = [0, 1, 2].map((k) => Math.max(0, 0.001 - (max[k] - min[k])) / 2);
  return boxMesh([min[0] - grown[0], min[1] - grown[1], min[2] - grown[2]], [max[0] + grown[0], max[1] + grown[1], max[2] + grown[2]]);
}

const shapes = new WeakMap<Asset, Map<Collider, Mesh[]>>();

/**
 * What stops a body at an asset, in its own axes, as closed shapes; worked out once. Hull and parts that were never made are
 * its mesh; shapes of a bent asset are those of the straight one, bent as it is.
 */
export function colliderShapes(asset: Asset, kind: Collider): readonly Mesh[] {
  let known = shapes.get(asset);
  if (!known) shapes.set(asset, (known = new Map()));
  let found = known.get(kind);
  if (!found) known.set(kind, (found = shapesOf(asset, kind)));
  return found;
}

function shapesOf(asset: Asset, kind: Collider): Mesh[] {
  const straight = straightOf(asset);
  if (straight && kind !== 'mesh') return colliderShapes(straight.asset, kind).map((shape) => bentMesh(shape, straight.bend));
  const { min, max } = assetBounds(asset);
  switch (kind) {
    case 'none':
      return [];
    case 'box':
      return [boxMesh(min, max)];
    case 'cylinder':
    case 'capsule': {
      const middle = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2];
      const radius = reachFrom(asset, middle);
      return [turned(middle, kind === 'cylinder' ? flatEnds(radius, min[1], max[1]) : roundEnds(radius, min[1], max[1]))];
    }
    case 'hull':
    case 'parts':
      return asset.colliders ?? [assetMesh(asset)];
    case 'mesh':
      return [assetMesh(asset)];
  }
}

/** Farthest that a vertex of the finest LOD lies from a vertical axis. */
function reachFrom(asset: Asset, [x, z]: readonly number[]): number {
  let most = 0;
  for (const { positions: p } of asset.lods[0])
    for (let i = 0; i < p.length; i += 3) most = Math.max(most, (p[i] - x) * (p[i] - x) + (p[i + 2] - z) * (p[i + 2] - z));
  return Math.sqrt(most);
}

const flatEnds = (radius: number, low: number, high: number): [number, number][] => [
  [radius, low],
  [radius, high],
];

/** Outline of a capsule from its foot up; what is flatter than it is wide is a ball. */
function roundEnds(radius: number, low: number, high: number): [number, number][] {
  const r = Math.min(radius, (high - low) / 2);
  const out: [number, number][] = [];
  for (let i = 0; i <= RINGS; i++) {
    const a = (i / RINGS) * 90;
    out.push([Math.max(1e-4, radius * sinDeg(a)), low + r - r * cosDeg(a)]);
  }
  for (let i = RINGS; i >= 0; i--) {
    const a = (i / RINGS) * 90;
    out.push([Math.max(1e-4, radius * sinDeg(a)), high - r + r * cosDeg(a)]);
  }
  return out;
}

/** An outline (radius, height), foot first, turned about a vertical axis; its ends are closed. */
function turned([x, z]: readonly number[], outline: readonly [number, number][]): Mesh {
  const positions: number[] = [];
  const indices: number[] = [];
  const wide = 1 / cosDeg(180 / SIDES);
  for (const [radius, y] of outline)
    for (let s = 0; s < SIDES; s++) positions.push(x + radius * wide * cosDeg((s * 360) / SIDES), y, z + radius * wide * sinDeg((s * 360) / SIDES));
  const at = (ring: number, s: number) => ring * SIDES + (s % SIDES);
  for (let ring = 0; ring + 1 < outline.length; ring++)
    for (let s = 0; s < SIDES; s++) indices.push(at(ring, s), at(ring + 1, s), at(ring + 1, s + 1), at(ring, s), at(ring + 1, s + 1), at(ring, s + 1));
  const last = outline.length - 1;
  for (let s = 1; s + 1 < SIDES; s++) indices.push(at(0, 0), at(0, s), at(0, s + 1), at(last, 0), at(last, s + 1), at(last, s));
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
}
