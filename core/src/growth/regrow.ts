import type { Bounds } from '../block/solid';
import type { Rect } from '../earth/compose';
import { wholeRect } from '../earth/rect';
import type { GrowthCondition } from '../level/objects';
import { beginGrowth, grow, growPass, keepPass, MOST_PLANTS, tooMany, type GrowthInput, type GrowthRun, type Part } from './grow';
import { isIn } from './growCopy';
import { growthDirt, united, type Touched } from './growthDirt';
import { habitatAreas } from './habitatArea';
import type { GrowthRoom } from './growthRoom';
import { grownParts, joinedPlants, parentsOf, type Pass } from './passes';
import { pattern } from './pattern';
import { PLANT_STRIDE, type Plants } from './plants';
import { whereKinds } from './where';
import { MOST_CROWN } from './where/canopy';
import { standing } from './standing';

/** So much more than what changed is looked at, metres, before all grows again instead. */
const BESIDE = 48;

/** A part grown by metres on every side. */
const wider = ({ x0, z0, x1, z1 }: Part, by: number): Part => ({ x0: x0 - by, z0: z0 - by, x1: x1 + by, z1: z1 + by });
const holds = (a: Part, b: Part): boolean => a.x0 <= b.x0 && a.z0 <= b.z0 && a.x1 >= b.x1 && a.z1 >= b.z1;

/** How far off a condition looks at the ground, metres; nothing where it looks anywhere. What it looks at besides has not changed. */
function reachOf(is: GrowthCondition, spacing: number): number | undefined {
  switch (is.by) {
    case 'slope':
    case 'height':
    case 'side':
    case 'noise':
    case 'route':
    case 'plants':
    case 'canopy':
    case 'marker':
    case 'block':
    case 'piece':
    case 'doorway':
    case 'outline':
      return 2 * spacing;
    case 'curvature':
      return is.over + 3 * spacing;
    default:
      return undefined;
  }
}

/**
 * Grows again what a change touches, and leaves all else as it stands: bit for bit what growing everything gives.
 *
 * @param was the plants as they stood, of the same species, habitats and hands' seeds
 * @param dirty where heights, ground, what stands, what is sown or set by hand changed, metres
 * @returns nothing where the change may reach anywhere: then all has to grow again
 * @throws TooMuch where there would be more plants than a level grows
 */
export function regrow(input: GrowthInput, was: readonly Plants[], dirty: Part, growing: GrowthRoom): Plants[] | undefined {
  const { grid } = input.terrain;
  // Whole squares are full or not: what is over hangs on all of it.
  if (input.ceiling !== undefined) return undefined;
  const near = wider(dirty, BESIDE);
  // What keeps others away from what is looked at.
  const around = wider(near, Math.max(...input.species.map((s) => Math.max(s.clearance, s.spacing)), 0) + 1);
  const run = beginGrowth(input, samplesOf(near, grid), growing);
  const old = grownParts(run.passes, was);
  const changed: (Part | undefined)[] = [];
  let before = 0;
  for (const [at, pass] of run.passes.entries()) {
    const part = partOf(run, pass, dirty, changed);
    if (!part) return undefined;
    const { plants } = old[at];
    const stood = plants.count - handsIn(plants);
    const whole = pass.species.about !== undefined;
    if (whole && !meets(run, pass, part)) {
      take(run, pass, plants, stood, around);
      changed.push(undefined);
    } else if (!whole && !holds(near, part)) return undefined;
    else {
      const all = { x0: 0, z0: 0, x1: grid.width, z1: grid.depth };
      // Those about others take their places one after the other over the whole level.
      const out = growPass(whole ? everywhere(run) : run, pass, whole ? all : part);
      const dropped: number[] = [];
      if (!whole) {
        const [first, end] = rowsIn(plants, stood, pass, part, grid.oz);
        for (let i = first; i < end; i++) if (isIn(part, plants.place[i * PLANT_STRIDE], plants.place[i * PLANT_STRIDE + 2])) dropped.push(i);
      }
      changed.push(difference(plants, whole ? Array.from({ length: stood }, (_, i) => i) : dropped, out));
      if (!whole) out.merge(plants, stood, dropped);
      keepPass(run, pass, out, nearTo(out, around, rowsIn(out, out.count, pass, around, grid.oz)));
    }
    before += run.list[at].count;
    tooMany(before, MOST_PLANTS, pass);
  }
  return joinedPlants(input.species, run.grown);
}

