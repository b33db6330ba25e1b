import type { Lift } from '../../level/objects';
import { ownerTile, TILE_QUADS, TILE_SIDE, tileKey, type Channel, type Grid, type Tiles } from '../../level/tiles';
import { FIXED_ONE } from '../../num/fixed';

/** What weathering leaves beside the heights. */
export type Mark = 'scour' | 'settle' | 'runoff';

/** Reads one raster of an object at a sample, in ones (metres, or shares); 0 where there is none. Its tiles are looked up once. */
export function rasterReader(tiles: Tiles, grid: Grid, id: string, channel: Channel): (x: number, z: number) => number {
  const own = Array.from({ length: grid.tilesX * grid.tilesZ }, (_, i) => tiles.get(tileKey(id, channel, i % grid.tilesX, Math.floor(i / grid.tilesX))));
  return (x, z) => {
    const tx = ownerTile(x);
    const tz = ownerTile(z);
    return (own[tz * grid.tilesX + tx]?.[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS] ?? 0) / FIXED_ONE;
  };
}

/** What the visible weather lifts of a stack left of one mark at a sample: what was moved adds up, of water the most counts. */
export function weatherMarks(stack: readonly Lift[], tiles: Tiles, grid: Grid, mark: Mark): (x: number, z: number) => number {
  const lifts = stack.filter((l) => l.lift === 'weather' && l.visible).map((l) => rasterReader(tiles, grid, l.id, mark));
  return (x, z) => {
    let sum = 0;
    for (const read of lifts) sum = mark === 'runoff' ? Math.max(sum, read(x, z)) : sum + read(x, z);
    return sum;
  };
}
