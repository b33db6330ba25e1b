/** Pixels from the base line of a label of 12 px to its top and below it. */
const UP = 11;
const DOWN = 3;
/** Free pixels beside a label. */
const BESIDE = 4;
/** How far a label may step aside from its place, in lines up and down, the nearest first. */
const STEPS = [0, -1, 1, -2, 2];
const LINE = 14;

/** Room for labels: each takes its own, and one that finds none is left out. Those that matter most ask first. */
export class LabelRoom {
  private readonly taken: { x0: number; y0: number; x1: number; y1: number }[] = [];

  /** @param top,bottom where base lines may lie, pixels */
  constructor(
    private readonly top: number,
    private readonly bottom: number,
  ) {}

  /**
   * Takes room for a label where it is wanted, or a line or two over or under that.
   *
   * @param x its left end, @param y its base line, @param wide its width, pixels
   * @returns the base line it has; nothing where there is no room
   */
  take(x: number, y: number, wide: number): number | undefined {
    for (const step of STEPS) {
      const at = Math.min(Math.max(y + step * LINE, this.top), this.bottom);
      const box = { x0: x - BESIDE, y0: at - UP, x1: x + wide + BESIDE, y1: at + DOWN };
      if (this.taken.some((t) => t.x0 < box.x1 && box.x0 < t.x1 && t.y0 < box.y1 && box.y0 < t.y1)) continue;
      this.taken.push(box);
      return at;
    }
    return undefined;
  }
}
