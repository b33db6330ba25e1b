import { openingVerdict, type OpeningVerdict } from '../body/checks';
import type { BodyFigures } from '../body/bodies';
import { gapVerdict, jumpReach, type GapVerdict } from '../body/jump';
import type { Section } from './section';

/** A place a body has to jump: from an edge to where there is ground again. Metres along the section, heights. */
export interface SectionGap {
  from: number;
  to: number;
  /** of the edge, and of the landing against it */
  height: number;
  rise: number;
  verdict: GapVerdict;
  /** the same jumped the other way */
  back: GapVerdict;
}

/** A stretch with little room over the head, at its lowest place. */
export interface LowStretch {
  at: number;
  floor: number;
  clearance: number;
  verdict: Exclude<OpeningVerdict, 'clear'>;
}

export interface WalkLine {
  gaps: SectionGap[];
  low: LowStretch[];
  /** how far the body comes along the section either way without more than a jump */
  from: number;
  to: number;
}

/** What is cut besides the terrain. */
export interface CutThings {
  /** outlines of each solid, inside an odd number of them: interleaved by loop as [distance, height] */
  solids: readonly (readonly (readonly (readonly [number, number])[])[])[];
  /** segments of meshes: distance and height of either end, four numbers each */
  segments: readonly number[];
}

/** Samples of the walk along the section, metres apart. */
const STEP = 0.1;
/** A gap is looked for so much farther than the body can jump: one a little too wide is told as such. */
const BEYOND = 1.5;

/**
 * How a body gets along a section from where its figure stands: up steps, over gaps, under what hangs low.
 * It goes by what is cut alone; what lies beside the line is not seen.
 *
 * @param feet height of the figure at distance 0
 */
export function walkLine(section: Section, things: CutThings, feet: number, body: BodyFigures): WalkLine {
  const out: WalkLine = { gaps: [], low: [], from: 0, to: 0 };
  const g = section.ground;
  if (g.length < 4) return out;
  const bounds = [g[0], g[g.length - 2]];
  if (bounds[0] > 0 || bounds[1] < 0) return out;
  const east = go(1);
  const west = go(-1);
  out.from = west.reached;
  out.to = east.reached;
  out.gaps = [...west.gaps, ...east.gaps].sort((a, b) => a.from - b.from);
  out.low = [...west.low, ...east.low].sort((a, b) => a.at - b.at);
  return out;

  function go(way: 1 | -1): { gaps: SectionGap[]; low: LowStretch[]; reached: number } {
    const gaps: SectionGap[] = [];
    const low: LowStretch[] = [];
    let here = surfaceUnder(section, things, 0, feet + body.step);
    let worst: LowStretch | undefined;
    const closeLow = () => {
      if (worst) low.push(worst);
      worst = undefined;
    };
    let s = 0;
    const end = way > 0 ? bounds[1] : -bounds[0];
    let walked = 0;
    while (here && walked < end) {
      const verdict = openingVerdict(body, 100, here.over);
      if (verdict === 'clear') closeLow();
      else if (!worst || here.over < worst.clearance) worst = { at: s, floor: here.height, clearance: here.over, verdict };
      if (verdict === 'blocked') break;
      walked += STEP;
      const next = surfaceUnder(section, things, way * walked, here.height + body.step);
      // A face that cannot be stepped up ends the way; a ledge within a jump is got up.
      const up =
        next && next.height >= here.height - body.step
          ? next
          : surfaceUnder(section, things, way * walked, here.height + body.jumpApex, here.height - body.step);
      if (up) {
        here = up;
        s = way * walked;
        continue;
      }
      const gap = jump(here.height, walked - STEP, way, end);
      if (gap) {
        gaps.push(gap.gap);
        if (gap.gap.verdict === 'impossible') break;
        here = gap.landing;
        walked = gap.at;
        s = way * walked;
        continue;
      }
      // Nothing to jump to: down where the fall does no harm.
      if (!next || here.height - next.height > body.safeDrop) break;
      here = next;
      s = way * walked;
    }
    closeLow();
    return { gaps, low, reached: s };
  }

  function jump(edge: number, from: number, way: 1 | -1, end: number): { gap: SectionGap; landing: Standing; at: number } | undefined {
    const reach = (jumpReach(body, 0) ?? 0) * BEYOND;
    for (let w = 2 * STEP; w <= reach && from + w <= end; w += STEP) {
      const landing = surfaceUnder(section, things, way * (from + w), edge + body.jumpApex, edge - body.step);
      if (!landing) {
        // A wall in the way is no gap.
        if (spansAt(section, things, way * (from + w)).some(([a, b]) => edge + body.step > a && edge + body.step < b)) return undefined;
        continue;
      }
      // Where the edges are, to a millimetre.
      const last = border(from, from + STEP, (at) => surfaceUnder(section, things, way * at, edge + body.step, edge - body.step) !== undefined);
      const first = border(from + w, from + w - STEP, (at) => surfaceUnder(section, things, way * at, edge + body.jumpApex, edge - body.step) !== undefined);
      const width = Math.round((first - last) * 1000) / 1000;
      const rise = landing.height - edge;
      const gap: SectionGap = {
        from: way * last,
        to: way * first,
        height: edge,
        rise,
        verdict: gapVerdict(body, width, rise),
        back: gapVerdict(body, width, -rise),
      };
      return { gap, landing, at: from + w };
    }
    return undefined;
  }
}

