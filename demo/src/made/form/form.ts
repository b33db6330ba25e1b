import { hashUnit } from '@rammer/core/num/hash';
import { cross, dot, length, normalize, scale, sub, add, type Vec3 } from '@rammer/core/num/vec';
import { sinCosDeg } from '@rammer/core/num/trig';
import { after, HERE, placeBy, turnBy, type Frame } from './frame';

/** What a face is made of, by its name in `stuffs`. */
export type StuffName = string;

type Uv = [u: number, v: number];

/** Faces that lie beside each other on one chart: `chart` is where each corner lies on it, metres. */
export interface Patch {
  stuff: StuffName;
  points: Vec3[];
  normals: Vec3[];
  /** metres along the stuff's tile */
  uvs: Uv[];
  chart: Uv[];
  indices: number[];
}

export const SIDES = ['west', 'east', 'bottom', 'top', 'north', 'south'] as const;
export type Side = (typeof SIDES)[number];

export interface BoxLook {
  stuff: StuffName;
  /** how far its edges are taken off, metres; 0.008 */
  bevel?: number;
  /** faces nobody sees */
  skip?: readonly Side[];
  /** its stuff runs along its longest side, from a place of its own by this seed */
  grain?: number;
}

/** A shape out of bevelled boxes, turned and drawn shapes; every face knows its place on its stuff's tile. */
export class Form {
  readonly patches: Patch[] = [];
  private frame: Frame = HERE;

  /** What `build` adds lies in this frame. */
  in(frame: Frame, build: (form: this) => void): this {
    const was = this.frame;
    this.frame = after(was, frame);
    build(this);
    this.frame = was;
    return this;
  }

  private add(patch: Patch): void {
    this.patches.push({
      ...patch,
      points: patch.points.map((p) => placeBy(this.frame, p)),
      normals: patch.normals.map((n) => normalize(turnBy(this.frame, n))),
    });
  }

  /** A box whose edges are taken off: light catches on them. */
  box(min: Vec3, max: Vec3, { stuff, bevel = 0.008, skip = [], grain }: BoxLook): this {
    const size = sub(max, min);
    const b = Math.min(bevel, ...size.map((s) => s / 3));
    const there = SIDES.map((s) => !skip.includes(s));
    const longest = size.indexOf(Math.max(...size));
    const shift: Uv = grain === undefined ? [0, 0] : [hashUnit(701, grain) * 2, hashUnit(702, grain) * 2];
    for (let side = 0; side < 6; side++) {
      if (!there[side]) continue;
      const axis = side >> 1;
      const far = side % 2 === 1;
      // Across and up on the face as one looks at it from outside; lying faces have +z downwards.
      const [ua, va] = axis === 0 ? [2, 1] : axis === 1 ? [0, 2] : [0, 1];
      const flip = axis === 0 ? far : axis === 1 ? false : !far;
      const normal: Vec3 = [0, 0, 0];
      normal[axis] = far ? 1 : -1;
      const inset = (a: number, end: 0 | 1) => (there[a * 2 + end] ? b : 0);
      const [u0, u1] = [min[ua] + inset(ua, 0), max[ua] - inset(ua, 1)];
      const [v0, v1] = [min[va] + inset(va, 0), max[va] - inset(va, 1)];
      const at = far ? max[axis] : min[axis];
      const patch: Patch = { stuff, points: [], normals: [], uvs: [], chart: [], indices: [] };
      const swap = grain !== undefined && (ua === longest ? false : va === longest ? true : size[va] > size[ua]);
      const vertex = (u: number, v: number, depth: number, n: Vec3): number => {
        const p: Vec3 = [0, 0, 0];
        p[ua] = u;
        p[va] = v;
        p[axis] = at - (far ? depth : -depth);
        const across = flip ? -u : u;
        const down = axis === 1 ? v : -v;
        patch.points.push(p);
        patch.normals.push(n);
        patch.uvs.push(swap ? [down + shift[0], across + shift[1]] : [across + shift[0], down + shift[1]]);
        patch.chart.push([u - min[ua], v - min[va]]);
        return patch.points.length - 1;
      };
      const q = [vertex(u0, v0, 0, normal), vertex(u1, v0, 0, normal), vertex(u1, v1, 0, normal), vertex(u0, v1, 0, normal)];
      this.quad(patch, q);
      // Each bevel belongs to the first of its two faces, its other edge lit as the second.
      for (const [a, end, i, j] of [
        [va, 0, 0, 1],
        [ua, 1, 1, 2],
        [va, 1, 2, 3],
        [ua, 0, 3, 0],
      ] as const) {
        const other = a * 2 + end;
        if (b === 0 || !there[other] || other < side) continue;
        const n: Vec3 = [0, 0, 0];
        n[a] = end === 1 ? 1 : -1;
        const out = (k: number): number => {
          const [u, v] = [patch.points[q[k]][ua], patch.points[q[k]][va]];
          const step = end === 1 ? b : -b;
          return vertex(a === ua ? u + step : u, a === va ? v + step : v, b, n);
        };
        this.quad(patch, [q[i], out(i), out(j), q[j]]);
      }
      // A corner belongs to the first of its three faces.
      for (const [k, eu, ev] of [
        [0, 0, 0],
        [1, 1, 0],
        [2, 1, 1],
        [3, 0, 1],
      ] as const) {
        const [ou, ov] = [ua * 2 + eu, va * 2 + ev];
        if (b === 0 || !there[ou] || !there[ov] || ou < side || ov < side) continue;
        const [u, v] = [patch.points[q[k]][ua], patch.points[q[k]][va]];
        const nu: Vec3 = [0, 0, 0];
        nu[ua] = eu ? 1 : -1;
        const nv: Vec3 = [0, 0, 0];
        nv[va] = ev ? 1 : -1;
        this.triangle(patch, [q[k], vertex(u + (eu ? b : -b), v, b, nu), vertex(u, v + (ev ? b : -b), b, nv)]);
      }
      this.add(patch);
    }
    return this;
  }

