import type { Bounds } from '../block/solid';
import type { Vec3 } from '../num/vec';

/** Sides of cells of the places to stand on, metres. */
const CELL = 8;

/** Where a body gets to, by cells: the dots of a walk area that its entry links to. */
export class Eyes {
  private readonly cells = new Map<string, number[]>();
  readonly size: number;

  /** @param dots see play/walkDots */
  constructor(private readonly dots: Float32Array) {
    let size = 0;
    for (let i = 0; i < dots.length; i += 4) {
      // What nobody gets to shows nobody anything.
      if (dots[i + 3] === 0) continue;
      size++;
      const key = `${Math.floor(dots[i] / CELL)},${Math.floor(dots[i + 2] / CELL)}`;
      const list = this.cells.get(key);
      if (list) list.push(i);
      else this.cells.set(key, [i]);
    }
    this.size = size;
  }

  /** The place of a dot, on the ground. */
  at = (i: number): Vec3 => [this.dots[i], this.dots[i + 1], this.dots[i + 2]];

  /** Dots of the cells that a box touches in plan, so many metres about it. */
  near({ min, max }: Bounds, by: number): number[] {
    const out: number[] = [];
    for (let cx = Math.floor((min[0] - by) / CELL); cx <= Math.floor((max[0] + by) / CELL); cx++)
      for (let cz = Math.floor((min[2] - by) / CELL); cz <= Math.floor((max[2] + by) / CELL); cz++) out.push(...(this.cells.get(`${cx},${cz}`) ?? []));
    return out;
  }

  /**
   * How near a body gets to a box at most.
   *
   * @param high how far over its feet it is measured from, metres: from there down to the feet
   * @param most no farther than this is looked for
   * @returns metres; nothing where it gets no nearer than `most`
   */
  nearest(box: Bounds, high: number, most: number): number | undefined {
    let best = most;
    let found = false;
    // Wider and wider: most things have somebody near.
    for (let by = Math.min(CELL, most); ; by = Math.min(most, by * 4)) {
      for (const i of this.near(box, by)) {
        const [x, y, z] = this.at(i);
        const dx = Math.max(box.min[0] - x, 0, x - box.max[0]);
        const dz = Math.max(box.min[2] - z, 0, z - box.max[2]);
        const dy = Math.max(box.min[1] - y - high, 0, y - box.max[1]);
        const far = Math.sqrt(dx * dx + dy * dy + dz * dz);
        if (far <= best) [best, found] = [far, true];
      }
      if ((found && best <= by) || by >= most) return found ? best : undefined;
    }
  }
}
