import { beforeAll, describe, expect, it } from 'vitest';
import type Rapier from '@dimforge/rapier3d-compat';
import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import { boxMesh } from '../kit/assetMesh';
import { placer, poseAxes, type Pose } from '../num/pose';
import { cross, dot, sub, type Vec3 } from '../num/vec';
import { loadKernels } from '../testing/kernels';
import { terrainOf } from '../testing/levels';
import { DRESSING, type Dressing } from '../level/lay/dressed';
import { Falling, thrownAt, type Thrown, type Throwing } from './throwPieces';

let rapier: typeof Rapier;
beforeAll(async () => {
  ({ rapier } = await loadKernels());
});

/** Half of a crate's sides, metres; its pivot is in the middle of its foot. */
const HALF: Vec3 = [0.4, 0.35, 0.3];
const crate = boxMesh([-HALF[0], 0, -HALF[2]], [HALF[0], 2 * HALF[1], HALF[2]]);
const crates: Dressing = { ...DRESSING, list: [{ asset: 'crate', weight: 1 }], size: [0.8, 1.2], seed: 7 };
const twelve: Throwing = { count: 12, height: 1.5, radius: 0.8, tumble: 40 };
const boxAt = (id: string, min: Vec3, max: Vec3): PlacedMesh => placeMesh(id, id, boxMesh(min, max), (x, y, z) => [x, y, z]);

/** How deep two boxes are in each other: the least way out along the fifteen axes that can part them (Gottschalk et al. 1996). */
function overlap(a: Pose, b: Pose): number {
  const of = (p: Pose) => {
    const s = p.scale ?? [1, 1, 1];
    return { centre: placer(p)(0, HALF[1], 0), axes: poseAxes(p), half: HALF.map((h, k) => h * s[k]) };
  };
  const [p, q] = [of(a), of(b)];
  const between = sub(q.centre, p.centre);
  let least = Infinity;
  for (const axis of [...p.axes, ...q.axes, ...p.axes.flatMap((u) => q.axes.map((v) => cross(u, v)))]) {
    const l = Math.sqrt(dot(axis, axis));
    if (l < 1e-6) continue;
    const reach = (box: typeof p) => box.axes.reduce((sum, u, k) => sum + Math.abs(dot(u, axis)) * box.half[k], 0) / l;
    least = Math.min(least, reach(p) + reach(q) - Math.abs(dot(between, axis)) / l);
  }
  return least;
}

function fall(list: readonly Thrown[], on: ConstructorParameters<typeof Falling>[1]): { poses: (Pose | undefined)[]; falling: Falling } {
  const falling = new Falling(rapier, on, list);
  for (let i = 0; i < 120 * 40 && falling.step(); i++);
  return { poses: list.map((_, i) => falling.poseOf(i)), falling };
}
const slope = () => terrainOf((x) => 10 + x * 0.15);
const thrown = (how: Throwing, at: Vec3, dressing = crates) => thrownAt(dressing, how, { at, normal: [0, 1, 0] }, 0, () => [crate]);

describe('a throw', () => {
  it('of twelve crates on a slope and against a wall ends at rest, none in another by more than 5 mm', () => {
    const terrain = slope();
    const wall = boxAt('wall', [14, 11, 10], [14.3, 14, 22]);
    for (const seed of [1, 2, 3]) {
      const list = thrown(twelve, [15.5, 10 + 15.5 * 0.15, 16], { ...crates, seed });
      const { poses, falling } = fall(list, { terrain, blocks: [], meshes: [wall] });
      const there = poses.map((p) => p!);
      expect(there).toHaveLength(12);
      expect(falling.lost.size + falling.full.size).toBe(0);
      expect(falling.deepest()).toBeLessThan(0.005);
      falling.dispose();
      for (let i = 0; i < there.length; i++) for (let j = 0; j < i; j++) expect(overlap(there[i], there[j])).toBeLessThan(0.005);
      // None in the ground or the wall, and each touches something: from where it lies it falls no further.
      for (const p of there)
        for (const corner of [0, 1, 2, 3, 4, 5, 6, 7]) {
          const [x, y, z] = placer(p)(corner & 1 ? HALF[0] : -HALF[0], corner & 2 ? 2 * HALF[1] : 0, corner & 4 ? HALF[2] : -HALF[2]);
          expect(y).toBeGreaterThan(10 + x * 0.15 - 0.006);
          expect(Math.min(x - 14, 14.3 - x, 14 - y)).toBeLessThan(0.006);
          expect(z).toBeLessThan(32);
        }
      const again = fall(
        there.map((p) => ({ ...p, shapes: [crate] })),
        { terrain, blocks: [], meshes: [wall] },
      );
      again.poses.forEach((p, i) => expect(Math.max(...p!.at.map((v, k) => Math.abs(v - there[i].at[k])))).toBeLessThan(0.03));
      again.falling.dispose();
    }
  });

  it('ends the same each time', () => {
    const once = () => {
      const { poses, falling } = fall(thrown(twelve, [16, 12.4, 16]), { terrain: slope(), blocks: [] });
      falling.dispose();
      return JSON.stringify(poses);
    };
    expect(once()).toBe(once());
  });

  it('over the edge of the level loses what falls, and says which', () => {
    const { poses, falling } = fall(thrown({ ...twelve, radius: 3 }, [0.5, 10, 16]), { terrain: terrainOf((x) => 10 - (4 - Math.min(4, x)) * 2), blocks: [] });
    expect(falling.lost.size).toBeGreaterThan(0);
    poses.forEach((p, i) => expect(p === undefined).toBe(falling.lost.has(i) || falling.full.has(i)));
    falling.dispose();
  });

  it('under a low ceiling lets in what there is room for', () => {
    const ceiling = boxAt('ceiling', [10, 11.2, 10], [22, 11.5, 22]);
    const { poses, falling } = fall(thrown({ ...twelve, count: 60, height: 3, radius: 0.3 }, [16, 10, 16]), {
      terrain: terrainOf(() => 10),
      blocks: [],
      meshes: [ceiling],
    });
    const there = poses.filter((p) => p !== undefined);
    expect(there.length).toBeGreaterThan(0);
    expect(falling.full.size).toBe(60 - there.length);
    for (const p of there) expect(placer(p)(0, HALF[1], 0)[1]).toBeLessThan(11.2);
    falling.dispose();
  });
});
