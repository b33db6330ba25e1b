import { describe, expect, it } from 'vitest';
import { blockGrid } from '../block/grid';
import { terrainOf, testBlock } from '../testing/levels';
import { groundAlong, groundAt } from './groundAt';
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
    expect(groundAt(terrainOf((x) => x), blockGrid([]), [30, 99, 30]).ground).toBe('slate');
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
    expect(groundAlong(hill, [shed], [20, 30, 20], [0, -1, 0])).toMatchObject({ host: { kind: 'block', face: 'top' }, height: 7 });
    expect(groundAlong(hill, [], [20, 30, 20], [0, -1, 0])!.height).toBeCloseTo(5, 2);
    const side = groundAlong(hill, [shed], [5, 6, 20], [1, 0, 0])!;
    expect(side.host).toMatchObject({ kind: 'block', face: 'west' });
    expect(side.slope).toBe(90);
    expect(groundAlong(hill, [shed], [20, 30, 20], [0, 1, 0])).toBeUndefined();
  });
});

describe('a section', () => {
  it('has the true profile, only inside the level', () => {
    const cut = sectionAlong(hill, [], { x0: 32, z0: 32, dx: 1, dz: 0 }, -100, 100, 45);
    expect(cut.ground[0]).toBeCloseTo(-32, 0);
    expect(cut.ground[cut.ground.length - 2]).toBeCloseTo(32, 0);
    for (let i = 0; i < cut.ground.length; i += 2) expect(cut.ground[i + 1]).toBeCloseTo((32 + cut.ground[i]) * 0.25, 5);
    expect([cut.low, cut.high].map((v) => Math.round(v))).toEqual([0, 16]);
  });

  it('marks one stretch for one face that is too steep', () => {
    const face = terrainOf((x) => (x < 30 ? 0 : x > 31 ? 4 : (x - 30) * 4));
    const cut = sectionAlong(face, [], { x0: 30, z0: 20, dx: 1, dz: 0 }, -20, 20, 45);
    expect(cut.tooSteep).toHaveLength(1);
    expect(cut.tooSteep[0].from).toBeCloseTo(0, 0);
    expect(cut.tooSteep[0].to).toBeCloseTo(1, 0);
    expect(cut.tooSteep[0].slope).toBeCloseTo(75.96, 1);
    // Along the face nothing is steep.
    expect(sectionAlong(face, [], { x0: 30.5, z0: 0, dx: 0, dz: 1 }, 0, 60, 45).tooSteep).toEqual([]);
  });

  it('cuts the blocks the line meets, in the window only', () => {
    const on = testBlock('box', [2, 2, 2], [20, 5, 32]);
    const off = testBlock('box', [2, 2, 2], [20, 5, 40]);
    const far = testBlock('box', [2, 2, 2], [60, 5, 32]);
    const cut = sectionAlong(hill, [on, off, far], { x0: 32, z0: 32, dx: 1, dz: 0 }, -20, 20, 45);
    expect(cut.blocks.map((b) => b.id)).toEqual([on.id]);
    expect(Math.min(...cut.blocks[0].outline.map(([s]) => s))).toBeCloseTo(-13);
  });
});
