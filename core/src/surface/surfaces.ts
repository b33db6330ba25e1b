import { groundRulesOf, ofKind, type Level } from '../level/level';
import { MOST_SURFACES, type GroundRule, type LevelObject, type Surface } from '../level/objects';

/** Steepness at which turf gives way to slate until somebody sets the rule otherwise, degrees. */
export const SLATE_FROM = 32;

/** Pixels a side of a surface's texture in the game where it does not say. */
export const SURFACE_PIXELS = 2048;

const surface = (id: string, order: number, texture: Surface['texture'], tile: number, more: Partial<Surface> = {}): Surface => ({
  id,
  version: 1,
  kind: 'surface',
  name: id,
  order,
  texture,
  tile,
  tint: '#ffffff',
  ...more,
});

/** A new surface with what its texture is like by default. */
export const surfaceFrom = (id: string, name: string, order: number, texture: Surface['texture']): Surface => ({
  ...surface(id, order, texture, TILES[texture], FEELS[texture]),
  name,
});

/** Real sides of the shipped textures, metres. */
const TILES: Record<Surface['texture'], number> = { turf: 6, slate: 8, gravel: 3, moss: 4, scree: 6, mud: 5, heath: 6, setts: 3 };
const FEELS: Record<Surface['texture'], Partial<Surface>> = {
  turf: { feel: 'growth' },
  slate: { feel: 'stone' },
  gravel: { feel: 'loose' },
  moss: { feel: 'growth', grip: 0.9 },
  scree: { feel: 'loose', grip: 0.8 },
  mud: { feel: 'wet', grip: 0.6 },
  heath: { feel: 'growth' },
  setts: { feel: 'stone' },
};

/** Turf, slate, gravel and moss with the slope rule: what a level from before surfaces has. */
export const groundDefaults = (): (Surface | GroundRule)[] => [
  surface('turf', 0, 'turf', 6),
  surface('slate', 1, 'slate', 8),
  surface('gravel', 2, 'gravel', 3),
  surface('moss', 3, 'moss', 4),
  {
    id: 'slope-rule',
    version: 1,
    kind: 'groundRule',
    name: 'steep ground',
    order: 10,
    surface: 'slate',
    share: 1,
    where: [{ by: 'slope', band: [SLATE_FROM, 90], soft: 8 }],
    wins: false,
    on: true,
  },
];

/** What a new level's ground is made of: the defaults, scattered so that no tile of theirs shows beside itself. */
export const newGround = (): (Surface | GroundRule)[] => groundDefaults().map((o) => (o.kind === 'surface' ? { ...o, laying: 'scattered' as const } : o));

/** Surfaces and rules of a level; a level without any has the defaults, which cannot be painted until they are in it. */
export function surfacesOf(level: Level): { surfaces: Surface[]; rules: GroundRule[]; own: boolean } {
  const own = ofKind(level, 'surface')
    .sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1))
    .slice(0, MOST_SURFACES);
  if (own.length > 0) return { surfaces: own, rules: groundRulesOf(level), own: true };
  const defaults: LevelObject[] = groundDefaults();
  return {
    surfaces: defaults.filter((o): o is Surface => o.kind === 'surface'),
    rules: defaults.filter((o): o is GroundRule => o.kind === 'groundRule'),
    own: false,
  };
}
