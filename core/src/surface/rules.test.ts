import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beginStroke, endStroke, type StrokeBuffer } from '../earth/brush';
import { composeTerrain, wholeRect } from '../earth/compose';
import { waterBodies } from '../earth/waters';
import type { GroundCondition, GroundRule, Landform, Route, Surface, Water, Weather } from '../level/objects';
import { someCondition } from '../testing/conditions';
import { liftStack } from '../level/level';
import { tileKey, TILE_SAMPLES, TILE_SIDE } from '../level/tiles';
import { addRasters } from '../num/fixed';
import { terrainOf, testLevel } from '../testing/levels';
import { composeGround, groundNameAt, groundWeightsAt, makeGround, strongestOf, type GroundRaster, type GroundSource } from './ground';
import { fillPaint, paintDab, replaceDab, smudgeDab } from './paint';
import { readyCondition, rulesLookAt, rulesReach } from './rules';
import { sharePictures } from './shares';
import { groundDefaults, surfaceFrom } from './surfaces';
import { whyGround } from './why';

const surfaces = groundDefaults().filter((o): o is Surface => o.kind === 'surface');
const flat = terrainOf(() => 0);
const whole = wholeRect(flat.grid);
const rule = (surface: string, where: GroundCondition[], more: Partial<GroundRule> = {}): GroundRule => ({
  id: `r-${surface}`,
  version: 1,
  kind: 'groundRule',
  name: `${surface} rule`,
  order: 0,
  surface,
  share: 1,
  where,
  wins: false,
  on: true,
  ...more,
});
const source = (more: Partial<GroundSource> = {}): GroundSource => ({ terrain: flat, stack: [], tiles: new Map(), waters: [], rules: [], ...more });
const made = (from: GroundSource, list = surfaces): GroundRaster => {
  const ground = makeGround(from.terrain.grid, list);
  composeGround(ground, from, wholeRect(from.terrain.grid));
  return ground;
};
/** Value of a condition at a place, metres. */
const value = (condition: GroundCondition, from: Partial<GroundSource>, x: number, z: number): number =>
  readyCondition(condition, source(from), whole).value(x * 2, z * 2);
const share = (condition: GroundCondition, from: Partial<GroundSource>, x: number, z: number): number =>
  readyCondition(condition, source(from), whole).share(x * 2, z * 2);
const pool: Water = { id: 'pool', version: 1, kind: 'water', form: 'pool', name: 'pool', height: 1, seed: [32, 32], hidden: false, out: false };
/** A round bowl: 0 at the middle of the level, rising 1 m on 4 m. Water at 1 m has its shore 4 m out. */
const bowl = terrainOf((x, z) => Math.hypot(x - 32, z - 32) / 4);

