import { Group, Scene, type IUniform, type WebGLRenderer } from 'three';
import type { Drawable } from '@rammer/core/cost/drawable';
import { hazeDrawables, terrainDrawables, updateTerrainDrawables, updateTerrainGround } from '@rammer/core/cost/terrainDrawables';
import { coatsOf } from '@rammer/core/coat/coats';
import { readyCoat } from '@rammer/core/coat/shares';
import { waterDrawables } from '@rammer/core/cost/instances';
import type { Asset } from '@rammer/core/kit/asset';
import { cameraOf, type Camera } from '@rammer/core/cost/camera';
import { playerBody } from '@rammer/core/level/level';
import { ownerOf } from '@rammer/core/level/instance';
import { presentOf } from '@rammer/core/level/present';
import type { Lighting, Piece, Pose, Surface } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import { ofKind } from '@rammer/core/level/level';
import { lightingOf } from '@rammer/core/level/lighting';
import type { Vec3 } from '@rammer/core/num/vec';
import { groundAlongGrid, type Ground } from '@rammer/core/surface/groundAt';
import { wholeRect, type Rect } from '@rammer/core/earth/compose';
import { hidesAny } from '../store/hidesAny';
import type { LevelChange } from '../store/change';
import { FINE_SIDE, type Weave } from '@rammer/core/surface/textures';
import type { Session } from '../store/session';
import { earthWorker } from '../workers/pool';
import { assetPicture, type PictureOptions } from './assetPicture';
import { AuthoredMaterials, AuthoredTextures } from './authoredMaterials';
import { Coats } from './coats';
import { Contact } from './contact';
import { drawOptions } from './drawOptions';
import { Frames, type Drawn } from './frames';
import type { Governor } from './governor';
import { Look } from './look';
import { Aids } from './aids';
import { pixelsPerMetre, project, rayAt, type Projected } from './project';
import { InstanceView } from './instanceView';
import { ShownBlocks } from './shownBlocks';
import { ShownInstances, type OtherPlants } from './shownInstances';
import { GROWN, OverlayOnGround } from './overlayOnGround';
import { WaterView } from './waterView';
import { Painting, type Wanted } from './painting';
import { pixelsOf } from './still';
import { Sunlight } from './sunlight';
import { TerrainView } from './terrainView';

export type Pick = Ground & { point: Vec3; distance: number };

/**
 * The level drawn: three passes on one renderer. Level (exactly the batch list, so that its counts can
 * be compared), backdrop (sky, where nothing stands) and aids (figures, staff, ghost, dots), which is not the level
 * and is not counted.
 */
export class LevelView {
  pose: Pose = { view: 'orbit', target: [80, 0, 80], yaw: 0, pitch: -30, distance: 120 };
  width = 1;
  height = 1;
  camera: Camera;

  private readonly painting: Painting;
  private readonly frames: Frames;
  private readonly scene = new Scene();
  readonly aids: Aids;
  private readonly look: Look;
  private readonly shared: Record<string, IUniform>;
  private readonly terrainGroup = new Group();
  private readonly blockGroup = new Group();
  private readonly instanceGroup = new Group();
  private readonly waterGroup = new Group();
  private readonly terrainView: TerrainView;
  private readonly instanceView: InstanceView;
  private readonly instances: ShownInstances;
  private readonly coats: Coats;
  private readonly textures: AuthoredTextures;
  private readonly authored: AuthoredMaterials;
  private readonly waterView: WaterView;
  readonly blocks: ShownBlocks;
  private terrainParts: Drawable[] = [];
  private waterParts: Drawable[] = [];
  /** spenders that are left out of the picture, as `course` or `course/of` */
  private without: ReadonlySet<string> = new Set();
  /** a lighting shown instead of the level's own while it is tried or compared */
  private lightingShown?: Lighting;
  /** the grid that `terrainParts` belong to */
  private partsGrid?: Grid;
  /** pictures over the ground */
  readonly overlays: OverlayOnGround;
  private overlay = 'none';
  private readonly contact: Contact;
  /** the surfaces the look was last given */
  private surfacesShown?: readonly Surface[];
  private readonly sunlight: Sunlight;
  private readonly options = drawOptions();
  private readonly frameListeners = new Set<() => void>();
  private readonly unsubscribe: () => void;

