import FastPoissonDiskSampling from 'fast-2d-poisson-disk-sampling';
import { blockGrid } from '@rammer/core/block/grid';
import { NO_MESHES } from '@rammer/core/block/placedMesh';
import { CoverRound } from '@rammer/core/cost/coverRound';
import { plantCells } from '@rammer/core/cost/plantCells';
import { wholeRect, type Terrain } from '@rammer/core/earth/compose';
import { COVER_CELL, coverCell, type CoverInput } from '@rammer/core/growth/cover/coverCell';
import { coverSpecies, type CoverSpecies } from '@rammer/core/growth/cover/coverSpecies';
import { GrowthRoom } from '@rammer/core/growth/growthRoom';
import { grow, type GrowthInput } from '@rammer/core/growth/grow';
import { copyOf, drawOf } from '@rammer/core/growth/growCopy';
import { masksOf } from '@rammer/core/growth/masks';
import { packedBytes, packPlants } from '@rammer/core/growth/packedPlants';
import { pattern } from '@rammer/core/growth/pattern';
import type { Plants } from '@rammer/core/growth/plants';
import { growAgain } from '@rammer/core/growth/regrow';
import { hostsOf, ruleAt, spotAt } from '@rammer/core/growth/spot';
import { readyWhere, whereSource } from '@rammer/core/growth/where/index';
import { speciesFrom } from '@rammer/core/growth/shippedSpecies';
import { shippedPlants } from '@rammer/core/kit/plants';
import type { Cover, GroundRule, GrowthWhere, Habitat, Species, Surface } from '@rammer/core/level/objects';
import { gridOf, TILE_SAMPLES, tileKey } from '@rammer/core/level/tiles';
import { randomStream } from '@rammer/core/num/hash';
import { composeGround, makeGround } from '@rammer/core/surface/ground';
import { groundDefaults } from '@rammer/core/surface/surfaces';
import type { Pair, Row } from './measure';

const room = new GrowthRoom();
const SPACING = 1;

/** Hills with three species, each with slope, height, ground and sown masks, and clearances between them. @param tiles along each side, of 32 m */
function input(tiles = 8): GrowthInput {
  const grid = gridOf({ tilesX: tiles, tilesZ: tiles, spacing: 0.5 });
  const heights = Float32Array.from({ length: grid.nx * grid.nz }, (_, i) => 5 * Math.sin((i % grid.nx) / 40) * Math.cos(Math.floor(i / grid.nx) / 50));
  const terrain: Terrain = { grid, heights, noise: new Map() };
  const defaults = groundDefaults();
  const ground = makeGround(
    grid,
    defaults.filter((o): o is Surface => o.kind === 'surface'),
  );
  composeGround(
    ground,
    { terrain, stack: [], tiles: new Map(), waters: [], rules: defaults.filter((o): o is GroundRule => o.kind === 'groundRule') },
    wholeRect(grid),
  );
  const names = ['birch', 'gorse', 'heather'];
  const sownTiles = new Map<string, Int32Array>();
  const sown = Int32Array.from({ length: TILE_SAMPLES }, (_, i) => (i * 7) % 300);
  for (const name of names) for (let z = 0; z < tiles; z++) for (let x = 0; x < tiles; x++) sownTiles.set(tileKey(name, 'sown', x, z), sown);
  const species = names.map((name, i) => ({
    ...speciesFrom({ id: name, name }, name, i, 50 + i),
    spacing: SPACING,
    clearance: 0.4,
    density: 200,
    rule: { on: true, slope: [0, 60] as [number, number], height: [-6, 6] as [number, number], soft: 5, grounds: ['turf', 'slate'] },
  }));
  return { terrain, ground, blocks: blockGrid([]), meshes: NO_MESHES, waters: [], species, assetHeights: new Map(), plants: [], tiles: sownTiles };
}

