import {
  BackSide,
  BoxGeometry,
  ClampToEdgeWrapping,
  DataTexture,
  FloatType,
  GLSL3,
  HalfFloatType,
  LinearFilter,
  Mesh,
  PMREMGenerator,
  RepeatWrapping,
  RGBAFormat,
  Scene,
  ShaderMaterial,
  Texture,
  Vector2,
  Vector3,
  Vector4,
  WebGLRenderTarget,
  DataUtils,
  type IUniform,
  type WebGLRenderer,
} from 'three';
import type { SkyTable } from '@rammer/core/light/atmosphere';
import { gatheredLight } from '@rammer/core/light/harmonics';
import { rgb } from '@rammer/core/level/lighting';
import { AIR, type Lighting } from '@rammer/core/level/objects';
import type { Panorama } from '@rammer/core/light/panorama';
import { daylight } from '@rammer/core/light/sunAt';
import { sunDirection } from '@rammer/core/light/sunlit';
import { srgbToLinear } from '@rammer/core/num/srgb';
import type { Vec3 } from '@rammer/core/num/vec';
import { AROUND_FRAGMENT, AROUND_VERTEX, DOME_FRAGMENT, MAP_FRAGMENT } from '../shaders/full/sky';
import { Quad } from './quad';
import type { FullUniforms } from './uniforms';

/** Light of the sun outside the air over pi, in the picture's own unit: a white card that faces the noon sun shines with about 2.8 of it. */
const SUN_OUTSIDE = 3.4;
/** A painted sky is chosen by its looks and lights less than it should beside its sun. */
const PAINTED_FILL = 1.3;
/** Light of a painted sun: what the plain picture takes it for, and so much more, for sums of what one sees are more than sums of light. */
const PAINTED_SUN = 1.6;
/** What is left of light at full night, and the hue of a moon. */
const NIGHT: Vec3 = [0.012, 0.017, 0.029];
const MOON: Vec3 = [0.62, 0.8, 1.1];
/** Light of a full moon: far more than it has against the sun, for eyes that are used to the dark. */
const MOONLIGHT = 0.17;
/** Light the ground throws back, of what falls on it. */
const GROUND: Vec3 = [0.17, 0.16, 0.13];
/** Side of the map the sky's light is gathered from. */
const MAP = { width: 64, height: 32 };

/** The sky of a lighting, as it is seen, as it lights and as it is mirrored. */
export class SkyLight {
  readonly dome: Quad;
  /** direction to the sun, or the moon */
  sun: Vec3 = [0, 1, 0];
  private readonly own: Record<string, IUniform>;
  private readonly map: Quad;
  private readonly mapTarget = new WebGLRenderTarget(MAP.width, MAP.height, { type: FloatType, depthBuffer: false });
  private readonly around = new Scene();
  private readonly aroundMaterial: ShaderMaterial;
  private readonly filter: PMREMGenerator;
  private filtered?: { texture: Texture; dispose(): void };
  private table?: DataTexture;
  private stale = true;

  constructor(
    private readonly renderer: WebGLRenderer,
    shared: Record<string, IUniform>,
    private readonly uniforms: FullUniforms,
  ) {
    this.own = {
      uSun: { value: new Vector3() },
      uSunHere: uniforms.uSunHere,
      uSkyZenith: { value: new Vector3() },
      uSkyHorizon: { value: new Vector3() },
      uSkyGround: { value: new Vector3() },
      uSkyTable: { value: null },
      uSkyFill: { value: 1 },
      uSkyTurn: { value: 0 },
      uClouds: { value: new Vector4() },
      uDay: { value: 1 },
      uGrain: shared.uGrain,
    };
    const aim = { uForward: { value: new Vector3() }, uRight: { value: new Vector3() }, uUp: { value: new Vector3() }, uTan: { value: new Vector2() } };
    this.dome = new Quad(DOME_FRAGMENT, { ...this.own, ...aim }, { depth: true });
    // Only where nothing stands: at the far end, behind all.
    this.dome.material.vertexShader = this.dome.material.vertexShader.replace('0.0, 1.0)', '0.999999, 1.0)');
    this.dome.material.depthFunc = 3; // nearer or as near
    this.dome.material.depthWrite = false;
    this.map = new Quad(MAP_FRAGMENT, this.own);
    this.aroundMaterial = new ShaderMaterial({
      glslVersion: GLSL3,
      vertexShader: AROUND_VERTEX,
      fragmentShader: AROUND_FRAGMENT,
      uniforms: this.own,
      side: BackSide,
      depthWrite: false,
      depthTest: false,
    });
    const box = new Mesh(new BoxGeometry(2, 2, 2), this.aroundMaterial);
    box.frustumCulled = false;
    this.around.add(box);
    this.filter = new PMREMGenerator(renderer);
  }

