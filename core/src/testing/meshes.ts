import { expect } from 'vitest';
import type { Mesh } from '../num/mesh';

/** Every edge is run through once in either direction: closed, and every triangle faces outwards alike. */
export function expectClosed({ indices }: Mesh): void {
  const edges = new Set<string>();
  for (let i = 0; i < indices.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const edge = `${indices[i + k]},${indices[i + ((k + 1) % 3)]}`;
      expect(edges.has(edge)).toBe(false);
      edges.add(edge);
    }
  }
  for (const edge of edges) expect(edges.has(edge.split(',').reverse().join())).toBe(true);
}

/** Volume by the divergence theorem, and area. */
export function measure({ positions: p, indices }: Mesh): { volume: number; area: number } {
  let volume = 0;
  let area = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3].map((k) => [p[k], p[k + 1], p[k + 2]]);
    const u = b.map((v, k) => v - a[k]);
    const v = c.map((w, k) => w - a[k]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    area += Math.hypot(...n) / 2;
    volume += (a[0] * n[0] + a[1] * n[1] + a[2] * n[2]) / 6;
  }
  return { volume, area };
}
