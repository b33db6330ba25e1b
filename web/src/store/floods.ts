import { transfer } from 'comlink';
import type { Terrain } from '@rammer/core/earth/compose';
import { uniteRects, type Rect } from '@rammer/core/earth/rect';
import type { WaterBody } from '@rammer/core/earth/water';
import { fill, stays, toFill, watersOf, type DryWater, type Filled } from '@rammer/core/earth/waters';
import { ofKind, type Level } from '@rammer/core/level/level';
import type { Lift, Water } from '@rammer/core/level/objects';
import { earthWorker } from '../workers/pool';

/** Samples of a level whose waters are filled at once, in some tens of milliseconds; those of a larger one go to the worker. */
const MOST_AT_ONCE = 300_000;

interface Source {
  level: Level;
  terrain: Terrain;
  stack: readonly Lift[];
}

/**
 * Keeps the waters of an open level filled. What a change of the ground cannot reach stays as it lies; on a
 * large level the rest is filled by the worker, and lies as it did until then.
 */
export class Floods {
  bodies: WaterBody[] = [];
  dry: DryWater[] = [];
  private filled = new Map<string, Filled>();
  /** ids of those the worker is to fill, and whether the ground is being drawn meanwhile */
  private stale = new Set<string>();
  private drawing = false;
  /** samples that are anew since the worker began */
  private since?: Rect;
  private running = false;
  /** counts levels taken on: what was filled for an earlier one is dropped */
  private generation = 0;

  /** @param tell called when waters that the worker filled lie; `drawn` while the ground under them is being drawn */
  constructor(
    private readonly source: Source,
    private readonly tell: (drawn: boolean) => void,
    private readonly fail: (message: string) => void,
  ) {}

  /** All the waters on a terrain that is not the level's yet. */
  async on(terrain: Terrain, stack: readonly Lift[]): Promise<Filled[]> {
    return fillAny(terrain, toFill(ofKind(this.source.level, 'water')), stack);
  }

  /** Another level, or its ground composed anew as a whole. @param filled see `on` */
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
   */
  follow(touched?: Rect, drawing = false): void {
    const { level, terrain, stack } = this.source;
    const before = this.filled;
    const large = terrain.heights.length > MOST_AT_ONCE;
    this.filled = new Map();
    for (const water of toFill(ofKind(level, 'water'))) {
      const was = before.get(water.id);
      if (was && stays(was, water, stack, touched)) this.filled.set(water.id, was);
      else if (!large) this.filled.set(water.id, fill(terrain, water, stack));
      else {
        this.stale.add(water.id);
        if (was) this.filled.set(water.id, was);
      }
    }
    if ([...this.filled].some(([id, f]) => before.get(id) !== f) || before.size !== this.filled.size) this.show();
    if (touched) this.since = uniteRects(this.since, touched);
    this.drawing = drawing;
    if (this.stale.size > 0 && !this.running) void this.run();
  }

  private show(): void {
    const { bodies, dry } = watersOf([...this.filled.values()]);
    this.bodies = bodies;
    this.dry = dry;
  }

  /** Has the worker fill what is stale, one run after the other until nothing is. */
  private async run(): Promise<void> {
    this.running = true;
    let asked: Water[] = [];
    try {
      while (this.stale.size > 0) {
        const { level, terrain, stack } = this.source;
        const { generation } = this;
        asked = toFill(ofKind(level, 'water')).filter((w) => this.stale.has(w.id));
        this.stale.clear();
        this.since = undefined;
        const made = await fillAny(terrain, asked, stack);
        if (generation !== this.generation) continue;
        const now = new Map(toFill(ofKind(this.source.level, 'water')).map((w) => [w.id, w]));
        for (const f of made) {
          const water = now.get(f.water.id);
          if (!water) continue;
          this.filled.set(water.id, f);
          if (!stays(f, water, this.source.stack, this.since)) this.stale.add(water.id);
        }
        this.show();
        this.tell(this.drawing);
      }
    } catch (error) {
      // They lie as they did, which is not as the ground is: the next change tries them again.
      for (const { id } of asked) this.stale.add(id);
      this.fail(`the waters could not be filled: ${(error as Error).message}. Undo the last change and try again.`);
    } finally {
      this.running = false;
    }
  }
}

/** Fills waters here or in the worker, by the size of the level. */
async function fillAny(terrain: Terrain, waters: readonly Water[], stack: readonly Lift[]): Promise<Filled[]> {
  if (terrain.heights.length <= MOST_AT_ONCE || waters.length === 0) return waters.map((w) => fill(terrain, w, stack));
  const heights = terrain.heights.slice();
  const routes = stack.filter((l) => l.lift === 'route');
  const found = await earthWorker().fill(terrain.grid, transfer(heights, [heights.buffer]), [...waters], routes);
  // What came back is a copy; whether it still holds is told by the objects of the level themselves.
  return found.map((f, i) => ({ ...f, water: waters[i], ...(f.route ? { route: stack.find((l) => l.id === f.route!.id) } : {}) }));
}
