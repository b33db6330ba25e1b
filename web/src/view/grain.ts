import { DataTexture, LinearFilter, LinearMipmapNearestFilter, RepeatWrapping, RGBAFormat } from 'three';
import { hashInts } from '@rammer/core/num/hash';

const SIDE = 128;

/** A tiling picture of soft value noise in four channels, made here: the grain of turf and slate. */
export function grainTexture(): DataTexture {
  const data = new Uint8Array(SIDE * SIDE * 4);
  const lattice = (seed: number, period: number, x: number, y: number) =>
    hashInts(seed, ((x % period) + period) % period, ((y % period) + period) % period) / 4294967295;
  for (let c = 0; c < 4; c++) {
    for (let y = 0; y < SIDE; y++) {
      for (let x = 0; x < SIDE; x++) {
        let sum = 0;
        let total = 0;
        for (let o = 0, period = 4; o < 5; o++, period *= 2) {
          const u = (x / SIDE) * period;
          const v = (y / SIDE) * period;
          const ix = Math.floor(u);
          const iy = Math.floor(v);
          const fx = (u - ix) * (u - ix) * (3 - 2 * (u - ix));
          const fy = (v - iy) * (v - iy) * (3 - 2 * (v - iy));
          const s = c * 17 + o;
          const top = lattice(s, period, ix, iy) * (1 - fx) + lattice(s, period, ix + 1, iy) * fx;
          const bottom = lattice(s, period, ix, iy + 1) * (1 - fx) + lattice(s, period, ix + 1, iy + 1) * fx;
          const weight = 0.68 ** o;
          sum += (top * (1 - fy) + bottom * fy) * weight;
          total += weight;
        }
        data[(y * SIDE + x) * 4 + c] = Math.round(Math.min(1, Math.max(0, (sum / total - 0.5) * 1.9 + 0.5)) * 255);
      }
    }
  }
  const texture = new DataTexture(data, SIDE, SIDE, RGBAFormat);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.magFilter = LinearFilter;
  texture.minFilter = LinearMipmapNearestFilter;
  texture.generateMipmaps = true;
  texture.needsUpdate = true;
  return texture;
}
