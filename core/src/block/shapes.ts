import { liningOf, tallOf, wideOf } from '../level/drawn';
import { DEFAULT_BATTER, DEFAULT_STEPS, DEFAULT_WALL, type Block } from '../level/objects';
import type { Mesh } from '../num/mesh';
import { mitres, signedArea, type Point2 } from '../num/outline';
import { sinCosDeg, tanDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';

/** Sides of what is round. */
export const SIDES = 24;

/**
 * A block's shape as a closed mesh in its own axes: x and z from the middle of its base, y from the base,
 * metres. Corners are shared, so that every edge has exactly two triangles, run through in opposite
 * directions, counter-clockwise seen from outside.
 *
 * - box; ramp, rising along +x; wedge, rising from both sides (z) to a ridge along x
 * - stair: `steps` steps rising along +x, solid below; terraces the same with faces that lean back by `batter`
 * - cylinder, cone, ring: on an ellipse of length and width, `SIDES` sides; a ring has a wall `wall` thick
 * - arch: an opening along z with upright jambs `wall` thick and a round head
 * - wall: `tall` and `wide` along its line, mitred; slab: its outline, `tall` thick
 * - tunnel: along its line, as a void a bore `tall` and `wide` with a round head, as a solid its lining, open below
 */
export function shapeMesh(block: BlockShape): Mesh {
  const { shape, size, steps = DEFAULT_STEPS, wall = DEFAULT_WALL, batter = DEFAULT_BATTER } = block;
  const [l, h, w] = size;
  switch (shape) {
    case 'box':
      return alongZ(
        [
          [-l / 2, 0],
          [l / 2, 0],
          [l / 2, h],
          [-l / 2, h],
        ],
        w,
      );
    case 'ramp':
      return alongZ(
        [
          [-l / 2, 0],
          [l / 2, 0],
          [l / 2, h],
        ],
        w,
      );
    case 'wedge':
      return alongX(
        [
          [-w / 2, 0],
          [w / 2, 0],
          [0, h],
        ],
        l,
      );
    case 'stair':
      return alongZ(stairOutline(l, h, steps, 0), w);
    case 'terraces':
      return alongZ(stairOutline(l, h, steps, (h / steps) * tanDeg(batter)), w);
    case 'arch':
      return alongZ(archOutline(l, h, wall), w);
    case 'cylinder':
      return lathe(
        [
          [1, 0, 1],
          [1, h, 1],
        ],
        l,
        w,
      );
    case 'cone':
      return lathe(
        [
          [1, 0, 1],
          [0, h, 0],
        ],
        l,
        w,
      );
    case 'ring': {
      const [il, iw] = [(l - 2 * wall) / l, (w - 2 * wall) / w];
      return lathe(
        [
          [1, 0, 1],
          [1, h, 1],
          [il, h, iw],
          [il, 0, iw],
        ],
        l,
        w,
        true,
      );
    }
    case 'wall': {
      const half = wideOf(block) / 2;
      return alongLine(
        [
          [-half, 0],
          [half, 0],
          [half, tallOf(block)],
          [-half, tallOf(block)],
        ],
        block.line!,
        block.closed === true,
      );
    }
    case 'slab':
      return upright(block.line!, tallOf(block));
    case 'tunnel': {
      const [tall, wide, lining] = [tallOf(block), wideOf(block), liningOf(block)];
      return alongLine(block.op === 'void' ? boreOutline(wide, tall) : archOutline(wide + 2 * lining, tall + lining, lining), block.line!, false);
    }
  }
}

/** What of a block its shape follows from. */
export type BlockShape = Pick<Block, 'shape' | 'size' | 'steps' | 'wall' | 'batter' | 'line' | 'closed' | 'tall' | 'wide' | 'op'>;

/** Whether a shape is convex and known without the kernel: see block/solid. */
export const isPlain = ({ shape }: Pick<Block, 'shape'>): boolean => shape === 'box' || shape === 'ramp';

type Outline = Point2[];

/** @param lean how far each riser leans back over its height, metres */
function stairOutline(l: number, h: number, steps: number, lean: number): Outline {
  const foot = (i: number) => -l / 2 + (l * i) / steps;
  const out: Outline = [
    [-l / 2, 0],
    [l / 2, 0],
    [l / 2, h],
    [foot(steps - 1) + lean, h],
  ];
  for (let i = steps - 1; i >= 1; i--) out.push([foot(i), (h * i) / steps], [foot(i - 1) + lean, (h * i) / steps]);
  return out;
}

/** Upright sides and a round head, lower where there is no room for half a circle. */
function boreOutline(wide: number, tall: number): Outline {
  const half = wide / 2;
  const rise = Math.min(half, tall * 0.8);
  const out: Outline = [
    [-half, 0],
    [half, 0],
  ];
  for (let i = 0; i <= SIDES / 2; i++) {
    const [s, c] = sinCosDeg((i * 360) / SIDES);
    out.push([c * half, tall - rise + s * rise]);
  }
  return out;
}

/** Rise of the round head over its springing, metres: half the opening, less where the arch is low. */
export const archRise = (l: number, h: number, wall: number): number => Math.min((l - 2 * wall) / 2, h - wall);

function archOutline(l: number, h: number, wall: number): Outline {
  const half = l / 2 - wall;
  const rise = archRise(l, h, wall);
  const spring = h - wall - rise;
  const out: Outline = [
    [half, 0],
    [l / 2, 0],
    [l / 2, h],
    [-l / 2, h],
    [-l / 2, 0],
    [-half, 0],
  ];
  const head: Outline = [];
  for (let i = 0; i <= SIDES / 2; i++) {
    const [s, c] = sinCosDeg(180 - (i * 360) / SIDES);
    // A head without jambs starts at the floor itself, which is a corner already.
    if (spring < 1e-6 && (i === 0 || i === SIDES / 2)) continue;
    head.push([c * half, spring + s * rise]);
  }
  return [...out, ...head];
}

/** A prism of an outline in x and y (counter-clockwise) along z, `depth` metres. */
function alongZ(outline: Outline, depth: number): Mesh {
  const n = outline.length;
  const positions = new Float32Array(n * 6);
  outline.forEach(([x, y], i) => {
    positions.set([x, y, depth / 2], i * 3);
    positions.set([x, y, -depth / 2], (n + i) * 3);
  });
  const caps = triangulate(outline);
  const indices: number[] = [...caps];
  for (let i = 0; i < caps.length; i += 3) indices.push(n + caps[i], n + caps[i + 2], n + caps[i + 1]);
  for (let i = 0; i < n; i++) {
    const j = (i + 1) % n;
    indices.push(i, n + i, n + j, i, n + j, j);
  }
  return { positions, indices: Uint32Array.from(indices) };
}

/** A prism of a profile across a line (to its left, up; counter-clockwise seen from the line's end), mitred at its corners. */
function alongLine(profile: Outline, line: readonly Vec3[], closed: boolean): Mesh {
  const n = profile.length;
  const m = mitres(
    line.map(([x, , z]): Point2 => [x, z]),
    closed,
  );
  const positions = new Float32Array(line.length * n * 3);
  line.forEach(([x, y, z], k) => profile.forEach(([u, v], i) => positions.set([x + m[k][0] * u, y + v, z + m[k][1] * u], (k * n + i) * 3)));
  const indices: number[] = [];
  const joints = closed ? line.length : line.length - 1;
  for (let k = 0; k < joints; k++) {
    const [a, b] = [k * n, ((k + 1) % line.length) * n];
    for (let i = 0; i < n; i++) {
      const j = (i + 1) % n;
      indices.push(b + i, a + i, a + j, b + i, a + j, b + j);
    }
  }
  if (!closed) {
    const caps = triangulate(profile);
    const end = (line.length - 1) * n;
    for (let i = 0; i < caps.length; i += 3) indices.push(end + caps[i], end + caps[i + 1], end + caps[i + 2], caps[i], caps[i + 2], caps[i + 1]);
  }
  return { positions, indices: Uint32Array.from(indices) };
}

/** An outline in plan, `tall` metres high from its base, whichever way round it was drawn. */
function upright(line: readonly Vec3[], tall: number): Mesh {
  const flat = line.map(([x, , z]): Point2 => [x, -z]);
  if (signedArea(flat) < 0) flat.reverse();
  const mesh = alongZ(flat, tall);
  // (x, y, z) to (x, z, -y): a quarter turn about X keeps the triangles' sense.
  for (let i = 0; i < mesh.positions.length; i += 3)
    [mesh.positions[i + 1], mesh.positions[i + 2]] = [mesh.positions[i + 2] + tall / 2, -mesh.positions[i + 1]];
  return mesh;
}

/** A prism of an outline in z and y along x. */
function alongX(outline: Outline, depth: number): Mesh {
  const { positions, indices } = alongZ(outline, depth);
  // (x, y, z) to (z, y, -x): a quarter turn about Y keeps the triangles' sense.
  for (let i = 0; i < positions.length; i += 3) [positions[i], positions[i + 2]] = [positions[i + 2], -positions[i]];
  return { positions, indices };
}

/** Rings of points [share of length, height, share of width] joined in order; the first and last are closed by fans, or joined to each other. */
function lathe(profile: readonly [number, number, number][], l: number, w: number, loop = false): Mesh {
  const positions: number[] = [];
  const indices: number[] = [];
  const rings = profile.map(([a, y, b]) => {
    const first = positions.length / 3;
    const count = a === 0 ? 1 : SIDES;
    for (let i = 0; i < count; i++) {
      const [s, c] = sinCosDeg((i * 360) / SIDES);
      positions.push((c * a * l) / 2, y, (s * b * w) / 2);
    }
    return { first, count };
  });
  const at = (ring: { first: number; count: number }, i: number) => ring.first + (ring.count === 1 ? 0 : i % SIDES);
  const join = (a: (typeof rings)[0], b: (typeof rings)[0]) => {
    for (let i = 0; i < SIDES; i++) {
      indices.push(at(a, i), at(b, i), at(a, i + 1));
      if (b.count > 1) indices.push(at(a, i + 1), at(b, i), at(b, i + 1));
    }
  };
  for (let r = 1; r < rings.length; r++) join(rings[r - 1], rings[r]);
  if (loop) join(rings[rings.length - 1], rings[0]);
  else {
    for (const [ring, up] of [
      [rings[0], false],
      [rings[rings.length - 1], true],
    ] as const) {
      if (ring.count === 1) continue;
      for (let i = 2; i < SIDES; i++)
        indices.push(...(up ? [ring.first, ring.first + i, ring.first + i - 1] : [ring.first, ring.first + i - 1, ring.first + i]));
    }
  }
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) };
}

