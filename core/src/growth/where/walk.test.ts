import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockGrid } from '../../block/grid';
import { meshGrid, placeMesh } from '../../block/placedMesh';
import { SHIPPED_BODIES } from '../../body/bodies';
import type { Terrain } from '../../earth/compose';
import { waterBodies } from '../../earth/waters';
import type { Block, GrowthWhere, Species, Water } from '../../level/objects';
import { growthOn, testSpecies } from '../../testing/growth';
import { terrainOf, testBlock } from '../../testing/levels';
import { grow, type GrowthInput } from '../grow';
import { PLANT_STRIDE } from '../plants';
import { growAgain } from '../regrow';
import { GrowthRoom } from '../growthRoom';
import { whyHere } from '../why';
import { readyWhere, whereSource } from './index';

const walker = SHIPPED_BODIES.adult;
const flat = terrainOf(() => 1);
const level = growthOn(flat, []);
const off: GrowthWhere = { is: { by: 'walk', band: [-200, 0], soft: 0 } };

/** Metres inside what is walkable, place by place. */
function deep(terrain: Terrain, more: Partial<GrowthInput> = {}): (x: number, z: number) => number {
  const where = readyWhere([off], whereSource({ ...(terrain === flat ? level : growthOn(terrain, [])), walker, ...more }, []));
  return (x, z) => {
    const [value] = where.parts(x, z)[0].value.split(' m,');
    return value === 'none here, in -200 to 0 m' ? NaN : Number(value);
  };
}
const among = (...blocks: Block[]) => deep(flat, { blocks: blockGrid(blocks) });
const box = (size: Block['size'], at: Block['at']) => testBlock('box', size, at);

