import {
  DataArrayTexture,
  DataTexture,
  DataUtils,
  HalfFloatType,
  LinearFilter,
  LinearMipmapLinearFilter,
  LinearMipmapNearestFilter,
  RedFormat,
  RepeatWrapping,
  RGBAFormat,
  Vector2,
  Vector3,
  type IUniform,
  type ShaderMaterial,
  type Texture,
} from 'three';
import { coatUniforms } from './coats';
import type { Level } from '@rammer/core/level/level';
import { LAYINGS, type Lighting, type Surface } from '@rammer/core/level/objects';
import type { Terrain } from '@rammer/core/earth/compose';
import type { Grid } from '@rammer/core/level/tiles';
import { rgb } from '@rammer/core/level/lighting';
import type { Cover } from '@rammer/core/light/cover';
import { daylight } from '@rammer/core/light/sunAt';
import { sunDirection } from '@rammer/core/light/sunlit';
import { wholeRect } from '@rammer/core/earth/rect';
import { SLOTS, type GroundRaster } from '@rammer/core/surface/ground';
import { sharePictures } from '@rammer/core/surface/shares';
import { FINE_SIDE, TEXTURE_SIDE, weaveKey, weaveOf, type Weave } from '@rammer/core/surface/textures';
import { grainTexture } from './grain';
import { levelTexture } from './waterView';

/** Samples a side of the picture of the ground that the feet of things are mixed with, at most. */
const CONTACT_SIDE = 1024;

/** What is left of the sky's red, green and blue at full night. */
const NIGHT = [0.13, 0.17, 0.25] as const;

/** What every shader of the level shares: light and grade of the lighting, the surfaces, and what lies over the whole level in plan. */
export class Look {
  readonly uniforms: Record<string, IUniform>;
  private readonly grain = grainTexture();
  private readonly spacing: number;
  private surfaces: readonly Surface[] = [];
  /** key of each surface's weave, by its id */
  private keys: ReadonlyMap<string, string> = new Map();
  /** where the texture of each weave lies in the array, by its key */
  private layers: ReadonlyMap<string, number> = new Map();
  /** mean colour of each of them, red, green and blue, 0 to 1 */
  private colours: readonly (readonly [number, number, number])[] = [];

  /** textures as they are made, and finer where they are pictures */
  private coarse?: DataArrayTexture;
  private fine?: DataArrayTexture;
  private woven: readonly Weave[] = [];

  constructor(grid: Grid) {
    this.spacing = grid.spacing;
    const plain = (value: number, channels: 2 | 4) => levelTexture(new Uint8Array(channels).fill(value), 1, 1, channels);
    this.uniforms = {
      uSun: { value: new Vector3() },
      uEye: { value: new Vector3() },
      uView: { value: new Vector3() },
      uWork: { value: 0 },
      uLimit: { value: 45 },
      uPicture: { value: null },
      uStep: { value: 1 },
      uSpacing: { value: 0.5 },
      uBlur: { value: 0 },
      uSunlight: { value: new Vector3() },
      uDay: { value: 1 },
      uFill: { value: new Vector3() },
      uBounce: { value: new Vector3() },
      uHaze: { value: new Vector3() },
      uZenith: { value: new Vector3() },
      uThick: { value: 0 },
      uGrade: { value: new Vector3(1, 1, 1) },
      uGrain: { value: this.grain },
      uSurfaces: { value: flatSurfaces() },
      uRaise: { value: 0.012 },
      ...paletteUniforms(),
      uPlaceLight: { value: plain(255, 2) },
      uTops: { value: sharesTexture(new Uint8Array(4), 1, 1, 1) },
      uLevelSize: { value: new Vector2(grid.width, grid.depth) },
      uGroundHeight: { value: halfTexture(new Uint16Array(1), 1, 1, RedFormat) },
      uCover: { value: halfTexture(new Uint16Array(4), 1, 1, RGBAFormat) },
      uCoverLow: { value: -1e4 },
      uCoverFrom: { value: 1 },
      uGroundColour: { value: plain(0, 4) },
      uGroundLow: { value: -1e4 },
      uSway: { value: 1 },
      uRoots: { value: 0 },
      uRootsTo: { value: 1 },
      ...coatUniforms(),
    };
  }

