import { coverReach } from '../growth/cover/coverSpecies';
import { densest } from '../growth/pattern';
import type { Species } from '../level/objects';
import { tanDeg } from '../num/trig';
import { isCover, type Drawable } from './drawable';
import { CASCADES } from './shadows';
import { viewTally, type Tally } from './tally';
import type { Camera } from './camera';
import { frameOf, type Device } from './frame';

/** One thing that is taken from a species to save time. */
export interface FitStep {
  species: string;
  name: string;
  what: 'shadows' | 'cut-off' | 'amount' | 'LODs';
  /** as they are told: metres, or percent of all its densities or of the distance LODs take over at; shadows have none */
  from: number;
  to: number;
  /** ms it saves at the dearest place */
  ms: number;
  /** what one loses of it, in screens of pixels summed over the places */
  seen: number;
}

/** How plants come under a budget, and what is left of the frame. */
export interface Fit {
  steps: FitStep[];
  /** ms at the dearest place, and its name */
  before: { frame: number; place: string };
  after: { frame: number; place: string };
  inside: boolean;
  /** what the species are set to */
  patches: { id: string; set: Partial<Pick<Species, 'shadows' | 'cutoff' | 'amount' | 'swap'>> }[];
}

/** What fitting goes by. */
export interface FitGiven {
  drawables: readonly Drawable[];
  species: readonly Species[];
  places: readonly { name: string; camera: Camera }[];
  device: Device;
  /** between samples of the terrain, metres */
  spacing: number;
  /** ms */
  budget: number;
}

/** Distances plants are left out beyond, the farthest first, metres. */
const CUTOFFS = [400, 300, 220, 160, 120, 90, 70, 50, 40, 30] as const;
/** A step of thinning, and the least that is left. */
const THINNER = 0.85;
const THINNEST = 0.4;
/** A shadow that is gone is missed by so much of what throws it. */
const SHADOW_SEEN = 0.15;
/** LODs take over so much nearer, and no nearer than this; a coarser one is missed by so much of what shows it. */
const NEARER = 0.75;
const NEAREST = 0.4;
const LOD_SEEN = 0.12;
const MOST_STEPS = 80;
/** What saves less than this is not worth a line, ms. */
const LEAST = 0.005;

interface State {
  casts: boolean;
  cutoff: number;
  share: number;
  swap: number;
}

type Place = FitGiven['places'][number];

/** Of a list of matrices an even share. */
function thinned(d: Drawable, share: number): Drawable {
  const count = Math.max(1, Math.round(d.instances * share));
  if (d.holds) return { ...d, instances: count };
  if (!d.places || count >= d.instances) return d;
  const places = new Float32Array(count * 16);
  for (let i = 0; i < count; i++) {
    const from = Math.floor(((i + 0.5) * d.instances) / count);
    places.set(d.places.subarray(from * 16, from * 16 + 16), i * 16);
  }
  return { ...d, instances: count, places };
}

/** Pixels, in screens, that the instances of a species cover about a place, seen all around. */
function covered(list: readonly Drawable[], { camera }: Place, cutoff: number, within = Infinity): number {
  const half = camera.fov > 0 ? tanDeg(camera.fov / 2) : 0;
  let sum = 0;
  for (const { places, radius } of list.filter((d) => !d.holds))
    for (let i = 0; places && i < places.length; i += 16) {
      const d = Math.hypot(places[i + 12] - camera.eye[0], places[i + 13] - camera.eye[1], places[i + 14] - camera.eye[2]);
      if ((cutoff > 0 && d > cutoff) || d > within) continue;
      const high = Math.min(1, radius / (half > 0 ? Math.max(d, 1) * half : camera.halfHeight));
      sum += high * high;
    }
  return sum;
}

const added = (a: Tally, b: Tally): Tally => ({
  draws: a.draws + b.draws,
  triangles: a.triangles + b.triangles,
  vertices: a.vertices + b.vertices,
  instances: a.instances + b.instances,
  overdraw: a.overdraw + b.overdraw,
  bytes: a.bytes + b.bytes,
});

/**
 * Brings what plants cost under a budget at every place: step by step what saves most at the dearest place for what one loses to
 * see: shadows off, left out nearer, thinner, coarser. Nothing but plants is touched.
 */
