import type { Mesh } from '../../num/mesh';
import { assetBounds, type Asset, type Primitive } from '../asset';

/** What three axes become: columns of a matrix that turns and scales evenly, and a shift after it. */
export interface Motion {
  x: readonly [number, number, number];
  y: readonly [number, number, number];
  z: readonly [number, number, number];
  by: readonly [number, number, number];
}

const STILL: Motion = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1], by: [0, 0, 0] };

/** Every LOD and collider of an asset moved: lengths that belong to it (trunk, errors of LODs) scale with it. */
export function moveAsset(asset: Asset, motion: Partial<Motion>): Asset {
  const m = { ...STILL, ...motion };
  const factor = Math.sqrt(m.x[0] * m.x[0] + m.x[1] * m.x[1] + m.x[2] * m.x[2]);
  return {
    ...asset,
    lods: asset.lods.map((lod) => lod.map((p) => movePrimitive(p, m, factor))),
    ...(asset.colliders ? { colliders: asset.colliders.map((c): Mesh => ({ ...c, positions: movePoints(c.positions, 3, m) })) } : {}),
    ...(asset.errors ? { errors: asset.errors.map((e) => e * factor) } : {}),
    trunk: asset.trunk * factor,
  };
}

function movePrimitive(p: Primitive, m: Motion, factor: number): Primitive {
  const turn = { ...m, by: [0, 0, 0] as const };
  const direction = (values: Float32Array, size: number): Float32Array => {
    const out = movePoints(values, size, turn);
    for (let i = 0; i < out.length; i += size) for (let k = 0; k < 3; k++) out[i + k] /= factor;
    return out;
  };
  return {
    ...p,
    positions: movePoints(p.positions, 3, m),
    normals: direction(p.normals, 3),
    ...(p.tangents ? { tangents: direction(p.tangents, 4) } : {}),
  };
}

function movePoints(values: Float32Array, size: number, { x, y, z, by }: Motion): Float32Array {
  const out = values.slice();
  for (let i = 0; i < values.length; i += size)
    for (let k = 0; k < 3; k++) out[i + k] = x[k] * values[i] + y[k] * values[i + 1] + z[k] * values[i + 2] + by[k] + 0;
  return out;
}

/** All lengths times a factor. */
export const scaleAsset = (asset: Asset, factor: number): Asset => moveAsset(asset, { x: [factor, 0, 0], y: [0, factor, 0], z: [0, 0, factor] });

/** Turned so that an axis of the file is up; what looked along +y before looks where its front was. */
const UPRIGHT: Record<'+z' | '-z' | '+x' | '-x' | '-y', Partial<Motion>> = {
  '+z': { y: [0, 0, -1], z: [0, 1, 0] },
  '-z': { y: [0, 0, 1], z: [0, -1, 0] },
  '+x': { x: [0, 1, 0], y: [-1, 0, 0] },
  '-x': { x: [0, -1, 0], y: [1, 0, 0] },
  '-y': { x: [-1, 0, 0], y: [0, -1, 0] },
};
/** Set up on an axis that its file calls up. */
export const standUp = (asset: Asset, up: keyof typeof UPRIGHT): Asset => moveAsset(asset, UPRIGHT[up]);

/** Turned about the vertical. @param cosSin of the angle, counter-clockwise from above */
export const turnAsset = (asset: Asset, [c, s]: readonly [number, number]): Asset => moveAsset(asset, { x: [c, 0, -s], z: [s, 0, c] });

/** Where it would be held. */
export type PivotPlace = 'foot' | 'centre' | 'corner';

/** Moved so that a place of it is the origin. */
export function movePivot(asset: Asset, at: PivotPlace): Asset {
  const { min, max } = assetBounds(asset);
  const mid = (k: number) => (min[k] + max[k]) / 2;
  const from = at === 'corner' ? min : [mid(0), at === 'foot' ? min[1] : mid(1), mid(2)];
  return moveAsset(asset, { by: [-from[0], -from[1], -from[2]] });
}

/** Where it is held now, of the places that have a name; else how far the middle of its foot lies from the pivot, metres. */
export function pivotOf(asset: Asset): PivotPlace | [number, number, number] {
  const { min, max } = assetBounds(asset);
  const near = Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2]) * 0.02;
  const [x, z] = [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2];
  const centred = Math.abs(x) <= near && Math.abs(z) <= near;
  if (centred && Math.abs(min[1]) <= near) return 'foot';
  if (centred && Math.abs(min[1] + max[1]) / 2 <= near) return 'centre';
  if (min.every((v) => Math.abs(v) <= near)) return 'corner';
  return [x, min[1], z];
}
