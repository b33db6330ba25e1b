/** The most an asset may have. A mesh in centimetres or millimetres is read too: what is unlikely about it is said, and mended. */
export const ASSET_LIMITS = Object.freeze({
  bytes: 256 << 20,
  triangles: 2_000_000,
  nodes: 50_000,
  /** nodes inside each other */
  depth: 400,
  lods: 8,
  pictureSide: 8192,
  /** of all pictures together */
  pixels: 256 << 20,
  metres: 1_000_000,
});
export type AssetLimits = Readonly<Record<keyof typeof ASSET_LIMITS, number>>;

/** Limits in words, said before a file is read. */
export const ASSET_LIMITS_TEXT =
  `up to ${ASSET_LIMITS.triangles / 1e6} million triangles, ${ASSET_LIMITS.bytes >> 20} MB, ` + `pictures of ${ASSET_LIMITS.pictureSide} pixels a side`;

/** What a file chooser offers. */
export const INCOMING_FILES = '.glb,.gltf,.bin,.obj,.mtl,.zip,.png,.jpg,.jpeg,.webp,.avif,.ktx2';
