import { clamp } from '@rammer/core/num/vec';
import type { Rgb } from '../paint/sheet';

/** Pixels with how much of each is covered, drawn at four times the size they end up with. */
export class Canvas {
  /** red, green, blue, cover; colours as they look */
  readonly data: Float32Array;
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.data = new Float32Array(width * height * 4);
  }

  /** A stroke along points (shares of the canvas, y downwards), as wide at each as it says. */
  stroke(line: readonly (readonly [number, number])[], wide: (t: number) => number, colour: (t: number, across: number) => Rgb): void {
    const { width: w, height: h } = this;
    const lengths = [0];
    for (let i = 1; i < line.length; i++) lengths.push(lengths[i - 1] + Math.hypot(line[i][0] - line[i - 1][0], line[i][1] - line[i - 1][1]));
    const all = lengths[lengths.length - 1] || 1;
    const most = Math.max(...[0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1].map(wide)) * w;
    for (let i = 0; i + 1 < line.length; i++) {
      const [ax, ay] = [line[i][0] * w, line[i][1] * h];
      const [bx, by] = [line[i + 1][0] * w, line[i + 1][1] * h];
      const [dx, dy] = [bx - ax, by - ay];
      const l2 = dx * dx + dy * dy || 1e-9;
      for (let y = Math.max(0, Math.floor(Math.min(ay, by) - most)); y <= Math.min(h - 1, Math.ceil(Math.max(ay, by) + most)); y++)
        for (let x = Math.max(0, Math.floor(Math.min(ax, bx) - most)); x <= Math.min(w - 1, Math.ceil(Math.max(ax, bx) + most)); x++) {
          const k = clamp(((x + 0.5 - ax) * dx + (y + 0.5 - ay) * dy) / l2, 0, 1);
          const [ox, oy] = [x + 0.5 - ax - dx * k, y + 0.5 - ay - dy * k];
          const d = Math.sqrt(ox * ox + oy * oy);
          const t = (lengths[i] + (lengths[i + 1] - lengths[i]) * k) / all;
          const half = wide(t) * w;
          if (d > half || half <= 0) continue;
          const side = Math.sign(ox * -dy + oy * dx) || 1;
          this.put(x, y, colour(t, (d / half) * side));
        }
    }
  }

  /** What `at` gives for each place of a rectangle, shares of the canvas; nothing where it gives nothing. */
  fill([x0, y0, x1, y1]: readonly [number, number, number, number], at: (s: number, t: number) => Rgb | undefined): void {
    const [px0, py0, px1, py1] = [x0 * this.width, y0 * this.height, x1 * this.width, y1 * this.height];
    for (let y = Math.max(0, Math.floor(py0)); y < Math.min(this.height, Math.ceil(py1)); y++)
      for (let x = Math.max(0, Math.floor(px0)); x < Math.min(this.width, Math.ceil(px1)); x++) {
        const c = at((x + 0.5 - px0) / (px1 - px0), (y + 0.5 - py0) / (py1 - py0));
        if (c) this.put(x, y, c);
      }
  }

  put(x: number, y: number, c: Rgb): void {
    this.data.set([...c, 1], (y * this.width + x) * 4);
  }

  /** A quarter as wide and high: each pixel the mean of sixteen, colours of what is covered alone. */
  small(): Canvas {
    const out = new Canvas(this.width >> 2, this.height >> 2);
    for (let y = 0; y < out.height; y++)
      for (let x = 0; x < out.width; x++) {
        const sum = [0, 0, 0, 0];
        for (let dy = 0; dy < 4; dy++)
          for (let dx = 0; dx < 4; dx++) {
            const o = ((y * 4 + dy) * this.width + x * 4 + dx) * 4;
            const a = this.data[o + 3];
            for (let k = 0; k < 3; k++) sum[k] += this.data[o + k] * a;
            sum[3] += a;
          }
        if (sum[3] > 0) out.data.set([sum[0] / sum[3], sum[1] / sum[3], sum[2] / sum[3], sum[3] / 16], (y * out.width + x) * 4);
      }
    return out;
  }

  /** Lays another into this one. */
  lay(from: Canvas, x0: number, y0: number): void {
    for (let y = 0; y < from.height; y++) this.data.set(from.data.subarray(y * from.width * 4, (y + 1) * from.width * 4), ((y0 + y) * this.width + x0) * 4);
  }

  /** As bytes; what is clear takes its colour from what lies beside it, so that no edge is dark. */
  bytes(): Uint8Array {
    const { width: w, height: h } = this;
    const colour = this.data.slice();
    let edge = [...Array(w * h).keys()].filter((i) => colour[i * 4 + 3] > 0);
    const known = new Uint8Array(w * h);
    for (const i of edge) known[i] = 1;
    while (edge.length > 0) {
      const next: number[] = [];
      for (const i of edge) {
        const [x, y] = [i % w, Math.floor(i / w)];
        for (const [dx, dy] of [
          [1, 0],
          [-1, 0],
          [0, 1],
          [0, -1],
        ]) {
          const [nx, ny] = [x + dx, y + dy];
          const n = ny * w + nx;
          if (nx < 0 || ny < 0 || nx >= w || ny >= h || known[n]) continue;
          known[n] = 1;
          for (let k = 0; k < 3; k++) colour[n * 4 + k] = colour[i * 4 + k];
          next.push(n);
        }
      }
      edge = next;
    }
    const out = new Uint8Array(w * h * 4);
    for (let i = 0; i < out.length; i++) out[i] = Math.round(clamp(i % 4 === 3 ? this.data[i] : colour[i], 0, 1) * 255);
    return out;
  }
}
