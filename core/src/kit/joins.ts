import type { Join, Part, PartUse } from '../level/kinds/kit';
import type { Vec3 } from '../num/vec';
import { assetBounds, type Asset } from './asset';

/** A side this near a whole number of pitches is meant to be one, as a share of the pitch. */
const NEAR = 0.12;

/** What a mesh is laid as, by its tags and its name; walls are the rest of what stands on a pitch. */
export function useOf(asset: Pick<Asset, 'name' | 'tags'>): PartUse {
  const words = new Set([...asset.tags, ...asset.name.split(/[^\p{L}]+/u)].map((w) => w.toLowerCase()));
  const has = (...any: string[]) => any.some((w) => words.has(w));
  if (has('inner')) return 'inner corner';
  if (has('corner', 'quoin')) return 'corner';
  if (has('door', 'doorway', 'gate')) return 'door';
  if (has('window')) return 'window';
  if (has('foundation', 'plinth', 'footing')) return 'foundation';
  if (has('gable')) return 'gable';
  if (has('ridge')) return 'ridge';
  if (has('roof')) return 'roof';
  if (has('stair', 'stairs', 'steps')) return 'stair';
  if (has('floor', 'ceiling')) return 'floor';
  if (has('post', 'pillar', 'column', 'sleeper', 'lamp')) return 'post';
  if (has('filler', 'half', 'short')) return 'filler';
  if (has('end', 'cap')) return 'end';
  return has('wall', 'fence', 'railing', 'rail', 'track', 'kerb', 'hedge', 'panel') ? 'wall' : 'other';
}

/** The kind of join of parts laid as something: what runs along a line meets what runs along it. */
const KIND: Partial<Record<PartUse, string>> = { floor: 'floor', roof: 'roof', ridge: 'ridge', stair: 'floor' };

/** The two ends of a side on a pitch: whole pitches long, and about the pivot where it nearly is. */
function ends(low: number, high: number, pitch: number): [number, number] | undefined {
  const whole = Math.round((high - low) / pitch);
  if (whole < 1 || Math.abs(high - low - whole * pitch) > NEAR * pitch) return undefined;
  const middle = (low + high) / 2;
  const centre =
    Math.abs(middle) < NEAR * pitch ? 0 : Math.abs(low) < NEAR * pitch ? (whole * pitch) / 2 : Math.abs(high) < NEAR * pitch ? (-whole * pitch) / 2 : middle;
  return [centre - (whole * pitch) / 2, centre + (whole * pitch) / 2];
}

/**
 * Joins of a part found by its box: of what is whole pitches long, the middles of its left and right sides; of floors, of all
 * four; of a roof, where it lies on the wall (`eave`) and where its ridge is.
 *
 * @param box lowest and highest corner about the pivot, metres
 */
export function foundJoins(use: PartUse, [low, high]: readonly [Vec3, Vec3], pitch: number): Join[] {
  if (use === 'post' || use === 'other' || use === 'gable') return [];
  const kind = KIND[use] ?? 'wall';
  const across = high[2] - low[2];
  const x = ends(low[0], high[0], pitch);
  const z = ends(low[2], high[2], pitch);
  const out: Join[] = [];
  if ((use === 'corner' || use === 'inner corner') && x && z) {
    // An angle: it runs from its own left to its own front.
    return [
      { at: [x[0], 0, 0], turn: 180, kind, width: across },
      { at: [0, 0, z[1]], turn: -90, kind, width: high[0] - low[0] },
    ];
  }
  if (use === 'corner' || use === 'inner corner') return [];
  if (x) out.push({ at: [x[0], 0, 0], turn: 180, kind, width: across }, { at: [x[1], 0, 0], turn: 0, kind, width: across });
  if (use === 'floor' && z && x) {
    const width = x[1] - x[0];
    out.push({ at: [0, 0, z[0]], turn: 90, kind, width }, { at: [0, 0, z[1]], turn: -90, kind, width });
  }
  if (use === 'roof') {
    const width = high[0] - low[0];
    out.push({ at: [0, 0, pitch / 2], turn: -90, kind: 'eave', width }, { at: [0, high[1], -pitch / 2], turn: 90, kind: 'ridge', width });
  }
  return out;
}

/** What runs along a line and is no wall: its joins are of this kind, so that a railing meets railings. */
const ALONG = ['fence', 'railing', 'track', 'kerb', 'hedge'];

/** A mesh as a part of a kit: measured, and its joins found. */
export function partOf(id: string, asset: Asset, pitch: number, use = useOf(asset)): Part {
  const { min, max } = assetBounds(asset);
  const fine = (v: Vec3): Vec3 => v.map((c) => Math.round(c * 1e4) / 1e4 + 0) as Vec3;
  const box: [Vec3, Vec3] = [fine(min), fine(max)];
  const kind = asset.tags.find((t) => ALONG.includes(t.toLowerCase()));
  const joins = foundJoins(use, box, pitch).map((j) => (kind && j.kind === 'wall' ? { ...j, kind: kind.toLowerCase() } : j));
  return { asset: id, use, weight: 1, box, joins };
}

/** The pitch most parts of some meshes lie on: the commonest length of their longer sides, to a tenth of a metre; 2 m where there are none. */
export function likelyPitch(assets: readonly Asset[]): number {
  const counts = new Map<number, number>();
  for (const asset of assets) {
    const { min, max } = assetBounds(asset);
    const side = Math.round(Math.max(max[0] - min[0], max[2] - min[2]) * 10) / 10;
    if (side >= 0.2) counts.set(side, (counts.get(side) ?? 0) + 1);
  }
  return [...counts].sort(([a, n], [b, m]) => m - n || a - b)[0]?.[0] ?? 2;
}
