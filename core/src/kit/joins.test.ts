import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Kit } from '../level/objects';
import { distance } from '../num/vec';
import { testAssets } from '../testing/assets';
import { endJoins, testKit } from '../testing/kits';
import { testPiece as piece } from '../testing/pieces';
import { joinGrid, joinsOf } from './joinGrid';
import { foundJoins, likelyPitch, partOf, useOf } from './joins';
import { lockJoin, lockText } from './lockJoin';
import { shippedPieces } from './pieces';

const kit = testKit();
const wall = kit.parts[0];
const round = (v: readonly number[]) => v.map((x) => Math.round(x * 1e4) / 1e4 + 0);

describe('joins that are found', () => {
  it('of what is whole pitches long, left and right on the grid, though its stones stand out a little', () => {
    expect(
      foundJoins(
        'wall',
        [
          [-1.04, -0.4, -0.19],
          [1.03, 3, 0.19],
        ],
        2,
      ),
    ).toEqual([
      { at: [-1, 0, 0], turn: 180, kind: 'wall', width: 0.38 },
      { at: [1, 0, 0], turn: 0, kind: 'wall', width: 0.38 },
    ]);
    // The pivot at its left side.
    expect(
      foundJoins(
        'wall',
        [
          [0, 0, 0],
          [4.1, 3, 0.2],
        ],
        2,
      ).map((j) => j.at[0]),
    ).toEqual([0, 4]);
    // 2.7 m are no whole number of 2 m.
    expect(
      foundJoins(
        'wall',
        [
          [-1.35, 0, 0],
          [1.35, 3, 0.2],
        ],
        2,
      ),
    ).toEqual([]);
  });

  it('of floors on four sides, of an angle by its two arms, of a roof at eave and ridge, of posts nowhere', () => {
    expect(
      foundJoins(
        'floor',
        [
          [-1, 0, -1],
          [1, 0.15, 1],
        ],
        2,
      ).map((j) => [...j.at, j.turn]),
    ).toEqual([
      [-1, 0, 0, 180],
      [1, 0, 0, 0],
      [0, 0, -1, 90],
      [0, 0, 1, -90],
    ]);
    expect(
      foundJoins(
        'corner',
        [
          [-2, 0, -0.1],
          [0.1, 3, 2],
        ],
        2,
      ).map((j) => [...j.at, j.turn]),
    ).toEqual([
      [-2, 0, 0, 180],
      [0, 0, 2, -90],
    ]);
    expect(
      foundJoins(
        'roof',
        [
          [-1, -0.2, -1],
          [1, 1.6, 1.3],
        ],
        2,
      ).map((j) => j.kind),
    ).toEqual(['roof', 'roof', 'eave', 'ridge']);
    expect(
      foundJoins(
        'post',
        [
          [-0.1, 0, -0.1],
          [0.1, 2, 0.1],
        ],
        2,
      ),
    ).toEqual([]);
  });

  it('make a kit of the shipped pieces: uses by tag, a pitch of 2 m', () => {
    const assets = shippedPieces();
    expect(assets.map((a) => useOf(a))).toEqual(['wall', 'corner', 'door', 'floor', 'roof', 'stair']);
    expect(likelyPitch(assets.filter((a) => useOf(a) === 'wall'))).toBe(2);
    expect(partOf('w', testAssets().get('wall')!, 2)).toMatchObject({ use: 'wall', weight: 1, joins: [{ at: [-1, 0, 0] }, { at: [1, 0, 0] }] });
  });

  it('stand where the piece does, and look out of it', () => {
    const turned = piece('a', [10, 1, 5], { turn: 90, scale: [1.5, 1, 1] });
    const [left, right] = joinsOf(turned, { kit: 'kit', part: wall });
    expect([round(left.at), round(left.way)]).toEqual([
      [10, 1, 6.5],
      [0, 0, 1],
    ]);
    expect([round(right.at), round(right.way)]).toEqual([
      [10, 1, 3.5],
      [0, 0, -1],
    ]);
  });
});

