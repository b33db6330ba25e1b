import type { Rect } from '../earth/compose';
import { grownRect, overTiles, sharedRect, wholeRect } from '../earth/rect';
import { quadAt } from '../earth/sample';
import { routeCover } from '../earth/lifts/route';
import type { GroundRule, Route, Surface } from '../level/objects';
import { MOST_SURFACES } from '../level/objects';
import { TILE_QUADS, TILE_SIDE, tileKey, type Grid } from '../level/tiles';
import { layTops, type Hosts } from './layTops';
import { cover, lay, SLOTS, toBytes } from './mix';
import { readyRules, rulesReach, type ReadyRule, type RuleSource } from './rules';

export { SLOTS };

/**
 * What the ground is made of. One entry a sample of the level's grid, row by row, of `SLOTS` bytes each.
 *
 * `of`: places in `surfaces`, ascending; `weights`: their shares, which sum to 255: the rules with the
 * paint over them. `topOf`, `tops`: what stands on the terrain, likewise: rules that lie on tops with paint
 * over them; what its shares are short of 255 is bare blockout. The tops lie in the level's plan: they do not move with a block.
 *
 * In a level of up to four surfaces slot k is surface k everywhere.
 */
export interface GroundRaster {
  grid: Grid;
  surfaces: Surface[];
  of: Uint8Array;
  weights: Uint8Array;
  topOf: Uint8Array;
  tops: Uint8Array;
}

/** What the ground is composed from. */
export interface GroundSource extends RuleSource {
  /** lowest first */
  rules: readonly GroundRule[];
  /** what stands on the terrain, for rules that lie on it */
  hosts?: Hosts;
}

/** @param rect rows that will be composed: the rest stays untouched memory, which costs nothing */
export function makeGround(grid: Grid, surfaces: Surface[], rect: Rect = wholeRect(grid)): GroundRaster {
  const n = grid.nx * grid.nz * SLOTS;
  const slots = () => {
    const of = new Uint8Array(n);
    for (let i = rect.z0 * grid.nx * SLOTS; i < (rect.z1 + 1) * grid.nx * SLOTS; i++) of[i] = i % SLOTS;
    return of;
  };
  return { grid, surfaces, of: slots(), weights: new Uint8Array(n), topOf: slots(), tops: new Uint8Array(n) };
}

/** Parts of the ground in the order they are laid, made ready for a rectangle: shared with "why this ground". */
export interface GroundLayers {
  rules: ReadyRule[];
  routes: { lift: Route; of: number; rect: Rect; share(x: number, z: number): number }[];
  /** rules that lie over paint too */
  winning: ReadyRule[];
}

/** What is laid on the ground in a rectangle, made ready: rules, routes, rules that win over paint; shared with "why this ground". */
export function groundLayers({ grid, surfaces }: Pick<GroundRaster, 'grid' | 'surfaces'>, source: GroundSource, rect: Rect): GroundLayers {
  const ready = readyRules(
    source.rules.filter((r) => r.lies !== 'tops'),
    surfaces,
    source,
    rect,
  );
  const routes = source.stack.flatMap((lift) => {
    const cover = lift.lift === 'route' ? routeCover(lift, grid) : undefined;
    const of = cover ? surfaces.findIndex((s) => s.id === cover.ground) : -1;
    return of >= 0 ? [{ lift: lift as Route, of, rect: cover!.rect, share: cover!.share }] : [];
  });
  return { rules: ready.filter((r) => !r.rule.wins), routes, winning: ready.filter((r) => r.rule.wins) };
}

/**
 * Composes a rectangle in place: a pure function of heights, rules and paint at each sample, so that a
 * rectangle gives the same bytes as the whole. Laid over each other: the first surface, the rules, the
 * ground routes carry (of two the upper one's), paint, the rules that win.
 *
 * @param rect samples whose heights or paint changed; grown by what the rules look around themselves
 * @returns the samples that were composed
 */
