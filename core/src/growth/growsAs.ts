import type { GrowsAs, Species } from '../level/objects';
import type { Vec3 } from '../num/vec';

/** What a kind starts with, of a mesh of its own size. Shares are of the mesh's width. */
interface Start {
  /** share of the ground its plants cover together */
  cover: number;
  spacing: number;
  clearance: number;
  /** against the mesh's own height */
  height: [number, number];
  slenderness: [number, number];
  lean: number;
  /** throws shadows from this height on, metres */
  shadowsFrom: number;
  /** metres; 0 is never left out */
  cutoff: number;
  /** share of the ground's colour at the foot */
  roots: number;
  /** what lies about does not go with the wind, and is longer one way than the other */
  lies?: boolean;
}

const STARTS: Readonly<Record<GrowsAs, Start>> = {
  tree: { cover: 0.22, spacing: 0.75, clearance: 0.25, height: [0.8, 1.2], slenderness: [0.85, 1.15], lean: 3, shadowsFrom: 0, cutoff: 0, roots: 0.3 },
  shrub: { cover: 0.1, spacing: 0.8, clearance: 0.3, height: [0.7, 1.25], slenderness: [0.8, 1.25], lean: 5, shadowsFrom: 0.4, cutoff: 160, roots: 0.4 },
  grass: { cover: 0.16, spacing: 0.7, clearance: 0.1, height: [0.7, 1.3], slenderness: [0.8, 1.25], lean: 8, shadowsFrom: Infinity, cutoff: 70, roots: 0.7 },
  flower: { cover: 0.02, spacing: 0.9, clearance: 0.2, height: [0.75, 1.2], slenderness: [0.9, 1.15], lean: 6, shadowsFrom: Infinity, cutoff: 50, roots: 0.5 },
  scatter: {
    cover: 0.025,
    spacing: 1.2,
    clearance: 0.3,
    height: [0.6, 1.5],
    slenderness: [0.7, 1.45],
    lean: 20,
    shadowsFrom: 0.35,
    cutoff: 120,
    roots: 0.35,
    lies: true,
  },
  litter: {
    cover: 0.05,
    spacing: 0.8,
    clearance: 0,
    height: [0.6, 1.4],
    slenderness: [0.7, 1.5],
    lean: 35,
    shadowsFrom: Infinity,
    cutoff: 40,
    roots: 0.4,
    lies: true,
  },
};

/** Words of a name or a tag that say what something grows as. */
const WORDS: Readonly<Record<string, GrowsAs>> = {
  tree: 'tree',
  bush: 'shrub',
  shrub: 'shrub',
  hedge: 'shrub',
  fern: 'shrub',
  grass: 'grass',
  tussock: 'grass',
  reed: 'grass',
  flower: 'flower',
  stone: 'scatter',
  rock: 'scatter',
  boulder: 'scatter',
  log: 'scatter',
  leaf: 'litter',
  leaves: 'litter',
  litter: 'litter',
  twig: 'litter',
  moss: 'litter',
};

/** What a mesh most likely grows as: by a word of its name or tags, else by its size. @param asset `size` in metres: width, height, depth */
export function likelyGrowsAs({ name, role, tags = [], size }: { name: string; role?: string; tags?: readonly string[]; size: Vec3 }): GrowsAs {
  for (const word of [...tags, ...name.split(/[^\p{L}]+/u)]) {
    const found = WORDS[word.toLowerCase()];
    if (found) return found;
  }
  const [w, h, d] = size;
  if (role !== undefined && role !== 'plant') return 'scatter';
  if (h >= 2.5) return 'tree';
  if (h < Math.max(w, d) * 0.35) return 'litter';
  return h >= 0.6 ? 'shrub' : 'grass';
}

const round = (v: number, least: number, most: number) => Math.min(most, Math.max(least, Math.round(v * 100) / 100));

/**
 * Settings of a species to start from, so that the first stroke looks right: by what it grows as and by how large it is.
 *
 * @param size of the mesh, metres: width, height, depth
 */
export function startAs(
  as: GrowsAs,
  [w, h, d]: Vec3,
): Pick<
  Species,
  'as' | 'density' | 'spacing' | 'clearance' | 'height' | 'slenderness' | 'lean' | 'leanToSlope' | 'sink' | 'shadows' | 'cutoff' | 'roots' | 'sway' | 'depth'
> {
  const { cover, spacing, clearance, height, slenderness, lean, shadowsFrom, cutoff, roots, lies } = STARTS[as];
  const wide = Math.max(w, d, 0.02);
  const apart = round(wide * spacing, 0.1, 100);
  const area = (Math.PI * wide * wide) / 4;
  return {
    as,
    // Half of what there is room for at most, so that masks and sowing have some to give.
    density: round(Math.min((cover * 100) / area, 34 / (apart * apart)), 0.01, 2000),
    spacing: apart,
    clearance: round(wide * clearance, 0, 50),
    height: [round(h * height[0], 0.02, 100), round(h * height[1], 0.02, 100)],
    slenderness,
    lean,
    ...(lies ? { leanToSlope: 1, sink: round(h * 0.1, 0, 1), sway: 0, depth: [0.75, 1.3] as [number, number] } : {}),
    shadows: h >= shadowsFrom,
    cutoff,
    roots,
    // A boulder stops a body, a pebble is stepped over.
    ...(as === 'scatter' && h >= 0.5 ? { stops: 'shape' as const } : {}),
  };
}
