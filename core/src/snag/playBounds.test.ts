import { describe, expect, it } from 'vitest';
import { blockGrid } from '../block/grid';
import { backgroundRing } from '../block/background';
import { blockBounds, blockToLevel } from '../block/solid';
import { SHIPPED_BODIES } from '../body/bodies';
import { parseObject, type Block, type PlayBounds } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { placeMesh, type PlacedMesh } from '../block/placedMesh';
import { shapeMesh } from '../block/shapes';
import { DIRECTIONS, lookRound } from '../play/skyline';
import { testBlock, terrainOf } from '../testing/levels';
import { growthOn } from '../testing/growth';
import { playBoundsChecks } from './playBounds';
import type { SnagInput } from './input';

const flat = terrainOf(() => 2);
const bowl = terrainOf((x, z) => 2 + Math.max(0, Math.max(Math.abs(x - 32), Math.abs(z - 32)) - 20) * 0.5);
const eye: Vec3 = [32, 2 + 1.65, 32];
const bounds: PlayBounds = {
  id: 'bounds',
  version: 1,
  kind: 'playBounds',
  name: 'play bounds',
  outline: [
    [10, 10],
    [54, 10],
    [54, 54],
    [10, 54],
  ],
};

function checked(more: Partial<SnagInput>): SnagInput {
  const terrain = more.terrain ?? flat;
  return {
    terrain,
    ground: growthOn(terrain, []).ground,
    blocks: [],
    grid: blockGrid([]),
    pieces: [],
    walls: [],
    placed: [],
    assets: new Map(),
    kits: [],
    voids: [],
    solids: [],
    gaps: [],
    playBounds: [bounds],
    species: [],
    plants: [],
    waters: [],
    body: SHIPPED_BODIES.adult,
    reach: { reached: true, path: [], length: 0, walkTime: 0, runTime: 0 },
    dots: new Float32Array(),
    ...more,
  };
}
const dots = (...points: [number, number, number][]): Float32Array => Float32Array.from(points.flatMap(([x, z, linked]) => [x, 2, z, linked]));

/** A block as its mesh, where it stands. */
const massOf = (b: Block): PlacedMesh => placeMesh(b.id, b.name, shapeMesh(b), (x, y, z) => blockToLevel(b, x, y, z));

describe('a look round', () => {
  it('sees the edge of a flat level everywhere, and nowhere from a bowl', () => {
    expect(lookRound(flat, [], eye).holes).toHaveLength(DIRECTIONS);
    // A wall of ground is higher than the edge seen over it only where it falls again behind; here the edge is the highest of it itself.
    expect(lookRound(bowl, [], eye).holes).toHaveLength(DIRECTIONS);
    const crater = terrainOf((x, z) => {
      const r = Math.max(Math.abs(x - 32), Math.abs(z - 32));
      return r > 20 && r < 28 ? 8 : 2;
    });
    expect(lookRound(crater, [], eye).holes).toEqual([]);
  });

  it('has the edge hidden by what stands before it, and closed by what stands behind', () => {
    const wall = testBlock('box', [64, 5, 1], [32, 2, 60]);
    const south = lookRound(flat, [massOf(wall)], eye).holes;
    expect(south).not.toContain(180);
    expect(south).toContain(0);
    const ring = backgroundRing(64, 64, { distance: 20, height: 18, count: 24, foot: 2, seed: 5 }).map((b, i): Block => ({
      id: `m${i}`,
      version: 1,
      kind: 'block',
      name: `m${i}`,
      hidden: false,
      out: false,
      ...b,
    }));
    for (const b of ring) {
      expect(parseObject(b).ok).toBe(true);
      const { min, max } = blockBounds(b);
      expect(max[0] < 0 || min[0] > 64 || max[2] < 0 || min[2] > 64).toBe(true);
    }
    expect(lookRound(flat, ring.map(massOf), eye).holes).toEqual([]);
  });

  it('goes by what masses look like, not by the boxes around them', () => {
    const hidden = (b: Block) => Array.from({ length: DIRECTIONS }, (_, i) => i * 5).filter((h) => !lookRound(flat, [massOf(b)], eye).holes.includes(h));
    // 48 m away along z: a box of that size hides 18.4 degrees to either side of south.
    expect(hidden(testBlock('box', [4, 20, 40], [32, 0, 80], 90))).toEqual([160, 165, 170, 175, 180, 185, 190, 195, 200]);
    const cone = testBlock('cone', [40, 20, 40], [32, 0, 90]);
    const seen = hidden(cone);
    expect(seen).toContain(180);
    // At 15 degrees from south, 58 sin 15 = 15 m beside its axis, it is 5 m high and hides the edge; at 20, 19.8 m beside it, 0.2 m and hides nothing.
    expect([seen.includes(165), seen.includes(160)]).toEqual([true, false]);
    // Before the edge it is enough to reach the line of sight to it, 2.21 m at 28 m; behind, half a degree over it, 1.07 m at 60 m.
    expect(hidden(testBlock('box', [40, 2.3, 0.2], [32, 0, 60]))).toContain(180);
    expect(hidden(testBlock('box', [40, 2.1, 0.2], [32, 0, 60]))).not.toContain(180);
    expect([0.8, 1.3].map((h) => hidden(testBlock('box', [40, h, 0.2], [32, 0, 92])).includes(180))).toEqual([false, true]);
    // What lies wholly lower than the edge hides nothing, whatever its box: a pit's rim under the eye.
    expect(hidden(testBlock('box', [40, 1, 4], [32, -4, 80]))).toEqual([]);
  });
});

describe('the play bounds', () => {
  it('that can be walked out of is a snag, at the nearest place outside', () => {
    const inside = dots([32, 32, 1], [50, 50, 1], [5, 5, 0]);
    expect(playBoundsChecks(checked({ dots: inside })).map((s) => s.code)).toEqual(['bounds-hole']);
    const off = playBoundsChecks(checked({ dots: dots([32, 32, 1], [58, 30, 1], [62, 30, 1]) }))[0];
    expect(off).toMatchObject({
      code: 'bounds-walked-off',
      severity: 'blocking',
      at: [58, 2, 30],
      object: 'bounds',
      message: 'play bounds can be walked out of: 2 m² outside are reached from the entry, the nearest 4.0 m beyond them',
    });
  });

  it('from inside which the edge is seen is one, until a ring of masses stands behind it', () => {
    const [hole] = playBoundsChecks(checked({ dots: dots([32, 32, 1]) }));
    expect(hole).toMatchObject({ code: 'bounds-hole', severity: 'warning' });
    expect(hole.message).toContain(
      `1 of 1 places inside play bounds the level's edge is seen against the sky, most in ${DIRECTIONS} of ${DIRECTIONS} directions`,
    );
    const solids = backgroundRing(64, 64, { distance: 20, height: 18, count: 24, foot: 2, seed: 5 }).map((b, i): Block => ({
      id: `m${i}`,
      version: 1,
      kind: 'block',
      name: `m${i}`,
      hidden: false,
      out: false,
      ...b,
    }));
    expect(playBoundsChecks(checked({ dots: dots([32, 32, 1]), solids }))).toEqual([]);
  });

  it('that crosses itself is refused', () => {
    const bad = parseObject({
      ...bounds,
      outline: [
        [0, 0],
        [4, 4],
        [4, 0],
        [0, 4],
      ],
    });
    expect(bad.ok ? '' : bad.message).toMatch(/the play bounds cross themselves: the side from corner 1 meets the side from corner 3/);
  });
});
