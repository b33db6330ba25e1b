import { KINDS, touches } from '../level/kinds/index';
import { settingsOf, type Level } from '../level/level';
import type { Changes } from '../level/edits/index';
import type { Rect } from '../earth/rect';
import type { Assets } from '../kit/placement';
import { CostNode } from './nodes/cost';
import { CoverNode } from './nodes/cover';
import { DrawablesNode } from './nodes/drawables';
import { GroundNode } from './nodes/ground';
import { PlacedNode } from './nodes/placed';
import { PlantsNode } from './nodes/plants';
import { SnagsNode } from './nodes/snags';
import { SolidsNode } from './nodes/solids';
import { TerrainNode } from './nodes/terrain';
import { WalkNode } from './nodes/walk';
import { WalkAreasNode } from './nodes/walkAreas';
import { WatersNode } from './nodes/waters';
import { NODES, type Dirt, type Host, type News, type Node, type NodeName } from './node';
import type { Runner } from './runner';
import { WholeRun } from './whole';

/** What changed, for those who draw or compute from a level. */
export interface SceneChange {
  /** kinds of the objects that came, went or changed */
  kinds: ReadonlySet<string>;
  /** what is another in the results */
  dirt: ReadonlyMap<NodeName, Dirt>;
  /** the ground is being drawn: what is committed will tell the rest */
  drawn?: boolean;
}

export interface SceneOptions {
  runner: Runner;
  /** meshes of the assets, by asset object, where the runner reads none */
  assets?: Assets;
  /** keeps the heights as the level was opened, for cut and fill */
  keepBefore?: boolean;
  /** told after each change of a result that was not the answer to an edit: the runner's work is done */
  tell?(change: SceneChange): void;
  /** told in words for the person what went wrong */
  fail?(message: string): void;
}

const NONE: ReadonlySet<string> = new Set();
const ALL: ReadonlySet<string> = new Set(Object.keys(KINDS));

/**
 * A level with all that is derived from it. `open` makes everything; after that `changed` is told of each edit, and the
 * nodes follow it in their order, each told only of what it is made from. Long work is the runner's and comes in by itself.
 *
 *     const scene = new Scene({ runner: inPlace(kernel), assets });
 *     await scene.open(level);
 *     commitChanges(level, changes);
 *     const { dirt } = scene.changed(changes);
 *     await scene.settled();
 */
export class Scene implements Host {
  level!: Level;
  closed = false;
  readonly whole: WholeRun;
  readonly terrain: TerrainNode;
  readonly waters: WatersNode;
  readonly solids: SolidsNode;
  readonly placed: PlacedNode;
  readonly ground: GroundNode;
  readonly plants: PlantsNode;
  readonly cover: CoverNode;
  readonly drawables: DrawablesNode;
  readonly cost: CostNode;
  readonly walk: WalkNode;
  readonly walkAreas: WalkAreasNode;
  readonly snags: SnagsNode;
  /** in the order of NODES */
  readonly nodes: readonly Node[];
  /** what could not be made, in words */
  readonly faults: string[] = [];
  private size = '';
  /** a level was taken on and its ground is not there yet */
  private opening = false;

  constructor(private readonly options: SceneOptions) {
    const { runner, assets = new Map(), keepBefore = false } = options;
    this.whole = new WholeRun(this, runner, (whole) => this.tell(this.pass({ kinds: NONE, tiles: [], resized: false, whole })));
    this.terrain = new TerrainNode(this, runner.mostAtOnce, keepBefore);
    this.waters = new WatersNode(this, runner);
    this.solids = new SolidsNode(this, runner);
    this.placed = new PlacedNode(this, runner, assets);
    this.ground = new GroundNode(this, runner.mostAtOnce);
    this.plants = new PlantsNode(this, runner);
    this.cover = new CoverNode(this);
    this.drawables = new DrawablesNode(this);
    this.cost = new CostNode(this);
    this.walk = new WalkNode(this);
    this.walkAreas = new WalkAreasNode(this, runner);
    this.snags = new SnagsNode(this);
    this.nodes = NODES.map((name) => this[name]);
  }

