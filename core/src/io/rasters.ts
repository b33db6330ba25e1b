import { encode } from 'fast-png';
import type { Terrain } from '../earth/compose';
import type { GroundRaster } from '../surface/ground';
import { SURFACES } from '../surface/surfaces';

/** What is needed to read heights of 16 bits: height = low + value / 65535 * (high - low), metres. */
export interface HeightsSidecar {
  width: number;
  height: number;
  spacing: number;
  low: number;
  high: number;
  unit: 'm';
}

function heights16(terrain: Terrain): { data: Uint16Array; sidecar: HeightsSidecar } {
  const { nx, nz, spacing } = terrain.grid;
  let low = Infinity;
  let high = -Infinity;
  for (const h of terrain.heights) {
    if (h < low) low = h;
    if (h > high) high = h;
  }
  const data = Uint16Array.from(terrain.heights, (h) => Math.round(high > low ? ((h - low) / (high - low)) * 65535 : 0));
  return { data, sidecar: { width: nx, height: nz, spacing, low, high, unit: 'm' } };
}

/** Heights as a 16-bit greyscale PNG. */
export function heightsPng(terrain: Terrain): { png: Uint8Array; sidecar: HeightsSidecar } {
  const { data, sidecar } = heights16(terrain);
  return { png: encode({ width: sidecar.width, height: sidecar.height, data, depth: 16, channels: 1 }), sidecar };
}

/** Heights as bare 16-bit numbers, the lower byte first, row by row from the north-west. */
export function heightsRaw(terrain: Terrain): { raw: Uint8Array; sidecar: HeightsSidecar & { order: 'little-endian' } } {
  const { data, sidecar } = heights16(terrain);
  const raw = new Uint8Array(data.length * 2);
  const view = new DataView(raw.buffer);
  data.forEach((v, i) => view.setUint16(i * 2, v, true));
  return { raw, sidecar: { ...sidecar, order: 'little-endian' } };
}

/** The strongest ground of each sample as an 8-bit greyscale PNG: its place in the sidecar's names. */
export function groundIndexPng(ground: GroundRaster): { png: Uint8Array; sidecar: { width: number; height: number; spacing: number; names: string[] } } {
  const { nx, nz, spacing } = ground.grid;
  const data = new Uint8Array(nx * nz);
  for (let i = 0; i < data.length; i++) {
    let most = 0;
    for (let k = 1; k < SURFACES; k++) if (ground.weights[i * SURFACES + k] > ground.weights[i * SURFACES + most]) most = k;
    data[i] = most;
  }
  return { png: encode({ width: nx, height: nz, data, depth: 8, channels: 1 }), sidecar: { width: nx, height: nz, spacing, names: ground.surfaces.map((s) => s.name) } };
}

/** Shares of the four surfaces as an RGBA PNG, one channel each in the order of the names; they sum to 255. */
export function weightsPng(ground: GroundRaster): { png: Uint8Array; sidecar: { width: number; height: number; spacing: number; channels: string[] } } {
  const { nx, nz, spacing } = ground.grid;
  return { png: encode({ width: nx, height: nz, data: ground.weights, depth: 8, channels: 4 }), sidecar: { width: nx, height: nz, spacing, channels: ground.surfaces.map((s) => s.name) } };
}
