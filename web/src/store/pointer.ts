import type { Vec3 } from '@rammer/core/num/vec';
import { create } from 'zustand';

/** What is under the pointer. */
export interface Hover {
  point: Vec3;
  /** degrees */
  slope: number;
  ground: string;
  host: string;
  /** in the 100 m2 around */
  plants: number;
}

/** What moves with the pointer and the walking body: of its own, for it changes many times a second and few look at it. */
export const usePointer = create<{
  hover?: Hover;
  /** where the body stands while walking, and whether it has ground under it */
  feet?: { at: Vec3; grounded: boolean };
}>(() => ({}));
