import { splitBlocks, type BuiltBlock, type Split } from '@rammer/core/block/build';
import { blockGrid, type BlockGrid } from '@rammer/core/block/grid';
import { isPlain } from '@rammer/core/block/shapes';
import type { MeshGrid, PlacedMesh } from '@rammer/core/block/placedMesh';
import { assetHeights } from '@rammer/core/cost/parts';
import type { Rect, Terrain } from '@rammer/core/earth/compose';
import { wholeRect } from '@rammer/core/earth/compose';
import type { Plants } from '@rammer/core/growth/plants';
import { trunkColliders } from '@rammer/core/growth/trunks';
import { readAsset } from '@rammer/core/io/assetGlb';
import type { Asset } from '@rammer/core/kit/asset';
import { PlacedScene } from '@rammer/core/kit/placedScene';
import { pieceColliders, placedPiece, placedPieces } from '@rammer/core/kit/placement';
import { ofKind, presentBlocks, presentPieces, presentPlants, speciesOf, type Level } from '@rammer/core/level/level';
import { sameShores, type WaterBody } from '@rammer/core/earth/water';
import type { DryWater, Filled } from '@rammer/core/earth/waters';
import type { Block, Lift, Piece, Species, Standing } from '@rammer/core/level/objects';
import { presentOf, type PresentMark } from '@rammer/core/level/present';
import type { Tiles } from '@rammer/core/level/tiles';
import { composeGround, makeGround, type GroundRaster, type GroundSource } from '@rammer/core/surface/ground';
import { layTops, rulesOnTops, type Hosts } from '@rammer/core/surface/layTops';
import { movedHosts } from '@rammer/core/surface/movedHosts';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import { CuttingStopped, cutSolids } from './cutting';
import { blockWorker, growthWorker, replaceBlockWorker } from '../workers/pool';
import { Floods } from './floods';

/** Read meshes by content hash: the same file is fetched once a page. */
const files = new Map<string, Promise<Asset>>();

/** The mesh of a hash, fetched and read once. */
export function assetFile(hash: string): Promise<Asset> {
  let found = files.get(hash);
  if (!found) {
    found = fetch(`/api/assets/${hash}`).then(async (answer) => {
      if (!answer.ok) throw new Error(`asset ${hash.slice(0, 8)} is not there`);
      const read = await readAsset(new Uint8Array(await answer.arrayBuffer()));
      if (!read.ok) throw new Error(read.message);
      return read.value;
    });
    found.catch(() => files.delete(hash));
    files.set(hash, found);
  }
  return found;
}

/**
 * What is made from a level and kept beside it: ground, pieces as meshes, plants. Each part is made
 * again only when what it depends on changed; plants come from the worker a moment later.
 */
export class Derived {
  ground!: GroundRaster;
  assets = new Map<string, Asset>();
  /** hash of each asset's mesh that is here */
  private readonly loaded = new Map<string, string>();
  /** solids and voids that are in the level */
  blocks: readonly Block[] = [];
  /** those whose solid is plain */
  plain: Block[] = [];
  grid: BlockGrid = new Map();
  voids: Block[] = [];
  movers = new Map<string, Block>();
  /** movers and background: what stops nobody where it is */
  private apart = new Set<string>();
  /** those that are meshes, by id: as last built */
  built = new Map<string, BuiltBlock>();
  /** pieces and built blocks where they stand */
  readonly scene = new PlacedScene();
  /** up to where pieces were taken in */
  private mark?: PresentMark;
  /** counts assets that came: meshes placed of others are no more */
  assetsRevision = 0;
  readonly floods: Floods;
  /** those the ground was composed by as a whole: a part of it is composed by the same */
  private groundWaters: WaterBody[] = [];
  species: Species[] = [];
  grown: Plants[] = [];
  /** what the last growing did, in words */
  summary = '';
  /** plants are being grown and those shown are older than the level */
  growing = false;
  private ticket = 0;
  private timer?: ReturnType<typeof setTimeout>;
  private sown: Tiles | undefined;

  constructor(
    private readonly source: { level: Level; terrain: Terrain; stack: readonly Lift[] },
    private readonly tell: (change: { blocks?: boolean; pieces?: boolean; plants?: boolean; ground?: Rect }) => void,
    flooded: (drawn: boolean) => void,
    private readonly fail: (message: string) => void,
  ) {
    this.floods = new Floods(source, flooded, fail);
  }