describe('what a condition goes by', () => {
  it('height and slope are those of the ground', () => {
    const ramp = terrainOf((x) => x / 2);
    expect(value({ by: 'height', band: [0, 1], soft: 0 }, { terrain: ramp }, 20, 30)).toBe(10);
    expect(value({ by: 'slope', band: [0, 1], soft: 0 }, { terrain: ramp }, 20, 30)).toBeCloseTo(26.565, 3);
  });

  it('from the shore counts outwards, and above the water from its surface, to half a sample', () => {
    const waters = waterBodies(bowl, [pool]).bodies;
    const at = (x: number) => value({ by: 'shore', band: [0, 1], soft: 0 }, { terrain: bowl, waters }, 32 + x, 32);
    for (const [x, d] of [
      [10, 6],
      [6, 2],
      [2, -2],
      [0, -4],
    ])
      expect(Math.abs(at(x) - d)).toBeLessThanOrEqual(0.5);
    expect(value({ by: 'water', band: [0, 1], soft: 0 }, { terrain: bowl, waters }, 44, 32)).toBeCloseTo(2, 5);
    expect(value({ by: 'water', band: [0, 1], soft: 0 }, { terrain: bowl, waters }, 32, 32)).toBeCloseTo(-1, 5);
    expect(share({ by: 'shore', band: [-1000, 1000], soft: 0 }, { terrain: bowl }, 32, 32)).toBe(0);
  });

  it('hollows are positive by how far they lie under what is around', () => {
    const dish = terrainOf((x, z) => ((x - 32) ** 2 + (z - 32) ** 2) / 100);
    // 3 m around the middle of it the ground lies 9 / 100 m higher on all four sides.
    expect(value({ by: 'curvature', band: [0, 1], soft: 0, over: 3 }, { terrain: dish }, 32, 32)).toBeCloseTo(0.09, 5);
    expect(
      value({ by: 'curvature', band: [0, 1], soft: 0, over: 3 }, { terrain: terrainOf((x, z) => -((x - 32) ** 2 + (z - 32) ** 2) / 100) }, 32, 32),
    ).toBeCloseTo(-0.09, 5);
  });

  it('patches of noise let in about the share of their band, the same for the same seed', () => {
    const wide = terrainOf(() => 0, 4);
    const by = (seed: number, from: number) => {
      const c = readyCondition({ by: 'noise', band: [from, 1], soft: 0, seed, scale: 10 }, source({ terrain: wide }), wholeRect(wide.grid));
      let n = 0;
      for (let z = 0; z < wide.grid.nz; z++) for (let x = 0; x < wide.grid.nx; x++) n += c.share(x, z);
      return n / (wide.grid.nx * wide.grid.nz);
    };
    expect(Math.abs(by(3, 0.5) - 0.5)).toBeLessThan(0.08);
    expect(by(3, 0)).toBe(1);
    expect(by(3, 0.5)).toBe(by(3, 0.5));
    expect(by(3, 0.5)).not.toBe(by(4, 0.5));
  });

  it('what weathering left is read from its rasters, of all weather lifts that are seen', () => {
    const tile = (v: number) => {
      const t = new Int32Array(TILE_SAMPLES);
      t[40 * TILE_SIDE + 20] = v;
      return t;
    };
    const tiles = new Map([
      [tileKey('w', 'scour', 0, 0), tile(512)],
      [tileKey('w', 'runoff', 0, 0), tile(300)],
      [tileKey('w2', 'runoff', 0, 0), tile(900)],
      [tileKey('w2', 'scour', 0, 0), tile(256)],
    ]);
    const weather = (id: string, visible = true): Weather => ({
      id,
      version: 1,
      kind: 'lift',
      lift: 'weather',
      name: id,
      order: 0,
      visible,
      seed: 1,
      droplets: 1,
      strength: 1,
      radius: 1,
      talus: 30,
      rounds: 0,
    });
    const from = { tiles, stack: [weather('w'), weather('w2')] };
    expect(value({ by: 'scour', band: [0, 1], soft: 0 }, from, 10, 20)).toBe(0.75);
    expect(value({ by: 'runoff', band: [0, 1], soft: 0 }, from, 10, 20)).toBeCloseTo(900 / 1024, 9);
    expect(value({ by: 'scour', band: [0, 1], soft: 0 }, { tiles, stack: [weather('w'), weather('w2', false)] }, 10, 20)).toBe(0.5);
    expect(value({ by: 'settle', band: [0, 1], soft: 0 }, from, 10, 20)).toBe(0);
  });

  it('beside a way counts from its edge', () => {
    const way: Route = {
      id: 'way',
      version: 1,
      kind: 'lift',
      lift: 'route',
      name: 'way',
      order: 0,
      visible: true,
      line: [
        [8, 0, 32],
        [56, 0, 32],
      ],
      width: 4,
      shoulder: 0,
      grade: 12,
      crossfall: 0,
      batter: 40,
    };
    const at = (z: number, more: Partial<Extract<GroundCondition, { by: 'route' }>> = {}) =>
      value({ by: 'route', band: [0, 20], soft: 0, ...more }, { stack: [way] }, 32, z);
    expect([at(32), at(35), at(30)].map((v) => Math.round(v * 100) / 100)).toEqual([-2, 1, 0]);
    expect(at(60)).toBe(Infinity);
    expect(share({ by: 'route', band: [0, 20], soft: 0 }, { stack: [way] }, 32, 60)).toBe(0);
    expect(share({ by: 'route', band: [0, 60], soft: 0 }, { stack: [way] }, 32, 60)).toBe(1);
    expect(at(32, { route: 'another' })).toBeNaN();
  });

  it('a lift counts by what it does to the ground, whatever lies over it', () => {
    const level = testLevel(2, 0.5, { seed: 1, height: 0, scale: 30, octaves: 1 });
    const heap: Landform = {
      id: 'heap',
      version: 1,
      kind: 'lift',
      lift: 'landform',
      name: 'heap',
      order: 1,
      visible: true,
      line: [[32, 32]],
      radius: 10,
      height: 3,
      foot: 5,
      cut: false,
      crown: 'flat',
      ragged: 0,
      seed: 1,
    };
    level.objects.set('heap', heap);
    level.objects.set('over', { ...heap, id: 'over', order: 2, cut: true, height: 9 });
    const from = { terrain: composeTerrain(level), stack: liftStack(level), tiles: level.tiles };
    const by: Extract<GroundCondition, { by: 'lift' }> = { by: 'lift', band: [0.5, 100], soft: 0, lift: 'heap' };
    expect(value(by, from, 32, 32)).toBeCloseTo(3, 4);
    expect(value(by, from, 5, 5)).toBe(0);
    expect([share(by, from, 32, 32), share(by, from, 5, 5), share({ ...by, lift: 'none' }, from, 32, 32)]).toEqual([1, 0, 0]);
  });
});

