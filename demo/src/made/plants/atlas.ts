import type { Rgb } from '../paint/sheet';
import { Canvas } from './canvas';
import { pictured, type Cell, type Leafy } from './leafy';
import type { Vec3 } from '@rammer/core/num/vec';

const SIDE = 512;
type Area = readonly [x: number, y: number, width: number, height: number];

/** The picture a plant wears: four leaves above, two cards in the middle, four more cells below. */
export const LEAF: readonly Area[] = [0, 1, 2, 3].map((i) => [i * 128, 0, 128, 128] as const);
export const CARD: readonly Area[] = [0, 1].map((i) => [i * 256, 128, 256, 256] as const);
export const MORE: readonly Area[] = [0, 1, 2, 3].map((i) => [i * 128, 384, 128, 128] as const);

/** Half a pixel inside, so that no neighbour bleeds in. */
export const cellOf = ([x, y, w, h]: Area): Cell => [(x + 1) / SIDE, (y + 1) / SIDE, (x + w - 1) / SIDE, (y + h - 1) / SIDE];

export class Atlas {
  readonly canvas = new Canvas(SIDE, SIDE);

  draw(area: Area, by: (c: Canvas) => void): Cell {
    const large = new Canvas(area[2] * 4, area[3] * 4);
    by(large);
    this.canvas.lay(large.small(), area[0], area[1]);
    return cellOf(area);
  }

  /** All of a cell one colour or shaded: of stems and bells. */
  solid(area: Area, at: (s: number, t: number) => Rgb): Cell {
    return this.draw(area, (c) => c.fill([0, 0, 1, 1], at));
  }

  /** A card of what grows, seen along the third axis. */
  card(area: Area, leafy: Leafy, look: { right: Vec3; up: Vec3; low: readonly [number, number]; high: readonly [number, number] }): Cell {
    return this.draw(area, (c) => pictured(leafy, this.canvas, c, look));
  }
}
