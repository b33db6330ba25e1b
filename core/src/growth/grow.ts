import type { BlockGrid } from '../block/grid';
import type { MeshGrid } from '../block/placedMesh';
import type { Rect, Terrain } from '../earth/compose';
import { grownRect, wholeRect } from '../earth/rect';
import type { WaterBody } from '../earth/water';
import type { Habitat, Lift, Marker, PlantObject, Species } from '../level/objects';
import type { Tiles } from '../level/tiles';
import { TooMuch } from '../num/tooMuch';
import { clamp } from '../num/vec';
import type { GroundRaster } from '../surface/ground';
import { Ceiling } from './ceiling';
import { growAbout } from './growAbout';
import { growCopy, type Sowing } from './growCopy';
import { Growing, handSeed } from './growing';
import { holeOf, type Hole } from './holes';
import { habitatAreas } from './habitatArea';
import { meshShares } from './meshes';
import { pattern } from './pattern';
import { PLANT_STRIDE, type Plants } from './plants';
import { chanceOf, readyPass, together, type Judge, type PassChance } from './passChance';
import { joinedPlants, parentsOf, passesOf, type Grown, type Pass } from './passes';
import { whereSource, type Outlined, type Walking } from './where';
import { slopeUnder } from './slopeUnder';
import { hostsOf } from './spot';
import { GrowthRoom } from './growthRoom';
import { room, standing, type Standing } from './standing';
import { reliefOf, verdictsOf, type Relief } from './verdicts';

/** What plants grow from. */
export interface GrowthInput {
  terrain: Terrain;
  ground: GroundRaster;
  blocks: BlockGrid;
  meshes: MeshGrid;
  waters: readonly WaterBody[];
  /** in their order; earlier ones take their place first */
  species: readonly Species[];
  /** height of each species' asset, metres, by the id of the asset object */
  assetHeights: ReadonlyMap<string, number>;
  /** half of what each is wide, likewise: where a rule goes by crowns */
  assetWidths?: ReadonlyMap<string, number>;
  /** those that are on, in their order */
  habitats?: readonly Habitat[];
  /** set by hand */
  plants: readonly PlantObject[];
  /** what was sown, and where a rule goes by what weathering left, that */
  tiles: Tiles;
  /** where a rule goes by ways or other lifts: those the terrain is composed from, lowest first */
  stack?: readonly Lift[];
  /** where a rule goes by markers */
  markers?: readonly Pick<Marker, 'at' | 'marker'>[];
  /** where a rule goes by doorways: their middles in plan, metres */
  doorways?: readonly (readonly [x: number, z: number])[];
  /** where a rule goes by what is drawn: play bounds and habitats' outlines */
  outlines?: readonly Outlined[];
  /** where a rule goes by where one walks: the level's body */
  walker?: Walking;
  /** the most plants of all species on 100 m2; no end where absent */
  ceiling?: number;
}

/** Share of the level within the clearances of what stands there already from which to look for room comes first. */
const CROWDED = 0.2;

function byRadius(holes: readonly Hole[]): Map<number, Hole[]> {
  const found = new Map<number, Hole[]>();
  for (const h of holes) (found.get(h.radius) ?? found.set(h.radius, []).get(h.radius)!).push(h);
  return found;
}

/** The most plants a level grows: what no game draws, and what a browser still holds. */
export const MOST_PLANTS = 2_000_000;

/** What growing goes by while it is under way. */
export interface GrowthRun {
  input: GrowthInput;
  passes: readonly Pass[];
  judge: Judge;
  relief: Relief;
  /** what has its place: by hand first, then pass by pass */
  kept: { owner: number; clearance: number; standing: Standing }[];
  /** names of plants of each species that were moved by hand, and where hands took some away */
  moved: ReadonlyMap<string, ReadonlySet<string>>;
  holes: ReadonlyMap<string, readonly Hole[]>;
  /** set by hand, by species */
  handOf: ReadonlyMap<string, readonly PlantObject[]>;
  /** species that several passes grow by one pattern, and the chances of those that have grown */
  shared: ReadonlySet<number>;
  chances: Map<number, PassChance[]>;
  /** all that grew, pass by pass */
  list: Plants[];
  grown: Grown[];
  room: GrowthRoom;
  /** side of a cell that what stands is sorted by, metres */
  cell: number;
}

/** A part of the level in plan, metres. */
export type Part = Sowing['part'];

