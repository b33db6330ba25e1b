import { cutSolid, type CutLine } from '../block/cut';
import { blockSolid } from '../block/solid';
import type { Terrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import type { Block } from '../level/objects';
import { slopeDeg } from '../num/trig';

/** A true-scale cross-section; distances and heights in metres. */
export interface Section {
  line: CutLine;
  /** interleaved distance, height of the terrain */
  ground: Float64Array;
  /** stretches of terrain too steep for the body, as distances, with the steepest slope in degrees */
  tooSteep: { from: number; to: number; slope: number }[];
  blocks: { id: string; name: string; outline: [number, number][] }[];
  low: number;
  high: number;
}

/**
 * Cuts terrain and blocks along a line.
 *
 * The terrain is sampled every half spacing, inside the level only; a stretch is too steep where the
 * profile itself rises or falls by more than `maxSlope` degrees.
 *
 * @param from, to distances along the line, metres
 */
export function sectionAlong(terrain: Terrain, blocks: Iterable<Block>, line: CutLine, [from, to]: readonly [number, number], maxSlope: number): Section {
  const { width, depth, spacing } = terrain.grid;
  const step = Math.max(spacing / 2, (to - from) / 1200);
  const ground: number[] = [];
  const tooSteep: Section['tooSteep'] = [];
  let low = Infinity;
  let high = -Infinity;
  for (let s = from; s <= to + 1e-9; s += step) {
    const x = line.x0 + line.dx * s;
    const z = line.z0 + line.dz * s;
    if (x < -1e-6 || z < -1e-6 || x > width + 1e-6 || z > depth + 1e-6) continue;
    const h = heightAt(terrain, x, z);
    const n = ground.length;
    if (n >= 2 && s - ground[n - 2] < step * 1.5) {
      const slope = slopeDeg(Math.abs(h - ground[n - 1]) / (s - ground[n - 2]));
      if (slope > maxSlope) {
        const last = tooSteep[tooSteep.length - 1];
        if (last && last.to >= ground[n - 2] - 1e-9) {
          last.to = s;
          last.slope = Math.max(last.slope, slope);
        } else tooSteep.push({ from: ground[n - 2], to: s, slope });
      }
    }
    ground.push(s, h);
    low = Math.min(low, h);
    high = Math.max(high, h);
  }
  const cuts: Section['blocks'] = [];
  for (const block of blocks) {
    const outline = cutSolid(blockSolid(block), line);
    if (outline.every(([a]) => a < from) || outline.every(([a]) => a > to)) continue;
    cuts.push({ id: block.id, name: block.name, outline });
    for (const [, h] of outline) {
      low = Math.min(low, h);
      high = Math.max(high, h);
    }
  }
  if (!Number.isFinite(low)) low = high = 0;
  return { line, ground: Float64Array.from(ground), tooSteep, blocks: cuts, low, high };
}
