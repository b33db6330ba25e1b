import {
  DepthTexture,
  FloatType,
  HalfFloatType,
  NearestFilter,
  RedFormat,
  UnsignedIntType,
  Vector2,
  Vector3,
  WebGLRenderTarget,
  type IUniform,
  type OrthographicCamera,
  type PerspectiveCamera,
  type Texture,
  type WebGLRenderer,
} from 'three';
import { FXAAShader } from 'three/examples/jsm/shaders/FXAAShader.js';
import type { Camera } from '@rammer/core/cost/camera';
import { AIR, type Lighting, type Pose } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { discPoint, pixelJitter, skyDirection, withinSun } from '@rammer/core/light/samples';
import { tangent } from '../backdrop';
import { SEE_THROUGH } from '../layers';
import { COPY, FAR_AWAY, GATHER, JOIN, NEAR_SHADE, SHOW, TONE } from '../shaders/full/passes';
import { readPixels } from '../still';
import { Wardrobe } from './dress';
import { Quad } from './quad';
import { Shadows } from './shadows';
import { SkyLight } from './skyLight';
import type { Staged } from './staged';
import { fullUniforms } from './uniforms';

export interface Framed {
  camera: Camera;
  eye: PerspectiveCamera | OrthographicCamera;
  width: number;
  height: number;
  /** level at the LODs it is seen at, what is out of view left out */
  lods: ReadonlyMap<string, number>;
  staged: Staged;
  /** whether anything of it is seen through, water or glass; asked once it is shown */
  seeThrough(): boolean;
  /** seconds that wind and waves have gone */
  time: number;
  /** plants stand as they grew, without wind */
  calm?: boolean;
  /** blur by the lens, see `Pose` */
  lens?: Pose['lens'];
  /** which frame of a picture that refines; in motion none */
  step?: number;
}

export interface Counted {
  draws: number;
  triangles: number;
}

/** How a machine draws the full picture. */
export interface Means {
  /** texels of a side of a box of light */
  shadows: number;
  /** steps along the haze before each pixel for shafts of light, in motion and when it refines */
  shafts: [motion: number, refining: number];
}
export const GPU: Means = { shadows: 2048, shafts: [10, 2] };
export const SOFTWARE: Means = { shadows: 1024, shafts: [4, 1] };

/** Makes three's own shader one of ours. */
const FXAA_HEAD = 'in vec2 vAt;\nout vec4 outColour;\n#define vUv (vAt * 0.5 + 0.5)\n#define gl_FragColor outColour\n';
/** Metres about a place that its sky may be dimmed from near by. */
const REACH = 1.1;
/** Share of the sun's light in the haze that is drawn: the haze's own colour holds the rest. */
const SHAFTS = 0.25;
/** From this many frames on the first, of baked light, shows through no more. */
const SETTLED = 8;

/**
 * The full picture of a level: shadows of the sun in boxes of light, light of the sky, haze and shafts, water that is seen through, tone
 * mapping; and its refinement frame by frame: jittered within the pixel, the sun's disc and the sky.
 */
export class FullPicture {
  readonly uniforms = fullUniforms();
  readonly sky: SkyLight;
  private readonly wardrobe: Wardrobe;
  private readonly shadows: Shadows;
  private level: WebGLRenderTarget;
  private joined: WebGLRenderTarget;
  private farAway: WebGLRenderTarget;
  private nearShade: WebGLRenderTarget;
  private toned: WebGLRenderTarget;
  private smooth: WebGLRenderTarget;
  private sums?: [WebGLRenderTarget, WebGLRenderTarget];
  private first?: WebGLRenderTarget;
  private readonly quads: Record<'far' | 'shade' | 'join' | 'joinFine' | 'copy' | 'gather' | 'tone' | 'fxaa' | 'show', Quad>;
  private air = AIR;
  private lit: { key: string; rest: readonly unknown[] } = { key: '', rest: [] };

