import { encode } from 'fast-png';
import type { Terrain } from '../earth/compose';
import type { GroundRaster } from '../surface/ground';

/** Heights as a 16-bit greyscale PNG with what is needed to read them: height = low + value / 65535 * (high - low). */
export function heightsPng(terrain: Terrain): { png: Uint8Array; sidecar: { width: number; height: number; spacing: number; low: number; high: number; unit: 'm' } } {
  const { nx, nz, spacing } = terrain.grid;
  let low = Infinity;
  let high = -Infinity;
  for (const h of terrain.heights) {
    if (h < low) low = h;
    if (h > high) high = h;
  }
  const data = Uint16Array.from(terrain.heights, (h) => Math.round(high > low ? ((h - low) / (high - low)) * 65535 : 0));
  return { png: encode({ width: nx, height: nz, data, depth: 16, channels: 1 }), sidecar: { width: nx, height: nz, spacing, low, high, unit: 'm' } };
}

/** Shares of the four surfaces as an RGBA PNG, one channel each in the order of the names; they sum to 255. */
export function weightsPng(ground: GroundRaster): { png: Uint8Array; sidecar: { width: number; height: number; spacing: number; channels: string[] } } {
  const { nx, nz, spacing } = ground.grid;
  return { png: encode({ width: nx, height: nz, data: ground.weights, depth: 8, channels: 4 }), sidecar: { width: nx, height: nz, spacing, channels: ground.surfaces.map((s) => s.name) } };
}
