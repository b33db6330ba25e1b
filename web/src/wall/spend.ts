import { batchList, wholeLevel, type Batch } from '@rammer/core/cost/batches';
import { COURSES, type Course, type Drawable } from '@rammer/core/cost/drawable';
import { shadowBatches } from '@rammer/core/cost/shadows';
import { tally, type Tally } from '@rammer/core/cost/tally';
import { baseTerm, frameOf, termOf, type Device, type Frame } from '@rammer/core/cost/frame';
import { placeCosts } from '@rammer/core/cost/places';
import type { Level } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import type { CostScope, WallUnit } from '../store/spending';
import { hidesAny } from '../store/hidesAny';
import type { LevelView } from '../view/LevelView';

/** What is spent in a scope, and where that is. */
export interface Spend {
  sums: ReturnType<typeof tally>;
  frame: Frame;
  /** name and pose of the place, where the scope is one */
  place?: { name: string; pose: Pose };
}

/**
 * What a scope spends on a device. The view's own batches count for "this view", so that the wall and the picture never differ;
 * where something is hidden from view, all that would be drawn.
 */
export function spendOf(scope: CostScope, view: LevelView, level: Level, device: Device, spacing: number): Spend {
  const drawables = view.costs();
  const hides = drawables.length > 0 && hidesAny(view.session);
  if (scope === 'whole level') {
    const sums = tally(wholeLevel(drawables));
    return { sums, frame: frameOf(device, sums.all) };
  }
  if (scope === 'worst viewpoint') {
    const [worst] = placeCosts(level, drawables, spacing);
    if (worst) return { sums: worst.sums, frame: worst.frame, place: worst };
  }
  // The view draws haze with all else: it is no batch of its own there.
  const seen = hides ? undefined : view.drawn?.batches;
  const haze = drawables.filter((d) => d.course === 'haze');
  return thisView(
    seen ? [...seen, ...batchList(haze, view.camera, spacing, 1)] : batchList(drawables, view.camera, spacing, 1),
    drawables,
    view,
    device,
    spacing,
  );
}

function thisView(batches: readonly Batch[], drawables: readonly Drawable[], view: LevelView, device: Device, spacing: number): Spend {
  const sums = tally([...batches, ...shadowBatches(drawables, view.camera, spacing)]);
  return { sums, frame: frameOf(device, sums.all) };
}

/** One band of the wall. */
export interface Band {
  key: string;
  course: Course;
  name: string;
  value: number;
}

const MOST_BANDS = 8;

const count = (unit: Exclude<WallUnit, 'frame'>, t: Tally): number => ({ triangles: t.triangles, draws: t.draws, memory: t.bytes })[unit];

/**
 * The bands of a wall, bottom first: courses in their order, those that are opened split into their
 * spenders; at most eight, the thinnest gathered into one.
 */
export function bandsOf(unit: WallUnit, spend: Spend, device: Device, opened: ReadonlySet<Course>): { bands: Band[]; rest: number } {
  const { sums, frame } = spend;
  const value = (t: Tally) => (unit === 'frame' ? termOf(device, t, frame.governs) : count(unit, t));
  const bands: Band[] = [];
  for (const course of COURSES) {
    if (course === 'base') {
      if (unit === 'frame') bands.push({ key: 'base', course, name: 'base', value: baseTerm(device, frame.governs) });
      continue;
    }
    const t = sums.byCourse[course];
    if (!t || value(t) <= 0) continue;
    const parts = [...sums.bySpender.values()].filter((s) => s.course === course);
    if (opened.has(course) && parts.length > 1) for (const p of parts) bands.push({ key: `${course}/${p.of}`, course, name: p.of, value: value(p.sum) });
    else bands.push({ key: course, course, name: course, value: value(t) });
  }
  let rest = 0;
  while (bands.length > MOST_BANDS) {
    const thin = bands.reduce((best, b, i) => (b.course !== 'base' && b.value < bands[best].value ? i : best), bands[0].course === 'base' ? 1 : 0);
    const [gone] = bands.splice(thin, 1);
    rest++;
    const into = bands.find((b) => b.key === 'others');
    if (into) into.value += gone.value;
    else bands.push({ key: 'others', course: gone.course, name: 'others', value: gone.value });
  }
  return { bands, rest };
}

/** Sum of a wall in a unit. */
export const totalOf = (unit: WallUnit, spend: Spend): number => (unit === 'frame' ? spend.frame.frame : count(unit, spend.sums.all));
