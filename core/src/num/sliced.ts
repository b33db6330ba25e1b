/** A mesh to be cut: its indices, and streams of so many numbers a vertex, positions first. */
export interface Sliceable {
  indices: Uint32Array;
  streams: { of: Float32Array; each: number }[];
}

/**
 * The same surface cut where x passes given values, so that no triangle reaches over one of them. Numbers of new vertices
 * lie between those of their edge's ends.
 *
 * @param at values of x, metres, rising
 * @param within vertices no farther off one than this lie on it, metres
 */
export function sliced({ indices, streams }: Sliceable, at: readonly number[], within = 1e-6): Sliceable {
  const out = streams.map(({ of }) => Array.from(of));
  const x = (v: number): number => out[0][v * 3];
  let triangles = Array.from(indices);
  for (const cut of at) {
    const made = new Map<number, number>();
    const count = out[0].length / 3;
    const between = (a: number, b: number): number => {
      const [p, q] = a < b ? [a, b] : [b, a];
      const key = p * (count + triangles.length * 2) + q;
      let found = made.get(key);
      if (found === undefined) {
        made.set(key, (found = out[0].length / 3));
        const k = (cut - x(p)) / (x(q) - x(p));
        streams.forEach(({ each }, s) => {
          for (let i = 0; i < each; i++) {
            const [from, to] = [out[s][p * each + i], out[s][q * each + i]];
            out[s].push(s === 0 && i === 0 ? cut : from + (to - from) * k);
          }
        });
      }
      return found;
    };
    const next: number[] = [];
    for (let i = 0; i < triangles.length; i += 3) {
      const corners = [triangles[i], triangles[i + 1], triangles[i + 2]];
      const sides = corners.map((v) => (Math.abs(x(v) - cut) <= within ? 0 : Math.sign(x(v) - cut)));
      if (!sides.includes(1) || !sides.includes(-1)) {
        next.push(...corners);
        continue;
      }
      for (const keep of [-1, 1]) {
        const polygon: number[] = [];
        for (let c = 0; c < 3; c++) {
          const d = (c + 1) % 3;
          if (sides[c] !== -keep) polygon.push(corners[c]);
          if (sides[c] * sides[d] < 0) polygon.push(between(corners[c], corners[d]));
        }
        for (let c = 1; c + 1 < polygon.length; c++) next.push(polygon[0], polygon[c], polygon[c + 1]);
      }
    }
    triangles = next;
  }
  return { indices: Uint32Array.from(triangles), streams: streams.map(({ each }, s) => ({ of: Float32Array.from(out[s]), each })) };
}
