import { mixOf } from './mix';
import type { GrowsAs, GrowthWhere, Habitat, HabitatChild, HabitatRule, Species } from '../level/objects';

/** A rule of a recipe: what it grows by what that grows as, as the level's own species stand for them. */
interface RuleRecipe {
  name: string;
  /** the first of these of which the level has any makes the mix */
  as: readonly (readonly GrowsAs[])[];
  /** against what the species of the mix have by themselves on 100 m2, in the mean */
  density: number;
  where?: GrowthWhere[];
  /** what stands about its plants */
  about?: Omit<HabitatChild, 'species' | 'about'> & { as: readonly GrowsAs[] };
}

/** A habitat to begin with. */
export interface HabitatRecipe {
  name: string;
  area: Habitat['area'];
  soft: number;
  where?: GrowthWhere[];
  rules: readonly RuleRecipe[];
}

const off = (by: 'route' | 'piece' | 'block', metres: number): GrowthWhere => ({ is: { by, band: [metres, by === 'route' ? 100 : 200], soft: 1 } });
const patches = (seed: number, scale: number, from = 0.45): GrowthWhere => ({ is: { by: 'noise', band: [from, 1], soft: 0.2, seed, scale } });

/** What usually grows together, each with where it usually lies. */
export const HABITAT_RECIPES: readonly HabitatRecipe[] = [
  {
    name: 'wood',
    area: 'drawn',
    soft: 8,
    rules: [
      { name: 'trees', as: [['tree'], ['shrub']], density: 1.2, where: [off('route', 1.5), off('piece', 2)] },
      { name: 'under them', as: [['shrub'], ['grass']], density: 0.8, where: [off('route', 0.8), patches(1, 9)] },
      { name: 'floor', as: [['grass', 'flower'], ['litter']], density: 0.6, where: [off('route', 0.2)] },
    ],
  },
  {
    name: 'heath',
    area: 'rest',
    soft: 6,
    rules: [
      {
        name: 'thickets',
        as: [['shrub']],
        density: 1,
        where: [off('route', 0.8), patches(2, 14, 0.5)],
        about: { as: ['flower', 'grass'], chance: 0.3, count: [1, 4], spread: 1.6, size: 1 },
      },
      { name: 'low growth', as: [['grass', 'flower'], ['shrub']], density: 1, where: [off('route', 0.2)] },
    ],
  },
  {
    name: 'way sides',
    area: 'rest',
    soft: 0,
    where: [{ is: { by: 'route', band: [-100, 2], soft: 1 } }],
    rules: [
      { name: 'litter on the way', as: [['litter'], ['scatter']], density: 0.5, where: [{ is: { by: 'route', band: [-100, 0.3], soft: 0.4 } }] },
      { name: 'verge', as: [['grass', 'flower'], ['shrub']], density: 1.6, where: [{ is: { by: 'route', band: [0.1, 1.8], soft: 0.4 } }] },
    ],
  },
  {
    name: 'stony ground',
    area: 'drawn',
    soft: 5,
    rules: [
      {
        name: 'stones',
        as: [['scatter'], ['litter']],
        density: 1,
        where: [off('route', 0.3)],
        about: { as: ['litter'], chance: 0.5, count: [2, 5], spread: 1.2, size: 0.8 },
      },
      { name: 'between them', as: [['litter'], ['grass']], density: 0.5 },
    ],
  },
];

/** A species, and what it grows as. */
export type Known = Pick<Species, 'id' | 'density'> & { as: GrowsAs };

/**
 * The rules of a recipe with the species a level has; a rule that none of them could grow by is left out.
 *
 * @param ids a new id for each rule
 */
export function recipeRules(recipe: HabitatRecipe, species: readonly Known[], ids: () => string): HabitatRule[] {
  return recipe.rules.flatMap((r): HabitatRule[] => {
    const mix = r.as
      .map((as) => species.filter((s) => as.includes(s.as) && s.density > 0))
      .find((list) => list.length > 0)
      ?.slice(0, 12);
    if (!mix) return [];
    const about = r.about && species.find((s) => r.about!.as.includes(s.as) && !mix.includes(s));
    const { as: _, ...cluster } = r.about ?? { as: [], chance: 0, count: [0, 0] as [number, number], spread: 1, size: 1 };
    return [
      {
        id: ids(),
        name: r.name,
        on: true,
        ...mixOf(mix, r.density),
        ...(r.where ? { where: r.where } : {}),
        ...(about ? { children: [{ ...cluster, species: about.id }] } : {}),
      },
    ];
  });
}
