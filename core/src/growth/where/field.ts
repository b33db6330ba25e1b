import type { BodyFigures } from '../../body/bodies';
import type { BlockGrid } from '../../block/grid';
import type { MeshGrid } from '../../block/placedMesh';
import type { WaterBody } from '../../earth/water';
import type { GrowthCondition, GrowthConditionKind, Marker, Species } from '../../level/objects';
import type { Point2 } from '../../num/outline';
import type { Field, RuleSource, Wet } from '../../surface/rules/field';
import type { Plants } from '../plants';

/** What is drawn in plan by one object, metres. */
export interface Outlined {
  id: string;
  outlines: readonly (readonly Point2[])[];
}

/** Of the level's body what decides where it walks: metres and degrees. */
export type Walking = Pick<BodyFigures, 'radius' | 'height' | 'step' | 'maxSlope' | 'wade'>;

/** What the conditions of growth look at. */
export interface WhereSource extends RuleSource {
  /** of each also whether nobody may enter it */
  waters: readonly (Wet & Pick<WaterBody, 'closed'>)[];
  blocks: BlockGrid;
  meshes: MeshGrid;
  markers: readonly Pick<Marker, 'at' | 'marker'>[];
  /** middles of doorways in plan */
  doorways: readonly (readonly [x: number, z: number])[];
  /** play bounds, and what is drawn of habitats, by id */
  outlines: readonly Outlined[];
  /** who walks the level */
  walker?: Walking;
  /** what has taken its place before */
  grown: readonly Plants[];
  /** of these: their species, and heights and half widths of assets, metres */
  species: readonly Species[];
  heights: ReadonlyMap<string, number>;
  widths: ReadonlyMap<string, number>;
}

export type WhereOf<K extends GrowthConditionKind> = Extract<GrowthCondition, { by: K }>;

/** A value at a place in metres; NaN where there is none. */
export type PlaceField = Pick<Field, 'at' | 'end' | 'read' | 'open'>;

/** A kind of condition that growth alone has: one file that makes one of these, and one line in `index.ts`. */
export interface PlaceKind<C extends GrowthCondition> {
  /** in words, where its name in the document is not one for a person */
  name?: string;
  unit: string;
  make(condition: C, source: WhereSource): PlaceField;
}
