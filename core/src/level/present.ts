import { frameOf, inFrame, MARK, ownerOf, type Frame } from './instance';
import { isStanding, type LevelObject, type ObjectOf, type Standing, type StandingKind } from './kinds/index';
import type { Assembly } from './kinds/assembly';
import type { CopyObject, Override } from './kinds/copy';
import type { Kit } from './kinds/kit';
import type { LaidLine } from './kinds/laidLine';
import { layDressed } from './lay/layDressed';
import { layLine, type Laid } from './lay/layLine';
import type { ObjectMap } from './objectMap';
import { Journal, type Mark } from '../num/journal';
import { Sorted } from '../num/sorted';
import type { Vec3 } from '../num/vec';

/** The most that copies are made into; a few small objects could name millions. */
export const MOST_MADE = 100_000;
/** Copies stand in copies no deeper than this. */
export const DEEPEST = 8;

/** What others are made for: a copy of an assembly, or a line that is laid. */
export type Maker = CopyObject | LaidLine;
/** Whether others are made for something: it is a copy or a laid line. */
export const isMaker = (o: LevelObject | undefined): o is Maker => o?.kind === 'copy' || o?.kind === 'laidLine';

/** Before the id of a laid line, in the place of a group's name: its pieces are the members. No group is called so. */
const LAID = '\n';

/** One use of an assembly: a copy of it, or a copy of a member of one. A laid line is used where it stands in the same way. */
interface Use {
  /** the copy or line of the document */
  owner: string;
  /** of what is made here: the id of its copy, with a mark behind */
  prefix: string;
  /** ids of the copies between the owner and here, each with a mark behind: how overrides name a member */
  path: string;
  frame: Frame;
  group: string;
  named: string;
  hidden: boolean;
  /** overrides of the copies around, innermost first, and by what path each names what is here */
  overrides: readonly { path: string; of: ReadonlyMap<string, Override> }[];
}

/**
 * What really stands in a level: its own objects that are not taken out, and those that copies of assemblies are made
 * into, copies in copies too, with what is overridden at each. The ids of what is made are those of its copies and its
 * master, joined by ~. A change of a member makes that member anew in every copy, and nothing else.
 */
export class Present {
  private kinds!: Map<StandingKind, Sorted<Standing>>;
  private groups!: Map<string, Map<string, Standing>>;
  private assemblies!: Map<string, Assembly>;
  /** uses by the group they show, and by the copy of the document they are part of */
  private byGroup!: Map<string, Set<Use>>;
  private byOwner!: Map<string, Use[]>;
  /** how many are made */
  private made!: number;
  private left!: Maker[];
  /** lines of the document as they are laid, by their ids */
  private laid = new Map<string, Laid>();
  /** members of copies that were looked at while all is made from nothing */
  private looked = 0;
  private starting = false;
  private stale = true;
  /** ids of what came, went or changed since all was made from nothing the last time */
  private readonly journal = new Journal();
  private readonly changed = new Map<string, Standing | Assembly | Kit | undefined>();

  constructor(private readonly objects: ObjectMap) {
    objects.watch((id, before, after) => {
      // The first state since the last answer is the one that was taken in.
      if (this.changed.has(id)) return;
      const of = before ?? after;
      if (isStanding(of) || of?.kind === 'assembly' || of?.kind === 'kit') this.changed.set(id, before as Standing | Assembly | Kit | undefined);
    });
  }

  /** All of a kind that are in the level (hidden ones too), sorted by id; a list that stays as it is. */
  of<K extends StandingKind>(kind: K): readonly ObjectOf<K>[] {
    this.follow();
    return (this.kinds.get(kind)?.all as readonly ObjectOf<K>[]) ?? [];
  }

  /** One by its id, made or of the document. */
  get(id: string): Standing | undefined {
    this.follow();
    const own = this.objects.get(ownerOf(id));
    if (!own) return undefined;
    for (const list of this.kinds.values()) {
      const found = list.get(id);
      if (found) return found;
    }
    return undefined;
  }

  /** All that stand in one copy or line of the document, copies and lines in it left out. */
  inCopy(id: string): Standing[] {
    this.follow();
    return [...this.kinds].flatMap(([kind, list]) => (kind === 'copy' || kind === 'laidLine' ? [] : list.from(id + MARK)));
  }

  /** What would stand in a copy, or along a line, if it were like this, as `inCopy` has it. */
  would(maker: Maker): Standing[] {
    this.follow();
    const laid = maker.kind === 'laidLine' ? this.lay(maker) : undefined;
    return this.usesOf(maker, MOST_MADE).flatMap((use) =>
      [...(laid ? laid.pieces.values() : this.within(use.group))].flatMap((m) => (isMaker(m) ? [] : (this.make(use, m) ?? []))),
    );
  }

