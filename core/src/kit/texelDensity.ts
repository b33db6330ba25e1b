import type { Asset } from './asset';

/**
 * Pixels a metre of the pictures an asset wears: the root of pixels over area of each triangle, weighed by its area.
 *
 * @returns `undefined` where it wears none
 */
export function assetTexelDensity(asset: Asset): { mean: number; least: number; most: number } | undefined {
  let [sum, weight, least, most] = [0, 0, Infinity, 0];
  for (const { positions: p, indices, look, uvs, uvs1 } of asset.lods[0]) {
    const use = look === undefined ? undefined : asset.materials?.[look].textures.baseColour;
    const uv = use?.uv === 1 ? uvs1 : uvs;
    if (!use || !uv) continue;
    const { width, height } = asset.textures![use.texture];
    const pixels = width * height * Math.abs(use.scale[0] * use.scale[1]);
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [indices[i], indices[i + 1], indices[i + 2]];
      const u = [p[b * 3] - p[a * 3], p[b * 3 + 1] - p[a * 3 + 1], p[b * 3 + 2] - p[a * 3 + 2]];
      const w = [p[c * 3] - p[a * 3], p[c * 3 + 1] - p[a * 3 + 1], p[c * 3 + 2] - p[a * 3 + 2]];
      const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
      const area = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) / 2;
      const flat = Math.abs((uv[b * 2] - uv[a * 2]) * (uv[c * 2 + 1] - uv[a * 2 + 1]) - (uv[c * 2] - uv[a * 2]) * (uv[b * 2 + 1] - uv[a * 2 + 1])) / 2;
      if (area <= 0 || flat <= 0) continue;
      const density = Math.sqrt((flat * pixels) / area);
      sum += density * area;
      weight += area;
      least = Math.min(least, density);
      most = Math.max(most, density);
    }
  }
  return weight > 0 ? { mean: sum / weight, least, most } : undefined;
}
