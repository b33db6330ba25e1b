import type { Terrain } from '../../earth/compose';
import type { Rect } from '../../earth/rect';
import type { WaterBody } from '../../earth/water';
import type { ConditionKind, GroundCondition, Lift } from '../../level/objects';
import type { Tiles } from '../../level/tiles';
import type { Tops } from '../tops';

/** What rules look at of a water. */
export type Wet = Pick<WaterBody, 'rect' | 'wet' | 'height' | 'levels'>;

/** What the rules of the ground look at. */
export interface RuleSource {
  terrain: Terrain;
  /** the lifts the terrain is composed from, lowest first */
  stack: readonly Lift[];
  tiles: Tiles;
  waters: readonly Wet[];
}

/**
 * What a condition goes by, made ready for a rectangle of samples.
 *
 * A kind of condition is one file that makes one of these, and one line in `index.ts`. Its value is a pure
 * function of the sample, so that a rectangle gives the same bytes as the whole.
 */
export interface Field {
  /** Value at a sample; NaN where there is none. */
  at(x: number, z: number): number;
  /** an end of the band as `at` gives it, where that is not the condition's own unit */
  end?(v: number): number;
  /** the value in the condition's own unit, where that is not what `at` gives */
  read?(v: number): number;
  /** samples outside which the value is 0 */
  within?: Rect | 'nowhere';
  /** ends of the band beyond which there is none */
  open?: { below?: number; above?: number };
}

export type ConditionOf<K extends ConditionKind> = Extract<GroundCondition, { by: K }>;
export type TopFieldMaker<C extends GroundCondition> = (condition: C, source: RuleSource, tops: Tops) => Field;
export type FieldMaker<C extends GroundCondition> = (condition: C, source: RuleSource, rect: Rect) => Field;

/** Values of a raster of tops at samples. */
export const topValues =
  ({ rect }: Tops, values: Float32Array) =>
  (x: number, z: number): number =>
    values[(z - rect.z0) * (rect.x1 - rect.x0 + 1) + x - rect.x0];

/** How a kind of condition reaches farther than its own sample. */
export interface FieldKind<C extends GroundCondition> {
  /** in words, where its name in the document is not one for a person */
  name?: string;
  unit: string;
  make: FieldMaker<C>;
  /** the same on tops of what stands on the terrain; what has none looks at the ground alone and lets nothing in there */
  onTops?: TopFieldMaker<C>;
  /** the cheaper, the earlier it is asked: a condition that lets nothing in spares the rest */
  cost: number;
  /** metres around a sample whose heights it looks at */
  around?(condition: C, spacing: number): number;
  /** looks at waters, or at lifts, wherever they are */
  looksAt?: 'waters' | 'lifts';
}
