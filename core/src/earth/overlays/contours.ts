import type { Terrain } from '../compose';

/** A line of equal height: x and z of its points, metres; a closed one ends where it begins. */
export interface Contour {
  height: number;
  points: Float64Array;
  closed: boolean;
  /** metres */
  length: number;
}

/**
 * Contours of the drawn surface, each a whole line: its triangles are cut at each height and the cuts
 * joined end to end. They are exact for the surface, and no two cross.
 *
 * @param step metres between two heights
 * @param shortest lines shorter than this are left out, metres
 */
export function contours({ grid, heights: h }: Pick<Terrain, 'grid' | 'heights'>, step: number, shortest = 0): Contour[] {
  const { nx, nz, spacing } = grid;
  let [low, high] = [Infinity, -Infinity];
  for (const v of h) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  const found: Contour[] = [];
  for (let k = Math.ceil(low / step); k * step <= high; k++) found.push(...linesAt(h, nx, nz, spacing, k * step).filter((c) => c.length >= shortest));
  return found;
}

/** An edge of the triangles by its lower sample and its way: 0 east, 1 south, 2 south-east. */
const edgeKey = (sample: number, way: number): number => sample * 3 + way;

function linesAt(h: Float32Array, nx: number, nz: number, spacing: number, height: number): Contour[] {
  /** for each cut edge the one or two edges its cuts lead to */
  const next = new Map<number, number[]>();
  const join = (a: number, b: number) => {
    for (const [p, q] of [
      [a, b],
      [b, a],
    ]) {
      const list = next.get(p);
      if (list) list.push(q);
      else next.set(p, [q]);
    }
  };
  const above = (i: number) => h[i] >= height;
  for (let z = 0; z < nz - 1; z++) {
    for (let x = 0; x < nx - 1; x++) {
      const nw = z * nx + x;
      const [ne, sw, se] = [nw + 1, nw + nx, nw + nx + 1];
      const [a, b, c, d] = [above(nw), above(ne), above(sw), above(se)];
      if (a === b && b === c && c === d) continue;
      const [north, west, south, east, across] = [edgeKey(nw, 0), edgeKey(nw, 1), edgeKey(sw, 0), edgeKey(ne, 1), edgeKey(nw, 2)];
      const cut = (...edges: (number | false)[]) => {
        const both = edges.filter((e): e is number => e !== false);
        if (both.length === 2) join(both[0], both[1]);
      };
      cut(a !== c && west, c !== d && south, a !== d && across);
      cut(a !== b && north, b !== d && east, a !== d && across);
    }
  }
  const point = (edge: number): [number, number] => {
    const [s, way] = [Math.floor(edge / 3), edge % 3];
    const e = way === 0 ? s + 1 : way === 1 ? s + nx : s + nx + 1;
    const t = (height - h[s]) / (h[e] - h[s]);
    const [x, z] = [s % nx, Math.floor(s / nx)];
    return [(x + (way === 1 ? 0 : t)) * spacing, (z + (way === 0 ? 0 : t)) * spacing];
  };
  const lines: Contour[] = [];
  const walk = (start: number): number[] => {
    const line = [start];
    for (let at = start; ;) {
      const list = next.get(at)!;
      const to = list.pop();
      if (to === undefined) break;
      const back = next.get(to)!;
      back.splice(back.indexOf(at), 1);
      line.push(to);
      at = to;
    }
    return line;
  };
  // Lines that end at the level's rim first, from an end; what is left comes back to itself.
  for (const ends of [true, false]) {
    for (const [edge, list] of next) {
      if (list.length === 0 || (ends && list.length !== 1)) continue;
      const line = walk(edge);
      const points = new Float64Array(line.length * 2);
      let length = 0;
      line.forEach((e, i) => {
        const [x, z] = point(e);
        points[i * 2] = x;
        points[i * 2 + 1] = z;
        if (i > 0) length += Math.sqrt((x - points[i * 2 - 2]) ** 2 + (z - points[i * 2 - 1]) ** 2);
      });
      lines.push({ height, points, closed: line.length > 2 && line[0] === line[line.length - 1], length });
    }
  }
  return lines;
}
