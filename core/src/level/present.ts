import { frameOf, inFrame, MARK, ownerOf, type Frame } from './instance';
import { isStanding, type LevelObject, type ObjectOf, type Standing, type StandingKind } from './kinds/index';
import type { Assembly } from './kinds/assembly';
import type { CopyObject, Override } from './kinds/copy';
import type { ObjectMap } from './objectMap';
import { Journal, type Mark } from '../num/journal';
import { Sorted } from '../num/sorted';

/** The most that copies are made into; a few small objects could name millions. */
export const MOST_MADE = 100_000;
/** Copies stand in copies no deeper than this. */
export const DEEPEST = 8;

/** One use of an assembly: a copy of it, or a copy of a member of one. */
interface Use {
  /** the copy of the document */
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
  private left!: CopyObject[];
  /** members of copies that were looked at while all is made from nothing */
  private looked = 0;
  private starting = false;
  private stale = true;
  /** ids of what came, went or changed since all was made from nothing the last time */
  private readonly journal = new Journal();
  private readonly changed = new Map<string, Standing | Assembly | undefined>();

  constructor(private readonly objects: ObjectMap) {
    objects.watch((id, before, after) => {
      // The first state since the last answer is the one that was taken in.
      if (this.changed.has(id)) return;
      const of = before ?? after;
      if (isStanding(of) || of?.kind === 'assembly') this.changed.set(id, before as Standing | Assembly | undefined);
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

  /** All that stand in one copy of the document, copies in it left out. */
  inCopy(id: string): Standing[] {
    this.follow();
    return [...this.kinds].flatMap(([kind, list]) => (kind === 'copy' ? [] : list.from(id + MARK)));
  }

  /** What would stand in a copy if it were like this, as `inCopy` has it. */
  would(copy: CopyObject): Standing[] {
    this.follow();
    return this.usesOf(copy, MOST_MADE).flatMap((use) =>
      [...(this.groups.get(use.group)?.values() ?? [])].flatMap((m) => (m.kind === 'copy' ? [] : (this.make(use, m) ?? []))),
    );
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

  /** Copies that stand in the level and are not made, for there are too many things in them. */
  get leftOut(): readonly CopyObject[] {
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
    else for (const [id, was] of this.changed) this.take(id, was as Standing | undefined, this.objects.get(id) as Standing | undefined);
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
    if ((was ?? is)!.kind === 'copy') this.reopen(id);
    for (const group of new Set([was?.group, is?.group])) {
      if (group === undefined) continue;
      const uses = [...(this.byGroup.get(group) ?? [])];
      // A copy among the members has members of its own.
      if ((was ?? is)!.kind === 'copy') for (const owner of new Set(uses.map((u) => u.owner))) this.reopen(owner);
      else for (const use of uses) this.remake(use, id, (was ?? is)!.kind);
    }
  }

  /** A member made anew, or taken away, in one use. */
  private remake(use: Use, id: string, kind: StandingKind): void {
    const made = use.prefix + id;
    if (this.drop(kind, made)) this.made--;
    const member = this.groups.get(use.group)?.get(id);
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
    const copy = this.objects.get(owner);
    if (copy?.kind === 'copy' && !copy.out) this.open(copy);
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
  private open(copy: CopyObject): void {
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
      for (const member of this.groups.get(use.group)?.values() ?? []) this.add(this.make(use, member));
    }
  }

  private sizeOf(uses: readonly Use[]): number {
    return uses.reduce((sum, use) => sum + (this.groups.get(use.group)?.size ?? 0), 0);
  }

  /**
   * A copy's own use, and those of the copies among its members.
   *
   * @param room where there are more members than this it stops: the copy is left out, however many more
   */
  private usesOf(copy: CopyObject, room: number): Use[] {
    const uses: Use[] = [];
    let members = 0;
    const visit = (
      at: CopyObject,
      { prefix, path, overrides, inside, hidden }: { prefix: string; path: string; overrides: Use['overrides']; inside: readonly string[]; hidden: boolean },
    ): void => {
      const assembly = this.assemblies.get(at.assembly);
      // An assembly that stands in itself would never end.
      if (!assembly || inside.includes(assembly.group) || inside.length >= DEEPEST || members > room) return;
      const laid = at.overrides?.length ? [{ path: '', of: byMember(at.overrides) }, ...overrides] : overrides;
      const use: Use = {
        owner: copy.id,
        prefix,
        path,
        frame: frameOf(at, assembly.pivot),
        group: assembly.group,
        named: at.name,
        hidden: hidden || at.hidden,
        overrides: laid,
      };
      uses.push(use);
      members += this.groups.get(assembly.group)?.size ?? 0;
      for (const member of this.groups.get(assembly.group)?.values() ?? []) {
        if (member.kind !== 'copy') continue;
        const mine = laid.flatMap(({ path: p, of }) => of.get(p + member.id) ?? []);
        if (mine.reduce((out, o) => o.out ?? out, member.out)) continue;
        const next = inFrame(member, use.frame, prefix + member.id, at.name, mine);
        visit(next, {
          prefix: `${prefix}${member.id}${MARK}`,
          path: `${path}${member.id}${MARK}`,
          hidden: use.hidden,
          overrides: laid.map(({ path: p, of }) => ({ path: `${p}${member.id}${MARK}`, of })),
          inside: [...inside, assembly.group],
        });
      }
    };
    visit(copy, { prefix: copy.id + MARK, path: '', overrides: [], inside: copy.group === undefined ? [] : [copy.group], hidden: false });
    return uses;
  }
}

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
