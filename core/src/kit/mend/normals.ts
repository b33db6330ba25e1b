import { atan2Deg, cosDeg } from '../../num/trig';
import { weldPoints } from '../../num/weld';
import { assetBounds, type Asset, type Primitive } from '../asset';
import { joinEqual, picked } from './corners';

/**
 * Normals made anew: each corner of a triangle takes the mean, by the angle they have there, of the triangles about it that turn from its own by no
 * more than the crease. Tangents of the file no longer fit and are left out.
 *
 * @param crease degrees: 0 is flat, 180 is all round
 */
export function smoothAsset(asset: Asset, crease: number): Asset {
  const { min, max } = assetBounds(asset);
  const within = Math.max(max[0] - min[0], max[1] - min[1], max[2] - min[2]) * 1e-5;
  const least = cosDeg(crease) - 1e-6;
  return { ...asset, lods: asset.lods.map((lod) => lod.map((p) => smooth(p, within, least))) };
}

function smooth(given: Primitive, within: number, least: number): Primitive {
  const p = { ...given };
  delete p.tangents;
  const points = weldPoints(p.positions, within);
  const n = p.indices.length;
  const corners = picked(p, p.indices);
  const [q, faces] = [corners.positions, new Float64Array(n)];
  const angles = new Float64Array(n);
  for (let i = 0; i < n; i += 3) {
    const o = i * 3;
    const u = [q[o + 3] - q[o], q[o + 4] - q[o + 1], q[o + 5] - q[o + 2]];
    const w = [q[o + 6] - q[o], q[o + 7] - q[o + 1], q[o + 8] - q[o + 2]];
    const f = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
    const l = Math.sqrt(f[0] * f[0] + f[1] * f[1] + f[2] * f[2]);
    for (let k = 0; k < 3; k++) {
      faces[i + k] = l > 0 ? f[k] / l : 0;
      angles[i + k] = l > 0 ? angleAt(q, i + k, [i + ((k + 1) % 3), i + ((k + 2) % 3)]) : 0;
    }
  }
  // Corners about each point, as a list that runs through them.
  const first = new Int32Array(points.length).fill(-1);
  const next = new Int32Array(n);
  for (let c = 0; c < n; c++) {
    const at = points[p.indices[c]];
    next[c] = first[at];
    first[at] = c;
  }
  for (let c = 0; c < n; c++) {
    const t = Math.floor(c / 3);
    const [fx, fy, fz] = [faces[t * 3], faces[t * 3 + 1], faces[t * 3 + 2]];
    let [x, y, z] = [0, 0, 0];
    for (let other = first[points[p.indices[c]]]; other >= 0; other = next[other]) {
      const s = Math.floor(other / 3);
      const [gx, gy, gz] = [faces[s * 3], faces[s * 3 + 1], faces[s * 3 + 2]];
      if (s !== t && fx * gx + fy * gy + fz * gz < least) continue;
      x += gx * angles[other];
      y += gy * angles[other];
      z += gz * angles[other];
    }
    const l = Math.sqrt(x * x + y * y + z * z);
    corners.normals.set(l > 0 ? [x / l, y / l, z / l] : [fx, fy, fz], c * 3);
  }
  return joinEqual({ ...corners, indices: Uint32Array.from(p.indices, (_index, i) => i) }, weldPoints(corners.positions, within));
}

/** Degrees between two sides of a triangle at a corner. */
function angleAt(q: Float32Array, at: number, [b, c]: readonly [number, number]): number {
  const u = [0, 1, 2].map((k) => q[b * 3 + k] - q[at * 3 + k]);
  const w = [0, 1, 2].map((k) => q[c * 3 + k] - q[at * 3 + k]);
  const across = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
  const sine = Math.sqrt(across[0] * across[0] + across[1] * across[1] + across[2] * across[2]);
  return atan2Deg(sine, u[0] * w[0] + u[1] * w[1] + u[2] * w[2]);
}
