import FlatQueue from 'flatqueue';
import type { Vec3 } from '../num/vec';
import { DX, DZ, PLAIN } from './bakeTile';
import { makeProbe, terrainAt } from './standing';
import { standAt, standsAt, stepsFrom, type StandAt, type WalkArea } from './walkArea';

/** How far back a leg may reach, in terrain samples and in metres: then its direction is free to a thirtieth. */
const LEG_SAMPLES = 32;
const LEG_LEAST = 8;

/**
 * The shortest way over a walk area from some stands to any of others, measured along the ground.
 *
 * A* whose legs may run straight over many cells: a stand is joined to the last turn of the stand before it
 * where the line between is walked, as "Lazy Theta*" (Nash, Koenig and Tovey, 2010) does, with the length over
 * hills in place of the distance.
 *
 * @param shunned square metres, as `squareOf` has them, whose ground counts for a little more: for another way
 * @returns stands at the turns, both ends among them, and how many stands were looked at; `undefined` where
 *   there is no way
 */
export function findWay(
  area: WalkArea,
  from: readonly number[],
  to: readonly number[],
  shunned?: ReadonlySet<number>,
): { turns: number[]; looked: number } | undefined {
  const total = area.base[area.base.length - 1];
  // Costs are kept with one added, so that zero says that none is known yet.
  const cost = new Float64Array(total);
  const parent = new Int32Array(total);
  const done = new Uint8Array(total);
  const goals = new Set(to);
  const ends = to.map((id) => ({ ...standAt(area, id, { x: 0, z: 0, h: 0 }) }));
  const queue = new FlatQueue<number>();
  const near = overPatches(area, [...from, ...to]);
  const longest = Math.max(LEG_LEAST, LEG_SAMPLES * area.cut.grid.spacing);
  const [a, b, c]: StandAt[] = [
    { x: 0, z: 0, h: 0 },
    { x: 0, z: 0, h: 0 },
    { x: 0, z: 0, h: 0 },
  ];
  const left = (s: StandAt): number => {
    let least = Infinity;
    for (const e of ends) least = Math.min(least, apart(s, e));
    return least;
  };
  for (const id of from) {
    cost[id] = 1;
    parent[id] = id;
    queue.push(id, left(standAt(area, id, a)));
  }
  let looked = 0;
  const steps: number[] = [];
  const back: number[] = [];
  while (queue.length > 0) {
    const priority = queue.peekValue()!;
    const id = queue.pop()!;
    if (done[id] === 2) continue;
    const p = parent[id];
    standAt(area, id, a);
    if (done[id] === 0) {
      done[id] = 1;
      standAt(area, p, b);
      // Its cost was taken for that of a straight line in the air: now the ground is looked at.
      const more = shunned?.has(squareOf(a.x, a.z)) ? SHUNNED : 1;
      const over = p === id ? 0 : lineOver(area, p, id);
      let least = over === undefined ? Infinity : cost[p] + over * more;
      let best = p;
      if (p !== id && (over === undefined || over > apart(a, b) + 1e-6)) {
        const n = near(id, back);
        for (let i = 0; i < n; i++) {
          if (done[back[i]] !== 2) continue;
          const by = cost[back[i]] + apart(standAt(area, back[i], c), a) * more;
          if (by < least) [least, best] = [by, back[i]];
        }
      }
      if (best !== p || least > cost[id] + 1e-9) {
        cost[id] = least;
        parent[id] = best;
        queue.push(id, least - 1 + left(a));
        if (least - 1 + left(a) > priority + 1e-9) continue;
      }
    }
    done[id] = 2;
    looked++;
    if (goals.has(id)) return { turns: turnsTo(parent, id), looked };
    const root = parent[id];
    standAt(area, root, b);
    const n = near(id, steps);
    for (let i = 0; i < n; i++) {
      const next = steps[i];
      if (done[next] === 2) continue;
      standAt(area, next, c);
      const straight = Math.abs(c.x - b.x) <= longest && Math.abs(c.z - b.z) <= longest;
      const turn = straight ? root : id;
      const by = cost[turn] + apart(straight ? b : a, c) * (shunned?.has(squareOf(c.x, c.z)) ? SHUNNED : 1);
      if (cost[next] !== 0 && by >= cost[next] - 1e-9) continue;
      cost[next] = by;
      parent[next] = turn;
      done[next] = 0;
      queue.push(next, by - 1 + left(c));
    }
  }
  return undefined;
}

