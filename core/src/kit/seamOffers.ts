import type { AssetSummary } from './summary';

/** What is set along a seam is no higher and no wider than this, metres: what is larger hides more than the seam. */
const MOST = { height: 1.5, width: 2.6 };

/** What can hide a seam: what is offered is told by its size and the grounds it belongs on. */
export type Hiding = Pick<AssetSummary, 'role' | 'size' | 'grounds'>;

/**
 * What hides a seam, the fittest first: what belongs on the ground there, then what belongs anywhere; of these what is
 * about as wide as the seam.
 *
 * @param ground name of the surface there
 * @param width of the seam, metres
 */
export function seamOffers<T extends Hiding>(list: readonly T[], ground: string, width: number): T[] {
  const rank = ({ role, size, grounds }: Hiding): number | undefined => {
    const wide = Math.max(size[0], size[2]);
    if ((role !== 'prop' && role !== 'plant') || size[1] > MOST.height || wide > MOST.width) return undefined;
    if (grounds && !grounds.includes(ground)) return undefined;
    return (grounds ? 0 : 10) + Math.abs(wide - width) + size[1] / 2;
  };
  return list
    .map((of) => ({ of, rank: rank(of) }))
    .filter((r): r is { of: T; rank: number } => r.rank !== undefined)
    .sort((a, b) => a.rank - b.rank)
    .map((r) => r.of);
}