  /** Sun, fill, sky, haze and grade as the shaders want them. */
  setLighting(lighting: Lighting): void {
    const set = (name: string, x: number, y: number, z: number) => (this.uniforms[name].value as Vector3).set(x, y, z);
    const day = daylight(lighting.sun);
    const sun = sunDirection(day.azimuth, day.elevation);
    set('uSun', ...sun);
    // A low sun is redder: its light has come through more air.
    const low = day.moon ? 0 : 1 - Math.min(1, sun[1] / 0.55);
    const strong = lighting.sunlight * day.strength;
    // A moon's light is the sun's, and looks bluer to eyes that are wide open.
    if (day.moon) set('uSunlight', strong * 0.8, strong * 1.05, strong * 1.5);
    else set('uSunlight', strong * (1.28 + 0.06 * low), strong * (1.13 - 0.25 * low), strong * (0.92 - 0.4 * low));
    const dim = (colour: [number, number, number]) => colour.map((v, k) => v * (day.sky + (1 - day.sky) * NIGHT[k])) as [number, number, number];
    const sky = dim(rgb(lighting.sky));
    const horizon = dim(rgb(lighting.horizon));
    const fill = [0, 1, 2].map((k) => lighting.fill * (sky[k] * 0.85 + horizon[k] * 0.12));
    set('uFill', fill[0], fill[1], fill[2]);
    const bounce = lighting.fill * (day.sky + (1 - day.sky) * NIGHT[1]);
    set('uBounce', bounce * 0.25, bounce * 0.22, bounce * 0.17);
    set('uZenith', ...sky);
    set('uHaze', horizon[0] * 0.96, horizon[1] * 0.96, horizon[2] * 0.96);
    this.uniforms.uDay.value = day.sky;
    this.uniforms.uThick.value = lighting.haze > 0 ? 1 / lighting.haze : 0;
    set('uGrade', 2 ** lighting.exposure, lighting.contrast, lighting.saturation);
  }

  /**
   * The surfaces of the level.
   * @returns textures that are still to be made for them, all that are wanted
   */
  setSurfaces(surfaces: readonly Surface[], level: Level): Weave[] | undefined {
    this.surfaces = surfaces;
    const weaves = surfaces.map((s) => weaveOf(s, level));
    this.keys = new Map(surfaces.map((s, i) => [s.id, weaveKey(weaves[i])]));
    const wanted = new Map(weaves.map((w) => [weaveKey(w), w]));
    return [...wanted.keys()].every((k) => this.layers.has(k)) ? undefined : [...wanted.values()];
  }

  /** Where the texture of a surface lies in the array; until it is made it wears the first. */
  private layerOf(s: Surface): number {
    return this.layers.get(this.keys.get(s.id) ?? '') ?? 0;
  }

  /** Where the texture of a surface lies in the array, and how large its tile is. */
  wornOf(id: string): { layer: number; tile: number } | undefined {
    const s = this.surfaces.find((s) => s.id === id);
    return s && { layer: this.layerOf(s), tile: s.tile };
  }

  /** Fills the uniforms of a palette: which texture, how large, tinted how and laid how each channel of a picture of shares is. */
  setPalette(uniforms: Record<string, IUniform>, palette: readonly number[], count: number): void {
    const slots = Array.from({ length: count * 4 }, (_, i) => this.surfaces[palette[i]]);
    uniforms.uLayer.value = slots.map((s) => (s ? this.layerOf(s) : 0));
    uniforms.uTileSide.value = slots.map((s) => s?.tile ?? 4);
    uniforms.uTints.value = slots.map((s) => new Vector3(...rgb(s?.tint ?? '#ffffff')));
    uniforms.uWet.value = slots.map((s) => (s?.feel === 'wet' ? 1 : 0));
    uniforms.uLaying.value = slots.map((s) => LAYINGS.indexOf(s?.laying ?? 'plain'));
  }

  /**
   * Paint on what stands on the terrain; a level without any needs no picture of it.
   * @returns how many pictures of four surfaces it takes, 0 for no paint
   */
  setTops(ground: GroundRaster): number {
    const { tops, grid } = ground;
    (this.uniforms.uLevelSize.value as Vector2).set(grid.width, grid.depth);
    // Four bytes at a time: a large level has tens of millions, mostly none of them painted.
    const four = new Uint32Array(tops.buffer, tops.byteOffset, tops.length / 4);
    let any = false;
    for (let i = 0; i < four.length && !any; i++) any = four[i] !== 0;
    if (!any) {
      this.swap('uTops', sharesTexture(new Uint8Array(4), 1, 1, 1));
      return 0;
    }
    const { data, palette, count } = sharePictures(ground, wholeRect(grid), true);
    this.swap('uTops', sharesTexture(data, grid.nx, grid.nz, count));
    this.setPalette(this.uniforms, palette, count);
    return count;
  }