export function composeGround(ground: GroundRaster, source: GroundSource, rect: Rect): Rect {
  const { grid, surfaces } = ground;
  const grown = grownRect(rect, rulesReach(source.rules, grid.spacing), grid);
  const { rules, routes, winning } = groundLayers(ground, source, grown);
  const n = Math.max(surfaces.length, SLOTS);
  const mix = new Float64Array(n);
  overTiles(grown, (tx, tz, own) => {
    const paint = surfaces.map((s) => source.tiles.get(tileKey(s.id, 'paint', tx, tz)));
    const tops = surfaces.map((s) => source.tiles.get(tileKey(s.id, 'top', tx, tz)));
    const painted = paint.some(Boolean);
    const topped = tops.some(Boolean);
    const here = rules.filter((r) => !r.rect || sharedRect(r.rect, own));
    for (let z = own.z0; z <= own.z1; z++) {
      for (let x = own.x0; x <= own.x1; x++) {
        mix.fill(0);
        mix[0] = 1;
        for (let r = 0; r < here.length; r++) lay(mix, here[r].of, here[r].share(x, z));
        for (let r = 0; r < routes.length; r++) {
          const { rect: at, of, share } = routes[r];
          if (x >= at.x0 && x <= at.x1 && z >= at.z0 && z <= at.z1) lay(mix, of, share(x * grid.spacing, z * grid.spacing));
        }
        const local = (z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS;
        if (painted) cover(mix, paint, local);
        for (let r = 0; r < winning.length; r++) lay(mix, winning[r].of, winning[r].share(x, z));
        const at = (z * grid.nx + x) * SLOTS;
        toBytes(mix, ground.of, ground.weights, at, 255);
        if (topped) {
          mix.fill(0);
          cover(mix, tops, local);
          let sum = 0;
          for (let i = 0; i < n; i++) sum += mix[i];
          toBytes(mix, ground.topOf, ground.tops, at, Math.round(sum * 255));
        } else ground.tops.fill(0, at, at + SLOTS);
      }
    }
  });
  layTops(ground, source, grown);
  return grown;
}

/**
 * Shares of the surfaces at a point, bilinear between samples, 0 to 1.
 *
 * @param top of what stands on the terrain
 * @param out one number a surface, `MOST_SURFACES` long
 */
export function groundWeightsAt(ground: GroundRaster, x: number, z: number, top: boolean, out: Float64Array): Float64Array {
  const { nx } = ground.grid;
  const data = top ? ground.tops : ground.weights;
  const of = top ? ground.topOf : ground.of;
  const { ix, iz, u, v } = quadAt(ground.grid, x, z);
  const a = (iz * nx + ix) * SLOTS;
  const c = a + nx * SLOTS;
  out.fill(0);
  for (let k = 0; k < SLOTS; k++) {
    out[of[a + k]] += (data[a + k] * (1 - u) * (1 - v)) / 255;
    out[of[a + SLOTS + k]] += (data[a + SLOTS + k] * u * (1 - v)) / 255;
    out[of[c + k]] += (data[c + k] * (1 - u) * v) / 255;
    out[of[c + SLOTS + k]] += (data[c + SLOTS + k] * u * v) / 255;
  }
  return out;
}

const _weights = new Float64Array(MOST_SURFACES);

/** The strongest surface of a point: its place in the list, -1 on bare blockout. */
export function strongestAt(ground: GroundRaster, x: number, z: number, top: boolean): number {
  const w = groundWeightsAt(ground, x, z, top, _weights);
  let most = 0;
  let sum = 0;
  for (let i = 0; i < w.length; i++) {
    sum += w[i];
    if (w[i] > w[most]) most = i;
  }
  return top && sum < 0.5 ? -1 : most;
}

/** Name of the strongest ground at a point. */
export function groundNameAt(ground: GroundRaster, x: number, z: number, top: boolean): string {
  const most = strongestAt(ground, x, z, top);
  return most < 0 ? 'blockout' : (ground.surfaces[most]?.name ?? 'bare');
}

/** The strongest surface of a sample of the terrain: its place in the list. */
export function strongestOf(ground: GroundRaster, sample: number): number {
  const at = sample * SLOTS;
  let most = at;
  for (let k = at + 1; k < at + SLOTS; k++) if (ground.weights[k] > ground.weights[most]) most = k;
  return ground.of[most];
}
