import { changedRect } from '../../earth/changed';
import { composeRect, missingNoise, noiseOf, uniteRects, type Rect, type Terrain } from '../../earth/compose';
import { noiseLiftHash, noiseLiftRows } from '../../earth/lifts/noise';
import { samplesIn } from '../../earth/rect';
import { noiseRect } from '../../earth/slab';
import { liftStack } from '../../level/level';
import type { Lift } from '../../level/objects';
import { parseTileKey, TILE_QUADS } from '../../level/tiles';
import type { Dirt, Host, News, Node } from '../node';
import type { Whole, WholeRun } from '../whole';

/** Rasters of noise that are kept though no lift has them: those of the last seeds that were tried. */
const NOISE_KEPT = 8;

/** Samples of a raster tile, both edges with them. */
export const tileRect = (key: string): Rect => {
  const { tx, tz } = parseTileKey(key)!;
  return { x0: tx * TILE_QUADS, z0: tz * TILE_QUADS, x1: (tx + 1) * TILE_QUADS, z1: (tz + 1) * TILE_QUADS };
};

/** The heights of a level, composed from its lifts. What is changed is composed at once where it is small, by the runner where it is large. */
export class TerrainNode implements Node {
  readonly name = 'terrain';
  // Pads follow what stands.
  readonly aspects = ['earth', 'solid', 'standing'] as const;
  readonly channels = ['delta', 'held', 'weight', 'scour', 'settle', 'runoff', 'paint'] as const;
  readonly from = [] as const;

  value!: Terrain;
  /** the lifts the terrain is composed from now; those of a preview while there is one */
  stack: readonly Lift[] = [];
  /** heights that cut and fill are counted from: as the level was opened, or as they were marked */
  before?: Float32Array;

  constructor(
    private readonly host: Host & { readonly whole: WholeRun },
    private readonly mostAtOnce: number,
    private readonly keepBefore: boolean,
  ) {}

  get running(): boolean {
    return this.host.whole.running;
  }

  /** Cut and fill count from the ground as it is now. */
  markBefore(): void {
    this.before = this.value.heights.slice();
  }

  follow({ tiles, resized, kinds, whole }: News): Dirt | undefined {
    if (whole) return this.adopt(whole);
    const { level } = this.host;
    const run = this.host.whole;
    let rect = this.tilesRect(tiles);
    if (resized || (kinds.has('lift') && missingNoise(level, this.value.noise).some(({ hash }) => !run.makes(hash)))) {
      run.ask('heights');
      return undefined;
    }
    if (run.running) {
      run.missed(rect);
      return undefined;
    }
    const stack = liftStack(level);
    const moved = changedRect(this.stack, stack, this.value, level.tiles);
    if (moved) rect = uniteRects(rect, moved);
    if (rect && samplesIn(rect) > this.mostAtOnce) {
      run.ask('heights');
      return undefined;
    }
    this.stack = stack;
    return rect && composeRect(this.value, stack, level.tiles, rect);
  }

  /** Samples that changed tiles bear on; a lift may count only where a surface is painted. */
  private tilesRect(tiles: readonly string[]): Rect | undefined {
    let rect: Rect | undefined;
    for (const key of tiles) {
      const { channel, lift } = parseTileKey(key)!;
      if (channel === 'sown' || channel === 'area' || channel === 'top') continue;
      if (channel !== 'paint' || this.stack.some((l) => l.mask?.painted === lift)) rect = uniteRects(rect, tileRect(key));
    }
    return rect;
  }

  /** Takes on what was composed from an earlier stack, with what changed since on top. */
  private adopt({ terrain, stack, late }: Whole): Dirt {
    const { level } = this.host;
    const { grid, noise } = terrain;
    const now = liftStack(level);
    const used = new Set(now.flatMap((l) => (l.lift === 'noise' ? [noiseLiftHash(l, grid)] : [])));
    for (const key of [...noise.keys()].slice(0, -NOISE_KEPT)) if (!used.has(key)) noise.delete(key);
    const moved = changedRect(stack, now, terrain, level.tiles);
    if (moved) late.rect = uniteRects(late.rect, moved);
    this.value = terrain;
    this.stack = now;
    if (this.keepBefore && this.before?.length !== terrain.heights.length) this.before = terrain.heights.slice();
    if (late.rect) composeRect(terrain, now, level.tiles, late.rect);
    return true;
  }

  /**
   * Shows the ground as it would be with lifts as given, while they are dragged; without any, as the level
   * has it. Only what differs is composed.
   *
   * @returns the samples that changed
   */
  preview(changed?: ReadonlyMap<string, Lift>): Rect | undefined {
    if (this.running) return undefined;
    const { tiles } = this.host.level;
    const stack = liftStack(this.host.level).map((l) => changed?.get(l.id) ?? l);
    const rect = changedRect(this.stack, stack, this.value, tiles);
    this.stack = stack;
    return rect && composeRect(this.value, stack, tiles, rect);
  }

  /**
   * Shows lifts as given inside a rectangle of samples only; without any, that rectangle as the level has it.
   * Noise that is not there is made for its rows alone.
   *
   * @returns the samples that were composed
   */
  previewIn(rect: Rect, changed?: ReadonlyMap<string, Lift>): Rect | undefined {
    if (this.running) return undefined;
    const { grid } = this.value;
    const stack = changed ? this.stack.map((l) => changed.get(l.id) ?? l) : this.stack;
    const noise = new Map(this.value.noise);
    const rows = noiseRect(stack, rect, grid);
    for (const { hash, lift } of noiseOf(stack, grid)) {
      if (noise.has(hash)) continue;
      const raster = new Float32Array(grid.nx * grid.nz);
      noiseLiftRows(lift, grid, raster.subarray(rows.z0 * grid.nx), rows.z0, rows.z1);
      noise.set(hash, raster);
    }
    return composeRect({ ...this.value, noise }, stack, this.host.level.tiles, rect);
  }
}
