import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import { assetBounds } from '../kit/asset';
import { colliderShapes } from '../kit/mend/colliders';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { axisRotation, placer, tiltOf } from '../num/pose';
import { sinCosDeg } from '../num/trig';
import { assetsOfSpecies, meshOf, sizesOf } from './meshes';
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

/** What is lower is stepped over, metres. */
const LOW = 0.3;

/**
 * What stops a body at plants: at those that have a trunk a six-sided post each, as wide as the plant is grown; at those that stop it
 * by their shape what stops one at their mesh, its hull where that is nothing.
 */
export function trunkColliders(grown: readonly Plants[], species: ReadonlyMap<string, Species>, assets: Assets): PlacedMesh[] {
  const out: PlacedMesh[] = [];
  for (const plants of grown) {
    const s = species.get(plants.species);
    if (s?.stops === 'none') continue;
    if (s?.stops === 'shape') {
      out.push(...shapes(plants, s, assets));
      continue;
    }
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

/** What stops a body at plants by their shape, those that are stepped over left out. */
function shapes(plants: Plants, s: Species, assets: Assets): PlacedMesh[] {
  const meshes = assetsOfSpecies(s, assets).map(
    (asset) => asset && { top: assetBounds(asset).max[1], shapes: colliderShapes(asset, asset.collider === 'none' ? 'hull' : asset.collider) },
  );
  const out: PlacedMesh[] = [];
  for (let i = 0; i < plants.count; i++) {
    const mesh = meshes[meshOf(plants, i)];
    const o = i * PLANT_STRIDE;
    const [x, y, z, turn, tall, wide, lean, to, deep] = plants.place.subarray(o, o + PLANT_STRIDE);
    if (!mesh || mesh.top * tall < LOW) continue;
    const [sin, cos] = sinCosDeg(to + turn);
    const tilt = tiltOf(lean * cos, lean * sin);
    const place = placer({ at: [x, y, z], turn, ...(tilt ? { tilt } : {}), scale: [wide, tall, deep] });
    for (const shape of mesh.shapes) out.push(placeMesh(`${s.id}/${i}`, s.name, shape, place));
  }
  return out;
}
