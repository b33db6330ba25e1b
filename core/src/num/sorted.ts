/** A list sorted by id, made anew when it is asked for after a change, so that who holds one keeps it as it was. */
export class Sorted<T extends { id: string }> {
  private list: T[] = [];
  private lent = false;

  get all(): readonly T[] {
    this.lent = true;
    return this.list;
  }
  get size(): number {
    return this.list.length;
  }

  /** Where an id is, or would be. */
  private place(id: string): number {
    let [low, high] = [0, this.list.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.list[middle].id < id) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  private own(): T[] {
    if (this.lent) this.list = this.list.slice();
    this.lent = false;
    return this.list;
  }

  get(id: string): T | undefined {
    const at = this.place(id);
    return this.list[at]?.id === id ? this.list[at] : undefined;
  }

  set(object: T): void {
    const at = this.place(object.id);
    if (this.list[at]?.id === object.id) this.own()[at] = object;
    else this.own().splice(at, 0, object);
  }

  delete(id: string): boolean {
    const at = this.place(id);
    if (this.list[at]?.id !== id) return false;
    this.own().splice(at, 1);
    return true;
  }

  /** All whose id starts with a text. */
  from(start: string): T[] {
    const first = this.place(start);
    return this.list.slice(first, this.endOf(start, first));
  }

  /** Takes away all whose id starts with a text. @returns those */
  deleteFrom(start: string): T[] {
    const first = this.place(start);
    const end = this.endOf(start, first);
    return end > first ? this.own().splice(first, end - first) : [];
  }

  /** Takes many at once in the place of what was there. @param objects a list of the caller's that becomes this one's */
  fill(objects: T[]): void {
    this.list = objects.sort((a, b) => (a.id < b.id ? -1 : 1));
    this.lent = false;
  }

  clear(): void {
    this.fill([]);
  }

  private endOf(start: string, first: number): number {
    let end = first;
    while (this.list[end]?.id.startsWith(start)) end++;
    return end;
  }
}
