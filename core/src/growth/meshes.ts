import { assetBounds, type Asset } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { PlantObject, Species } from '../level/objects';
import type { Plants } from './plants';

/** Bits of a plant's look that say its tint; the rest say which of its species' meshes it has. */
const TINT_BITS = 4;
const TINT_MASK = (1 << TINT_BITS) - 1;

/** A plant's look: which of its species' tints and which of its meshes, in one byte. */
export const lookOf = (tint: number, mesh: number): number => tint | (mesh << TINT_BITS);
/** Which of its species' tints a plant has. */
export const tintOf = (plants: Pick<Plants, 'look'>, i: number): number => plants.look[i] & TINT_MASK;
/** Which of its species' meshes a plant has, see `meshesOf`. */
export const meshOf = (plants: Pick<Plants, 'look'>, i: number): number => plants.look[i] >> TINT_BITS;

/** The meshes of a species by the id of their asset object, its own first, with how often it has each. */
export const meshesOf = (s: Pick<Species, 'asset' | 'weight' | 'meshes'>): { asset: string; weight: number }[] => [
  { asset: s.asset, weight: s.weight ?? 1 },
  ...(s.meshes ?? []),
];

/** The same as assets; `undefined` for those that are gone. */
export const assetsOfSpecies = (s: Pick<Species, 'asset' | 'weight' | 'meshes'>, assets: Assets): (Asset | undefined)[] =>
  meshesOf(s).map((m) => assets.get(m.asset));

/** How far each of a species' meshes reaches to a side and up, and how wide it is, metres; nothing where all are gone. */
export function sizesOf(s: Pick<Species, 'asset' | 'weight' | 'meshes'>, assets: Assets): (MeshSize | undefined)[] | undefined {
  const sizes = assetsOfSpecies(s, assets).map((asset): MeshSize | undefined => {
    if (!asset) return undefined;
    const { min, max } = assetBounds(asset);
    return { side: Math.max(-min[0], max[0], -min[2], max[2]), top: max[1], width: max[0] - min[0], trunk: asset.trunk };
  });
  return sizes.some(Boolean) ? sizes : undefined;
}

/** A mesh as plants are met, cut and shaded by it, metres at scale 1. */
export interface MeshSize {
  side: number;
  top: number;
  width: number;
  /** radius of its trunk; 0 where it has none */
  trunk: number;
}

/** Meshes of a species as plants are drawn from them: how much of a chance of 1 lies up to each, and one over its height in metres. */
export interface MeshShares {
  upTo: Float64Array;
  perHeight: Float64Array;
  ids: readonly string[];
}

/** @param heights of the assets that are there, metres; what is gone is of no plant, all being gone of the first */
export function meshShares(s: Pick<Species, 'asset' | 'weight' | 'meshes'>, heights: ReadonlyMap<string, number>): MeshShares {
  const list = meshesOf(s);
  const weights = list.map((m) => (heights.has(m.asset) ? m.weight : 0));
  const all = weights.reduce((a, b) => a + b, 0);
  let sum = 0;
  const upTo = Float64Array.from(weights, (w) => (all === 0 ? 1 : (sum += w / all)));
  return { upTo, perHeight: Float64Array.from(list, (m) => 1 / (heights.get(m.asset) ?? 1)), ids: list.map((m) => m.asset) };
}

/** Which mesh a plant that drew a number from 0 to 1 has. */
export function meshDrawn({ upTo }: MeshShares, drew: number): number {
  let mesh = 0;
  // What sums to a little under 1 leaves none out.
  while (mesh < upTo.length - 1 && drew >= upTo[mesh]) mesh++;
  while (mesh > 0 && upTo[mesh] === upTo[mesh - 1]) mesh--;
  return mesh;
}

/** Which mesh a plant set by hand has: the one it names, or by the number it drew. */
export function meshByHand(shares: MeshShares, { asset }: Pick<PlantObject, 'asset'>, drew: number): number {
  const named = asset === undefined ? -1 : shares.ids.indexOf(asset);
  return named >= 0 ? named : meshDrawn(shares, drew);
}