export function fitPlants(given: FitGiven): Fit {
  const { species, places, budget } = given;
  const work = new Fitting(given);
  const first = work.frames();
  const steps: FitStep[] = [];
  let now = first;
  while (places.length > 0 && Math.max(...now) > budget && steps.length < MOST_STEPS) {
    const at = dearest(now);
    let best: { option: Option; step: FitStep; id: string; score: number } | undefined;
    for (const s of species) {
      for (const option of work.optionsOf(s)) {
        const step = work.stepOf(s, option, { at, now: now[at] });
        if (step.ms < LEAST) continue;
        const score = step.ms / (step.seen + 1e-4);
        if (!best || score > best.score) best = { id: s.id, option, step, score };
      }
    }
    if (!best) break;
    work.take(best.id, best.option);
    steps.push(best.step);
    now = work.frames();
  }
  return work.told(joined(steps), first, now);
}

/** What one kind of step would save of some species, and what one would lose of them to see: asked before it is taken. */
export function whatIf(given: FitGiven, ids: ReadonlySet<string>, what: FitStep['what']): Fit {
  const work = new Fitting(given);
  const first = work.frames();
  const steps: FitStep[] = [];
  let now = first;
  for (const s of given.species) {
    let taken: FitStep | undefined;
    // A cut-off that nothing stands beyond takes nothing: the next one does.
    do {
      const option = ids.has(s.id) ? work.optionsOf(s).find((o) => o.what === what) : undefined;
      if (!option) break;
      const at = dearest(now);
      const step = work.stepOf(s, option, { at, now: now[at] ?? 0 });
      taken = { ...step, from: taken?.from ?? step.from };
      work.take(s.id, option);
      now = work.frames();
    } while (what === 'cut-off' && taken.ms < LEAST);
    if (taken) steps.push(taken);
  }
  return work.told(steps, first, now);
}

const dearest = (list: readonly number[]): number => list.reduce((best, f, i) => (f > list[best] ? i : best), 0);

type Option = Pick<FitStep, 'what' | 'from' | 'to'> & { next: State };

/** Plants as they would be: how each species is, and what the frame costs at each place so. */
class Fitting {
  private readonly own: ReadonlyMap<string, readonly Drawable[]>;
  private readonly reach: ReadonlyMap<string, number>;
  private readonly base: readonly Tally[];
  private readonly states: Map<string, State>;
  private readonly costs: Map<string, readonly Tally[]>;

  constructor(private readonly given: FitGiven) {
    const { drawables, species } = given;
    const isOf = (s: Species, { key }: Drawable) => key.startsWith(`plants/${s.id}/`) || key.startsWith(`cover/${s.id}/`);
    this.own = new Map(species.map((s) => [s.id, drawables.filter((d) => isOf(s, d))]));
    this.reach = new Map(species.map((s) => [s.id, coverReach(s)]));
    this.base = this.tallies(drawables.filter((d) => !species.some((s) => isOf(s, d))));
    this.states = new Map(species.map((s): [string, State] => [s.id, { casts: s.shadows, cutoff: s.cutoff, share: 1, swap: 1 }]));
    this.costs = new Map(species.map((s) => [s.id, this.tallies(this.shown(s.id, this.states.get(s.id)!))]));
  }

  private tallies(list: readonly Drawable[]): Tally[] {
    return this.given.places.map((p) => viewTally(list, p.camera, this.given.spacing).all);
  }

  private shown(id: string, { casts, cutoff, share, swap }: State): Drawable[] {
    return this.own.get(id)!.map((d) => ({
      ...thinned(d, share),
      casts,
      radius: d.radius * swap,
      cutoff: isCover(d) ? (d.cutoff * coverReach({ cutoff })) / this.reach.get(id)! : cutoff,
    }));
  }

  private frameAt(place: number, without?: string, with_?: Tally): number {
    const all = [...this.costs].reduce((sum, [id, of]) => (id === without ? sum : added(sum, of[place])), this.base[place]);
    return frameOf(this.given.device, with_ ? added(all, with_) : all).frame;
  }

  /** ms at each place. */
  frames(): number[] {
    return this.given.places.map((_, i) => this.frameAt(i));
  }

  /** What may be taken from a species next; nothing where none of it is drawn. */
  optionsOf(s: Species): Option[] {
    return this.own.get(s.id)!.length === 0 ? [] : optionsOf(s, this.states.get(s.id)!);
  }

