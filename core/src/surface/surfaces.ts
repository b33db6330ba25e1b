import { ofKind, type Level } from '../level/level';
import type { GroundRule, LevelObject, Surface } from '../level/objects';

/** How many surfaces a level blends; each is one byte of the ground raster. */
export const SURFACES = 4;

/** Steepness at which turf gives way to slate until somebody sets the rule otherwise, degrees. */
export const SLATE_FROM = 32;

const surface = (id: string, order: number, texture: Surface['texture'], tile: number, tint = '#ffffff'): Surface => ({ id, version: 1, kind: 'surface', name: id, order, texture, tile, tint });

/** Turf, slate, gravel and moss with the slope rule: what a new level, and one from before surfaces, starts with. */
export const groundDefaults = (): (Surface | GroundRule)[] => [
  surface('turf', 0, 'turf', 6), surface('slate', 1, 'slate', 8), surface('gravel', 2, 'gravel', 3), surface('moss', 3, 'moss', 4),
  { id: 'slope-rule', version: 1, kind: 'groundRule', name: 'steep ground', below: 'turf', above: 'slate', slope: SLATE_FROM, soft: 8 },
];

/** Surfaces and rule of a level; a level without any has the defaults, which cannot be painted until they are in it. */
export function surfacesOf(level: Level): { surfaces: Surface[]; rule: GroundRule | undefined; own: boolean } {
  const own = ofKind(level, 'surface').sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1)).slice(0, SURFACES);
  if (own.length > 0) return { surfaces: own, rule: ofKind(level, 'groundRule')[0], own: true };
  const defaults: LevelObject[] = groundDefaults();
  return { surfaces: defaults.filter((o): o is Surface => o.kind === 'surface'), rule: defaults.find((o): o is GroundRule => o.kind === 'groundRule'), own: false };
}
