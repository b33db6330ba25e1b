import type { GroundCondition, GroundRule, Surface } from '@rammer/core/level/objects';
import { groundDefaults, surfaceFrom } from '@rammer/core/surface/surfaces';

const rule = (id: string, name: string, surface: string, where: GroundCondition[], more: Partial<GroundRule> = {}): GroundRule => ({
  id,
  version: 1,
  kind: 'groundRule',
  name,
  order: 0,
  surface,
  share: 1,
  where,
  wins: false,
  on: true,
  ...more,
});

/** The four main ones wear pictures: as large as those are, laid so that no repeat is seen. */
const PICTURED: Record<string, Partial<Surface>> = {
  turf: { tile: 3, laying: 'scattered', pixels: 1024 },
  slate: { tile: 4, laying: 'scattered', pixels: 1024 },
  gravel: { tile: 3, laying: 'scattered', pixels: 1024 },
  moss: { tile: 2, laying: 'scattered', pixels: 1024 },
};

/** What the quarry is made of: turf, and by rules heath, moss, wet ground, broken stone and rock; gravel is carried by tracks or painted. */
export function quarryGrounds(heaps: readonly string[]): (Surface | GroundRule)[] {
  const shipped = groundDefaults()
    .filter((o): o is Surface => o.kind === 'surface')
    .map((s): Surface => ({ ...s, picture: `ground-${s.id}`, ...PICTURED[s.id] }));
  const more: Surface[] = [
    // Heath is turf gone brown, broken stone the gravel's, coarser.
    { ...surfaceFrom('heath', 'heath', 4, 'heath'), picture: 'ground-turf', tile: 2.6, tint: '#c79f80', laying: 'scattered', pixels: 1024 },
    { ...surfaceFrom('scree', 'scree', 5, 'scree'), picture: 'ground-gravel', tile: 5.5, tint: '#e6e9ee', laying: 'scattered', pixels: 1024 },
    { ...surfaceFrom('mud', 'wet ground', 6, 'mud'), picture: 'ground-gravel', tile: 2.4, tint: '#b3a796', laying: 'scattered', pixels: 1024 },
  ];
  const rules = [
    rule(
      'rule-heath',
      'heath in patches',
      'heath',
      [
        { by: 'noise', band: [0.55, 1], soft: 0.14, seed: 5, scale: 26 },
        { by: 'height', band: [3, 3000], soft: 3 },
        { by: 'slope', band: [0, 24], soft: 8 },
      ],
      { share: 0.9 },
    ),
    rule(
      'rule-moss',
      'moss in hollows',
      'moss',
      [
        { by: 'curvature', band: [0.07, 50], soft: 0.1, over: 3 },
        { by: 'slope', band: [0, 36], soft: 10 },
      ],
      { share: 0.8 },
    ),
    rule(
      'rule-shore',
      'moss near the pit',
      'moss',
      [
        { by: 'shore', band: [-50, 5], soft: 4 },
        { by: 'noise', band: [0.3, 1], soft: 0.3, seed: 8, scale: 9 },
      ],
      { share: 0.9 },
    ),
    rule(
      'rule-wet',
      'wet edge of the pit',
      'mud',
      [
        { by: 'shore', band: [-50, 1.6], soft: 1.4 },
        { by: 'slope', band: [0, 30], soft: 8 },
      ],
      // Of the trodden way into the pit too.
      { wins: true },
    ),
    ...heaps.map((lift, i) =>
      rule(`rule-spoil-${i + 1}`, `spoil heap ${i + 1}`, 'scree', [{ by: 'lift', band: [0.35, 500], soft: 0.4, lift }], { share: 0.95 }),
    ),
    rule('rule-talus', 'broken stone under faces', 'scree', [
      { by: 'slope', band: [22, 36], soft: 8 },
      { by: 'curvature', band: [0.04, 50], soft: 0.08, over: 2.5 },
    ]),
    rule('slope-rule', 'steep ground', 'slate', [{ by: 'slope', band: [32, 90], soft: 8 }]),
  ];
  return [...shipped, ...more, ...rules.map((r, i) => ({ ...r, order: i * 10 }))];
}

/** The same stuff over a square kilometre: broader patches, rock by height too, and what the rain left. */
export function valleyGrounds(heaps: readonly string[]): (Surface | GroundRule)[] {
  const surfaces = quarryGrounds([]).filter((o): o is Surface => o.kind === 'surface');
  const rules = [
    rule(
      'rule-heath',
      'heath in patches',
      'heath',
      [
        { by: 'noise', band: [0.5, 1], soft: 0.16, seed: 5, scale: 90 },
        { by: 'height', band: [16, 3000], soft: 10 },
        { by: 'slope', band: [0, 26], soft: 8 },
      ],
      { share: 0.95 },
    ),
    rule(
      'rule-moss',
      'moss in hollows',
      'moss',
      [
        { by: 'curvature', band: [0.25, 50], soft: 0.4, over: 9 },
        { by: 'slope', band: [0, 34], soft: 10 },
      ],
      { share: 0.8 },
    ),
    rule(
      'rule-settle',
      'what the rain laid down',
      'gravel',
      [
        { by: 'settle', band: [0.4, 50], soft: 0.5 },
        { by: 'slope', band: [0, 24], soft: 10 },
      ],
      { share: 0.55 },
    ),
    rule(
      'rule-runs',
      'runs of water',
      'scree',
      [
        { by: 'runoff', band: [0.45, 1], soft: 0.4 },
        { by: 'scour', band: [0.15, 50], soft: 0.3 },
      ],
      { share: 0.8 },
    ),
    rule('rule-wet', 'wet edge of the lake', 'mud', [
      { by: 'shore', band: [-50, 2.5], soft: 3 },
      { by: 'slope', band: [0, 24], soft: 8 },
    ]),
    ...heaps.map((lift, i) =>
      rule(`rule-spoil-${i + 1}`, `spoil heap ${i + 1}`, 'scree', [{ by: 'lift', band: [0.6, 500], soft: 0.8, lift }], { share: 0.95 }),
    ),
    ...['terrace-0', 'terrace-1', 'terrace-2', 'terrace-3'].map((lift, i) =>
      rule(
        `rule-floor-${i}`,
        `floor of terrace ${i}`,
        'gravel',
        [
          { by: 'lift', band: [-500, -0.6], soft: 1, lift },
          { by: 'slope', band: [0, 14], soft: 8 },
          { by: 'noise', band: [0.28, 1], soft: 0.3, seed: 20 + i, scale: 24 },
        ],
        { share: 0.9 },
      ),
    ),
    rule(
      'rule-talus',
      'broken stone',
      'scree',
      [
        { by: 'slope', band: [25, 38], soft: 10 },
        { by: 'noise', band: [0.42, 1], soft: 0.25, seed: 12, scale: 40 },
      ],
      { share: 0.9 },
    ),
    rule('slope-rule', 'steep ground', 'slate', [{ by: 'slope', band: [34, 90], soft: 9 }]),
  ];
  return [...surfaces, ...rules.map((r, i) => ({ ...r, order: i * 10 }))];
}
