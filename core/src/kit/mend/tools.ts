import type { Mesh } from '../../num/mesh';

/** Flags of the simplifier that are used. */
export type Flag = 'ErrorAbsolute' | 'Permissive' | 'Prune';

/** The part of meshoptimizer's simplifier that is used, injected: core never loads WebAssembly by itself. */
export interface Simplifier {
  simplifyWithAttributes(
    indices: Uint32Array,
    positions: Float32Array,
    positionStride: number,
    attributes: Float32Array,
    attributeStride: number,
    weights: number[],
    lock: Uint8Array | null,
    targetIndices: number,
    targetError: number,
    flags?: Flag[],
  ): [Uint32Array, number];
  simplifySloppy(
    indices: Uint32Array,
    positions: Float32Array,
    positionStride: number,
    lock: Uint8Array | null,
    targetIndices: number,
    targetError: number,
  ): [Uint32Array, number];
}

/** What mends need that is WebAssembly. */
export interface MendTools {
  simplifier: Simplifier;
  /** the smallest convex shape about some points; `undefined` where they span no volume */
  hull(points: Float32Array): Mesh | undefined;
}
