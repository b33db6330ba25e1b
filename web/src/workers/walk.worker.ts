import { expose, transfer } from 'comlink';
import * as core from 'recast-navigation';
import * as generators from 'recast-navigation/generators';
import type { BodyFigures } from '@rammer/core/body/bodies';
import type { Terrain } from '@rammer/core/earth/compose';
import type { Block } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import type { Vec3 } from '@rammer/core/num/vec';
import { findReach, type Reach } from '@rammer/core/play/reach';
import { isTrap, type Recast } from '@rammer/core/play/recast';
import { makeWalkArea, type WalkArea } from '@rammer/core/play/walkArea';
import { walkDots } from '@rammer/core/play/walkDots';
import type { Snag } from '@rammer/core/snag/finding';
import { findSnags } from '@rammer/core/snag/findSnags';

export interface BakeInput {
  grid: Grid;
  heights: Float32Array;
  blocks: Block[];
  body: BodyFigures;
  entry?: Vec3;
  objective?: Vec3;
}

export type BakeResult = { kind: 'done'; reach: Reach; snags: Snag[]; dots: Float32Array; baked: number; tolerance: number } | { kind: 'cancelled' } | { kind: 'trap'; message: string };

let recast: Recast | undefined;
let area: { key: string; area: WalkArea } | undefined;
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
      if (area?.key !== key) {
        area?.area.dispose();
        area = { key, area: makeWalkArea(recast, input.body, input.grid.width, input.grid.depth) };
      }
      const terrain: Terrain = { grid: input.grid, heights: input.heights, noise: new Map() };
      let baked = 0;
      // A few tiles at a time, so that a cancel can be heard between them.
      for (;;) {
        let left = 3;
        const n = area.area.update(terrain, input.blocks, () => left-- > 0);
        if (n !== undefined) { baked += n; break; }
        baked += 3;
        onProgress(progressOf(baked, input.grid));
        await new Promise((go) => setTimeout(go, 0));
        if (mine !== running || cancelled >= mine) return { kind: 'cancelled' };
      }
      const reach = findReach(area.area, terrain, input.blocks, input.entry, input.objective);
      const snags = findSnags(terrain, input.blocks, input.body, reach);
      const dots = walkDots(recast, area.area, input.entry);
      return transfer({ kind: 'done' as const, reach, snags, dots, baked, tolerance: area.area.scale.tolerance }, [dots.buffer]);
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