  constructor(
    private readonly renderer: WebGLRenderer,
    shared: Record<string, IUniform>,
    means: Means,
  ) {
    this.sky = new SkyLight(renderer, shared, this.uniforms);
    this.wardrobe = new Wardrobe(this.uniforms);
    this.shadows = new Shadows(renderer, this.wardrobe, this.uniforms, means.shadows);
    const u = (value: unknown = null): IUniform => ({ value });
    const aim = { uForward: u(new Vector3()), uRight: u(new Vector3()), uUp: u(new Vector3()), uTan: u(new Vector2()), uFlat: u(0) };
    const join = (steps: number, blur: number) =>
      new Quad(
        JOIN,
        {
          ...this.uniforms,
          ...aim,
          uSun: shared.uSun,
          uEye: shared.uEye,
          uOfSun: u(),
          uOfSky: u(),
          uNearShade: u(),
          uShadeStrength: u(1),
          uShafts: u(1),
        },
        { defines: { STEPS: steps, BLUR: blur } },
      );
    this.quads = {
      far: new Quad(FAR_AWAY, { uDepth: u(), uLens: u(new Vector2()), uFlat: u(0) }),
      shade: new Quad(NEAR_SHADE, { uFarAway: this.uniforms.uFarAway, uTan: u(new Vector2()), uFlat: u(0), uPhase: this.uniforms.uPhase, uReach: u(REACH) }),
      join: join(means.shafts[0], 1),
      joinFine: join(means.shafts[1], 0),
      copy: new Quad(COPY, { uOfSun: u(), uOfSky: u() }),
      gather: new Quad(GATHER, { uOfSun: u(), uOfSky: u(), uSumSun: u(), uSumSky: u(), uFirst: u(1) }),
      tone: new Quad(TONE, { uOfSun: u(), uOfSky: u(), uBeforeSun: u(), uBeforeSky: u(), uShare: u(1), uGrade: shared.uGrade }),
      fxaa: new Quad(`${FXAA_HEAD}${FXAAShader.fragmentShader.replace('varying vec2 vUv;', '')}`, { tDiffuse: u(), resolution: u(new Vector2()) }),
      show: new Quad(SHOW, { uDepth: u(), uPictured: u() }, { depth: true }),
    };
    [this.level, this.joined, this.farAway, this.nearShade, this.toned, this.smooth] = this.targets(4, 4);
  }

  private targets(w: number, h: number): WebGLRenderTarget[] {
    const depth = new DepthTexture(w, h, UnsignedIntType);
    depth.minFilter = depth.magFilter = NearestFilter;
    const level = new WebGLRenderTarget(w, h, { count: 2, type: HalfFloatType, depthTexture: depth });
    const joined = new WebGLRenderTarget(w, h, { count: 2, type: HalfFloatType, depthBuffer: false });
    const far = new WebGLRenderTarget(w, h, { format: RedFormat, type: FloatType, depthBuffer: false, minFilter: NearestFilter, magFilter: NearestFilter });
    const shade = new WebGLRenderTarget(w, h, { format: RedFormat, depthBuffer: false });
    const toned = new WebGLRenderTarget(w, h, { depthBuffer: false });
    const smooth = new WebGLRenderTarget(w, h, { depthBuffer: false });
    return [level, joined, far, shade, toned, smooth];
  }

  private resize(w: number, h: number): void {
    if (this.level.width === w && this.level.height === h) return;
    for (const t of [this.level, this.joined, this.farAway, this.nearShade, this.toned, this.smooth]) {
      t.depthTexture?.dispose();
      t.dispose();
    }
    [this.level, this.joined, this.farAway, this.nearShade, this.toned, this.smooth] = this.targets(w, h);
    this.forget();
  }

  private forget(): void {
    for (const t of [...(this.sums ?? []), this.first]) t?.dispose();
    this.sums = undefined;
    this.first = undefined;
  }

  setLighting(lighting: Lighting, ...rest: [Parameters<SkyLight['set']>[1]?, Parameters<SkyLight['set']>[2]?]): void {
    // The sky is gathered and filtered anew: not for a lighting that is as it was.
    const key = JSON.stringify({ ...lighting, id: '', version: 0, name: '' });
    if (key === this.lit.key && rest[0] === this.lit.rest[0] && rest[1] === this.lit.rest[1]) return;
    this.lit = { key, rest };
    this.air = lighting.air ?? AIR;
    this.sky.set(lighting, ...rest);
  }

  /** Draws a frame and leaves it toned, ready to be shown. @returns what the level's own pass drew */
  draw(framed: Framed): Counted {
    const parts = this.parts(framed, 1);
    for (;;) {
      const { done, value } = parts.next();
      if (done) return value;
    }
  }

  /**
   * The same in parts: between two of them anything else may be drawn, or the rest be left.
   * @param bands the level's own pass is drawn in so many, one below the other
   */
  *parts(framed: Framed, bands: number): Generator<void, Counted> {
    const { width, height, staged, step } = framed;
    this.resize(width, height);
    this.begin(framed);
    // The sun's disc is gone over at half the pace: its shadows are drawn every other frame.
    if (step === undefined || step % 2 === 1 || step === 0) this.shadows.drawSun(staged, framed.camera, this.sunOf(step));
    if (step) this.shadows.drawSky(staged, framed.camera, skyDirection(step - 1));
    this.end(framed);
    let counted: Counted = { draws: 0, triangles: 0 };
    for (let band = 0; band < bands; band++) {
      if (bands > 1) yield;
      this.begin(framed);
      counted = this.drawLevel(framed, Math.round((height * band) / bands), Math.round((height * (band + 1)) / bands));
      this.end(framed);
    }
    if (bands > 1) yield;
    this.begin(framed);
    this.join(framed);
    let result = this.joined;
    if (framed.seeThrough()) {
      const more = this.drawSeeThrough(framed);
      counted = { draws: counted.draws + more.draws, triangles: counted.triangles + more.triangles };
      result = this.level;
    }
    this.end(framed);
    this.tone(result, step);
    return counted;
  }