describe('rules of the ground', () => {
  it('lie over each other in their order; paint lies over them, and yields to those that win', () => {
    const moss = rule('moss', []);
    const half = rule('gravel', [], { share: 0.5 });
    const at = (rules: GroundRule[], tiles = new Map<string, Int32Array>()) =>
      [...groundWeightsAt(made(source({ rules, tiles })), 32, 32, false, new Float64Array(16))].slice(0, 4).map((v) => Math.round(v * 100));
    expect(at([])).toEqual([100, 0, 0, 0]);
    expect(at([moss, half])).toEqual([0, 0, 50, 50]);
    expect(at([half, moss])).toEqual([0, 0, 0, 100]);
    expect(at([{ ...moss, on: false }])).toEqual([100, 0, 0, 0]);
    expect(at([rule('gone', [])])).toEqual([100, 0, 0, 0]);
    const painted = new Map([
      [tileKey('slate', 'paint', 0, 0), new Int32Array(TILE_SAMPLES).fill(1024)],
      [tileKey('slate', 'paint', 1, 0), new Int32Array(TILE_SAMPLES).fill(1024)],
      [tileKey('slate', 'paint', 0, 1), new Int32Array(TILE_SAMPLES).fill(1024)],
      [tileKey('slate', 'paint', 1, 1), new Int32Array(TILE_SAMPLES).fill(1024)],
    ]);
    expect(at([moss], painted)).toEqual([0, 100, 0, 0]);
    expect(at([{ ...moss, wins: true }], painted)).toEqual([0, 0, 0, 100]);
    expect(at([{ ...half, wins: true }], painted)).toEqual([0, 50, 50, 0]);
  });

  it('by any rectangles give what the whole gives, whatever they go by', () => {
    const waters = waterBodies(bowl, [pool]).bodies;
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...surfaces.map((s) => s.id)), someCondition, fc.boolean()), { minLength: 1, maxLength: 4 }),
        fc.array(fc.tuple(fc.nat(128), fc.nat(128), fc.nat(40), fc.nat(40)), { maxLength: 4 }),
        (list, rects) => {
          const rules = list.map(([s, c, wins], i) => rule(s, [c], { id: `r${i}`, wins }));
          const from = source({ terrain: bowl, waters, rules });
          const ground = made(from);
          const wanted = [ground.of.slice(), ground.weights.slice()];
          for (const [x, z, w, d] of rects) {
            const rect = { x0: x, z0: z, x1: Math.min(128, x + w), z1: Math.min(128, z + d) };
            for (let sz = rect.z0; sz <= rect.z1; sz++) ground.weights.fill(7, (sz * 129 + rect.x0) * 4, (sz * 129 + rect.x1 + 1) * 4);
            composeGround(ground, from, rect);
          }
          expect(Buffer.compare(ground.of, wanted[0])).toBe(0);
          expect(Buffer.compare(ground.weights, wanted[1])).toBe(0);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('of sixteen surfaces keep the four strongest of a place, whole, and say which', () => {
    const sixteen = Array.from({ length: 16 }, (_, i) => surfaceFrom(`s${i}`, `s${i}`, i, 'turf'));
    // Each lies over a tenth of what is below: the last ones are the strongest but for the first.
    const rules = sixteen.slice(1).map((s, i) => rule(s.id, [], { id: `r${i}`, share: i === 14 ? 0.3 : 0.1 }));
    const ground = made(source({ rules }), sixteen);
    const w = groundWeightsAt(ground, 32, 32, false, new Float64Array(16));
    expect([...w].flatMap((v, i) => (v > 0 ? [i] : []))).toEqual([0, 13, 14, 15]);
    expect([...w].reduce((a, b) => a + b)).toBeCloseTo(1, 9);
    expect(groundNameAt(ground, 32, 32, false)).toBe('s15');
    expect(strongestOf(ground, 64 * 129 + 64)).toBe(15);
    // As pictures: only those that occur, one picture of four.
    const pictures = sharePictures(ground, whole, false);
    expect([pictures.palette, pictures.count]).toEqual([[0, 13, 14, 15], 1]);
    expect(pictures.data[3]).toBe(ground.weights[3]);
    // A palette that holds them is kept: a stroke does not make every tile anew.
    expect(sharePictures(ground, whole, false, [15, 2, 14, 0, 13]).palette).toEqual([15, 2, 14, 0, 13]);
    expect(sharePictures(ground, whole, false, [15, 2, 14, 0, 13]).count).toBe(2);
  });

  it('tell how far they look, and at what', () => {
    const curved = rule('moss', [{ by: 'curvature', band: [0, 1], soft: 0, over: 3 }]);
    expect([
      rulesReach([], 0.5),
      rulesReach([rule('moss', [{ by: 'slope', band: [0, 1], soft: 0 }])], 0.5),
      rulesReach([curved], 0.5),
      rulesReach([{ ...curved, on: false }], 0.5),
    ]).toEqual([0, 1, 6, 0]);
    const shore = rule('moss', [{ by: 'shore', band: [0, 1], soft: 0 }]);
    expect([rulesLookAt([shore], 'waters'), rulesLookAt([shore], 'lifts'), rulesLookAt([curved], 'waters')]).toEqual([true, false, false]);
  });
});

