import { blockGrid } from '@rammer/core/block/grid';
import { composeLean, earthOf } from '@rammer/core/earth/slab';
import { pictureToPng } from '@rammer/core/io/rasterPng';
import { presentBlocks, settingsOf } from '@rammer/core/level/level';
import { TILE_QUADS } from '@rammer/core/level/tiles';
import { planPicture } from '@rammer/core/surface/planPicture';
import type { JobKind } from '../kind';
import { levelOf } from './levelOf';

/** Longer side of a level's small plan. */
const PLAN_PIXELS = 240;

/** A small shaded plan of a level as a PNG. */
export const plan: JobKind = {
  seconds: 180,
  async run(asked, db) {
    const level = await levelOf(asked, db, false);
    const blocks = blockGrid(presentBlocks(level).filter((b) => b.op !== 'void'));
    const { tilesX, tilesZ } = settingsOf(level);
    // Two looks a pixel show all of the noise that a pixel can.
    const every = Math.max(1, Math.floor((Math.max(tilesX, tilesZ) * TILE_QUADS) / (2 * PLAN_PIXELS)));
    return { result: { version: level.version }, output: pictureToPng(planPicture(composeLean(earthOf(level), every), blocks, PLAN_PIXELS)) };
  },
};
