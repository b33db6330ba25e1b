import { hashUnit } from './hash';
import { clamp } from './vec';

/** Value noise that repeats after `period` cells one way and `across` the other, 0 to 1. */
export function noise(seed: number, period: number, u: number, v: number, across = period): number {
  const x = u * period;
  const y = v * across;
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const fx = (x - ix) * (x - ix) * (3 - 2 * (x - ix));
  const fy = (y - iy) * (y - iy) * (3 - 2 * (y - iy));
  const at = (a: number, b: number) => hashUnit(seed, ((a % period) + period) % period, ((b % across) + across) % across);
  const top = at(ix, iy) + (at(ix + 1, iy) - at(ix, iy)) * fx;
  const low = at(ix, iy + 1) + (at(ix + 1, iy + 1) - at(ix, iy + 1)) * fx;
  return top + (low - top) * fy;
}

/** Octaves of it, each twice as fine and `loss` as strong, spread over 0 to 1. */
export function fractal({ seed, period, octaves, loss = 0.6 }: { seed: number; period: number; octaves: number; loss?: number }, u: number, v: number): number {
  let sum = 0;
  let total = 0;
  for (let o = 0, a = 1; o < octaves; o++, a *= loss, period *= 2) {
    sum += a * noise(seed + o, period, u, v);
    total += a;
  }
  return clamp((sum / total - 0.5) * 1.8 + 0.5, 0, 1);
}

/** Nearest and second nearest of one point a cell, on the torus: distances in cells, and which cell. */
export function cells(seed: number, period: number, u: number, v: number): [near: number, second: number, id: number] {
  const x = u * period;
  const y = v * period;
  let near = 9;
  let second = 9;
  let id = 0;
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const cx = Math.floor(x) + dx;
      const cy = Math.floor(y) + dy;
      const wx = ((cx % period) + period) % period;
      const wy = ((cy % period) + period) % period;
      const px = cx + 0.15 + 0.7 * hashUnit(seed, wx, wy) - x;
      const py = cy + 0.15 + 0.7 * hashUnit(seed, wx, wy, 1) - y;
      const d = Math.sqrt(px * px + py * py);
      if (d < near) {
        second = near;
        near = d;
        id = wy * period + wx;
      } else if (d < second) second = d;
    }
  }
  return [near, second, id];
}
