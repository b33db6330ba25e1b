import { hashUnit } from '@rammer/core/num/hash';
import { add, cross, dot, normalize, scale, sub, type Vec3 } from '@rammer/core/num/vec';
import { sinCosDeg } from '@rammer/core/num/trig';
import type { Primitive } from '@rammer/core/kit/asset';
import type { Canvas } from './canvas';

/** A cell of a plant's picture: left, top, right, bottom, in shares of it. */
export type Cell = readonly [u0: number, v0: number, u1: number, v1: number];
/** Red, green, blue that the picture is multiplied by, linear. */
export type Tint = readonly [number, number, number];
const WHITE: Tint = [1, 1, 1];
/** How deep a leaf is folded, as a share of half its width. */
const FOLD = 0.25;

/** What grows, as triangles: leaves and cards on one picture, stems on bark. */
export class Leafy {
  private readonly parts = { leaf: new Corners(), bark: new Corners() };
  constructor(
    /** middle of the crown: leaves are lit as if they lay on a ball about it */
    readonly middle: Vec3,
    /** how much so, 0 to 1 */
    private readonly round = 0.6,
  ) {}

  private lit(p: Vec3, own: Vec3): Vec3 {
    const out = normalize(sub(p, this.middle));
    return normalize(add(scale(own, 1 - this.round), scale(normalize(add(out, [0, 0.35, 0])), this.round)));
  }

  /**
   * A leaf folded along its rib: from its stalk `at` along `way`, its face towards `up`.
   *
   * @param size length and half of its width, metres
   */
  leaf(at: Vec3, way: Vec3, up: Vec3, [long, half]: readonly [number, number], { cell, tint = WHITE }: { cell: Cell; tint?: Tint }): this {
    const side = normalize(cross(way, up));
    let face = normalize(cross(side, way));
    if (dot(face, sub(at, this.middle)) < 0) face = scale(face, -1);
    const tip = add(at, scale(way, long));
    const belly = add(at, scale(way, long * 0.48));
    const drop = scale(face, -half * FOLD);
    const l = add(add(belly, scale(side, -half)), drop);
    const r = add(add(belly, scale(side, half)), drop);
    const [u0, v0, u1, v1] = cell;
    const mid = (u0 + u1) / 2;
    const vb = v1 + (v0 - v1) * 0.48;
    this.facing(
      [
        [at, [mid, v1]],
        [l, [u0, vb]],
        [tip, [mid, v0]],
      ],
      tint,
      face,
    );
    this.facing(
      [
        [at, [mid, v1]],
        [tip, [mid, v0]],
        [r, [u1, vb]],
      ],
      tint,
      face,
    );
    return this;
  }

  /**
   * A strip along points, as wide as it says, laid on a cell whose foot is the strip's.
   *
   * @param wide half of its width at each point
   */
  strip(line: readonly Vec3[], wide: (t: number) => number, side: Vec3, cell: Cell, tint: (t: number) => Tint = () => WHITE): this {
    const [u0, v0, u1, v1] = cell;
    for (let i = 0; i + 1 < line.length; i++) {
      const [t0, t1] = [i / (line.length - 1), (i + 1) / (line.length - 1)];
      const way = normalize(sub(line[i + 1], line[i]));
      let face = normalize(cross(side, way));
      if (dot(face, sub(line[i], this.middle)) < 0) face = scale(face, -1);
      const q: [Vec3, readonly [number, number]][] = [
        [add(line[i], scale(side, -wide(t0))), [u0, v1 + (v0 - v1) * t0]],
        [add(line[i], scale(side, wide(t0))), [u1, v1 + (v0 - v1) * t0]],
        [add(line[i + 1], scale(side, wide(t1))), [u1, v1 + (v0 - v1) * t1]],
        [add(line[i + 1], scale(side, -wide(t1))), [u0, v1 + (v0 - v1) * t1]],
      ];
      const [a, b] = [tint(t0), tint(t1)];
      if (wide(t0) > 0) this.facing([q[0], q[1], q[2]], [a, a, b], face);
      if (wide(t1) > 0) this.facing([q[0], q[2], q[3]], [a, b, b], face);
    }
    return this;
  }

