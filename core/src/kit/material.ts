import type { Vec3 } from '../num/vec';

/** Where a material takes a picture from: which, by which texture coordinates, and how it is laid on them (KHR_texture_transform). */
export interface TextureUse {
  /** place in the asset's textures */
  texture: number;
  /** set of texture coordinates, 0 or 1 */
  uv: 0 | 1;
  /** u, v */
  offset: [number, number];
  /** radians, counter-clockwise */
  rotation: number;
  scale: [number, number];
  /** what lies outside 0 to 1 along u and v */
  wrap: [Wrap, Wrap];
  /** drawn without blending of its pixels */
  nearest?: boolean;
}
export type Wrap = 'repeat' | 'clamp' | 'mirror';

/** Pictures a material may wear, by what they say. Colours are sRGB, all else as it is. */
export const TEXTURE_SLOTS = ['baseColour', 'metalRough', 'normal', 'occlusion', 'emission', 'specular', 'specularColour'] as const;
export type TextureSlot = (typeof TEXTURE_SLOTS)[number];

/**
 * A material as its author made it: the metallic-roughness model of glTF 2.0 with KHR_materials_unlit, emissive_strength,
 * specular and ior. Colours are linear.
 */
export interface AssetMaterial {
  name: string;
  /** red, green, blue, alpha */
  baseColour: [number, number, number, number];
  metalness: number;
  roughness: number;
  /** strength included */
  emission: Vec3;
  normalScale: number;
  occlusionStrength: number;
  alpha: 'opaque' | 'mask' | 'blend';
  /** of a mask: pixels whose alpha is lower are left out */
  cutoff: number;
  doubleSided: boolean;
  unlit: boolean;
  specular: number;
  specularColour: Vec3;
  ior: number;
  textures: Partial<Record<TextureSlot, TextureUse>>;
}

/** A picture as it came: PNG, JPEG, WebP, AVIF or KTX2, never unpacked here. */
export interface AssetTexture {
  name: string;
  mime: string;
  bytes: Uint8Array;
  width: number;
  height: number;
  /** bytes on the GPU with its mip levels */
  gpuBytes: number;
}

/** What glTF says of a material that says nothing. */
export const PLAIN_MATERIAL: Readonly<Omit<AssetMaterial, 'name'>> = Object.freeze<Omit<AssetMaterial, 'name'>>({
  baseColour: [1, 1, 1, 1],
  metalness: 1,
  roughness: 1,
  emission: [0, 0, 0],
  normalScale: 1,
  occlusionStrength: 1,
  alpha: 'opaque',
  cutoff: 0.5,
  doubleSided: false,
  unlit: false,
  specular: 1,
  specularColour: [1, 1, 1],
  ior: 1.5,
  textures: {},
});

/** Bytes of a picture on the GPU with its mip levels: four a pixel, or one where it stays packed there. */
export const textureBytes = (width: number, height: number, packed = false): number => Math.round((width * height * (packed ? 1 : 4) * 4) / 3);

/** Two materials that draw the same, whatever they are called. @returns a key, equal for equal ones */
export const lookOf = (m: AssetMaterial): string => JSON.stringify({ ...m, name: '' });