/** Conditions of six rules, eight kinds of them. */
const CONDITIONS: GrowthWhere[][] = [
  [{ is: { by: 'slope', band: [0, 20], soft: 6 } }, { is: { by: 'curvature', band: [-0.2, 50], soft: 0.2, over: 4 } }],
  [{ is: { by: 'noise', band: [0.4, 1], soft: 0.2, seed: 3, scale: 20 } }, { is: { by: 'height', band: [-3, 6], soft: 2 }, or: true }],
  [{ is: { by: 'marker', band: [10, 200], soft: 4 } }, { is: { by: 'side', band: [0, 90], soft: 30, towards: 180 } }],
  [{ is: { by: 'plants', band: [0, 4], soft: 1, species: 'rule-0' } }],
  [{ is: { by: 'noise', band: [0.5, 1], soft: 0.2, seed: 9, scale: 8 }, not: true }, { is: { by: 'slope', band: [2, 30], soft: 4 } }],
  [],
];

/** The same hills with six rules and eight conditions, the last of them in clusters about the first. */
function ruled(tiles: number): GrowthInput {
  const { tiles: _, ...given } = input(tiles);
  const species = CONDITIONS.map((where, i): Species => ({
    ...speciesFrom({ id: 'heather', name: 'heather' }, `rule-${i}`, i, 70 + i),
    spacing: 1.6,
    clearance: 0.5,
    density: 14,
    rule: { on: true, slope: [0, 60], height: [-6, 6], soft: 5, grounds: [], where },
    ...(i === 5 ? { about: { species: 'rule-0', chance: 0.5, count: [2, 5] as [number, number], spread: 3 } } : {}),
  }));
  return { ...given, tiles: new Map(), species, markers: [{ marker: 'entry', at: [128, 0, 128] }] };
}

/** Asks place by place: each mask and condition for itself, and every plant that stands. @returns how many there are */
function pointByPoint(given: GrowthInput): number {
  const { terrain, ground, species } = given;
  const { grid } = terrain;
  const hosts = hostsOf(given);
  const spot = { height: 0, gradient: 0, top: false };
  const placed: { x: number; z: number }[] = [];
  const grown: Plants[] = [];
  for (const s of species) {
    const source = whereSource(given, grown);
    const masks = masksOf(
      s,
      ground.surfaces.map((o) => o.id),
    );
    const p = pattern(s.seed);
    const period = p.side * s.spacing;
    const mine: { x: number; z: number }[] = [];
    for (let cz = 0; cz * period < grid.depth; cz++)
      for (let cx = 0; cx * period < grid.width; cx++) {
        const copy = copyOf(s.seed, cx, cz);
        for (let slot = 0; slot < p.count; slot++) {
          const [x, z] = [cx * period + p.x[slot] * s.spacing, cz * period + p.z[slot] * s.spacing];
          if (x >= grid.width || z >= grid.depth) continue;
          const [ix, iz] = [Math.round(x / grid.spacing), Math.round(z / grid.spacing)];
          const share =
            ruleAt(given, masks, spotAt(given, hosts, x, z, spot), x, z) * readyWhere(s.rule.where!, source, { x0: ix, z0: iz, x1: ix, z1: iz }).share(x, z);
          if (drawOf(copy, p.rank[slot]) >= (s.density / 100 / (p.count / (period * period))) * share) continue;
          if (!placed.some((o) => (o.x - x) ** 2 + (o.z - z) ** 2 < s.clearance ** 2)) mine.push({ x, z });
        }
      }
    placed.push(...mine);
    grown.push({
      species: s.id,
      count: mine.length,
      place: Float32Array.from(mine.flatMap(({ x, z }) => [x, 0, z, 0, 1, 1, 0, 0, 1])),
      look: new Uint8Array(mine.length),
      id: new Int32Array(mine.length * 3),
      hand: [],
    });
  }
  return placed.length;
}