describe('locking join to join', () => {
  const standing = [piece('wall 1', [0, 0, 0]), piece('wall 2', [6.6, 0, 0])];
  const grid = joinGrid(standing, [kit]);

  it('takes the place beside the nearest, and tells what is left to the next', () => {
    const lock = lockJoin(piece('new', [2.3, 0.1, 0.4]), wall, grid)!;
    expect([round(lock.at), lock.turn, lock.fits]).toEqual([[2, 0, 0], 0, true]);
    expect(lock.to.piece.id).toBe('wall 1');
    expect(lockText(lock)).toBe('meets wall 1; 2.60 m left to wall 2');
    expect(lockText(lockJoin(piece('new', [4.5, 0, 0]), wall, grid)!)).toBe('meets wall 2; 2.60 m left to wall 1');
  });

  it('fills a gap of its own length from join to join, and says where it reaches into the next', () => {
    const tight = joinGrid([piece('wall 1', [0, 0, 0]), piece('wall 2', [4, 0, 0])], [kit]);
    expect(lockText(lockJoin(piece('new', [2.1, 0, 0.1]), wall, tight)!)).toMatch(/^meets wall [12]; meets wall [12]$/);
    const narrow = joinGrid([piece('wall 1', [0, 0, 0]), piece('wall 2', [3.7, 0, 0])], [kit]);
    expect(lockText(lockJoin(piece('new', [2.05, 0, 0]), wall, narrow)!)).toBe('meets wall 1; 0.30 m into wall 2');
  });

  it('turns to what it meets, and stays where nothing is near', () => {
    const lock = lockJoin(piece('new', [7.9, 0, 0.2], { turn: 10 }), wall, grid)!;
    expect(round([...lock.at, lock.turn])).toEqual([8.6, 0, 0, 0]);
    expect(lockJoin(piece('new', [0, 0, 9]), wall, grid)).toBeUndefined();
  });

  it('says what does not fit', () => {
    const rail: Kit = { ...testKit(), id: 'rails', parts: [{ ...wall, asset: 'rail', joins: endJoins(1, 'rail') }] };
    const mixed = joinGrid([piece('fence', [0, 0, 0], { asset: 'rail' })], [kit, rail]);
    const lock = lockJoin(piece('new', [2.2, 0, 0]), wall, mixed)!;
    expect(lock.fits).toBe(false);
    expect(lockText(lock)).toBe('does not fit fence: its join takes rail');
  });

  it('wherever it locks, two joins are at one place and look at each other', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -40, max: 40 }), fc.integer({ min: -40, max: 40 }), fc.integer({ min: -180, max: 180 })), {
          minLength: 1,
          maxLength: 8,
        }),
        fc.tuple(fc.integer({ min: -40, max: 40 }), fc.integer({ min: -40, max: 40 }), fc.integer({ min: -180, max: 180 })),
        (others, [x, z, turn]) => {
          const all = others.map(([ox, oz, t], i) => piece(`p${i}`, [ox / 4, 0, oz / 4], { turn: t }));
          const own = piece('new', [x / 4, 0, z / 4], { turn });
          const lock = lockJoin(own, wall, joinGrid(all, [kit]));
          if (!lock) return;
          const placed = joinsOf({ ...own, at: lock.at, turn: lock.turn }, { kit: 'kit', part: wall });
          const met = placed.find((j) => distance(j.at, lock.to.at) < 1e-6)!;
          expect(met.way[0] * lock.to.way[0] + met.way[2] * lock.to.way[2]).toBeCloseTo(-1, 6);
          expect(distance(lock.at, own.at)).toBeLessThanOrEqual(1 + 1e-9);
        },
      ),
    );
  });

  it('finds the joins near a place as a look at all of them does', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -30, max: 30 }), fc.integer({ min: -30, max: 30 })), { maxLength: 40 }),
        fc.integer({ min: 1, max: 30 }),
        (places, within) => {
          const all = joinGrid(
            places.map(([x, z], i) => piece(`p${i}`, [x / 3, 0, z / 3])),
            [kit],
          );
          const near = all.near([0.3, 0, 0.2], within / 10);
          expect(new Set(near)).toEqual(new Set(all.all.filter((j) => distance(j.at, [0.3, 0, 0.2]) <= within / 10)));
        },
      ),
    );
  });
});
