import type { Level } from '@rammer/core/level/level';
import { liftStack, settingsOf } from '@rammer/core/level/level';
import type { Lift } from '@rammer/core/level/objects';
import { gridOf, parseTileKey, TILE_QUADS } from '@rammer/core/level/tiles';
import { changedRect } from '@rammer/core/earth/changed';
import { composeRect, missingNoise, noiseOf, uniteRects, wholeRect, type Rect, type Terrain } from '@rammer/core/earth/compose';
import { noiseLiftHash, noiseLiftRows } from '@rammer/core/earth/lifts/noise';
import { samplesIn } from '@rammer/core/earth/rect';
import { noiseRect } from '@rammer/core/earth/slab';
import type { GroundRaster } from '@rammer/core/surface/ground';
import { rulesLookAt } from '@rammer/core/surface/rules/index';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import { composeInSlabs, groundInSlabs } from '../workers/slabs';
import { watersOf, type Filled } from '@rammer/core/earth/waters';
import type { Derived } from './derived';
import type { LevelChange } from './change';

/** Samples composed where they are changed, in some tens of milliseconds; more go to the workers. */
const MOST_AT_ONCE = 300_000;

/** What a composer needs of the session it belongs to. */
interface Host {
  readonly level: Level;
  readonly made: Derived;
  readonly closed: boolean;
  say(text: string, bad?: boolean): void;
}

/** Keeps the terrain of an open level composed: what is small at once, what is large in the workers. */
export class Composer {
  terrain!: Terrain;
  /** the lifts the terrain is composed from now; those of a preview while there is one */
  stack: readonly Lift[] = [];
  /** heights the overlay of cut and fill compares with: as the level was opened, or as they were marked */
  before?: Float32Array;
  /** the workers compose: edits are in the level but not yet in the terrain or the ground */
  composing = false;
  /** counts runs of the workers */
  private run = 0;
  /** of the one that goes on: whether it makes heights, and what was changed meanwhile */
  private missed: { heights: boolean; rect?: Rect; ground: boolean } = { heights: false, ground: false };
  /** hashes of the noise rasters it makes */
  private making = new Set<string>();

  constructor(
    private readonly host: Host,
    private readonly tell: (change: LevelChange) => void,
  ) {}

  /** Cut and fill count from the ground as it is now. */
  markBefore(): void {
    this.before = this.terrain.heights.slice();
    this.tell({ rect: { x0: 0, z0: 0, x1: 0, z1: 0 }, blocks: false, objects: false, play: false });
  }

  /**
   * Follows an edit that is in the level: composes terrain, waters and ground where it touches them, or has
   * the workers do it.
   *
   * @param tiles keys of the raster tiles it changed
   * @param any whether it changed an object of one of these kinds
   * @returns the samples that are anew at once
   */
  changed(tiles: Iterable<string>, any: (...kinds: string[]) => boolean, resized: boolean): { rect?: Rect; ground?: Rect } {
    const { level, made } = this.host;
    let rect: Rect | undefined;
    let ground: Rect | undefined;
    for (const key of tiles) {
      const { channel, lift } = parseTileKey(key)!;
      if (channel === 'sown') continue;
      if (channel !== 'paint' && channel !== 'top') rect = uniteRects(rect, tileRect(key));
      else {
        ground = uniteRects(ground, tileRect(key));
        // A lift may count only where this surface is painted.
        if (channel === 'paint' && this.stack.some((l) => l.mask?.painted === lift)) rect = uniteRects(rect, tileRect(key));
      }
    }
    const stack = liftStack(level);
    const underWay = (hash: string) => this.composing && this.making.has(hash);
    if (resized || (any('lift') && missingNoise(level, this.terrain.noise).some(({ hash }) => !underWay(hash)))) void this.all();
    else if (!this.composing) {
      // Pads follow blocks and pieces: these too may change lifts.
      const moved = changedRect(this.stack, stack, this.terrain, level.tiles);
      if (moved) rect = uniteRects(rect, moved);
      if (rect && samplesIn(rect) > MOST_AT_ONCE) void this.all();
      else {
        this.stack = stack;
        if (rect) rect = composeRect(this.terrain, stack, level.tiles, rect);
      }
    } else if (rect) this.missed.rect = uniteRects(this.missed.rect, rect);
    // Waters first: rules of the ground may look at their shores.
    if (!this.composing && (rect || any('lift', 'water'))) made.floods.follow(rect);
    const everywhere = any('surface', 'groundRule') || this.shoresMoved() || (any('lift') && rulesLookAt(surfacesOf(level).rules, 'lifts'));
    if (this.composing) this.missed.ground ||= everywhere || ground !== undefined || any('water');
    else if (everywhere) ground = this.everywhere();
    else {
      if (ground) ground = made.updateGround(ground);
      if (rect) ground = uniteRects(ground, made.updateGround(rect));
    }
    return { rect, ground };
  }

  /**
   * Waters that the worker filled lie now: ground that goes by their shores follows, and what stands on it.
   *
   * @param drawn the ground under them is being drawn: what is committed will tell the rest
   */
  flooded(drawn: boolean): void {
    const { made } = this.host;
    let ground: Rect | undefined;
    if (!drawn) {
      if (this.composing) this.missed.ground = true;
      else if (this.shoresMoved()) ground = this.everywhere();
      made.regrow();
    }
    this.tell({ blocks: false, objects: false, waters: true, play: !drawn, ...(ground ? { ground } : {}) });
  }

