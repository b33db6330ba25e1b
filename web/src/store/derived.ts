import { meshGrid, NO_MESHES, type MeshGrid, type PlacedMesh } from '@rammer/core/block/placedMesh';
import { assetHeights } from '@rammer/core/cost/parts';
import type { Rect, Terrain } from '@rammer/core/earth/compose';
import { wholeRect } from '@rammer/core/earth/compose';
import type { Plants } from '@rammer/core/growth/grow';
import { trunkColliders } from '@rammer/core/growth/trunks';
import { readAsset } from '@rammer/core/io/assetGlb';
import type { Asset } from '@rammer/core/kit/asset';
import { pieceColliders, placedPieces } from '@rammer/core/kit/placement';
import { ofKind, presentPieces, speciesOf, type Level } from '@rammer/core/level/level';
import type { Block, Piece, Species, Water } from '@rammer/core/level/objects';
import type { Tiles } from '@rammer/core/level/tiles';
import { composeGround, makeGround, type GroundRaster } from '@rammer/core/surface/ground';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import { growthWorker } from '../workers/pool';

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
  pieces: Piece[] = [];
  placed: PlacedMesh[] = [];
  meshes: MeshGrid = NO_MESHES;
  waters: Water[] = [];
  species: Species[] = [];
  grown: Plants[] = [];
  /** what the last growing did, in words */
  summary = '';
  /** plants are being grown and those shown are older than the level */
  growing = false;
  private ticket = 0;
  private timer?: ReturnType<typeof setTimeout>;
  private sown: Tiles | undefined;

  constructor(private readonly source: { level: Level; terrain: Terrain; blocks: Block[] }, private readonly tell: (change: { pieces?: boolean; plants?: boolean }) => void, private readonly fail: (message: string) => void) {}

  private closed = false;

  dispose(): void { this.closed = true; clearTimeout(this.timer); this.ticket++; }

  /** Everything anew: another level, another terrain size, other surfaces. */
  rebuild(): void {
    this.refreshGround();
    this.refreshPieces();
    void this.loadAssets();
    this.regrow();
  }

  refreshGround(): void {
    const { level, terrain } = this.source;
    const { surfaces, rule } = surfacesOf(level);
    const same = this.ground && this.ground.grid.nx === terrain.grid.nx && this.ground.grid.nz === terrain.grid.nz;
    this.ground = same ? { ...this.ground, grid: terrain.grid, surfaces } : makeGround(terrain.grid, surfaces);
    composeGround(this.ground, terrain, rule, level.tiles, wholeRect(terrain.grid));
  }

  /** Heights or paint of a rectangle changed. @param tiles of a stroke that is being drawn, else the level's */
  updateGround(rect: Rect, tiles: Tiles = this.source.level.tiles): Rect {
    return composeGround(this.ground, this.source.terrain, surfacesOf(this.source.level).rule, tiles, rect);
  }

  refreshPieces(): void {
    this.pieces = presentPieces(this.source.level);
    this.placed = placedPieces(this.pieces, this.assets);
    this.meshes = meshGrid(this.placed);
    this.waters = ofKind(this.source.level, 'water').filter((w) => !w.out);
    this.species = speciesOf(this.source.level);
  }

  /** Reads the meshes the level names that are not here yet. */
  async loadAssets(): Promise<void> {
    const wanted = ofKind(this.source.level, 'asset').filter((o) => !this.assets.has(o.id));
    if (wanted.length === 0) return;
    await Promise.all(wanted.map(async (object) => {
      try {
        this.assets.set(object.id, await assetFile(object.hash));
      } catch (error) {
        this.fail(`${object.name} cannot be shown: ${(error as Error).message}`);
      }
    }));
    if (this.closed) return;
    this.refreshPieces();
    this.tell({ pieces: true });
    this.regrow();
  }

  /** Grows the plants again in the worker; a later call overtakes an earlier one. @param sown of a stroke that is being drawn */
  regrow(sown?: Tiles, delay = 40): void {
    this.sown = sown;
    this.growing = true;
    this.ticket++;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.run(), delay);
  }

  private async run(): Promise<void> {
    const { level, terrain, blocks } = this.source;
    const ticket = this.ticket;
    this.species = speciesOf(level);
    const tiles = this.sown ?? level.tiles;
    const keys = this.sown ? [...new Set([...level.tiles.keys(), ...this.sown.keys()])] : [...level.tiles.keys()];
    const sown = keys.filter((k) => k.includes('/sown/')).flatMap((k): [string, Int32Array][] => { const t = tiles.get(k); return t ? [[k, t]] : []; });
    const grown = this.species.length === 0 ? [] : await growthWorker().grow({
      grid: terrain.grid, heights: terrain.heights, ground: this.ground, blocks, placed: this.placed, waters: this.waters, species: this.species,
      assetHeights: assetHeights(this.assets), plants: ofKind(level, 'plant'), sown,
    });
    if (ticket !== this.ticket) return;
    const hand = grown.reduce((n, g) => n + g.hand.length, 0);
    this.summary = `grown ${grown.reduce((n, g) => n + g.count, 0) - hand}, kept ${hand} by hand`;
    this.grown = grown;
    this.growing = false;
    this.tell({ plants: true });
  }

  get speciesById(): Map<string, Species> { return new Map(this.species.map((s) => [s.id, s])); }

  /** Pieces and trunks as they stop a body. */
  solids(): PlacedMesh[] {
    return [...pieceColliders(this.pieces, this.assets), ...trunkColliders(this.grown, this.speciesById, this.assets)];
  }
}
