import { speciesFrom } from '@rammer/core/growth/shippedSpecies';
import type { Cover, GrowthWhere, Habitat, HabitatRule, Species } from '@rammer/core/level/objects';
import { PIT } from './quarry';

/** How a species of the demo differs from what it starts with. */
type Own = Partial<Omit<Species, 'rule'>> & { rule?: Partial<Species['rule']> };

/** How the foot of what is low goes over into the ground, and what lies about and does not go with the wind. */
const FOOT: Readonly<Record<string, Own>> = {
  'short-grass': { roots: 0.6 },
  'seed-grass': { roots: 0.6 },
  'tussock-grass': { roots: 0.5 },
  heather: { roots: 0.4 },
  'bell-heather': { roots: 0.4 },
  bracken: { roots: 0.3 },
  gorse: { roots: 0.3 },
  foxglove: { roots: 0.3 },
  'moss-cushion': { roots: 0.4, sway: 0 },
  'loose-slate': { roots: 0.3, sway: 0, depth: [0.7, 1.4] },
  'slate-chips': { roots: 0.3, sway: 0, depth: [0.7, 1.4] },
  'fallen-trunk': { roots: 0.3, sway: 0 },
};

/** What usually stands together. */
const WITH: Readonly<Record<string, string[]>> = {
  birch: ['bracken', 'moss-cushion', 'foxglove'],
  rowan: ['bracken', 'foxglove'],
  heather: ['bell-heather', 'gorse', 'tussock-grass'],
  gorse: ['heather', 'tussock-grass'],
  'loose-slate': ['slate-chips', 'moss-cushion'],
  'fallen-trunk': ['moss-cushion', 'bracken'],
};

/** A species of a plant of the library, `plant-bell-heather` for `bell-heather`. */
function species(id: string, order: number, seed: number, { rule, ...own }: Own): Species {
  const name = id.replace(/-/g, ' ');
  const start = speciesFrom({ id: `plant-${id}`, name }, id, order, seed);
  return { ...start, ...FOOT[id], ...(WITH[id] ? { with: WITH[id] } : {}), ...own, rule: { ...start.rule, on: true, ...rule } };
}

/** Tints of trees are of their bark too: faint ones. */
const BARK = ['#ffffff', '#fbf3dc', '#f1f5ea'];
/** Trees leave ways free, and the walls of sheds. */
const OFF_THE_WAY: GrowthWhere[] = [{ is: { by: 'route', band: [1.5, 100], soft: 1 } }, { is: { by: 'piece', band: [1.5, 200], soft: 1 } }];
const OPEN = { height: [-2, 40] as [number, number] };

/** Grasses that cover the ground and grow by no rule. @param low what lies lower is under water, metres */
const grasses = (low: number): [string, number, Own][] =>
  (
    [
      ['short-grass', 33, { height: [0.12, 0.24], tints: ['#ffffff', '#e8dfae', '#d6dcb4'] }],
      ['seed-grass', 34, { height: [0.24, 0.4], tints: ['#ffffff', '#efe0b8'] }],
    ] as [string, number, Own][]
  ).map(([id, seed, own]) => [
    id,
    seed,
    {
      as: 'grass',
      density: 0,
      spacing: 0.3,
      clearance: 0,
      lean: 10,
      leanToSlope: 0.5,
      patch: 9,
      cutoff: 32,
      shadows: false,
      ...own,
      rule: { height: [low, 200], slope: [0, 42] },
    },
  ]);

/** Grass on turf, moss and heath: none where a path is worn, for that is gravel. */
export const groundCovers = (): Cover[] =>
  (
    [
      ['turf', 'short-grass', 280],
      ['turf', 'seed-grass', 40],
      ['moss', 'short-grass', 110],
      ['heath', 'seed-grass', 60],
      ['heath', 'short-grass', 80],
    ] as [string, string, number][]
  ).map(([surface, of, density], order) => ({
    id: `cover-${surface}-${of}`,
    version: 1,
    kind: 'cover',
    name: `${of.replace(/-/g, ' ')} on ${surface}`,
    order,
    surface,
    species: of,
    density,
    on: true,
  }));