  constructor(
    private readonly renderer: WebGLRenderer,
    readonly session: Session,
  ) {
    this.look = new Look(session.terrain.grid);
    this.shared = this.look.uniforms;
    this.shared.uLimit.value = playerBody(session.level).figures.maxSlope;
    this.scene.add(this.terrainGroup, this.blockGroup, this.instanceGroup, this.waterGroup);
    this.overlays = new OverlayOnGround(session, () => this.overlayChanged());
    this.textures = new AuthoredTextures(renderer, () => this.request());
    this.authored = new AuthoredMaterials(this.shared, this.textures);
    this.aids = new Aids(this.shared, this.authored, () => this.request());
    renderer.autoClear = false;
    renderer.info.autoReset = false;
    this.look.setSurfaces(session.scene.ground.raster.surfaces, session.level);
    this.terrainView = new TerrainView(this.terrainGroup, session.terrain, session.scene.ground.raster, this.look);
    this.blocks = new ShownBlocks(this.blockGroup, this.shared, session.scene, () => this.request());
    this.coats = new Coats(this.shared);
    this.refreshCoats();
    this.instanceView = new InstanceView(this.instanceGroup, this.shared, this.authored, this.coats, this.options);
    this.instances = new ShownInstances(() => this.session, this.instanceView);
    this.waterView = new WaterView(this.waterGroup, this.shared);
    this.contact = new Contact(session, this.look, () => this.request());
    this.painting = new Painting(
      renderer,
      {
        scene: this.scene,
        shared: this.shared,
        terrain: this.terrainView,
        blocks: this.blocks,
        instances: this.instanceView,
        waters: this.waterView,
        aids: this.aids,
        options: this.options,
        pictures: () => this.textures.settled(),
        fineSurfaces: () => this.fineSurfaces(),
        wear: (fine) => this.look.wear(fine),
      },
      () => this.request(),
    );
    this.refreshLighting();
    this.terrainParts = terrainDrawables(session.terrain, session.scene.ground.raster.surfaces, session.scene.ground.raster);
    this.partsGrid = session.terrain.grid;
    this.refreshSurfaces();
    this.blocks.refresh();
    this.instances.refresh();
    this.refreshWater();
    this.camera = this.cameraAt(this.pose, 1);
    this.frames = new Frames(renderer, this.painting, {
      options: this.options,
      wanted: (over) => this.wanted(over),
      drawing: () => this.drawing(),
      onFrame: () => {
        for (const l of this.frameListeners) l();
      },
    });
    this.sunlight = new Sunlight(
      session,
      () => this.lightingShown ?? lightingOf(this.session.level),
      (light, grid) => {
        this.terrainView.setLight(wholeRect(grid), light.ground);
        this.look.setPlaceLight(light.tops, grid);
        this.look.setCover(light.cover);
        this.aids.setLight({ grid, ...light });
        this.request();
      },
    );
    this.unsubscribe = session.subscribe((change) => this.levelChanged(change));
    this.sunlight.schedule();
  }

  get governor(): Governor {
    return this.frames.governor;
  }
  get drawn(): Drawn | undefined {
    return this.frames.drawn;
  }

  onFrame(listener: () => void): () => void {
    this.frameListeners.add(listener);
    return () => this.frameListeners.delete(listener);
  }

  dispose(): void {
    this.unsubscribe();
    this.frames.dispose();
    this.painting.dispose();
    this.sunlight.dispose();
    this.contact.dispose();
    this.terrainView.dispose();
    this.blocks.dispose();
    this.instanceView.dispose();
    this.authored.dispose();
    this.coats.dispose();
    this.textures.dispose();
    this.waterView.dispose();
    this.overlays.dispose();
    this.look.dispose();
  }

  /** counts what may have changed the picture: an inset is drawn again when it differs */
  changes = 0;
  get atRest(): boolean {
    return this.governor.atRest;
  }
  request(): void {
    this.changes++;
    this.governor.request();
  }

  /** The level from another pose as pixels, at a size of its own; counts and figures are not touched. */
  snapshot(pose: Pose, width: number, height: number): ImageData {
    return pixelsOf(this.renderer, width, height, () => this.paintOnce(pose, width, height, 2));
  }

