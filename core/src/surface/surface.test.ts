import { describe, expect, it } from 'vitest';
import { blockGrid } from '../block/grid';
import { terrainOf, testBlock } from '../testing/levels';
import { groundAlong, groundAt } from './groundAt';
import { planPicture } from './planPicture';
import { sectionAlong } from './section';

const hill = terrainOf((x) => x * 0.25);

describe('groundAt', () => {
  const shed = testBlock('box', [6, 3, 6], [20, 8, 20]);
  const ramp = testBlock('ramp', [4, 2, 4], [40, 10, 20], 0);
  const grid = blockGrid([shed, ramp]);

  it('finds the terrain with its slope and ground', () => {
    const g = groundAt(hill, grid, [50, 100, 50]);
    expect(g.host).toEqual({ kind: 'terrain' });
    expect(g.height).toBeCloseTo(12.5);
    expect(g.slope).toBeCloseTo(14.04, 2);
    expect(g.ground).toBe('turf');
    expect(
      groundAt(
        terrainOf((x) => x),
        blockGrid([]),
        [30, 99, 30],
      ).ground,
    ).toBe('slate');
  });

  it('finds a roof from above and the floor from inside', () => {
    expect(groundAt(hill, grid, [20, 30, 20])).toMatchObject({ host: { kind: 'block', id: shed.id, face: 'top' }, height: 11, slope: 0 });
    expect(groundAt(hill, grid, [20, 10, 20])).toMatchObject({ host: { kind: 'terrain' }, height: 5 });
  });

  it('gives the height and slope of a ramp', () => {
    const g = groundAt(hill, grid, [41, 30, 20]);
    expect(g.height).toBeCloseTo(11.5);
    expect(g.slope).toBeCloseTo(26.565, 3);
  });

  it('still counts a host a hair above the point', () => {
    expect(groundAt(hill, grid, [20, 10.99, 20]).host.kind).toBe('block');
    expect(groundAt(hill, grid, [20, 10.97, 20]).host.kind).toBe('terrain');
  });
});

describe('groundAlong', () => {
  const shed = testBlock('box', [6, 3, 6], [20, 4, 20]);
  it('meets what the pointer is over first', () => {
    expect(groundAlong(hill, [shed], { origin: [20, 30, 20], direction: [0, -1, 0] })).toMatchObject({ host: { kind: 'block', face: 'top' }, height: 7 });
    expect(groundAlong(hill, [], { origin: [20, 30, 20], direction: [0, -1, 0] })!.height).toBeCloseTo(5, 2);
    const side = groundAlong(hill, [shed], { origin: [5, 6, 20], direction: [1, 0, 0] })!;
    expect(side.host).toMatchObject({ kind: 'block', face: 'west' });
    expect(side.slope).toBe(90);
    expect(groundAlong(hill, [shed], { origin: [20, 30, 20], direction: [0, 1, 0] })).toBeUndefined();
  });
});

describe('a section', () => {
  it('has the true profile, only inside the level', () => {
    const cut = sectionAlong(hill, [], { x0: 32, z0: 32, dx: 1, dz: 0 }, [-100, 100], 45);
    expect(cut.ground[0]).toBeCloseTo(-32, 0);
    expect(cut.ground[cut.ground.length - 2]).toBeCloseTo(32, 0);
    for (let i = 0; i < cut.ground.length; i += 2) expect(cut.ground[i + 1]).toBeCloseTo((32 + cut.ground[i]) * 0.25, 5);
    expect([cut.low, cut.high].map((v) => Math.round(v))).toEqual([0, 16]);
  });

  it('marks one stretch for one face that is too steep', () => {
    const face = terrainOf((x) => (x < 30 ? 0 : x > 31 ? 4 : (x - 30) * 4));
    const cut = sectionAlong(face, [], { x0: 30, z0: 20, dx: 1, dz: 0 }, [-20, 20], 45);
    expect(cut.tooSteep).toHaveLength(1);
    expect(cut.tooSteep[0].from).toBeCloseTo(0, 0);
    expect(cut.tooSteep[0].to).toBeCloseTo(1, 0);
    expect(cut.tooSteep[0].slope).toBeCloseTo(75.96, 1);
    // Along the face nothing is steep.
    expect(sectionAlong(face, [], { x0: 30.5, z0: 0, dx: 0, dz: 1 }, [0, 60], 45).tooSteep).toEqual([]);
  });

  it('cuts the blocks the line meets, in the window only', () => {
    const on = testBlock('box', [2, 2, 2], [20, 5, 32]);
    const off = testBlock('box', [2, 2, 2], [20, 5, 40]);
    const far = testBlock('box', [2, 2, 2], [60, 5, 32]);
    const cut = sectionAlong(hill, [on, off, far], { x0: 32, z0: 32, dx: 1, dz: 0 }, [-20, 20], 45);
    expect(cut.blocks.map((b) => b.id)).toEqual([on.id]);
    expect(Math.min(...cut.blocks[0].outline.map(([s]) => s))).toBeCloseTo(-13);
  });
});

describe('the plan picture', () => {
  const at = (p: ReturnType<typeof planPicture>, x: number, z: number) => [...p.data.subarray((z * p.width + x) * 3, (z * p.width + x) * 3 + 3)];

  it("has the level's shape, north up", () => {
    const p = planPicture(
      terrainOf((_x, z) => (z < 32 ? 0.1 : 20.1)),
      blockGrid([]),
      64,
    );
    expect([p.width, p.height, p.data.length]).toEqual([64, 64, 64 * 64 * 3]);
    // One row of contour ink where the ground steps up, and slate beside it.
    expect(at(p, 20, 32)[0]).toBeLessThan(at(p, 20, 10)[0] * 0.8);
  });

  it('is light on slopes that face the north-west and dark on the others', () => {
    const p = planPicture(
      terrainOf((x) => (x < 32 ? x * 0.4 : 25.6 - x * 0.4) + 0.3),
      blockGrid([]),
      128,
    );
    const mean = (x0: number) => {
      let s = 0;
      for (let x = x0; x < x0 + 30; x++) s += at(p, x, 60)[1];
      return s;
    };
    expect(mean(20)).toBeGreaterThan(mean(80) * 1.2);
  });

  it('shows blocks where they stand', () => {
    const p = planPicture(
      terrainOf(() => 0.5),
      blockGrid([testBlock('box', [8, 3, 8], [16, 0.5, 48])]),
      64,
    );
    expect(at(p, 16, 48)).toEqual([190, 178, 152]);
    expect(at(p, 16, 16)).not.toEqual([190, 178, 152]);
  });
});
