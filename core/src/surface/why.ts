import { ownerTile, TILE_QUADS, TILE_SIDE, tileKey } from '../level/tiles';
import { clamp } from '../num/vec';
import { groundLayers, groundNameAt, groundWeightsAt, type GroundRaster, type GroundSource } from './ground';
import { topLayers } from './layTops';
import { conditionName, unitOf, type ReadyRule } from './rules';
import { topsIn } from './tops';
import { MOST_SURFACES } from '../level/objects';

/** One part of the answer to a "why": what, its value in words, and the factor it gives, where it is a factor. */
export interface WhyPart {
  what: string;
  value: string;
  factor?: number;
}

export interface WhyGround {
  /** in one line */
  verdict: string;
  /** from the lowest layer up */
  parts: WhyPart[];
}

const percent = (share: number): string => `${Math.round(share * 100)} %`;
const metric = (v: number): string => (Number.isFinite(v) ? (Math.abs(v) >= 100 ? v.toFixed(0) : v.toFixed(Math.abs(v) < 1 ? 2 : 1)) : 'none');

/**
 * Why the ground is what it is at a point: every layer with the values it goes by, in the order they are
 * laid, and the mix they make. Rules and paint are those of the nearest sample.
 *
 * @param top asks for what stands on the terrain
 */
export function whyGround(ground: GroundRaster, source: GroundSource, x: number, z: number, top: boolean): WhyGround {
  const { grid, surfaces } = ground;
  const sx = clamp(Math.round(x / grid.spacing), 0, grid.nx - 1);
  const sz = clamp(Math.round(z / grid.spacing), 0, grid.nz - 1);
  const name = (of: number) => surfaces[of]?.name ?? 'bare';
  const paint = paintAt(ground, source, sx, sz, top);
  const painted: WhyPart[] =
    paint.length === 0
      ? []
      : [
          {
            what: 'paint',
            value: paint.map((p) => `${p.name} ${percent(p.share)}`).join(', '),
            factor: Math.min(
              1,
              paint.reduce((sum, p) => sum + p.share, 0),
            ),
          },
        ];
  const shares = [...groundWeightsAt(ground, x, z, top, new Float64Array(MOST_SURFACES))]
    .map((share, of) => ({ share, of }))
    .filter((s) => s.share >= 0.005)
    .sort((a, b) => b.share - a.share);
  const bare = top ? 1 - shares.reduce((sum, s) => sum + s.share, 0) : 0;
  const verdict =
    `${groundNameAt(ground, x, z, top)}: ` +
    `${[...shares.map((s) => `${name(s.of)} ${percent(s.share)}`), ...(bare >= 0.005 ? [`bare ${percent(bare)}`] : [])].join(', ')}`;
  // Of a rule that lays nothing, what says no is enough.
  const rulePart = (r: ReadyRule): WhyPart[] => [
    { what: name(r.of), value: r.rule.name + (r.rule.wins ? ', over paint' : '') + (r.conditions.length === 0 ? ', everywhere' : ''), factor: r.share(sx, sz) },
    ...r.conditions
      .filter((c) => r.share(sx, sz) > 0 || c.share(sx, sz) === 0)
      .map((c) => {
        const unit = unitOf(c.condition.by);
        const v = c.value(sx, sz);
        return {
          what: `· ${conditionName(c.condition.by)}`,
          value:
            `${Number.isNaN(v) ? 'none here' : `${metric(v)}${unit === '°' ? unit : unit && ` ${unit}`}`}, ` +
            `in ${c.condition.band[0]} to ${c.condition.band[1]}${unit === '°' ? unit : unit && ` ${unit}`}`,
          factor: c.share(sx, sz),
        };
      }),
  ];
  const here = { x0: sx, z0: sz, x1: sx, z1: sz };
  if (top) {
    const tops = source.hosts && topsIn(grid, source.hosts, here);
    const { rules, winning } = tops ? topLayers(ground, source, tops) : { rules: [], winning: [] };
    return {
      verdict,
      parts: [
        { what: 'host', value: 'the top of a block or piece: bare until it is painted, or a rule lies on tops' },
        ...rules.flatMap(rulePart),
        ...painted,
        ...winning.flatMap(rulePart),
      ],
    };
  }
  const layers = groundLayers(ground, source, here);
  const routes = layers.routes
    .map((r): WhyPart => ({
      what: name(r.of),
      value: `carried by ${r.lift.name}`,
      factor: sx >= r.rect.x0 && sx <= r.rect.x1 && sz >= r.rect.z0 && sz <= r.rect.z1 ? r.share(sx * grid.spacing, sz * grid.spacing) : 0,
    }))
    .filter((p) => p.factor! > 0);
  return {
    verdict,
    parts: [
      { what: name(0), value: 'first in the list: where nothing else is' },
      ...layers.rules.flatMap(rulePart),
      ...routes,
      ...painted,
      ...layers.winning.flatMap(rulePart),
    ],
  };
}

/** What is painted at a sample, the most first. */
function paintAt({ grid, surfaces }: GroundRaster, { tiles }: GroundSource, sx: number, sz: number, top: boolean): { name: string; share: number }[] {
  const [tx, tz] = [ownerTile(sx), ownerTile(sz)];
  if (tx >= grid.tilesX || tz >= grid.tilesZ) return [];
  return surfaces
    .map((s) => ({
      name: s.name,
      share: (tiles.get(tileKey(s.id, top ? 'top' : 'paint', tx, tz))?.[(sz - tz * TILE_QUADS) * TILE_SIDE + sx - tx * TILE_QUADS] ?? 0) / 1024,
    }))
    .filter((p) => p.share > 0)
    .sort((a, b) => b.share - a.share);
}