  /** Height and colour of the ground over the whole level, for what stands in it: its foot takes on some of what lies there. */
  setContact({ grid, heights }: Terrain, ground: GroundRaster): void {
    if (this.colours.length === 0) return;
    let low = Infinity;
    for (const h of heights) if (h < low) low = h;
    // A large level by every second sample, or fourth: it is for the foot of things, not for the ground.
    const step = 2 ** Math.max(0, Math.ceil(Math.log2((Math.max(grid.nx, grid.nz) - 1) / CONTACT_SIDE)));
    const [w, d] = [(grid.nx - 1) / step + 1, (grid.nz - 1) / step + 1];
    const half = new Uint16Array(w * d);
    const of = ground.surfaces.map((s) => {
      const mean = this.colours[this.layerOf(s)];
      const tint = rgb(s.tint);
      return [mean[0] * tint[0], mean[1] * tint[1], mean[2] * tint[2]] as const;
    });
    const colour = new Uint8Array(w * d * 4);
    for (let o = 0; o < half.length; o++) {
      const i = Math.floor(o / w) * step * grid.nx + (o % w) * step;
      half[o] = DataUtils.toHalfFloat(heights[i] - low);
      let r = 0;
      let g = 0;
      let b = 0;
      for (let k = i * SLOTS; k < (i + 1) * SLOTS; k++) {
        const c = of[ground.of[k]];
        if (!c || ground.weights[k] === 0) continue;
        r += c[0] * ground.weights[k];
        g += c[1] * ground.weights[k];
        b += c[2] * ground.weights[k];
      }
      colour[o * 4] = r;
      colour[o * 4 + 1] = g;
      colour[o * 4 + 2] = b;
    }
    this.uniforms.uGroundLow.value = low;
    this.swap('uGroundHeight', halfTexture(half, w, d, RedFormat));
    this.swap('uGroundColour', levelTexture(colour, w, d, 4));
  }

  /** What is roofed over: as high as its top, and how much of the sky's light comes in under it. */
  setCover({ nx, nz, step, top, hangs, open }: Cover): void {
    const low = top.reduce((a, b) => Math.min(a, b), Infinity);
    const data = new Uint16Array(nx * nz * 4);
    for (let i = 0; i < top.length; i++) {
      data[i * 4] = DataUtils.toHalfFloat(top[i] - low);
      data[i * 4 + 1] = DataUtils.toHalfFloat(open[i]);
      data[i * 4 + 2] = hangs[i] * ONE;
    }
    this.uniforms.uCoverLow.value = low;
    // What is steeper than a roof between two samples is not told from being under one.
    this.uniforms.uCoverFrom.value = 0.35 + 0.6 * step * this.spacing;
    this.swap('uCover', halfTexture(data, nx, nz, RGBAFormat));
  }

  /** Sun and open sky over the whole level, two bytes a sample. */
  setPlaceLight(light: Uint8Array, grid: Grid): void {
    this.swap('uPlaceLight', levelTexture(light, grid.nx, grid.nz, 2));
  }

  /** Textures of surfaces, one after the other, as `setSurfaces` asked for them. */
  setTextures(weaves: readonly Weave[], data: Uint8Array): void {
    this.layers = new Map(weaves.map((w, i) => [weaveKey(w), i]));
    this.colours = weaves.map((_, i) => meanColour(data, i * TEXTURE_SIDE * TEXTURE_SIDE * 4, TEXTURE_SIDE * TEXTURE_SIDE));
    this.coarse?.dispose();
    this.coarse = surfacesTexture(data, TEXTURE_SIDE, weaves.length);
    // Its layers are others now.
    this.fine?.dispose();
    this.fine = undefined;
    this.woven = weaves;
    this.wear(false);
  }

  /** The same textures as fine as their pictures are, for the full picture; nothing where they are the ones there are. */
  get finer(): readonly Weave[] {
    return this.woven.some((w) => w.picture !== undefined) ? this.woven : [];
  }