  /** Whether a shore that rules go by lies elsewhere than the ground was composed by. */
  private shoresMoved(): boolean {
    return rulesLookAt(surfacesOf(this.host.level).rules, 'waters') && this.host.made.shoresMoved;
  }

  /** The ground of the whole level is composed again: at once, or by the workers. @returns what is anew at once */
  private everywhere(): Rect | undefined {
    const whole = wholeRect(this.terrain.grid);
    if (samplesIn(whole) > MOST_AT_ONCE) {
      void this.all('ground');
      return undefined;
    }
    this.host.made.refreshGround();
    return whole;
  }

  /**
   * Composes the whole again in the workers; the old ground stays until then. What is changed meanwhile is
   * composed into what comes back. A later call overtakes an earlier one.
   *
   * @param what `ground` where the heights are right
   */
  async all(what: 'heights' | 'ground' = 'heights'): Promise<void> {
    const { level, made } = this.host;
    // What overtakes a run that makes heights makes them too.
    const heights = what === 'heights' || (this.composing && this.missed.heights) || !this.terrain;
    this.composing = true;
    this.missed = { heights, ground: false };
    const run = ++this.run;
    const overtaken = () => this.host.closed || run !== this.run || level !== this.host.level;
    try {
      const stack = liftStack(level);
      const noise = this.terrain?.noise ?? new Map<string, Float32Array>();
      this.making = new Set(heights ? missingNoise(level, noise).map(({ hash }) => hash) : []);
      const terrain = heights ? await composeInSlabs({ grid: gridOf(settingsOf(level)), noise, stack, tiles: level.tiles }) : this.terrain;
      if (overtaken()) return;
      const waters = await made.floods.on(terrain, stack);
      if (overtaken()) return;
      const { surfaces, rules } = surfacesOf(level);
      const ground = await groundInSlabs(surfaces, { terrain, stack, tiles: level.tiles, waters: watersOf(waters).bodies, rules });
      if (overtaken()) return;
      this.adopt(terrain, stack, waters, ground);
    } catch (error) {
      if (overtaken()) return;
      this.composing = false;
      if (!this.terrain) throw error;
      this.host.say(`the ground could not be composed: ${(error as Error).message}. Undo the last change and try again.`, true);
    }
  }

  /** Takes on what the workers composed from `stack`, with what changed since on top. */
  private adopt(terrain: Terrain, stack: readonly Lift[], waters: readonly Filled[], ground: GroundRaster): void {
    const { level, made } = this.host;
    const { grid, noise } = terrain;
    const now = liftStack(level);
    const used = new Set(now.flatMap((l) => (l.lift === 'noise' ? [noiseLiftHash(l, grid)] : [])));
    for (const key of [...noise.keys()].slice(0, -8)) if (!used.has(key)) noise.delete(key);
    const moved = changedRect(stack, now, terrain, level.tiles);
    const late = moved ? uniteRects(this.missed.rect, moved) : this.missed.rect;
    const again = late !== undefined || this.missed.ground;
    this.terrain = terrain;
    this.stack = now;
    this.composing = false;
    if (this.before?.length !== terrain.heights.length) this.before = terrain.heights.slice();
    if (late) composeRect(terrain, now, level.tiles, late);
    made.rebuild(ground, waters);
    if (again) {
      made.floods.follow(late);
      made.refreshGround();
    }
    this.tell({ rect: wholeRect(grid), ground: wholeRect(grid), blocks: true, objects: true, play: true, pieces: true });
  }

  /**
   * Shows the ground as it would be with lifts as given, while they are dragged; without any, as the level
   * has it. Only what differs is composed.
   *
   * @returns the samples that changed
   */
  preview(changed?: ReadonlyMap<string, Lift>): Rect | undefined {
    if (this.composing) return undefined;
    const stack = liftStack(this.host.level).map((l) => changed?.get(l.id) ?? l);
    const rect = changedRect(this.stack, stack, this.terrain, this.host.level.tiles);
    this.stack = stack;
    return rect && composeRect(this.terrain, stack, this.host.level.tiles, rect);
  }

  /**
   * Shows lifts as given inside a rectangle of samples only; without any, that rectangle as the level has it.
   * Noise that is not there is made for its rows alone.
   *
   * @returns the samples that were composed
   */
  previewIn(rect: Rect, changed?: ReadonlyMap<string, Lift>): Rect | undefined {
    if (this.composing) return undefined;
    const { grid } = this.terrain;
    const stack = changed ? this.stack.map((l) => changed.get(l.id) ?? l) : this.stack;
    const noise = new Map(this.terrain.noise);
    const rows = noiseRect(stack, rect, grid);
    for (const { hash, lift } of noiseOf(stack, grid)) {
      if (noise.has(hash)) continue;
      const raster = new Float32Array(grid.nx * grid.nz);
      noiseLiftRows(lift, grid, raster.subarray(rows.z0 * grid.nx), rows.z0, rows.z1);
      noise.set(hash, raster);
    }
    return composeRect({ ...this.terrain, noise }, stack, this.host.level.tiles, rect);
  }
}

function tileRect(key: string): Rect {
  const { tx, tz } = parseTileKey(key)!;
  return { x0: tx * TILE_QUADS, z0: tz * TILE_QUADS, x1: (tx + 1) * TILE_QUADS, z1: (tz + 1) * TILE_QUADS };
}
