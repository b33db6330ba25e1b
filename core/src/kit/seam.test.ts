import { describe, expect, it } from 'vitest';
import { placeMesh } from '../block/placedMesh';
import { placer } from '../num/pose';
import type { Vec3 } from '../num/vec';
import { boxMesh } from './assetMesh';
import { betweenGaps } from './betweenGaps';
import { footprint } from './footprint';
import { seamOffers, type Hiding } from './seamOffers';

describe('the foot of a thing', () => {
  it('is the outline of its lowest part, so far outside, with the outside to the right', () => {
    const box = placeMesh('a', 'a', boxMesh([-1, 0, -0.5], [1, 3, 0.5]), placer({ at: [10, 2, 20], turn: 0 }));
    const outline = footprint(box, 0.25)!;
    expect(outline.map((p) => p.map((v) => Math.round(v * 1e4) / 1e4)).sort((a, b) => a[0] - b[0] || a[2] - b[2])).toEqual([
      [8.75, 2, 19.25],
      [8.75, 2, 20.75],
      [11.25, 2, 19.25],
      [11.25, 2, 20.75],
    ]);
    outline.forEach(([x, , z], i) => {
      const [nx, , nz] = outline[(i + 1) % 4];
      const l = Math.sqrt((nx - x) ** 2 + (nz - z) ** 2);
      const out: Vec3 = [(x + nx) / 2 - (nz - z) / l, 0, (z + nz) / 2 + (nx - x) / l];
      expect(Math.abs(out[0] - 10) > 1.25 || Math.abs(out[2] - 20) > 0.75).toBe(true);
    });
  });

  it('leaves out what hangs over it, and is nothing of a line', () => {
    const mesh = boxMesh([-0.2, 0, -0.2], [0.2, 1, 0.2]);
    const roof = boxMesh([-2, 3, -2], [2, 3.2, 2]);
    const positions = Float32Array.from([...mesh.positions, ...roof.positions]);
    const tree = { positions, min: [-2, 0, -2] as Vec3, max: [2, 3.2, 2] as Vec3 };
    for (const p of footprint(tree, 0)!) expect(Math.max(Math.abs(p[0]), Math.abs(p[2]))).toBeCloseTo(0.2, 6);
    expect(footprint({ positions: Float32Array.from([0, 0, 0, 1, 0, 0, 2, 0, 0]), min: [0, 0, 0], max: [2, 0, 0] }, 0.1)).toBeUndefined();
  });
});

describe('what is offered for a seam', () => {
  const of = (name: string, role: Hiding['role'], size: Vec3, grounds?: string[]) => ({ name, role, size, ...(grounds ? { grounds } : {}) });
  const list = [
    of('wall', 'piece', [2, 3, 0.3]),
    of('birch', 'plant', [3.5, 7.5, 3.5], ['turf']),
    of('sack', 'prop', [0.6, 0.6, 0.5]),
    of('moss', 'plant', [0.5, 0.2, 0.5], ['moss', 'slate']),
    of('litter', 'plant', [1, 0.1, 1], ['slate']),
    of('grass', 'plant', [1.3, 0.6, 1.2], ['turf']),
  ];
  it('belongs on the ground there, is small, and is about as wide as the seam', () => {
    expect(seamOffers(list, 'slate', 0.5).map((o) => o.name)).toEqual(['moss', 'litter', 'sack']);
    expect(seamOffers(list, 'slate', 1.2).map((o) => o.name)).toEqual(['litter', 'moss', 'sack']);
    expect(seamOffers(list, 'turf', 0.5).map((o) => o.name)).toEqual(['grass', 'sack']);
  });
});

describe('a seam that keeps doors free', () => {
  const ring: Vec3[] = [
    [0, 0, 0],
    [10, 0, 0],
    [10, 0, 4],
    [0, 0, 4],
  ];
  const lengthOf = (p: readonly Vec3[]) => p.slice(1).reduce((sum, b, i) => sum + Math.sqrt((b[0] - p[i][0]) ** 2 + (b[2] - p[i][2]) ** 2), 0);

  it('goes round from one side of the door to the other', () => {
    const [line, ...others] = betweenGaps(ring, true, [{ at: [4, 0, 0.2], half: 0.8 }]);
    expect(others).toEqual([]);
    expect(line.closed).toBe(false);
    expect(line.places[0]).toEqual([4.8, 0, 0]);
    expect(line.places[line.places.length - 1]).toEqual([3.2, 0, 0]);
    expect(lengthOf(line.places)).toBeCloseTo(28 - 1.6, 9);
  });

  it('is cut by each, over the place where it closes too, and not by what is elsewhere', () => {
    const cut = betweenGaps(ring, true, [
      { at: [0.3, 0, 0], half: 0.5 },
      { at: [10, 0, 2], half: 1 },
      { at: [5, 0, 20], half: 3 },
    ]);
    expect(cut.map((c) => c.places.map((p) => p.map((v) => Math.round(v * 1e6) / 1e6)))).toEqual([
      [
        [0.8, 0, 0],
        [10, 0, 0],
        [10, 0, 1],
      ],
      [
        [10, 0, 3],
        [10, 0, 4],
        [0, 0, 4],
        [0, 0, 0.2],
      ],
    ]);
    expect(betweenGaps(ring, true, [{ at: [5, 0, 20], half: 3 }])).toEqual([{ places: ring, closed: true }]);
    expect(betweenGaps(ring.slice(0, 2), false, [{ at: [10, 0, 0], half: 2 }])).toEqual([
      {
        places: [
          [0, 0, 0],
          [8, 0, 0],
        ],
        closed: false,
      },
    ]);
    expect(betweenGaps(ring.slice(0, 2), false, [{ at: [5, 0, 0], half: 20 }])).toEqual([]);
  });
});