  /** The sun of a frame: of one that gathers, a place on its disc. */
  private sunOf(step?: number): Vec3 {
    return step ? withinSun(this.sky.sun, ...discPoint((step + 1) >> 1)) : this.sky.sun;
  }

  /** Everything as a frame wants it, whatever was drawn before. Frame 0 of a picture that refines is that of a view in motion, in light as it was baked. */
  private begin(framed: Framed): void {
    const { camera, eye, width, height, staged, time, step, calm } = framed;
    const { uniforms } = this;
    this.sky.setDrift(time * this.air.wind * 2.5, this.air.windFrom);
    this.sky.refresh();
    staged.look();
    uniforms.uPhase.value = (step ?? 0) % 64;
    uniforms.uTime.value = time;
    if (calm) uniforms.uWind.value.set(0, 0);
    else uniforms.uWind.value.copy(this.sky.wind);
    uniforms.uTraced.value = step ? 1 : 0;
    (staged.shared.uSun.value as Vector3).set(...this.sunOf(step));
    this.aim(camera);
    if (step === undefined) eye.clearViewOffset();
    else {
      const [x, y] = pixelJitter(step);
      const [bx, by] = this.blur(framed, step);
      eye.setViewOffset(width, height, x + bx, y + by, width, height);
    }
    eye.updateProjectionMatrix();
  }

  /** Everything as others draw with it. */
  private end({ eye, staged }: Framed): void {
    eye.layers.enable(0);
    eye.layers.enable(SEE_THROUGH);
    eye.clearViewOffset();
    eye.updateProjectionMatrix();
    (staged.shared.uSun.value as Vector3).set(...this.sky.sun);
    this.wardrobe.dress(staged.scene, undefined);
    this.renderer.setRenderTarget(null);
  }

  /** The level itself between two rows of pixels, and the sky where nothing stands. */
  private drawLevel({ eye, lods, staged, step }: Framed, from: number, to: number): Counted {
    const { renderer, level } = this;
    staged.show(lods);
    staged.fade(step !== undefined);
    this.wardrobe.dress(staged.scene, 'FULL');
    level.scissor.set(0, from, level.width, to - from);
    level.scissorTest = true;
    renderer.setRenderTarget(level);
    renderer.setClearColor(0x000000, 1);
    renderer.clear();
    renderer.info.reset();
    eye.layers.set(0);
    renderer.render(staged.scene, eye);
    const counted = { draws: renderer.info.render.calls, triangles: renderer.info.render.triangles };
    this.sky.dome.draw(renderer, level);
    level.scissorTest = false;
    return counted;
  }

  /** Depth, what stands close by, haze between shadows: all that looks at the level once it is drawn. */
  private join({ camera, step }: Framed): void {
    const { renderer, uniforms, quads, level } = this;
    quads.far.material.uniforms.uDepth.value = level.depthTexture;
    (quads.far.material.uniforms.uLens.value as Vector2).set(camera.near, camera.far);
    quads.far.draw(renderer, this.farAway);
    uniforms.uFarAway.value = this.farAway.texture as never;
    quads.shade.material.uniforms.uReach.value = step ? REACH * 0.5 : REACH;
    quads.shade.draw(renderer, this.nearShade);
    const join = step === undefined ? quads.join : quads.joinFine;
    put(join, { uOfSun: level.textures[0], uOfSky: level.textures[1], uNearShade: this.nearShade.texture, uFarAway: this.farAway.texture });
    join.material.uniforms.uShadeStrength.value = step ? 0.5 : 1;
    join.material.uniforms.uShafts.value = uniforms.uAirAt.value.x > 0 ? this.air.shafts * SHAFTS : 0;
    join.draw(renderer, this.joined);
  }

  /** Water and glass over the level, which they see through. */
  private drawSeeThrough({ eye, lods, staged, step }: Framed): Counted {
    const { renderer, uniforms, quads } = this;
    put(quads.copy, { uOfSun: this.joined.textures[0], uOfSky: this.joined.textures[1] });
    quads.copy.draw(renderer, this.level);
    uniforms.uBehindSun.value = this.joined.textures[0] as never;
    uniforms.uBehindSky.value = this.joined.textures[1] as never;
    staged.show(lods);
    staged.fade(step !== undefined);
    this.wardrobe.dress(staged.scene, 'FULL');
    renderer.setRenderTarget(this.level);
    renderer.info.reset();
    eye.layers.set(SEE_THROUGH);
    renderer.render(staged.scene, eye);
    return { draws: renderer.info.render.calls, triangles: renderer.info.render.triangles };
  }

