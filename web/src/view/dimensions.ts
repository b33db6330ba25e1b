import { blockToLevel } from '@rammer/core/block/solid';
import type { Block } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';

export interface Dimension {
  field: 'length' | 'width' | 'height';
  name: string;
  value: number;
  /** SVG path: two extension lines, the dimension line and its ticks */
  path: string;
  /** centre of the label, pixels */
  label: [number, number];
}

type Point = { x: number; y: number };

const CLEAR = 8;
const OUT = 22;
const LABEL = { w: 44, h: 20 };

/**
 * Places a block's dimension lines outside its silhouette on the screen: for each of length, width and
 * height the edge nearest the viewer that lies on the silhouette's rim, moved outwards. Labels never
 * collide: a less important one (width, then length) slides along its line, or is left out.
 */
export function layoutDimensions(block: Block, project: (p: Vec3) => Point | undefined, width: number, height: number): Dimension[] {
  const [l, h, w] = block.size;
  const at = (x: number, y: number, z: number) => project(blockToLevel(block, (x * l) / 2, y * h, (z * w) / 2));
  const corners = [-1, 1].flatMap((x) => [0, 1].flatMap((y) => [-1, 1].map((z) => at(x, y, z))));
  if (corners.some((c) => !c)) return [];
  const cx = corners.reduce((s, c) => s + c!.x, 0) / 8;
  const cy = corners.reduce((s, c) => s + c!.y, 0) / 8;
  const candidates: { field: Dimension['field']; name: string; value: number; edges: [Point, Point][] }[] = [
    {
      field: 'height',
      name: 'height',
      value: h,
      edges: (block.shape === 'ramp' ? [1] : [-1, 1]).flatMap((x) => [-1, 1].map((z): [Point, Point] => [at(x, 0, z)!, at(x, 1, z)!])),
    },
    { field: 'length', name: 'length', value: l, edges: [-1, 1].map((z): [Point, Point] => [at(-1, 0, z)!, at(1, 0, z)!]) },
    { field: 'width', name: 'width', value: w, edges: [-1, 1].map((x): [Point, Point] => [at(x, 0, -1)!, at(x, 0, 1)!]) },
  ];
  const out: Dimension[] = [];
  for (const { field, name, value, edges } of candidates) {
    let best: { a: Point; b: Point; n: Point; score: number } | undefined;
    for (const [a, b] of edges) {
      const dx = b.x - a.x;
      const dy = b.y - a.y;
      const len = Math.hypot(dx, dy);
      if (len < 10) continue;
      let n = { x: -dy / len, y: dx / len };
      const mx = (a.x + b.x) / 2;
      const my = (a.y + b.y) / 2;
      if ((mx - cx) * n.x + (my - cy) * n.y < 0) n = { x: -n.x, y: -n.y };
      // How far the edge lies out of the silhouette along its own normal: the rim has the most.
      const rim = (mx - cx) * n.x + (my - cy) * n.y;
      const beyond = Math.max(...corners.map((c) => (c!.x - mx) * n.x + (c!.y - my) * n.y));
      const score = rim - beyond * 2 + (n.y > 0 ? 6 : 0);
      if (!best || score > best.score) best = { a, b, n, score };
    }
    if (!best) continue;
    const { a, b, n } = best;
    const p = (q: Point, off: number): string => `${(q.x + n.x * off).toFixed(1)} ${(q.y + n.y * off).toFixed(1)}`;
    const path = `M${p(a, CLEAR)}L${p(a, OUT + 4)}M${p(b, CLEAR)}L${p(b, OUT + 4)}M${p(a, OUT)}L${p(b, OUT)}`;
    let label: [number, number] | undefined;
    for (const t of [0.5, 0.35, 0.65, 0.2, 0.8]) {
      const lx = a.x + (b.x - a.x) * t + n.x * (OUT + Math.abs(n.x) * LABEL.w * 0.5);
      const ly = a.y + (b.y - a.y) * t + n.y * (OUT + Math.abs(n.y) * LABEL.h * 0.5);
      const inside = lx > LABEL.w / 2 && ly > LABEL.h / 2 && lx < width - LABEL.w / 2 && ly < height - LABEL.h / 2;
      const free = out.every((o) => Math.abs(o.label[0] - lx) > LABEL.w + 4 || Math.abs(o.label[1] - ly) > LABEL.h + 4);
      if (inside && free) {
        label = [lx, ly];
        break;
      }
    }
    if (label) out.push({ field, name, value, path, label });
  }
  return out;
}