/**
 * Makes ready what growing goes by; what is set by hand has its place.
 *
 * @param only samples outside which nothing is looked at
 */
export function beginGrowth(input: GrowthInput, only: Rect | undefined, growing: GrowthRoom): GrowthRun {
  const { width, depth } = input.terrain.grid;
  // Of a part there is little to sort: few cells are quicker to clear than many.
  const cell = only ? 16 : clamp(2 * Math.max(...input.species.map((s) => s.clearance), 0.25), 0.5, 16);
  const handOf = new Map<string, PlantObject[]>();
  const moved = new Map<string, Set<string>>();
  const holes = new Map<string, Hole[]>();
  const speciesById = new Map(input.species.map((s) => [s.id, s]));
  for (const p of input.plants) {
    const of = speciesById.get(p.species);
    const hole = of && holeOf(p, of);
    if (hole) (holes.get(p.species) ?? holes.set(p.species, []).get(p.species)!).push(hole);
    else if (p.from) (moved.get(p.species) ?? moved.set(p.species, new Set()).get(p.species)!).add(p.from);
    if (!p.gone) (handOf.get(p.species) ?? handOf.set(p.species, []).get(p.species)!).push(p);
  }
  // What is set by hand has its place before anything grows.
  const kept: GrowthRun['kept'] = [];
  input.species.forEach((s, owner) => {
    const hand = handOf.get(s.id);
    if (hand)
      kept.push({
        owner,
        clearance: s.clearance,
        standing: standing({ place: Float32Array.from(hand.flatMap((p) => p.at)), stride: 3, count: hand.length }, { width, depth, cell }),
      });
  });
  const passes = passesOf(input.species, input.habitats);
  const list: Plants[] = [];
  const source = whereSource(input, list);
  const areas = habitatAreas(input.habitats ?? [], source, only ? grownRect(only, 1, input.terrain.grid) : wholeRect(input.terrain.grid));
  return {
    input,
    passes,
    judge: {
      input,
      hosts: hostsOf(input),
      surfaces: input.ground.surfaces.map((s) => s.id),
      source,
      areas: new Map((input.habitats ?? []).map((h, i) => [h.id, areas[i]])),
      rect: only,
    },
    relief: reliefOf(input.terrain, input.ground, only),
    kept,
    moved,
    holes,
    handOf,
    shared: sharedSpecies(passes),
    chances: new Map(),
    list,
    grown: [],
    room: growing,
    cell,
  };
}

/**
 * Grows one pass in a part of the level, after those before it.
 *
 * @param tell is told how many there are of it so far
 */
export function growPass(run: GrowthRun, pass: Pass, part: Part, tell: (count: number) => void = () => {}): Growing {
  const { input, judge, relief, kept, holes, moved, chances, cell, room: growing } = run;
  const { width, depth, ox, oz } = input.terrain.grid;
  const { species, index } = pass;
  const out = new Growing(species.id, Math.ceil(((part.x1 - part.x0) * (part.z1 - part.z0) * Math.min(species.density, 100)) / 100), growing);
  const ready = readyPass(judge, pass);
  const { sown, masks } = ready;
  if (species.density <= 0 || (!species.rule.on && !sown.any)) return out;
  const p = pattern(species.seed);
  // What was set by hand, and what grew by another rule, keeps the spacing to its own kind; the pattern has kept it between the others.
  const others = kept.map((k) => ({ standing: k.standing, keep: k.owner === index ? species.spacing : Math.max(species.clearance, k.clearance) }));
  for (const [radius, list] of byRadius(holes.get(species.id) ?? []))
    others.push({
      standing: standing({ place: Float32Array.from(list.flatMap((h) => [h.x, 0, h.z])), stride: 3, count: list.length }, { width, depth, cell }),
      keep: radius,
    });
  const period = p.side * species.spacing;
  const chance = chanceOf(judge, ready);
  const earlier = chances.get(index) ?? chances.set(index, []).get(index)!;
  const sowing: Sowing = {
    input,
    room: growing,
    species,
    pattern: p,
    masks,
    sown,
    hosts: judge.hosts,
    verdicts: verdictsOf(masks, relief, judge.hosts),
    where: ready.where,
    part,
    scale: chance.scale,
    most: (species.ceiling ?? Infinity) / 100 / (p.count / (period * period)),
    ...(earlier.length > 0 ? { before: together(earlier) } : {}),
    ...(ready.box ? { box: ready.box } : {}),
    salt: pass.salt,
    meshes: meshShares(species, input.assetHeights),
    ...(species.leanToSlope ? { slopeAt: slopeUnder(input, judge.hosts) } : {}),
    gone: moved.get(species.id),
    others,
    crowded: others.reduce((sum, o) => sum + (o.standing.at.length / 2) * Math.PI * o.keep * o.keep, 0) > CROWDED * width * depth,
  };
  if (species.about) growAbout(sowing, parentsOf(pass, run.grown), out);
  else {
    for (let cz = Math.floor((part.z0 + oz) / period); cz * period - oz < part.z1; cz++) {
      for (let cx = Math.floor((part.x0 + ox) / period); cx * period - ox < part.x1; cx++) {
        growCopy(sowing, cx, cz, out);
        tell(out.count);
      }
    }
    if (run.shared.has(index)) earlier.push(chance);
  }
  tell(out.count);
  return out;
}