describe('where one walks, to what grows', () => {
  it('ends where the ground is steeper than the body walks, as far in as out', () => {
    // A bank of 50 degrees and more from x 30 to 40: its ends are between samples at its feet.
    const at = deep(terrainOf((x) => Math.min(10, Math.max(0, x - 30)) * 1.3));
    expect([at(20, 30), at(35, 30), at(50, 30)].map((v) => Math.round(v))).toEqual([10, -5, 10]);
    expect(at(29, 30)).toBeGreaterThan(0);
    expect(at(31, 30)).toBeLessThan(0);
    // What it just walks is no end.
    expect(deep(terrainOf((x) => x * 0.99))(30, 30)).toBeGreaterThan(20);
  });

  it('keeps the body’s radius off what stops it, and not off what it steps onto or passes under', () => {
    const wall = among(box([12, 3, 0.4], [30, 1, 30]));
    // The wall reaches to z 30.2, the body's middle 0.35 m less far.
    expect(wall(30, 30)).toBeLessThan(0);
    expect(wall(30, 30.5)).toBeLessThan(0);
    expect(Math.abs(wall(30, 35) - (5 - 0.2 - walker.radius))).toBeLessThanOrEqual(0.75);
    expect(among(box([12, walker.step - 0.02, 12], [30, 1, 30]))(30, 30)).toBeGreaterThan(20);
    expect(among(box([12, 0.3, 12], [30, 1 + walker.height + 0.02, 30]))(30, 30)).toBeGreaterThan(20);
    expect(among(box([12, 0.3, 12], [30, 1 + walker.height - 0.1, 30]))(30, 30)).toBeLessThan(-5);
    expect(among(testBlock('box', [12, 3, 12], [30, 1, 30], 0, { background: true }))(30, 30)).toBeGreaterThan(20);
  });

  it('is held to boxes by a reckoning of its own', () => {
    const boxes = fc.array(fc.record({ x: fc.integer({ min: 10, max: 50 }), z: fc.integer({ min: 10, max: 50 }), w: fc.integer({ min: 1, max: 8 }) }), {
      minLength: 1,
      maxLength: 4,
    });
    fc.assert(
      fc.property(boxes, (list) => {
        const at = among(...list.map(({ x, z, w }) => box([w, 3, 2], [x, 1, z])));
        for (let k = 0; k < 30; k++) {
          const [x, z] = [2 + ((k * 7) % 60), 2 + ((k * 11) % 60)];
          const apart = Math.min(...list.map((b) => Math.hypot(Math.max(0, Math.abs(x - b.x) - b.w / 2), Math.max(0, Math.abs(z - b.z) - 1)))) - walker.radius;
          // As far as another sample, where a box stands for half of one about it and the walkable for another half.
          if (apart > 1) expect(Math.abs(at(x, z) - apart)).toBeLessThanOrEqual(1);
          if (apart < -0.1) expect(at(x, z)).toBeLessThan(0);
        }
      }),
      { numRuns: 25 },
    );
  });

  it('goes round pieces likewise', () => {
    const post = placeMesh('p', 'post', { positions: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 2, 1), indices: Uint32Array.of(0, 1, 2) }, (x, y, z) => [
      x + 30,
      y + 1,
      z + 30,
    ]);
    const at = deep(flat, { meshes: meshGrid([post]) });
    expect([at(30, 30) < 0, at(34, 30) > 1.5, at(34, 30) < 3.2]).toEqual([true, true, true]);
  });

  it('ends where water is deeper than the body wades, or where nobody may enter it', () => {
    const bowl = terrainOf((x, z) => Math.hypot(x - 30, z - 30) * 0.2);
    const pool: Water = { id: 'w', version: 1, kind: 'water', form: 'plane', name: 'pool', height: 2, x0: 0, z0: 0, x1: 64, z1: 64, hidden: false, out: false };
    const shore = (more: Partial<Water>) => deep(bowl, { waters: waterBodies(bowl, [{ ...pool, ...more } as Water]).bodies });
    // 2 m deep in the middle, less by 0.2 a metre: it wades from so far off.
    const deepTo = (2 - walker.wade) / 0.2;
    const wades = shore({});
    expect(wades(30, 30)).toBeLessThan(-deepTo + 1.5);
    expect(Math.abs(wades(30 + deepTo + 4, 30) - 4)).toBeLessThan(1);
    const shut = shore({ closed: true });
    expect(Math.abs(shut(46, 30) - 6)).toBeLessThan(1);
  });

  it('is none where nobody can stand, or nobody walks', () => {
    expect(deep(terrainOf((x) => x * 4))(30, 30)).toBeNaN();
    expect(deep(flat, { walker: undefined })(30, 30)).toBeNaN();
  });

  const gorse = (where: GrowthWhere[]): Species =>
    testSpecies('gorse', 0, { density: 6, spacing: 1, rule: { on: true, slope: [0, 90], height: [-500, 500], soft: 0, grounds: [], where } });

  it('leaves a rule what is beside it, and says why; turned round, what is walked on', () => {
    const bank = terrainOf((x) => Math.min(10, Math.max(0, x - 30)) * 1.3);
    const on = (where: GrowthWhere) => growthOn(bank, [gorse([where])], { walker });
    const xs = (input: GrowthInput) => {
      const [p] = grow(input);
      return Array.from({ length: p.count }, (_, i) => p.place[i * PLANT_STRIDE]);
    };
    const beside = xs(on(off));
    expect(beside.length).toBeGreaterThan(20);
    expect([Math.min(...beside) > 29, Math.max(...beside) < 41]).toEqual([true, true]);
    const walked = xs(on({ ...off, not: true }));
    expect(walked.length).toBeGreaterThan(100);
    expect(walked.every((x) => x < 31 || x > 39)).toBe(true);
    expect(whyHere(on(off), grow(on(off)), 'gorse', 20, 20)!.verdict).toMatch(/walkable \(10\.\d m, in -200 to 0 m\) says no/);
  });

  it('grows all again where a block came in the way, or the body is another', () => {
    const species = [gorse([off])];
    const before = growthOn(flat, species, { walker });
    const last = { input: before, grown: grow(before) };
    expect(last.grown[0].count).toBe(0);
    const wall = box([20, 3, 20], [30, 1, 30]);
    const walled = { ...before, blocks: blockGrid([wall]) };
    const again = growAgain(last, walled, [{ min: [20, 1, 20], max: [40, 4, 40] }], new GrowthRoom());
    expect(again[0].count).toBeGreaterThan(0);
    expect(again).toEqual(grow(walled));
    const slope = growthOn(
      terrainOf((x) => x * 0.8),
      species,
      { walker },
    );
    const weak = { ...slope, walker: { ...walker, maxSlope: 30 } };
    expect(growAgain({ input: slope, grown: grow(slope) }, weak, [], new GrowthRoom(), 'none')).toEqual(grow(weak));
  });
});
