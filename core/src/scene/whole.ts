import { missingNoise, uniteRects, type Rect, type Terrain } from '../earth/compose';
import { watersOf, type Filled } from '../earth/waters';
import { liftStack, settingsOf } from '../level/level';
import type { Lift } from '../level/objects';
import { gridOf } from '../level/tiles';
import type { GroundRaster } from '../surface/ground';
import { surfacesOf } from '../surface/surfaces';
import type { Host } from './node';
import { Run } from './run';
import type { Runner } from './runner';

/** Heights, waters and ground of a level, made together; and what changed while they were. */
export interface Whole {
  terrain: Terrain;
  /** the lifts it was composed from */
  stack: readonly Lift[];
  waters: readonly Filled[];
  ground: GroundRaster;
  late: { rect?: Rect; ground: boolean };
}

interface Parts {
  readonly terrain: { readonly value?: Terrain; readonly stack: readonly Lift[] };
  readonly waters: { on(terrain: Terrain, stack: readonly Lift[]): Promise<Filled[]> };
}

/**
 * Makes the ground of a level as a whole where a change touches too much of it to be followed at once. Terrain, waters and
 * ground stand as they were until all three are made, for each is made from the one before; what is changed meanwhile is
 * made into what comes back.
 */
export class WholeRun {
  /** it is under way: edits are in the level and not yet in terrain, waters or ground */
  running = false;
  /** why the last run gave nothing */
  error?: Error;
  /** heights are wrong until a run has made them, whatever it was asked for */
  private heights = true;
  private late: Whole['late'] = { ground: false };
  /** hashes of the noise rasters it makes */
  private making: ReadonlySet<string> = new Set();
  private readonly run: Run;

  /** @param adopt takes on what was made */
  constructor(
    private readonly host: Host & Parts,
    private readonly runner: Runner,
    private readonly adopt: (whole: Whole) => void,
  ) {
    this.run = new Run(
      (overtaken) => this.once(() => overtaken() || host.closed),
      (error) => {
        this.running = false;
        this.error = error;
        if (host.terrain.value) host.fail(`the ground could not be composed: ${error.message}. Undo the last change and try again.`);
      },
    );
  }

  /** @param what `ground` where the heights are right */
  ask(what: 'heights' | 'ground'): void {
    if (what === 'heights') this.heights = true;
    this.running = true;
    this.run.ask();
  }

  /** Heights of a rectangle changed meanwhile. */
  missed(rect: Rect | undefined): void {
    if (rect) this.late.rect = uniteRects(this.late.rect, rect);
  }

  /** What the ground is made of changed meanwhile. */
  missedGround(): void {
    this.late.ground = true;
  }

  /** Whether it is at a noise raster. */
  makes(hash: string): boolean {
    return this.running && this.making.has(hash);
  }

  /** Ends when nothing is under way. */
  settled(): Promise<void> {
    return this.run.settled();
  }

  private async once(overtaken: () => boolean): Promise<void> {
    // Who asked goes on first: what it still has to change belongs to this run.
    await undefined;
    if (overtaken()) return;
    const { level, terrain: before, waters: fills } = this.host;
    // Begun from the level as it is now: what changes from here on is late.
    // Heights that are not made again are of the lifts they were composed from, and what was missed since is still to be done.
    const again = this.heights || !before.value;
    this.late = { ground: false, ...(again ? {} : { rect: this.late.rect }) };
    this.error = undefined;
    const stack = again ? liftStack(level) : before.stack;
    const noise = before.value?.noise ?? new Map<string, Float32Array>();
    this.making = new Set(this.heights ? missingNoise(level, noise).map(({ hash }) => hash) : []);
    const terrain = again ? await this.runner.compose({ grid: gridOf(settingsOf(level)), noise, stack, tiles: level.tiles }, overtaken) : before.value!;
    if (overtaken()) return;
    const waters = await fills.on(terrain, stack);
    if (overtaken()) return;
    const { surfaces, rules } = surfacesOf(level);
    const ground = await this.runner.ground(surfaces, { terrain, stack, tiles: level.tiles, waters: watersOf(waters).bodies, rules }, overtaken);
    if (overtaken()) return;
    this.heights = false;
    this.running = false;
    const { late } = this;
    this.late = { ground: false };
    this.adopt({ terrain, stack, waters, ground, late });
  }
}
