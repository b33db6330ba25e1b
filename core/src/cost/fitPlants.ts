import { coverReach } from '../growth/cover/coverSpecies';
import { densest } from '../growth/pattern';
import type { Species } from '../level/objects';
import { tanDeg } from '../num/trig';
import { CASCADES, isCover, viewTally, type Drawable, type Tally } from './batches';
import type { Camera } from './camera';
import { frameOf, type Device } from './frame';

/** One thing that is taken from a species to save time. */
export interface FitStep {
  species: string;
  name: string;
  what: 'shadows' | 'cut-off' | 'amount';
  /** as they are told: metres, or percent of all its densities; shadows have none */
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
  patches: { id: string; set: Partial<Pick<Species, 'shadows' | 'cutoff' | 'amount'>> }[];
}

interface Given {
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
const MOST_STEPS = 80;
/** What saves less than this is not worth a line, ms. */
const LEAST = 0.005;

interface State {
  casts: boolean;
  cutoff: number;
  share: number;
}

type Place = Given['places'][number];

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
 * see: shadows off, left out nearer, thinner. Nothing but plants is touched.
 */
export function fitPlants({ drawables, species, places, device, spacing, budget }: Given): Fit {
  const isOf = (s: Species, { key }: Drawable) => key.startsWith(`plants/${s.id}/`) || key.startsWith(`cover/${s.id}/`);
  const own = new Map(species.map((s) => [s.id, drawables.filter((d) => isOf(s, d))]));
  const rest = drawables.filter((d) => !species.some((s) => isOf(s, d)));
  const reach = new Map(species.map((s) => [s.id, coverReach(s)]));
  const base = places.map((p) => viewTally(rest, p.camera, spacing).all);
  const states = new Map(species.map((s): [string, State] => [s.id, { casts: s.shadows, cutoff: s.cutoff, share: 1 }]));
  const shown = (id: string, { casts, cutoff, share }: State): Drawable[] =>
    own.get(id)!.map((d) => ({ ...thinned(d, share), casts, cutoff: isCover(d) ? (d.cutoff * coverReach({ cutoff })) / reach.get(id)! : cutoff }));
  const costs = new Map(species.map((s) => [s.id, places.map((p) => viewTally(shown(s.id, states.get(s.id)!), p.camera, spacing).all)]));
  const frames = () =>
    places.map(
      (_, i) =>
        frameOf(
          device,
          [...costs.values()].reduce((sum, list) => added(sum, list[i]), base[i]),
        ).frame,
    );
  const dearest = (list: readonly number[]) => list.reduce((best, f, i) => (f > list[best] ? i : best), 0);
  const first = frames();
  const steps: FitStep[] = [];
  let now = first;
  while (places.length > 0 && Math.max(...now) > budget && steps.length < MOST_STEPS) {
    const at = dearest(now);
    let best: { id: string; next: State; step: FitStep; score: number; cost: Tally[] } | undefined;
    for (const s of species) {
      if (own.get(s.id)!.length === 0) continue;
      const state = states.get(s.id)!;
      for (const { next, ...told } of optionsOf(s, state)) {
        const list = shown(s.id, next);
        const others = [...costs].reduce((sum, [id, of]) => (id === s.id ? sum : added(sum, of[at])), base[at]);
        const ms = now[at] - frameOf(device, added(others, viewTally(list, places[at].camera, spacing).all)).frame;
        if (ms < LEAST) continue;
        const before = shown(s.id, state);
        const seen = places.reduce((sum, p) => {
          if (told.what === 'shadows') return sum + SHADOW_SEEN * covered(before, p, state.cutoff, CASCADES[CASCADES.length - 1]);
          return sum + covered(before, p, state.cutoff) - covered(list, p, next.cutoff);
        }, 0);
        const score = ms / (Math.max(0, seen) + 1e-4);
        if (!best || score > best.score)
          best = { id: s.id, next, score, step: { species: s.id, name: s.name, ms, seen: Math.max(0, seen), ...told }, cost: [] };
      }
    }
    if (!best) break;
    states.set(best.id, best.next);
    costs.set(
      best.id,
      places.map((p) => viewTally(shown(best.id, best.next), p.camera, spacing).all),
    );
    steps.push(best.step);
    now = frames();
  }
  const told = (list: readonly number[]) => ({ frame: list[dearest(list)] ?? 0, place: places[dearest(list)]?.name ?? '' });
  return { steps: joined(steps), before: told(first), after: told(now), inside: Math.max(0, ...now) <= budget, patches: patchesOf(species, states) };
}

/** What may be taken from a species next. */
function optionsOf(s: Species, state: State): (Pick<FitStep, 'what' | 'from' | 'to'> & { next: State })[] {
  const out: (Pick<FitStep, 'what' | 'from' | 'to'> & { next: State })[] = [];
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
    const { casts, cutoff, share } = states.get(s.id)!;
    const set: Fit['patches'][number]['set'] = {
      ...(casts === s.shadows ? {} : { shadows: casts }),
      ...(cutoff === s.cutoff ? {} : { cutoff }),
      ...(share === 1 ? {} : { amount: amountOf(s, share) }),
    };
    return Object.keys(set).length > 0 ? [{ id: s.id, set }] : [];
  });
}