  /** waters on the ground as it is, and those that lie nowhere */
  get pieces(): readonly Piece[] {
    return presentPieces(this.source.level);
  }
  get meshes(): MeshGrid {
    return this.scene.grid;
  }

  private listed: { revision: number; list: PlacedMesh[] } = { revision: -1, list: [] };

  /** Pieces and built blocks, as one list; only who needs them all asks for it. */
  get placed(): PlacedMesh[] {
    if (this.listed.revision !== this.scene.revision)
      this.listed = { revision: this.scene.revision, list: [...placedPieces(this.pieces, this.assets), ...this.built.values()] };
    return this.listed.list;
  }

  get waters(): WaterBody[] {
    return this.floods.bodies;
  }
  get dryWaters(): DryWater[] {
    return this.floods.dry;
  }

  private closed = false;

  dispose(): void {
    this.closed = true;
    clearTimeout(this.timer);
    this.ticket++;
  }

  /** Another level, or its ground composed anew as a whole: takes on what was made of it, and makes the rest again. */
  rebuild(ground: GroundRaster, waters: readonly Filled[]): void {
    this.ground = ground;
    this.floods.adopt(waters);
    this.groundWaters = this.waters;
    this.refreshPieces();
    this.topped = this.plain;
    this.scene.takeMoved();
    layTops(this.ground, this.groundSource(), wholeRect(ground.grid));
    void this.loadAssets();
    this.regrow();
  }

  /** What the rules on tops were last laid on. */
  private topped: readonly Block[] = [];
  private get hosts(): Hosts {
    return { blocks: this.plain, meshes: this.placed };
  }

  /** Lays the rules that lie on tops where blocks and pieces came, went or moved since. @returns the samples that are anew */
  followTops(): Rect | undefined {
    const before = this.topped;
    this.topped = this.plain;
    const meshes = this.scene.takeMoved();
    if (!this.ground || !rulesOnTops(surfacesOf(this.source.level).rules)) return undefined;
    const moved = movedHosts(this.ground.grid, before, this.plain, meshes);
    return moved && this.updateGround(moved);
  }

  refreshGround(): void {
    const { level, terrain } = this.source;
    const { surfaces } = surfacesOf(level);
    if (this.shoresMoved) this.groundWaters = this.waters;
    const same = this.ground && this.ground.grid.nx === terrain.grid.nx && this.ground.grid.nz === terrain.grid.nz;
    this.ground = same ? { ...this.ground, grid: terrain.grid, surfaces } : makeGround(terrain.grid, surfaces);
    this.updateGround(wholeRect(terrain.grid));
  }

  /** Heights or paint of a rectangle changed. @param tiles of a stroke that is being drawn, else the level's */
  updateGround(rect: Rect, tiles: Tiles = this.source.level.tiles): Rect {
    return composeGround(this.ground, this.groundSource(tiles), rect);
  }

  /** What the ground is composed from as the level is now. */
  groundSource(tiles: Tiles = this.source.level.tiles): GroundSource {
    const { terrain, stack, level } = this.source;
    return { terrain, stack, tiles, waters: this.groundWaters, rules: surfacesOf(level).rules, hosts: this.hosts };
  }

  /**
   * Blocks changed. A solid that is to be built stands as it was until its mesh comes from the worker; one
   * that was plain stands plain until then.
   */
  refreshBlocks(): void {
    this.blocks = presentBlocks(this.source.level);
    this.voids = this.blocks.filter((b) => b.op === 'void');
    this.movers = new Map(this.blocks.filter((b) => b.stops).map((b) => [b.id, b]));
    this.apart = new Set(this.blocks.filter((b) => b.stops || b.background).map((b) => b.id));
    const { plain, special } = splitBlocks(this.blocks);
    const wanted = new Set(special.map(({ block }) => block.id));
    for (const id of this.built.keys()) if (!wanted.has(id)) this.built.delete(id);
    // A name is not part of a solid: it changes without a build.
    for (const {
      block: { id, name },
    } of special) {
      const b = this.built.get(id);
      if (b && b.name !== name) this.built.set(id, { ...b, name });
    }
    this.standPlain({ plain, special });
    if (special.length > 0) void this.build();
  }

