import type { Survey } from '../../level/objects';
import { TILE_QUADS, TILE_SIDE, tileKey } from '../../level/tiles';
import { FIXED_ONE } from '../../num/fixed';
import { overTiles } from '../rect';
import type { PassMaker } from './pass';

/** Heights from elsewhere, where they reach; beside them it leaves the ground alone. */
export const surveyPass: PassMaker<Survey> = (lift, { tiles }) => ({
  blend: 'replace',
  write(window, part, out) {
    overTiles(part, (tx, tz, own) => {
      const held = tiles.get(tileKey(lift.id, 'held', tx, tz));
      const weight = tiles.get(tileKey(lift.id, 'weight', tx, tz));
      for (let z = own.z0; z <= own.z1; z++) {
        let local = (z - tz * TILE_QUADS) * TILE_SIDE + own.x0 - tx * TILE_QUADS;
        const row = (z - window.z0) * window.w - window.x0;
        for (let i = row + own.x0; i <= row + own.x1; i++, local++) out[i] = weight && weight[local] > 0 ? (held ? held[local] / FIXED_ONE : 0) : NaN;
      }
    });
  },
});
