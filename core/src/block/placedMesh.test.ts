import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { placeMesh, rayMeshes } from './placedMesh';
import { normalize, type Vec3 } from '../num/vec';

/** A bumpy sheet over 20 m, folded back over itself, `n` quads a side: with edges that rays along axes meet exactly. */
function sheet(n: number) {
  const positions: number[] = [];
  const indices: number[] = [];
  for (let z = 0; z <= n; z++)
    for (let x = 0; x <= n; x++) positions.push((x / n) * 20, 2 * Math.sin(x * 1.3) * Math.cos(z * 0.9) + (x > n / 2 ? 3 : 0), (z / n) * 20);
  for (let z = 0; z < n; z++)
    for (let x = 0; x < n; x++) {
      const a = z * (n + 1) + x;
      indices.push(a, a + n + 1, a + 1, a + 1, a + n + 1, a + n + 2);
    }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
}

describe('rays by a tree', () => {
  it('meet the same triangle as rays that look at each, from anywhere, along edges too', () => {
    const whole = placeMesh('m', 'm', sheet(24), (x, y, z) => [x, y, z]);
    // A fresh copy each time has no tree yet.
    const slow = (o: Vec3, d: Vec3) => rayMeshes([{ ...whole }], o, d, 60);
    for (let i = 0; i < 5; i++) rayMeshes([whole], [10, 20, 10], [0, -1, 0], 60);
    let met = 0;
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -10, max: 50 }), { minLength: 3, maxLength: 3 }),
        fc.array(fc.integer({ min: -4, max: 4 }), { minLength: 3, maxLength: 3 }),
        (from, to) => {
          if (to.every((v) => v === 0)) return;
          const o = from.map((v) => v / 2) as Vec3;
          const d = normalize(to as Vec3);
          const [a, b] = [rayMeshes([whole], o, d, 60), slow(o, d)];
          if (b) met++;
          expect(a && [a.distance, a.triangle, a.normal]).toEqual(b && [b.distance, b.triangle, b.normal]);
        },
      ),
      { numRuns: 2000 },
    );
    expect(met).toBeGreaterThan(100);
  });

  it('end at what is nearer already, and go by ids where two are as near', () => {
    const at = (id: string, y: number) => placeMesh(id, id, sheet(24), (x, _, z) => [x, y, z]);
    const [low, high, other] = [at('low', 0), at('high', 4), at('a', 4)];
    for (let i = 0; i < 6; i++) {
      expect(rayMeshes([low, high], [3.3, 9, 4.4], [0, -1, 0], 60)?.mesh.id).toBe('high');
      expect(rayMeshes([high, other, low], [3.3, 9, 4.4], [0, -1, 0], 60)).toMatchObject({ mesh: { id: 'a' }, distance: 5 });
      expect(rayMeshes([low], [3.3, 9, 4.4], [0, -1, 0], 8)).toBeUndefined();
    }
  });
});
