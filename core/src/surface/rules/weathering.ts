import { ownerTile, TILE_QUADS, TILE_SIDE, tileKey, type Grid, type Tiles } from '../../level/tiles';
import { FIXED_ONE } from '../../num/fixed';
import type { ConditionOf, FieldKind, RuleSource } from './field';

type Mark = 'scour' | 'settle' | 'runoff';

/** Tiles of a raster, row by row of tiles, so that a sample finds its own without a key. */
const tilesOf = (tiles: Tiles, grid: Grid, id: string, mark: Mark): (Int32Array | undefined)[] =>
  Array.from({ length: grid.tilesX * grid.tilesZ }, (_, i) => tiles.get(tileKey(id, mark, i % grid.tilesX, Math.floor(i / grid.tilesX))));

/** What all visible weather lifts left of one mark; what was moved adds up, of water the most counts. */
function marks({ terrain: { grid }, stack, tiles }: RuleSource, mark: Mark): (x: number, z: number) => number {
  const lifts = stack.filter((l) => l.lift === 'weather' && l.visible).map((l) => tilesOf(tiles, grid, l.id, mark));
  return (x, z) => {
    const tx = ownerTile(x);
    const tz = ownerTile(z);
    let sum = 0;
    for (const own of lifts) {
      const v = own[tz * grid.tilesX + tx]?.[(z - tz * TILE_QUADS) * TILE_SIDE + x - tx * TILE_QUADS] ?? 0;
      sum = mark === 'runoff' ? Math.max(sum, v) : sum + v;
    }
    return sum / FIXED_ONE;
  };
}

const markKind = <K extends Mark>(mark: K, unit: string, name: string): FieldKind<ConditionOf<K>> => ({ name, unit, cost: 5, looksAt: 'lifts', make: (_, source) => ({ at: marks(source, mark), ...(mark === 'runoff' ? { open: { above: 1 } } : {}) }) });

export const scour = markKind('scour', 'm', 'scoured');
export const settle = markKind('settle', 'm', 'settled');
export const runoff = markKind('runoff', '', 'runoff');