describe('brushes of the ground', () => {
  const ids = surfaces.map((s) => s.id);
  /** Runs dabs as a tool does: the ground is composed after each. */
  const brushed = (
    tiles: Map<string, Int32Array>,
    rules: GroundRule[],
    dab: (buffer: StrokeBuffer, ground: GroundRaster) => void,
    times = 1,
  ): Map<string, Int32Array> => {
    const buffer = beginStroke('', flat.grid);
    const view = { get: (key: string) => buffer.work.get(key) ?? tiles.get(key) } as unknown as ReadonlyMap<string, Int32Array>;
    const ground = made(source({ rules, tiles: view }));
    for (let i = 0; i < times; i++) {
      dab(buffer, ground);
      composeGround(ground, source({ rules, tiles: view }), whole);
    }
    const next = new Map(tiles);
    for (const { key, delta } of endStroke(buffer)) next.set(key, next.has(key) ? addRasters(next.get(key)!, delta) : delta);
    return next;
  };
  const name = (tiles: Map<string, Int32Array>, x: number, z: number, rules: GroundRule[] = []) => groundNameAt(made(source({ rules, tiles })), x, z, false);
  const brush = { radius: 6, strength: 0.8, hardness: 0.5 };

  it('replace makes one surface another, painted or by rule, and leaves the rest', () => {
    const west = [rule('slate', [{ by: 'noise', band: [0, 1], soft: 0, seed: 1, scale: 10 }])];
    const painted = brushed(new Map(), west, (b) => paintDab(b, new Map(), ids, { ...brush, surface: 'moss' }, { x: 20, z: 20, top: false }), 8);
    expect([name(painted, 20, 20, west), name(painted, 40, 40, west)]).toEqual(['moss', 'slate']);
    const gravel = (x: number, z: number) =>
      brushed(
        painted,
        west,
        (b, g) => {
          replaceDab(b, painted, g, { ...brush, surface: 'gravel', from: 'slate' }, { x, z, top: false });
        },
        8,
      );
    expect([name(gravel(40, 40), 40, 40, west), name(gravel(20, 20), 20, 20, west)]).toEqual(['gravel', 'moss']);
    const back = brushed(
      painted,
      west,
      (b, g) => {
        replaceDab(b, painted, g, { ...brush, surface: 'turf', from: 'moss' }, { x: 20, z: 20, top: false });
      },
      8,
    );
    expect(name(back, 20, 20, west)).toBe('turf');
  });

  it('smudge carries ground along the stroke, and does nothing where all is one', () => {
    const painted = brushed(new Map(), [], (b) => paintDab(b, new Map(), ids, { ...brush, surface: 'gravel' }, { x: 20, z: 32, top: false }), 8);
    const load = new Float64Array(16);
    let x = 20;
    const smudged = brushed(
      painted,
      [],
      (b, g) => {
        smudgeDab(b, painted, g, { ...brush, load: load }, { x, z: 32, top: false });
        x += 1.5;
      },
      8,
    );
    expect(groundWeightsAt(made(source({ tiles: painted })), 27.5, 32, false, new Float64Array(16))[2]).toBe(0);
    expect(groundWeightsAt(made(source({ tiles: smudged })), 27.5, 32, false, new Float64Array(16))[2]).toBeGreaterThan(0.2);
    const still = new Float64Array(16);
    const same = brushed(
      new Map(),
      [],
      (b, g) => {
        smudgeDab(b, new Map(), g, { ...brush, load: still }, { x: 40, z: 40, top: false });
      },
      5,
    );
    expect(name(same, 40, 40)).toBe('turf');
  });

  it('fill covers what it is told to, and erases with no surface', () => {
    const fill = (tiles: Map<string, Int32Array>, surface: string | undefined, x1: number) =>
      brushed(tiles, [], (b) => fillPaint(b, tiles, ids, whole, { surface, share: (x) => (x <= x1 ? 1 : 0) }));
    const filled = fill(new Map(), 'moss', 60);
    expect([name(filled, 10, 50), name(filled, 29, 5), name(filled, 32, 5)]).toEqual(['moss', 'moss', 'turf']);
    const part = fill(filled, undefined, 20);
    expect([name(part, 5, 50), name(part, 29, 5)]).toEqual(['turf', 'moss']);
  });
});

