import type { Pose } from '@rammer/core/level/objects';
import { lookBy, orbitBy, panBy, zoomBy } from './rig';

type Point = readonly [x: number, y: number];

/** A finger that hardly moved for less than this is a tap, pixels and milliseconds. */
const TAP = { pixels: 8, ms: 350 };

/** Fingers on the view: one turns it, two move it and draw it nearer or farther. A pen or a mouse is no finger. */
export class Fingers {
  private readonly down = new Map<number, Point>();
  private first?: { id: number; at: Point; time: number; alone: boolean };

  get any(): boolean {
    return this.down.size > 0;
  }

  press(id: number, at: Point, time: number): void {
    this.down.set(id, at);
    if (this.down.size === 1) this.first = { id, at, time, alone: true };
    else if (this.first) this.first.alone = false;
  }

  /** The pose after a finger went somewhere. @param metresPerPixel where the view looks at */
  move(id: number, to: Point, pose: Pose, metresPerPixel: number): Pose {
    const from = this.down.get(id);
    if (!from) return pose;
    const others = [...this.down].filter(([other]) => other !== id).map(([, p]) => p);
    this.down.set(id, to);
    const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
    if (others.length === 0)
      return pose.view === 'plan' ? panBy(pose, dx, dy, metresPerPixel) : pose.view === 'stand' ? lookBy(pose, dx, dy) : orbitBy(pose, dx, dy);
    const [other] = others;
    const before = Math.hypot(from[0] - other[0], from[1] - other[1]);
    const after = Math.hypot(to[0] - other[0], to[1] - other[1]);
    // Each finger moves the middle by half of what it goes itself.
    const moved = panBy(pose, dx / 2, dy / 2, metresPerPixel);
    return before > 1 && after > 1 ? zoomBy(moved, before / after) : moved;
  }

  /** @returns where it was a tap of one finger, or `undefined` */
  lift(id: number, at: Point, time: number): Point | undefined {
    this.down.delete(id);
    const { first } = this;
    if (!first || first.id !== id) return undefined;
    this.first = undefined;
    return first.alone && time - first.time < TAP.ms && Math.hypot(at[0] - first.at[0], at[1] - first.at[1]) < TAP.pixels ? at : undefined;
  }

  clear(): void {
    this.down.clear();
    this.first = undefined;
  }
}
