import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { axisRotation, placer } from '../num/pose';
import { sinCosDeg } from '../num/trig';
import { meshOf, sizesOf } from './meshes';
import { PLANT_STRIDE, type Plants } from './plants';

/** Height of what stands for a trunk, metres: taller than any body. */
const TALL = 2.5;
const SIDES = 6;
/** Under this lean a trunk is taken as upright, degrees. */
const LEANS = 25;
/** How much of a plant's height is stem. */
const STEM = 0.75;

/** A standing prism of unit radius, closed on top. */
const PRISM: Mesh = (() => {
  const positions: number[] = [];
  for (let i = 0; i < SIDES; i++) {
    const [s, c] = sinCosDeg((i * 360) / SIDES);
    positions.push(c, -0.3, s, c, TALL, s);
  }
  const indices: number[] = [];
  for (let i = 0; i < SIDES; i++) {
    const a = i * 2;
    const b = ((i + 1) % SIDES) * 2;
    indices.push(a, a + 1, b + 1, a, b + 1, b);
    if (i > 1) indices.push(1, i * 2 + 1, i * 2 - 1);
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
})();

/** What stops a body at plants that have a trunk: a six-sided post each, as wide as the plant is grown. */
export function trunkColliders(grown: readonly Plants[], species: ReadonlyMap<string, Species>, assets: Assets): PlacedMesh[] {
  const out: PlacedMesh[] = [];
  for (const plants of grown) {
    const s = species.get(plants.species);
    const sizes = s && sizesOf(s, assets);
    if (!s || !sizes?.some((m) => m && m.trunk > 0)) continue;
    for (let i = 0; i < plants.count; i++) {
      const size = sizes[meshOf(plants, i)];
      if (!size || size.trunk <= 0) continue;
      const o = i * PLANT_STRIDE;
      const r = size.trunk * plants.place[o + 5];
      const [x0, y0, z0, , tall, , lean, to] = plants.place.subarray(o, o + PLANT_STRIDE);
      if (lean < LEANS) {
        out.push(placeMesh(`${s.id}/${i}`, s.name, PRISM, (x, y, z) => [x0 + x * r, y0 + y, z0 + z * r]));
        continue;
      }
      // One that lies or leans far stops a body along its stem, as far as that goes.
      const [ts, tc] = sinCosDeg(to);
      const long = (size.top * tall * STEM) / TALL;
      out.push(placeMesh(`${s.id}/${i}`, s.name, PRISM, placer({ at: [x0, y0, z0], turn: 0, tilt: axisRotation([tc, 0, ts], lean), scale: [r, long, r] })));
    }
  }
  return out;
}
