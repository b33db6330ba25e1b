import { z } from 'zod';
import type { Channel } from '../tiles';
import { acceptanceKind } from './acceptance';
import { assemblyKind } from './assembly';
import { assetKind } from './asset';
import { blockKind } from './block';
import { bodyKind } from './body';
import { coatKind } from './coat';
import { copyKind } from './copy';
import { coverKind } from './cover';
import { gapKind } from './gap';
import { groundRuleKind } from './groundRule';
import { habitatKind } from './habitat';
import type { Aspect, Kind, Shift } from './kind';
import { kitKind } from './kit';
import { laidLineKind } from './laidLine';
import { liftKind } from './lift';
import { lightingKind } from './lighting';
import { markerKind } from './marker';
import { measureKind } from './measure';
import { noteKind } from './note';
import { peopleKind } from './people';
import { pieceKind } from './piece';
import { plantKind } from './plant';
import { playBoundsKind } from './playBounds';
import { referenceKind } from './reference';
import { sectionKind } from './section';
import { settingsKind } from './settings';
import { speciesKind } from './species';
import { surfaceKind } from './surface';
import { viewpointKind } from './viewpoint';
import { waterKind } from './water';

/** Every kind of object a level is made of, in the order docs/format.md has them. */
export const KINDS = {
  settings: settingsKind,
  body: bodyKind,
  block: blockKind,
  lift: liftKind,
  marker: markerKind,
  viewpoint: viewpointKind,
  note: noteKind,
  acceptance: acceptanceKind,
  surface: surfaceKind,
  groundRule: groundRuleKind,
  asset: assetKind,
  piece: pieceKind,
  species: speciesKind,
  plant: plantKind,
  lighting: lightingKind,
  water: waterKind,
  measure: measureKind,
  gap: gapKind,
  people: peopleKind,
  reference: referenceKind,
  section: sectionKind,
  playBounds: playBoundsKind,
  assembly: assemblyKind,
  copy: copyKind,
  kit: kitKind,
  laidLine: laidLineKind,
  coat: coatKind,
  habitat: habitatKind,
  cover: coverKind,
};

export type ObjectKind = keyof typeof KINDS;
/** An object of a kind: `ObjectOf<'piece'>`. */
export type ObjectOf<K extends ObjectKind> = z.infer<(typeof KINDS)[K]['schema']>;
export type LevelObject = { [K in ObjectKind]: ObjectOf<K> }[ObjectKind];

/** Kinds of things that stand at a pose, see `Kind.stands`; the members of an assembly are of these. */
export type StandingKind = { [K in ObjectKind]: (typeof KINDS)[K] extends { stands: true } ? K : never }[ObjectKind];
export type Standing = { [K in StandingKind]: ObjectOf<K> }[StandingKind];
/** Names of the kinds that stand, see `Kind.stands`. */
export const STANDING_KINDS = (Object.keys(KINDS) as ObjectKind[]).filter((k) => 'stands' in KINDS[k]) as StandingKind[];
const STANDING: ReadonlySet<string> = new Set(STANDING_KINDS);
/** Whether an object is of a kind that stands. */
export const isStanding = (o: { kind: string } | undefined): o is Standing => o !== undefined && STANDING.has(o.kind);

/** The same as one schema. */
export const levelObject = z.union(Object.values(KINDS).map((k) => k.schema) as unknown as readonly [z.ZodType<LevelObject>, z.ZodType<LevelObject>]);

/** A kind by its name, where there is one. */
export const kindOf = (name: unknown): Kind | undefined =>
  typeof name === 'string' && Object.hasOwn(KINDS, name) ? (KINDS[name as ObjectKind] as Kind) : undefined;

/** An object moved in plan with its level. */
export const shifted = (object: LevelObject, by: Shift): LevelObject => (kindOf(object.kind)?.shift?.(object, by) as LevelObject | undefined) ?? object;

/** Channels of raster tiles that an object may have. */
export const channelsOf = (object: LevelObject | undefined): readonly Channel[] => (object && kindOf(object.kind)?.channels?.(object)) ?? [];

/** Whether one of some kinds bears on one of some aspects. */
export function touches(kinds: Iterable<string>, ...aspects: Aspect[]): boolean {
  for (const name of kinds) if (kindOf(name)?.aspects.some((a) => aspects.includes(a))) return true;
  return false;
}
