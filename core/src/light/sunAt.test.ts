import { describe, expect, it } from 'vitest';
import { dayLength, daylight, sunAt } from './sunAt';

describe('the sun at a moment', () => {
  it('stands where tables of the sun have it, to a degree', () => {
    // At the equinox noon stands at 90 less the latitude, due south; it rises in the east at six and sets in the west at eighteen.
    expect(sunAt({ latitude: 52, day: 81, hour: 12 })).toEqual({ azimuth: expect.closeTo(180, 3), elevation: expect.closeTo(38, 0) });
    expect(sunAt({ latitude: 52, day: 81, hour: 6 })).toEqual({ azimuth: expect.closeTo(90, 0), elevation: expect.closeTo(0, 0) });
    expect(sunAt({ latitude: 52, day: 81, hour: 18 }).azimuth).toBeCloseTo(270, 0);
    // Midsummer and midwinter noon are 23.4 degrees higher and lower.
    expect(sunAt({ latitude: 52, day: 172, hour: 12 }).elevation).toBeCloseTo(61.4, 0);
    expect(sunAt({ latitude: 52, day: 355, hour: 12 }).elevation).toBeCloseTo(14.6, 0);
    // On the southern half it stands in the north; at midnight it is as far below the horizon as worked by hand.
    expect([0, 360].some((north) => Math.abs(sunAt({ latitude: -35, day: 172, hour: 12 }).azimuth - north) < 0.01)).toBe(true);
    expect(sunAt({ latitude: 52, day: 81, hour: 0 }).elevation).toBeCloseTo(-38, 0);
    // Beyond the polar circle it does not set at midsummer.
    expect(sunAt({ latitude: 70, day: 172, hour: 0 }).elevation).toBeGreaterThan(3);
  });

  it('has days of a length that agrees with when it is up', () => {
    expect(dayLength({ latitude: 0, day: 200 })).toBeCloseTo(12, 6);
    expect([dayLength({ latitude: 70, day: 172 }), dayLength({ latitude: 70, day: 355 })]).toEqual([24, 0]);
    for (const [latitude, day] of [
      [52, 172],
      [52, 355],
      [-35, 20],
      [10, 100],
    ]) {
      let up = 0;
      for (let minute = 0; minute < 1440; minute++) if (sunAt({ latitude, day, hour: minute / 60 }).elevation > 0) up++;
      expect(dayLength({ latitude, day })).toBeCloseTo(up / 60, 1);
    }
  });

  it('gives way to a moon across the sky at night, with dusk between', () => {
    expect(daylight({ azimuth: 200, elevation: 30 })).toEqual({ azimuth: 200, elevation: 30, strength: 1, moon: false, sky: 1 });
    const night = daylight({ azimuth: 0, elevation: -40 });
    expect(night).toMatchObject({ azimuth: 180, moon: true, sky: 0 });
    expect(night.strength).toBeGreaterThan(0);
    expect(night.strength).toBeLessThan(0.2);
    // From noon to midnight the sky only darkens, and no light leaps.
    let before = daylight({ azimuth: 90, elevation: 60 });
    for (let e = 60; e >= -60; e -= 0.25) {
      const now = daylight({ azimuth: 90, elevation: e });
      expect(now.sky).toBeLessThanOrEqual(before.sky);
      expect(Math.abs(now.strength - before.strength)).toBeLessThan(0.1);
      before = now;
    }
  });
});
