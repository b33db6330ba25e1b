import type { Pixels } from '../../num/halvePicture';
import type { Mesh } from '../../num/mesh';
import type { AssetTexture } from '../material';

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

/** Unpacks and packs pictures, injected: a browser knows more kinds of them than core. */
export interface PictureTools {
  /** @throws Error where it cannot, by the picture's name */
  unpack(texture: AssetTexture): Promise<Pixels>;
  /** @param mime what it should be; what cannot be packed so is PNG */
  pack(pixels: Pixels, mime: string): Promise<{ bytes: Uint8Array; mime: string }>;
}

/** What mends need that core does not have. */
export interface MendTools {
  simplifier: Simplifier;
  /** the smallest convex shape about some points; `undefined` where they span no volume */
  hull(points: Float32Array): Mesh | undefined;
  pictures: PictureTools;
}
