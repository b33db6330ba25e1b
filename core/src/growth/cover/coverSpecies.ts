import type { Cover, Species } from '../../level/objects';
import { MOST_SURFACES } from '../../level/objects';
import { hashInts } from '../../num/hash';
import type { Drawing } from '../growing';
import { patchesOf } from '../growing';
import { masksOf, type Masks } from '../masks';
import { meshShares } from '../meshes';

/** No ground cover is drawn farther than this, metres; where its species' cut-off is nearer, that counts. */
export const COVER_REACH = 60;

/** All cover of a surface together is at most so dense, plants on 100 m2: 60 on a square metre. */
export const MOST_COVER = 6000;

/** A species as it covers the ground, made ready. */
export interface CoverSpecies extends Drawing {
  s: Species;
  seed: number;
  /** plants on 100 m2 where the ground is all of a surface, by its place among the level's */
  density: Float64Array;
  /** how far it is drawn, metres */
  reach: number;
  masks: Masks;
}

/** How far ground cover of a species is drawn, metres. */
export const coverReach = ({ cutoff }: Pick<Species, 'cutoff'>): number => (cutoff > 0 ? Math.min(cutoff, COVER_REACH) : COVER_REACH);

/**
 * What covers the ground, by species; what names a surface or a species that is gone, or is off, covers nothing. Where all of a surface
 * would be more than `MOST_COVER` each is so much thinner.
 *
 * @param surfaces ids of the level's surfaces, in their order
 * @param heights of the assets there are, metres
 * @param origin of the level in plan, metres
 */
export function coverSpecies(
  covers: readonly Cover[],
  species: readonly Species[],
  { surfaces, heights, origin }: { surfaces: readonly string[]; heights: ReadonlyMap<string, number>; origin: readonly [number, number] },
): CoverSpecies[] {
  const list = species.flatMap((s): CoverSpecies[] => {
    const density = new Float64Array(MOST_SURFACES);
    for (const c of covers) {
      const at = surfaces.indexOf(c.surface);
      if (c.on && c.species === s.id && at >= 0) density[at] += c.density * (s.amount ?? 1);
    }
    if (density.every((d) => d === 0)) return [];
    const seed = hashInts(s.seed, 41);
    const patch = s.patch === undefined || s.tints.length < 2 ? undefined : patchesOf(s, s.patch, origin);
    return [{ s, seed, density, reach: coverReach(s), masks: masksOf(s, surfaces), meshes: meshShares(s, heights), ...(patch ? { patch } : {}) }];
  });
  for (let k = 0; k < MOST_SURFACES; k++) {
    const all = list.reduce((sum, { density }) => sum + density[k], 0);
    if (all > MOST_COVER) for (const { density } of list) density[k] *= MOST_COVER / all;
  }
  return list;
}
