import { encode } from 'fast-png';
import { wholeRect, type Terrain } from '../earth/compose';
import { strongestOf, type GroundRaster } from '../surface/ground';
import { sharePictures } from '../surface/shares';

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
  const data = Uint8Array.from({ length: nx * nz }, (_, i) => strongestOf(ground, i));
  return {
    png: encode({ width: nx, height: nz, data, depth: 8, channels: 1 }),
    sidecar: { width: nx, height: nz, spacing, names: ground.surfaces.map((s) => s.name) },
  };
}

/** Shares of the surfaces as RGBA PNGs, one channel each in the order of the names, four to a picture; those of a sample sum to 255. */
export function weightsPng(ground: GroundRaster): {
  pngs: Uint8Array[];
  sidecar: { width: number; height: number; spacing: number; channels: string[]; pictures: number };
} {
  const {
    grid: { nx, nz, spacing },
    surfaces,
  } = ground;
  const { data, count } = sharePictures(
    ground,
    wholeRect(ground.grid),
    false,
    surfaces.map((_, i) => i),
  );
  const size = nx * nz * 4;
  const pngs = Array.from({ length: count }, (_, i) => encode({ width: nx, height: nz, data: data.subarray(i * size, (i + 1) * size), depth: 8, channels: 4 }));
  return { pngs, sidecar: { width: nx, height: nz, spacing, channels: surfaces.map((s) => s.name), pictures: count } };
}
