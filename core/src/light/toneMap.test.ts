import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { graded, toneMap } from './toneMap';

describe('neutral tone mapping', () => {
  it('leaves a grey card as grey as it is, less the offset for what glass and air add', () => {
    for (const v of toneMap([0.18, 0.18, 0.18])) expect(v).toBeCloseTo(0.14, 12);
    // Dark ones by a parabola: 0.04 - (0.04 - 6.25 * 0.04^2) = 0.01.
    for (const v of toneMap([0.04, 0.04, 0.04])) expect(v).toBeCloseTo(0.01, 12);
    // A colour keeps its hue: the least of its three is what is taken off, by 0.1's own 0.04.
    expect(toneMap([0.5, 0.3, 0.1]).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([0.46, 0.26, 0.06]);
  });

  it('draws bright ones together: of a white of 1 the curve makes 0.869', () => {
    // c = 0.96, d = 0.24: 1 - 0.0576 / (0.96 + 0.24 - 0.76) = 0.8691.
    for (const v of toneMap([1, 1, 1])) expect(v).toBeCloseTo(0.86909, 4);
  });

  it('never leaves 0 to 1, and never makes more light darker', () => {
    fc.assert(
      fc.property(fc.tuple(fc.nat(4000), fc.nat(4000), fc.nat(4000)), fc.nat(500), (c, more) => {
        const light = c.map((v) => v / 200) as [number, number, number];
        const out = toneMap(light);
        const brighter = toneMap(light.map((v) => v * (1 + more / 100)) as [number, number, number]);
        for (let k = 0; k < 3; k++) {
          expect(out[k]).toBeGreaterThanOrEqual(0);
          expect(out[k]).toBeLessThanOrEqual(1);
        }
        expect(Math.max(...brighter)).toBeGreaterThanOrEqual(Math.max(...out) - 1e-9);
      }),
    );
  });
});

describe('the grade', () => {
  it('turns about a middle grey, keeps grey without saturation and doubles with a stop', () => {
    for (const v of graded([0.18, 0.18, 0.18], 1, 1.7, 1)) expect(v).toBeCloseTo(0.18, 12);
    expect(graded([0.1, 0.2, 0.3], 2, 1, 1).map((v) => Math.round(v * 1e9) / 1e9)).toEqual([0.2, 0.4, 0.6]);
    const grey = graded([0.1, 0.2, 0.3], 1, 1, 0);
    for (const v of grey) expect(v).toBeCloseTo(0.2126 * 0.1 + 0.7152 * 0.2 + 0.0722 * 0.3, 12);
  });
});