  /** A line of the document as it is laid. */
  laidOf(id: string): Laid | undefined {
    this.follow();
    return this.laid.get(id);
  }

  /** A piece as its line lays it, in the line's own axes, with nothing of its own: what is overridden is laid on this. */
  masterIn(line: string, slot: string): Standing | undefined {
    return this.laidOf(line)?.pieces.get(slot);
  }

  /**
   * What came, went or changed since a mark: ids of every kind, each once; `undefined` where it may be anything.
   *
   * @param mark of the answer before; none the first time
   */
  since(mark?: Mark): { ids: ReadonlySet<string> | undefined; mark: Mark } {
    this.follow();
    return this.journal.since(mark);
  }

  /** The objects of the document in a group, those taken out too. */
  membersOf(group: string): Iterable<Standing> {
    this.follow();
    return this.groups.get(group)?.values() ?? [];
  }

  /** Names of the groups that have members. */
  groupNames(): string[] {
    this.follow();
    return [...this.groups].filter(([, m]) => m.size > 0).map(([name]) => name);
  }

  /** Copies and lines that stand in the level and are not made, for there are too many things in them. */
  get leftOut(): readonly Maker[] {
    this.follow();
    return this.left;
  }

  private follow(): void {
    if (!this.stale && this.changed.size === 0) return;
    // From nothing where much changed, where an assembly did, and where something was left out: who is depends on all of them.
    if (
      this.stale ||
      this.left.length > 0 ||
      this.changed.size > this.objects.size / 4 + 64 ||
      [...this.changed].some(([id, was]) => this.isOther(was, this.objects.get(id)))
    )
      this.start();
    else
      for (const [id, was] of this.changed) {
        const is = this.objects.get(id);
        if ((was ?? is)?.kind === 'kit') for (const line of this.objects.of('laidLine').filter((l) => l.kit === id)) this.take(line.id, line, line);
        else this.take(id, was as Standing | undefined, is as Standing | undefined);
      }
    this.changed.clear();
    if (this.made > MOST_MADE) this.start();
  }

  /** Whether a change is more than that of a thing that stands. */
  private isOther(was: LevelObject | undefined, is: LevelObject | undefined): boolean {
    return (was ?? is)?.kind === 'assembly' || (was !== undefined && is !== undefined && was.kind !== is.kind);
  }

  private start(): void {
    this.stale = false;
    this.journal.begin();
    this.kinds = new Map();
    this.groups = new Map();
    this.assemblies = new Map(this.objects.of('assembly').map((a) => [a.id, a]));
    this.byGroup = new Map();
    this.byOwner = new Map();
    this.made = 0;
    this.left = [];
    const lists = new Map<StandingKind, Standing[]>();
    this.put = (o) => {
      (lists.get(o.kind) ?? lists.set(o.kind, []).get(o.kind)!).push(o);
    };
    for (const o of this.objects.values()) {
      if (!isStanding(o)) continue;
      if (o.group !== undefined) this.members(o.group).set(o.id, o);
      if (!o.out) this.put(o);
    }
    this.looked = 0;
    this.starting = true;
    const before = this.laid;
    this.laid = new Map();
    for (const line of this.objects.of('laidLine')) this.relay(line, before.get(line.id));
    for (const line of this.objects.of('laidLine')) if (!line.out) this.open(line);
    for (const copy of this.objects.of('copy')) if (!copy.out) this.open(copy);
    this.starting = false;
    for (const [kind, list] of lists) this.list(kind).fill(list);
    this.put = this.insert;
  }

  private list(kind: StandingKind): Sorted<Standing> {
    return this.kinds.get(kind) ?? this.kinds.set(kind, new Sorted<Standing>()).get(kind)!;
  }

  private members(group: string): Map<string, Standing> {
    return this.groups.get(group) ?? this.groups.set(group, new Map()).get(group)!;
  }

  private readonly insert = (o: Standing): void => {
    this.list(o.kind).set(o);
    this.journal.note(o.id);
  };

  private drop(kind: StandingKind, id: string): boolean {
    this.journal.note(id);
    return this.list(kind).delete(id);
  }
  private put: (o: Standing) => void = this.insert;

