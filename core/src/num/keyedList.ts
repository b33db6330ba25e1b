/** Values by key as one list, in any order; one that comes or goes moves no other but the last. */
export class KeyedList<T> {
  readonly list: T[] = [];
  private readonly names: string[] = [];
  private readonly places = new Map<string, number>();

  keys(): Iterable<string> {
    return this.places.keys();
  }

  get(key: string): T | undefined {
    const at = this.places.get(key);
    return at === undefined ? undefined : this.list[at];
  }

  set(key: string, value: T): void {
    const at = this.places.get(key) ?? this.list.length;
    this.places.set(key, at);
    this.names[at] = key;
    this.list[at] = value;
  }

  delete(key: string): void {
    const at = this.places.get(key);
    if (at === undefined) return;
    const [last, name] = [this.list.pop()!, this.names.pop()!];
    this.places.delete(key);
    if (name === key) return;
    this.list[at] = last;
    this.names[at] = name;
    this.places.set(name, at);
  }

  clear(): void {
    this.list.length = 0;
    this.names.length = 0;
    this.places.clear();
  }
}
