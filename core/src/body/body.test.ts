import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tanDeg } from '../num/trig';
import { bodyFigures, SHIPPED_BODIES } from './bodies';
import { headroomEnough, ledgeVerdict, openingVerdict, slopeVerdict } from './checks';
import { defaultGrid, derivedFigures, stancesOf } from './derived';
import { gapVerdict, jumpReach, takeOffSpeed } from './jump';

const { adult, ram } = SHIPPED_BODIES;

describe('the jump envelope', () => {
  it('has the published figures of the adult', () => {
    expect(takeOffSpeed(adult)).toBeCloseTo(4.2, 2);
    expect(jumpReach(adult)).toBeCloseTo(4.28, 2);
  });

  it('worked by hand: landing 0.5 m up, t = (4.2021 + sqrt(17.658 - 9.81)) / 9.81 = 0.7139 s, 3.57 m', () => {
    expect(jumpReach(adult, 0.5)).toBeCloseTo(3.57, 2);
  });

  it('ends at the apex', () => {
    expect(jumpReach(adult, 0.9)).toBeCloseTo((5 * takeOffSpeed(adult)) / 9.81, 3);
    expect(jumpReach(adult, 0.91)).toBeUndefined();
  });

  it('agrees with a flight integrated in small steps', () => {
    fc.assert(
      fc.property(fc.double({ min: -6, max: 0.85, noNaN: true }), (rise) => {
        const dt = 1e-4;
        let v = takeOffSpeed(adult);
        let y = 0;
        let t = 0;
        while (!(v < 0 && y <= rise)) {
          y += v * dt - (adult.gravity * dt * dt) / 2;
          v -= adult.gravity * dt;
          t += dt;
        }
        expect(jumpReach(adult, rise)!).toBeCloseTo(t * adult.run, 2);
      }),
      { numRuns: 30 },
    );
  });

  it('judges gaps at 0.7 and 0.95 of the reach', () => {
    const reach = jumpReach(adult)!;
    expect(gapVerdict(adult, 0.7 * reach)).toBe('easy');
    expect(gapVerdict(adult, 0.71 * reach)).toBe('tight');
    expect(gapVerdict(adult, 0.951 * reach)).toBe('impossible');
    expect(gapVerdict(adult, 0.1, 1)).toBe('impossible');
  });
});

describe('metric checks', () => {
  it('judge openings for the adult: 0.80 wide is the narrowest, 1.85 high without crouching', () => {
    const table: [number, number, string][] = [
      [0.79, 2.1, 'blocked'],
      [0.8, 2.1, 'tight'],
      [0.99, 2.1, 'tight'],
      [1.0, 2.1, 'clear'],
      [1.2, 1.99, 'tight'],
      [1.2, 2.0, 'clear'],
      [1.2, 1.85, 'tight'],
      [1.2, 1.84, 'crouch'],
      [1.2, 1.25, 'crouch'],
      [1.2, 1.24, 'blocked'],
    ];
    for (const [w, h, verdict] of table) expect([w, h, openingVerdict(adult, w, h)]).toEqual([w, h, verdict]);
  });

  it('block a ram, which cannot crouch, at its own height', () => {
    expect(openingVerdict(ram, 1.3, 1.14)).toBe('blocked');
    expect(openingVerdict(ram, 0.99, 2)).toBe('blocked');
    expect(openingVerdict(ram, 1.3, 1.5)).toBe('clear');
  });

  it('order ledges: step, hop, vault, climb, wall', () => {
    expect([0.4, 0.41, 0.9, 0.91, 1.1, 1.11, 2, 2.01].map((h) => ledgeVerdict(adult, h))).toEqual([
      'step',
      'hop',
      'hop',
      'vault',
      'vault',
      'climb',
      'climb',
      'too high',
    ]);
    expect(ledgeVerdict(ram, 1.4)).toBe('too high');
  });

  it('judge slopes and headroom', () => {
    expect([30, 30.1, 45, 45.1].map((s) => slopeVerdict(adult, s))).toEqual(['comfortable', 'steep', 'steep', 'too steep']);
    expect(headroomEnough(adult, 1.9)).toBe(true);
    expect(headroomEnough(adult, 1.89)).toBe(false);
  });
});

describe('a new level', () => {
  it('takes its size from the body: 160 m for the adult', () => {
    expect(defaultGrid(adult)).toEqual({ tilesX: 5, tilesZ: 5, spacing: 0.5 });
    expect(defaultGrid({ ...adult, walk: 0.2 }).tilesX).toBe(2);
    expect(defaultGrid({ ...adult, walk: 50 }).tilesX).toBe(64);
  });

  it('says when it takes over ten minutes to cross at a run', () => {
    expect(derivedFigures(adult, 160, tanDeg(45))).toMatchObject({ crossWalk: 80, crossRun: 32, tooFar: false });
    expect(derivedFigures(adult, 3001, 1).tooFar).toBe(true);
  });
});

describe('body figures', () => {
  it('are refused where they contradict each other', () => {
    for (const bad of [{ eye: 1.9 }, { crouched: 2 }, { step: 1.8 }, { height: Number.NaN }, { maxSlope: 89 }, { radius: 0 }]) {
      expect(bodyFigures.safeParse({ ...adult, ...bad }).success).toBe(false);
    }
    for (const body of Object.values(SHIPPED_BODIES)) expect(bodyFigures.safeParse(body).success).toBe(true);
  });
});

describe('the ways a body stands', () => {
  it('are measured over the ground: the adult 1.80, 1.20, 2.20 reaching and 2.70 at its apex', () => {
    expect(stancesOf(SHIPPED_BODIES.adult).map((s) => [s.name, s.feet, Number(s.top.toFixed(2))])).toEqual([
      ['stands', 0, 1.8],
      ['crouched', 0, 1.2],
      ['reaches', 0, 2.2],
      ['apex', 0.9, 2.7],
    ]);
    expect(stancesOf(SHIPPED_BODIES.ram).map((s) => s.name)).toEqual(['stands', 'reaches', 'apex']);
  });
});