  /**
   * Moves the eye to a place of the lens, and says how far the picture is to be moved so that what is in focus stays where it is, pixels.
   * The sums of frames from all over the lens blur what is not.
   */
  private blur({ camera, eye, height, lens }: Framed, step: number): [x: number, y: number] {
    if (!lens || lens.width <= 0 || camera.fov === 0 || step === 0) return [0, 0];
    const [dx, dy] = discPoint(step * 7 + 3).map((v) => (v * lens.width) / 2000);
    for (let k = 0; k < 3; k++) eye.position.setComponent(k, camera.eye[k] + camera.right[k] * dx + camera.up[k] * dy);
    eye.updateMatrixWorld();
    const pixel = height / (2 * tangent(camera) * lens.focus);
    return [-dx * pixel, dy * pixel];
  }

  /** The picture so far, toned: of this frame, or of all that were gathered. */
  private tone(frame: WebGLRenderTarget, step?: number): void {
    const { renderer, quads } = this;
    const { tone } = quads;
    let of = frame;
    let share = 1;
    if (step !== undefined) {
      const { width: w, height: h } = frame;
      this.first ??= new WebGLRenderTarget(w, h, { count: 2, type: HalfFloatType, depthBuffer: false });
      if (step === 0) {
        put(quads.copy, { uOfSun: frame.textures[0], uOfSky: frame.textures[1] });
        quads.copy.draw(renderer, this.first);
      } else {
        this.sums ??= [0, 1].map(() => new WebGLRenderTarget(w, h, { count: 2, type: FloatType, depthBuffer: false })) as [
          WebGLRenderTarget,
          WebGLRenderTarget,
        ];
        const [into, from] = this.sums;
        put(quads.gather, { uOfSun: frame.textures[0], uOfSky: frame.textures[1], uSumSun: from.textures[0], uSumSky: from.textures[1] });
        quads.gather.material.uniforms.uFirst.value = step === 1 ? 1 : 0;
        quads.gather.draw(renderer, into);
        this.sums = [from, into];
        of = into;
        share = Math.min(1, step / SETTLED);
        put(tone, { uBeforeSun: this.first.textures[0], uBeforeSky: this.first.textures[1] });
      }
    }
    put(tone, { uOfSun: of.textures[0], uOfSky: of.textures[1] });
    tone.material.uniforms.uShare.value = share;
    tone.draw(renderer, this.toned);
    if (step === undefined) {
      put(quads.fxaa, { tDiffuse: this.toned.texture });
      (quads.fxaa.material.uniforms.resolution.value as Vector2).set(1 / this.toned.width, 1 / this.toned.height);
      quads.fxaa.draw(renderer, this.smooth);
    }
    this.pictured = step === undefined ? this.smooth : this.toned;
    renderer.setRenderTarget(null);
  }

  private pictured?: WebGLRenderTarget;

  /** Puts the picture, with the level's depth, where the renderer draws to. */
  show(target: WebGLRenderTarget | null = null): void {
    put(this.quads.show, { uDepth: this.level.depthTexture!, uPictured: this.pictured!.texture });
    this.quads.show.draw(this.renderer, target);
  }

  /** The picture, as it would be shown. */
  pixels(): ImageData {
    return readPixels(this.renderer, this.pictured!);
  }

  private aim(camera: Camera): void {
    const t = camera.fov === 0 ? camera.halfHeight : tangent(camera);
    const dome = camera.fov === 0 ? 0.01 : t;
    for (const q of [this.sky.dome, this.quads.shade, this.quads.join, this.quads.joinFine, this.quads.far]) {
      const { uForward, uRight, uUp, uTan, uFlat } = q.material.uniforms;
      (uForward?.value as Vector3 | undefined)?.set(...camera.forward);
      (uRight?.value as Vector3 | undefined)?.set(...camera.right);
      (uUp?.value as Vector3 | undefined)?.set(...camera.up);
      const k = q === this.sky.dome ? dome : t;
      (uTan?.value as Vector2 | undefined)?.set(k * camera.aspect, k);
      if (uFlat) uFlat.value = camera.fov === 0 ? 1 : 0;
    }
  }

  dispose(): void {
    this.forget();
    for (const t of [this.level, this.joined, this.farAway, this.nearShade, this.toned, this.smooth]) {
      t.depthTexture?.dispose();
      t.dispose();
    }
    for (const q of Object.values(this.quads)) q.dispose();
    this.shadows.dispose();
    this.sky.dispose();
    this.wardrobe.dispose();
  }
}

function put(quad: Quad, textures: Record<string, Texture>): void {
  for (const [name, texture] of Object.entries(textures)) quad.material.uniforms[name].value = texture;
}
