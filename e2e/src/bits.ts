import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { composeTerrain } from '@rammer/core/earth/compose';
import { newLevel } from '@rammer/core/level/level';
import { hashBytes } from '@rammer/core/num/hash';
import { atan2Deg, sinCosDeg } from '@rammer/core/num/trig';

/** What must come out the same wherever it runs; bundled and run in the browser by the test beside it. */
export function bits(): { terrain: string; angles: string } {
  const level = newLevel({ name: 'bits', tilesX: 3, tilesZ: 2, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 4711 });
  const angles = Float64Array.from({ length: 20_000 }, (_, i) => sinCosDeg(i * 0.7331)[i % 2] + atan2Deg(i - 9000.5, 77.7 + (i % 911)));
  return { terrain: hashBytes(new Uint8Array(composeTerrain(level).heights.buffer)), angles: hashBytes(new Uint8Array(angles.buffer)) };
}
