import { DataArrayTexture, LinearFilter, LinearMipmapNearestFilter, RepeatWrapping, Vector2, Vector3, Vector4, type DataTexture, type IUniform, type ShaderMaterial } from 'three';
import { TEXTURES, type Mood, type Surface } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import { rgb } from '@rammer/core/mood/moods';
import { sunDirection } from '@rammer/core/mood/sunlit';
import type { GroundRaster } from '@rammer/core/surface/ground';
import { TEXTURE_SIDE } from '@rammer/core/surface/textures';
import { grainTexture } from './grain';
import { levelTexture } from './waterView';

/** What every shader of the level shares: light and grade of the mood, the surfaces, and what lies over the whole level in plan. */
export class Look {
  readonly uniforms: Record<string, IUniform>;
  private readonly grain = grainTexture();

  constructor(grid: Grid) {
    const plain = (value: number, channels: 2 | 4) => levelTexture(new Uint8Array(channels).fill(value), 1, 1, channels);
    this.uniforms = {
      uSun: { value: new Vector3() }, uEye: { value: new Vector3() }, uView: { value: new Vector3() }, uWork: { value: 0 }, uLimit: { value: 45 }, uPicture: { value: null }, uStep: { value: 1 }, uSpacing: { value: 0.5 }, uBlur: { value: 0 },
      uSunlight: { value: new Vector3() }, uFill: { value: new Vector3() }, uBounce: { value: new Vector3() }, uHaze: { value: new Vector3() }, uZenith: { value: new Vector3() }, uThick: { value: 0 }, uGrade: { value: new Vector3(1, 1, 1) },
      uGrain: { value: this.grain }, uSurfaces: { value: flatSurfaces() }, uLayer: { value: new Vector4() }, uSize: { value: new Vector4(1, 1, 1, 1) }, uTints: { value: [0, 1, 2, 3].map(() => new Vector3(1, 1, 1)) },
      uPlaceLight: { value: plain(255, 2) }, uTops: { value: plain(0, 4) }, uLevelSize: { value: new Vector2(grid.width, grid.depth) },
    };
  }

  /** Sun, fill, sky, haze and grade as the shaders want them. */
  setMood(mood: Mood): void {
    const set = (name: string, x: number, y: number, z: number) => (this.uniforms[name].value as Vector3).set(x, y, z);
    const sun = sunDirection(mood.sun.azimuth, mood.sun.elevation);
    set('uSun', ...sun);
    // A low sun is redder: its light has come through more air.
    const low = 1 - Math.min(1, sun[1] / 0.55);
    set('uSunlight', mood.sunlight * (1.28 + 0.06 * low), mood.sunlight * (1.13 - 0.25 * low), mood.sunlight * (0.92 - 0.4 * low));
    const sky = rgb(mood.sky);
    const horizon = rgb(mood.horizon);
    const fill = [0, 1, 2].map((k) => mood.fill * (sky[k] * 0.85 + horizon[k] * 0.12));
    set('uFill', fill[0], fill[1], fill[2]);
    set('uBounce', mood.fill * 0.25, mood.fill * 0.22, mood.fill * 0.17);
    set('uZenith', ...sky);
    set('uHaze', horizon[0] * 0.96, horizon[1] * 0.96, horizon[2] * 0.96);
    this.uniforms.uThick.value = mood.haze > 0 ? 1 / mood.haze : 0;
    set('uGrade', 2 ** mood.exposure, mood.contrast, mood.saturation);
  }

  setSurfaces(surfaces: readonly Surface[]): void {
    const four = [0, 1, 2, 3].map((i) => surfaces[i]);
    (this.uniforms.uLayer.value as Vector4).fromArray(four.map((s) => (s ? TEXTURES.indexOf(s.texture) : 0)));
    (this.uniforms.uSize.value as Vector4).fromArray(four.map((s) => s?.tile ?? 4));
    (this.uniforms.uTints.value as Vector3[]).forEach((v, i) => v.set(...rgb(four[i]?.tint ?? '#ffffff')));
  }

  /**
   * Paint on what stands on the terrain; a level without any needs no picture of it.
   * @returns whether there is any
   */
  setTops({ tops, grid }: GroundRaster): boolean {
    const painted = tops.some((v) => v > 0);
    this.swap('uTops', painted ? levelTexture(tops, grid.nx, grid.nz, 4) : levelTexture(new Uint8Array(4), 1, 1, 4));
    (this.uniforms.uLevelSize.value as Vector2).set(grid.width, grid.depth);
    return painted;
  }

  /** Sun and open sky over the whole level, two bytes a sample. */
  setPlaceLight(light: Uint8Array, grid: Grid): void { this.swap('uPlaceLight', levelTexture(light, grid.nx, grid.nz, 2)); }

  /** The generated textures of all surfaces, in the order of `TEXTURES`. */
  setTextures(data: Uint8Array): void {
    const texture = new DataArrayTexture(data, TEXTURE_SIDE, TEXTURE_SIDE, TEXTURES.length);
    texture.wrapS = texture.wrapT = RepeatWrapping;
    texture.magFilter = LinearFilter;
    texture.minFilter = LinearMipmapNearestFilter;
    texture.generateMipmaps = true;
    texture.needsUpdate = true;
    this.swap('uSurfaces', texture);
  }

  dispose(): void {
    this.grain.dispose();
    for (const name of ['uSurfaces', 'uPlaceLight', 'uTops']) (this.uniforms[name].value as DataTexture).dispose();
  }

  private swap(name: string, texture: DataTexture | DataArrayTexture): void {
    (this.uniforms[name].value as DataTexture).dispose();
    this.uniforms[name].value = texture;
  }
}

/** Compiles a material of blocks or pieces with the paint on their tops, or without it. */
export function paintTops(material: ShaderMaterial, painted: boolean): void {
  if (('PAINTED' in material.defines) === painted) return;
  if (painted) material.defines.PAINTED = '';
  else delete material.defines.PAINTED;
  material.needsUpdate = true;
}

/** One plain colour each, until the textures are made. */
function flatSurfaces(): DataArrayTexture {
  const texture = new DataArrayTexture(Uint8Array.from([80, 80, 42, 255, 82, 84, 90, 255, 110, 107, 104, 255, 66, 80, 30, 255]), 1, 1, TEXTURES.length);
  texture.needsUpdate = true;
  return texture;
}