/** Side of a patch of open ground that is crossed as a whole, metres, and quads at least. */
const PATCH = 2;
const PATCH_QUADS = 2;

/**
 * Steps of a search from stand to stand: over open ground from the middle of one patch to that of the next,
 * where a patch is nothing but plain quads; from stand to stand elsewhere.
 *
 * @param kept stands that are ends: they keep their own steps
 */
function overPatches(area: WalkArea, kept: readonly number[]): (id: number, out: number[]) => number {
  const {
    quads,
    cut: { grid },
    base,
  } = area;
  const width = grid.nx - 1;
  const side = Math.max(PATCH_QUADS, Math.round(PATCH / grid.spacing));
  const [across, down] = [Math.floor(width / side), Math.floor((grid.nz - 1) / side)];
  const whole = new Uint8Array(across * down).fill(1);
  for (let z = 0; z < down * side; z++)
    for (let x = 0; x < across * side; x++) if (quads[z * width + x] !== PLAIN) whole[Math.floor(z / side) * across + Math.floor(x / side)] = 0;
  const patchOf = (id: number): number => {
    if (id >= base[0]) return -1;
    const z = Math.floor(Math.floor(id / width) / side);
    const x = Math.floor((id % width) / side);
    return x < across && z < down && whole[z * across + x] ? z * across + x : -1;
  };
  for (const id of kept) if (patchOf(id) >= 0) whole[patchOf(id)] = 0;
  const middle = (patch: number): number => (Math.floor(patch / across) * side + (side >> 1)) * width + (patch % across) * side + (side >> 1);
  const steps: number[] = [];
  return (id, out) => {
    out.length = 0;
    const patch = patchOf(id);
    if (patch < 0) {
      const n = stepsFrom(area, id, steps);
      for (let i = 0; i < n; i++) {
        const other = patchOf(steps[i]);
        out.push(other < 0 ? steps[i] : middle(other));
      }
      return out.length;
    }
    const [px, pz] = [patch % across, Math.floor(patch / across)];
    for (let d = 0; d < 8; d++) {
      const [x, z] = [px + DX[d], pz + DZ[d]];
      if (x >= 0 && z >= 0 && x < across && z < down && whole[z * across + x]) {
        out.push(middle(z * across + x));
        continue;
      }
      // Next to ground that is no patch: on to its own stands, from each quad along that side.
      const [x0, x1] = DX[d] > 0 ? [side - 1, side - 1] : DX[d] < 0 ? [0, 0] : [0, side - 1];
      const [z0, z1] = DZ[d] > 0 ? [side - 1, side - 1] : DZ[d] < 0 ? [0, 0] : [0, side - 1];
      for (let qz = z0; qz <= z1; qz++) {
        for (let qx = x0; qx <= x1; qx++) {
          const n = stepsFrom(area, (pz * side + qz) * width + px * side + qx, steps);
          for (let i = 0; i < n; i++) if (patchOf(steps[i]) < 0) out.push(steps[i]);
        }
      }
    }
    return out.length;
  };
}

/** What shunned ground counts for: as much as a search may be off among many corners, which it takes wider than they are. */
const SHUNNED = 1.03;
/** Number of the square metre a place lies in. */
export const squareOf = (x: number, z: number): number => Math.floor(z) * 65_536 + Math.floor(x);

const apart = (a: StandAt, b: StandAt): number => Math.sqrt((a.x - b.x) * (a.x - b.x) + (a.z - b.z) * (a.z - b.z) + (a.h - b.h) * (a.h - b.h));

function turnsTo(parent: Int32Array, id: number): number[] {
  const out = [id];
  while (parent[id] !== id) out.push((id = parent[id]));
  return out.reverse();
}

const _cells: number[] = [];
const _steps: number[] = [];
const _probe = makeProbe();
const [_from, _to, _at]: StandAt[] = [
  { x: 0, z: 0, h: 0 },
  { x: 0, z: 0, h: 0 },
  { x: 0, z: 0, h: 0 },
];

/**
 * Length over the ground from one stand straight to another, where each cell on the line can be stepped on to
 * from the one before it; `undefined` where not.
 */
