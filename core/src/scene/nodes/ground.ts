import { blocksNear, CELL, type BlockGrid } from '../../block/grid';
import type { MeshGrid, PlacedMesh } from '../../block/placedMesh';
import { samplesIn, uniteRects, wholeRect, type Rect } from '../../earth/rect';
import { sameShores, type WaterBody } from '../../earth/water';
import { watersOf } from '../../earth/waters';
import type { Block } from '../../level/objects';
import { parseTileKey, type Tiles } from '../../level/tiles';
import { composeGround, makeGround, type GroundRaster, type GroundSource } from '../../surface/ground';
import { layTops, rulesOnTops } from '../../surface/layTops';
import { movedHosts } from '../../surface/movedHosts';
import { rulesLookAt } from '../../surface/rules/index';
import { surfacesOf } from '../../surface/surfaces';
import { unitedTouched, type Touched } from '../../growth/growthDirt';
import type { Dirt, Host, News, Node } from '../node';
import type { Whole, WholeRun } from '../whole';
import { sortedMeshes, type PlacedNode } from './placed';
import type { SolidsNode } from './solids';
import { tileRect, type TerrainNode } from './terrain';
import type { WatersNode } from './waters';

interface GroundHost extends Host {
  readonly terrain: TerrainNode;
  readonly waters: WatersNode;
  readonly solids: SolidsNode;
  readonly placed: PlacedNode;
  readonly whole: WholeRun;
}

/** What the ground is made of, sample by sample, and what lies on the tops of what stands on it. */
export class GroundNode implements Node {
  readonly name = 'ground';
  // Rules may go by lifts.
  readonly aspects = ['surface', 'earth'] as const;
  readonly channels = ['paint', 'top'] as const;
  readonly from = ['terrain', 'waters', 'solids', 'placed'] as const;

  raster!: GroundRaster;
  /** those the ground was composed by as a whole: a part of it is composed by the same */
  private waters: readonly WaterBody[] = [];

  constructor(
    private readonly host: GroundHost,
    private readonly mostAtOnce: number,
  ) {}

  get running(): boolean {
    return this.host.whole.running;
  }

  /** What the ground is composed from as the level is now. */
  source(tiles: Tiles = this.host.level.tiles): GroundSource {
    const { terrain, level, solids, placed } = this.host;
    const hosts = {
      get blocks() {
        return solids.plain.list;
      },
      get meshes() {
        return placed.list;
      },
      near: (x0: number, z0: number, x1: number, z1: number) => hostsNear(solids.plain.grid, placed.scene.grid, { x0, z0, x1, z1 }) ?? hosts,
    };
    return { terrain: terrain.value, stack: terrain.stack, tiles, waters: this.waters, rules: surfacesOf(level).rules, hosts };
  }

  follow(news: News): Dirt | undefined {
    const moved = [...this.host.solids.plain.takeMoved(), ...this.host.placed.scene.takeMoved()];
    if (news.whole) return this.adopt(news.whole);
    const { rules } = surfacesOf(this.host.level);
    const everywhere =
      news.touches('surface') ||
      (rulesLookAt(rules, 'waters') && news.dirt.has('waters') && this.shoresMoved) ||
      (rulesLookAt(rules, 'lifts') && news.kinds.has('lift'));
    const painted = paintRect(news.tiles);
    const heights = news.dirt.get('terrain');
    if (heights) this.touch(heights === true ? 'all' : heights);
    if (this.running) {
      if (everywhere || painted) this.host.whole.missedGround();
      return undefined;
    }
    if (everywhere) return this.everywhere();
    const tops = rulesOnTops(rules) ? movedHosts(this.raster.grid, moved) : undefined;
    let rect: Rect | undefined;
    for (const part of [painted, heights === true ? wholeRect(this.raster.grid) : heights, tops]) if (part) rect = uniteRects(rect, this.update(part));
    return rect;
  }

  /** Heights, paint or hosts of a rectangle changed. @param tiles of a stroke that is being drawn, else the level's */
  update(rect: Rect, tiles?: Tiles): Rect {
    const composed = composeGround(this.raster, this.source(tiles), rect);
    this.touch(composed);
    return composed;
  }

  /** Samples whose ground or heights are others since it was last asked, strokes that are being drawn among them. */
  takeTouched(): Touched {
    const { touched } = this;
    this.touched = 'none';
    return touched;
  }
  private touched: Touched = 'all';
  private touch(by: Touched): void {
    this.touched = unitedTouched(this.touched, by);
  }

  /** The whole is composed again: at once, or by the runner. @returns what is anew at once */
  private everywhere(): Rect | undefined {
    const { grid } = this.host.terrain.value;
    const whole = wholeRect(grid);
    if (samplesIn(whole) > this.mostAtOnce) {
      this.host.whole.ask('ground');
      return undefined;
    }
    const { surfaces } = surfacesOf(this.host.level);
    if (this.shoresMoved) this.waters = this.host.waters.bodies;
    const same = this.raster.grid.nx === grid.nx && this.raster.grid.nz === grid.nz;
    if (!same) this.touch('all');
    this.raster = same ? { ...this.raster, grid, surfaces } : makeGround(grid, surfaces);
    return this.update(whole);
  }

  private adopt({ ground, waters, late }: Whole): Dirt {
    this.touch('all');
    this.raster = ground;
    this.waters = watersOf(waters).bodies;
    layTops(ground, this.source(), wholeRect(ground.grid));
    const { rules } = surfacesOf(this.host.level);
    if (late.ground || (rulesLookAt(rules, 'waters') && this.shoresMoved) || (late.rect && rulesLookAt(rules, 'lifts'))) this.everywhere();
    else if (late.rect) this.update(late.rect);
    return true;
  }

  /** Whether a shore or a height of water is another than those the ground was composed by. */
  private get shoresMoved(): boolean {
    const { bodies } = this.host.waters;
    return this.waters !== bodies && !sameShores(this.waters, bodies);
  }
}

function paintRect(tiles: readonly string[]): Rect | undefined {
  let rect: Rect | undefined;
  for (const key of tiles) if (['paint', 'top'].includes(parseTileKey(key)!.channel)) rect = uniteRects(rect, tileRect(key));
  return rect;
}

/** More cells than this and it is quicker to look at all. */
const MOST_CELLS = 1024;

/** What stands over a rectangle in plan, in the order of the lists. @returns nothing where the rectangle is wide */
function hostsNear(blocks: BlockGrid, meshes: MeshGrid, { x0, z0, x1, z1 }: Rect) {
  const [cx0, cz0, cx1, cz1] = [x0, z0, x1, z1].map((v) => Math.floor(v / CELL));
  if ((cx1 - cx0 + 1) * (cz1 - cz0 + 1) > MOST_CELLS) return undefined;
  const near = { blocks: new Set<Block>(), meshes: new Set<PlacedMesh>() };
  for (let cx = cx0; cx <= cx1; cx++) {
    for (let cz = cz0; cz <= cz1; cz++) {
      for (const b of blocksNear(blocks, cx * CELL, cz * CELL)) near.blocks.add(b);
      for (const m of meshes.get(`${cx},${cz}`) ?? []) near.meshes.add(m);
    }
  }
  return { blocks: [...near.blocks].sort((a, b) => (a.id < b.id ? -1 : 1)), meshes: sortedMeshes([...near.meshes]) };
}
