import type { Weather } from '../../level/objects';
import { TILE_QUADS, TILE_SIDE, tileKey } from '../../level/tiles';
import { FIXED_ONE } from '../../num/fixed';
import { overTiles } from '../rect';
import type { PassMaker } from './pass';

/** What weathering moved, over whatever lies below now. */
export const weatherPass: PassMaker<Weather> = (lift, { tiles }) => ({
  blend: 'replace',
  write(window, part, out) {
    overTiles(part, (tx, tz, own) => {
      const delta = tiles.get(tileKey(lift.id, 'delta', tx, tz));
      for (let z = own.z0; z <= own.z1; z++) {
        let local = (z - tz * TILE_QUADS) * TILE_SIDE + own.x0 - tx * TILE_QUADS;
        const row = (z - window.z0) * window.w - window.x0;
        for (let i = row + own.x0; i <= row + own.x1; i++, local++) out[i] = delta ? window.heights[i] + delta[local] / FIXED_ONE : NaN;
      }
    });
  },
});
