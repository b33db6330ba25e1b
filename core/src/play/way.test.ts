import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import type { Block } from '../level/objects';
import { randomStream } from '../num/hash';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { terrainOf, testBlock } from '../testing/levels';
import type { Terrain } from '../earth/compose';
import { findReach } from './reach';
import { limitsOf } from './limits';
import { makeWalkArea } from './walkArea';

const { adult } = SHIPPED_BODIES;
type P = [number, number];

function reach(terrain: Terrain, blocks: Block[], from: Vec3, to: Vec3) {
  const area = makeWalkArea(adult, terrain.grid);
  area.update({ terrain, blocks, meshes: [] });
  return findReach(area, from, to);
}

/** Outline of a turned box grown by a radius: its corners as arcs. */
function grown(b: Block, r: number): P[] {
  const [s, c] = sinCosDeg(b.turn);
  const [l, , w] = b.size;
  return [
    [1, 1],
    [-1, 1],
    [-1, -1],
    [1, -1],
  ].flatMap(([sx, sz], corner) =>
    Array.from({ length: 7 }, (_, k): P => {
      const [dz, dx] = sinCosDeg(corner * 90 + k * 15);
      const [x, z] = [(sx * l) / 2 + dx * r, (sz * w) / 2 + dz * r];
      return [b.at[0] + c * x + s * z, b.at[2] - s * x + c * z];
    }),
  );
}

/** Whether a segment passes through the inside of a convex outline. */
function passes(a: P, b: P, outline: readonly P[]): boolean {
  let [enter, leave] = [0, 1];
  for (let i = 0; i < outline.length; i++) {
    const [p, q] = [outline[i], outline[(i + 1) % outline.length]];
    // Left of each edge is inside: the outline runs the way of the angles, and turns with the block.
    const n: P = [q[1] - p[1], p[0] - q[0]];
    const [da, db] = [n[0] * (a[0] - p[0]) + n[1] * (a[1] - p[1]), n[0] * (b[0] - p[0]) + n[1] * (b[1] - p[1])];
    if (da > -1e-7 && db > -1e-7) return false;
    if (da > 0 !== db > 0) {
      const t = da / (da - db);
      if (da > 0) enter = Math.max(enter, t);
      else leave = Math.min(leave, t);
    }
  }
  return leave - enter > 1e-6;
}

/** Shortest way of a disc among boxes by the graph of all points that see each other: slow and simple. */
function shortest(blocks: readonly Block[], from: P, to: P, r: number): number {
  const outlines = blocks.map((b) => grown(b, r));
  const points: P[] = [from, to, ...outlines.flat().filter((p) => !outlines.some((o) => inside(p, o)))];
  const cost = points.map(() => Infinity);
  const done = points.map(() => false);
  cost[0] = 0;
  for (;;) {
    let at = -1;
    for (let i = 0; i < points.length; i++) if (!done[i] && (at < 0 || cost[i] < cost[at])) at = i;
    if (at < 0 || cost[at] === Infinity || at === 1) return cost[1];
    done[at] = true;
    for (let i = 0; i < points.length; i++) {
      const far = Math.hypot(points[i][0] - points[at][0], points[i][1] - points[at][1]);
      if (!done[i] && cost[at] + far < cost[i] && !outlines.some((o) => passes(points[at], points[i], o))) cost[i] = cost[at] + far;
    }
  }
}

const inside = (p: P, outline: readonly P[]): boolean =>
  outline.every((a, i) => {
    const b = outline[(i + 1) % outline.length];
    return (b[1] - a[1]) * (p[0] - a[0]) + (a[0] - b[0]) * (p[1] - a[1]) < -1e-7;
  });

describe('the way', () => {
  it('is within a hundredth of the shortest among boxes, by a graph of all that sees each other', () => {
    const flat = terrainOf(() => 0, 2);
    const random = randomStream(11);
    const off: number[] = [];
    for (let run = 0; run < 10; run++) {
      const blocks = Array.from({ length: 14 }, () =>
        testBlock('box', [1 + random() * 11, 3, 0.4 + random() * 5], [12 + random() * 40, 0, 8 + random() * 48], random() * 180),
      );
      const clear = (p: P) => blocks.every((b) => !inside(p, grown(b, 1)));
      const [from, to] = [[[3, 12 + run * 4] as P, [61, 52 - run * 4] as P]].flat() as [P, P];
      if (!clear(from) || !clear(to)) continue;
      const best = shortest(blocks, from, to, limitsOf(adult).side);
      const found = reach(flat, blocks, [from[0], 0, from[1]], [to[0], 0, to[1]]);
      expect(found.reached).toBe(best < Infinity);
      if (best < Infinity) off.push(found.length / best - 1);
    }
    expect(off.length).toBeGreaterThan(6);
    // The arcs of the graph are drawn inside the true ones: nothing can be shorter than it by more than that.
    expect(Math.min(...off)).toBeGreaterThan(-0.003);
    expect(Math.max(...off)).toBeLessThan(0.01);
  }, 60_000);

  it('goes over hills as long as they are', () => {
    // 1.5 sin(x / 2): slopes to 37 degrees. Its length over the samples, by hand.
    const height = (x: number) => 1.5 * Math.sin(x / 2);
    const waves = terrainOf(height, 2);
    let along = 0;
    for (let x = 6; x < 58; x += 0.5) along += Math.hypot(0.5, height(x + 0.5) - height(x));
    const found = reach(waves, [], [6, height(6), 32], [58, height(58), 32]);
    expect(found.reached).toBe(true);
    expect(along).toBeGreaterThan(52 * 1.12);
    expect(Math.abs(found.length / along - 1)).toBeLessThan(0.01);
    expect(found.walkTime).toBeCloseTo(found.length / adult.walk, 9);
    expect(found.runTime).toBeCloseTo(found.length / adult.run, 9);
  });

  it('bends about a hill as the shortest line over it does', () => {
    const height = (x: number, z: number) => Math.max(0, 8 - (Math.hypot(x - 32, z - 32) * 8) / 12);
    // The same found slowly: 81 points, each moved to and fro as long as the line over the true hill gets shorter.
    const z = Array.from({ length: 81 }, (_, i) => 32 + 6 * Math.sin((Math.PI * i) / 80));
    const piece = (i: number) => Math.hypot(0.5, z[i + 1] - z[i], height(12.5 + i * 0.5, z[i + 1]) - height(12 + i * 0.5, z[i]));
    for (let step = 0.4; step > 1e-4; step /= 2) {
      for (let sweep = 0; sweep < 400; sweep++) {
        for (let i = 1; i < 80; i++) {
          for (const by of [step, -step]) {
            const now = piece(i - 1) + piece(i);
            z[i] += by;
            if (piece(i - 1) + piece(i) >= now) z[i] -= by;
          }
        }
      }
    }
    const best = z.slice(1).reduce((sum, _, i) => sum + piece(i), 0);
    const found = reach(terrainOf(height, 2), [], [12, 0, 32], [52, 0, 32]);
    expect(found.reached).toBe(true);
    // Straight over it are 44.8 m.
    expect(best).toBeLessThan(44);
    expect(Math.abs(found.length / best - 1)).toBeLessThan(0.01);
  });
});
