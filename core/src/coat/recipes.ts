import type { Coat } from '../level/kinds/coat';

/** What a coat of a recipe begins as; its place in the list and its name come with it. */
export type CoatRecipe = Omit<Coat, 'id' | 'version' | 'kind' | 'order' | 'on'>;

const coat = (name: string, colour: string, more: Partial<CoatRecipe>): CoatRecipe => ({
  name,
  colour,
  varied: 0.3,
  roughness: 0.9,
  metalness: 0,
  levels: 0.5,
  share: 1,
  where: [],
  ...more,
});

/** What usually lies on pieces, each with where it usually lies. */
export const COAT_RECIPES: readonly CoatRecipe[] = [
  coat('moss', '#5c6b2e', {
    varied: 0.5,
    roughness: 1,
    levels: 0.7,
    where: [
      { by: 'facing', band: [0, 75], soft: 50 },
      { by: 'foot', band: [-50, 3], soft: 2.5 },
      { by: 'sky', band: [0.4, 1], soft: 0.5 },
      { by: 'noise', band: [0.45, 1], soft: 0.25, seed: 1, scale: 0.9 },
    ],
  }),
  coat('dirt', '#4a3d2f', {
    share: 0.85,
    levels: 0.2,
    where: [
      { by: 'foot', band: [-50, 0.4], soft: 0.7 },
      { by: 'noise', band: [0.25, 1], soft: 0.5, seed: 2, scale: 0.6 },
    ],
  }),
  coat('snow', '#e9edf2', {
    varied: 0.08,
    roughness: 0.75,
    levels: 0.9,
    where: [
      { by: 'facing', band: [0, 42], soft: 26 },
      { by: 'sky', band: [0.7, 1], soft: 0.4 },
      { by: 'noise', band: [0.12, 1], soft: 0.2, seed: 3, scale: 1.6 },
    ],
  }),
  coat('wear', '#b9b2a6', {
    roughness: 0.55,
    levels: 0,
    varied: 0.2,
    share: 0.8,
    where: [
      { by: 'bend', band: [0.75, 1], soft: 0.4 },
      { by: 'noise', band: [0.45, 1], soft: 0.3, seed: 4, scale: 0.3 },
    ],
  }),
  coat('foot', '#6b6350', {
    ground: true,
    varied: 0,
    levels: 0.3,
    where: [{ by: 'foot', band: [-50, 0.25], soft: 0.5 }],
  }),
];
