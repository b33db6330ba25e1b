import { COAT_RECIPES } from '@rammer/core/coat/recipes';
import type { Coat } from '@rammer/core/level/objects';

/** Kit and props of stone: what moss grows on. */
const STONE = ['wall', 'door-wall', 'window-wall', 'corner', 'gable', 'lintel', 'roof', 'ridge', 'stair', 'slate-stack', 'fallen-slab', 'timber-stack'].map(
  (name) => `kit-${name}`,
);

const coat = (recipe: string, order: number, more: Partial<Coat>): Coat => ({
  ...COAT_RECIPES.find((r) => r.name === recipe)!,
  id: `coat-${recipe}`,
  version: 1,
  kind: 'coat',
  order,
  on: true,
  ...more,
});

/** What forty wet years laid on the works: moss low down and on roofs, and edges rubbed bright where people passed. */
export const quarryCoats = (): Coat[] => [
  coat('moss', 0, {
    assets: STONE,
    surface: 'moss',
    colour: '#d2dcae',
    where: [
      { by: 'facing', band: [0, 80], soft: 50 },
      { by: 'foot', band: [-50, 4.5], soft: 3 },
      { by: 'sky', band: [0.4, 1], soft: 0.5 },
      { by: 'noise', band: [0.5, 1], soft: 0.25, seed: 41, scale: 1.1 },
    ],
  }),
  coat('wear', 10, { assets: ['kit-door-wall', 'kit-window-wall', 'kit-corner', 'kit-lintel', 'kit-stair', 'kit-crate'], share: 0.45 }),
];
