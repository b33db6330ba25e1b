import { expose, transfer } from 'comlink';
import type { BodyFigures } from '@rammer/core/body/bodies';
import { blockGrid } from '@rammer/core/block/grid';
import type { PlacedMesh } from '@rammer/core/block/placedMesh';
import type { Terrain } from '@rammer/core/earth/compose';
import type { Block } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import type { Vec3 } from '@rammer/core/num/vec';
import { findReach, type Reach } from '@rammer/core/play/reach';
import { makeWalkArea, type WalkArea } from '@rammer/core/play/walkArea';
import { walkDots } from '@rammer/core/play/walkDots';
import type { Snag } from '@rammer/core/snag/finding';
import type { SnagInput } from '@rammer/core/snag/input';
import { keepArea, keptArea } from './keptAreas';
import { findSnags } from '@rammer/core/snag/findSnags';

export interface BakeInput {
  /** id of the level, under which its walk areas are kept across reloads */
  level: string;
  grid: Grid;
  heights: Float32Array;
  /** see Terrain */
  barred?: Float32Array;
  blocks: Block[];
  /** pieces and trunks as they stop a body */
  solids: PlacedMesh[];
  body: BodyFigures;
  entry?: Vec3;
  objective?: Vec3;
  /** what the checks look at beside these; left out, nothing is checked (a threat's area) */
  checks?: Pick<SnagInput, 'ground' | 'solids' | 'gaps' | 'playBounds' | 'pieces' | 'placed' | 'assets' | 'voids' | 'species' | 'plants' | 'waters'>;
}

export type BakeResult = { kind: 'done'; reach: Reach; snags: Snag[]; dots: Float32Array; baked: number } | { kind: 'cancelled' };

/** walk areas by body and grid, the last few that were asked for */
const areas = new Map<string, WalkArea>();
const AREAS_KEPT = 3;
/** Work done between two looks for a cancel, ms. */
const SLICE = 60;
/** A walk area is kept for another day once nothing was baked for so long, ms. */
const KEEP_AFTER = 3000;
let cancelled = 0;
let running = 0;
const keeping = new Map<string, ReturnType<typeof setTimeout>>();

/** This build by its worker's address, which has the hash of all its code; while Rammer is developed it has none, and nothing is kept. */
const MADE = import.meta.env.DEV ? undefined : self.location.href;
const kept = (key: string) => (MADE === undefined ? undefined : keptArea(key, MADE));

function keepLater(key: string, area: WalkArea): void {
  if (MADE === undefined) return;
  clearTimeout(keeping.get(key));
  keeping.set(key, setTimeout(() => {
    keeping.delete(key);
    const found = area.keep();
    if (found) void keepArea(key, MADE, found);
  }, KEEP_AFTER));
}

const api = {
  /** Brings the walk area up to date and looks for the way. A later call, or `cancel`, ends an earlier one. */
  async bake(input: BakeInput, onProgress: (done: number) => void): Promise<BakeResult> {
    const mine = ++running;
    const key = JSON.stringify([input.level, input.body, input.grid]);
    const area = areas.get(key) ?? makeWalkArea(input.body, input.grid, { kept: await kept(key) });
    if (mine !== running || cancelled >= mine) return { kind: 'cancelled' };
    areas.delete(key);
    areas.set(key, area);
    for (const old of areas.keys()) {
      if (areas.size <= AREAS_KEPT) break;
      areas.delete(old);
    }
    const terrain: Terrain = { grid: input.grid, heights: input.heights, noise: new Map(), barred: input.barred };
    const work = area.bake({ terrain, blocks: input.blocks, meshes: input.solids }, input.entry);
    let baked = 0;
    for (let until = performance.now() + SLICE; ;) {
      const { done, value } = work.next();
      if (done) { baked = value; break; }
      if (performance.now() < until) continue;
      onProgress(value);
      await new Promise((go) => setTimeout(go, 0));
      if (mine !== running || cancelled >= mine) return { kind: 'cancelled' };
      until = performance.now() + SLICE;
    }
    if (baked > 0) keepLater(key, area);
    const reach = findReach(area, input.entry, input.objective);
    const dots = walkDots(area, input.entry);
    const snags = input.checks ? findSnags({ ...input.checks, terrain, blocks: input.blocks, walls: input.solids, grid: blockGrid(input.blocks), body: input.body, reach, dots }) : [];
    return transfer({ kind: 'done' as const, reach, snags, dots, baked }, [dots.buffer]);
  },
  cancel(): void { cancelled = running; },
};

export type WalkWorker = typeof api;
expose(api);
