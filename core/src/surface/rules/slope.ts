import type { Rect } from '../../earth/rect';
import { gradientAtSample } from '../../earth/sample';
import { slopeDeg, tanDeg } from '../../num/trig';
import { clamp } from '../../num/vec';
import { topValues, type ConditionOf, type Field, type FieldKind, type RuleSource } from './field';

/** Rise over run of a rectangle's samples, row by row: most rules ask for it, it is worked out once. */
const known = new WeakMap<RuleSource, { rect: Rect; steepness: Float64Array }>();

function steepnessOf(source: RuleSource, rect: Rect): Float64Array {
  const old = known.get(source);
  if (old && old.rect.x0 === rect.x0 && old.rect.z0 === rect.z0 && old.rect.x1 === rect.x1 && old.rect.z1 === rect.z1) return old.steepness;
  const steepness = new Float64Array((rect.x1 - rect.x0 + 1) * (rect.z1 - rect.z0 + 1));
  for (let z = rect.z0, i = 0; z <= rect.z1; z++) {
    for (let x = rect.x0; x <= rect.x1; x++, i++) {
      const g = gradientAtSample(source.terrain, x, z);
      steepness[i] = Math.sqrt(g[0] * g[0] + g[1] * g[1]);
    }
  }
  known.set(source, { rect, steepness });
  return steepness;
}

/** Compared as rise over run, told in degrees. */
const inDegrees: Omit<Field, 'at'> = { end: (deg) => tanDeg(clamp(deg, 0, 89.5)), read: slopeDeg, open: { below: 0, above: 90 } };

/** Slope of the ground, compared as rise over run. */
export const slope: FieldKind<ConditionOf<'slope'>> = {
  unit: '°',
  cost: 1,
  around: (_, spacing) => spacing,
  onTops: (_, __, tops) => ({ at: topValues(tops, tops.steep), ...inDegrees }),
  make(_, source, rect) {
    const steepness = steepnessOf(source, rect);
    const w = rect.x1 - rect.x0 + 1;
    return { at: (x, z) => steepness[(z - rect.z0) * w + x - rect.x0], ...inDegrees };
  },
};