/** A kilometre with five species and a habitat, as a level has them; and the same with a dab of a brush of 6 m on it. */
function kilometre(): [GrowthInput, GrowthInput] {
  const grid = gridOf({ tilesX: 16, tilesZ: 16, spacing: 1 });
  const heights = Float32Array.from({ length: grid.nx * grid.nz }, (_, i) => 14 * Math.sin((i % grid.nx) / 80) * Math.cos(Math.floor(i / grid.nx) / 100));
  const defaults = groundDefaults();
  const surfaces = defaults.filter((o): o is Surface => o.kind === 'surface');
  const rules = defaults.filter((o): o is GroundRule => o.kind === 'groundRule');
  const names = ['birch', 'gorse', 'bracken', 'heather', 'tussock grass'];
  const species = names.map((name, i): Species => ({
    ...speciesFrom({ id: name, name }, `s${i}`, i, 90 + i),
    rule: { on: i < 3, slope: [0, 34], height: [-30, 30], soft: 5, grounds: [] },
  }));
  const heath: Habitat = {
    id: 'heath',
    version: 1,
    kind: 'habitat',
    name: 'heath',
    order: 0,
    area: 'rest',
    outlines: [],
    soft: 0,
    rules: [
      {
        id: 'low',
        name: 'low',
        on: true,
        density: 18,
        mix: [
          { species: 's3', weight: 1 },
          { species: 's4', weight: 1 },
        ],
        where: [{ is: { by: 'noise', band: [0.3, 1], soft: 0.2, seed: 5, scale: 30 } }],
      },
    ],
    on: true,
  };
  const of = (h: Float32Array): GrowthInput => {
    const terrain: Terrain = { grid, heights: h, noise: new Map() };
    const ground = makeGround(grid, surfaces);
    composeGround(ground, { terrain, stack: [], tiles: new Map(), waters: [], rules }, wholeRect(grid));
    return {
      terrain,
      ground,
      blocks: blockGrid([]),
      meshes: NO_MESHES,
      waters: [],
      species,
      habitats: [heath],
      assetHeights: new Map(),
      plants: [],
      tiles: new Map(),
    };
  };
  const dabbed = heights.slice();
  for (let z = -6; z <= 6; z++) for (let x = -6; x <= 6; x++) dabbed[(500 + z) * grid.nx + 500 + x] += 0.6 * Math.max(0, 1 - Math.hypot(x, z) / 6);
  return [of(heights), of(dabbed)];
}