  resize(width: number, height: number): void {
    if (width < 2 || height < 2 || (width === this.width && height === this.height)) return;
    this.width = width;
    this.height = height;
    this.setPose(this.pose);
  }

  setPose(pose: Pose): void {
    this.pose = pose;
    this.camera = this.cameraAt(pose, this.width / this.height);
    this.request();
  }

  private cameraAt(pose: Pose, aspect: number): Camera {
    return cameraOf(pose, aspect, playerBody(this.session.level).figures.eye);
  }

  project(p: Vec3): Projected | undefined {
    return project(this.camera, this.width, this.height, p);
  }
  pixelsPerMetre(p: Vec3): number {
    return pixelsPerMetre(this.camera, this.height, p);
  }
  ray(x: number, y: number): { origin: Vec3; direction: Vec3 } {
    return rayAt(this.camera, this.width, this.height, x, y);
  }

  /** First ground under a pixel; hidden blocks do not count. */
  pick(x: number, y: number, except?: ReadonlySet<string>): Pick | undefined {
    const { origin, direction } = this.ray(x, y);
    const { terrain, scene } = this.session;
    const present = presentOf(this.session.level.objects);
    const skip = (id: string): boolean =>
      except?.has(id) === true || except?.has(ownerOf(id)) === true || !this.blocks.among(id) || present.get(id)?.hidden === true;
    return groundAlongGrid(
      terrain,
      { blocks: scene.solids.plain.grid, meshes: scene.placed.scene.grid, skip },
      { origin, direction },
      {
        ground: scene.ground.raster,
        meshes: scene.placed.scene.grid,
      },
    );
  }

  // ---- what the level looks like -------------------------------------------------------------

  private levelChanged(change: LevelChange): void {
    if (change.rect) this.terrainChanged(change.rect);
    if (change.ground) this.groundChanged(change.ground);
    if (change.blocks) this.blocks.refresh();
    if (change.pieces || change.plants) this.instances.refresh();
    if (this.overlay === 'collision' && (change.pieces || change.plants || change.blocks || change.play)) this.showColliders();
    if (change.pieces || change.rect || change.waters) this.refreshWater();
    if (change.rect || change.ground || change.blocks || change.pieces) this.contact.changed(change.rect !== undefined || change.ground !== undefined);
    if (change.rect || change.ground || change.pieces || change.waters || change.objects || (change.plants && GROWN.has(this.overlay))) this.overlays.refresh();
    if (change.objects) {
      const any = (...of: string[]) => of.some((k) => change.kinds.has(k));
      this.refreshLighting();
      if (this.session.scene.ground.raster.surfaces !== this.surfacesShown) this.refreshSurfaces();
      if (any('coat', 'surface', 'kit')) this.refreshCoats();
      // Species have tints and names of their own.
      if (!change.pieces && any('species', 'asset', 'plant', 'coat', 'kit', 'surface')) this.instances.refresh();
      this.shared.uLimit.value = playerBody(this.session.level).figures.maxSlope;
      this.setPose(this.pose);
    }
    this.sunlight.schedule();
    this.request();
  }

  private refreshLighting(): void {
    const lighting = this.lightingShown ?? lightingOf(this.session.level);
    this.look.setLighting(lighting);
    const sky = lighting.panorama ? this.session.level.object(lighting.panorama) : undefined;
    this.painting.setLighting(lighting, sky?.kind === 'asset' ? sky.hash : undefined);
  }

  /** Shows a lighting that is not the level's, to try or to compare; `undefined` ends it. */
  showLighting(lighting?: Lighting): void {
    const before = this.lightingShown ?? lightingOf(this.session.level);
    this.lightingShown = lighting;
    this.refreshLighting();
    const { sun } = lighting ?? lightingOf(this.session.level);
    if (sun.azimuth !== before.sun.azimuth || sun.elevation !== before.sun.elevation) this.sunlight.schedule();
    this.request();
  }

  private refreshSurfaces(): void {
    const ground = this.session.scene.ground.raster;
    this.surfacesShown = ground.surfaces;
    updateTerrainGround(this.terrainParts, ground);
    const missing = this.look.setSurfaces(ground.surfaces, this.session.level);
    this.terrainView.refreshPalettes();
    this.refreshTops();
    // Until its texture is made a surface wears another one's.
    if (missing)
      void earthWorker()
        .textures(missing)
        .then((data) => {
          this.look.setTextures(missing, data);
          this.refreshSurfaces();
          this.refreshCoats();
          this.contact.changed(true);
          if (this.painting.ready) void this.fineSurfaces();
          this.request();
        });
  }