  /**
   * Takes on a lighting.
   * @param table of a clear day, where its sky is one and the table is there
   * @param panorama where its sky is one and the picture is there
   */
  set(lighting: Lighting, table?: SkyTable, panorama?: Panorama): void {
    const air = lighting.air ?? AIR;
    const day = daylight(lighting.sun);
    this.sun = sunDirection(day.azimuth, day.elevation);
    const put = (name: string, v: Vec3) => (this.own[name].value as Vector3).set(...v);
    put('uSun', this.sun);
    this.own.uDay.value = day.sky;
    const light = (hex: string): Vec3 => rgb(hex).map(srgbToLinear) as Vec3;
    const night = (v: Vec3, share: number): Vec3 => v.map((x, k) => x * share + NIGHT[k] * (1 - share)) as Vec3;
    const fill = lighting.fill;
    const clear = air.sky === 'sun' ? table : undefined;
    const picture = air.sky === 'panorama' ? panorama : undefined;
    let here: Vec3;
    if (day.moon) here = MOON.map((v) => v * MOONLIGHT * (day.strength / 0.11) * lighting.sunlight) as Vec3;
    else if (clear) here = clear.sun.map((v) => v * SUN_OUTSIDE * day.strength * lighting.sunlight) as Vec3;
    else {
      // As the plain picture has it, its sums of what one sees taken as light.
      const low = 1 - Math.min(1, this.sun[1] / 0.55);
      const strong = lighting.sunlight * day.strength;
      here = [strong * (1.28 + 0.06 * low), strong * (1.13 - 0.25 * low), strong * (0.92 - 0.4 * low)].map((v) => v * v * PAINTED_SUN) as Vec3;
    }
    let zenith = night(light(lighting.sky), day.sky);
    let horizon = night(light(lighting.horizon), day.sky);
    const define = picture ? 'PANORAMA' : clear ? 'AIR' : 'COLOURS';
    this.own.uSkyFill.value = fill;
    if (clear) {
      const scale = SUN_OUTSIDE * Math.max(day.sky, 0);
      const mean = (row: number): Vec3 => {
        const sum: Vec3 = [0, 0, 0];
        for (let c = 0; c < clear.width; c++) for (let k = 0; k < 3; k++) sum[k] += clear.data[(row * clear.width + c) * 3 + k] / clear.width;
        return sum.map((v, k) => v * scale + NIGHT[k] * (1 - day.sky)) as Vec3;
      };
      zenith = mean(clear.height - 1);
      horizon = mean(Math.round(clear.height * 0.2));
      this.swapTable(tableTexture(clear, scale, 1 - day.sky));
    } else if (picture) {
      this.swapTable(panoramaTexture(picture));
      this.own.uSkyTurn.value = (360 - air.turn) / 360;
      horizon = horizonOf(picture).map((v) => v * fill) as Vec3;
    }
    put('uSkyZenith', zenith);
    put('uSkyHorizon', horizon);
    this.uniforms.uSunHere.value.set(...here);
    this.uniforms.uAir.value.set(...(horizon.map((v) => v * (clear ? fill : 1)) as Vec3));
    const density = lighting.haze > 0 ? Math.LN2 / lighting.haze : 0;
    this.uniforms.uAirAt.value.set(density, 0, air.hazeHeight > 0 ? 1 / air.hazeHeight : 0);
    const to = ((air.windFrom + 180) * Math.PI) / 180;
    this.wind.set(Math.sin(to), -Math.cos(to)).multiplyScalar(air.wind / 6);
    (this.own.uClouds.value as Vector4).x = picture ? 0 : air.clouds;
    // The ground shines with what falls on it.
    const sky = horizon.map((v, k) => (v + zenith[k]) * 0.5 * (define === 'COLOURS' ? PAINTED_FILL * fill : fill));
    put('uSkyGround', GROUND.map((g, k) => g * (here[k] * Math.max(0, this.sun[1]) + sky[k])).map((v, k) => v * 0.75 + horizon[k] * 0.12) as Vec3);
    for (const m of [this.dome.material, this.map.material, this.aroundMaterial]) {
      if (m.defines[define] !== undefined) continue;
      for (const d of ['COLOURS', 'AIR', 'PANORAMA']) delete m.defines[d];
      m.defines[define] = '';
      m.needsUpdate = true;
    }
    this.share = define === 'COLOURS' ? PAINTED_FILL * fill : 1;
    this.stale = true;
  }