  /** One object of the document came, went or changed. */
  private take(id: string, was: Standing | undefined, is: Standing | undefined): void {
    if (was?.group !== undefined && was.group !== is?.group) this.members(was.group).delete(id);
    if (is?.group !== undefined) this.members(is.group).set(id, is);
    if (was && !was.out && (!is || is.out)) this.drop(was.kind, id);
    if (is && !is.out) this.insert(is);
    const of = (was ?? is)!;
    if (of.kind === 'laidLine' && this.takeLine(id, was as LaidLine | undefined, is as LaidLine | undefined)) return;
    if (isMaker(of)) this.reopen(id);
    for (const group of new Set([was?.group, is?.group])) {
      if (group === undefined) continue;
      const uses = [...(this.byGroup.get(group) ?? [])];
      // A copy among the members has members of its own.
      if (isMaker(of)) for (const owner of new Set(uses.map((u) => u.owner))) this.reopen(owner);
      else for (const use of uses) this.remake(use, id, (was ?? is)!.kind);
    }
  }

  /** The members of a group, or the pieces of a line. */
  private within(group: string): Iterable<Standing> {
    return (group.startsWith(LAID) ? this.laid.get(group.slice(LAID.length))?.pieces.values() : this.groups.get(group)?.values()) ?? [];
  }

  private countIn(group: string): number {
    return (group.startsWith(LAID) ? this.laid.get(group.slice(LAID.length))?.pieces.size : this.groups.get(group)?.size) ?? 0;
  }

  private memberIn(group: string, id: string): Standing | undefined {
    return group.startsWith(LAID) ? this.laid.get(group.slice(LAID.length))?.pieces.get(id) : this.groups.get(group)?.get(id);
  }

  private lay(line: LaidLine, before = this.laid.get(line.id)): Laid | undefined {
    const { kit: named, dress } = line;
    if (dress) return layDressed({ ...line, dress }, before);
    const kit = named === undefined ? undefined : this.objects.get(named);
    return kit?.kind === 'kit' ? layLine(line, kit, before) : undefined;
  }

  private relay(line: LaidLine, before?: Laid): void {
    const laid = this.lay(line, before);
    if (laid) this.laid.set(line.id, laid);
    else this.laid.delete(line.id);
  }

  /**
   * Lays a line anew that came, went or changed.
   *
   * @returns whether that is all: pieces that are laid as before stay, where the line stands as it did
   */
  private takeLine(id: string, was: LaidLine | undefined, is: LaidLine | undefined): boolean {
    const before = this.laid.get(id);
    if (is) this.relay(is, before);
    else this.laid.delete(id);
    const after = this.laid.get(id);
    if (!was || !is || !before || !after || !standsAlike(was, is) || this.made + after.pieces.size > MOST_MADE) return false;
    for (const use of is.group === undefined ? [] : (this.byGroup.get(is.group) ?? [])) this.remake(use, id, 'laidLine');
    for (const use of this.byGroup.get(LAID + id) ?? []) {
      for (const [slot, was] of before.pieces) if (!after.pieces.has(slot)) this.remake(use, slot, was.kind);
      for (const [slot, is] of after.pieces) {
        const was = before.pieces.get(slot);
        if (was !== is) this.remake(use, slot, (was ?? is).kind);
      }
    }
    return true;
  }

  /** A member made anew, or taken away, in one use. */
  private remake(use: Use, id: string, kind: StandingKind): void {
    const made = use.prefix + id;
    if (this.drop(kind, made)) this.made--;
    const member = this.memberIn(use.group, id);
    if (member) this.add(this.make(use, member));
  }

  /** A member as it stands in one use; `undefined` where it is out of the level there. */
  private make(use: Use, member: Standing): Standing | undefined {
    const overrides = use.overrides.flatMap(({ path, of }) => of.get(path + member.id) ?? []);
    if (overrides.reduce((out, o) => o.out ?? out, member.out ?? false)) return undefined;
    const made = inFrame(member, use.frame, use.prefix + member.id, use.named, overrides);
    if (use.hidden) made.hidden = true;
    if (made.out) made.out = false;
    return made;
  }

  private add(made: Standing | undefined): void {
    if (!made) return;
    this.made++;
    this.put(made);
  }

  private reopen(owner: string): void {
    this.close(owner);
    const maker = this.objects.get(owner);
    if (isMaker(maker) && !maker.out) this.open(maker);
  }

  /** Takes away what was made for a copy. */
  private close(owner: string): void {
    for (const use of this.byOwner.get(owner) ?? []) this.byGroup.get(use.group)?.delete(use);
    this.byOwner.delete(owner);
    for (const list of this.kinds.values()) {
      const gone = list.deleteFrom(owner + MARK);
      this.made -= gone.length;
      for (const { id } of gone) this.journal.note(id);
    }
  }

