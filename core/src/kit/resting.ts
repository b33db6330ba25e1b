import type { Piece, PlantObject } from '../level/objects';

/** What stands on the ground by itself. */
export type Stood = Piece | PlantObject;

/** What is this near to something stands on it, metres. */
export const NEAR_ENOUGH = 0.02;

/** How far something stands over the ground, less how far it is let into it, metres. */
const offset = (t: Stood, ground: number): number => t.at[1] + (t.kind === 'piece' ? t.sink : 0) - ground;

/**
 * Knows what stood on the ground and no longer does since the ground moved: it is offered to be dropped, and never is by
 * itself. What is moved by hand since is where somebody wants it.
 */
export class Resting {
  private readonly known = new WeakMap<Stood, number>();
  private readonly stood = new WeakSet<Stood>();

  /** Takes in how things stand that are not known yet. @param ground height of the terrain at a place, metres */
  prime(things: Iterable<Stood>, ground: (x: number, z: number) => number): void {
    for (const t of things) if (!this.known.has(t)) this.know(t, offset(t, ground(t.at[0], t.at[2])));
  }

  /**
   * The ground moved.
   *
   * @param things that stand where it did
   * @returns those that stood on it before and do not now, and those that are on it again
   */
  moved(things: Iterable<Stood>, ground: (x: number, z: number) => number): { off: Stood[]; on: Stood[] } {
    const off: Stood[] = [];
    const on: Stood[] = [];
    for (const t of things) {
      const now = offset(t, ground(t.at[0], t.at[2]));
      if (!this.known.has(t)) this.know(t, now);
      else if (this.stood.has(t)) (Math.abs(now) > NEAR_ENOUGH ? off : on).push(t);
    }
    return { off, on };
  }

  private know(t: Stood, by: number): void {
    this.known.set(t, by);
    if (Math.abs(by) <= NEAR_ENOUGH) this.stood.add(t);
  }
}
