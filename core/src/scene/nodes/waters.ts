import { uniteRects, type Rect } from '../../earth/rect';
import type { Terrain } from '../../earth/compose';
import type { WaterBody } from '../../earth/water';
import { fill, stays, toFill, watersOf, type DryWater, type Filled } from '../../earth/waters';
import { ofKind } from '../../level/level';
import type { Lift, Water } from '../../level/objects';
import type { Dirt, Host, News, Node } from '../node';
import { Run } from '../run';
import type { Runner } from '../runner';
import type { WholeRun } from '../whole';
import type { TerrainNode } from './terrain';

interface WatersHost extends Host {
  readonly terrain: TerrainNode;
  readonly whole: WholeRun;
  /** Waters the runner filled lie now. @param drawn while the ground under them is being drawn: what is committed will tell the rest */
  flooded(drawn: boolean): void;
}

/**
 * The waters of a level on its ground. What a change of the ground cannot reach stays as it lies; on a large level the rest
 * is filled by the runner, and lies as it did until then.
 */
export class WatersNode implements Node {
  readonly name = 'waters';
  // Streams run along routes, which are lifts.
  readonly aspects = ['water', 'earth'] as const;
  readonly channels = [] as const;
  readonly from = ['terrain'] as const;

  bodies: WaterBody[] = [];
  /** those that lie nowhere, and why */
  dry: DryWater[] = [];
  private filled = new Map<string, Filled>();
  /** ids of those the runner is to fill, and whether the ground is being drawn meanwhile */
  private readonly stale = new Set<string>();
  private drawing = false;
  /** samples that are anew since the runner began */
  private since?: Rect;
  /** of the run under way */
  private asked: Water[] = [];
  /** counts levels taken on: what was filled for an earlier one is dropped */
  private generation = 0;
  private readonly run: Run;

  constructor(
    private readonly host: WatersHost,
    private readonly runner: Runner,
  ) {
    this.run = new Run(
      () => this.refill(),
      (error) => {
        // They lie as they did, which is not as the ground is: the next change tries them again.
        for (const { id } of this.asked) this.stale.add(id);
        host.fail(`the waters could not be filled: ${error.message}. Undo the last change and try again.`);
      },
    );
  }

  get running(): boolean {
    return this.run.running;
  }
  settled(): Promise<void> {
    return this.run.settled();
  }

  follow({ whole, dirt }: News): Dirt | undefined {
    if (whole) {
      this.adopt(whole.waters);
      this.fillAnew(whole.late.rect);
      return true;
    }
    // Where a water changes while the whole is made, those that come back are held against it then.
    if (this.host.whole.running) return undefined;
    const touched = dirt.get('terrain');
    return this.fillAnew(touched === true ? undefined : touched) ? true : undefined;
  }

  /** All the waters on a terrain that is not the level's yet. */
  on(terrain: Terrain, stack: readonly Lift[]): Promise<Filled[]> {
    return this.fillAny(terrain, toFill(ofKind(this.host.level, 'water')), stack);
  }

  /** Another level, or its ground made as a whole. @param filled see `on` */
  adopt(filled: readonly Filled[]): void {
    this.generation++;
    this.stale.clear();
    this.filled = new Map(filled.map((f) => [f.water.id, f]));
    this.show();
  }

  /**
   * Heights or waters changed.
   *
   * @param touched samples that are anew
   * @param drawing a brush draws: nothing is committed yet
   * @returns whether a water lies otherwise than before, at once
   */
  fillAnew(touched?: Rect, drawing = false): boolean {
    const { level, terrain } = this.host;
    const before = this.filled;
    const large = terrain.value.heights.length > this.runner.mostAtOnce;
    this.filled = new Map();
    for (const water of toFill(ofKind(level, 'water'))) {
      const was = before.get(water.id);
      if (was && stays(was, water, terrain.stack, touched)) this.filled.set(water.id, was);
      else if (!large) this.filled.set(water.id, fill(terrain.value, water, terrain.stack));
      else {
        this.stale.add(water.id);
        if (was) this.filled.set(water.id, was);
      }
    }
    const others = before.size !== this.filled.size || [...this.filled].some(([id, f]) => before.get(id) !== f);
    if (others) this.show();
    if (touched) this.since = uniteRects(this.since, touched);
    this.drawing = drawing;
    if (this.stale.size > 0 && !this.running) this.run.ask();
    return others;
  }

  private show(): void {
    const { bodies, dry } = watersOf([...this.filled.values()]);
    this.bodies = bodies;
    this.dry = dry;
  }

  /** Has the runner fill what is stale, one time after the other until nothing is. */
  private async refill(): Promise<void> {
    while (this.stale.size > 0 && !this.host.closed) {
      const { level, terrain } = this.host;
      const { generation } = this;
      this.asked = toFill(ofKind(level, 'water')).filter((w) => this.stale.has(w.id));
      this.stale.clear();
      this.since = undefined;
      const made = await this.fillAny(terrain.value, this.asked, terrain.stack);
      if (generation !== this.generation || this.host.closed) continue;
      const now = new Map(toFill(ofKind(this.host.level, 'water')).map((w) => [w.id, w]));
      for (const f of made) {
        const water = now.get(f.water.id);
        if (!water) continue;
        this.filled.set(water.id, f);
        if (!stays(f, water, this.host.terrain.stack, this.since)) this.stale.add(water.id);
      }
      this.show();
      this.host.flooded(this.drawing);
    }
  }

  /** Fills waters here or by the runner, by the size of the level. */
  private async fillAny(terrain: Terrain, waters: readonly Water[], stack: readonly Lift[]): Promise<Filled[]> {
    const large = terrain.heights.length > this.runner.mostAtOnce && waters.length > 0;
    if (!large) return waters.map((w) => fill(terrain, w, stack));
    const found = await this.runner.fill(terrain, waters, stack);
    // What came back may be a copy; whether it still holds is told by the objects of the level themselves.
    return found.map((f, i) => ({ ...f, water: waters[i], ...(f.route ? { route: stack.find((l) => l.id === f.route!.id) } : {}) }));
  }
}
