import { overTiles, type Rect } from '../earth/rect';
import type { GroundRule } from '../level/objects';
import { TILE_QUADS, TILE_SIDE, tileKey } from '../level/tiles';
import type { GroundRaster, GroundSource } from './ground';
import { cover, lay, SLOTS, toBytes } from './mix';
import { readyRules, type ReadyRule } from './rules';
import { topsIn, type Tops } from './tops';

export type { Hosts } from './tops';

/** Whether rules lie on tops: then what stands on the terrain is part of what the ground is composed from. */
export const rulesOnTops = (rules: readonly GroundRule[]): boolean => rules.some((r) => r.on && r.lies !== undefined);

/** Rules that lie on tops, made ready: under paint and over it; shared with "why this ground". */
export function topLayers({ surfaces }: Pick<GroundRaster, 'surfaces'>, source: GroundSource, tops: Tops): { rules: ReadyRule[]; winning: ReadyRule[] } {
  const ready = readyRules(
    source.rules.filter((r) => r.lies !== undefined),
    surfaces,
    source,
    tops.rect,
    tops,
  );
  return { rules: ready.filter((r) => !r.rule.wins), winning: ready.filter((r) => r.rule.wins) };
}

/**
 * Lays rules on the tops of what stands in a rectangle, with the paint there over them: a pure function of
 * tops, rules and paint at each sample. Where nothing stands, or no rule lies on tops, nothing is touched.
 */
export function layTops(ground: GroundRaster, source: GroundSource, rect: Rect): void {
  if (!source.hosts || !rulesOnTops(source.rules)) return;
  const { grid, surfaces } = ground;
  const tops = topsIn(grid, source.hosts, rect);
  if (!tops) return;
  const { rules, winning } = topLayers(ground, source, tops);
  const mix = new Float64Array(Math.max(surfaces.length, SLOTS));
  const w = tops.rect.x1 - tops.rect.x0 + 1;
  overTiles(tops.rect, (tx, tz, own) => {
    const paint = surfaces.map((s) => source.tiles.get(tileKey(s.id, 'top', tx, tz)));
    const painted = paint.some(Boolean);
    for (let z = own.z0; z <= own.z1; z++) {
      for (let x = own.x0; x <= own.x1; x++) {
        if (Number.isNaN(tops.height[(z - tops.rect.z0) * w + x - tops.rect.x0])) continue;
        mix.fill(0);
        for (const r of rules) lay(mix, r.of, r.share(x, z));
        if (painted) cover(mix, paint, (z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS);
        for (const r of winning) lay(mix, r.of, r.share(x, z));
        toBytes(mix, ground.topOf, ground.tops, (z * grid.nx + x) * SLOTS, Math.round(mix.reduce((sum, v) => sum + v, 0) * 255));
      }
    }
  });
}
