import { expose, transfer } from 'comlink';
import * as core from 'recast-navigation';
import * as generators from 'recast-navigation/generators';
import type { BodyFigures } from '@rammer/core/body/bodies';
import { blockGrid } from '@rammer/core/block/grid';
import type { PlacedMesh } from '@rammer/core/block/placedMesh';
import type { Terrain } from '@rammer/core/earth/compose';
import type { Block } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import type { Vec3 } from '@rammer/core/num/vec';
import { findReach, type Reach } from '@rammer/core/play/reach';
import { isTrap, type Recast } from '@rammer/core/play/recast';
import { makeWalkArea, type WalkArea } from '@rammer/core/play/walkArea';
import { walkDots } from '@rammer/core/play/walkDots';
import type { Snag } from '@rammer/core/snag/finding';
import type { SnagInput } from '@rammer/core/snag/input';
import { findSnags } from '@rammer/core/snag/findSnags';

export interface BakeInput {
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
  checks?: Pick<SnagInput, 'ground' | 'solids' | 'gaps' | 'rims' | 'pieces' | 'placed' | 'assets' | 'voids' | 'species' | 'plants' | 'waters'>;
}

export type BakeResult = { kind: 'done'; reach: Reach; snags: Snag[]; dots: Float32Array; baked: number; tolerance: number } | { kind: 'cancelled' } | { kind: 'trap'; message: string };

let recast: Recast | undefined;
/** walk areas by body and grid, the last few that were asked for */
const areas = new Map<string, WalkArea>();
const AREAS_KEPT = 3;
let cancelled = 0;
let running = 0;

const api = {
  /** Brings the walk area up to date and looks for the way. A later call, or `cancel`, ends an earlier one. */
  async bake(input: BakeInput, onProgress: (done: number) => void): Promise<BakeResult> {
    const mine = ++running;
    try {
      if (!recast) {
        await core.init();
        recast = { ...core, ...generators };
      }
      const key = JSON.stringify([input.body, input.grid]);
      const area = areas.get(key) ?? makeWalkArea(recast, input.body, input.grid.width, input.grid.depth);
      areas.delete(key);
      areas.set(key, area);
      for (const [old, a] of areas) {
        if (areas.size <= AREAS_KEPT) break;
        a.dispose();
        areas.delete(old);
      }
      const terrain: Terrain = { grid: input.grid, heights: input.heights, noise: new Map(), barred: input.barred };
      let baked = 0;
      // A few tiles at a time, so that a cancel can be heard between them.
      for (;;) {
        let left = 3;
        const n = area.update(terrain, input.blocks, () => left-- > 0, input.solids);
        if (n !== undefined) { baked += n; break; }
        baked += 3;
        onProgress(progressOf(baked, input.grid));
        await new Promise((go) => setTimeout(go, 0));
        if (mine !== running || cancelled >= mine) return { kind: 'cancelled' };
      }
      const reach = findReach(area, terrain, input.blocks, input.entry, input.objective, input.solids);
      const dots = walkDots(recast, area, input.entry);
      const snags = input.checks ? findSnags({ ...input.checks, terrain, blocks: input.blocks, grid: blockGrid(input.blocks), body: input.body, reach, dots }) : [];
      return transfer({ kind: 'done' as const, reach, snags, dots, baked, tolerance: area.scale.tolerance }, [dots.buffer]);
    } catch (error) {
      if (isTrap(error)) return { kind: 'trap', message: (error as Error).message };
      throw error;
    }
  },
  cancel(): void { cancelled = running; },
};

function progressOf(baked: number, grid: Grid): number {
  const tiles = Math.ceil(grid.width / 16) * Math.ceil(grid.depth / 16);
  return Math.min(0.99, baked / tiles);
}

export type WalkWorker = typeof api;
expose(api);
