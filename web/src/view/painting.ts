import { Vector2, Vector3, type IUniform, type Scene, type ShaderMaterial, type WebGLRenderer } from 'three';
import { batchList, type Batch } from '@rammer/core/cost/batches';
import type { Drawable } from '@rammer/core/cost/drawable';
import { castersOf } from '@rammer/core/cost/shadows';
import type { Camera } from '@rammer/core/cost/camera';
import type { SkyTable } from '@rammer/core/light/atmosphere';
import type { Bounds } from '@rammer/core/light/cascades';
import { AIR, type Lighting, type Pose } from '@rammer/core/level/objects';
import type { Panorama } from '@rammer/core/light/panorama';
import { daylight } from '@rammer/core/light/sunAt';
import { sinDeg } from '@rammer/core/num/trig';
import { panorama as readPanorama } from '../store/panorama';
import { REFINED, STILL } from '../store/picture';
import { earthWorker } from '../workers/pool';
import type { Aids } from './aids';
import { Backdrop, tangent } from './backdrop';
import type { drawOptions } from './drawOptions';
import { Eye } from './eye';
import { finished } from './finished';
import type { Counted, Framed, FullPicture } from './full/FullPicture';
import type { Staged } from './full/staged';
import { isGrown, type InstanceView } from './instanceView';
import { Overdraw } from './overdraw';
import type { ShownBlocks } from './shownBlocks';
import { pngOfPixels } from './still';
import type { TerrainView } from './terrainView';
import { inSoftware } from './tier';
import type { WaterView } from './waterView';

/** What is painted: the level's parts, each of which shows just what it is told to. */
export interface Painted {
  scene: Scene;
  shared: Record<string, IUniform>;
  terrain: TerrainView;
  blocks: ShownBlocks;
  instances: InstanceView;
  waters: WaterView;
  aids: Aids;
  options: ReturnType<typeof drawOptions>;
  /** ends when all pictures that are on their way are there; whether there were any */
  pictures(): Promise<boolean>;
  /** fetches what the ground wears as fine as it is; ends when it is there */
  fineSurfaces(): Promise<void>;
  /** surfaces as fine as they are there, or as a slow machine draws them */
  wear(fine: boolean): void;
}

/** What was drawn. */
export interface Done {
  batches: Batch[];
  counted: Counted;
}

/** One picture of the level: from where, how large, with what. */
export interface Wanted {
  camera: Camera;
  /** pixels of the screen, and how many of the renderer's own for each */
  width: number;
  height: number;
  ratio: number;
  drawables: readonly Drawable[];
  spacing: number;
  coarseness: number;
  lens?: Pose['lens'];
  /** plants stand as they grew, without wind */
  calm?: boolean;
  quick?: boolean;
  /** nothing moves: no LOD gives way to another */
  atRest?: boolean;
  withoutWater?: boolean;
  /** how often plants are shaded over each other is laid over the picture */
  overdraw?: boolean;
}

/** Paints the level: the plain picture, and, once it is asked for, the full one. */
export class Painting {
  private readonly eye = new Eye();
  private readonly backdrop: Backdrop;
  private overdraw?: Overdraw;
  private full?: FullPicture;
  private loading?: Promise<void>;
  /** a sky on its way */
  private coming?: Promise<void>;
  private lighting?: Lighting;
  private table?: { key: string; table: SkyTable };
  private sky?: { hash: string; picture?: Panorama };
  /** seconds that wind and waves have gone */
  private time = 0;
  readonly software: boolean;
  /** whether the full picture can be drawn at all: it gathers light in floats */
  readonly able: boolean;