  /**
   * Takes a level on, or the one it has as somebody else changed it; ends when its ground is there. Solids, meshes and plants
   * come in after that.
   *
   * @throws Error where the ground of a first level cannot be made
   */
  async open(level: Level): Promise<void> {
    this.level = level;
    this.size = sizeOf(level);
    // What the runner makes of them need not wait for the ground.
    this.solids.follow();
    this.placed.read();
    this.opening = true;
    this.whole.ask('heights');
    await this.whole.settled();
    if (this.whole.error && !this.terrain.value) throw this.whole.error;
  }

  /** Ends when all that follows edits has followed them. */
  async settled(): Promise<void> {
    while (this.running && !this.closed) {
      await Promise.all([this.whole.settled(), this.waters.settled(), this.solids.settled(), this.plants.settled()]);
      await this.placed.settled();
    }
  }

  /** Something follows an edit still, by the runner. */
  get running(): boolean {
    return this.whole.running || this.nodes.some((n) => n.running);
  }

  /** Follows an edit that is in the level already. @param changes of that edit */
  changed(changes: Pick<Changes, 'objects' | 'tiles'>, kinds: ReadonlySet<string>): SceneChange {
    const size = sizeOf(this.level);
    const resized = size !== this.size;
    this.size = size;
    return this.pass({ kinds, tiles: [...changes.tiles.keys()], resized });
  }

  /** A node is another by its own work: those made from it follow. */
  spread(from: NodeName, dirt: Dirt): void {
    // A level whose ground is still on its way has nothing to follow with: the whole brings it.
    if (this.closed || !this.terrain.value) return;
    this.tell(this.pass({ kinds: NONE, tiles: [], resized: false }, [from, dirt]));
  }

  flooded(drawn: boolean): void {
    if (!drawn) this.spread('waters', true);
    else this.tell({ kinds: NONE, dirt: new Map([['waters', true]]), drawn });
  }

  fail(message: string): void {
    this.faults.push(message);
    this.warn(message);
  }

  warn(message: string): void {
    if (!this.closed) this.options.fail?.(message);
  }

  /** Cut and fill count from the ground as it is now; told as the change of one sample. */
  markBefore(): void {
    this.terrain.markBefore();
    this.tell({ kinds: NONE, dirt: new Map([['terrain', { x0: 0, z0: 0, x1: 0, z1: 0 }]]) });
  }

  /** A brush draws: heights of a rectangle changed, and nothing is committed yet. Waters and ground are shown as they would be. */
  draw(rect: Rect): { ground: Rect; waters: boolean } {
    return { waters: this.waters.fillAnew(rect, true), ground: this.ground.update(rect) };
  }

  /** Nothing is made for it any more. */
  close(): void {
    this.closed = true;
  }

  private tell(change: SceneChange): void {
    this.options.tell?.(change);
  }

  /** Has the nodes follow, each told only where something it is made from is another. @param first a node that is another by its own work */
  private pass(news: Pick<News, 'kinds' | 'tiles' | 'resized' | 'whole'>, first?: [NodeName, Dirt]): SceneChange {
    const dirt = new Map<NodeName, Dirt>(first && [first]);
    const kinds = news.whole && this.opening ? ALL : news.kinds;
    if (news.whole) this.opening = false;
    const all: News = { ...news, kinds, dirt, touches: (...aspects) => touches(kinds, ...aspects) };
    for (const node of this.nodes) {
      if (node.name === first?.[0] || !this.reaches(node, all)) continue;
      const own = node.follow(all);
      if (own) dirt.set(node.name, own);
    }
    return { kinds, dirt };
  }

  private reaches(node: Node, { whole, resized, tiles, dirt, touches: touched }: News): boolean {
    return (
      whole !== undefined ||
      resized ||
      touched(...node.aspects) ||
      node.from.some((f) => dirt.has(f)) ||
      tiles.some((key) => node.channels.some((c) => key.includes(`/${c}/`)))
    );
  }
}

function sizeOf(level: Level): string {
  const { tilesX, tilesZ, spacing } = settingsOf(level);
  return `${tilesX}x${tilesZ}x${spacing}`;
}
