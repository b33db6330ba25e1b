import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES, type BodyFigures } from '../body/bodies';
import { ledgeVerdict, openingVerdict, slopeVerdict } from '../body/checks';
import type { Terrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import type { Block } from '../level/objects';
import { loadKernels } from '../testing/kernels';
import { terrainOf, testBlock } from '../testing/levels';
import { findReach } from './reach';
import { makeWalkArea } from './walkArea';
import { makeWalker } from './walker';

/**
 * Metric check, walk area and walker must agree. Each looks at the same obstacle in its own way: by
 * the published rule, by voxels 0.1 x 0.05 m, and by a cylinder with a skin of 0.02 m. Between the
 * largest value that stops all three and the smallest that lets all three pass lies a band where they
 * may differ; a level should not depend on it:
 *
 * | obstacle  | stopped up to | undecided        | passes from |
 * |-----------|---------------|------------------|-------------|
 * | door      | 2 r - 0.05    | to 2 r + 0.1     | 2 r + 0.1   |
 * | headroom  | height - 0.05 | to height + 0.05 | height + 0.05 |
 * | step      | step + 0.10   | to step          | step        |
 * | slope     | limit + 2     | to limit         | limit       |
 */
let kernels: Awaited<ReturnType<typeof loadKernels>>;
beforeAll(async () => { kernels = await loadKernels(); });

const flat = terrainOf(() => 0, 2);
const FROM: [number, number, number] = [27, 0, 32];

/** Verdicts of the walk area and the walker on getting from x = 27 to `to`. */
function verdicts(body: BodyFigures, terrain: Terrain, blocks: Block[], to: [number, number, number]): { area: boolean; walker: boolean } {
  const area = makeWalkArea(body, terrain.grid);
  area.update({ terrain, blocks, meshes: [] });
  const from: [number, number, number] = [FROM[0], heightAt(terrain, FROM[0], FROM[2]), FROM[2]];
  const reached = findReach(area, from, to).reached;
  const walker = makeWalker(kernels.rapier, body, terrain, blocks, [from[0], from[1] + 0.05, from[2]]);
  for (let i = 0; i < 60 * 25 && walker.at[0] < to[0] - 0.1; i++) walker.step({ x: 1, z: 0, run: false, jump: false });
  const there = walker.at[0] >= to[0] - 0.2 && Math.abs(walker.at[1] - to[1]) < 0.3;
  walker.dispose();
  return { area: reached, walker: there };
}

/** Two walls across the level with an opening of a width and, where `height` is given, a lintel over it. */
function door(width: number, height?: number): Block[] {
  const side = 32 - width / 2;
  const blocks = [testBlock('box', [0.3, 3.2, side], [32, 0, side / 2]), testBlock('box', [0.3, 3.2, side], [32, 0, 64 - side / 2])];
  if (height !== undefined) blocks.push(testBlock('box', [0.3, 3.2 - height, width + 0.4], [32, height, 32]));
  return blocks;
}

const BODIES: [string, BodyFigures][] = [['adult', SHIPPED_BODIES.adult], ['ram', SHIPPED_BODIES.ram]];

describe.each(BODIES)('for the %s', (_name, body) => {
  it.each([-0.15, -0.05, 0.1, 0.2, 0.5])('a door of twice the radius %f m', (more) => {
    const width = 2 * body.radius + more;
    const metric = openingVerdict(body, width, 3) !== 'blocked';
    const { area, walker } = verdicts(body, flat, door(width), [36, 0, 32]);
    if (more <= 0) expect({ metric, area, walker }).toEqual({ metric: false, area: false, walker: false });
    else expect({ metric, area, walker }).toEqual({ metric: true, area: true, walker: true });
  });

  it.each([-0.3, -0.1, -0.05, 0.05, 0.15, 0.4])('a lintel at the height %f m', (more) => {
    const height = body.height + more;
    const verdict = openingVerdict(body, 2.4, height);
    const metric = verdict === 'clear' || verdict === 'tight';
    const { area, walker } = verdicts(body, flat, door(2.4, height), [36, 0, 32]);
    const passes = more >= 0.05;
    expect({ metric, area, walker }).toEqual({ metric: passes, area: passes, walker: passes });
  });

  it.each([-0.2, -0.1, 0, 0.1, 0.2, 0.5])('a ledge of the step %f m', (more) => {
    const height = body.step + more;
    const metric = ledgeVerdict(body, height) === 'step';
    const { area, walker } = verdicts(body, flat, [testBlock('box', [30, height, 64], [47, 0, 32])], [36, height, 32]);
    expect({ metric, area, walker }).toEqual({ metric: more <= 0, area: more <= 0, walker: more <= 0 });
  });

  it.each([-15, -5, 0, 2, 6])('a slope of the limit %i degrees', (more) => {
    const slope = body.maxSlope + more;
    const rise = Math.tan((slope * Math.PI) / 180);
    const hill = terrainOf((x) => (x < 30 ? 0 : x > 33 ? rise * 3 : (x - 30) * rise), 2);
    const metric = slopeVerdict(body, slope) !== 'too steep';
    const { area, walker } = verdicts(body, hill, [], [37, rise * 3, 32]);
    expect({ metric, area, walker }).toEqual({ metric: more <= 0, area: more <= 0, walker: more <= 0 });
  });
});
