import { ownerTile, TILE_QUADS, TILE_SIDE, tileKey, type Grid, type Tiles } from '../level/tiles';

/** The largest a hand may multiply a density. */
export const MOST_SOWN = 4;

/** The tiles of what is sown of a species, row by row, so that a point finds its own without a key. */
export interface Sown {
  grid: Grid;
  samplesAMetre: number;
  tiles: (Int32Array | undefined)[];
  any: boolean;
}

/** What is sown of a species by hand, 1/1024 of its density a sample, by tile. */
export function sownTiles(tiles: Tiles, grid: Grid, species: string): Sown {
  const { tilesX, tilesZ } = grid;
  const out = Array.from({ length: tilesX * tilesZ }, (_, i) => tiles.get(tileKey(species, 'sown', i % tilesX, Math.floor(i / tilesX))));
  return { grid, samplesAMetre: 1 / grid.spacing, tiles: out, any: out.some(Boolean) };
}

/** Density of what is sown by hand, as a share of the species' own, at a point: the nearest sample. */
export function sownAt(sown: Sown, x: number, z: number): number {
  const { nx, nz, tilesX } = sown.grid;
  // Whole numbers all the way, and no division (a spacing is a power of two): this is asked for each candidate.
  const sx = Math.min(nx - 1, Math.max(0, (x * sown.samplesAMetre + 0.5) | 0));
  const sz = Math.min(nz - 1, Math.max(0, (z * sown.samplesAMetre + 0.5) | 0));
  const tx = ownerTile(sx);
  const tz = ownerTile(sz);
  const tile = sown.tiles[tz * tilesX + tx];
  return tile === undefined ? 0 : tile[(sz - tz * TILE_QUADS) * TILE_SIDE + sx - tx * TILE_QUADS] / 1024;
}
