import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { jumpReach } from '../body/jump';
import { terrainOf, testBlock } from '../testing/levels';
import { sectionAlong } from './section';
import { surfaceUnder, walkLine, type CutThings } from './walkLine';

const adult = SHIPPED_BODIES.adult;
const flat = terrainOf(() => 0);
const NONE: CutThings = { solids: [], segments: [] };
/** Along z = 32 from west to east; distance 0 is x = 20. */
const line = { x0: 20, z0: 32, dx: 1, dz: 0 };
const box = (id: string, x0: number, x1: number, y0: number, y1: number) => ({ ...testBlock('box', [x1 - x0, y1 - y0, 6], [(x0 + x1) / 2, y0, 32]), id });
const cut = (blocks: ReturnType<typeof box>[], terrain = flat) => sectionAlong(terrain, blocks, line, [-15, 40], adult.maxSlope);
/** Two decks 2 m up with a gap between them, the first from x = 16 to 24. */
const decks = (gap: number, rise = 0) => cut([box('a', 16, 24, 0, 2), box('b', 24 + gap, 40, 0, 2 + rise)]);

describe('the walk along a section', () => {
  it('worked by hand: a gap of 2.40 m between decks is easy, 3.60 m tight, 4.20 m impossible; the arcs go by run and apex', () => {
    // Flat reach of the adult 4.28 m: easy to 3.00, tight to 4.07.
    expect(jumpReach(adult)).toBeCloseTo(4.28, 2);
    for (const [gap, verdict] of [
      [2.4, 'easy'],
      [3.6, 'tight'],
      [4.2, 'impossible'],
    ] as const) {
      const { gaps } = walkLine(decks(gap), NONE, 2, adult);
      const east = gaps.find((g) => g.to > 0)!;
      expect(east.to - east.from).toBeCloseTo(gap, 2);
      expect([east.verdict, east.back, east.from]).toEqual([verdict, verdict, expect.closeTo(4, 2)]);
    }
  });

  it('up is harder than down: the verdict of the way back is told too', () => {
    const {
      gaps: [gap],
    } = walkLine(decks(2.9, 0.7), NONE, 2, adult);
    expect([gap.rise, gap.verdict, gap.back]).toEqual([expect.closeTo(0.7, 6), 'tight', 'easy']);
    expect(walkLine(decks(2, 1.2), NONE, 2, adult).gaps).toEqual([]);
  });

  it('ends at a wall it cannot hop and at a drop that would hurt; goes down a safe one', () => {
    const wall = walkLine(cut([box('wall', 26, 27, 0, 3)]), NONE, 0, adult);
    expect(wall.to).toBeCloseTo(6, 1);
    expect(walkLine(cut([box('ledge', 26, 40, 0, 0.85)]), NONE, 0, adult).to).toBeGreaterThan(19);
    expect(walkLine(cut([box('tower', 16, 24, 0, 6)]), NONE, 6, adult).to).toBeLessThan(4.2);
    expect(walkLine(cut([box('deck', 16, 24, 0, 3)]), NONE, 3, adult).to).toBeGreaterThan(30);
  });

  it('tells the lowest room over the head, by what it asks of the body, and stops where nobody gets through', () => {
    const under = (height: number) => walkLine(cut([box('beam', 26, 28, height, height + 0.5)]), NONE, 0, adult);
    expect(under(1.9).low).toEqual([{ at: expect.closeTo(6.1, 1), floor: 0, clearance: expect.closeTo(1.9, 6), verdict: 'tight' }]);
    expect(under(1.5).low[0].verdict).toBe('crouch');
    expect(under(1.5).to).toBeGreaterThan(20);
    expect(under(1.2).low[0].verdict).toBe('blocked');
    expect(under(1.2).to).toBeLessThan(6.3);
    expect(under(2.4).low).toEqual([]);
  });

  it('sees solids with holes and meshes by their segments; an open mesh stands on nothing', () => {
    const loop = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ];
    // A wall with a doorway 2 m high in it.
    const pierced: CutThings = { solids: [[loop(5, 0, 7, 4), loop(5, 0, 7, 2)]], segments: [] };
    expect(surfaceUnder(cut([]), pierced, 6, 1)).toEqual({ height: 0, over: 2 });
    const slab: CutThings = { solids: [], segments: [5, 1, 7, 1, 5, 1.2, 7, 1.2] };
    expect(surfaceUnder(cut([]), slab, 6, 1.3)).toEqual({ height: 1.2, over: Infinity });
    expect(surfaceUnder(cut([]), slab, 6, 0.5)!.over).toBeCloseTo(1, 9);
    expect(surfaceUnder(cut([]), { solids: [], segments: [5, 1, 7, 1] }, 6, 1.3)).toEqual({ height: 0, over: Infinity });
    expect(surfaceUnder(cut([]), NONE, 999, 5)).toBeUndefined();
  });

  it('jumps a ditch in the terrain, and none where the ground only slopes', () => {
    const ditch = terrainOf((x) => (x >= 26 && x <= 28 ? -6 : 0));
    const { gaps } = walkLine(cut([], ditch), NONE, 0, adult);
    expect(gaps).toHaveLength(1);
    // The drawn ground falls between two samples half a metre apart.
    expect(gaps[0].to - gaps[0].from).toBeGreaterThan(1.9);
    expect(gaps[0].to - gaps[0].from).toBeLessThan(3.1);
    expect(
      walkLine(
        cut(
          [],
          terrainOf((x) => Math.sin(x / 4) * 2),
        ),
        NONE,
        2 * Math.sin(5),
        adult,
      ).gaps,
    ).toEqual([]);
  });
});