const samplesOf = ({ x0, z0, x1, z1 }: Part, grid: GrowthInput['terrain']['grid']): Rect => {
  const whole = wholeRect(grid);
  return {
    x0: Math.max(whole.x0, Math.floor(x0 / grid.spacing)),
    z0: Math.max(whole.z0, Math.floor(z0 / grid.spacing)),
    x1: Math.min(whole.x1, Math.ceil(x1 / grid.spacing)),
    z1: Math.min(whole.z1, Math.ceil(z1 / grid.spacing)),
  };
};

/** The same growth, asked anywhere: with all that stands in the way. */
function everywhere(run: GrowthRun): GrowthRun {
  const { width, depth } = run.input.terrain.grid;
  const hands = run.kept.slice(0, run.kept.length - run.grown.length);
  const grown = run.grown.map(({ pass, plants: { place, count } }) => ({
    owner: pass.index,
    clearance: pass.species.clearance,
    standing: standing({ place, stride: PLANT_STRIDE, count }, { width, depth, cell: run.cell }),
  }));
  const habitats = run.input.habitats ?? [];
  const areas = habitatAreas(habitats, run.judge.source, wholeRect(run.input.terrain.grid));
  return { ...run, judge: { ...run.judge, areas: new Map(habitats.map((h, i) => [h.id, areas[i]])), rect: undefined }, kept: [...hands, ...grown] };
}

/** How many of the last of some plants are set by hand. */
function handsIn({ id, count }: Plants): number {
  let n = 0;
  while (n < count && id[(count - n) * 3 - 1] < 0) n++;
  return n;
}

const nameOf = ({ id }: Pick<Plants, 'id'>, i: number): string => `${id[i * 3]},${id[i * 3 + 1]},${id[i * 3 + 2]}`;

/** Where a pass may have others than it had: what changed as far as its conditions look, and what earlier ones keep free or are asked for. */
function partOf({ input, passes }: GrowthRun, pass: Pass, dirty: Part, changed: readonly (Part | undefined)[]): Part | undefined {
  const { species, index, habitat } = pass;
  const { spacing } = input.terrain.grid;
  const asked = [...(species.rule.where ?? []), ...(input.habitats ?? []).flatMap((h) => (habitat ? (h.where ?? []) : []))];
  let reach = 2 * spacing;
  for (const { is } of asked) {
    const far = reachOf(is, spacing);
    if (far === undefined) return undefined;
    reach = Math.max(reach, far);
  }
  let part = wider(dirty, reach);
  changed.forEach((box, j) => {
    if (!box) return;
    const other = passes[j];
    const keeps = other.index === index ? species.spacing : Math.max(species.clearance, other.species.clearance);
    const looks = asked.map(({ is }) => (is.by === 'canopy' ? MOST_CROWN : is.by === 'plants' && is.species === other.species.id ? is.band[1] + is.soft : 0));
    part = united(part, wider(box, Math.max(keeps, ...looks) + 0.01));
  });
  // Nothing grows beside the level.
  const { width, depth } = input.terrain.grid;
  return { x0: Math.max(0, part.x0), z0: Math.max(0, part.z0), x1: Math.min(width, part.x1), z1: Math.min(depth, part.z1) };
}

/** Whether any plant that a pass grows about stands near enough to a part. */
function meets({ grown }: GrowthRun, pass: Pass, part: Part): boolean {
  const near = wider(part, pass.species.about!.spread + 0.01);
  return parentsOf(pass, grown).some(({ place, count }) => {
    for (let i = 0; i < count; i++) if (isIn(near, place[i * PLANT_STRIDE], place[i * PLANT_STRIDE + 2])) return true;
    return false;
  });
}