  private share = 1;
  /** strength along x and z, as plants go by it */
  readonly wind = new Vector2();

  /** Clouds drawn on by the wind. @param metres they went */
  setDrift(metres: number, from: number): void {
    const drift = metres / 1500;
    const c = this.own.uClouds.value as Vector4;
    const way = ((from + 180) * Math.PI) / 180;
    c.y = -drift * Math.sin(way);
    c.z = drift * Math.cos(way);
  }

  /** Gathers and filters the sky where it changed: before a frame that needs it. */
  refresh(): void {
    if (!this.stale) return;
    this.stale = false;
    const { renderer } = this;
    const before = renderer.getRenderTarget();
    // As at the start of the wind: light that lies on a still must not go by when its sky was gathered.
    const drift = this.own.uClouds.value as Vector4;
    const { y, z } = drift;
    drift.y = drift.z = 0;
    this.map.draw(renderer, this.mapTarget);
    const pixels = new Float32Array(MAP.width * MAP.height * 4);
    renderer.readRenderTargetPixels(this.mapTarget, 0, 0, MAP.width, MAP.height, pixels);
    const gathered = gatheredLight({ pixels, ...MAP, channels: 4 });
    this.uniforms.uSky.value.forEach((v, i) => v.set(gathered[i * 3], gathered[i * 3 + 1], gathered[i * 3 + 2]).multiplyScalar(this.share));
    this.filtered?.dispose();
    this.filtered = this.filter.fromScene(this.around, 0, 0.1, 100, { size: 256 });
    this.uniforms.uAround.value = this.filtered.texture as never;
    drift.y = y;
    drift.z = z;
    renderer.setRenderTarget(before);
  }

  private swapTable(texture: DataTexture): void {
    this.table?.dispose();
    this.table = texture;
    this.own.uSkyTable.value = texture;
  }

  dispose(): void {
    this.dome.dispose();
    this.map.dispose();
    this.mapTarget.dispose();
    this.aroundMaterial.dispose();
    this.filter.dispose();
    this.filtered?.dispose();
    this.table?.dispose();
  }
}

function floatTexture(data: Uint16Array, width: number, height: number): DataTexture {
  const texture = new DataTexture(data, width, height, RGBAFormat, HalfFloatType);
  texture.magFilter = texture.minFilter = LinearFilter;
  texture.wrapS = texture.wrapT = ClampToEdgeWrapping;
  texture.needsUpdate = true;
  return texture;
}

function tableTexture({ width, height, data }: SkyTable, scale: number, night: number): DataTexture {
  const half = new Uint16Array(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    for (let k = 0; k < 3; k++) half[i * 4 + k] = DataUtils.toHalfFloat(Math.min(60000, data[i * 3 + k] * scale + NIGHT[k] * night));
    half[i * 4 + 3] = DataUtils.toHalfFloat(1);
  }
  return floatTexture(half, width, height);
}

function panoramaTexture({ width, height, data }: Panorama): DataTexture {
  const half = new Uint16Array(width * height * 4);
  for (let i = 0; i < width * height; i++) {
    for (let k = 0; k < 3; k++) half[i * 4 + k] = DataUtils.toHalfFloat(Math.min(60000, data[i * 3 + k]));
    half[i * 4 + 3] = DataUtils.toHalfFloat(1);
  }
  const texture = floatTexture(half, width, height);
  texture.wrapS = RepeatWrapping;
  return texture;
}

/** Mean light about the horizon of a panorama: what haze shines with. */
function horizonOf({ width, height, data }: Panorama): Vec3 {
  const sum: Vec3 = [0, 0, 0];
  let n = 0;
  for (let row = Math.floor(height * 0.5); row < height * 0.56; row++)
    for (let c = 0; c < width; c += Math.max(1, width >> 8)) {
      for (let k = 0; k < 3; k++) sum[k] += data[(row * width + c) * 3 + k];
      n++;
    }
  return sum.map((v) => v / Math.max(1, n)) as Vec3;
}
