import { hashUnit } from '../num/hash';
import { cross, normalize, sub, type Vec3 } from '../num/vec';
import type { Primitive } from './asset';

export type Colour = [red: number, green: number, blue: number];

/** Looks of a lump. */
export interface Lump {
  /** share of its radius it is roughened by */
  rough: number;
  seed: number;
  colour: Colour;
  /** how far a species' tint colours it, 0 to 1; 1 */
  tint?: number;
  /** brightness at its foot, as a share of that at its top; 0.55 */
  below?: number;
}

/** Gathers flat and round shapes into one primitive: how the shipped kit and plants are made. */
export class Shape {
  private readonly p: number[] = [];
  private readonly n: number[] = [];
  private readonly c: number[] = [];
  private readonly i: number[] = [];

  /** A flat polygon, counter-clockwise seen from outside, as a fan. */
  face(corners: readonly Vec3[], colour: Colour, tint = 0): this {
    const normal = normalize(cross(sub(corners[1], corners[0]), sub(corners[2], corners[0])));
    const first = this.p.length / 3;
    for (const q of corners) this.vertex(q, normal, colour, tint);
    for (let i = 2; i < corners.length; i++) this.i.push(first, first + i - 1, first + i);
    return this;
  }

  /** A box between two corners; `skip` leaves faces out that nobody can see. */
  box(min: Vec3, max: Vec3, colour: Colour, skip: readonly ('bottom' | 'top' | 'north' | 'south' | 'east' | 'west')[] = []): this {
    const [x0, y0, z0] = min;
    const [x1, y1, z1] = max;
    const faces = {
      bottom: [
        [x0, y0, z0],
        [x1, y0, z0],
        [x1, y0, z1],
        [x0, y0, z1],
      ],
      top: [
        [x0, y1, z0],
        [x0, y1, z1],
        [x1, y1, z1],
        [x1, y1, z0],
      ],
      north: [
        [x0, y0, z0],
        [x0, y1, z0],
        [x1, y1, z0],
        [x1, y0, z0],
      ],
      south: [
        [x0, y0, z1],
        [x1, y0, z1],
        [x1, y1, z1],
        [x0, y1, z1],
      ],
      west: [
        [x0, y0, z0],
        [x0, y0, z1],
        [x0, y1, z1],
        [x0, y1, z0],
      ],
      east: [
        [x1, y0, z0],
        [x1, y1, z0],
        [x1, y1, z1],
        [x1, y0, z1],
      ],
    } satisfies Record<string, Vec3[]>;
    for (const [name, corners] of Object.entries(faces)) if (!skip.includes(name as 'top')) this.face(corners as Vec3[], colour);
    return this;
  }

  /** A prism: an outline in the x-y plane, counter-clockwise seen from +z, drawn from z0 to z1. */
  prism(outline: readonly [number, number][], z0: number, z1: number, colour: Colour): this {
    this.face(
      outline.map(([x, y]): Vec3 => [x, y, z1]),
      colour,
    );
    this.face(
      [...outline].reverse().map(([x, y]): Vec3 => [x, y, z0]),
      colour,
    );
    for (let i = 0; i < outline.length; i++) {
      const [ax, ay] = outline[i];
      const [bx, by] = outline[(i + 1) % outline.length];
      this.face(
        [
          [ax, ay, z1],
          [ax, ay, z0],
          [bx, by, z0],
          [bx, by, z1],
        ],
        colour,
      );
    }
    return this;
  }