  /** What the ground wears as fine as it is, for the full picture; asked for once. */
  private fineSurfaces(): Promise<void> {
    const weaves = this.look.finer;
    if (weaves.length === 0) return Promise.resolve();
    if (this.fine?.weaves !== weaves)
      this.fine = {
        weaves,
        there: earthWorker()
          .textures([...weaves], FINE_SIDE)
          .then((data) => {
            this.look.setFine(weaves, data);
            this.request();
          }),
      };
    return this.fine.there;
  }
  private fine?: { weaves: readonly Weave[]; there: Promise<void> };

  private refreshTops(): void {
    const pictures = this.look.setTops(this.session.scene.ground.raster);
    this.blocks.setPainted(pictures);
    this.instanceView.setPainted(pictures);
  }

  private groundChanged(rect: Rect): void {
    this.terrainView.setGround(this.session.scene.ground.raster, rect);
    this.refreshTops();
  }

  /** A brush paints: the ground of a rectangle changed but nothing is committed yet. */
  groundPreview(rect: Rect): void {
    this.groundChanged(rect);
    this.session.scene.cover.forget(rect);
    this.request();
  }

  private refreshWater(): void {
    const { scene, terrain } = this.session;
    this.waterView.update(scene.waters.bodies);
    this.waterView.setBed(terrain, scene.waters.bodies);
    this.waterParts = waterDrawables(scene.waters.bodies, 'seen');
  }

  private refreshCoats(): void {
    this.coats.setKits(ofKind(this.session.level, 'kit'));
    this.coats.set(coatsOf(this.session.level).map(readyCoat), (id) => this.look.wornOf(id));
  }

  /** These blocks and pieces only, and the ground; `undefined` shows all. */
  isolate(ids?: ReadonlySet<string>): void {
    if (this.instances.isolate(ids)) this.blocks.isolate(ids);
  }

  /** Pieces shown other than they are, while a handle is dragged. `undefined` ends it. */
  setPiecePreview(pieces?: Map<string, Piece>): void {
    if (this.instances.previewPieces(pieces)) this.request();
  }

  /** Leaves spenders out of the picture and of the count: `course` or `course/of`. */
  setWithout(without: ReadonlySet<string>): void {
    this.without = without;
    this.request();
  }

  /**
   * The level from another pose with other plants than it has, as pixels: what would be seen of a change before it is made.
   *
   * @param other what would grow, of species in the place of the level's own
   */
  snapshotOther(pose: Pose, [width, height]: readonly [number, number], other: OtherPlants): ImageData {
    const { eye } = this.cameraAt(pose, width / height);
    const image = this.instances.with(other, eye, () => pixelsOf(this.renderer, width, height, () => this.paintOnce(pose, width, height, 1)));
    this.request();
    return image;
  }

  /** Everything the view draws, what is left out excepted. */
  drawables(camera = this.camera): Drawable[] {
    return this.counted([...this.terrainParts, ...this.blocks.parts, ...this.instances.drawables(camera), ...this.waterParts]);
  }

  /** Everything the level costs: what is hidden from view is only not seen here. What is left out is left out here too. */
  costs(): Drawable[] {
    // Haze is drawn with all else here, and is a pass of its own in the game.
    const { level, scene } = this.session;
    if (!hidesAny(this.session) && !scene.cover.any) return [...this.drawables(), ...this.counted(hazeDrawables(lightingOf(level)))];
    // What covers the ground counts where one looks from, and round the places a level is measured from.
    const here = this.camera.fov === 0 ? [] : scene.cover.drawables([this.camera.eye]);
    return this.counted([...new Map([...scene.drawables.list, ...here].map((d) => [d.key, d])).values()]);
  }

  private counted(all: Drawable[]): Drawable[] {
    return this.without.size === 0 ? all : all.filter((d) => !this.without.has(d.course) && !this.without.has(`${d.course}/${d.of}`));
  }