  private facing(corners: readonly [Vec3, readonly [number, number]][], tint: Tint | readonly [Tint, Tint, Tint], face: Vec3): void {
    const way = cross(sub(corners[1][0], corners[0][0]), sub(corners[2][0], corners[0][0]));
    const order = dot(way, face) >= 0 ? [0, 1, 2] : [0, 2, 1];
    for (const k of order) this.parts.leaf.put(corners[k][0], this.lit(corners[k][0], face), corners[k][1], (Array.isArray(tint[0]) ? tint[k] : tint) as Tint);
  }

  /** A stem of bark along points; its v runs down it, its tile 0.6 m wide. */
  stem(line: readonly Vec3[], radius: (t: number) => number, sides: number, tint: Tint = WHITE, twist = 0): this {
    let across: Vec3 = [1, 0, 0];
    let run = 0;
    const rings = line.map((p, i) => {
      const way = normalize(sub(line[Math.min(i + 1, line.length - 1)], line[Math.max(i - 1, 0)]));
      const raw = sub(across, scale(way, dot(across, way)));
      across = normalize(dot(raw, raw) < 1e-4 ? cross(way, [0, 0, 1]) : raw);
      const other = cross(way, across);
      if (i > 0) run += Math.sqrt(dot(sub(p, line[i - 1]), sub(p, line[i - 1])));
      const t = i / (line.length - 1);
      return Array.from({ length: sides + 1 }, (_, k) => {
        const [s, c] = sinCosDeg((k * 360) / sides + twist);
        const n = add(scale(across, c), scale(other, s));
        return { p: add(p, scale(n, radius(t))), n, uv: [((k / sides) * 2 * Math.PI * Math.max(0.03, radius(0))) / 0.6, -run / 0.6] as const };
      });
    });
    for (let i = 0; i + 1 < rings.length; i++)
      for (let k = 0; k < sides; k++) {
        const [a, b, c, d] = [rings[i][k], rings[i][k + 1], rings[i + 1][k + 1], rings[i + 1][k]];
        for (const v of radius((i + 1) / (line.length - 1)) > 0 ? [a, b, c, a, c, d] : [a, b, c]) this.parts.bark.put(v.p, v.n, v.uv, tint);
      }
    return this;
  }

  /** @param looks places of the leaves' and the bark's materials */
  primitives(looks: { leaf: number; bark: number }): Primitive[] {
    return (['leaf', 'bark'] as const).flatMap((part) => {
      const c = this.parts[part];
      return c.indices.length === 0 ? [] : [c.done(part === 'leaf' ? 'foliage' : 'bark', looks[part], part === 'leaf')];
    });
  }

  /** Triangles of its leaves, corner by corner: to be drawn into a picture. */
  triangles(): { p: Vec3; uv: readonly [number, number]; tint: Tint }[] {
    const { positions, uvs, colours, indices } = this.parts.leaf;
    return indices.map((i) => ({
      p: [positions[i * 3], positions[i * 3 + 1], positions[i * 3 + 2]],
      uv: [uvs[i * 2], uvs[i * 2 + 1]],
      tint: [colours[i * 4], colours[i * 4 + 1], colours[i * 4 + 2]],
    }));
  }
}

/** Corners, equal ones once. */
class Corners {
  readonly positions: number[] = [];
  readonly normals: number[] = [];
  readonly colours: number[] = [];
  readonly uvs: number[] = [];
  readonly indices: number[] = [];
  private readonly known = new Map<string, number>();

  put(p: Vec3, n: Vec3, uv: readonly [number, number], tint: Tint): void {
    const all = [...p, ...n, ...uv, ...tint];
    const key = all.map((v) => v.toFixed(5)).join();
    let i = this.known.get(key);
    if (i === undefined) {
      this.known.set(key, (i = this.positions.length / 3));
      // Half a millimetre is enough, and what has few digits packs well. No minus zero: it would not come back from a file
      // that another program wrote again.
      const kept = (v: number, steps: number) => Math.round(v * steps) / steps + 0;
      this.positions.push(...p.map((v) => kept(v, 2048)));
      this.normals.push(...n.map((v) => kept(v, 128)));
      this.uvs.push(...uv.map((v) => kept(v, 2048)));
      this.colours.push(...tint.map((v) => kept(v, 128)), 1);
    }
    this.indices.push(i);
  }

