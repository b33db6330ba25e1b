import { bounded, builtKey, cutters, type Bounded, type BuiltBlock } from '../../block/build';
import { BlockScene } from '../../block/grid';
import { isPlain } from '../../block/shapes';
import { blockBounds, boundsMeet, type Bounds } from '../../block/solid';
import type { Block } from '../../level/objects';
import { presentOf } from '../../level/present';
import { Journal, type Mark } from '../../num/journal';
import { Sorted } from '../../num/sorted';
import type { Dirt, Host, Node } from '../node';
import { Run } from '../run';
import type { Runner } from '../runner';

/**
 * Blocks as solids. Boxes and ramps that nothing cuts stand plain at once; the others are built by the runner: until then
 * one stands as it was last built, or plain where it can. A change looks at the blocks it touches and at nothing else.
 */
export class SolidsNode implements Node {
  readonly name = 'solids';
  // Copies make blocks, and assemblies say which.
  readonly aspects = ['solid'] as const;
  readonly channels = [] as const;
  readonly from = [] as const;

  /** solids and voids that are in the level, sorted by id */
  all: readonly Block[] = [];
  /** those that stand plain */
  readonly plain = new BlockScene();
  /** those that are meshes, by id: as last built */
  readonly built = new Map<string, BuiltBlock>();
  readonly movers = new Map<string, Block>();
  /** movers and background: what stops nobody where it is */
  readonly apart = new Set<string>();
  /** ids of blocks whose solid, plain or built, came, went or changed */
  readonly journal = new Journal();

  private mark?: Mark;
  private readonly blocks = new Map<string, Bounded>();
  private readonly cutting = new Sorted<Bounded>();
  /** solids that are to be built, each with the voids that cut it */
  private readonly special = new Map<string, { block: Block; voids: readonly Block[]; key: string }>();
  /** of those, the ones whose mesh is not what they are now */
  private readonly pending = new Set<string>();
  /** of those, the ones that nothing is left of, with the inputs that swallow them: their last shape is kept, where they had one */
  private readonly swallowed = new Map<string, string>();
  /** of those, the ones that stood plain before something cut them */
  private readonly wasPlain = new Set<string>();
  private readonly run: Run;

  constructor(
    private readonly host: Host,
    private readonly runner: Runner,
  ) {
    this.run = new Run(
      () => this.build(),
      (error) => host.fail(error.message),
    );
  }

  get running(): boolean {
    return this.run.running;
  }
  settled(): Promise<void> {
    return this.run.settled();
  }

  /** Blocks that cut others, sorted by id. */
  get voids(): readonly Block[] {
    return this.cutting.all.map(({ block }) => block);
  }

  follow(): Dirt | undefined {
    const present = presentOf(this.host.level.objects);
    const { ids, mark } = present.since(this.mark);
    this.mark = mark;
    this.all = present.of('block');
    const touched = new Set<string>();
    /** where voids are, or were */
    const cut: Bounds[] = [];
    const put = (id: string, block: Block | undefined) => {
      const before = this.blocks.get(id);
      if (before?.block === block) return;
      touched.add(id);
      if (before?.block.op === 'void') cut.push(before.bounds);
      if (block?.op === 'void') cut.push(blockBounds(block));
      this.keep(id, block);
    };
    if (ids)
      for (const id of ids) {
        const now = present.get(id);
        put(id, now?.kind === 'block' ? now : undefined);
      }
    else {
      const now = new Set(this.all.map((b) => b.id));
      for (const id of this.blocks.keys()) if (!now.has(id)) put(id, undefined);
      for (const block of this.all) put(block.id, block);
    }
    if (touched.size === 0) return undefined;
    if (cut.length > 0) for (const [id, { block, bounds }] of this.blocks) if (block.op !== 'void' && cut.some((c) => boundsMeet(c, bounds))) touched.add(id);
    for (const id of touched) this.judge(id);
    this.tellSwallowed();
    if (this.pending.size > 0) this.run.ask();
    return true;
  }

  private keep(id: string, block: Block | undefined): void {
    this.cutting.delete(id);
    this.movers.delete(id);
    this.apart.delete(id);
    if (!block) {
      this.blocks.delete(id);
      return;
    }
    const kept = bounded(block);
    this.blocks.set(id, kept);
    if (block.op === 'void') this.cutting.set(kept);
    if (block.stops) this.movers.set(id, block);
    if (block.stops || block.background) this.apart.add(id);
  }

