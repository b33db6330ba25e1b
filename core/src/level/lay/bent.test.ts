import { describe, expect, it } from 'vitest';
import { bentFrame, bentPlace } from '../../kit/bend';
import { joinGrid } from '../../kit/joinGrid';
import { placer, poseAxes } from '../../num/pose';
import { distance, dot, type Vec3 } from '../../num/vec';
import { joinFit } from '../../snag/joinFit';
import { cornersAt, testKit, testLine } from '../../testing/kits';
import type { LaidLine } from '../kinds/laidLine';
import type { Piece } from '../kinds/piece';
import { layLine } from './layLine';

const kit = testKit();
const bent = (set: Partial<LaidLine>) => [...layLine(testLine({ bent: true, curved: true, ...set }), kit).pieces.values()];
const at = (piece: Piece, own: Vec3): Vec3 => placer(piece)(...(piece.bend ? bentPlace(piece.bend, own) : own));
/** The way a piece goes at one of its ends, in the level. */
const wayAt = (piece: Piece, t: number): Vec3 => {
  const [x, y, z] = poseAxes(piece);
  const { along } = bentFrame(piece.bend!, t);
  return [0, 1, 2].map((k) => x[k] * along[0] + y[k] * along[1] + z[k] * along[2]) as Vec3;
};
const walls = (pieces: readonly Piece[]) => pieces.filter((p) => p.id.startsWith('c'));
// Sixteen corners of a circle of 8 m about the origin, counter-clockwise seen from above.
const corner = (i: number): [number, number] => [8 * Math.cos((i * Math.PI) / 8), -8 * Math.sin((i * Math.PI) / 8)];
const ring = cornersAt(...Array.from({ length: 16 }, (_, i) => corner(i)));
const round: Partial<LaidLine> = { corners: ring, closed: true, remainder: 'stretch' };

describe('a line whose parts are bent', () => {
  it.each([false, true])('has every part end where the next begins, in the same direction, on both faces of the wall (turned: %s)', (turned) => {
    const list = walls(bent({ ...round, turned }));
    if (turned) list.reverse();
    expect(list.length).toBeGreaterThan(20);
    expect(list.every((p) => p.bend)).toBe(true);
    list.forEach((piece, i) => {
      const next = list[(i + 1) % list.length];
      for (const own of [
        [0, 0, 0.15],
        [0, 3, -0.15],
      ] as Vec3[]) {
        const [x, y, z] = own;
        expect(distance(at(piece, [x + 1, y, z]), at(next, [x - 1, y, z]))).toBeLessThan(1e-5);
      }
      expect(dot(wayAt(piece, 1), wayAt(next, 0))).toBeGreaterThan(1 - 1e-9);
    });
  });

  it('keeps to the circle: the middle of each part is as far out as its ends, within 2 cm of the radius', () => {
    for (const piece of walls(bent(round)))
      for (const x of [-1, -0.5, 0, 0.5, 1]) expect(Math.abs(Math.hypot(at(piece, [x, 0, 0])[0], at(piece, [x, 0, 0])[2]) - 8)).toBeLessThan(0.02);
  });

  it('meets straight lengths where the line turns no more', () => {
    const straight = bent({ corners: cornersAt([0, 0], [8, 0], [16, 0]) });
    expect(walls(straight).every((p) => p.bend === undefined)).toBe(true);
  });

  it('bends up and down where it leans, over a hill between two corners', () => {
    const ground = Array.from({ length: 41 }, (_, i) => 2 * Math.sin((i / 40) * Math.PI));
    const corners = cornersAt([0, 0], [40, 0]).map((c, i) => (i === 0 ? { ...c, ground } : c));
    const list = walls(bent({ corners, curved: false, slope: 'lean' }));
    for (let i = 0; i + 1 < list.length; i++) {
      expect(distance(at(list[i], [1, 2, 0]), at(list[i + 1], [-1, 2, 0]))).toBeLessThan(0.003);
      const foot = at(list[i], [0, 0, 0]);
      expect(Math.abs(foot[1] - 2 * Math.sin((foot[0] / 40) * Math.PI))).toBeLessThan(0.01);
    }
  });

  it('is found to fit at its joins by the checks', () => {
    const list = bent(round);
    expect(joinGrid(walls(list), [kit]).all.length).toBe(walls(list).length * 2);
    expect(joinFit({ pieces: walls(list), kits: [kit] } as Parameters<typeof joinFit>[0])).toEqual([]);
  });

  it('is laid straight where it turns too sharply', () => {
    const list = walls(bent({ corners: cornersAt([0, 0], [1, 0.2], [1.2, 1.4], [0.2, 1.6]), remainder: 'leave' }));
    for (const piece of list) expect(piece.bend === undefined || piece.bend.side.every((v) => Math.abs(v) <= 1.732)).toBe(true);
  });
});