  /** What a step of a species would save and lose. @param at place that is looked at, and what it costs now */
  stepOf(s: Species, { next, ...told }: Option, { at, now }: { at: number; now: number }): FitStep {
    const { places, spacing } = this.given;
    if (places.length === 0) return { species: s.id, name: s.name, ms: 0, seen: 0, ...told };
    const list = this.shown(s.id, next);
    const ms = now - this.frameAt(at, s.id, viewTally(list, places[at].camera, spacing).all);
    const state = this.states.get(s.id)!;
    const before = this.shown(s.id, state);
    const seen = places.reduce((sum, p) => {
      if (told.what === 'shadows') return sum + SHADOW_SEEN * covered(before, p, state.cutoff, CASCADES[CASCADES.length - 1]);
      if (told.what === 'LODs') return sum + LOD_SEEN * covered(before, p, state.cutoff);
      return sum + covered(before, p, state.cutoff) - covered(list, p, next.cutoff);
    }, 0);
    return { species: s.id, name: s.name, ms, seen: Math.max(0, seen), ...told };
  }

  take(id: string, { next }: Option): void {
    this.states.set(id, next);
    this.costs.set(id, this.tallies(this.shown(id, next)));
  }

  told(steps: FitStep[], first: readonly number[], now: readonly number[]): Fit {
    const { places, species, budget } = this.given;
    const end = (list: readonly number[]) => ({ frame: list[dearest(list)] ?? 0, place: places[dearest(list)]?.name ?? '' });
    return { steps, before: end(first), after: end(now), inside: Math.max(0, ...now) <= budget, patches: patchesOf(species, this.states) };
  }
}

/** What may be taken from a species next. */
function optionsOf(s: Species, state: State): Option[] {
  const out: Option[] = [];
  if (state.casts) out.push({ what: 'shadows', from: 1, to: 0, next: { ...state, casts: false } });
  const nearer = CUTOFFS.find((c) => state.cutoff === 0 || c < state.cutoff);
  if (nearer !== undefined) out.push({ what: 'cut-off', from: state.cutoff, to: nearer, next: { ...state, cutoff: nearer } });
  if (state.share * THINNER >= THINNEST)
    out.push({
      what: 'amount',
      from: amountOf(s, state.share) * 100,
      to: amountOf(s, state.share * THINNER) * 100,
      next: { ...state, share: state.share * THINNER },
    });
  const swap = (s.swap ?? 1) * state.swap;
  if (swap * NEARER >= NEAREST)
    out.push({ what: 'LODs', from: Math.round(swap * 100), to: Math.round(swap * NEARER * 100), next: { ...state, swap: state.swap * NEARER } });
  return out;
}

/** So much of its amount: of what there is room for, where its own rule asks for more. */
function amountOf(s: Species, share: number): number {
  const now = s.amount ?? 1;
  const room = s.rule.on && !s.about ? Math.min(1, densest(s.spacing, s.seed) / Math.max(s.density * now, 1e-6)) : 1;
  return share === 1 ? now : Math.round(now * room * share * 1000) / 1000;
}

/** Steps of one kind of a species as one line, in the order they first came. */
function joined(steps: readonly FitStep[]): FitStep[] {
  const out: FitStep[] = [];
  for (const step of steps) {
    const known = out.find((o) => o.species === step.species && o.what === step.what);
    if (known) Object.assign(known, { to: step.to, ms: known.ms + step.ms, seen: known.seen + step.seen });
    else out.push({ ...step });
  }
  return out;
}

function patchesOf(species: readonly Species[], states: ReadonlyMap<string, State>): Fit['patches'] {
  return species.flatMap((s) => {
    const { casts, cutoff, share, swap } = states.get(s.id)!;
    const set: Fit['patches'][number]['set'] = {
      ...(casts === s.shadows ? {} : { shadows: casts }),
      ...(cutoff === s.cutoff ? {} : { cutoff }),
      ...(share === 1 ? {} : { amount: amountOf(s, share) }),
      ...(swap === 1 ? {} : { swap: Math.round((s.swap ?? 1) * swap * 1000) / 1000 }),
    };
    return Object.keys(set).length > 0 ? [{ id: s.id, set }] : [];
  });
}
