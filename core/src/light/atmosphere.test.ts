import { describe, expect, it } from 'vitest';
import { clearSky, skyLight, sunThrough } from './atmosphere';

const up = (degrees: number): number => Math.sin((degrees * Math.PI) / 180);
const sum = (v: readonly number[]): number => v[0] + v[1] + v[2];

describe('the air of a clear day', () => {
  it('lets through overhead what its depths say: molecules, dust and ozone, by hand', () => {
    // Depth = figure at sea level x height of the layer; ozone 1 / 2 x 30 km of its tent.
    const by = (molecules: number, ozone: number) => Math.exp(-(molecules * 8000 + (3.996e-6 + 4.4e-6) * 1200 + ozone * 15_000));
    const reckoned = [by(5.802e-6, 0.65e-6), by(13.558e-6, 1.881e-6), by(33.1e-6, 0.085e-6)];
    sunThrough(1).forEach((v, k) => expect(Math.abs(v / reckoned[k] - 1)).toBeLessThan(0.01));
  });

  it('reddens the sun as it sinks, and dims it with dust', () => {
    const [noon, low] = [sunThrough(up(60)), sunThrough(up(4))];
    expect(noon[0] / noon[2]).toBeLessThan(1.5);
    expect(low[0] / low[2]).toBeGreaterThan(6);
    expect(sum(sunThrough(up(10), 0, 8))).toBeLessThan(sum(sunThrough(up(10))) * 0.75);
  });

  it('is blue overhead, pale at the horizon, brightest about the sun', () => {
    const sky = clearSky(up(35));
    const overhead = skyLight(sky, 90, 0);
    const horizon = skyLight(sky, 1, 180);
    expect(overhead[2] / overhead[0]).toBeGreaterThan(3.5);
    expect(horizon[2] / horizon[0]).toBeLessThan(2);
    expect(sum(horizon)).toBeGreaterThan(2 * sum(overhead));
    expect(sum(skyLight(sky, 40, 10))).toBeGreaterThan(1.6 * sum(skyLight(sky, 40, 180)));
  });

  it('glows low in the west after sunset and is all but dark at 12 degrees under the horizon', () => {
    const dusk = clearSky(up(-3));
    expect(skyLight(dusk, 3, 0)[0]).toBeGreaterThan(skyLight(dusk, 3, 0)[2]);
    expect(sum(skyLight(dusk, 3, 0))).toBeGreaterThan(4 * sum(skyLight(dusk, 3, 180)));
    expect(sum(skyLight(clearSky(up(-12)), 45, 90))).toBeLessThan(sum(skyLight(clearSky(up(30)), 45, 90)) / 500);
  });

  it('gives level ground about an eighth of what the sun does, as a clear day has it', () => {
    const sky = clearSky(up(40));
    let light = 0;
    for (let angle = 1; angle < 90; angle += 2)
      for (let round = 5; round < 360; round += 10) {
        const cosine = up(angle) * Math.cos((angle * Math.PI) / 180) * ((2 * Math.PI) / 180) * ((10 * Math.PI) / 180);
        light += (skyLight(sky, angle, round)[1] * cosine) / Math.PI;
      }
    const sun = sky.sun[1] * up(40);
    expect(light / sun).toBeGreaterThan(0.08);
    expect(light / sun).toBeLessThan(0.22);
  });
});
