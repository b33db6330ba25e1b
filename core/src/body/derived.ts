import type { BodyFigures } from './bodies';
import { jumpReach, takeOffSpeed } from './jump';

/** Figures that follow from a body and the level's size; shown beside the body's own. */
export interface DerivedFigures {
  /** m/s */
  takeOff: number;
  /** flat running jump, metres */
  reach: number;
  /** widest gap still easy, metres */
  easyGap: number;
  /** widest gap still possible, metres */
  widestGap: number;
  /** steepest walkable rise over run */
  maxGrade: number;
  /** seconds to cross the level's longer side at a walk and at a run */
  crossWalk: number;
  crossRun: number;
  /** true where crossing at a run takes over ten minutes */
  tooFar: boolean;
}

export function derivedFigures(body: BodyFigures, levelSide: number, tanOfMaxSlope: number): DerivedFigures {
  const reach = jumpReach(body) ?? 0;
  const crossRun = levelSide / body.run;
  return {
    takeOff: takeOffSpeed(body),
    reach,
    easyGap: 0.7 * reach,
    widestGap: 0.95 * reach,
    maxGrade: tanOfMaxSlope,
    crossWalk: levelSide / body.walk,
    crossRun,
    tooFar: crossRun > 600,
  };
}

/**
 * Size of a new level for a body: about 80 s across at a walk, in whole tiles of 64 quads 0.5 m
 * apart, at least 2. The adult gets 5 x 5 tiles, 160 m.
 */
export function defaultGrid(body: BodyFigures): { tilesX: number; tilesZ: number; spacing: 0.5 } {
  const tiles = Math.min(64, Math.max(2, Math.round((body.walk * 80) / 32)));
  return { tilesX: tiles, tilesZ: tiles, spacing: 0.5 };
}
