import type { Block } from '../level/objects';
import { placer, toOwn } from '../num/pose';
import { cross, dot, normalize, sub, type Vec3 } from '../num/vec';

/**
 * A block as a convex solid in the level: corner points and faces (corner indices, counter-clockwise
 * seen from outside). A box has 8 corners and 6 faces; a ramp 6 corners and 5 faces, rising along +x.
 */
export interface Solid {
  corners: Vec3[];
  faces: { name: string; corners: number[] }[];
}

const BOX_FACES = [
  { name: 'bottom', corners: [0, 1, 2, 3] },
  { name: 'top', corners: [4, 7, 6, 5] },
  { name: 'north', corners: [0, 4, 5, 1] },
  { name: 'east', corners: [1, 5, 6, 2] },
  { name: 'south', corners: [2, 6, 7, 3] },
  { name: 'west', corners: [3, 7, 4, 0] },
];

const RAMP_FACES = [
  { name: 'bottom', corners: [0, 1, 2, 3] },
  { name: 'top', corners: [0, 3, 5, 4] },
  { name: 'east', corners: [1, 4, 5, 2] },
  { name: 'north', corners: [0, 4, 1] },
  { name: 'south', corners: [3, 2, 5] },
];

type Place = Pick<Block, 'at' | 'turn' | 'tilt'>;

/**
 * A point of a block's own axes (x and z from its centre, y from its base, metres) in the level.
 *
 * @example
 * const top = blockToLevel(block, 0, block.size[1], 0);
 */
export const blockToLevel = ({ at, turn, tilt }: Place, x: number, y: number, z: number): Vec3 => placer({ at, turn, tilt })(x, y, z);

/** A point of the level in the block's own axes: x, z from its centre, y from its base. */
export const levelToBlock = (block: Place, p: Vec3): Vec3 => toOwn(block, p);

/**
 * The convex solid of a box or ramp where it stands: corners in metres, faces with their outward normals. Other shapes have the
 * box of their size.
 *
 * @example
 * const { corners, faces } = blockSolid(block);
 * const [first] = faces.map((face) => face.corners.map((i) => corners[i]));
 */
export function blockSolid(block: Pick<Block, 'shape' | 'size'> & Place): Solid {
  const [l, h, w] = block.size;
  const p = placer({ at: block.at, turn: block.turn, tilt: block.tilt });
  const base = [p(-l / 2, 0, -w / 2), p(l / 2, 0, -w / 2), p(l / 2, 0, w / 2), p(-l / 2, 0, w / 2)];
  if (block.shape === 'ramp') return { corners: [...base, p(l / 2, h, -w / 2), p(l / 2, h, w / 2)], faces: RAMP_FACES };
  return { corners: [...base, p(-l / 2, h, -w / 2), p(l / 2, h, -w / 2), p(l / 2, h, w / 2), p(-l / 2, h, w / 2)], faces: BOX_FACES };
}

/** Outward unit normal of a face. */
export function faceNormal(solid: Solid, face: { corners: number[] }): Vec3 {
  const [a, b, c] = face.corners.map((i) => solid.corners[i]);
  return normalize(cross(sub(b, a), sub(c, a)));
}

export interface Bounds {
  min: Vec3;
  max: Vec3;
}

/** Whether two boxes share more than a face. */
export const boundsMeet = (a: Bounds, b: Bounds): boolean =>
  a.min[0] < b.max[0] && a.max[0] > b.min[0] && a.min[1] < b.max[1] && a.max[1] > b.min[1] && a.min[2] < b.max[2] && a.max[2] > b.min[2];

/** The box around points, metres; of none, from Infinity to -Infinity. */
export function boundsOf(points: readonly Vec3[]): Bounds {
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (const p of points) {
    for (let k = 0; k < 3; k++) {
      if (p[k] < min[k]) min[k] = p[k];
      if (p[k] > max[k]) max[k] = p[k];
    }
  }
  return { min, max };
}