  /** Moves every corner that `build` adds, and rounds off what is smooth: equal corners look the same way. */
  warped(move: (p: Vec3) => Vec3, build: (form: this) => void): this {
    const first = this.patches.length;
    build(this);
    const added = this.patches.slice(first);
    const key = (p: Vec3) => p.map((v) => v.toFixed(4)).join();
    const sums = new Map<string, Vec3>();
    for (const patch of added) {
      patch.points = patch.points.map(move);
      for (let i = 0; i < patch.indices.length; i += 3) {
        const [a, b, c] = patch.indices.slice(i, i + 3).map((k) => patch.points[k]);
        const n = cross(sub(b, a), sub(c, a));
        for (const p of [a, b, c]) sums.set(key(p), add(sums.get(key(p)) ?? [0, 0, 0], n));
      }
    }
    for (const patch of added) patch.normals = patch.points.map((p, i) => (sums.has(key(p)) ? normalize(sums.get(key(p))!) : patch.normals[i]));
    return this;
  }

  private quad(patch: Patch, [a, b, c, d]: readonly number[]): void {
    this.triangle(patch, [a, b, c]);
    this.triangle(patch, [a, c, d]);
  }

  /** Turned the way its normals look. */
  private triangle({ points, normals, indices }: Patch, [a, b, c]: readonly number[]): void {
    const way = cross(sub(points[b], points[a]), sub(points[c], points[a]));
    const mean = add(add(normals[a], normals[b]), normals[c]);
    if (dot(way, mean) >= 0) indices.push(a, b, c);
    else indices.push(a, c, b);
  }

  /** Four corners counter-clockwise seen from outside; the stuff runs along the first side, its v down from the last. */
  face(corners: readonly [Vec3, Vec3, Vec3, Vec3], stuff: StuffName, shift: Uv = [0, 0]): this {
    const [a, b, , d] = corners;
    const across = normalize(sub(b, a));
    const n = normalize(cross(sub(b, a), sub(d, a)));
    const up = cross(n, across);
    const on = corners.map((p): Uv => [dot(sub(p, a), across), dot(sub(p, a), up)]);
    const patch: Patch = {
      stuff,
      points: [...corners],
      normals: corners.map(() => n),
      uvs: on.map(([s, t]): Uv => [s + shift[0], -t + shift[1]]),
      chart: on,
      indices: [],
    };
    this.quad(patch, [0, 1, 2, 3]);
    this.add(patch);
    return this;
  }

  /** A convex outline in x and y, counter-clockwise seen from +z, from `z0` to `z1`; `skip` leaves out sides by the number of their first corner. */
  prism(outline: readonly Uv[], z0: number, z1: number, stuff: StuffName, skip: readonly number[] = []): this {
    for (const far of [true, false]) {
      const n: Vec3 = [0, 0, far ? 1 : -1];
      const points = outline.map(([x, y]): Vec3 => [x, y, far ? z1 : z0]);
      const patch: Patch = {
        stuff,
        points,
        normals: points.map(() => n),
        uvs: outline.map(([x, y]): Uv => [far ? x : -x, -y]),
        chart: outline.map(([x, y]): Uv => [x, y]),
        indices: [],
      };
      for (let i = 2; i < outline.length; i++) this.triangle(patch, [0, i - 1, i]);
      this.add(patch);
    }
    outline.forEach(([x, y], i) => {
      if (skip.includes(i)) return;
      const [x2, y2] = outline[(i + 1) % outline.length];
      this.face(
        [
          [x, y, z1],
          [x, y, z0],
          [x2, y2, z0],
          [x2, y2, z1],
        ],
        stuff,
        [0, Math.abs(y) + i * 0.37],
      );
    });
    return this;
  }