/** Bounds of what went and of what came. @param were those that stood where others were looked for */
function difference(plants: Plants, were: readonly number[], out: Pick<Plants, 'place' | 'id' | 'count'>): Part | undefined {
  let box: Part | undefined;
  const add = ({ place }: Pick<Plants, 'place'>, i: number) => {
    const [x, z] = [place[i * PLANT_STRIDE], place[i * PLANT_STRIDE + 2]];
    box = united(box, { x0: x, z0: z, x1: x, z1: z });
  };
  const stood = new Set(were.map((i) => nameOf(plants, i)));
  const now = new Set<string>();
  for (let i = 0; i < out.count; i++) {
    const name = nameOf(out, i);
    now.add(name);
    if (!stood.has(name)) add(out, i);
  }
  for (const i of were) if (!now.has(nameOf(plants, i))) add(plants, i);
  return box;
}

/** A pass that stands as it stood. */
function take(run: GrowthRun, pass: Pass, plants: Plants, stood: number, around: Part): void {
  const out = growPass(run, { ...pass, species: { ...pass.species, density: 0 } }, { x0: 0, z0: 0, x1: 0, z1: 0 });
  out.merge(plants, stood, []);
  keepPass(run, pass, out, nearTo(out, around, rowsIn(out, out.count, pass, around, run.input.terrain.grid.oz)));
}

/** Among which of the first `count` plants of a pass those in a part are: they lie by rows of copies of the pattern, from north to south. */
function rowsIn({ id }: Pick<Plants, 'id'>, count: number, { species }: Pass, part: Part, oz: number): [first: number, end: number] {
  // What stands about others has names of its own, in no such order.
  if (species.about) return [0, count];
  const period = pattern(species.seed).side * species.spacing;
  const firstOf = (row: number): number => {
    let [low, high] = [0, count];
    while (low < high) {
      const i = (low + high) >> 1;
      if (id[i * 3 + 1] < row) low = i + 1;
      else high = i;
    }
    return low;
  };
  // A place is kept in single precision: it may lie a little beyond its row.
  return [firstOf(Math.floor((part.z0 + oz - 0.01) / period)), firstOf(Math.floor((part.z1 + oz + 0.01) / period) + 1)];
}

/** Those of some plants that stand in a part, as in `Plants.place`. */
function nearTo({ place }: Pick<Plants, 'place'>, part: Part, [first, end]: readonly [number, number]): Float32Array {
  const near: number[] = [];
  for (let i = first; i < end; i++) if (isIn(part, place[i * PLANT_STRIDE], place[i * PLANT_STRIDE + 2])) near.push(i);
  const out = new Float32Array(near.length * PLANT_STRIDE);
  near.forEach((i, k) => out.set(place.subarray(i * PLANT_STRIDE, (i + 1) * PLANT_STRIDE), k * PLANT_STRIDE));
  return out;
}

/** What was grown last, and from what. */
export interface LastGrowth {
  input: GrowthInput;
  grown: Plants[];
}

/**
 * Grows from what is given: what a change touched since the last time where that is known, else everything.
 *
 * @param moved where blocks and pieces came, went or changed since
 * @param touched where heights and ground may have
 * @throws TooMuch where there would be more plants than a level grows
 */
export function growAgain(last: LastGrowth | undefined, input: GrowthInput, moved: readonly Bounds[], growing: GrowthRoom, touched?: Touched): Plants[] {
  // How far a block is, or a piece, and where one walks, is another thing over the whole level where one moves.
  const kinds = moved.length > 0 ? whereKinds(input.species, input.habitats) : undefined;
  const dirt = last && !(['block', 'piece', 'walk'] as const).some((k) => kinds?.has(k)) ? growthDirt(last.input, input, touched) : 'all';
  const part =
    dirt === 'all' ? 'all' : moved.reduce<Part | undefined>((sum, { min, max }) => united(sum, { x0: min[0], z0: min[2], x1: max[0], z1: max[2] }), dirt);
  if (part === undefined) return last!.grown;
  return (part === 'all' ? undefined : regrow(input, last!.grown, part, growing)) ?? grow(input, undefined, undefined, growing);
}
