import type { LevelObject, ObjectKind, ObjectOf } from './kinds/index';
import { needOf } from './references';

/**
 * The objects of a level by id, in the order they were added. Those of a kind, and those that cannot be without
 * another, are found without a look at the rest. An object's kind never changes.
 */
export class ObjectMap extends Map<string, LevelObject> {
  private readonly byKind = new Map<string, Map<string, LevelObject>>();
  /** ids of those that cannot be without the one of an id */
  private readonly needing = new Map<string, Set<string>>();
  private readonly watchers: ((id: string, before: LevelObject | undefined, after: LevelObject | undefined) => void)[] = [];

  constructor(objects: Iterable<LevelObject> = []) {
    super();
    for (const o of objects) this.set(o.id, o);
  }

  override set(id: string, object: LevelObject): this {
    const before = this.get(id);
    if (before) this.forget(id, before, before.kind !== object.kind);
    let kind = this.byKind.get(object.kind);
    if (!kind) this.byKind.set(object.kind, (kind = new Map()));
    kind.set(id, object);
    const need = needOf(object)?.id;
    if (need !== undefined) {
      const list = this.needing.get(need);
      if (list) list.add(id);
      else this.needing.set(need, new Set([id]));
    }
    for (const tell of this.watchers) tell(id, before, object);
    return super.set(id, object);
  }

  override delete(id: string): boolean {
    const before = this.get(id);
    if (before) this.forget(id, before, true);
    if (before) for (const tell of this.watchers) tell(id, before, undefined);
    return super.delete(id);
  }

  /** Tells of every object that comes, goes or changes, before it does. Who watches lives as long as the map. */
  watch(tell: (id: string, before: LevelObject | undefined, after: LevelObject | undefined) => void): void {
    this.watchers.push(tell);
  }

  override clear(): void {
    for (const [id, before] of this) for (const tell of this.watchers) tell(id, before, undefined);
    this.byKind.clear();
    this.needing.clear();
    super.clear();
  }

  /** All of one kind, in the order they were added; a list of the caller's own. */
  of<K extends ObjectKind>(kind: K): ObjectOf<K>[] {
    return [...(this.byKind.get(kind)?.values() ?? [])] as ObjectOf<K>[];
  }

  /** Those that cannot be without the one of an id, see `needOf`. */
  users(id: string): LevelObject[] {
    return [...(this.needing.get(id) ?? [])].map((user) => this.get(user)!);
  }

  private forget(id: string, object: LevelObject, kind: boolean): void {
    if (kind) this.byKind.get(object.kind)!.delete(id);
    const need = needOf(object)?.id;
    if (need !== undefined) this.needing.get(need)?.delete(id);
  }
}
