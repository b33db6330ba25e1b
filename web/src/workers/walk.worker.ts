import { expose, proxy, transfer, wrap } from 'comlink';
import type { Vec3 } from '@rammer/core/num/vec';
import { splitBands } from '@rammer/core/play/splitBands';
import { makeWalkArea, type Standing, type WalkArea } from '@rammer/core/play/walkArea';
import { lookOver, standingOf, type BakeInput, type Found } from '@rammer/core/scene/bake';
import type { BandWorker } from './band.worker';
import { keepArea, keptArea } from './keptAreas';

export type BakeResult = ({ kind: 'done'; baked: number } & Found) | { kind: 'cancelled' };

/** walk areas by body and grid, the last few that were asked for */
const areas = new Map<string, WalkArea>();
const AREAS_KEPT = 3;
/** Work done between two looks for a cancel, ms. */
const SLICE = 60;
/** From so many nav tiles on others help: to start them takes as long as a hundred tiles. */
const TOGETHER_FROM = 200;
const MOST_BANDS = 4;
/** A walk area is kept for another day once nothing was baked for so long, ms. */
const KEEP_AFTER = 3000;
let cancelled = 0;
let running = 0;
const keeping = new Map<string, ReturnType<typeof setTimeout>>();

/** This build by its worker's address, which has the hash of all its code; while Rammer is developed it has none, and nothing is kept. */
const MADE = import.meta.env.DEV ? undefined : self.location.href;
const kept = (key: string) => (MADE === undefined ? undefined : keptArea(key, MADE));

/** While it is baked a walk area is not kept: half of it would be. @returns whether it was about to be */
function holdKeeping(key: string): boolean {
  clearTimeout(keeping.get(key));
  return keeping.delete(key);
}

function keepLater(key: string, area: WalkArea): void {
  if (MADE === undefined) return;
  holdKeeping(key);
  keeping.set(
    key,
    setTimeout(() => {
      keeping.delete(key);
      const found = area.keep();
      if (found) void keepArea(key, MADE, found);
    }, KEEP_AFTER),
  );
}

/** Bakes tiles here, giving way between slices. @returns how many, or `undefined` where it is no longer wanted */
async function bakeHere(
  area: WalkArea,
  { on, entry, only }: { on: Standing; entry?: Vec3; only?: ReadonlySet<number> },
  onProgress: (done: number) => void,
  gone: () => boolean,
): Promise<number | undefined> {
  const work = area.bake(on, entry, only);
  for (let until = performance.now() + SLICE; ;) {
    const { done, value } = work.next();
    if (done) return value;
    if (performance.now() < until) continue;
    onProgress(value);
    await new Promise((go) => setTimeout(go, 0));
    if (gone()) return undefined;
    until = performance.now() + SLICE;
  }
}

/** Bakes a wide area in bands, one of them here and the others in workers beside this one; what they find is joined here. */
async function bakeTogether(
  area: WalkArea,
  on: Standing,
  entry: Vec3 | undefined,
  onProgress: (done: number) => void,
  gone: () => boolean,
): Promise<number | undefined> {
  const changed = area.changed(on);
  const bands = changed.length < TOGETHER_FROM ? [changed] : splitBands(changed, area.cut.across, Math.min(MOST_BANDS, navigator.hardwareConcurrency || 1));
  if (bands.length < 2) return bakeHere(area, { on, entry }, onProgress, gone);
  const shares = bands.map(() => 0);
  const tell = (i: number) => (share: number) => {
    shares[i] = share;
    onProgress(shares.reduce((sum, s, k) => sum + s * bands[k].length, 0) / changed.length);
  };
  const helpers = bands.slice(1).map(() => new Worker(new URL('./band.worker.ts', import.meta.url), { type: 'module', name: 'band' }));
  // Where it is no longer wanted, or a helper cannot start or runs out of memory, nobody waits; what is missing is baked here.
  let give: () => void = () => {};
  const ended = new Promise<undefined>((done) => {
    give = () => done(undefined);
  });
  const watch = setInterval(() => {
    if (gone()) give();
  }, SLICE);
  for (const h of helpers) h.onerror = give;
  try {
    const found = Promise.all(
      helpers.map((h, i) => wrap<BandWorker>(h).bake({ body: area.body, grid: area.cut.grid, on, entry, which: bands[i + 1] }, proxy(tell(i + 1)))),
    ).catch(() => undefined);
    if ((await bakeHere(area, { on, entry, only: new Set(bands[0]) }, tell(0), gone)) === undefined) return undefined;
    const others = await Promise.race([found, ended]);
    if (gone()) return undefined;
    for (const band of others ?? []) area.adopt(band);
    return (await bakeHere(area, { on, entry }, () => {}, gone)) === undefined ? undefined : changed.length;
  } finally {
    clearInterval(watch);
    for (const h of helpers) h.terminate();
  }
}

const api = {
  /**
   * Brings the walk area up to date and looks over it. A later call, or `cancel`, ends an earlier one.
   *
   * @param level its id, under which the area is kept across reloads
   */
  async bake(level: string, input: BakeInput, onProgress: (done: number) => void): Promise<BakeResult> {
    const mine = ++running;
    const key = JSON.stringify([level, input.body, input.grid]);
    const area = areas.get(key) ?? makeWalkArea(input.body, input.grid, { kept: await kept(key) });
    if (mine !== running || cancelled >= mine) return { kind: 'cancelled' };
    areas.delete(key);
    areas.set(key, area);
    for (const old of areas.keys()) {
      if (areas.size <= AREAS_KEPT) break;
      areas.delete(old);
    }
    const gone = () => mine !== running || cancelled >= mine;
    const unkept = holdKeeping(key);
    const baked = await bakeTogether(area, standingOf(input), input.entry, onProgress, gone);
    if (baked === undefined) return { kind: 'cancelled' };
    if (baked > 0 || unkept) keepLater(key, area);
    const found = lookOver(area, input);
    return transfer({ kind: 'done' as const, ...found, baked }, [found.dots.buffer]);
  },
  cancel(): void {
    cancelled = running;
  },
};

export type WalkWorker = typeof api;
expose(api);
