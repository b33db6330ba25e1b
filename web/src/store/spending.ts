import { create } from 'zustand';

export type WallUnit = 'frame' | 'triangles' | 'draws' | 'memory';
export const COST_SCOPES = ['this view', 'worst viewpoint', 'whole level'] as const;
export type CostScope = (typeof COST_SCOPES)[number];

/** A wall as it was, by what it showed. */
export interface WallBefore {
  tops: Record<WallUnit, number>;
  label: string;
}

/** What the wall counts, and what is left out of the picture. */
interface Spending {
  costScope: CostScope;
  /** spenders left out of the picture and the count: `course` or `course/of` */
  without: ReadonlySet<string>;
  /** the wall's frame as it was, for its ghost */
  before?: WallBefore;
  /** the viewpoint pinned as an inset */
  inset?: string;
  wallUnit: WallUnit;
}

export const useSpending = create<Spending>(() => ({ costScope: 'this view', without: new Set(), wallUnit: 'frame' }));