function lineOver(area: WalkArea, from: number, to: number): number | undefined {
  const {
    cut: { grid, cell },
    quads,
    on,
  } = area;
  const { x, z, h } = standAt(area, from, _from);
  const end = standAt(area, to, _to);
  const [dx, dz] = [end.x - x, end.z - z];
  const flat = Math.sqrt(dx * dx + dz * dz);
  let current = from;
  let lastH = h;
  let length = 0;
  let t = 0;
  let last = 0;
  let wasPlain = false;
  while (t < 1) {
    const [px, pz] = [x + dx * t, z + dz * t];
    const qx = Math.min(grid.nx - 2, Math.max(0, Math.floor(px / grid.spacing)));
    const qz = Math.min(grid.nz - 2, Math.max(0, Math.floor(pz / grid.spacing)));
    const plain = quads[qz * (grid.nx - 1) + qx] === PLAIN;
    let id = -1;
    if (plain) id = qz * (grid.nx - 1) + qx;
    else {
      const n = standsAt(area, px, pz, _cells);
      for (let i = 0; i < n; i++) if (_cells[i] === current) id = current;
      if (id < 0) {
        const m = stepsFrom(area, current, _steps);
        for (let i = 0; i < n && id < 0; i++)
          for (let k = 0; k < m; k++)
            if (_steps[k] === _cells[i]) {
              id = _cells[i];
              break;
            }
      }
      if (id < 0) return undefined;
    }
    if (id !== current) {
      // Plain quads next to each other are always linked.
      if (plain && !(wasPlain && Math.abs(qx - (current % (grid.nx - 1))) <= 1 && Math.abs(qz - Math.floor(current / (grid.nx - 1))) <= 1)) {
        const m = stepsFrom(area, current, _steps);
        let found = false;
        for (let k = 0; k < m; k++)
          if (_steps[k] === id) {
            found = true;
            break;
          }
        if (!found) return undefined;
      }
      current = id;
    }
    wasPlain = plain;
    const y = plain ? terrainAt(on.terrain, px, pz).y : standAt(area, current, _at).h;
    if (t > 0) length += Math.sqrt(((t - last) * flat) ** 2 + (y - lastH) ** 2);
    lastH = y;
    last = t;
    t += ((plain ? grid.spacing : cell) * 0.5) / Math.max(flat, 1e-9);
  }
  if (current !== to) {
    const m = stepsFrom(area, current, _steps);
    let found = false;
    for (let k = 0; k < m; k++) if (_steps[k] === to) found = true;
    if (!found) return undefined;
  }
  return length + Math.sqrt(((1 - last) * flat) ** 2 + (end.h - lastH) ** 2);
}

/** A point of a way: where, and how high the feet are. */
export type WayPoint = Vec3;

/** How often a way is drawn tighter. */
const ROUNDS = 10;
/** Points of the ground along a way are this far apart at most, metres; or half a sample. */
const POINTS = 0.25;

/**
 * Draws a way tight: turns that are not needed go, the others move as near to the straight line as there is
 * room, as long as it gets shorter over the ground.
 *
 * @param points turns of a way that can be walked, with the heights of the feet
 * @returns points along the ground, and the length over them
 */
export function drawTight(area: WalkArea, points: readonly Vec3[]): { path: Vec3[]; length: number } {
  let way: Turn[] = points.map((at) => ({ at }));
  // A leg that cannot be walked straight (it slid along a wall) stays as it is.
  const legTo = (from: Vec3, to: Vec3) => legOver(area, from, to);
  for (let i = 1; i < way.length; i++) way[i].leg = legTo(way[i - 1].at, way[i].at) ?? { points: [way[i].at], length: distance3(way[i - 1].at, way[i].at) };
  for (let round = 0; round < ROUNDS; round++) {
    let better = false;
    if (round > 0) way = rounded(way, legTo);
    const next = [way[0]];
    for (let i = 1; i < way.length; i++) {
      const before = next[next.length - 1];
      const here = way[i];
      const after = way[i + 1];
      if (!after) {
        next.push(here);
        continue;
      }
      const now = here.leg!.length + after.leg!.length;
      const straight = legTo(before.at, after.at);
      if (straight && straight.length <= now + 1e-6) {
        way[i + 1] = { at: after.at, leg: straight };
        better = true;
        continue;
      }
      let moved = here;
      for (let share = 0.5; share > 0.05; share /= 2) {
        const to = between(before.at, here.at, after.at, share);
        const first = legTo(before.at, to);
        if (!first) continue;
        const at = first.points[first.points.length - 1];
        const second = legTo(at, after.at);
        if (!second || first.length + second.length > now - 1e-4) continue;
        moved = { at, leg: first };
        way[i + 1] = { at: after.at, leg: second };
        better = true;
        break;
      }
      next.push(moved);
    }
    way = next;
    if (!better) break;
  }
  const path: Vec3[] = [way[0].at];
  let length = 0;
  for (const { leg } of way.slice(1)) {
    path.push(...leg!.points);
    length += leg!.length;
  }
  return { path, length };
}