/** Triangles of a simple outline, counter-clockwise, by cutting ears. */
function triangulate(outline: Outline): number[] {
  const left = outline.map((_, i) => i);
  const out: number[] = [];
  const turn = (a: number, b: number, c: number) =>
    (outline[b][0] - outline[a][0]) * (outline[c][1] - outline[a][1]) - (outline[b][1] - outline[a][1]) * (outline[c][0] - outline[a][0]);
  while (left.length > 3) {
    const ear = left.findIndex((b, i) => {
      const a = left[(i + left.length - 1) % left.length];
      const c = left[(i + 1) % left.length];
      if (turn(a, b, c) <= 1e-12) return false;
      return left.every((p) => p === a || p === b || p === c || turn(a, b, p) < -1e-12 || turn(b, c, p) < -1e-12 || turn(c, a, p) < -1e-12);
    });
    // A simple outline always has an ear; a corner on a straight edge is dropped as a flat one.
    const i = ear < 0 ? left.findIndex((b, k) => Math.abs(turn(left[(k + left.length - 1) % left.length], b, left[(k + 1) % left.length])) <= 1e-12) : ear;
    if (i < 0) break;
    out.push(left[(i + left.length - 1) % left.length], left[i], left[(i + 1) % left.length]);
    left.splice(i, 1);
  }
  out.push(left[0], left[1], left[2]);
  return out;
}
