import type { Rect, Terrain } from '../earth/compose';
import { gradientAtSample, quadAt } from '../earth/sample';
import { routeCover } from '../earth/lifts/route';
import type { GroundRule, Lift, Surface } from '../level/objects';
import { ownerTile, TILE_QUADS, TILE_SIDE, tileKey, type Grid, type Tiles } from '../level/tiles';
import { tanDeg } from '../num/trig';
import { clamp, smoothstep } from '../num/vec';
import { SURFACES } from './surfaces';

/**
 * What the ground is made of. One entry a sample of the level's grid, row by row.
 *
 * `weights`: four bytes, one a surface in the level's order, which sum to 255: the slope rule with
 * the paint over it. `tops`: four bytes of paint on what stands on the terrain; what is missing to
 * 255 is bare blockout. `tops` lies in the level's plan: it does not move with a block.
 */
export interface GroundRaster {
  grid: Grid;
  surfaces: Surface[];
  weights: Uint8Array;
  tops: Uint8Array;
}

export function makeGround(grid: Grid, surfaces: Surface[]): GroundRaster {
  return { grid, surfaces, weights: new Uint8Array(grid.nx * grid.nz * SURFACES), tops: new Uint8Array(grid.nx * grid.nz * SURFACES) };
}

/** Share of the steep surface at a gradient: a smoothstep over the rule's soft edge, in tangents. */
export function ruleShare(rule: Pick<GroundRule, 'slope' | 'soft'>, gradient: number): number {
  const low = tanDeg(clamp(rule.slope - rule.soft / 2, 0, 89));
  const high = tanDeg(clamp(rule.slope + rule.soft / 2, 0, 89.5));
  return high - low < 1e-9 ? (gradient >= low ? 1 : 0) : smoothstep(low, high, gradient);
}

/**
 * Composes a rectangle in place: a pure function of heights, rule and paint at each sample, so that
 * a rectangle gives the same bytes as the whole. The ground a route carries covers the rule, paint
 * covers both by its own weight.
 *
 * @param lifts the stack, for the ground its routes carry; of two the upper one covers the lower
 * @param rect samples whose heights or paint changed; slopes look one sample further, so it is grown by one
 */
