import { blocksNear, type BlockGrid } from '../block/grid';
import { solidSpanAt } from '../block/solid';
import type { Terrain } from '../earth/compose';
import { gradientAt, heightAt } from '../earth/sample';
import { slopeDeg } from '../num/trig';
import { clamp } from '../num/vec';
import { SLATE_FROM } from './surfaces';

/** A picture: three bytes a pixel (red, green, blue), row by row, the top row in the north. */
export interface Picture {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Height between two contour lines, metres. */
const CONTOUR = 5;
/** Rise over run under which no contour is drawn. */
const FLAT = 0.12;
/** Light from the north-west, 45 degrees high, as maps have it. */
const LIGHT = [-0.5, 0.7071067811865476, -0.5] as const;
const TURF = [152, 158, 112];
const SLATE = [134, 136, 144];
const BLOCK = [190, 178, 152];
const INK = [23, 33, 31];

/**
 * The level's plan as a small shaded map: turf and slate by slope, contour lines each 5 m, blocks.
 *
 * @param side pixels of the longer side, 8 to 1024
 */
export function planPicture(terrain: Terrain, blocks: BlockGrid, side: number): Picture {
  const { width: w, depth: d } = terrain.grid;
  const metre = clamp(Math.round(side), 8, 1024) / Math.max(w, d);
  const width = Math.max(1, Math.round(w * metre));
  const height = Math.max(1, Math.round(d * metre));
  const data = new Uint8Array(width * height * 3);
  for (let row = 0, o = 0; row < height; row++) {
    const z = (row + 0.5) / metre;
    for (let column = 0; column < width; column++, o += 3) {
      const x = (column + 0.5) / metre;
      const ground = heightAt(terrain, x, z);
      let top = ground;
      for (const block of blocksNear(blocks, x, z)) {
        const span = solidSpanAt(block, x, z);
        if (span && span.top > top) top = span.top;
      }
      const [gx, gz] = gradientAt(terrain, x, z);
      const steepness = Math.sqrt(gx * gx + gz * gz);
      const lit = (-gx * LIGHT[0] + LIGHT[1] - gz * LIGHT[2]) / Math.sqrt(steepness * steepness + 1);
      const shade = top > ground ? 1 : 0.55 + 0.62 * clamp(lit, 0, 1);
      // A contour passes where this pixel and the next one north or west lie in different steps; on
      // ground so flat that it wavers about the height itself it would only scribble.
      const passes = (next: number) => Math.floor(ground / CONTOUR) !== Math.floor(next / CONTOUR) && Math.abs(ground - next) * metre > FLAT;
      const contour = top === ground && (passes(heightAt(terrain, x - 1 / metre, z)) || passes(heightAt(terrain, x, z - 1 / metre)));
      const colour = top > ground ? BLOCK : slopeDeg(steepness) >= SLATE_FROM ? SLATE : TURF;
      for (let c = 0; c < 3; c++) data[o + c] = Math.round(clamp(colour[c] * shade * (contour ? 0.55 : 1) + (contour ? INK[c] * 0.45 : 0), 0, 255));
    }
  }
  return { width, height, data };
}
