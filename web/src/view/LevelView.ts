import { Group, Mesh, OrthographicCamera, PerspectiveCamera, PlaneGeometry, Scene, ShaderMaterial, GLSL3, Vector2, Vector3, type IUniform, type Points, type WebGLRenderer, type BufferGeometry } from 'three';
import { batchList, blockDrawables, tally, terrainDrawables, updateTerrainDrawables, type Batch, type Drawable } from '@rammer/core/cost/batches';
import { cameraOf, type Camera } from '@rammer/core/cost/camera';
import { playerBody, settingsOf } from '@rammer/core/level/level';
import type { Block, Pose } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import { sunDirection } from '@rammer/core/mood/sunlit';
import { tanDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import { groundAlong, type Ground } from '@rammer/core/surface/groundAt';
import type { Rect, Terrain } from '@rammer/core/earth/compose';
import type { LevelChange, Session } from '../store/session';
import { earthWorker } from '../workers/pool';
import { blockGeometry } from './blockMesh';
import { blockMaterial, BlockView } from './blockView';
import { dotsPoints } from './dots';
import { figureMesh, staffMesh } from './figure';
import { Governor, type Quality } from './governor';
import { grainTexture } from './grain';
import { pixelsPerMetre, project, rayAt, type Projected } from './project';
import { SKY_FRAGMENT, SKY_VERTEX } from './shaders';
import { TerrainView } from './terrainView';

export type Pick = Ground & { point: Vec3; distance: number };

/** What the last frame drew: the batch list's sums and the renderer's own count of the same pass. */
export interface Drawn {
  batches: Batch[];
  listed: { draws: number; triangles: number };
  counted: { draws: number; triangles: number };
  ratio: number;
}

const LIGHT_DELAY_MS = 160;

/**
 * The level drawn: three passes on one renderer. Backdrop (sky), level (exactly the batch list, so
 * that its counts can be compared) and overlay (figures, staff, ghost, dots), which is not the level
 * and is not counted.
 */
export class LevelView {
  pose: Pose = { view: 'orbit', target: [80, 0, 80], yaw: 0, pitch: -30, distance: 120 };
  width = 1;
  height = 1;
  camera: Camera;
  drawn?: Drawn;
  readonly governor: Governor;

  private readonly backdrop = new Scene();
  private readonly scene = new Scene();
  private readonly overlay = new Scene();
  private readonly perspective = new PerspectiveCamera();
  private readonly ortho = new OrthographicCamera();
  private readonly shared: Record<string, IUniform>;
  private readonly sky: ShaderMaterial;
  private readonly terrainGroup = new Group();
  private readonly blockGroup = new Group();
  private readonly terrainView: TerrainView;
  private readonly blockView: BlockView;
  private readonly grain = grainTexture();
  private terrainParts: Drawable[] = [];
  private blockParts: Drawable[] = [];
  /** the grid that `terrainParts` belong to */
  private partsGrid?: Grid;
  private figures = new Map<string, Mesh>();
  private readonly staff = staffMesh();
  private ghost?: Mesh<BufferGeometry, ShaderMaterial>;
  private dots?: Points;
  private previewBlocks?: Map<string, Block>;
  private lightTimer?: ReturnType<typeof setTimeout>;
  private lightTicket = 0;
  private readonly options = drawOptions();
  private readonly frameListeners = new Set<() => void>();
  private readonly unsubscribe: () => void;

  constructor(private readonly renderer: WebGLRenderer, readonly session: Session) {
    const settings = settingsOf(session.level);
    const sun = sunDirection(settings.sun.azimuth, settings.sun.elevation);
    this.shared = { uSun: { value: new Vector3(...sun) }, uEye: { value: new Vector3() }, uWork: { value: 0 }, uReading: { value: 0 }, uLimit: { value: playerBody(session.level).figures.maxSlope }, uBlur: { value: 0 } };
    this.sky = new ShaderMaterial({
      glslVersion: GLSL3, vertexShader: SKY_VERTEX, fragmentShader: SKY_FRAGMENT, depthWrite: false, depthTest: false,
      uniforms: { uForward: { value: new Vector3() }, uRight: { value: new Vector3() }, uUp: { value: new Vector3() }, uTan: { value: new Vector2() }, uSun: this.shared.uSun, uWork: this.shared.uWork },
    });
    const dome = new Mesh(new PlaneGeometry(2, 2), this.sky);
    dome.frustumCulled = false;
    this.backdrop.add(dome);
    this.scene.add(this.terrainGroup, this.blockGroup);
    this.overlay.add(this.staff);
    this.staff.visible = false;
    renderer.autoClear = false;
    renderer.info.autoReset = false;
    this.terrainView = new TerrainView(this.terrainGroup, session.terrain, this.shared, this.grain);
    this.blockView = new BlockView(this.blockGroup, this.shared);
    this.terrainParts = terrainDrawables(session.terrain);
    this.partsGrid = session.terrain.grid;
    this.refreshBlocks();
    this.camera = cameraOf(this.pose, 1, playerBody(session.level).figures.eye);
    this.governor = new Governor(renderer.getContext() as WebGL2RenderingContext, (q) => this.draw(q), () => { for (const l of this.frameListeners) l(); });
    this.unsubscribe = session.subscribe((change) => this.levelChanged(change));
    this.scheduleLight();
  }

  onFrame(listener: () => void): () => void {
    this.frameListeners.add(listener);
    return () => this.frameListeners.delete(listener);
  }

  dispose(): void {
    this.unsubscribe();
    clearTimeout(this.lightTimer);
    this.governor.dispose();
    this.terrainView.dispose();
    this.blockView.dispose();
    this.grain.dispose();
  }

  request(): void { this.governor.request(); }

  resize(width: number, height: number): void {
    if (width < 2 || height < 2 || (width === this.width && height === this.height)) return;
    this.width = width;
    this.height = height;
    this.setPose(this.pose);
  }

  setPose(pose: Pose): void {
    this.pose = pose;
    this.camera = cameraOf(pose, this.width / this.height, playerBody(this.session.level).figures.eye);
    this.request();
  }

  project(p: Vec3): Projected | undefined { return project(this.camera, this.width, this.height, p); }
  pixelsPerMetre(p: Vec3): number { return pixelsPerMetre(this.camera, this.height, p); }
  ray(x: number, y: number): { origin: Vec3; direction: Vec3 } { return rayAt(this.camera, this.width, this.height, x, y); }

  /** First ground under a pixel; hidden blocks do not count. */
  pick(x: number, y: number, except?: ReadonlySet<string>): Pick | undefined {
    const { origin, direction } = this.ray(x, y);
    const blocks = this.session.blocks.filter((b) => !b.hidden && !except?.has(b.id));
    return groundAlong(this.session.terrain, blocks, origin, direction);
  }

  // ---- what the level looks like -------------------------------------------------------------

  private levelChanged(change: LevelChange): void {
    if (change.rect) this.terrainChanged(change.rect);
    if (change.blocks) this.refreshBlocks();
    if (change.objects) {
      const { sun } = settingsOf(this.session.level);
      (this.shared.uSun.value as Vector3).set(...sunDirection(sun.azimuth, sun.elevation));
      this.shared.uLimit.value = playerBody(this.session.level).figures.maxSlope;
      this.setPose(this.pose);
    }
    this.scheduleLight();
    this.request();
  }

  private terrainChanged(rect: Rect): void {
    const { terrain } = this.session;
    this.terrainView.update(terrain, rect);
    if (this.terrainParts.length === terrain.grid.tilesX * terrain.grid.tilesZ && this.partsGrid === terrain.grid) updateTerrainDrawables(this.terrainParts, terrain, rect);
    else this.terrainParts = terrainDrawables(terrain);
    this.partsGrid = terrain.grid;
  }

  /** A brush is drawing: heights of a rectangle changed but nothing is committed yet. */
  terrainPreview(rect: Rect): void {
    this.terrainChanged(rect);
    this.request();
  }

  private refreshBlocks(): void {
    const preview = this.previewBlocks;
    const shown = preview ? this.session.blocks.map((b) => preview.get(b.id) ?? b) : this.session.blocks;
    const cells = this.blockView.update(shown);
    this.blockParts = blockDrawables(cells);
  }

  /** Blocks shown other than they are, while a handle is dragged. `undefined` ends it. */
  setBlockPreview(blocks?: Map<string, Block>): void {
    this.previewBlocks = blocks;
    this.refreshBlocks();
    this.request();
  }

  setGhost(block?: Block): void {
    if (this.ghost) {
      this.overlay.remove(this.ghost);
      this.ghost.geometry.dispose();
    }
    if (block) {
      this.ghost ??= new Mesh(undefined, blockMaterial(this.shared, '#ded6c2'));
      this.ghost.geometry = blockGeometry([block]);
      this.ghost.frustumCulled = false;
      this.overlay.add(this.ghost);
    }
    this.request();
  }

  /** Figures to draw, by a key of the caller's. */
  setFigures(wanted: ReadonlyMap<string, { figures: Parameters<typeof figureMesh>[0]; at: Vec3; turn: number }>): void {
    for (const [key, mesh] of this.figures) {
      if (wanted.has(key.split('|')[0])) continue;
      this.overlay.remove(mesh);
      mesh.geometry.dispose();
      this.figures.delete(key);
    }
    for (const [key, { figures, at, turn }] of wanted) {
      const full = `${key}|${figures.height},${figures.radius}`;
      for (const [other, mesh] of this.figures) {
        if (other.startsWith(`${key}|`) && other !== full) {
          this.overlay.remove(mesh);
          this.figures.delete(other);
        }
      }
      let mesh = this.figures.get(full);
      if (!mesh) {
        mesh = figureMesh(figures);
        this.figures.set(full, mesh);
        this.overlay.add(mesh);
      }
      mesh.position.set(...at);
      mesh.rotation.y = (-turn * Math.PI) / 180;
    }
    this.request();
  }

  setStaff(at?: Vec3): void {
    if (!at && !this.staff.visible) return;
    this.staff.visible = at !== undefined;
    if (at) this.staff.position.set(...at);
    this.request();
  }

  setDots(dots?: Float32Array): void {
    if (this.dots) {
      this.overlay.remove(this.dots);
      this.dots.geometry.dispose();
      this.dots = undefined;
    }
    if (dots && dots.length > 0) {
      this.dots = dotsPoints(dots);
      this.overlay.add(this.dots);
    }
    this.request();
  }

  setWorkLight(on: boolean): void { this.shared.uWork.value = on ? 1 : 0; this.request(); }
  setSlopeReading(on: boolean): void { this.shared.uReading.value = on ? 1 : 0; this.request(); }

  /** Shadows and open sky are worked out again in the worker once the level has been still for a moment. */
  private scheduleLight(): void {
    clearTimeout(this.lightTimer);
    this.lightTimer = setTimeout(() => {
      const { grid, heights } = this.session.terrain;
      const rect = { x0: 0, z0: 0, x1: grid.nx - 1, z1: grid.nz - 1 };
      const ticket = ++this.lightTicket;
      const blocks = this.session.blocks.filter((b) => !b.hidden);
      void earthWorker().sunlit(grid, heights, blocks, settingsOf(this.session.level).sun, rect).then((light) => {
        const terrain: Terrain = this.session.terrain;
        if (ticket !== this.lightTicket || terrain.grid.nx !== grid.nx || terrain.grid.nz !== grid.nz) return;
        this.terrainView.setLight(rect, light);
        this.request();
      });
    }, LIGHT_DELAY_MS);
  }

  // ---- a frame -------------------------------------------------------------------------------

  private draw(quality: Quality): void {
    const { renderer, camera } = this;
    const { fixed, fine, all: everything } = this.options;
    const ratio = fixed ? 1 : Math.max(0.5, quality.ratio * Math.min(devicePixelRatio, 1.5));
    if (renderer.getPixelRatio() !== ratio) renderer.setPixelRatio(ratio);
    const size = renderer.getSize(new Vector2());
    if (size.x !== this.width || size.y !== this.height) renderer.setSize(this.width, this.height, false);
    const batches = batchList([...this.terrainParts, ...this.blockParts], camera, this.session.terrain.grid.spacing, fine ? 0 : fixed ? 1 : quality.coarseness, !everything);
    this.terrainView.show(new Map(batches.filter((b) => b.course === 'terrain').map((b) => [b.key, b.lod])));
    this.blockView.show(new Set(batches.filter((b) => b.course === 'blocks').map((b) => b.key)));

    const eye = this.placeCamera();
    (this.shared.uEye.value as Vector3).set(...camera.eye);
    if (camera.fov === 0) (this.shared.uEye.value as Vector3).set(camera.eye[0], camera.eye[1] - 1990, camera.eye[2]);
    const u = this.sky.uniforms;
    (u.uForward.value as Vector3).set(...camera.forward);
    (u.uRight.value as Vector3).set(...camera.right);
    (u.uUp.value as Vector3).set(...camera.up);
    const t = camera.fov === 0 ? 0.01 : tanDeg(camera.fov / 2);
    // Texels of the grain (128 over about 6 m) that a pixel covers, for a metre of distance from the eye.
    this.shared.uBlur.value = camera.fov === 0 ? (2 * camera.halfHeight * 21) / (this.height * ratio * 10) : (2 * t * 21) / (this.height * ratio);
    (u.uTan.value as Vector2).set(t * camera.aspect, t);
    if (this.dots) {
      const { uniforms } = this.dots.material as ShaderMaterial;
      uniforms.uScale.value = ratio;
      // In Plan w is 1 everywhere; the height of the view stands for the distance.
      uniforms.uFlat.value = camera.fov === 0 ? camera.halfHeight : 1;
    }

    renderer.clear();
    renderer.render(this.backdrop, eye);
    renderer.info.reset();
    renderer.render(this.scene, eye);
    const counted = { draws: renderer.info.render.calls, triangles: renderer.info.render.triangles };
    const { all } = tally(batches);
    this.drawn = { batches, listed: { draws: all.draws, triangles: all.triangles }, counted, ratio };
    renderer.render(this.overlay, eye);
  }

  private placeCamera(): PerspectiveCamera | OrthographicCamera {
    const { camera } = this;
    const c = camera.fov === 0 ? this.ortho : this.perspective;
    c.near = camera.near;
    c.far = camera.far;
    if (c === this.ortho) {
      c.top = camera.halfHeight;
      c.bottom = -camera.halfHeight;
      c.right = camera.halfHeight * camera.aspect;
      c.left = -c.right;
    } else {
      this.perspective.fov = camera.fov;
      this.perspective.aspect = camera.aspect;
    }
    c.position.set(...camera.eye);
    c.up.set(...camera.up);
    c.lookAt(camera.eye[0] + camera.forward[0], camera.eye[1] + camera.forward[1], camera.eye[2] + camera.forward[2]);
    c.updateProjectionMatrix();
    c.updateMatrixWorld();
    return c;
  }
}

/** `draw=` of a link, for benchmarks: `fixed` quality at pixel ratio 1, `fine` without LODs, `all` without culling. */
function drawOptions(): { fixed: boolean; fine: boolean; all: boolean } {
  const asked = (new URLSearchParams(location.search).get('draw') ?? '').split(',');
  return { fixed: asked.includes('fixed'), fine: asked.includes('fine'), all: asked.includes('all') };
}
