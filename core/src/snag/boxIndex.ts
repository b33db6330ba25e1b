import Flatbush from 'flatbush';
import type { Bounds } from '../block/solid';

/** Boxes by where they are in plan: which touch another is asked of those near it and of no others. */
export class BoxIndex {
  private readonly tree?: Flatbush;

  constructor(private readonly boxes: readonly Bounds[]) {
    if (boxes.length === 0) return;
    this.tree = new Flatbush(boxes.length);
    for (const { min, max } of boxes) this.tree.add(min[0], min[2], max[0], max[2]);
    this.tree.finish();
  }

  /** Places of those that touch a box, itself among them where it is one of them. @param by counts so many metres apart as touching */
  touching({ min, max }: Bounds, by = 0): number[] {
    return (
      this.tree?.search(
        min[0] - by,
        min[2] - by,
        max[0] + by,
        max[2] + by,
        (i) => this.boxes[i].min[1] <= max[1] + by && min[1] - by <= this.boxes[i].max[1],
      ) ?? []
    );
  }
}