  /** Blocks that stand plain: those nothing cuts, and those whose cut solid is not there, or is nothing. */
  private standPlain({ plain, special }: Split): void {
    const waiting = special.filter(({ block }) => !this.built.has(block.id) && isPlain(block)).map(({ block }) => block);
    this.plain = waiting.length === 0 ? plain : [...plain, ...waiting].sort((a, b) => (a.id < b.id ? -1 : 1));
    this.grid = blockGrid(this.plain);
    this.placeBuilt();
  }

  private building = false;
  private buildAgain = false;

  /** Builds solids with their voids in the worker; one run at a time, and one more where something changed meanwhile. */
  private async build(): Promise<void> {
    if (this.building) {
      this.buildAgain = true;
      return;
    }
    this.building = true;
    try {
      do {
        this.buildAgain = false;
        await this.buildOnce(this.blocks);
      } while (this.buildAgain && !this.closed);
    } catch (error) {
      if (error instanceof CuttingStopped)
        return this.fail('cutting solids was stopped: they stand as they were. Undo the last change, or change a block to cut them again.');
      replaceBlockWorker();
      this.fail(`solids could not be cut: ${(error as Error).message}. Undo the last change and try again.`);
    } finally {
      this.building = false;
    }
  }

  /** Ends when the solids are those of the level. */
  async settled(): Promise<void> {
    while (this.building) await new Promise((later) => setTimeout(later, 20));
  }

  /** Blocks as they would be with some changed, while they are dragged; `undefined` when a later one overtook it. */
  async preview(blocks: readonly Block[], moving: string[]): Promise<Map<string, BuiltBlock> | undefined> {
    const mine = ++this.previewTicket;
    while (this.previewing) {
      await new Promise((later) => setTimeout(later, 4));
      if (mine !== this.previewTicket) return undefined;
    }
    this.previewing = true;
    try {
      const { made, keys } = await blockWorker().build(
        blocks,
        [...this.built.values()].map((b) => b.key),
        moving,
      );
      const byKey = new Map([...this.built.values(), ...made].map((b) => [b.key, b]));
      return new Map(keys.map((k) => byKey.get(k)!).map((b) => [b.id, b]));
    } catch {
      return undefined;
    } finally {
      this.previewing = false;
    }
  }

  private previewing = false;
  private previewTicket = 0;

  private async buildOnce(blocks: readonly Block[]): Promise<void> {
    const old = new Map([...this.built.values()].map((b) => [b.key, b]));
    const { made, keys } = await cutSolids(blocks, [...old.keys()]);
    if (this.closed || blocks !== this.blocks) return;
    const names = new Map(blocks.map((b) => [b.id, b.name]));
    // What nothing is left of never stands: its last shape is kept, and said after every change until it is mended.
    const swallowed = made.filter((b) => b.indices.length === 0);
    for (const b of swallowed)
      this.fail(
        `${names.get(b.id)} is cut away whole by ${b.voids.map((v) => names.get(v)).join(', ')}: its last shape is kept; make the void smaller or move it`,
      );
    if (made.length === swallowed.length && keys.length - swallowed.length === this.built.size) return;
    const byKey = new Map([...old, ...made.filter((b) => b.indices.length > 0).map((b): [string, BuiltBlock] => [b.key, b])]);
    for (const key of keys) {
      const b = byKey.get(key);
      if (b) this.built.set(b.id, { ...b, name: names.get(b.id)! });
    }
    this.standPlain(splitBlocks(blocks));
    // While a level is being opened its terrain may still be on the way; what comes after it looks at the solids too.
    if (!this.source.terrain) return;
    this.tell({ blocks: true, pieces: true, ground: this.followTops() });
    this.regrow();
  }

  /** Takes built blocks in: those that are anew, and away those that are gone. */
  private placeBuilt(): void {
    for (const mesh of this.scene.values()) if (mesh.of === 'block' && !this.built.has(mesh.id)) this.scene.delete(mesh.id);
    for (const mesh of this.built.values()) this.scene.put(mesh);
  }