  /** @param weaves those it was made of: it is let go where they are others now */
  setFine(weaves: readonly Weave[], data: Uint8Array): void {
    if (weaves !== this.woven) return;
    this.fine?.dispose();
    this.fine = surfacesTexture(data, FINE_SIDE, weaves.length);
    this.fine.minFilter = LinearMipmapLinearFilter;
    this.fine.anisotropy = 8;
  }

  /** Surfaces as fine as they are there, or as a slow machine draws them. */
  wear(fine: boolean): void {
    const texture = (fine ? this.fine : undefined) ?? this.coarse;
    if (texture) this.uniforms.uSurfaces.value = texture;
    // Stones of a fine picture stand out by what they are high; of a coarse one that would be stairs.
    this.uniforms.uRaise.value = fine && this.fine ? 0.026 : 0.012;
  }

  dispose(): void {
    this.grain.dispose();
    this.coarse?.dispose();
    this.fine?.dispose();
    for (const name of ['uPlaceLight', 'uTops', 'uGroundHeight', 'uGroundColour', 'uCover']) (this.uniforms[name].value as Texture).dispose();
  }

  private swap(name: string, texture: DataTexture | DataArrayTexture): void {
    (this.uniforms[name].value as Texture).dispose();
    this.uniforms[name].value = texture;
  }
}

/** Compiles a material of blocks or pieces with the paint on their tops, or without it. @param pictures as `setTops` gives them */
export function paintTops(material: ShaderMaterial, pictures: number): void {
  if ((material.defines.PAINTED ?? 0) === pictures) return;
  if (pictures > 0) Object.assign(material.defines, { PAINTED: pictures, PICTURES: pictures });
  else {
    delete material.defines.PAINTED;
    delete material.defines.PICTURES;
  }
  material.needsUpdate = true;
}

/** Uniforms of a palette of surfaces, four to a picture of shares; see `Look.setPalette`. */
export const paletteUniforms = (): Record<string, IUniform> => ({
  uLayer: { value: [0, 0, 0, 0] },
  uTileSide: { value: [1, 1, 1, 1] },
  uTints: { value: [0, 1, 2, 3].map(() => new Vector3(1, 1, 1)) },
  uLaying: { value: [0, 0, 0, 0] },
  uWet: { value: [0, 0, 0, 0] },
});

/** Pictures of shares as `sharePictures` lays them out. */
export function sharesTexture(data: Uint8Array, nx: number, nz: number, count: number): DataArrayTexture {
  const texture = new DataArrayTexture(data, nx, nz, count);
  texture.magFilter = texture.minFilter = LinearFilter;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  return texture;
}

/** Numbers over the whole level as half floats, one or four a place; a sampler mixes them. */
function halfTexture(data: Uint16Array, nx: number, nz: number, format: typeof RedFormat | typeof RGBAFormat): DataTexture {
  const texture = new DataTexture(data, nx, nz, format, HalfFloatType);
  texture.magFilter = texture.minFilter = LinearFilter;
  texture.unpackAlignment = 1;
  texture.needsUpdate = true;
  return texture;
}

/** Textures of surfaces as layers of one. */
function surfacesTexture(data: Uint8Array, side: number, count: number): DataArrayTexture {
  const texture = new DataArrayTexture(data, side, side, count);
  texture.wrapS = texture.wrapT = RepeatWrapping;
  texture.magFilter = LinearFilter;
  texture.minFilter = LinearMipmapNearestFilter;
  texture.generateMipmaps = true;
  texture.needsUpdate = true;
  return texture;
}

/** One as a half float. */
const ONE = DataUtils.toHalfFloat(1);

/** Mean of a run of pixels of four bytes, 0 to 1. */
function meanColour(data: Uint8Array, from: number, pixels: number): [number, number, number] {
  const sum: [number, number, number] = [0, 0, 0];
  for (let i = from; i < from + pixels * 4; i += 4) for (let c = 0; c < 3; c++) sum[c] += data[i + c];
  return sum.map((v) => v / pixels / 255) as [number, number, number];
}

/** One plain colour, until the textures are made. */
function flatSurfaces(): DataArrayTexture {
  const texture = new DataArrayTexture(Uint8Array.from([88, 88, 66, 255]), 1, 1, 1);
  texture.needsUpdate = true;
  return texture;
}
