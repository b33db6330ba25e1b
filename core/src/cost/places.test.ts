import { describe, expect, it } from 'vitest';
import { makeLevel } from '../level/level';
import type { LevelObject } from '../level/objects';
import { testObjects } from '../testing/levels';
import type { Drawable } from './drawable';
import { costPlaces, placeCosts } from './places';

const marker = (which: 'entry' | 'objective', x: number): LevelObject =>
  ({ id: which, version: 1, kind: 'marker', marker: which, name: which, at: [x, 0, 32], turn: 0 }) as LevelObject;
const viewpoint = {
  id: 'v',
  version: 1,
  kind: 'viewpoint',
  name: 'over the yard',
  pose: { view: 'orbit', target: [32, 0, 32], yaw: 0, pitch: -30, distance: 40 },
} as LevelObject;
/** Something dear, 10 m north of the entry. */
const dear: Drawable = {
  key: 'dear',
  course: 'kit',
  of: 'dear',
  min: [10, 0, 20],
  max: [14, 4, 22],
  triangles: [500_000],
  vertices: [300_000],
  draws: [400],
  bytes: 0,
  instances: 1,
  radius: 4,
  cutoff: 0,
  casts: false,
  alphaArea: [0],
};

describe('the places a level is measured from', () => {
  it('are its viewpoints, and its entry and objective to the four winds at the eye', () => {
    expect(costPlaces(makeLevel(testObjects(1, 1)))).toEqual([]);
    const places = costPlaces(makeLevel([...testObjects(1, 1), viewpoint, marker('objective', 50), marker('entry', 12)]));
    expect(places.map((p) => p.name)).toEqual([
      'over the yard',
      ...['entry', 'objective'].flatMap((m) => ['north', 'east', 'south', 'west'].map((way) => `${m}, looking ${way}`)),
    ]);
    expect(places[2].pose).toMatchObject({ view: 'stand', target: [12, 0, 32], yaw: 90, pitch: 0 });
  });

  it('are told the dearest first: from where the dear thing is seen', () => {
    const level = makeLevel([...testObjects(1, 1), marker('entry', 12)]);
    const costs = placeCosts(level, [dear], 1);
    expect(costs).toHaveLength(4);
    expect(costs[0].name).toBe('entry, looking north');
    expect(costs[0].sums.all.triangles).toBe(500_000);
    expect(costs.find((c) => c.name.endsWith('south'))!.sums.all.triangles).toBe(0);
    costs.slice(1).forEach((c, i) => expect(c.frame.frame).toBeLessThanOrEqual(costs[i].frame.frame));
    // By hand: 3 ms and 400 draws of 11 us on the CPU side of Den 60.
    expect(costs[0].frame.cpu).toBeCloseTo(3 + 400 * 0.011, 1);
  });

  it('are measured on the device that is asked for', () => {
    const level = makeLevel([...testObjects(1, 1), marker('entry', 12)]);
    const [den] = placeCosts(level, [dear], 1, costPlaces(level).slice(0, 1), 'den-60');
    const [pocket] = placeCosts(level, [dear], 1, costPlaces(level).slice(0, 1), 'pocket-30');
    expect(pocket.frame.frame).toBeGreaterThan(den.frame.frame * 2);
  });
});
