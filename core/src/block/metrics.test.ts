import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { coverVerdict } from '../body/checks';
import type { Block } from '../level/objects';
import { testBlock } from '../testing/levels';
import { measureFigures, measureText } from './measureFigures';
import { nearestGap } from './gap';
import { blockMetrics } from './metrics';

const { adult, ram } = SHIPPED_BODIES;
const says = (shape: Block['shape'], size: Block['size'], more: Partial<Block> = {}, body = adult) =>
  blockMetrics(testBlock(shape, size, [0, 0, 0], 0, more), body);

describe('what a block is to a body', () => {
  it('an opening: blocked, crouched only, tight or clear', () => {
    expect(says('box', [0.92, 2.1, 0.5], { op: 'void' })).toEqual([{ verdict: 'warning', text: 'tight: 0.92 m wide, 2.10 m high' }]);
    expect(says('box', [0.79, 2.1, 0.5], { op: 'void' })[0].verdict).toBe('bad');
    expect(says('box', [1, 1.3, 0.5], { op: 'void' })).toEqual([{ verdict: 'warning', text: 'crouched only: 1.00 m wide, 1.30 m high' }]);
    expect(says('box', [1, 2.1, 0.5], { op: 'void' })[0].verdict).toBe('good');
    // A room is no door; the ram's horns want more width.
    expect(says('box', [7, 2.5, 5], { op: 'void' })).toEqual([]);
    expect(says('box', [0.92, 2.1, 0.5], { op: 'void' }, ram)[0].verdict).toBe('bad');
    expect(says('arch', [2, 2.6, 1], { wall: 0.4 })).toEqual([{ verdict: 'good', text: 'clear: 1.20 m wide, 2.20 m high' }]);
  });

  it('a stair by riser and going', () => {
    expect(says('stair', [4.48, 2.8, 1], { steps: 16 })).toEqual([{ verdict: 'good', text: 'comfortable: riser 0.175, going 0.280 m, 2 risers + going 0.63' }]);
    expect(says('stair', [4, 2.8, 1], { steps: 8 })[0]).toMatchObject({ verdict: 'warning', text: expect.stringContaining('wants 0.60 to 0.66') });
    expect(says('stair', [4, 2.8, 1], { steps: 6 })[0]).toEqual({ verdict: 'bad', text: 'riser 0.47 m, over the step of 0.40' });
    expect(says('stair', [4, 2.8, 1], { steps: 6 }, ram)[0].verdict).toBe('warning');
  });

  it('a slope, a ledge and the cover it gives', () => {
    expect(says('ramp', [4, 2, 2])).toEqual([{ verdict: 'good', text: 'comfortable: 26.6°' }]);
    expect(says('ramp', [2, 2, 2])[0].verdict).toBe('warning');
    expect(says('wedge', [6, 2, 3])[0]).toEqual({ verdict: 'bad', text: 'too steep: 53.1°' });
    expect(['0.4', '0.9', '1.1', '2', '2.1'].map((h) => says('box', [1, Number(h), 1])[0].text)).toEqual([
      '0.40 m: step',
      '0.90 m: hop, low cover',
      '1.10 m: vault, low cover',
      '2.00 m: climb, full cover',
      '2.10 m: too high, full cover',
    ]);
    expect([0.89, 0.9, 1.3, 1.31, 1.89, 1.9].map((h) => coverVerdict(adult, h))).toEqual([undefined, 'low', 'low', undefined, undefined, 'full']);
  });
});

describe('a measure', () => {
  it('gives length, run, rise and slope', () => {
    expect(measureFigures([1, 2, 3], [4, 2, 7])).toEqual({ length: 5, run: 5, rise: 0, slope: 0 });
    expect(measureFigures([0, 0, 0], [3, 4, 0])).toMatchObject({ length: 5, run: 3, rise: 4, slope: expect.closeTo(53.1301, 4) });
    expect(measureFigures([0, 5, 0], [0, 2, 0])).toMatchObject({ length: 3, run: 0, rise: -3, slope: 90 });
    expect(measureText([0, 1, 0], [3, 1, 0])).toBe('3.00 m');
    expect(measureText([0, 4, 0], [3, 0, 0])).toBe('5.00 m: run 3.00, fall 4.00, 53.1°');
  });
});

describe('the nearest gap', () => {
  const here = testBlock('box', [4, 1.2, 4], [0, 0, 0]);
  const at = (x: number, more: Partial<Block> = {}) => testBlock('box', [4, 1.2, 4], [x, 0, 0], 0, { name: 'other', ...more });

  it('is measured edge to edge and judged by the jump: 4.28 m flat for the adult', () => {
    expect(nearestGap(here, [here, at(6.9)], adult)).toMatchObject({ verdict: 'good', text: 'gap to other 2.90 m: easy' });
    expect(nearestGap(here, [at(7)], adult)).toMatchObject({ verdict: 'warning', text: 'gap to other 3.00 m: tight' });
    expect(nearestGap(here, [at(7.9)], adult)).toMatchObject({ verdict: 'warning', width: expect.closeTo(3.9, 9) });
    expect(nearestGap(here, [at(8.2)], adult)).toMatchObject({ verdict: 'bad', text: 'gap to other 4.20 m: impossible' });
    expect(nearestGap(here, [at(20)], adult)).toBeUndefined();
    expect(nearestGap(here, [at(4.1)], adult)).toBeUndefined();
  });

  it('counts the rise: what is over the apex or too far down is no jump', () => {
    expect(nearestGap(here, [at(6, { at: [6, 0.5, 0] })], adult)?.text).toBe('gap to other 2.00 m, 0.50 up: easy');
    expect(nearestGap(here, [at(6, { at: [6, 1, 0] })], adult)).toBeUndefined();
    expect(nearestGap(here, [at(6, { at: [6, -3, 0] })], adult)?.text).toBe('gap to other 2.00 m, 3.00 down: easy');
    expect(nearestGap(here, [at(6, { at: [6, -5, 0] })], adult)).toBeUndefined();
  });

  it('sees turned blocks by their corners, overlapping ones as none, and no void', () => {
    // A square turned by 45 degrees reaches out by half its diagonal.
    const turned = at(0, { at: [2 + 2 * Math.SQRT2 + 1.5, 0, 0], turn: 45 });
    expect(nearestGap(here, [turned], adult)?.width).toBeCloseTo(1.5, 6);
    expect(nearestGap(here, [at(0, { size: [1, 1.2, 9] })], adult)).toBeUndefined();
    expect(nearestGap(here, [at(7, { op: 'void' })], adult)).toBeUndefined();
    expect(nearestGap(testBlock('ramp', [1, 2, 4], [0, 0, 0]), [at(7)], adult)).toBeUndefined();
  });
});