  private terrainChanged(rect: Rect): void {
    const { terrain, scene } = this.session;
    const ground = scene.ground.raster;
    this.terrainView.update(terrain, ground, rect);
    if (this.terrainParts.length === terrain.grid.tilesX * terrain.grid.tilesZ && this.partsGrid === terrain.grid) {
      updateTerrainDrawables(this.terrainParts, terrain, rect);
      updateTerrainGround(this.terrainParts, ground, rect);
    } else this.terrainParts = terrainDrawables(terrain, ground.surfaces, ground);
    this.partsGrid = terrain.grid;
  }

  /** A brush is drawing: heights of a rectangle changed but nothing is committed yet. */
  terrainPreview(rect: Rect): void {
    this.terrainChanged(rect);
    this.overlays.refresh();
    // Waters are live while the ground is worked.
    const { ground, waters } = this.session.scene.draw(rect);
    if (waters) this.refreshWater();
    this.terrainView.setGround(this.session.scene.ground.raster, ground);
    this.request();
  }

  /** A picture of an asset beside the player's figure, for the library and its card. */
  assetPicture(asset: Asset, options?: PictureOptions): Promise<string> {
    const { renderer, shared, textures } = this;
    return assetPicture({ renderer, shared, textures }, asset, playerBody(this.session.level).figures, options);
  }

  setWorkLight(on: boolean): void {
    this.shared.uWork.value = on ? 1 : 0;
    this.request();
  }
  /** Lays an overlay on the ground; one that is none of the ground's takes it away. */
  setOverlay(overlay: string): void {
    this.overlays.set(overlay);
    this.overlay = overlay;
    this.showColliders();
    this.overlayChanged();
  }

  /** What stops a body, as Walk and the walk area have it. */
  private showColliders(): void {
    const on = this.overlay === 'collision';
    if (on || this.aids.colliders) this.aids.setColliders(on ? this.session.scene.walk.meshes : undefined, this.pose.target);
  }

  private overlayChanged(): void {
    const { shown, texture } = this.overlays;
    this.shared.uPicture.value = texture;
    this.shared.uStep.value = shown?.step ?? 1;
    this.shared.uSpacing.value = this.session.terrain.grid.spacing;
    this.terrainView.overlays = [
      ...(this.overlay === 'slope' ? ['TOO_STEEP'] : []),
      ...(shown ? ['PICTURED'] : []),
      ...(shown?.step ? ['CONTOURS'] : []),
      ...(this.overlay === 'wireframe' ? ['WIRES'] : []),
    ];
    this.request();
  }

  // ---- a frame -------------------------------------------------------------------------------

  private wanted(over: Partial<Wanted> & { coarseness: number; ratio: number }): Wanted {
    if (this.instances.follow(over.camera ?? this.camera, over.camera !== undefined)) this.request();
    return {
      camera: this.camera,
      width: this.width,
      height: this.height,
      drawables: this.drawables(over.camera),
      spacing: this.session.terrain.grid.spacing,
      withoutWater: this.overlay === 'water depth',
      // A picture of another size is one without what is measured.
      overdraw: this.overlay === 'overdraw' && over.camera === undefined,
      ...(this.pose.lens ? { lens: this.pose.lens } : {}),
      ...over,
    };
  }

  /** What is measured over the ground, the work light and what is still blockout are drawn plain: they are drawings, not light. */
  private drawing(): boolean {
    return this.shared.uWork.value === 1 || this.terrainView.overlays.length > 0 || this.blocks.still || this.overlay === 'overdraw';
  }

  private paintOnce(pose: Pose, width: number, height: number, coarseness: number): void {
    this.painting.plain(this.wanted({ camera: this.cameraAt(pose, width / height), width, height, coarseness, ratio: 1 }));
  }

  /**
   * A picture of this view at a size of its own, without figures and tools, of many frames of the full picture; PNG.
   * @param of its size, and whether plants stand in it without wind
   * @param stopped asked before each frame @returns nothing when it was ended
   */
  async still(of: { width: number; height: number; calm: boolean }, progress: (drawn: number) => void, stopped: () => boolean): Promise<Blob | undefined> {
    this.governor.hold(true);
    try {
      const camera = this.cameraAt(this.pose, of.width / of.height);
      return await this.painting.still(this.wanted({ camera, ...of, coarseness: 0.5, ratio: 1 }), progress, stopped);
    } finally {
      this.governor.hold(false);
    }
  }
}