/**
 * The box around a block where it stands, metres.
 *
 * @example
 * const { min, max } = blockBounds(block);
 * const height = max[1] - min[1];
 */
export const blockBounds = (block: Block): Bounds => boundsOf(blockSolid(block).corners);

/** Volume of a block, m3: a ramp is half its box. */
export const blockVolume = (block: Pick<Block, 'shape' | 'size'>): number => block.size[0] * block.size[1] * block.size[2] * (block.shape === 'ramp' ? 0.5 : 1);

/** Triangles of a plain block as it is drawn. */
export const blockTriangles = (block: Pick<Block, 'shape'>): number => (block.shape === 'ramp' ? 8 : 12);

/** Fan triangulation of the faces, as corner indices. */
export function solidTriangles(solid: Solid): number[] {
  const out: number[] = [];
  for (const { corners } of solid.faces) {
    for (let i = 2; i < corners.length; i++) out.push(corners[0], corners[i - 1], corners[i]);
  }
  return out;
}

/**
 * Where a ray enters a convex solid.
 *
 * @param direction unit length
 * @returns distance along the ray and the face, or `undefined`; a ray that starts inside has no hit
 */
export function raySolid(solid: Solid, origin: Vec3, direction: Vec3): { distance: number; face: number; normal: Vec3 } | undefined {
  let enter = -Infinity;
  let leave = Infinity;
  let face = -1;
  let normal: Vec3 = [0, 1, 0];
  for (let f = 0; f < solid.faces.length; f++) {
    const n = faceNormal(solid, solid.faces[f]);
    const side = dot(n, sub(solid.corners[solid.faces[f].corners[0]], origin));
    const rate = dot(n, direction);
    if (Math.abs(rate) < 1e-12) {
      if (side < 0) return undefined;
      continue;
    }
    const t = side / rate;
    if (rate < 0) {
      if (t > enter) {
        enter = t;
        face = f;
        normal = n;
      }
    } else if (t < leave) leave = t;
  }
  if (face < 0 || enter > leave || enter < 0) return undefined;
  return { distance: enter, face, normal };
}

/** What a convex solid takes up over (x, z), and its upper face there; or `undefined` outside it in plan. */
export function solidSpanAt(block: Block, x: number, z: number): { bottom: number; top: number; face: string } | undefined {
  if (block.tilt) return tiltedSpanAt(block, x, z);
  const [lx, , lz] = levelToBlock(block, [x, 0, z]);
  const [l, h, w] = block.size;
  if (Math.abs(lx) > l / 2 || Math.abs(lz) > w / 2) return undefined;
  const top = block.shape === 'ramp' ? (h * (lx + l / 2)) / l : h;
  return { bottom: block.at[1], top: block.at[1] + top, face: 'top' };
}

/** An upright line held against every face. */
function tiltedSpanAt(block: Block, x: number, z: number): { bottom: number; top: number; face: string } | undefined {
  const solid = blockSolid(block);
  let [bottom, top, face] = [-Infinity, Infinity, 'top'];
  for (const f of solid.faces) {
    const n = faceNormal(solid, f);
    const p = solid.corners[f.corners[0]];
    const side = n[0] * (x - p[0]) + n[2] * (z - p[2]);
    if (Math.abs(n[1]) < 1e-9) {
      if (side > 0) return undefined;
      continue;
    }
    const y = p[1] - side / n[1];
    if (n[1] < 0) bottom = Math.max(bottom, y);
    else if (y < top) [top, face] = [y, f.name];
  }
  return bottom <= top ? { bottom, top, face } : undefined;
}

/** Upward normal of a face of a block by its name. */
export function namedNormal(block: Block, name: string): Vec3 {
  const solid = blockSolid(block);
  return faceNormal(
    solid,
    solid.faces.find((f) => f.name === name)!,
  );
}
