import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beginStroke, endStroke } from '../earth/brush';
import { waterBodies } from '../earth/waters';
import { heightAt, steepnessAt } from '../earth/sample';
import { blockGrid } from '../block/grid';
import type { PlantObject, Species } from '../level/objects';
import { addRasters } from '../num/fixed';
import { hashBytes } from '../num/hash';
import { testAssets } from '../testing/assets';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf, testBlock } from '../testing/levels';
import { densityAt } from './densityAt';
import { grow, type GrowthInput } from './grow';
import { plantId, PLANT_STRIDE, type Plants } from './plants';
import { inBand } from '../num/band';
import { TooMuch } from '../num/tooMuch';
import { candidates } from './candidates';
import { masksOf, onGround } from './masks';
import { densest, pattern } from './pattern';
import { pickPlant } from './pickPlant';
import { plantsAlong } from './plantsAlong';
import { sowDab, type SowBrush } from './sow';
import { terrainHeights, terrainSpots } from './terrainSpots';
import { trunkColliders } from './trunks';
import { whyHere } from './why';

const hills = terrainOf((x, z) => 3 * Math.sin(x / 9) * Math.cos(z / 7) + x * 0.05);
const flat = terrainOf(() => 1);
const everywhere = { on: true, slope: [0, 90] as [number, number], height: [-500, 500] as [number, number], soft: 0, grounds: [] };

/** Nearest distance between two of the points, by looking at every pair. */
function nearestPair(a: Plants, b: Plants = a): number {
  let best = Infinity;
  for (let i = 0; i < a.count; i++) {
    for (let k = a === b ? i + 1 : 0; k < b.count; k++) {
      const dx = a.place[i * PLANT_STRIDE] - b.place[k * PLANT_STRIDE];
      const dz = a.place[i * PLANT_STRIDE + 2] - b.place[k * PLANT_STRIDE + 2];
      if (dx * dx + dz * dz < best) best = dx * dx + dz * dz;
    }
  }
  return Math.sqrt(best);
}
const ids = (p: Plants) => Array.from({ length: p.count }, (_, i) => plantId(p, i));
const asMap = (p: Plants) => new Map(ids(p).map((id, i) => [id, [...p.place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE)].join()]));

/** A stroke of sowing over the level's tiles. */
function sow(input: GrowthInput, species: string, brush: Partial<SowBrush>, at: [number, number][]): GrowthInput {
  const buffer = beginStroke('', input.terrain.grid);
  for (const [x, z] of at) sowDab(buffer, input.tiles, [species], { radius: 8, hardness: 0.5, target: 1, strength: 1, ...brush }, { x, z });
  const tiles = new Map(input.tiles);
  for (const { key, delta } of endStroke(buffer)) tiles.set(key, tiles.has(key) ? addRasters(tiles.get(key)!, delta) : delta);
  return { ...input, tiles };
}

describe('the pattern', () => {
  it('keeps its distance across the edges of the torus, and leaves no gap for another point', () => {
    fc.assert(
      fc.property(fc.nat(1e6), (seed) => {
        const p = pattern(seed);
        expect(p.count).toBeGreaterThan(p.side * p.side * 0.62);
        let best = Infinity;
        for (let i = 0; i < p.count; i++) {
          for (let k = i + 1; k < p.count; k++) {
            const dx = Math.min(Math.abs(p.x[i] - p.x[k]), p.side - Math.abs(p.x[i] - p.x[k]));
            const dz = Math.min(Math.abs(p.z[i] - p.z[k]), p.side - Math.abs(p.z[i] - p.z[k]));
            best = Math.min(best, dx * dx + dz * dz);
          }
        }
        expect(Math.sqrt(best)).toBeGreaterThanOrEqual(1);
      }),
      { numRuns: 6 },
    );
  });

  it('says how many fit on 100 m2 at a spacing', () => {
    expect(densest(2) * 4).toBeCloseTo(densest(1), 6);
    expect(densest(1)).toBeGreaterThan(62);
  });
});

