/** Points in plan and outlines of them; an outline closes from its last point to its first. */
export type Point2 = [x: number, y: number];

/** Twice-halved cross product sum: positive where the outline runs counter-clockwise for x to the right and y up. */
export function signedArea(outline: readonly Point2[]): number {
  let twice = 0;
  for (let i = 0; i < outline.length; i++) {
    const [ax, ay] = outline[i];
    const [bx, by] = outline[(i + 1) % outline.length];
    twice += ax * by - bx * ay;
  }
  return twice / 2;
}

const side = (p: Point2, a: Point2, b: Point2): number => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
const within = (p: Point2, a: Point2, b: Point2): boolean =>
  p[0] >= Math.min(a[0], b[0]) && p[0] <= Math.max(a[0], b[0]) && p[1] >= Math.min(a[1], b[1]) && p[1] <= Math.max(a[1], b[1]);

/** Whether two stretches cross or touch. */
export function stretchesMeet(a: Point2, b: Point2, c: Point2, d: Point2): boolean {
  const [s1, s2, s3, s4] = [side(a, c, d), side(b, c, d), side(c, a, b), side(d, a, b)];
  if (((s1 > 0 && s2 < 0) || (s1 < 0 && s2 > 0)) && ((s3 > 0 && s4 < 0) || (s3 < 0 && s4 > 0))) return true;
  return (s1 === 0 && within(a, c, d)) || (s2 === 0 && within(b, c, d)) || (s3 === 0 && within(c, a, b)) || (s4 === 0 && within(d, a, b));
}

/**
 * The first two sides of an outline that meet though they are not neighbours, by the places of their
 * first points; `undefined` where it is simple.
 */
export function crossing(outline: readonly Point2[]): [number, number] | undefined {
  const n = outline.length;
  for (let i = 0; i < n; i++) {
    for (let j = i + 2; j < n; j++) {
      if (i === 0 && j === n - 1) continue;
      if (stretchesMeet(outline[i], outline[(i + 1) % n], outline[j], outline[(j + 1) % n])) return [i, j];
    }
  }
  return undefined;
}

/** Whether a point lies inside an outline, by the count of sides a ray from it crosses. */
export function insideOutline([x, y]: Point2, outline: readonly Point2[]): boolean {
  let inside = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [ax, ay] = outline[i];
    const [bx, by] = outline[j];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** Distance of a point from a stretch. */
export function toStretch(p: Point2, a: Point2, b: Point2): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const t = Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy || 1)));
  const [ex, ey] = [p[0] - a[0] - dx * t, p[1] - a[1] - dy * t];
  return Math.sqrt(ex * ex + ey * ey);
}

/** Least distance of two outlines; 0 where they meet or one holds the other. */
export function outlineDistance(a: readonly Point2[], b: readonly Point2[]): number {
  if (insideOutline(a[0], b) || insideOutline(b[0], a)) return 0;
  let best = Infinity;
  for (let i = 0; i < a.length; i++) {
    const a1 = a[(i + 1) % a.length];
    for (let j = 0; j < b.length; j++) {
      const b1 = b[(j + 1) % b.length];
      if (stretchesMeet(a[i], a1, b[j], b1)) return 0;
      best = Math.min(best, toStretch(a[i], b[j], b1), toStretch(b[j], a[i], a1));
    }
  }
  return best;
}

/**
 * Mitre at each point of a line: the vector to its left (x east, y south: left of a line that runs east
 * is north) that, times a distance, leads to the line drawn at that distance beside it.
 *
 * Length 1 / cos of half the turn, so that the offset line keeps its distance on both sides of a corner.
 */
export function mitres(line: readonly Point2[], closed: boolean): Point2[] {
  const n = line.length;
  const left = (i: number): Point2 => {
    const [a, b] = [line[i % n], line[(i + 1) % n]];
    const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
    const l = Math.sqrt(dx * dx + dy * dy) || 1;
    return [dy / l, -dx / l];
  };
  return line.map((_, i): Point2 => {
    if (!closed && i === 0) return left(0);
    if (!closed && i === n - 1) return left(n - 2);
    const [p, q] = [left((i + n - 1) % n), left(i)];
    const k = 1 + p[0] * q[0] + p[1] * q[1];
    return k < 1e-9 ? q : [(p[0] + q[0]) / k, (p[1] + q[1]) / k];
  });
}

/** The line drawn at a distance to its left; negative to its right. */
export function offsetLine(line: readonly Point2[], by: number, closed: boolean): Point2[] {
  const m = mitres(line, closed);
  return line.map(([x, y], i): Point2 => [x + m[i][0] * by, y + m[i][1] * by]);
}

/** Points of a line without those it does not need, to a tolerance (Douglas, Peucker 1973). */
export function thinned(points: readonly Point2[], tolerance: number): Point2[] {
  if (points.length < 3) return [...points];
  const last = points.length - 1;
  let far = 0;
  let index = 0;
  for (let i = 1; i < last; i++) {
    const d = toStretch(points[i], points[0], points[last]);
    if (d > far) {
      far = d;
      index = i;
    }
  }
  return far <= tolerance
    ? [points[0], points[last]]
    : [...thinned(points.slice(0, index + 1), tolerance).slice(0, -1), ...thinned(points.slice(index), tolerance)];
}
