import { batchList, type Batch } from './batches';
import type { Camera } from './camera';
import type { Course, Drawable } from './drawable';
import { shadowBatches } from './shadows';

export interface Tally {
  draws: number;
  triangles: number;
  vertices: number;
  instances: number;
  /** screens of alpha-tested area */
  overdraw: number;
  bytes: number;
}

/** Sums of nothing. */
export const emptyTally = (): Tally => ({ draws: 0, triangles: 0, vertices: 0, instances: 0, overdraw: 0, bytes: 0 });

function addTo(t: Tally, b: Omit<Batch, 'bytes'>, bytes: number): void {
  t.draws += b.draws;
  t.triangles += b.triangles;
  t.vertices += b.vertices;
  t.instances += b.instances;
  t.overdraw += b.overdraw;
  t.bytes += bytes;
}

/** Sums of a batch list by course, by spender within each course, and of all. Shared bytes count once. */
export function tally(batches: Iterable<Batch>): {
  all: Tally;
  byCourse: Partial<Record<Course, Tally>>;
  bySpender: Map<string, { course: Course; of: string; sum: Tally }>;
} {
  const all = emptyTally();
  const byCourse: Partial<Record<Course, Tally>> = {};
  const bySpender = new Map<string, { course: Course; of: string; sum: Tally }>();
  const counted = new Set<string>();
  for (const b of batches) {
    let once = 0;
    for (const { key, bytes } of b.shared ?? []) {
      if (!counted.has(key)) once += bytes;
      counted.add(key);
    }
    const key = `${b.course}/${b.of}`;
    let mine = bySpender.get(key);
    if (!mine) bySpender.set(key, (mine = { course: b.course, of: b.of, sum: emptyTally() }));
    for (const t of [all, (byCourse[b.course] ??= emptyTally()), mine.sum]) addTo(t, b, b.bytes + once);
  }
  return { all, byCourse, bySpender };
}

/** Sums of what the target device draws of a view: the batch list and the shadow pass. */
export const viewTally = (drawables: readonly Drawable[], camera: Camera, spacing: number): ReturnType<typeof tally> =>
  tally([...batchList(drawables, camera, spacing, 1), ...shadowBatches(drawables, camera, spacing)]);