  /** Takes pieces in that came, went or changed, those of copies too. */
  refreshPieces(): void {
    const present = presentOf(this.source.level.objects);
    const { ids, mark } = present.since(this.mark);
    this.mark = mark;
    const place = (id: string, piece: Standing | undefined): void => {
      const asset = piece?.kind === 'piece' ? this.assets.get(piece.asset) : undefined;
      if (piece?.kind === 'piece' && asset) this.scene.put(placedPiece(piece, asset));
      else if (this.scene.get(id)?.of !== 'block') this.scene.delete(id);
    };
    if (ids) for (const id of ids) place(id, present.get(id));
    else {
      const all = new Map(this.pieces.map((p) => [p.id, p]));
      for (const mesh of this.scene.values()) if (mesh.of !== 'block' && !all.has(mesh.id)) this.scene.delete(mesh.id);
      for (const [id, piece] of all) place(id, piece);
    }
    this.species = speciesOf(this.source.level);
  }

  /** Whether a shore or a height of water is another than those the ground was composed by. */
  get shoresMoved(): boolean {
    return this.groundWaters !== this.waters && !sameShores(this.groundWaters, this.waters);
  }

  /** Reads the meshes the level names that are not here yet. */
  async loadAssets(): Promise<void> {
    // By hash: what was cast again is another mesh under the same id.
    const wanted = ofKind(this.source.level, 'asset').filter((o) => this.loaded.get(o.id) !== o.hash);
    if (wanted.length === 0) return;
    await Promise.all(
      wanted.map(async (object) => {
        try {
          this.assets.set(object.id, await assetFile(object.hash));
          this.loaded.set(object.id, object.hash);
        } catch (error) {
          this.fail(`${object.name} cannot be shown: ${(error as Error).message}`);
        }
      }),
    );
    if (this.closed) return;
    this.assetsRevision++;
    this.mark = undefined;
    this.refreshPieces();
    this.tell({ pieces: true, ground: this.followTops() });
    this.regrow();
  }

  /** Grows the plants again in the worker; a later call overtakes an earlier one. @param sown of a stroke that is being drawn */
  regrow(sown?: Tiles, delay = 40): void {
    this.sown = sown;
    this.growing = true;
    this.ticket++;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => {
      this.run().catch((error: Error) => {
        this.growing = false;
        this.summary = 'not grown';
        if (!this.closed) this.fail(`plants were not grown: ${error.message}`);
      });
    }, delay);
  }

  private async run(): Promise<void> {
    const { level, terrain } = this.source;
    const ticket = this.ticket;
    this.species = speciesOf(level);
    const tiles = this.sown ?? level.tiles;
    const keys = this.sown ? [...new Set([...level.tiles.keys(), ...this.sown.keys()])] : [...level.tiles.keys()];
    const sown = keys
      .filter((k) => k.includes('/sown/'))
      .flatMap((k): [string, Int32Array][] => {
        const t = tiles.get(k);
        return t ? [[k, t]] : [];
      });
    const grown =
      this.species.length === 0
        ? []
        : await growthWorker().grow({
            grid: terrain.grid,
            heights: terrain.heights,
            ground: this.ground,
            blocks: this.plain,
            placed: this.placed,
            waters: this.waters,
            species: this.species,
            assetHeights: assetHeights(this.assets),
            plants: [...presentPlants(level)],
            sown,
          });
    if (ticket !== this.ticket) return;
    const hand = grown.reduce((n, g) => n + g.hand.length, 0);
    this.summary = `grown ${grown.reduce((n, g) => n + g.count, 0) - hand}, kept ${hand} by hand`;
    this.grown = grown;
    this.growing = false;
    this.tell({ plants: true });
  }

  get speciesById(): Map<string, Species> {
    return new Map(this.species.map((s) => [s.id, s]));
  }

  /** Plain blocks that stay where they are: what the walk area stands on. */
  get still(): Block[] {
    return this.plain.filter((b) => !b.stops && !b.background);
  }

  /** Pieces, built blocks and trunks as they stop a body; movers come by themselves. */
  solids(): PlacedMesh[] {
    return [
      ...pieceColliders(this.pieces, this.assets),
      ...[...this.built.values()].filter((b) => !this.apart.has(b.id)),
      ...trunkColliders(this.grown, this.speciesById, this.assets),
    ];
  }
}
