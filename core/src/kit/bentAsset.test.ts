import { describe, expect, it } from 'vitest';
import type { Bend } from '../level/kinds/piece';
import { parseObject } from '../level/objects';
import { openEdges, weldPoints } from '../num/weld';
import type { Mesh } from '../num/mesh';
import { assetMesh, boxMesh } from './assetMesh';
import { meshArea } from './asset';
import { bentFrame, bentPlace } from './bend';
import { bentAsset, bentMesh, meshKey } from './bentAsset';
import { colliderShapes } from './mend/colliders';
import { openness } from './openSides';
import { shippedPieces } from './pieces';

const tan = (deg: number) => Math.tan((deg * Math.PI) / 180);
/** Two metres about the pivot that turn by so many degrees, half of it at either end. */
const turning = (deg: number): Bend => ({ at: [-1, 0, 0], length: 2, run: 2, rise: 0, side: [-tan(deg / 2), tan(deg / 2)], slope: [0, 0] });

function volume({ positions: p, indices }: Mesh): number {
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    sum +=
      (p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) + p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) + p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c])) /
      6;
  }
  return sum;
}

describe('a bend', () => {
  it('that turns by nothing leaves every point where it is', () => {
    bentPlace(turning(0), [0.3, 1.2, -0.4]).forEach((v, k) => expect(v).toBeCloseTo([0.3, 1.2, -0.4][k], 14));
  });

  it('goes straight on beyond its ends, and stands across them', () => {
    const bend = turning(20);
    const [a, b, c] = [1, 1.5, 2].map((t) => bentFrame(bend, t));
    expect(b.at[2] - a.at[2]).toBeCloseTo(c.at[2] - b.at[2], 12);
    expect(a.along[2] / a.along[0]).toBeCloseTo(tan(10), 12);
    expect(a.across[0] * a.along[0] + a.across[2] * a.along[2]).toBeCloseTo(0, 12);
    expect(bentFrame(bend, 0.5).at).toEqual([0, 0, expect.closeTo((-2 * 2 * tan(10)) / 8, 12)]);
  });

  it('rises to where it ends', () => {
    const bend: Bend = { ...turning(0), rise: 0.5, slope: [0.25, 0.25] };
    expect(bentPlace(bend, [1, 0, 0])[1]).toBeCloseTo(0.5, 12);
    expect(bentPlace(bend, [0, 0, 0])[1]).toBeCloseTo(0.25, 12);
  });
});

it('a bend in the document draws no mesh out beyond what a scale may', () => {
  const piece = (bend: object) => parseObject({ id: 'p', version: 1, kind: 'piece', name: 'p', asset: 'a', at: [0, 0, 0], turn: 0, bend });
  expect(piece(turning(30))).toMatchObject({ ok: true, object: { bend: turning(30) } });
  expect(piece({ ...turning(30), length: 0.001, run: 900 })).toMatchObject({ ok: false, message: expect.stringContaining('a hundred times its length') });
  expect(piece({ ...turning(30), run: 5000 })).toMatchObject({ ok: false, message: expect.stringContaining('run') });
});

describe('a bent mesh', () => {
  it('is closed still, cut into slices that turn by 4 degrees at most, and has the volume of its section along its way', () => {
    const mesh = bentMesh(boxMesh([-1, 0, -0.2], [1, 3, 0.2]), turning(30));
    const welded = weldPoints(mesh.positions, 1e-6);
    expect(
      openEdges(
        mesh.indices.map((i) => welded[i]),
        mesh.positions.length / 3,
      ).open,
    ).toBe(0);
    // The way of 2 m across turns 30 degrees: its length is that of an arc, 2 (15 / sin 15) in radians, within a hundredth.
    const arc = (2 * ((15 * Math.PI) / 180)) / Math.sin((15 * Math.PI) / 180);
    expect(Math.abs(volume(mesh) / (arc * 3 * 0.4) - 1)).toBeLessThan(0.01);
  });

  it('looks out of itself at every point: normals of length 1, square to their faces', () => {
    const [wall] = shippedPieces();
    const asset = bentAsset(wall, turning(24));
    const { positions: p, normals, indices, colours } = asset.lods[0][0];
    expect(colours!.length / 4).toBe(p.length / 3);
    expect(p.length).toBeGreaterThan(wall.lods[0][0].positions.length);
    for (let i = 0; i < indices.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((x) => p[indices[i + k] * 3 + x]));
      const [u, v] = [b.map((x, k) => x - a[k]), c.map((x, k) => x - a[k])];
      const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      const length = Math.hypot(...n);
      if (length < 1e-6) continue;
      for (let k = 0; k < 3; k++) {
        const o = indices[i + k] * 3;
        expect(Math.hypot(normals[o], normals[o + 1], normals[o + 2])).toBeCloseTo(1, 5);
        expect((n[0] * normals[o] + n[1] * normals[o + 1] + n[2] * normals[o + 2]) / length).toBeGreaterThan(0.995);
      }
    }
  });

  it('is the same one for the same bend, is told apart by it, and stops a body as the straight one does, bent', () => {
    const [wall] = shippedPieces();
    const asset = bentAsset(wall, turning(24));
    expect(bentAsset(wall, turning(24))).toBe(asset);
    expect(meshKey({ asset: 'w', bend: turning(24) })).not.toBe(meshKey({ asset: 'w', bend: turning(25) }));
    const [shape] = colliderShapes(asset, 'box');
    expect(Math.min(...shape.positions.filter((_, i) => i % 3 === 2))).toBeLessThan(-0.18 - 0.05);
    expect(meshArea(assetMesh(asset))).toBeGreaterThan(meshArea(assetMesh(wall)) * 0.98);
    expect(openness(asset).hollow).toEqual(openness(wall).hollow);
  });
});