  /** Finds out what a block needs, and has it stand as well as it can until then. */
  private judge(id: string): void {
    const known = this.blocks.get(id);
    const voids = known && known.block.op !== 'void' ? cutters(known, this.cutting.all) : [];
    if (!known || known.block.op === 'void' || (voids.length === 0 && isPlain(known.block))) {
      this.special.delete(id);
      this.pending.delete(id);
      this.swallowed.delete(id);
      this.wasPlain.delete(id);
      this.built.delete(id);
    } else {
      const { block } = known;
      if (!this.special.has(id) && this.plain.get(id)) this.wasPlain.add(id);
      const key = builtKey(block, voids);
      this.special.set(id, { block, voids, key });
      const built = this.built.get(id);
      if (built?.key === key) this.pending.delete(id);
      else this.pending.add(id);
      // A name is not part of a solid: it changes without a build.
      if (built && built.name !== block.name) this.built.set(id, { ...built, name: block.name });
    }
    this.stand(id);
  }

  private stand(id: string): void {
    const block = this.blocks.get(id)?.block;
    const last = !this.swallowed.has(id) || this.wasPlain.has(id);
    if (block && block.op !== 'void' && !this.built.has(id) && isPlain(block) && last) this.plain.put(block);
    else this.plain.delete(id);
    this.journal.note(id);
  }

  /** What nothing is left of is said after every change until it is mended. */
  private tellSwallowed(): void {
    const name = (id: string) => this.blocks.get(id)!.block.name;
    for (const [id, key] of this.swallowed) {
      const special = this.special.get(id)!;
      if (special.key !== key) continue;
      const by = special.voids.map((v) => name(v.id)).join(', ');
      this.host.warn(`${name(id)} is cut away whole by ${by}: its last shape is kept; make the void smaller or move it`);
    }
  }

  private async build(): Promise<void> {
    const asked = [...this.pending].flatMap((id) => this.special.get(id) ?? []).filter(({ block, key }) => this.swallowed.get(block.id) !== key);
    if (asked.length === 0) return;
    const made = await this.runner.build(among(asked));
    if (this.host.closed) return;
    for (const mesh of made) {
      const now = this.special.get(mesh.id);
      // What changed meanwhile is built by the next run.
      if (now?.key !== mesh.key) continue;
      if (mesh.indices.length === 0) this.swallowed.set(mesh.id, mesh.key);
      else {
        this.swallowed.delete(mesh.id);
        this.pending.delete(mesh.id);
        this.built.set(mesh.id, { ...mesh, name: now.block.name });
      }
      this.stand(mesh.id);
    }
    this.tellSwallowed();
    this.host.spread('solids', true);
  }

  /**
   * Meshes as they would be with some blocks changed, while they are dragged: those that are touched are built, the rest are
   * as they stand.
   *
   * @returns `undefined` when a later one overtook it
   */
  async preview(changed: ReadonlyMap<string, Block>): Promise<ReadonlyMap<string, BuiltBlock> | undefined> {
    const others = [...changed.values()].map(bounded);
    const isVoid = ({ block }: Bounded) => block.op === 'void';
    const voids = [...this.cutting.all.filter((v) => !changed.has(v.id)), ...others.filter(isVoid)].sort((a, b) => (a.id < b.id ? -1 : 1));
    /** where dragged voids are, and were */
    const reach = [...others, ...[...changed.keys()].flatMap((id) => this.blocks.get(id) ?? [])].filter(isVoid).map((v) => v.bounds);
    const solids = others.filter((b) => !isVoid(b));
    for (const b of this.blocks.values()) if (!isVoid(b) && !changed.has(b.id) && reach.some((r) => boundsMeet(r, b.bounds))) solids.push(b);
    const special = solids.map((solid) => ({ block: solid.block, voids: cutters(solid, voids) }));
    const asked = special.filter((s) => s.voids.length > 0 || !isPlain(s.block));
    const made = asked.length > 0 ? await this.runner.preview?.(among(asked), new Set(changed.keys())) : [];
    if (!made) return undefined;
    const out = new Map(this.built);
    for (const { id } of solids) out.delete(id);
    for (const mesh of made) out.set(mesh.id, mesh);
    return out;
  }
}

/** Solids and their voids as one list, sorted by id: what a builder is given. */
function among(asked: readonly { block: Block; voids: readonly Block[] }[]): Block[] {
  return [...new Map(asked.flatMap(({ block, voids }) => [block, ...voids]).map((b) => [b.id, b])).values()].sort((a, b) => (a.id < b.id ? -1 : 1));
}