interface Leg {
  points: Vec3[];
  length: number;
}
/** A turn, and the leg that leads to it. */
interface Turn {
  at: Vec3;
  leg?: Leg;
}

/** A turn sharper than this (cosine of 12 degrees) is rounded: a point more on both sides of it, this far off, metres. */
const SHARP = 0.978;
const BESIDE = 0.3;

/** The way with points beside its sharp turns, which can then be drawn about a corner. */
function rounded(way: readonly Turn[], legTo: (from: Vec3, to: Vec3) => Leg | undefined): Turn[] {
  const out: Turn[] = [way[0]];
  for (let i = 1; i < way.length; i++) {
    const [before, here, after] = [out[out.length - 1].at, way[i], way[i + 1]?.at];
    const sharp = after !== undefined && turnsBy(before, here.at, after) < SHARP;
    const first = sharp ? along(here.at, before) : undefined;
    const second = sharp ? along(here.at, after) : undefined;
    const [a, b] = [first && legTo(before, first), first && legTo(first, here.at)];
    if (a && b) out.push({ at: first!, leg: a }, { at: here.at, leg: b });
    else out.push(here);
    const [c, d] = [second && legTo(here.at, second), second && legTo(second, after!)];
    if (c && d) {
      out.push({ at: second!, leg: c });
      (way as Turn[])[i + 1] = { at: after!, leg: d };
    }
  }
  return out;
}

function turnsBy(a: Vec3, p: Vec3, b: Vec3): number {
  const [ux, uz, vx, vz] = [p[0] - a[0], p[2] - a[2], b[0] - p[0], b[2] - p[2]];
  const l = Math.sqrt((ux * ux + uz * uz) * (vx * vx + vz * vz));
  return l === 0 ? 1 : (ux * vx + uz * vz) / l;
}

/** A point a little way from one place towards another, where that is far enough. */
function along(from: Vec3, to: Vec3): Vec3 | undefined {
  const far = Math.sqrt((to[0] - from[0]) ** 2 + (to[2] - from[2]) ** 2);
  const t = BESIDE / far;
  return t > 0.7 ? undefined : [from[0] + (to[0] - from[0]) * t, from[1] + (to[1] - from[1]) * t, from[2] + (to[2] - from[2]) * t];
}

/** A turn moved by a share of the way to the straight line past it. */
function between(a: Vec3, p: Vec3, b: Vec3, share: number): Vec3 {
  const [dx, dz] = [b[0] - a[0], b[2] - a[2]];
  const l = dx * dx + dz * dz;
  const t = l === 0 ? 0 : Math.min(1, Math.max(0, ((p[0] - a[0]) * dx + (p[2] - a[2]) * dz) / l));
  return [p[0] + (a[0] + dx * t - p[0]) * share, p[1], p[2] + (a[2] + dz * t - p[2]) * share];
}

const distance3 = (a: Vec3, b: Vec3): number => Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2);

/** A straight walk over the ground, looked at as closely as a link is; `undefined` where the body does not get there at that height. */
function legOver(area: WalkArea, from: Vec3, to: Vec3): Leg | undefined {
  const [dx, dz] = [to[0] - from[0], to[2] - from[2]];
  const flat = Math.sqrt(dx * dx + dz * dz);
  const apartAt = Math.max(POINTS, area.cut.grid.spacing / 2);
  const points: Vec3[] = [];
  let length = 0;
  let last = from;
  let h = from[1];
  const pieces = Math.max(1, Math.ceil(flat / apartAt));
  for (let i = 1; i <= pieces; i++) {
    const [x, z] = [from[0] + (dx * i) / pieces, from[2] + (dz * i) / pieces];
    h = area.walk({ x: last[0], z: last[2], h }, { x, z }, _probe);
    if (h !== h) return undefined;
    const at: Vec3 = [x, h, z];
    length += distance3(last, at);
    points.push(at);
    last = at;
  }
  return Math.abs(h - to[1]) <= area.limits.step ? { points, length } : undefined;
}