  /** Makes what stands in a copy of the document, unless that would be too much. */
  private open(copy: Maker): void {
    // What is looked at and then left out costs too: a few copies in copies could name millions, again and again.
    if (this.looked > 2 * MOST_MADE && this.starting) {
      this.left.push(copy);
      return;
    }
    const uses = this.usesOf(copy, MOST_MADE - this.made);
    this.looked += this.sizeOf(uses);
    if (this.made + this.sizeOf(uses) > MOST_MADE) {
      this.left.push(copy);
      return;
    }
    this.byOwner.set(copy.id, uses);
    for (const use of uses) {
      (this.byGroup.get(use.group) ?? this.byGroup.set(use.group, new Set()).get(use.group)!).add(use);
      for (const member of this.within(use.group)) this.add(this.make(use, member));
    }
  }

  private sizeOf(uses: readonly Use[]): number {
    return uses.reduce((sum, use) => sum + this.countIn(use.group), 0);
  }

  /**
   * A copy's own use, and those of the copies among its members.
   *
   * @param room where there are more members than this it stops: the copy is left out, however many more
   */
  private usesOf(maker: Maker, room: number): Use[] {
    const uses: Use[] = [];
    let members = 0;
    const visit = (at: Maker, { of, prefix, path, overrides, inside, hidden }: Visit): void => {
      const shows = this.shownBy(at, of);
      // An assembly that stands in itself would never end.
      if (!shows || inside.includes(shows.group) || inside.length >= DEEPEST || members > room) return;
      const laid = at.overrides?.length ? [{ path: '', of: byMember(at.overrides) }, ...overrides] : overrides;
      const use: Use = {
        owner: maker.id,
        prefix,
        path,
        frame: frameOf(at, shows.pivot),
        group: shows.group,
        named: at.name,
        hidden: hidden || at.hidden,
        overrides: laid,
      };
      uses.push(use);
      members += this.countIn(shows.group);
      if (at.kind === 'laidLine') return;
      for (const member of this.within(shows.group)) {
        if (!isMaker(member)) continue;
        const mine = laid.flatMap(({ path: p, of: list }) => list.get(p + member.id) ?? []);
        if (mine.reduce((out, o) => o.out ?? out, member.out)) continue;
        visit(inFrame(member, use.frame, prefix + member.id, at.name, mine), {
          of: member.id,
          prefix: `${prefix}${member.id}${MARK}`,
          path: `${path}${member.id}${MARK}`,
          hidden: use.hidden,
          overrides: laid.map(({ path: p, of: list }) => ({ path: `${p}${member.id}${MARK}`, of: list })),
          inside: [...inside, shows.group],
        });
      }
    };
    const inside = maker.group === undefined ? [] : [maker.group];
    visit(maker, { of: maker.id, prefix: maker.id + MARK, path: '', overrides: [], inside, hidden: false });
    return uses;
  }

  /** What a copy or line shows: a group, and which point of it stands where it does. @param id of it in the document */
  private shownBy(at: Maker, id: string): { group: string; pivot: Vec3 } | undefined {
    return at.kind === 'laidLine' ? { group: LAID + id, pivot: [0, 0, 0] } : this.assemblies.get(at.assembly);
  }
}

interface Visit {
  /** the copy or line of the document that is visited */
  of: string;
  prefix: string;
  path: string;
  overrides: Use['overrides'];
  inside: readonly string[];
  hidden: boolean;
}

/** Whether two states of a line differ in nothing but what is laid. */
const standsAlike = (a: LaidLine, b: LaidLine): boolean =>
  a.name === b.name &&
  a.group === b.group &&
  a.hidden === b.hidden &&
  a.out === b.out &&
  a.turn === b.turn &&
  a.at.every((v, k) => v === b.at[k]) &&
  JSON.stringify(a.overrides) === JSON.stringify(b.overrides);

const overridesOf = new WeakMap<readonly Override[], ReadonlyMap<string, Override>>();

function byMember(overrides: readonly Override[]): ReadonlyMap<string, Override> {
  let found = overridesOf.get(overrides);
  if (!found) overridesOf.set(overrides, (found = new Map(overrides.map((o) => [o.member, o]))));
  return found;
}

const known = new WeakMap<ObjectMap, Present>();

/**
 * What stands in a level, kept up with its changes.
 *
 * @example
 * const present = presentOf(level.objects);
 * const { ids, mark } = present.since(this.mark); // what came, went or changed, copies with them
 */
export function presentOf(objects: ObjectMap): Present {
  let found = known.get(objects);
  if (!found) known.set(objects, (found = new Present(objects)));
  return found;
}
