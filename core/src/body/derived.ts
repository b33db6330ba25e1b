import type { BodyFigures } from './bodies';
import { jumpReach, takeOffSpeed } from './jump';

/** How high a body reaches standing, against its height: an adult of 1.80 m touches 2.20 m. */
const REACH_UP = 1.22;

/** A way a body stands, where its feet are over the ground and how high it comes, metres. */
export interface Stance {
  name: 'stands' | 'crouched' | 'reaches' | 'apex';
  feet: number;
  /** as drawn */
  height: number;
  /** over the ground */
  top: number;
}

/** A body standing, crouched (where it can), reaching up, and at the apex of its jump. */
export function stancesOf({ height, crouched, jumpApex }: BodyFigures): Stance[] {
  return [
    { name: 'stands', feet: 0, height, top: height },
    ...(crouched === undefined ? [] : [{ name: 'crouched' as const, feet: 0, height: crouched, top: crouched }]),
    { name: 'reaches', feet: 0, height, top: height * REACH_UP },
    { name: 'apex', feet: jumpApex, height, top: jumpApex + height },
  ];
}

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

/**
 * What follows from the figures of a body: jumps, gaps, grades, metres and seconds.
 *
 * @param levelSide the longer side of the level, metres
 * @param tanOfMaxSlope rise over run of its steepest slope
 */
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