/** Growth in one thread against a library's Poisson disks at equal spacing, accepted plants a second. */
export function growthPairs(): (() => Pair)[] {
  return [
    () => {
      const given = input();
      for (const s of given.species) pattern(s.seed);
      const ours = grow(given, undefined, undefined, room).reduce((n, p) => n + p.count, 0);
      const side = 96;
      const sample = () => new FastPoissonDiskSampling({ shape: [side, side], radius: SPACING, tries: 30 }, randomStream(5)).fill().length;
      const theirs = sample();
      // Both fill in their own time; the baseline's work is scaled to the same number of plants by repeating it.
      const times = Math.max(1, Math.round(ours / theirs));
      return {
        name: 'growth/sample',
        target: 10,
        pairs: 7,
        note:
          `3 rules, 4 masks, clearances kept, ${ours} plants accepted on 256 m, against ` +
          `fast-2d-poisson-disk-sampling (tries 30) at ${SPACING} m, ${theirs} points, ${times} times: the same number of plants`,
        ours: () => {
          grow(given, undefined, undefined, room);
        },
        baseline: () => {
          for (let i = 0; i < times; i++) sample();
        },
      };
    },
    () => {
      const given = ruled(32);
      // One of sixteen squares: place by place all of it takes minutes.
      const part = ruled(8);
      const count = grow(given, undefined, undefined, room).reduce((n, p) => n + p.count, 0);
      return {
        name: 'growth/rules',
        target: 20,
        pairs: 7,
        times: 16,
        note:
          `six rules, eight conditions, one in clusters, ${count} plants on 1024 m, against asking place by place, ` +
          'every condition and every plant for itself (without the clusters), on 256 m of it, sixteen times',
        ours: () => {
          grow(given, undefined, undefined, room);
        },
        baseline: () => {
          pointByPoint({ ...part, species: part.species.slice(0, 5) });
        },
      };
    },
    () => {
      const [before, after] = kilometre();
      // As the scene tells it: the dab with the samples about it whose ground is composed anew.
      const touched = { x0: 490, z0: 490, x1: 510, z1: 510 };
      const last = { input: before, grown: grow(before, undefined, undefined, room) };
      const count = last.grown.reduce((n, p) => n + p.count, 0);
      return {
        name: 'growth/regrow',
        target: 20,
        pairs: 7,
        note: `a dab of 6 m on 1024 m, five species and a habitat, ${count} plants: what changed is looked for and grown, against growing all`,
        ours: () => {
          growAgain(last, after, [], room, touched);
        },
        baseline: () => {
          grow(after, undefined, undefined, room);
        },
      };
    },
    () => {
      const [given] = kilometre();
      const covers = coveringGrass(given);
      const input: CoverInput = { ...given, hosts: hostsOf(given) };
      const side = given.terrain.grid.width / COVER_CELL;
      const whole = () => {
        let count = 0;
        for (let cz = 0; cz < side; cz++) for (let cx = 0; cx < side; cx++) for (const of of covers) count += coverCell(input, of, cx, cz).count;
        return count;
      };
      const walked = () => {
        const round = new CoverRound(input, covers, grassAssets());
        let count = 0;
        for (let x = 400; x <= 500; x += 2) count = round.around([x, 3, 512 + 20 * Math.sin(x / 15)]).cells.reduce((n, c) => n + c.count, 0);
        return count;
      };
      return {
        name: 'growth/cover',
        target: 10,
        pairs: 7,
        note: `two grasses on 1024 m, drawn 40 m far: made round an eye that walks 100 m (${walked()} about it), against all ${whole()} of it`,
        ours: () => {
          walked();
        },
        baseline: () => {
          whole();
        },
      };
    },
  ];
}

/** Two grasses on every surface. */
function coveringGrass({ species, ground, terrain }: GrowthInput): CoverSpecies[] {
  const grass = species.slice(3).map((s): Species => ({ ...s, cutoff: 40 }));
  const covers = ground.surfaces.flatMap((surface) =>
    grass.map((s, order): Cover => ({
      id: `${surface.id}-${s.id}`,
      version: 1,
      kind: 'cover',
      name: s.name,
      order,
      surface: surface.id,
      species: s.id,
      density: 150,
      on: true,
    })),
  );
  return coverSpecies(covers, grass, { surfaces: ground.surfaces.map((s) => s.id), heights: new Map(), origin: [terrain.grid.ox, terrain.grid.oz] });
}

const grassAssets = () => new Map(shippedPlants().map((a) => [a.name, a]));

/** What a plant takes while nobody looks at it: what growing left of it, and its place in the cells it is drawn in. */
export function growthRows(): Row[] {
  const [given] = kilometre();
  const grown = grow(given, undefined, undefined, room);
  const cells = plantCells(grown, new Map(given.species.map((s) => [s.id, s])), grassAssets());
  const count = grown.reduce((n, p) => n + p.count, 0);
  const left = grown.reduce((n, p) => n + packedBytes(packPlants(p)), 0);
  // Of those whose meshes are among these; wider cells hold them once more and take nothing.
  const held = cells.reduce((n, c) => n + (c.holds ? 0 : c.count), 0);
  const placed = cells.reduce((n, c) => n + c.bytes, 0) / held;
  const ours = left / count + placed;
  // As it was while every cell kept the matrices of its plants.
  const baseline = 49 + 64 + 1 + 8;
  return [
    {
      name: 'growth/memory',
      unit: 'B',
      target: baseline / 32,
      ours,
      baseline,
      ratio: baseline / ours,
      low: baseline / ours,
      high: baseline / ours,
      note: `at rest, of ${count}: ${(left / count).toFixed(1)} bytes grown, ${placed.toFixed(1)} in cells; against its matrix kept in each cell`,
    },
  ];
}
