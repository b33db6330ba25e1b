import { speciesFrom } from '@rammer/core/growth/shippedSpecies';
import type { GrowthWhere, Species } from '@rammer/core/level/objects';

/** How a species of the demo differs from what it starts with. */
type Own = Partial<Omit<Species, 'rule'>> & { rule?: Partial<Species['rule']> };

/** A species of a plant of the library, `plant-bell-heather` for `bell-heather`. */
function species(id: string, order: number, seed: number, { rule, ...own }: Own): Species {
  const name = id.replace(/-/g, ' ');
  const start = speciesFrom({ id: `plant-${id}`, name }, id, order, seed);
  return { ...start, ...own, rule: { ...start.rule, on: true, ...rule } };
}

/** Tints of trees are of their bark too: faint ones. */
const BARK = ['#ffffff', '#fbf3dc', '#f1f5ea'];
/** Trees leave ways free, and the walls of sheds. */
const OFF_THE_WAY: GrowthWhere[] = [{ is: { by: 'route', band: [1.5, 100], soft: 1 } }, { is: { by: 'piece', band: [1.5, 200], soft: 1 } }];
const OPEN = { height: [-2, 40] as [number, number] };

/** What grows in the quarry, those that need most room first. None on gravel or bare slate but moss, and litter that lies there. */
export const quarrySpecies = (): Species[] =>
  (
    [
      ['birch', 11, { tints: BARK, density: 0.4, height: [6, 8.4], rule: { grounds: ['turf', 'moss'], height: [-1.5, 24], where: OFF_THE_WAY } }],
      ['birch-2', 12, { tints: BARK, density: 0.14, spacing: 5, height: [8, 10.5], rule: { grounds: ['turf', 'moss'], height: [-1.5, 18] } }],
      ['birch-3', 13, { tints: BARK, density: 0.35, spacing: 3, height: [3.2, 5.2], rule: { grounds: ['turf', 'moss', 'heath'], height: [-1.5, 24] } }],
      [
        'rowan',
        14,
        { tints: BARK, density: 0.12, spacing: 5, height: [3.6, 5], rule: { grounds: ['turf', 'heath', 'scree'], height: [1, 30], slope: [0, 34] } },
      ],
      ['gorse', 18, { density: 1.1, rule: { ...OPEN, grounds: ['turf', 'heath'] } }],
      ['bracken', 19, { density: 2.4, spacing: 0.9, cutoff: 130, rule: { ...OPEN, grounds: ['turf', 'heath'], slope: [4, 34] } }],
      ['heather', 25, { density: 6, cutoff: 150, rule: { ...OPEN, grounds: ['turf', 'moss', 'heath'] } }],
      ['bell-heather', 26, { density: 3, spacing: 0.8, cutoff: 110, rule: { ...OPEN, grounds: ['turf', 'heath'], slope: [3, 34] } }],
      [
        'foxglove',
        27,
        {
          density: 0.3,
          spacing: 0.8,
          cutoff: 90,
          about: { species: 'bracken', chance: 0.2, count: [1, 3], spread: 2 },
          rule: { ...OPEN, grounds: ['turf', 'scree'], slope: [2, 36] },
        },
      ],
      [
        'tussock-grass',
        28,
        { density: 5, spacing: 0.6, cutoff: 80, shadows: false, rule: { grounds: ['turf', 'moss', 'mud'], height: [-2.2, 40], slope: [0, 30] } },
      ],
      ['moss-cushion', 29, { density: 6, spacing: 0.5, cutoff: 40, shadows: false, rule: { grounds: ['moss', 'scree'], height: [-2, 40], slope: [0, 40] } }],
      ['loose-slate', 30, { density: 9, spacing: 0.7, cutoff: 60, shadows: false, rule: { grounds: ['scree', 'slate'], height: [-6, 40], slope: [0, 40] } }],
      // Laid by hand alone.
      ['fallen-trunk', 31, { density: 0, rule: { on: false } }],
    ] as [string, number, Own][]
  ).map(([id, seed, own], order) => species(id, order, seed, own));

/** Thin over a square kilometre: what is near is dense enough, and the budget shows what each costs. */
export const valleySpecies = (): Species[] =>
  (
    [
      ['birch', 31, { tints: BARK, density: 0.6, spacing: 3.2, height: [6, 8.4], rule: { grounds: ['turf', 'moss'], height: [-5, 58], slope: [0, 34] } }],
      ['birch-2', 32, { tints: BARK, density: 0.3, spacing: 4, height: [8, 10.5], rule: { grounds: ['turf', 'moss'], height: [-5, 50], slope: [0, 30] } }],
      ['gorse', 38, { density: 0.7, spacing: 2, cutoff: 260, rule: { grounds: ['turf', 'heath'], height: [0, 80], slope: [4, 36] } }],
      ['bracken', 39, { density: 0.7, spacing: 1, cutoff: 90, shadows: false, rule: { grounds: ['turf', 'heath'], height: [0, 70], slope: [4, 32] } }],
      ['heather', 45, { density: 1.8, spacing: 0.9, cutoff: 110, shadows: false, rule: { grounds: ['heath'], height: [0, 120], slope: [0, 36] } }],
    ] as [string, number, Own][]
  ).map(([id, seed, own], order) => species(id, order, seed, own));