  /** @param changed something came that the picture was waiting for */
  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly parts: Painted,
    private readonly changed: () => void,
  ) {
    this.backdrop = new Backdrop(parts.shared);
    const gl = renderer.getContext() as WebGL2RenderingContext;
    this.software = inSoftware(gl);
    this.able = gl.getExtension('EXT_color_buffer_float') !== null;
  }

  // ---- the plain picture ---------------------------------------------------------------------

  /** Level as the batch list says, and the backdrop where nothing stands; the renderer's counts are those of the level alone. */
  plain(wanted: Wanted): { batches: Batch[]; counted: Counted } {
    const { renderer } = this;
    const batches = this.list(wanted);
    this.show(lodsOf(batches, wanted), wanted);
    const eye = this.look(wanted);
    renderer.clear();
    renderer.info.reset();
    renderer.render(this.parts.scene, eye);
    const counted = { draws: renderer.info.render.calls, triangles: renderer.info.render.triangles };
    renderer.render(this.backdrop.scene, eye);
    if (wanted.overdraw) (this.overdraw ??= new Overdraw(renderer)).paint(this.parts.scene, eye, isGrown);
    return { batches, counted };
  }

  /** Figures, staff, ghosts and dots over what was painted last. */
  aids({ camera }: Wanted): void {
    this.renderer.render(this.parts.aids.scene, this.eye.at(camera));
  }

  private list({ drawables, camera, spacing, coarseness }: Wanted): Batch[] {
    const { fine, all } = this.parts.options;
    return batchList(drawables, camera, spacing, fine ? 0 : coarseness, !all);
  }

  private show(lods: ReadonlyMap<string, number>, { camera, quick, withoutWater }: Wanted): void {
    const { terrain, blocks, instances, waters } = this.parts;
    terrain.show(lods, camera.eye, quick === true);
    blocks.show(lods);
    instances.show(lods, camera.eye);
    waters.show(withoutWater ? new Map() : lods);
  }

  /** Turns eye and shaders to a camera. */
  private look({ camera, ratio, height }: Wanted, full = false): ReturnType<Eye['at']> {
    const { shared, aids } = this.parts;
    this.parts.wear(full);
    const eye = this.eye.at(camera);
    (shared.uView.value as Vector3).set(...camera.forward);
    (shared.uEye.value as Vector3).set(...camera.eye);
    if (camera.fov === 0) (shared.uEye.value as Vector3).set(camera.eye[0], camera.eye[1] - 1990, camera.eye[2]);
    this.backdrop.aim(camera);
    // Texels of the grain (128 over about 6 m) that a pixel covers, for a metre of distance from the eye.
    shared.uBlur.value = camera.fov === 0 ? (2 * camera.halfHeight * 21) / (height * ratio * 10) : (2 * tangent(camera) * 21) / (height * ratio);
    if (aids.dots) {
      const { uniforms } = aids.dots.material as ShaderMaterial;
      uniforms.uScale.value = ratio;
      // In Plan w is 1 everywhere; the height of the view stands for the distance.
      uniforms.uFlat.value = camera.fov === 0 ? camera.halfHeight : 1;
    }
    return eye;
  }

  // ---- the full picture ----------------------------------------------------------------------

  /** Whether the full picture can be drawn now; it is fetched when it is asked for first. */
  get ready(): boolean {
    return this.full !== undefined;
  }

  /** Fetches the full picture: its code is not there until somebody's machine can draw it. */
  load(): Promise<void> {
    this.loading ??= import('./full/FullPicture').then(({ FullPicture, GPU, SOFTWARE }) => {
      if (this.gone) return;
      this.full = new FullPicture(this.renderer, this.parts.shared, this.software ? SOFTWARE : GPU);
      this.light();
      void this.parts.fineSurfaces();
      this.changed();
    });
    return this.loading;
  }

  /** @param panorama hash of the picture of its sky, where it has one */
  setLighting(lighting: Lighting, panorama?: string): void {
    this.lighting = lighting;
    if (panorama !== this.sky?.hash) {
      const sky: NonNullable<Painting['sky']> = { hash: panorama ?? '' };
      this.sky = panorama ? sky : undefined;
      if (panorama)
        this.coming = readPanorama(panorama).then(
          (picture) => {
            sky.picture = picture;
            this.light();
            this.changed();
          },
          // Until it is there, and where it is not, the sky is that of its colours.
          () => {},
        );
    }
    this.light();
  }

  private light(): void {
    const { full, lighting } = this;
    if (!full || !lighting) return;
    const air = lighting.air ?? AIR;
    const sun = sinDeg(daylight(lighting.sun).moon ? lighting.sun.elevation : Math.max(lighting.sun.elevation, -4));
    const key = `${sun.toFixed(4)} ${air.dust}`;
    full.setLighting(lighting, this.table?.key === key ? this.table.table : undefined, this.sky?.picture);
    if (air.sky === 'sun' && this.table?.key !== key)
      this.coming = earthWorker()
        .clearSky(sun, air.dust)
        .then((table) => {
          this.table = { key, table };
          this.light();
          this.changed();
        });
  }

  /** Wind and waves go on. @param seconds since the last frame in motion; a pause counts as little */
  goOn(seconds: number): void {
    this.time += Math.min(seconds, 0.1);
  }

  /** What a frame of the full picture is drawn from. @param step of a picture that refines */
  private framed(wanted: Wanted, { step, people, time }: { step?: number; people: boolean; time: number }): { batches: Batch[]; framed: Framed } {
    const { parts } = this;
    const batches = this.list(wanted);
    const casters = castersOf(wanted.drawables, wanted.camera, wanted.spacing, wanted.coarseness);
    const lods = lodsOf(batches, wanted);
    const staged: Staged = {
      scene: parts.scene,
      shared: parts.shared,
      look: () => void this.look(wanted, true),
      show: (of) => this.show(of, wanted),
      fade: (refining) => {
        // At rest LODs are others, and all at once.
        if (parts.instances.fade(lods, refining || wanted.atRest ? undefined : performance.now())) this.changed();
      },
      casters,
      bounds: boundsOf(casters.map((c) => c.drawable)),
      ...(people ? { people: parts.aids.scene } : {}),
    };
    const framed: Framed = {
      camera: wanted.camera,
      eye: this.look(wanted, true),
      width: Math.max(1, Math.floor(wanted.width * wanted.ratio)),
      height: Math.max(1, Math.floor(wanted.height * wanted.ratio)),
      lods,
      staged,
      seeThrough: () => lods.size > 0 && (batches.some((b) => b.course === 'water') || parts.instances.seeThrough),
      time,
      ...(wanted.lens ? { lens: wanted.lens } : {}),
      ...(wanted.calm ? { calm: true } : {}),
      ...(step === undefined ? {} : { step }),
    };
    return { batches, framed };
  }

  /** The full picture in motion, to the screen. */
  onScreen(wanted: Wanted): Done {
    const { batches, framed } = this.framed(wanted, { people: true, time: this.time });
    const counted = this.full!.draw(framed);
    this.renderer.clear();
    this.full!.show();
    return { batches, counted };
  }

  /** Frame `step` of a view at rest, to the screen. In software it is drawn in parts, so that an input need not wait for all of it. */
  *refined(wanted: Wanted, step: number): Generator<void, Done> {
    const { batches, framed } = this.framed(wanted, { step, people: true, time: this.time });
    const counted = yield* this.full!.parts(framed, this.software ? 3 : 1);
    this.renderer.clear();
    this.full!.show();
    return { batches, counted };
  }

  /** A still: `STILL` frames of the full picture. @returns PNG; nothing when it was ended */
  async still(wanted: Wanted, progress: (drawn: number) => void, stopped: () => boolean): Promise<Blob | undefined> {
    if (!this.able) throw new Error('this browser draws no pictures of floats, which a still is gathered in');
    await this.load();
    await this.parts.fineSurfaces();
    await this.coming;
    const gl = this.renderer.getContext() as WebGL2RenderingContext;
    for (let step = 0; step <= STILL; step++) {
      if (stopped()) return undefined;
      // Wind and waves stand as at the start, so that a still made twice is the same.
      this.full!.draw(this.framed(wanted, { step, people: false, time: 0 }).framed);
      await finished(gl);
      // The first asks for pictures of meshes that were not drawn before; without them it would not count.
      if (step === 0 && (await this.parts.pictures())) step = -1;
      progress(Math.max(0, step));
    }
    return pngOfPixels(this.full!.pixels());
  }

  private gone = false;
  dispose(): void {
    this.gone = true;
    this.overdraw?.dispose();
    this.full?.dispose();
  }
}

/** Frames a view at rest is made of: the one in baked light and those that are gathered. */
export const REST_FRAMES = REFINED + 1;

const lodsOf = (batches: readonly Batch[], { withoutWater }: Wanted): Map<string, number> =>
  new Map(batches.filter((b) => !withoutWater || b.course !== 'water').map((b) => [b.key, b.lod]));

function boundsOf(all: readonly Drawable[]): Bounds {
  const min: Bounds['min'] = [Infinity, Infinity, Infinity];
  const max: Bounds['max'] = [-Infinity, -Infinity, -Infinity];
  for (const d of all)
    for (let k = 0; k < 3; k++) {
      if (d.min[k] < min[k]) min[k] = d.min[k];
      if (d.max[k] > max[k]) max[k] = d.max[k];
    }
  return all.length > 0 ? { min, max } : { min: [0, 0, 0], max: [1, 1, 1] };
}

/** Size of the renderer's own screen, brought to what is wanted. */
export function fit(renderer: WebGLRenderer, width: number, height: number, ratio: number): void {
  if (renderer.getPixelRatio() !== ratio) renderer.setPixelRatio(ratio);
  const size = renderer.getSize(new Vector2());
  if (size.x !== width || size.y !== height) renderer.setSize(width, height, false);
}
