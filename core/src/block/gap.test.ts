import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { jumpReach } from '../body/jump';
import type { Mesh } from '../num/mesh';
import { testBlock } from '../testing/levels';
import { gapBetween, gapRange, gapText, inTheWay, nearestGap, type Around } from './gap';
import { placeMesh } from './placedMesh';

const { adult } = SHIPPED_BODIES;
const ledge = testBlock('box', [4, 1, 4], [0, 0, 0], 0, { id: 'ledge', name: 'ledge' });
const at = (x: number, more: object = {}) => testBlock('box', [4, 1, 4], [x, 0, 0], 0, { id: 'far', name: 'far', ...more });
const told = (to = at(7), around: Around = {}) => {
  const range = gapRange(ledge, to, around);
  return range && gapText(adult, range, around, new Set(['ledge', to.id])).text;
};

/** A box as a mesh, faces outwards. */
function boxMesh([x0, y0, z0]: number[], [x1, y1, z1]: number[]): Mesh {
  const positions = new Float32Array([x0, y0, z0, x1, y0, z0, x1, y1, z0, x0, y1, z0, x0, y0, z1, x1, y0, z1, x1, y1, z1, x0, y1, z1]);
  const quads = [
    [0, 3, 2, 1],
    [4, 5, 6, 7],
    [0, 4, 7, 3],
    [1, 2, 6, 5],
    [3, 7, 6, 2],
    [0, 1, 5, 4],
  ];
  return { positions, indices: new Uint32Array(quads.flatMap(([a, b, c, d]) => [a, b, c, a, c, d])) };
}

describe('a gap', () => {
  it('lies between the tops there really are: turned, sloped, cut', () => {
    // Turned by 45 degrees the corner comes nearer: half of 4 * sqrt 2.
    expect(gapBetween(ledge, at(7, { turn: 45 }))).toMatchObject({ width: expect.closeTo(5 - 2 * Math.SQRT2, 6), rise: 0 });
    // A ramp that rises away begins at its foot, a metre under the ledge; one that faces it ends at its crest.
    const ramp = (turn: number) => testBlock('ramp', [4, 1, 4], [7, 0, 0], turn, { id: 'ramp' });
    expect(gapBetween(ledge, ramp(0))).toMatchObject({ width: expect.closeTo(3, 6), rise: expect.closeTo(-1, 6) });
    expect(gapBetween(ledge, ramp(180))).toMatchObject({ width: expect.closeTo(3, 6), rise: expect.closeTo(0, 6) });
    // Steeper than anybody walks it is no top.
    expect(gapBetween(ledge, testBlock('ramp', [1, 2, 4], [7, 0, 0], 0, { id: 'ramp' }))).toBeUndefined();
    // A void took its near half: what is left begins 2 m farther.
    const built = new Map([['far', boxMesh([7, 0, -2], [9, 1, 2])]]);
    expect(gapBetween(ledge, at(7), { built })).toMatchObject({ width: 5, rise: 0 });
  });

  it('is none where tops touch or lie over each other', () => {
    expect(gapRange(ledge, at(4))).toBeUndefined();
    expect(gapRange(ledge, at(2, { at: [2, 3, 0] }))).toBeUndefined();
    expect(nearestGap(ledge, [at(4)], adult)).toBeUndefined();
    expect(gapRange(ledge, at(4.2))?.nearest.width).toBeCloseTo(0.2, 6);
  });

  it('is not easy where the landing lies below the safe drop', () => {
    expect(told(at(6, { at: [6, -4, 0] }))).toBe('2.00 m, 4.00 down: easy');
    expect(told(at(6, { at: [6, -4.5, 0] }))).toBe('2.00 m, 4.50 down: impossible, below the safe drop of 4.00');
  });

  it('cannot be jumped where something stands in the arc', () => {
    const post = (top: number, more: object = {}) => testBlock('box', [0.2, top + 3, 5], [3.5, -3, 0], 0, { id: 'post', name: 'post', ...more });
    const blocks = (...list: ReturnType<typeof post>[]): Around => ({ blocks: list });
    expect(told(at(7))).toBe('3.00 m: tight');
    // Halfway, 1.5 m out, the feet are t = 1.5 / run later: worked by hand they are over the ledge's top by so much.
    const t = 1.5 / adult.run;
    const feet = 1 + Math.sqrt(2 * adult.gravity * adult.jumpApex) * t - (adult.gravity * t * t) / 2;
    expect(told(at(7), blocks(post(feet - 0.1)))).toBe('3.00 m: tight');
    expect(told(at(7), blocks(post(feet + 0.1)))).toBe('3.00 m: impossible, post stands in the jump');
    // One that leaves room beside it is not; among narrow ends it is. A beam over the head and a void are not.
    const thin = post(4, { size: [0.2, 7, 0.2] });
    expect(told(at(7), blocks(thin))).toBe('3.00 m: tight');
    const narrow = (x: number, id: string) => testBlock('box', [4, 1, 0.5], [x, 0, 0], 0, { id, name: id });
    const range = gapRange(narrow(0, 'a'), narrow(7, 'b'))!;
    expect(gapText(adult, range, blocks(thin)).text).toBe('3.00 m: impossible, post stands in the jump');
    const beam = (low: number) => testBlock('box', [0.4, 0.4, 5], [3.5, low, 0], 0, { id: 'beam', name: 'beam' });
    expect(told(at(7), blocks(beam(feet + adult.height + 0.15)))).toBe('3.00 m: tight');
    expect(told(at(7), blocks(beam(feet + adult.height - 0.15)))).toMatch(/beam stands in the jump/);
    expect(told(at(7), blocks(post(4, { op: 'void' })))).toBe('3.00 m: tight');
    // The two ends themselves are not in the way; a trunk and a hill are.
    expect(told(at(7), { blocks: [ledge, at(7)] })).toBe('3.00 m: tight');
    const trunk = placeMesh('trunk', 'birch', boxMesh([3.4, -2, -2.5], [3.6, 4, 2.5]), (x, y, z) => [x, y, z]);
    expect(told(at(7), { meshes: [trunk] })).toMatch(/impossible, birch stands in the jump/);
    expect(told(at(7), { ground: (x) => (Math.abs(x - 3.5) < 0.5 ? 3 : -9) })).toMatch(/impossible, the ground stands in the jump/);
  });

  it('has nothing in its way where it is only a step of the jump wide', () => {
    const gap = gapBetween(ledge, at(4.05))!;
    expect(inTheWay(adult, gap, { blocks: [testBlock('box', [9, 9, 9], [0, -4, 0])] }, new Set())).toBeUndefined();
    expect(jumpReach(adult, 0)).toBeGreaterThan(4);
  });
});