/** Between a place where something holds and one where it does not: the last where it does, to a millimetre. */
function border(holds: number, not: number, test: (at: number) => boolean): number {
  let [a, b] = [holds, not];
  while (Math.abs(b - a) > 0.0005) {
    const middle = (a + b) / 2;
    if (test(middle)) a = middle;
    else b = middle;
  }
  return a;
}

/** Ground under foot and the room over it, metres. */
interface Standing {
  height: number;
  over: number;
}

/** The highest surface at a distance along a section that is no higher than `most` and no lower than `least`; with what hangs over it. */
export function surfaceUnder(section: Section, things: CutThings, s: number, most: number, least = -Infinity): Standing | undefined {
  const spans = spansAt(section, things, s);
  let height = -Infinity;
  for (const [, top] of spans) {
    if (top > most + 1e-9 || top < least - 1e-9 || top <= height) continue;
    // A top inside another solid is not stood on.
    if (spans.some(([a, b]) => top >= a - 1e-6 && top < b - 1e-6)) continue;
    height = top;
  }
  if (height === -Infinity) return undefined;
  let over = Infinity;
  for (const [bottom] of spans) if (bottom > height + 0.01) over = Math.min(over, bottom - height);
  return { height, over };
}

/** What is solid at a distance, from and to heights: the earth up to its ground, and between each pair of crossings of each solid. None beside the level. */
function spansAt(section: Section, { solids, segments }: CutThings, s: number): [number, number][] {
  const terrain = heightAlong(section.ground, s);
  if (terrain === undefined) return [];
  const spans: [number, number][] = [[-Infinity, terrain]];
  for (const { outline } of section.blocks) pairs(crossings([outline], s), spans);
  for (const loops of solids) pairs(crossings(loops, s), spans);
  pairs(segmentCrossings(segments, s), spans);
  return spans;
}

function pairs(crossed: number[], out: [number, number][]): void {
  if (crossed.length % 2 !== 0) return;
  crossed.sort((a, b) => a - b);
  for (let i = 0; i < crossed.length; i += 2) out.push([crossed[i], crossed[i + 1]]);
}

function crossings(loops: readonly (readonly (readonly [number, number])[])[], s: number): number[] {
  const found: number[] = [];
  for (const loop of loops) {
    for (let i = 0, j = loop.length - 1; i < loop.length; j = i++) {
      const [a, ha] = loop[j];
      const [b, hb] = loop[i];
      if (a > s !== b > s) found.push(ha + ((hb - ha) * (s - a)) / (b - a));
    }
  }
  return found;
}

function segmentCrossings(segments: readonly number[], s: number): number[] {
  const found: number[] = [];
  for (let i = 0; i < segments.length; i += 4) {
    const a = segments[i];
    const b = segments[i + 2];
    if (a > s !== b > s) found.push(segments[i + 1] + ((segments[i + 3] - segments[i + 1]) * (s - a)) / (b - a));
  }
  return found;
}

/** Height of the terrain at a distance along its section, metres. */
function heightAlong(g: Float64Array, s: number): number | undefined {
  const n = g.length / 2;
  if (n < 2 || s < g[0] - 1e-6 || s > g[g.length - 2] + 1e-6) return undefined;
  // Samples are evenly spaced but for the level's ends.
  let i = Math.max(0, Math.min(n - 2, Math.floor(((s - g[0]) / (g[g.length - 2] - g[0])) * (n - 1))));
  while (i > 0 && g[i * 2] > s) i--;
  while (i < n - 2 && g[(i + 1) * 2] < s) i++;
  const t = (s - g[i * 2]) / (g[(i + 1) * 2] - g[i * 2] || 1);
  return g[i * 2 + 1] + (g[i * 2 + 3] - g[i * 2 + 1]) * t;
}