/**
 * What a pass grew has its place from now on, and what is set by hand of its species is counted with it.
 *
 * @param near those of them that may be in the way of others, as in `Plants.place`; all where absent
 */
export function keepPass(run: GrowthRun, pass: Pass, out: Growing, near = out.place.subarray(0, out.count * PLANT_STRIDE)): Plants {
  const { species } = pass;
  const { width, depth } = run.input.terrain.grid;
  const place = run.grown.length;
  if (place < run.passes.length - 1)
    run.kept.push({
      owner: pass.index,
      clearance: species.clearance,
      standing: standing(
        { place: near, stride: PLANT_STRIDE, count: near.length / PLANT_STRIDE },
        { width, depth, cell: run.cell },
        (run.room.sorted[place] ??= room()),
      ),
    });
  // Set by hand it is of no rule of a habitat.
  for (const h of pass.key === '' ? (run.handOf.get(species.id) ?? []) : [])
    out.addHand(h, handSeed(species, h.id), species, meshShares(species, run.input.assetHeights));
  const plants = out.done();
  run.grown.push({ pass, plants });
  run.list.push(plants);
  return plants;
}

/**
 * Grows every species: candidates of its toroidal pattern, kept where their own fixed random number is
 * under the chance there, and where nothing earlier stands too near. Spacing comes first and masks
 * after it, so that no edge of a mask, stroke or tile ever brings two plants closer than promised.
 *
 * chance = density / 100 * (rule + sown) / (plants a square metre the pattern holds at this spacing).
 *
 * @param only samples outside which nothing is looked at: a part for a preview
 * @param most plants there may be
 * @param growing room to grow in, for who grows again and again
 * @throws TooMuch where there would be more
 */
export function grow(input: GrowthInput, only?: Rect, most = MOST_PLANTS, growing = new GrowthRoom()): Plants[] {
  const { width, depth, spacing: sample } = input.terrain.grid;
  const part = only ? { x0: only.x0 * sample, z0: only.z0 * sample, x1: only.x1 * sample, z1: only.z1 * sample } : { x0: 0, z0: 0, x1: width, z1: depth };
  const run = beginGrowth(input, only, growing);
  const ceiling = input.ceiling === undefined ? undefined : new Ceiling(input.terrain.grid, input.ceiling);
  for (const list of ceiling ? run.handOf.values() : []) for (const p of list) ceiling!.add(p.at[0], p.at[2]);
  let before = 0;
  for (const pass of run.passes) {
    const out = growPass(run, pass, part, (count) => tooMany(before + count, most, pass));
    if (ceiling) out.over = ceiling.limit(out, pass.species);
    before += out.count;
    keepPass(run, pass, out);
  }
  return joinedPlants(input.species, run.grown);
}

/** @throws TooMuch where there are more than there may be */
export function tooMany(count: number, most: number, { species }: Pass): void {
  if (count > most)
    throw new TooMuch(`more than ${most} plants would grow here, of ${species.name} and those before it: lower a density, or let it grow in fewer places`);
}

/** Species that more than one pass grows by a pattern. */
function sharedSpecies(passes: readonly Pass[]): ReadonlySet<number> {
  const seen = new Map<number, number>();
  for (const p of passes) if (!p.species.about) seen.set(p.index, (seen.get(p.index) ?? 0) + 1);
  return new Set([...seen].filter(([, n]) => n > 1).map(([index]) => index));
}