/** What grows in the quarry, and on what ground each can stand; where and how densely is said by its habitats. */
export const quarrySpecies = (): Species[] =>
  (
    [
      [
        'birch',
        11,
        {
          meshes: [{ asset: 'plant-birch-3', weight: 0.4 }],
          tints: BARK,
          density: 0.4,
          height: [6, 8.4],
          rule: { grounds: ['turf', 'moss'], height: [-1.5, 24] },
        },
      ],
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
      ['foxglove', 27, { density: 0.3, spacing: 0.8, cutoff: 90, rule: { ...OPEN, grounds: ['turf', 'scree'], slope: [2, 36] } }],
      [
        'tussock-grass',
        28,
        { density: 5, spacing: 0.6, cutoff: 80, shadows: false, rule: { grounds: ['turf', 'moss', 'mud'], height: [-2.2, 40], slope: [0, 30] } },
      ],
      [
        'moss-cushion',
        29,
        { leanToSlope: 1, density: 6, spacing: 0.5, cutoff: 40, shadows: false, rule: { grounds: ['moss', 'scree'], height: [-2, 40], slope: [0, 40] } },
      ],
      [
        'loose-slate',
        30,
        {
          leanToSlope: 0.9,
          sink: 0.02,
          density: 9,
          spacing: 0.7,
          cutoff: 60,
          shadows: false,
          rule: { grounds: ['scree', 'slate'], height: [-6, 40], slope: [0, 40] },
        },
      ],
      // Laid by hand alone.
      ['fallen-trunk', 31, { density: 0 }],
      // What lies on ways: the same slate, in chips that stop nobody.
      [
        'slate-chips',
        32,
        {
          asset: 'plant-loose-slate',
          density: 6,
          spacing: 0.5,
          clearance: 0,
          height: [0.03, 0.06],
          lean: 20,
          leanToSlope: 1,
          cutoff: 40,
          shadows: false,
          rule: { grounds: ['gravel'], height: [-6, 40], slope: [0, 40] },
        },
      ],
      ...grasses(-2),
    ] as [string, number, Own][]
  ).map(([id, seed, own], order) => species(id, order, seed, { ...own, rule: { ...own.rule, on: false } }));

type Mixed = [species: string, density: number];

/** A rule of a mix by what each of its species has on 100 m2. */
const rule = (id: string, name: string, mix: Mixed[], more: Partial<HabitatRule> = {}): HabitatRule => ({
  id,
  name,
  on: true,
  mix: mix.map(([of, density]) => ({ species: of, weight: density })),
  density: Math.round(mix.reduce((sum, [, d]) => sum + d, 0) * 1000) / 1000,
  ...more,
});

const habitat = (id: string, name: string, order: number, more: Partial<Habitat>): Habitat => ({
  id,
  version: 1,
  kind: 'habitat',
  name,
  order,
  area: 'rest',
  outlines: [],
  soft: 0,
  rules: [],
  on: true,
  ...more,
});