  /**
   * A lump: an octahedron cut `cuts` times, pushed out to an ellipsoid and roughened; darker below.
   * The normals are those of the ellipsoid, so that it looks round with few triangles.
   */
  lump(centre: Vec3, radius: Vec3, cuts: 0 | 1, { rough, seed, colour, tint = 1, below = 0.55 }: Lump): this {
    const points: Vec3[] = [
      [1, 0, 0],
      [-1, 0, 0],
      [0, 1, 0],
      [0, -1, 0],
      [0, 0, 1],
      [0, 0, -1],
    ];
    let faces = [
      [0, 2, 4],
      [4, 2, 1],
      [1, 2, 5],
      [5, 2, 0],
      [4, 3, 0],
      [1, 3, 4],
      [5, 3, 1],
      [0, 3, 5],
    ];
    if (cuts === 1) {
      const between = new Map<string, number>();
      const mid = (a: number, b: number): number => {
        const key = a < b ? `${a},${b}` : `${b},${a}`;
        const known = between.get(key);
        if (known !== undefined) return known;
        points.push(normalize([points[a][0] + points[b][0], points[a][1] + points[b][1], points[a][2] + points[b][2]]));
        between.set(key, points.length - 1);
        return points.length - 1;
      };
      faces = faces.flatMap(([a, b, c]) => {
        const [ab, bc, ca] = [mid(a, b), mid(b, c), mid(c, a)];
        return [
          [a, ab, ca],
          [ab, b, bc],
          [ca, bc, c],
          [ab, bc, ca],
        ];
      });
    }
    const placed = points.map((p, i): Vec3 => {
      const k = 1 + (hashUnit(seed, i) - 0.5) * 2 * rough;
      return [centre[0] + p[0] * radius[0] * k, centre[1] + p[1] * radius[1] * k, centre[2] + p[2] * radius[2] * k];
    });
    // Vertices are shared: the card, and a software renderer even more, works on each once.
    const first = this.p.length / 3;
    points.forEach((d, i) => {
      const shade = below + (1 - below) * (d[1] * 0.5 + 0.5) + (hashUnit(seed, i, 7) - 0.5) * 0.12;
      this.vertex(
        placed[i],
        normalize([d[0] / radius[0], d[1] / radius[1], d[2] / radius[2]]),
        [colour[0] * shade, colour[1] * shade, colour[2] * shade],
        tint,
      );
    });
    for (const face of faces) for (const i of face) this.i.push(first + i);
    return this;
  }

  /** A stem of `sides` sides from one point to another, thinner at its end, open below. */
  stem(from: Vec3, to: Vec3, [r0, r1]: readonly [number, number], sides: readonly Vec3[], { colour, dark }: { colour: Colour; dark: Colour }): this {
    const ring = (at: Vec3, r: number) => sides.map((s): Vec3 => [at[0] + s[0] * r, at[1] + s[1] * r, at[2] + s[2] * r]);
    const a = ring(from, r0);
    const b = ring(to, r1);
    for (let i = 0; i < sides.length; i++) {
      const j = (i + 1) % sides.length;
      this.face([a[j], a[i], b[i], b[j]], i % 3 === 1 ? dark : colour);
    }
    return this;
  }

  done(material: string): Primitive {
    return {
      positions: Float32Array.from(this.p),
      normals: Float32Array.from(this.n),
      colours: Float32Array.from(this.c),
      indices: Uint32Array.from(this.i),
      material,
      alphaTested: false,
    };
  }

  /** A fan of triangles about a middle, coloured by vertex: a silhouette. */
  fan(middle: Vec3, rim: readonly Vec3[], colourOf: (p: Vec3) => Colour, tint: number): this {
    const first = this.p.length / 3;
    const normal = normalize(cross(sub(rim[0], middle), sub(rim[1], middle)));
    for (const q of [middle, ...rim]) this.vertex(q, normal, colourOf(q), tint);
    for (let i = 0; i < rim.length; i++) this.i.push(first, first + 1 + i, first + 1 + ((i + 1) % rim.length));
    return this;
  }

  private vertex(p: Vec3, n: Vec3, c: Colour, tint: number): void {
    // No minus zero: it would not come back from a file that another program wrote again.
    this.p.push(p[0] + 0, p[1] + 0, p[2] + 0);
    this.n.push(n[0] + 0, n[1] + 0, n[2] + 0);
    // Colours are given as they look; glTF wants them linear. A square is near enough, and exact everywhere.
    this.c.push(c[0] * c[0], c[1] * c[1], c[2] * c[2], tint);
  }
}
