import { blockGrid } from '@rammer/core/block/grid';
import { composeTerrain } from '@rammer/core/earth/compose';
import { pictureToPng } from '@rammer/core/io/rasterPng';
import { presentBlocks } from '@rammer/core/level/level';
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
    return { result: { version: level.version }, output: pictureToPng(planPicture(composeTerrain(level), blocks, PLAN_PIXELS)) };
  },
};