  /**
   * What a profile gives when it is turned about y: `[radius, y]` from its foot up, outside to the right.
   *
   * @param along the stuff's u runs up it, as grain does in staves
   */
  turned(profile: readonly Uv[], sides: number, stuff: StuffName, { along = false, smooth = false, from = 0, to = 360, seed = 0 } = {}): this {
    const lengths = [0];
    for (let i = 1; i < profile.length; i++) lengths.push(lengths[i - 1] + Math.hypot(profile[i][0] - profile[i - 1][0], profile[i][1] - profile[i - 1][1]));
    const most = Math.max(...profile.map(([r]) => r));
    const outwards = profile.slice(1).map(([r, y], i): Uv => {
      const [dr, dy] = [r - profile[i][0], y - profile[i][1]];
      const l = Math.hypot(dr, dy) || 1;
      return [dy / l, -dr / l];
    });
    const patch: Patch = { stuff, points: [], normals: [], uvs: [], chart: [], indices: [] };
    for (let i = 0; i < outwards.length; i++) {
      const first = patch.points.length;
      for (let k = 0; k <= sides; k++) {
        const deg = from + ((to - from) * k) / sides;
        const [s, c] = sinCosDeg(deg);
        for (const end of [0, 1]) {
          const [r, y] = profile[i + end];
          let [nr, ny] = outwards[i];
          if (smooth) {
            const next = outwards[end === 1 ? Math.min(i + 1, outwards.length - 1) : Math.max(i - 1, 0)];
            [nr, ny] = [nr + next[0], ny + next[1]];
          }
          const round = (deg / 360) * 2 * Math.PI * most;
          patch.points.push([c * r, y, s * r]);
          patch.normals.push(normalize([c * nr, ny, s * nr]));
          const at = lengths[i + end];
          patch.uvs.push(along ? [at + seed * 0.37, round + seed * 0.61] : [-round + seed * 0.37, -at + seed * 0.61]);
          patch.chart.push([((deg - from) / 360) * 2 * Math.PI * most, at]);
        }
      }
      for (let k = 0; k < sides; k++) {
        const [a, b, c, d] = [first + k * 2, first + k * 2 + 1, first + k * 2 + 2, first + k * 2 + 3];
        if (profile[i][0] > 0) this.triangle(patch, [a, c, b]);
        if (profile[i + 1][0] > 0) this.triangle(patch, [b, c, d]);
      }
    }
    this.add(patch);
    return this;
  }

  /**
   * A round along a line.
   *
   * @param radius metres, of each point
   * @param along the stuff's u runs along it
   */
  rod(
    line: readonly Vec3[],
    radius: (i: number) => number,
    sides: number,
    stuff: StuffName,
    { along = false, seed = 0, closed = false, caps = false } = {},
  ): this {
    const patch: Patch = { stuff, points: [], normals: [], uvs: [], chart: [], indices: [] };
    const count = line.length;
    let across: Vec3 | undefined;
    let at = 0;
    for (let i = 0; i < count; i++) {
      const before = line[i > 0 ? i - 1 : closed ? count - 2 : 0];
      const next = line[i < count - 1 ? i + 1 : closed ? 1 : count - 1];
      const way = normalize(sub(next, before));
      const hint: Vec3 = across ?? (Math.abs(way[1]) > 0.9 ? [1, 0, 0] : [0, 1, 0]);
      across = normalize(sub(hint, scale(way, dot(hint, way))));
      const other = cross(way, across);
      if (i > 0) at += length(sub(line[i], line[i - 1]));
      for (let k = 0; k <= sides; k++) {
        const [s, c] = sinCosDeg((k / sides) * 360);
        const n = add(scale(across, c), scale(other, s));
        patch.points.push(add(line[i], scale(n, radius(i))));
        patch.normals.push(n);
        const round = (k / sides) * 2 * Math.PI * Math.max(0.02, radius(0));
        patch.uvs.push(along ? [at + seed * 0.37, round + seed * 0.61] : [round + seed * 0.37, -at + seed * 0.61]);
        patch.chart.push([round, at]);
      }
    }
    for (let i = 0; i + 1 < count; i++)
      for (let k = 0; k < sides; k++) {
        const a = i * (sides + 1) + k;
        this.quad(patch, [a, a + 1, a + sides + 2, a + sides + 1]);
      }
    this.add(patch);
    if (caps) for (const end of [0, count - 1]) this.cap(line, end, radius(end), sides, stuff);
    return this;
  }

  private cap(line: readonly Vec3[], end: number, r: number, sides: number, stuff: StuffName): void {
    const way = normalize(end === 0 ? sub(line[0], line[1]) : sub(line[end], line[end - 1]));
    const hint: Vec3 = Math.abs(way[1]) > 0.9 ? [1, 0, 0] : [0, 1, 0];
    const a = normalize(sub(hint, scale(way, dot(hint, way))));
    const b = cross(way, a);
    const rim = Array.from({ length: sides }, (_, k): Uv => {
      const [s, c] = sinCosDeg((k / sides) * 360);
      return [c * r, s * r];
    });
    const patch: Patch = {
      stuff,
      points: rim.map(([x, y]) => add(line[end], add(scale(a, x), scale(b, y)))),
      normals: rim.map(() => way),
      uvs: rim,
      chart: rim,
      indices: [],
    };
    for (let i = 2; i < sides; i++) this.triangle(patch, [0, i - 1, i]);
    this.add(patch);
  }
}
