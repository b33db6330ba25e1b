import { meshTopAt, type PlacedMesh } from '../block/placedMesh';
import { blockBounds, solidSpanAt } from '../block/solid';
import type { Rect, Terrain } from '../earth/compose';
import type { Block } from '../level/objects';
import { sinCosDeg } from '../num/trig';
import { clamp, type Vec3 } from '../num/vec';

/** Unit direction to the sun: azimuth clockwise from north (-z), elevation above the horizon, degrees. */
export function sunDirection(azimuth: number, elevation: number): Vec3 {
  const [sa, ca] = sinCosDeg(azimuth);
  const [se, ce] = sinCosDeg(elevation);
  return [sa * ce, se, -ca * ce];
}

/** How far shadows are looked for, metres, and the width of their soft edge as a share of distance. */
const SHADOW_REACH = 90;
const PENUMBRA = 0.035;
const SKY_STEPS = [0.7, 1.5, 3, 6, 11];
const SKY_WAYS: [number, number][] = [
  [1, 0],
  [0.7071, 0.7071],
  [0, 1],
  [-0.7071, 0.7071],
  [-1, 0],
  [-0.7071, -0.7071],
  [0, -1],
  [0.7071, -0.7071],
];

/**
 * Ground, block and piece tops and the crowns of plants together at each sample: what throws shadows.
 *
 * @param crowns x, z, radius and top of each, metres
 * @param clear blocks that hang higher over the ground than this let the light under them, metres; the raster cannot say that
 */
export function occluderHeights(
  terrain: Terrain,
  blocks: Iterable<Block>,
  pieces: Iterable<PlacedMesh> = [],
  crowns: Float32Array = new Float32Array(),
  clear = 1.5,
): Float32Array {
  const { nx, nz, spacing } = terrain.grid;
  const out = terrain.heights.slice();
  for (const block of blocks) {
    const { min, max } = blockBounds(block);
    for (let z = Math.max(0, Math.ceil(min[2] / spacing)); z <= Math.min(nz - 1, max[2] / spacing); z++) {
      for (let x = Math.max(0, Math.ceil(min[0] / spacing)); x <= Math.min(nx - 1, max[0] / spacing); x++) {
        const span = solidSpanAt(block, x * spacing, z * spacing);
        if (span && span.bottom < terrain.heights[z * nx + x] + clear) out[z * nx + x] = Math.max(out[z * nx + x], span.top);
      }
    }
  }
  const within = (low: number, high: number, samples: number): [number, number] => [
    Math.max(0, Math.ceil(low / spacing)),
    Math.min(samples - 1, Math.floor(high / spacing)),
  ];
  for (const mesh of pieces) {
    const [x0, x1] = within(mesh.min[0], mesh.max[0], nx);
    const [z0, z1] = within(mesh.min[2], mesh.max[2], nz);
    for (let z = z0; z <= z1; z++) {
      for (let x = x0; x <= x1; x++) {
        const top = meshTopAt(mesh, x * spacing, z * spacing, Infinity);
        if (top) out[z * nx + x] = Math.max(out[z * nx + x], top.height);
      }
    }
  }
  for (let i = 0; i < crowns.length; i += 4) {
    const [cx, cz, r, top] = crowns.subarray(i, i + 4);
    const [x0, x1] = within(cx - r, cx + r, nx);
    const [z0, z1] = within(cz - r, cz + r, nz);
    for (let z = z0; z <= z1; z++) {
      for (let x = x0; x <= x1; x++) {
        const dx = x * spacing - cx;
        const dz = z * spacing - cz;
        if (dx * dx + dz * dz <= r * r) out[z * nx + x] = Math.max(out[z * nx + x], top);
      }
    }
  }
  return out;
}

/**
 * Sunlight and open sky at a rectangle of samples, as two bytes a sample (0 none, 255 full).
 *
 * Sun: a march towards it over the occluder heights, soft by the nearest miss over the distance.
 * Sky: one less the mean sine of the horizon in eight directions.
 */
export function sunlit(terrain: Terrain, occluders: Float32Array, sun: Vec3, { x0, z0, x1, z1 }: Rect): Uint8Array {
  const { nx, nz, spacing } = terrain.grid;
  const out = new Uint8Array((x1 - x0 + 1) * (z1 - z0 + 1) * 2);
  const flat = Math.sqrt(sun[0] * sun[0] + sun[2] * sun[2]);
  const read = (x: number, z: number) => occluders[clamp(Math.round(z / spacing), 0, nz - 1) * nx + clamp(Math.round(x / spacing), 0, nx - 1)];
  for (let sz = z0, o = 0; sz <= z1; sz++) {
    for (let sx = x0; sx <= x1; sx++) {
      const h = terrain.heights[sz * nx + sx];
      const px = sx * spacing;
      const pz = sz * spacing;
      let light = 1;
      if (flat > 1e-6) {
        const rise = sun[1] / flat;
        const ux = sun[0] / flat;
        const uz = sun[2] / flat;
        for (let s = spacing * 1.5; s < SHADOW_REACH && light > 0; s += Math.max(spacing, s * 0.06)) {
          const x = px + ux * s;
          const z = pz + uz * s;
          if (x < 0 || z < 0 || x > terrain.grid.width || z > terrain.grid.depth) break;
          const miss = h + 0.08 + rise * s - read(x, z);
          light = Math.min(light, 0.5 + miss / (2 * PENUMBRA * s + 0.3));
        }
      }
      let horizon = 0;
      for (const [wx, wz] of SKY_WAYS) {
        let steepest = 0;
        for (const s of SKY_STEPS) steepest = Math.max(steepest, (read(px + wx * s, pz + wz * s) - h) / s);
        horizon += steepest / Math.sqrt(1 + steepest * steepest);
      }
      out[o++] = Math.round(clamp(light, 0, 1) * 255);
      out[o++] = Math.round((1 - horizon / SKY_WAYS.length) * 255);
    }
  }
  return out;
}
