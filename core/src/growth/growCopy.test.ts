import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockGrid } from '../block/grid';
import { underWater } from '../earth/water';
import { waterBodies } from '../earth/waters';
import type { Water } from '../level/objects';
import { tileKey, TILE_SAMPLES } from '../level/tiles';
import { clamp } from '../num/vec';
import { PLANT_STRIDE } from './plants';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf, testBlock } from '../testing/levels';
import { grow, type GrowthInput } from './grow';
import { copyOf, drawOf } from './growCopy';
import { masksOf } from './masks';
import { pattern } from './pattern';
import { MOST_SOWN, sownAt, sownTiles } from './sown';
import { hostsOf, ruleAt, spotAt } from './spot';

/** Hills with a hollow in the middle that holds a pool. */
const hills = terrainOf((x, z) => 3 * Math.sin(x / 9) * Math.cos(z / 11) - 5 * Math.exp(-((x - 32) ** 2 + (z - 32) ** 2) / 90));
const pool = (height: number): Water => ({
  id: 'pool',
  version: 1,
  kind: 'water',
  form: 'pool',
  name: 'pool',
  height,
  seed: [32, 32],
  hidden: false,
  out: false,
});

/** The same plants candidate by candidate, each asked for everything by itself, and distances by looking at every plant. */
function slow(input: GrowthInput): string[][] {
  const { grid } = input.terrain;
  const hosts = hostsOf(input);
  const standing: { x: number; z: number; clearance: number }[] = [];
  return input.species.map((species) => {
    const p = pattern(species.seed);
    const period = p.side * species.spacing;
    const scale = species.density / 100 / (p.count / (period * period));
    const masks = masksOf(
      species,
      input.ground.surfaces.map((s) => s.id),
    );
    const sown = sownTiles(input.tiles, grid, species.id);
    const mine: { x: number; z: number; clearance: number }[] = [];
    const ids: string[] = [];
    for (let cz = Math.floor(grid.oz / period); cz * period - grid.oz < grid.depth; cz++) {
      for (let cx = Math.floor(grid.ox / period); cx * period - grid.ox < grid.width; cx++) {
        for (let slot = 0; slot < p.count; slot++) {
          const [x, z] = [cx * period + p.x[slot] * species.spacing - grid.ox, cz * period + p.z[slot] * species.spacing - grid.oz];
          if (x < 0 || z < 0 || x >= grid.width || z >= grid.depth) continue;
          const spot = spotAt(input, hosts, x, z, { height: 0, gradient: 0, top: false });
          const wanted = clamp(ruleAt(input, masks, spot, x, z) + sownAt(sown, x, z), 0, MOST_SOWN);
          if (drawOf(copyOf(species.seed, cx, cz), p.rank[slot]) >= scale * wanted || underWater(input.waters, x, spot.height, z)) continue;
          if (standing.some((o) => (o.x - x) ** 2 + (o.z - z) ** 2 < Math.max(o.clearance, species.clearance) ** 2)) continue;
          mine.push({ x: Math.fround(x), z: Math.fround(z), clearance: species.clearance });
          ids.push(`${cx},${cz}:${slot} ${Math.fround(spot.height)}`);
        }
      }
    }
    standing.push(...mine);
    return ids;
  });
}

const someSpecies = fc.record({
  density: fc.constantFrom(3, 40, 200),
  spacing: fc.constantFrom(0.9, 1.7, 4),
  clearance: fc.constantFrom(0, 0.4, 1.3),
  on: fc.boolean(),
  slope: fc.constantFrom<[number, number]>([0, 20], [10, 60], [0, 90]),
  height: fc.constantFrom<[number, number]>([-9, 0.5], [0, 9]),
  grounds: fc.constantFrom<string[]>([], ['turf'], ['slate', 'moss']),
});

describe('a copy of the pattern at a time', () => {
  it('grows what a look at each candidate by itself grows: blocks, water, strokes, rules and clearances', () => {
    fc.assert(
      fc.property(
        fc.array(someSpecies, { minLength: 1, maxLength: 3 }),
        fc.constantFrom(undefined, -3, -1.5),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 64 }), fc.integer({ min: 0, max: 64 }), fc.integer({ min: 0, max: 359 })), { maxLength: 3 }),
        fc.boolean(),
        (list, level, boxes, strokes) => {
          const species = list.map((s, i) =>
            testSpecies(`s${i}`, i, {
              density: s.density,
              spacing: s.spacing,
              clearance: s.clearance,
              rule: { on: s.on, slope: s.slope, height: s.height, soft: 4, grounds: s.grounds },
            }),
          );
          const blocks = blockGrid(boxes.map(([x, z, turn], i) => testBlock(i === 1 ? 'ramp' : 'box', [9, 3, 5], [x, -1, z], turn, { id: `b${i}` })));
          const tiles = new Map(
            strokes
              ? [
                  [tileKey('s0', 'sown', 0, 0), Int32Array.from({ length: TILE_SAMPLES }, (_, i) => ((i % 65) - 20) * 95)],
                  [tileKey('s0', 'sown', 1, 1), new Int32Array(TILE_SAMPLES).fill(700)],
                ]
              : [],
          );
          const waters = level === undefined ? [] : waterBodies(hills, [pool(level)]).bodies;
          const input = growthOn(hills, species, { blocks, tiles, waters });
          const grown = grow(input).map((p) =>
            Array.from({ length: p.count }, (_, i) => `${p.id[i * 3]},${p.id[i * 3 + 1]}:${p.id[i * 3 + 2]} ${p.place[i * PLANT_STRIDE + 1]}`),
          );
          expect(grown).toEqual(slow(input));
        },
      ),
      { numRuns: 30 },
    );
  });
});