describe('spacing is a promise', () => {
  it('by brute force, for any species, rules, strokes and hand-set plants', () => {
    fc.assert(
      fc.property(
        fc.nat(1e6),
        fc.double({ min: 1.2, max: 5, noNaN: true }),
        fc.double({ min: 1.2, max: 5, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        fc.array(fc.tuple(fc.double({ min: 2, max: 62, noNaN: true }), fc.double({ min: 2, max: 62, noNaN: true })), { maxLength: 5 }),
        fc.double({ min: -1, max: 4, noNaN: true }),
        (seed, r1, r2, c1, c2, strokes, target) => {
          const a = testSpecies('birch', 0, { seed, spacing: r1, clearance: c1, density: 300, rule: { ...everywhere, slope: [0, 25], soft: 10 } });
          const b = testSpecies('gorse', 1, { seed: seed + 1, spacing: r2, clearance: c2, density: 300, rule: everywhere });
          const hand: PlantObject = { id: 'h', version: 1, kind: 'plant', name: 'h', species: 'gorse', at: [30, 0, 30], turn: 0, scale: 1, gone: false };
          const [first, second] = grow(sow(growthOn(hills, [a, b], { plants: [hand] }), 'birch', { target }, strokes));
          expect(nearestPair(first)).toBeGreaterThanOrEqual(r1);
          expect(nearestPair(second)).toBeGreaterThanOrEqual(r2);
          expect(nearestPair(first, second)).toBeGreaterThanOrEqual(Math.max(c1, c2));
        },
      ),
      { numRuns: 25 },
    );
  });

  it('over strokes that meet: two strokes are as far apart as one', () => {
    const gorse = testSpecies('gorse', 0, { spacing: 1.5, density: 60, rule: { ...everywhere, on: false } });
    const bare = growthOn(flat, [gorse]);
    expect(grow(bare)[0].count).toBe(0);
    const two = sow(sow(bare, 'gorse', {}, [[20, 20]]), 'gorse', {}, [[30, 20]]);
    expect(nearestPair(grow(two)[0])).toBeGreaterThanOrEqual(1.5);
    expect(grow(two)[0].count).toBeGreaterThan(60);
  });
});

describe('density', () => {
  it('is plants per 100 m2 of plan area, where the rule lets all grow', () => {
    const heather = testSpecies('heather', 0, { density: 12, spacing: 0.9, rule: everywhere });
    const { count } = grow(growthOn(flat, [heather]))[0];
    const wanted = (12 * 64 * 64) / 100;
    expect(Math.abs(count - wanted)).toBeLessThan(4 * Math.sqrt(wanted));
  });

  it('is met on small areas too, from few plants to as many as fit, whatever the seed', () => {
    for (const [spacing, density] of [
      [0.3, 1],
      [0.3, 600],
      [1, 0.5],
      [1, 20],
      [1, 60],
      [2, 0.2],
      [2, 15],
      [4, 0.5],
      [4, 3.7],
      [8, 0.2],
      [8, 0.9],
    ]) {
      const counts = Array.from(
        { length: 16 },
        (_, i) => grow(growthOn(flat, [testSpecies('heather', 0, { density, spacing, clearance: 0, seed: 31 * i + 7, rule: everywhere })]))[0].count,
      );
      const wanted = (density * 64 * 64) / 100;
      const mean = counts.reduce((a, b) => a + b, 0) / counts.length;
      const spread = Math.sqrt(counts.reduce((sum, n) => sum + (n - mean) ** 2, 0) / counts.length);
      // Were each drawn by itself the spread would be a whole root; and the mean would be off by a twentieth and more.
      expect([spacing, density, Math.abs(mean - wanted) <= Math.max(0.05 * wanted, spread / 2)]).toEqual([spacing, density, true]);
      expect([spacing, density, spread < 0.85 * Math.sqrt(wanted)]).toEqual([spacing, density, true]);
    }
  });

  it('leaves what a hand removed empty, by place, radius and species, under any seed, spacing and density', () => {
    const heather = (more: object) => testSpecies('heather', 0, { density: 30, spacing: 0.9, seed: 5, rule: everywhere, ...more });
    const first = growthOn(flat, [heather({})]);
    const before = grow(first)[0];
    const removed = Array.from({ length: 40 }, (_, k): PlantObject => {
      const [x, y, z] = before.place.subarray(k * 9 * PLANT_STRIDE);
      return { id: `gone${k}`, version: 1, kind: 'plant', name: 'gone', species: 'heather', at: [x, y, z], turn: 0, scale: 1, gone: true, radius: 0.63 };
    });
    const nearest = (plants: Plants) =>
      Math.min(
        ...Array.from({ length: plants.count - plants.hand.length }, (_, i) =>
          Math.min(...removed.map((r) => Math.hypot(plants.place[i * PLANT_STRIDE] - r.at[0], plants.place[i * PLANT_STRIDE + 2] - r.at[2]))),
        ),
      );
    // Under its own seed just those are missing.
    expect(grow({ ...first, plants: removed })[0].count).toBe(before.count - removed.length);
    for (const more of [{}, { seed: 6 }, { spacing: 0.5 }, { spacing: 0.5, density: 200 }, { density: 60 }])
      expect(nearest(grow({ ...first, species: [heather(more)], plants: removed })[0])).toBeGreaterThanOrEqual(0.63 - 1e-4);
    // Another species grows there; one that was moved leaves its old place empty, and stands at its new one.
    const gorse = testSpecies('gorse', 1, { density: 60, spacing: 0.5, clearance: 0, rule: everywhere });
    expect(nearest(grow({ ...growthOn(flat, [gorse]), plants: removed })[0])).toBeLessThan(0.63);
    const moved: PlantObject = { ...removed[0], gone: false, at: [1, 0, 1], was: [removed[0].at[0], removed[0].at[2]] };
    const after = grow({ ...first, plants: [moved] })[0];
    expect([after.hand, after.count <= before.count]).toEqual([['gone0'], true]);
    expect(whyHere({ ...first, plants: [moved] }, [after], 'heather', moved.was![0], moved.was![1])!.verdict).toBe('no heather: moved by hand');
  });

  it('is multiplied by the brush, and cleared by it to nothing', () => {
    const heather = testSpecies('heather', 0, { density: 6, spacing: 0.9, rule: everywhere });
    const input = growthOn(flat, [heather]);
    const around = (plants: Plants[]) => densityAt(plants, 32, 32);
    const mean = (i: GrowthInput) => around(grow(i));
    expect(mean(sow(input, 'heather', { radius: 12, target: 2, hardness: 0.9 }, [[32, 32]]))).toBeGreaterThan(mean(input) * 1.8);
    expect(mean(sow(input, 'heather', { radius: 12, target: -1, hardness: 0.9 }, [[32, 32]]))).toBe(0);
    // Back to the rule: the plants are the very same.
    const cleared = sow(input, 'heather', { radius: 12, target: -1 }, [[32, 32]]);
    expect(asMap(grow(sow(cleared, 'heather', { radius: 20, hardness: 0.95, target: 0 }, [[32, 32]]))[0])).toEqual(asMap(grow(input)[0]));
  });
});

describe('masks', () => {
  it('are 1 inside their band, 0 beyond the soft ends, and fall between', () => {
    const band = [1, 2, 5, 9] as const;
    expect([0, 1, 2, 3.3, 5, 9, 12].map((v) => inBand(band, v))).toEqual([0, 0, 1, 1, 1, 0, 0]);
    expect(inBand(band, 1.5)).toBeCloseTo(0.5);
    expect(inBand(band, 7)).toBeCloseTo(0.5);
  });

  it('of slope, height and ground keep plants where they say', () => {
    const species = testSpecies('heather', 0, { density: 200, spacing: 0.5, rule: { on: true, slope: [0, 15], height: [1, 3], soft: 0, grounds: ['turf'] } });
    const input = growthOn(hills, [species]);
    const [plants] = grow(input);
    expect(plants.count).toBeGreaterThan(200);
    for (let i = 0; i < plants.count; i++) {
      const y = plants.place[i * PLANT_STRIDE + 1];
      expect(y).toBeGreaterThanOrEqual(0.999);
      expect(y).toBeLessThanOrEqual(3.001);
    }
    expect(grow(growthOn(hills, [{ ...species, rule: { ...species.rule, grounds: ['gravel'] } }]))[0].count).toBe(0);
  });

  it('keep plants out of the water and let them stand on blocks that are painted', () => {
    const moor = testSpecies('heather', 0, { density: 200, spacing: 0.5, rule: { ...everywhere, grounds: ['moss'] } });
    const { bodies } = waterBodies(flat, [
      { id: 'w', version: 1, kind: 'water', form: 'plane', name: 'w', height: 5, x0: 0, z0: 0, x1: 64, z1: 64, hidden: false, out: false },
    ]);
    expect(grow(growthOn(flat, [testSpecies('heather', 0, { rule: everywhere })], { waters: bodies }))[0].count).toBe(0);
    const tiles = new Map([['moss/top/0,0', new Int32Array(65 * 65).fill(1024)]]);
    const [plants] = grow(growthOn(flat, [moor], { tiles, blocks: blockGrid([testBlock('box', [6, 2, 6], [16, 1, 16])]) }));
    expect(plants.count).toBeGreaterThan(10);
    for (let i = 0; i < plants.count; i++) expect(plants.place[i * PLANT_STRIDE + 1]).toBe(3);
  });
});

describe('one pass over the samples', () => {
  it('gives the bits of the separate functions, rim included', () => {
    const input = growthOn(hills, []);
    const c = candidates(1);
    c.count = c.askedCount = 1;
    c.known[0] = 1;
    for (const grounds of [[], ['turf'], ['slate', 'moss']]) {
      const masks = masksOf(
        { rule: { ...everywhere, grounds } },
        input.ground.surfaces.map((s) => s.id),
      );
      fc.assert(
        fc.property(fc.double({ min: 0, max: 64, noNaN: true }), fc.double({ min: 0, max: 64, noNaN: true }), (x, z) => {
          c.x[0] = x;
          c.z[0] = z;
          terrainSpots(hills, input.ground, masks, c);
          expect([c.height[0], c.steep[0], c.share[0]]).toEqual([
            heightAt(hills, x, z),
            steepnessAt(hills, x, z),
            masks.anyGround ? 1 : onGround(masks, input.ground, x, z, false),
          ]);
          c.height[0] = NaN;
          terrainHeights(hills, c);
          expect(c.height[0]).toBe(heightAt(hills, x, z));
        }),
      );
    }
  });
});

describe('hand edits', () => {
  const gorse = testSpecies('gorse', 0, { density: 5, spacing: 2, rule: everywhere });
  const input = growthOn(flat, [gorse]);
  const [before] = grow(input);
  const edit = (id: string, more: Partial<PlantObject>): PlantObject => ({
    id,
    version: 1,
    kind: 'plant',
    name: id,
    species: 'gorse',
    at: [32.2, 1, 32.1],
    turn: 0,
    scale: 1,
    gone: false,
    ...more,
  });

  it('survive when the rule runs again with another density, height or seed of another species', () => {
    const gone = ids(before)[3];
    const moved = ids(before)[7];
    const plants = [edit('g', { from: gone, gone: true }), edit('m', { from: moved })];
    for (const change of [{}, { density: 9 }, { height: [2, 3] as [number, number] }, { tints: ['#ff0000'] }] satisfies Partial<Species>[]) {
      const [after] = grow({ ...input, species: [{ ...gorse, ...change }], plants });
      expect(ids(after)).not.toContain(gone);
      expect(ids(after)).not.toContain(moved);
      expect(ids(after)).toContain('m');
      const i = ids(after).indexOf('m');
      expect([...after.place.subarray(i * PLANT_STRIDE, i * PLANT_STRIDE + 3)].map((v) => Math.round(v * 1000) / 1000)).toEqual([32.2, 1, 32.1]);
    }
  });

  it('leave plants elsewhere exactly where they were', () => {
    const after = asMap(grow({ ...input, plants: [edit('m', { from: ids(before)[7] })] })[0]);
    const same = asMap(before);
    for (const [id, place] of same) {
      const [x, , z] = place.split(',').map(Number);
      // Only those too near to the moved one made room.
      if (id !== ids(before)[7] && Math.hypot(x - 32.2, z - 32.1) >= 2) expect(after.get(id)).toBe(place);
    }
  });

  it('a part grown by itself is the part of the whole', () => {
    const only = { x0: 20, z0: 30, x1: 90, z1: 80 };
    const part = asMap(grow(input, only)[0]);
    const whole = asMap(before);
    for (const [id, place] of part) expect(whole.get(id)).toBe(place);
    const inside = [...whole].filter(([, p]) => {
      const [x, , z] = p.split(',').map(Number);
      return x >= 10 && x < 45 && z >= 15 && z < 40;
    });
    expect([...part.keys()].sort()).toEqual(inside.map(([id]) => id).sort());
  });
});

describe('the same seed', () => {
  it('gives the same bits: a hash that every engine must give (see the browser test)', () => {
    const [a, b] = grow(growthOn(hills, [testSpecies('birch', 0), testSpecies('heather', 1)]));
    const bytes = (p: Plants) => new Uint8Array(p.place.buffer, p.place.byteOffset, p.place.byteLength);
    expect(hashBytes(bytes(a))).toBe(hashBytes(bytes(grow(growthOn(hills, [testSpecies('birch', 0), testSpecies('heather', 1)]))[0])));
    expect(b.count).toBeGreaterThan(50);
  });
});

describe('why here', () => {
  it('agrees with what grows, at every candidate, and names the part that said no', () => {
    const birch = testSpecies('birch', 0, { density: 3, rule: { ...everywhere, slope: [0, 12], soft: 6 } });
    const heather = testSpecies('heather', 1, { density: 20, spacing: 1.2, rule: { ...everywhere, grounds: ['turf'] } });
    const input = growthOn(hills, [birch, heather]);
    const grown = grow(input);
    let here = 0;
    for (let i = 0; i < 120; i++) {
      const x = 1 + ((i * 37) % 620) / 10;
      const z = 1 + ((i * 91) % 620) / 10;
      for (const [k, species] of input.species.entries()) {
        const why = whyHere(input, grown, species.id, x, z)!;
        const p = pattern(species.seed);
        const period = p.side * species.spacing;
        let best = [Infinity, 0, 0];
        for (const cx of [-1, 0, 1])
          for (const cz of [-1, 0, 1])
            for (let s = 0; s < p.count; s++) {
              const px = (Math.floor(x / period) + cx) * period + p.x[s] * species.spacing;
              const pz = (Math.floor(z / period) + cz) * period + p.z[s] * species.spacing;
              if (Math.hypot(px - x, pz - z) < best[0]) best = [Math.hypot(px - x, pz - z), px, pz];
            }
        const stands = Array.from({ length: grown[k].count }, (_, n) => n).some(
          (n) => Math.hypot(grown[k].place[n * PLANT_STRIDE] - best[1], grown[k].place[n * PLANT_STRIDE + 2] - best[2]) < 1e-3,
        );
        if (best[1] < 0 || best[2] < 0 || best[1] >= 64 || best[2] >= 64) continue;
        expect([x, z, species.name, why.here]).toEqual([x, z, species.name, stands]);
        if (why.here) here++;
      }
    }
    expect(here).toBeGreaterThan(5);
  });

  it('tells slope, clearance and hand work by name', () => {
    const steep = testSpecies('birch', 0, { density: 50, spacing: 2, rule: { ...everywhere, slope: [0, 10] } });
    expect(
      whyHere(
        growthOn(
          terrainOf((x) => x),
          [steep],
        ),
        [],
        'birch',
        32,
        32,
      ),
    ).toMatchObject({ here: false, verdict: 'no birch: the slope says no' });
    const off = testSpecies('birch', 0, { rule: { ...everywhere, on: false } });
    expect(whyHere(growthOn(flat, [off]), [], 'birch', 32, 32)).toMatchObject({ here: false, verdict: 'no birch is sown here' });
    expect(whyHere(growthOn(flat, [off]), [], 'fern', 32, 32)).toBeUndefined();
  });
});

describe('what is made from plants', () => {
  const assets = testAssets();
  const birch = testSpecies('birch', 0, { density: 2, spacing: 4, height: [6.7, 6.7], rule: everywhere });
  const grown = grow(growthOn(flat, [birch]));
  const species = new Map([['birch', birch]]);

  it('trunks stand where birches do, heather has none', () => {
    const trunks = trunkColliders(grown, species, assets);
    expect(trunks).toHaveLength(grown[0].count);
    expect((trunks[0].min[0] + trunks[0].max[0]) / 2).toBeCloseTo(grown[0].place[0], 3);
    expect(trunks[0].max[1]).toBeCloseTo(3.5, 5);
    const heather = testSpecies('heather', 0, { rule: everywhere });
    expect(trunkColliders(grow(growthOn(flat, [heather])), new Map([['heather', heather]]), assets)).toEqual([]);
  });

  it('a ray down onto a plant picks it, one beside picks nothing', () => {
    const [x, , z] = grown[0].place;
    expect(pickPlant({ grown, species, assets }, { origin: [x, 50, z], direction: [0, -1, 0], far: 100 })).toMatchObject({ index: 0 });
    expect(pickPlant({ grown, species, assets }, { origin: [x, 50, z], direction: [0, 1, 0], far: 100 })).toBeUndefined();
    expect(pickPlant({ grown, species, assets }, { origin: [x, 50, z], direction: [0, -1, 0], far: 10 })).toBeUndefined();
  });

  it('a section cuts the plants whose crown it passes through', () => {
    const [x, , z] = grown[0].place;
    const cut = plantsAlong({ grown, species, assets }, { x0: x, z0: z, dx: 1, dz: 0 }, [-2, 2]);
    expect(cut.find((c) => Math.abs(c.along) < 1e-4)).toMatchObject({ species: 'birch', base: 1 });
    expect(plantsAlong({ grown, species, assets }, { x0: x, z0: z + 300, dx: 1, dz: 0 }, [-2, 2])).toEqual([]);
  });
});

describe('more plants than a level can hold', () => {
  it('are refused by the species that would be too many, and nothing is grown', () => {
    const input = growthOn(flat, [
      testSpecies('heather', 0, { density: 20, spacing: 0.5, rule: everywhere }),
      testSpecies('gorse', 1, { density: 400, spacing: 0.2, clearance: 0, rule: everywhere }),
    ]);
    const [heath, gorse] = grow(input);
    expect([heath.count, gorse.count].every((n) => n > 100)).toBe(true);
    expect(() => grow(input, undefined, heath.count + 50)).toThrow(/of gorse and those before it/);
    expect(() => grow(input, undefined, 10)).toThrow(TooMuch);
    expect(grow(input, undefined, heath.count + gorse.count).map((p) => p.count)).toEqual([heath.count, gorse.count]);
  });
});