describe('why this ground', () => {
  it('lists what lies there from below, with the values and the mix they make', () => {
    const ramp = terrainOf((x) => x / 2);
    const rules = [
      rule('slate', [
        { by: 'slope', band: [20, 90], soft: 4 },
        { by: 'height', band: [0, 50], soft: 0 },
      ]),
      rule('moss', [{ by: 'shore', band: [0, 5], soft: 0 }]),
      rule('gravel', [], { wins: true, share: 0.25 }),
    ];
    const tiles = new Map([[tileKey('moss', 'paint', 0, 0), new Int32Array(TILE_SAMPLES).fill(256)]]);
    const from = source({ terrain: ramp, rules, tiles });
    const why = whyGround(made(from), from, 20, 20, false);
    expect(why.verdict).toBe('slate: slate 56 %, gravel 25 %, moss 19 %');
    expect(why.parts).toEqual([
      { what: 'turf', value: 'first in the list: where nothing else is' },
      { what: 'slate', value: 'slate rule', factor: 1 },
      { what: '· slope', value: '26.6°, in 20 to 90°', factor: 1 },
      { what: '· height', value: '10.0 m, in 0 to 50 m', factor: 1 },
      { what: 'moss', value: 'moss rule', factor: 0 },
      { what: '· from shore', value: 'none here, in 0 to 5 m', factor: 0 },
      { what: 'paint', value: 'moss 25 %', factor: 0.25 },
      { what: 'gravel', value: 'gravel rule, over paint, everywhere', factor: 0.25 },
    ]);
    expect(whyGround(made(from), from, 20, 20, true).verdict).toBe('blockout: bare 100 %');
  });
});