export function composeGround(ground: GroundRaster, terrain: Terrain, rule: GroundRule | undefined, tiles: Tiles, rect: Rect, lifts: readonly Lift[] = []): Rect {
  const { grid, surfaces } = ground;
  const grown: Rect = { x0: Math.max(0, rect.x0 - 1), z0: Math.max(0, rect.z0 - 1), x1: Math.min(grid.nx - 1, rect.x1 + 1), z1: Math.min(grid.nz - 1, rect.z1 + 1) };
  const below = Math.max(0, surfaces.findIndex((s) => s.id === rule?.below));
  const above = rule ? surfaces.findIndex((s) => s.id === rule.above) : -1;
  const low = rule ? tanDeg(clamp(rule.slope - rule.soft / 2, 0, 89)) : 0;
  const high = rule ? tanDeg(clamp(rule.slope + rule.soft / 2, 0, 89.5)) : 0;
  const covers = lifts.flatMap((l) => { const c = l.lift === 'route' ? routeCover(l, grid) : undefined; const of = c ? surfaces.findIndex((s) => s.id === c.ground) : -1; return c && of >= 0 ? [{ ...c, of }] : []; });
  const mix = new Float64Array(SURFACES);
  for (let tz = ownerTile(grown.z0); tz <= ownerTile(grown.z1); tz++) {
    for (let tx = ownerTile(grown.x0); tx <= ownerTile(grown.x1); tx++) {
      const paint = surfaces.map((s) => tiles.get(tileKey(s.id, 'paint', tx, tz)));
      const tops = surfaces.map((s) => tiles.get(tileKey(s.id, 'top', tx, tz)));
      const painted = paint.some(Boolean);
      const topped = tops.some(Boolean);
      const z0 = Math.max(grown.z0, tz === 0 ? 0 : tz * TILE_QUADS + 1);
      const x0 = Math.max(grown.x0, tx === 0 ? 0 : tx * TILE_QUADS + 1);
      for (let z = z0; z <= Math.min(grown.z1, (tz + 1) * TILE_QUADS); z++) {
        for (let x = x0; x <= Math.min(grown.x1, (tx + 1) * TILE_QUADS); x++) {
          const [gx, gz] = gradientAtSample(terrain, x, z);
          const g = Math.sqrt(gx * gx + gz * gz);
          const k = above < 0 ? 0 : high - low < 1e-9 ? (g >= low ? 1 : 0) : smoothstep(low, high, g);
          mix.fill(0);
          mix[below] = 1 - k;
          if (above >= 0) mix[above] += k;
          for (const c of covers) {
            if (x < c.rect.x0 || x > c.rect.x1 || z < c.rect.z0 || z > c.rect.z1) continue;
            const share = c.share(x * grid.spacing, z * grid.spacing);
            if (share <= 0) continue;
            for (let i = 0; i < SURFACES; i++) mix[i] *= 1 - share;
            mix[c.of] += share;
          }
          const local = (z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS;
          if (painted) cover(mix, paint, local);
          const at = (z * grid.nx + x) * SURFACES;
          toBytes(mix, ground.weights, at, 255);
          mix.fill(0);
          if (topped) cover(mix, tops, local);
          let sum = 0;
          for (let i = 0; i < SURFACES; i++) sum += mix[i];
          toBytes(mix, ground.tops, at, Math.round(sum * 255));
        }
      }
    }
  }
  return grown;
}

/** Lays paint over a mix. Undone strokes can leave more than the whole; then the paint is scaled to it. */
function cover(mix: Float64Array, paint: (Int32Array | undefined)[], local: number): void {
  let sum = 0;
  for (const p of paint) if (p) sum += p[local];
  if (sum <= 0) return;
  const scale = sum > 1024 ? 1 / sum : 1 / 1024;
  const rest = Math.max(0, 1 - sum * scale);
  for (let i = 0; i < SURFACES; i++) mix[i] = mix[i] * rest + (paint[i] ? paint[i]![local] * scale : 0);
}

/** Rounds a mix to bytes that sum to `total`; what rounding leaves over goes to the largest. */
function toBytes(mix: Float64Array, out: Uint8Array, at: number, total: number): void {
  let sum = 0;
  let most = 0;
  for (let i = 0; i < SURFACES; i++) {
    const b = Math.min(255, Math.round(mix[i] * 255));
    out[at + i] = b;
    sum += b;
    if (mix[i] > mix[most]) most = i;
  }
  out[at + most] = clamp(out[at + most] + total - sum, 0, 255);
}

/** Shares of the four surfaces at a point, bilinear between samples, 0 to 1. @param top of what stands on the terrain */
export function groundWeightsAt(ground: GroundRaster, x: number, z: number, top: boolean, out: Float64Array): Float64Array {
  const { nx } = ground.grid;
  const data = top ? ground.tops : ground.weights;
  const { ix, iz, u, v } = quadAt(ground.grid, x, z);
  const a = (iz * nx + ix) * SURFACES;
  const c = a + nx * SURFACES;
  for (let i = 0; i < SURFACES; i++) {
    out[i] = ((data[a + i] * (1 - u) + data[a + SURFACES + i] * u) * (1 - v) + (data[c + i] * (1 - u) + data[c + SURFACES + i] * u) * v) / 255;
  }
  return out;
}

const _weights = new Float64Array(SURFACES);

/** Name of the strongest ground at a point. */
export function groundNameAt(ground: GroundRaster, x: number, z: number, top: boolean): string {
  const w = groundWeightsAt(ground, x, z, top, _weights);
  let most = 0;
  let sum = 0;
  for (let i = 0; i < SURFACES; i++) {
    sum += w[i];
    if (w[i] > w[most]) most = i;
  }
  if (top && sum < 0.5) return 'blockout';
  return ground.surfaces[most]?.name ?? 'bare';
}
