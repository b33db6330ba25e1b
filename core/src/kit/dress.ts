import { dressedAt, type Dressed, type Dressing, type Surface } from '../level/lay/dressed';
import { hashUnit } from '../num/hash';
import { sinCosDeg } from '../num/trig';
import { cross, dot, normalize, type Vec3 } from '../num/vec';

/** What a ray meets: within `far` metres along a direction of unit length; nothing where there is nothing. */
export type Cast = (origin: Vec3, direction: Vec3, far: number) => Surface | undefined;

/** Candidates a dab has for each place there is room for: more fill the last gaps and cost time. */
const TRIES = 4;
/** The most candidates of one dab. */
const MOST_TRIES = 400;

/** Places that are kept apart, by cells as wide as they are to be apart. */
export class Apart {
  private readonly cells = new Map<number, Vec3[]>();
  constructor(private readonly spacing: number) {}

  // Cells of a level 2 km a side and as high fit a double without two sharing a key, at spacings from 5 cm on.
  private key(x: number, y: number, z: number): number {
    return (Math.floor(x / this.spacing) * 65_536 + Math.floor(y / this.spacing)) * 65_536 + Math.floor(z / this.spacing);
  }

  put(p: Vec3): void {
    const key = this.key(p[0], p[1], p[2]);
    const list = this.cells.get(key);
    if (list) list.push(p);
    else this.cells.set(key, [p]);
  }

  /** Whether nothing is nearer to a place than the spacing. */
  free([x, y, z]: Vec3): boolean {
    const r = this.spacing;
    const least = r * r * (1 - 1e-9);
    for (let i = -1; i <= 1; i++)
      for (let j = -1; j <= 1; j++)
        for (let k = -1; k <= 1; k++)
          for (const p of this.cells.get(this.key(x + i * r, y + j * r, z + k * r)) ?? []) {
            const [dx, dy, dz] = [p[0] - x, p[1] - y, p[2] - z];
            if (dx * dx + dy * dy + dz * dz < least) return false;
          }
    return true;
  }
}

/** Two directions across a normal, square to it and to each other. */
function across(n: Vec3): [Vec3, Vec3] {
  const u = normalize(Math.abs(n[1]) < 0.9 ? cross([0, 1, 0], n) : cross([1, 0, 0], n));
  return [u, cross(n, u)];
}

/**
 * One dab of a brush of pieces: candidates over the disc, each cast onto what is under it, kept where nothing is too near.
 *
 * @param dab where the brush is, and the way out of what it is on
 * @param index of the dab in its stroke, and of the stroke: what is drawn is fixed by seed, stroke and dab
 * @param apart what stands already; what is set is put into it
 * @param cast finds what is under a candidate: along the way into what the brush is on, from a radius before it
 */
export function dressDab(
  dressing: Dressing,
  dab: Surface & { radius: number },
  [stroke, index]: readonly [number, number],
  apart: Apart,
  cast: Cast,
): Dressed[] {
  const { spacing, seed } = dressing;
  const { at, normal, radius } = dab;
  const total = dressing.list.reduce((sum, l) => sum + l.weight, 0);
  if (total <= 0) return [];
  const [u, v] = across(normal);
  const room = Math.max(1, (radius * radius * 3.7) / (spacing * spacing));
  const tries = Math.min(MOST_TRIES, Math.ceil(room * TRIES));
  const base = (stroke * 8191 + index) * MOST_TRIES;
  const into: Vec3 = [-normal[0], -normal[1], -normal[2]];
  const out: Dressed[] = [];
  for (let i = 0; i < tries; i++) {
    const draw = (what: number): number => hashUnit(seed, base + i, what);
    const [s, c] = sinCosDeg(draw(0) * 360);
    const r = Math.sqrt(draw(1)) * radius;
    const off = [0, 1, 2].map((k) => at[k] + (u[k] * c + v[k] * s) * r) as Vec3;
    // Most that are too near are too near in the plane of the brush already: no ray is cast for them.
    if (!apart.free(off) && flatEnough(off, apart, normal, spacing)) continue;
    const hit = cast([off[0] + normal[0] * radius, off[1] + normal[1] * radius, off[2] + normal[2] * radius], into, radius * 2);
    if (!hit || !apart.free(hit.at)) continue;
    apart.put(hit.at);
    out.push(dressedAt(dressing, hit, draw));
  }
  return out;
}

/** Whether what is near a candidate is so near that no height under it would make room. */
function flatEnough(p: Vec3, apart: Apart, normal: Vec3, spacing: number): boolean {
  const by = spacing * 0.5;
  return (
    !apart.free([p[0] + normal[0] * by, p[1] + normal[1] * by, p[2] + normal[2] * by]) &&
    !apart.free([p[0] - normal[0] * by, p[1] - normal[1] * by, p[2] - normal[2] * by])
  );
}

/** Places along a stroke that a brush dabs at: every third of its radius, the first one first. */
export function dabsBetween(from: Vec3, to: Vec3, radius: number): number {
  const by = [to[0] - from[0], to[1] - from[1], to[2] - from[2]] as Vec3;
  return Math.floor(Math.sqrt(dot(by, by)) / (radius / 3));
}