/** Ways are dressed and left free; the pit has its own growth down to the water; all else is heath. */
export const quarryHabitats = (): Habitat[] => {
  const { x, z, radius } = PIT;
  const round = (r: number) =>
    Array.from({ length: 16 }, (_, i): [number, number] => {
      const a = (i / 16) * 2 * Math.PI;
      return [Math.round((x + Math.cos(a) * r) * 10) / 10, Math.round((z + (Math.sin(a) * r) / 1.15) * 10) / 10];
    });
  const trees = (birch: number, young: number, rowan: number) =>
    rule(
      'trees',
      'trees',
      [
        ['birch', birch],
        ['birch-2', 0.14],
        ['birch-3', young],
        ['rowan', rowan],
      ] as Mixed[],
      { where: OFF_THE_WAY },
    );
  return [
    habitat('habitat-ways', 'way sides', 0, {
      where: [{ is: { by: 'route', band: [-100, 1.6], soft: 0.6 } }],
      rules: [
        rule('litter', 'litter on the way', [['slate-chips', 6]], { where: [{ is: { by: 'route', band: [-100, 0.2], soft: 0.4 } }] }),
        rule('verge', 'verge', [
          ['tussock-grass', 7],
          ['heather', 3],
        ]),
      ],
    }),
    habitat('habitat-pit', 'pit', 10, {
      area: 'drawn',
      outlines: [round(radius + 8)],
      soft: 8,
      rules: [
        trees(0.4, 0.5, 0.2),
        rule('thickets', 'thickets', [
          ['gorse', 0.5],
          ['bracken', 1.6],
        ]),
        rule('wet', 'wet edge', [
          ['tussock-grass', 8],
          ['heather', 3],
        ]),
        rule('floor', 'floor', [
          ['moss-cushion', 8],
          ['loose-slate', 11],
        ]),
      ],
    }),
    habitat('habitat-heath', 'heath', 20, {
      rules: [
        trees(0.4, 0.35, 0.12),
        rule('gorse', 'gorse', [['gorse', 0.55]]),
        rule('bracken', 'bracken', [['bracken', 2.4]], { children: [{ species: 'foxglove', chance: 0.2, count: [1, 3], spread: 2, size: 1 }] }),
        rule('low', 'low growth', [
          ['heather', 4.4],
          ['bell-heather', 3],
          ['tussock-grass', 5],
        ]),
        rule('floor', 'floor', [
          ['moss-cushion', 6],
          ['loose-slate', 9],
        ]),
      ],
    }),
  ];
};

/** Trees are sparse over a square kilometre; what is low is as dense as in the quarry, drawn as far as one makes it out. */
export const valleySpecies = (): Species[] =>
  (
    [
      ['birch', 31, { tints: BARK, density: 0.6, spacing: 3.2, height: [6, 8.4], rule: { grounds: ['turf', 'moss'], height: [-5, 58], slope: [0, 34] } }],
      ['birch-2', 32, { tints: BARK, density: 0.3, spacing: 4, height: [8, 10.5], rule: { grounds: ['turf', 'moss'], height: [-5, 50], slope: [0, 30] } }],
      ['gorse', 38, { density: 0.5, spacing: 2, cutoff: 200, rule: { grounds: ['turf', 'heath'], height: [0, 80], slope: [4, 36] } }],
      ['bracken', 39, { density: 1.4, spacing: 1, cutoff: 90, shadows: false, rule: { grounds: ['turf', 'heath'], height: [0, 70], slope: [4, 32] } }],
      ['heather', 45, { density: 4, spacing: 0.9, cutoff: 110, shadows: false, rule: { grounds: ['heath'], height: [0, 120], slope: [0, 36] } }],
      ['bell-heather', 46, { density: 3, spacing: 0.8, cutoff: 70, shadows: false, rule: { grounds: ['turf', 'heath'], height: [0, 120], slope: [0, 34] } }],
      [
        'tussock-grass',
        47,
        { density: 7, spacing: 0.6, cutoff: 60, shadows: false, rule: { grounds: ['turf', 'moss', 'mud', 'heath'], height: [-3, 140], slope: [0, 34] } },
      ],
      [
        'moss-cushion',
        48,
        {
          leanToSlope: 1,
          density: 10,
          spacing: 0.5,
          cutoff: 30,
          shadows: false,
          rule: { grounds: ['moss', 'scree', 'turf'], height: [-3, 160], slope: [0, 44] },
        },
      ],
      [
        'loose-slate',
        49,
        {
          leanToSlope: 0.9,
          sink: 0.02,
          density: 12,
          spacing: 0.6,
          cutoff: 40,
          shadows: false,
          rule: { grounds: ['scree', 'slate'], height: [-6, 200], slope: [0, 44] },
        },
      ],
      ...grasses(-3).map(([id, seed, own]): [string, number, Own] => [
        id,
        seed,
        { ...own, density: id === 'seed-grass' ? 17 : 0, spacing: 0.4, rule: { ...own.rule, grounds: ['turf', 'heath', 'moss'] } },
      ]),
    ] as [string, number, Own][]
  ).map(([id, seed, own], order) => species(id, order, seed, own));
