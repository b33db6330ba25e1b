import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import { sinCosDeg } from '../num/trig';
import { meshOf, sizesOf } from './meshes';
import { PLANT_STRIDE, type Plants } from './plants';

/** Plants lower than this throw no shadow worth looking for, metres. */
const LOW = 0.6;
/** What leans by more casts its shadow beside its foot, degrees. */
const LIES = 25;

/** Crowns as x, z, radius and top, metres: what the light is worked out with. */
export function crowns(grown: readonly Plants[], species: ReadonlyMap<string, Species>, assets: Assets): Float32Array {
  const out: number[] = [];
  for (const plants of grown) {
    const s = species.get(plants.species);
    const sizes = s && sizesOf(s, assets);
    if (!s || !sizes || s.hidden || !s.shadows) continue;
    const { place } = plants;
    for (let i = 0; i < plants.count; i++) {
      const size = sizes[meshOf(plants, i)];
      if (!size) continue;
      const o = i * PLANT_STRIDE;
      const [lean, to] = place.subarray(o + 6, o + 8);
      const [aside, up] = lean > LIES ? sinCosDeg(lean) : [0, 1];
      const tall = size.top * place[o + 4] * Math.max(0.2, up);
      if (tall < LOW) continue;
      // A crown is not a post: it is counted a little lower and slimmer than it is.
      const [ts, tc] = sinCosDeg(to);
      const off = (aside * size.top * place[o + 4]) / 2;
      out.push(place[o] - ts * off, place[o + 2] + tc * off, (size.width / 2) * place[o + 5] * 0.7, place[o + 1] + tall * 0.85);
    }
  }
  return Float32Array.from(out);
}
