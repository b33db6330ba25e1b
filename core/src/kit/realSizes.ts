import type { Asset } from './asset';

/**
 * Heights that things really have, metres, by a word of their tags or name; of two words the first here counts.
 * Published in docs/numbers.md.
 */
export const REAL_HEIGHTS: Readonly<Record<string, readonly [low: number, high: number]>> = {
  'door wall': [2.2, 5],
  'window wall': [2.2, 5],
  gable: [1.5, 8],
  roof: [0.4, 6],
  wall: [1.5, 6],
  lintel: [0.1, 0.8],
  gate: [1, 5],
  door: [1.8, 3],
  window: [0.4, 2.5],
  floor: [0.02, 0.6],
  stair: [0.3, 6],
  step: [0.1, 0.3],
  railing: [0.9, 1.3],
  fence: [0.8, 2.5],
  post: [0.8, 6],
  lamp: [0.2, 6],
  ladder: [1, 8],
  crate: [0.3, 1.6],
  barrel: [0.5, 1.3],
  sack: [0.2, 1],
  chair: [0.7, 1.3],
  table: [0.6, 1.1],
  bench: [0.4, 1.1],
  wagon: [0.8, 3.5],
  cart: [0.6, 2.5],
  boiler: [0.8, 5],
  wheel: [0.3, 6],
  tree: [2, 40],
  conifer: [2, 50],
  birch: [3, 25],
  oak: [4, 35],
  palm: [2, 25],
  sapling: [0.5, 4],
  shrub: [0.3, 4],
  gorse: [0.4, 3],
  bush: [0.3, 4],
  bracken: [0.3, 2],
  fern: [0.2, 1.8],
  heather: [0.15, 0.9],
  grass: [0.03, 1.2],
  flower: [0.03, 1.5],
  moss: [0.01, 0.2],
  'loose slate': [0.02, 1],
  pebble: [0.005, 0.1],
  stone: [0.02, 1.5],
  boulder: [0.4, 8],
};

/** How far off the heights a thing stands for it may be placed. */
export const UNLIKELY = { small: 0.8, large: 1.25 } as const;

/** Heights an asset may really have: those its file states, else published ones where its tags or name say what it is; its own size says nothing. */
export function realHeights(asset: Pick<Asset, 'name' | 'tags' | 'real'>): readonly [low: number, high: number] | undefined {
  if (asset.real) return asset.real;
  const words = ` ${[asset.name, ...asset.tags]
    .join(' ')
    .toLowerCase()
    .replace(/[^a-z]+/g, ' ')} `;
  const word = Object.keys(REAL_HEIGHTS).find((w) => words.includes(` ${w} `));
  return word === undefined ? undefined : REAL_HEIGHTS[word];
}

/**
 * Says where a thing is placed at a height it does not really have.
 *
 * @param height as placed, metres
 * @returns in words, `is 9.0 m high; barrel stands for 0.5 to 1.3 m`, or `undefined` where it is likely or nobody knows
 */
export function unlikelySize(asset: Pick<Asset, 'name' | 'tags' | 'real'>, height: number): string | undefined {
  const range = realHeights(asset);
  if (!range || (height >= range[0] * UNLIKELY.small && height <= range[1] * UNLIKELY.large)) return undefined;
  return `is ${height < 1 ? height.toFixed(2) : height.toFixed(1)} m high; ${asset.name} stands for ${range[0]} to ${range[1]} m`;
}

/** Words of what grows, and of what stands by itself. */
const GROWS = new Set('tree conifer birch oak palm sapling shrub gorse bush bracken fern heather grass flower moss'.split(' '));
const STANDS = new Set('crate barrel sack chair table bench wagon cart boiler wheel lamp pebble stone boulder'.split(' '));

/** What a mesh is likely for, by its tags. */
export const likelyRole = (tags: readonly string[]): 'piece' | 'plant' | 'prop' =>
  tags.some((t) => GROWS.has(t)) ? 'plant' : tags.some((t) => STANDS.has(t)) ? 'prop' : 'piece';

/** Words of a name that say what a thing is, as tags. */
export function tagsOf(name: string): string[] {
  const words = ` ${name.toLowerCase().replace(/[^a-z]+/g, ' ')} `;
  return Object.keys(REAL_HEIGHTS)
    .filter((w) => words.includes(` ${w} `))
    .slice(0, 3);
}
