import type { HandLift } from '../../level/objects';
import { TILE_QUADS, TILE_SIDE, tileKey } from '../../level/tiles';
import { FIXED_ONE } from '../../num/fixed';
import { overTiles } from '../rect';
import type { PassMaker } from './pass';

/**
 * Hand work: lerp(below + delta, held, weight) from its three channels. Relative strokes move with
 * what lies below; held ground stays.
 */
export const handPass: PassMaker<HandLift> = (lift, { tiles }) => ({
  blend: 'replace',
  write(window, part, out) {
    overTiles(part, (tx, tz, own) => {
      const delta = tiles.get(tileKey(lift.id, 'delta', tx, tz));
      const weight = tiles.get(tileKey(lift.id, 'weight', tx, tz));
      const held = tiles.get(tileKey(lift.id, 'held', tx, tz));
      for (let z = own.z0; z <= own.z1; z++) {
        let local = (z - tz * TILE_QUADS) * TILE_SIDE + own.x0 - tx * TILE_QUADS;
        const row = (z - window.z0) * window.w - window.x0;
        for (let i = row + own.x0; i <= row + own.x1; i++, local++) {
          if (!delta && !weight) {
            out[i] = NaN;
            continue;
          }
          const moved = window.heights[i] + (delta ? delta[local] / FIXED_ONE : 0);
          const w = weight ? weight[local] / FIXED_ONE : 0;
          out[i] = w === 0 ? moved : moved + ((held ? held[local] / FIXED_ONE : 0) - moved) * w;
        }
      }
    });
  },
});
