import { coatsOf } from '../../coat/coats';
import type { Drawable } from '../../cost/drawable';
import { hazeDrawables, terrainDrawables, updateTerrainDrawables, updateTerrainGround } from '../../cost/terrainDrawables';
import { BlockCells } from '../../cost/blockCells';
import { instanceDrawables, PieceCells, waterDrawables } from '../../cost/instances';
import { plantCells } from '../../cost/plantCells';
import { owners } from '../../cost/parts';
import { costEyes } from '../../cost/places';
import { uniteRects, wholeRect, type Rect } from '../../earth/rect';
import { lightingOf } from '../../level/lighting';
import { presentOf } from '../../level/present';
import type { Grid } from '../../level/tiles';
import type { Mark } from '../../num/journal';
import type { Dirt, News, Node } from '../node';
import type { CoverHost, CoverNode } from './cover';

export interface DrawablesHost extends CoverHost {
  readonly cover: CoverNode;
}

/**
 * Everything a level draws in the game, what is hidden from view with it: what its cost is counted from, and what covers the ground
 * round the places that is counted at. Made when it is asked for.
 */
export class DrawablesNode implements Node {
  readonly name = 'drawables';
  readonly aspects = ['solid', 'standing', 'coats', 'plants', 'water', 'lighting', 'surface', 'cover', 'markers', 'notes'] as const;
  readonly channels = [] as const;
  readonly from = ['terrain', 'waters', 'solids', 'placed', 'ground', 'plants', 'cover'] as const;
  readonly running = false;

  private terrain: Drawable[] = [];
  private grid?: Grid;
  /** samples whose heights, and whose surfaces, are others than those of `terrain` */
  private heights?: Rect;
  private surfaces?: Rect;
  private readonly blocks = new BlockCells();
  private readonly pieces = new PieceCells();
  private blocksMark?: Mark;
  private piecesMark?: Mark;
  private assetsRevision = -1;
  private plants: readonly Drawable[] = [];
  private plantsStale = true;
  private made?: Drawable[];

  constructor(private readonly host: DrawablesHost) {}

  follow({ dirt, kinds }: News): Dirt | undefined {
    const whole = () => wholeRect(this.host.terrain.value.grid);
    const [heights, surfaces] = [dirt.get('terrain'), dirt.get('ground')];
    if (heights) this.heights = heights === true ? whole() : uniteRects(this.heights, heights);
    if (surfaces) this.surfaces = surfaces === true ? whole() : uniteRects(this.surfaces, surfaces);
    if (dirt.has('plants') || kinds.has('species') || kinds.has('asset')) this.plantsStale = true;
    this.made = undefined;
    return true;
  }

  /** @returns a list of the caller's own */
  get list(): Drawable[] {
    return (this.made ??= this.make()).slice();
  }

  private make(): Drawable[] {
    const { level, waters, placed, plants } = this.host;
    const names = owners(level);
    this.followTerrain();
    this.followBlocks();
    this.followPieces();
    if (this.plantsStale || placed.assetsRevision !== this.assetsRevision)
      this.plants = instanceDrawables(plantCells(plants.grown, plants.byId, placed.assets), placed.assets, names);
    this.plantsStale = false;
    this.assetsRevision = placed.assetsRevision;
    return [
      ...this.terrain,
      ...this.blocks.list,
      ...this.pieces.drawables(placed.assets, names, coatsOf(level)),
      ...this.plants,
      ...waterDrawables(waters.bodies),
      ...hazeDrawables(lightingOf(level)),
      ...this.host.cover.drawables(costEyes(level)),
    ];
  }

  private followTerrain(): void {
    const terrain = this.host.terrain.value;
    const { raster } = this.host.ground;
    if (this.grid !== terrain.grid) this.terrain = terrainDrawables(terrain, raster.surfaces, raster);
    else {
      if (this.heights) updateTerrainDrawables(this.terrain, terrain, this.heights);
      if (this.surfaces) updateTerrainGround(this.terrain, raster, this.surfaces);
    }
    this.grid = terrain.grid;
    this.heights = this.surfaces = undefined;
  }

  private followBlocks(): void {
    const { solids, level } = this.host;
    const present = presentOf(level.objects);
    const { ids, mark } = solids.journal.since(this.blocksMark);
    this.blocksMark = mark;
    for (const id of ids ?? new Set([...this.blocks.ids(), ...solids.all.map((b) => b.id)])) {
      const block = present.get(id);
      this.blocks.set(id, block?.kind === 'block' ? block : undefined, solids.built.get(id));
    }
    this.blocks.update();
  }

  private followPieces(): void {
    const present = presentOf(this.host.level.objects);
    const { ids, mark } = present.since(this.piecesMark);
    this.piecesMark = mark;
    if (!ids) this.pieces.clear();
    for (const id of ids ?? this.host.placed.pieces.map((p) => p.id)) {
      const piece = present.get(id);
      this.pieces.set(id, piece?.kind === 'piece' ? piece : undefined);
    }
  }
}
