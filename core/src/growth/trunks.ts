import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { sinCosDeg } from '../num/trig';
import { PLANT_STRIDE, type Plants } from './plants';

/** Height of what stands for a trunk, metres: taller than any body. */
const TALL = 2.5;
const SIDES = 6;

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
    const trunk = (s && assets.get(s.asset)?.trunk) ?? 0;
    if (!s || trunk <= 0) continue;
    for (let i = 0; i < plants.count; i++) {
      const o = i * PLANT_STRIDE;
      const r = trunk * plants.place[o + 5];
      out.push(placeMesh(`${s.id}/${i}`, s.name, PRISM, (x, y, z) => [plants.place[o] + x * r, plants.place[o + 1] + y, plants.place[o + 2] + z * r]));
    }
  }
  return out;
}