  done(material: string, look: number, alphaTested: boolean): Primitive {
    return {
      positions: Float32Array.from(this.positions),
      normals: Float32Array.from(this.normals),
      colours: Float32Array.from(this.colours),
      uvs: Float32Array.from(this.uvs),
      indices: Uint32Array.from(this.indices),
      material,
      look,
      alphaTested,
    };
  }
}

/** A leaf's colour among others: lighter and darker, warmer and cooler. */
export const varied = (seed: number, i: number, by = 0.3, deep = 1): Tint => {
  const k = deep * (1 - by / 2 + by * hashUnit(seed, i));
  const warm = (hashUnit(seed, i, 1) - 0.5) * by * 0.6;
  return [k * (1 + warm), k, k * (1 - warm * 0.6)];
};

/** Draws leaves as they lie in the plane of `right` and `up` into a cell of the atlas they wear. */
export function pictured(
  leafy: Leafy,
  atlas: Canvas,
  into: Canvas,
  { right, up, low, high }: { right: Vec3; up: Vec3; low: readonly [number, number]; high: readonly [number, number] },
): void {
  const to = cross(right, up);
  const depth = new Float32Array(into.width * into.height).fill(-Infinity);
  const t = leafy.triangles();
  const sx = into.width / (high[0] - low[0]);
  const sy = into.height / (high[1] - low[1]);
  for (let i = 0; i < t.length; i += 3) {
    const c = [0, 1, 2].map((k) => {
      const { p, uv, tint } = t[i + k];
      return { x: (dot(p, right) - low[0]) * sx, y: (high[1] - dot(p, up)) * sy, z: dot(p, to), uv, tint };
    });
    const area = (c[1].x - c[0].x) * (c[2].y - c[0].y) - (c[2].x - c[0].x) * (c[1].y - c[0].y);
    if (Math.abs(area) < 1e-6) continue;
    for (let y = Math.max(0, Math.floor(Math.min(c[0].y, c[1].y, c[2].y))); y <= Math.min(into.height - 1, Math.max(c[0].y, c[1].y, c[2].y)); y++)
      for (let x = Math.max(0, Math.floor(Math.min(c[0].x, c[1].x, c[2].x))); x <= Math.min(into.width - 1, Math.max(c[0].x, c[1].x, c[2].x)); x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        const w1 = ((px - c[0].x) * (c[2].y - c[0].y) - (c[2].x - c[0].x) * (py - c[0].y)) / area;
        const w2 = ((c[1].x - c[0].x) * (py - c[0].y) - (px - c[0].x) * (c[1].y - c[0].y)) / area;
        if (w1 < 0 || w2 < 0 || w1 + w2 > 1) continue;
        const w0 = 1 - w1 - w2;
        const z = w0 * c[0].z + w1 * c[1].z + w2 * c[2].z;
        const o = y * into.width + x;
        if (z <= depth[o]) continue;
        const u = w0 * c[0].uv[0] + w1 * c[1].uv[0] + w2 * c[2].uv[0];
        const v = w0 * c[0].uv[1] + w1 * c[1].uv[1] + w2 * c[2].uv[1];
        const s =
          (Math.min(atlas.height - 1, Math.max(0, Math.floor(v * atlas.height))) * atlas.width +
            Math.min(atlas.width - 1, Math.max(0, Math.floor(u * atlas.width)))) *
          4;
        if (atlas.data[s + 3] < 0.5) continue;
        depth[o] = z;
        // Tints multiply light; the canvas holds colours as they look.
        const tint = [0, 1, 2].map((k) => Math.sqrt(w0 * c[0].tint[k] + w1 * c[1].tint[k] + w2 * c[2].tint[k]));
        into.put(x, y, [atlas.data[s] * tint[0], atlas.data[s + 1] * tint[1], atlas.data[s + 2] * tint[2]]);
      }
  }
}
