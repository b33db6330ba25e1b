import FlatQueue from 'flatqueue';
import { ledgeVerdict, ledgeWord } from '../body/checks';
import { gapVerdict } from '../body/jump';
import { OPEN } from '../earth/compose';
import { slopeDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import type { StandSet } from './linked';
import { CEILING, FLOOR, isBarred, binAt, type SolidsNear } from './solidsNear';
import { floorsAt, HAIR, makeProbe, roomAt, terrainAt, type Feeler } from './standing';
import { stepTo } from './stride';
import { standAt, standsAt, type StandAt, type WalkArea } from './walkArea';

/** Why a way ends: in words, where, and the figures behind it. */
export interface Stop {
  code: 'no-entry' | 'no-objective' | 'entry-off' | 'objective-off' | 'slope' | 'ledge' | 'drop' | 'gap' | 'opening' | 'headroom' | 'water' | 'cut-off';
  message: string;
  at?: Vec3;
  /** the object that stops the body, where it is one */
  object?: string;
}

/** A stop, and how much there is to mend, in metres of a detour one would take instead. */
interface Found {
  stop: Stop;
  much: number;
  /** ids of the solids it is between or under */ about?: (string | undefined)[];
}

/** Ground that nobody stands on counts as this many times its length: the way that would be open crosses little of it. */
const CLOSED = 6;
/** Places looked at more closely at most, and the least there is to mend at any, metres. */
const PLACES = 900;
const LEAST = 2;
/** What a way counts for whose end is not seen. */
const UNKNOWN = 10_000;
/** How far a body is followed from where its ground ends, metres, and looks on the way. */
const FOLLOWED = 12;
const LOOK = 0.04;
/** Ground that falls away steeper than this is an edge, rise over run: 60 degrees. */
const CLIFF = 1.7320508075688772;

/**
 * What stops a body on its way to a place it does not reach: on the way that would be open without it, and of
 * all such stops the one with the least to mend.
 *
 * @param start a stand it gets to
 * @returns the stop, and the stand before it
 */
export function findStop(area: WalkArea, sides: Sides, start: number, objective: Vec3): { stop: Stop; to: number } {
  const { linked } = sides;
  const { grid } = area.cut;
  // Squares of about a metre are enough to find where to look; each is asked for what stands in it.
  const side = Math.max(1, grid.spacing);
  const [w, d] = [Math.ceil(grid.width / side), Math.ceil(grid.depth / side)];
  const cost = new Float64Array(w * d).fill(Infinity);
  const next = new Int32Array(w * d).fill(-1);
  const done = new Uint8Array(w * d);
  const queue = new FlatQueue<number>();
  const square = (x: number, z: number) => Math.min(d - 1, Math.max(0, Math.floor(z / side))) * w + Math.min(w - 1, Math.max(0, Math.floor(x / side)));
  const goal = square(objective[0], objective[2]);
  cost[goal] = 0;
  queue.push(goal, 0);
  const found: { found: Found; to: number; far: number }[] = [];
  let best = Infinity;
  const look = (id: number, way: readonly Vec3[], far: number) => {
    const one = follow(area, sides, id, way, objective);
    best = Math.min(best, far + one.found.much);
    found.push({ ...one, far });
  };
  while (queue.length > 0 && found.length < PLACES) {
    const far = queue.peekValue()!;
    const at = queue.pop()!;
    if (done[at]) continue;
    // What is farther than that is more to mend, whatever it is.
    if (far + LEAST > best) break;
    done[at] = 1;
    const [x, z] = [at % w, Math.floor(at / w)];
    const inside = standsIn(area, linked, x * side, z * side, side);
    if (inside.linked.length > 0) {
      // From places in it side by side along the way: an opening may be narrower than the square.
      const on = next[at] < 0 ? [0, 1] : [(next[at] % w) - x, Math.floor(next[at] / w) - z];
      const abreast = new Set<number>();
      for (const from of inside.linked) {
        const beside = Math.round((((from.x - x * side) * on[1] - (from.z - z * side) * on[0]) * 3) / side);
        if (abreast.has(beside)) continue;
        abreast.add(beside);
        const [ox, oz] = [from.x - (x + 0.5) * side, from.z - (z + 0.5) * side];
        const way: Vec3[] = [];
        for (let s = next[at]; s >= 0 && way.length < FOLLOWED / side; s = next[s])
          way.push([((s % w) + 0.5) * side + ox, 0, (Math.floor(s / w) + 0.5) * side + oz]);
        if (way.length < FOLLOWED / side) way.push(objective);
        look(from.id, way, far);
        // Straight through whatever stands there as well: at a slant, or along a wall, an opening is not found.
        for (const [sx, sz] of on[0] !== 0 && on[1] !== 0
          ? [
              [on[0], 0],
              [0, on[1]],
            ]
          : [on])
          look(
            from.id,
            [1, 2, 3].map((n): Vec3 => [(x + n * sx + 0.5) * side + ox, 0, (z + n * sz + 0.5) * side + oz]),
            far,
          );
      }
      continue;
    }
    for (let oz = -1; oz <= 1; oz++) {
      for (let ox = -1; ox <= 1; ox++) {
        const [a, b] = [x + ox, z + oz];
        if (a < 0 || b < 0 || a >= w || b >= d) continue;
        const other = b * w + a;
        const by = far + side * Math.sqrt(ox * ox + oz * oz) * (inside.any ? 1 : CLOSED);
        if (by >= cost[other]) continue;
        cost[other] = by;
        next[other] = at;
        queue.push(other, by);
      }
    }
  }
  const least = found.find((f) => f.far + f.found.much === best);
  if (least) return { stop: least.found.stop, to: least.to };
  const at = placeOf(area, start);
  return { stop: { code: 'cut-off', message: 'nothing leads on from the entry', at }, to: start };
}

const _ids: number[] = [];

/** Linked stands at nine places of a square, and whether a body could stand there at all. */
function standsIn(area: WalkArea, linked: StandSet, x: number, z: number, side: number): { linked: { id: number; x: number; z: number }[]; any: boolean } {
  let any = false;
  const out: { id: number; x: number; z: number }[] = [];
  for (let k = 0; k < 9; k++) {
    const [px, pz] = [x + ((k % 3) + 0.5) * (side / 3), z + (Math.floor(k / 3) + 0.5) * (side / 3)];
    const n = standsAt(area, px, pz, _ids);
    for (let i = 0; i < n; i++) {
      any = true;
      if (linked.has(_ids[i]) && out[out.length - 1]?.id !== _ids[i]) out.push({ id: _ids[i], x: px, z: pz });
    }
  }
  return { linked: out, any };
}

function placeOf(area: WalkArea, id: number): Vec3 {
  const { x, z, h } = standAt(area, id, { x: 0, z: 0, h: 0 });
  return [x, h, z];
}

/**
 * Walks a body from a stand along a way to ground from which the objective is reached, over all that stops it.
 * What it could walk round does not stop it: where the next ground on the way is linked, it goes on from there.
 *
 * @returns of what stopped it the most to mend, with the sum of all
 */
function follow(area: WalkArea, { linked, beyond }: Sides, from: number, way: readonly Vec3[], objective: Vec3): { found: Found; to: number } {
  const {
    limits,
    cut: { grid },
  } = area;
  const probe = makeProbe();
  const here: StandAt = standAt(area, from, { x: 0, z: 0, h: 0 });
  const points = closely(here, way);
  let [x, z, h] = [here.x, here.z, here.h];
  let to = from;
  let worst: Found | undefined;
  let much = 0;
  const stopped = (found: Found) => {
    much += found.much;
    if (!worst || found.much > worst.much) worst = found;
  };
  for (let i = 0; i < points.length; i++) {
    const { x: nx, z: nz } = points[i];
    if (nx < limits.radius || nz < limits.radius || nx > grid.width - limits.radius || nz > grid.depth - limits.radius) {
      stopped({ stop: { code: 'cut-off', message: 'the way ends at the edge of the level', at: [x, h, z] }, much: 500 });
      break;
    }
    const next = stepTo({ near: area.near(nx, nz), limits, probe }, nx, nz, h);
    if (next === next) [x, z, h] = [nx, nz, next];
    else {
      const on = groundAhead(area, linked, points, i, h);
      if (!on?.linked) stopped(worstOf(area, [x, h, z], points, i, on?.at ?? points.length));
      if (!on) break;
      i = on.at;
      standAt(area, on.id, here);
      [x, z, h] = [here.x, here.z, here.h];
    }
    const n = standsAt(area, x, z, _ids);
    for (let k = 0; k < n; k++) {
      if (linked.has(_ids[k])) to = _ids[k];
      else if (worst && beyond.has(_ids[k])) return { found: { stop: worst.stop, much }, to };
    }
  }
  // That it leads on from there is not known.
  if (worst) return { found: { stop: worst.stop, much: much + UNKNOWN }, to };
  const short = Math.sqrt((objective[0] - x) ** 2 + (objective[1] - h) ** 2 + (objective[2] - z) ** 2);
  return { found: { stop: { code: 'cut-off', message: `the way ends ${short.toFixed(1)} m short of the objective`, at: [x, h, z] }, much: 1000 }, to };
}

/** Stands a body gets to, and those from which the objective is reached. */
export interface Sides {
  linked: StandSet;
  beyond: StandSet;
}

interface Look {
  x: number;
  z: number;
  dx: number;
  dz: number;
}

/** A way as places a look apart, with its direction at each. */
function closely(from: StandAt, way: readonly Vec3[]): Look[] {
  const out: Look[] = [];
  let [x, z] = [from.x, from.z];
  for (const [tx, , tz] of way) {
    const [dx, dz] = [tx - x, tz - z];
    const n = Math.ceil(Math.sqrt(dx * dx + dz * dz) / LOOK);
    for (let k = 1; k <= n; k++) out.push({ x: x + (dx * k) / n, z: z + (dz * k) / n, dx, dz });
    [x, z] = [tx, tz];
  }
  return out;
}

/**
 * The next stand on a way from a place on, about as high as that: what lies over a wall or across a gap, not its
 * top and not its bottom. And whether the body gets to it some other way; linked ones first.
 */
function groundAhead(
  area: WalkArea,
  linked: StandSet,
  points: readonly Look[],
  from: number,
  h: number,
): { at: number; id: number; linked: boolean } | undefined {
  const most = Math.max(area.limits.step, area.body.jumpApex);
  const at: StandAt = { x: 0, z: 0, h: 0 };
  for (let i = from + 1; i < points.length; i++) {
    const n = standsAt(area, points[i].x, points[i].z, _ids);
    let open = -1;
    for (let k = 0; k < n; k++) {
      if (Math.abs(standAt(area, _ids[k], at).h - h) > most) continue;
      if (linked.has(_ids[k])) return { at: i, id: _ids[k], linked: true };
      if (open < 0) open = _ids[k];
    }
    if (open >= 0) return { at: i, id: open, linked: false };
  }
  return undefined;
}

/** Looks between two of those at what stands on the way to the next ground, and how many of them. */
const APART = 5;
const MOST = 16;

/** What stops a body where its ground ends: of all that stands on the way to the next ground what is most to mend, for the rest would not open it. */
function worstOf(area: WalkArea, at: Vec3, points: readonly Look[], from: number, to: number): Found {
  let worst: Found | undefined;
  for (let i = from; i <= to && i < points.length && i < from + APART * MOST; i += APART) {
    const found = whatStops(area, at, points[i]);
    // A drop or a gap is told once, from its edge; ground farther up is what the slope before it leads to.
    if (i > from && (found.much === Infinity || ['drop', 'gap'].includes(found.stop.code) || (found.stop.code === 'ledge' && found.stop.object === undefined)))
      continue;
    // Behind the front of an opening its sides are met again, and are no more to mend.
    if (found.stop.object !== undefined && worst?.about?.includes(found.stop.object)) continue;
    if (!worst || found.much > worst.much) worst = found;
    if (worst.stop.code === 'drop' || worst.stop.code === 'gap') break;
  }
  return worst!;
}

const m = (v: number): string => v.toFixed(2);

/** What a body meets that stands at a place and cannot go on to the next one, a few centimetres on. */
function whatStops(area: WalkArea, at: Vec3, look: Look): Found {
  const { x, z, dx, dz } = look;
  const near = area.near(x, z);
  const {
    body,
    limits,
    on: { terrain },
  } = area;
  const probe = makeProbe();
  const h = at[1];
  const ground = terrainAt(terrain, x, z);
  const n = floorsAt(near, limits, x, z, probe);
  let floor = NaN;
  let tan = 0;
  let above = NaN;
  let host = -1;
  for (let i = 0; i < n; i++) {
    const y = probe.floors[i];
    if (y > h + limits.step) [above, host] = [y, probe.hosts[i]];
    else {
      if (y >= h - limits.step) [floor, tan] = [y, probe.tans[i]];
      break;
    }
  }
  if (floor === floor) return inTheWay(area, near, at, look, { floor, tan });
  const l = Math.sqrt(dx * dx + dz * dz) || 1;
  const down = terrainAt(terrain, x + dx / l, z + dz / l).y < h - limits.step;
  const wall = inTheWay(area, near, at, look, { floor: Math.max(h, Math.min(ground.y, h + limits.step)), tan: 0 });
  if (wall.much < Infinity && wall.stop.object !== undefined) return wall;
  // In the middle of something wide its sides are far: its top is over the body.
  if (above === above && host >= 0) return { stop: ledge(area, near.solids[host], above - h, at), much: 4 + 10 * (above - h - body.step) };
  if (ground.tan > limits.grade && (!down || ground.tan < CLIFF) && Math.abs(ground.y - h) < limits.step + 0.5 && !(above <= ground.y))
    return tooSteep(area, ground.tan, [x, ground.y, z]);
  if (isBarred(terrain, x, z, ground.y, true) && ground.y <= h + limits.step && ground.y > h - Math.max(2, 2 * limits.step))
    return tooDeep(area, x, z, ground.y);
  if (wall.much < Infinity && !(above === above)) return wall;
  if (above === above) {
    const rise = above - h;
    return { stop: ledge(area, host < 0 ? undefined : near.solids[host], rise, at), much: 4 + 10 * (rise - body.step) };
  }
  return dropOrGap(area, at, look);
}

function ledge({ body }: WalkArea, solid: { id: string; name: string } | undefined, rise: number, at: Vec3): Stop {
  return {
    code: 'ledge',
    message: `${solid?.name ?? 'the ground'}: a ${m(rise)} m ${ledgeWord(ledgeVerdict(body, rise))} (step ${m(body.step)} m)`,
    at,
    object: solid?.id,
  };
}

function tooSteep({ body }: WalkArea, tan: number, at: Vec3): Found {
  const slope = slopeDeg(tan);
  // Whole degrees where they tell it from the limit.
  const figure = Math.round(slope) > body.maxSlope ? slope.toFixed(0) : slope.toFixed(1);
  return { stop: { code: 'slope', message: `ground too steep: ${figure} degrees (limit ${body.maxSlope})`, at }, much: 8 + (slope - body.maxSlope) };
}

function tooDeep({ body, on: { terrain } }: WalkArea, x: number, z: number, y: number): Found {
  const { grid } = terrain;
  const least = terrain.barred![Math.round(z / grid.spacing) * grid.nx + Math.round(x / grid.spacing)];
  const depth = (least === OPEN ? y : least) + body.wade - y;
  return {
    stop: { code: 'water', message: `water ${m(depth)} m deep (wades ${m(body.wade)} m)`, at: [x, y, z] },
    much: 8 + 10 * Math.max(0, depth - body.wade),
  };
}

/** What stands beside a floor a body could step on to, or hangs over it. */
function inTheWay(area: WalkArea, near: SolidsNear, at: Vec3, look: Look, { floor, tan }: { floor: number; tan: number }): Found {
  const { x, z } = look;
  const { body, limits } = area;
  const probe = makeProbe();
  const room = roomAt({ near, limits, probe }, x, z, floor, tan);
  if (room >= limits.side - HAIR) return { stop: { code: 'cut-off', message: 'the way ends here', at }, much: Infinity };
  const i = probe.near;
  const of = near.of[i];
  const solid = of < 0 ? undefined : near.solids[of];
  const span = spanNear(near, of, x, z, limits.side);
  const clearance = (near.kind[i] === CEILING || near.kind[i] === FLOOR ? near.bounds[i * 6 + 1] : span.low) - floor;
  if (of >= 0 && clearance > limits.step)
    return {
      stop: {
        code: 'headroom',
        message: `${solid?.name ?? 'the ground'}: ${m(clearance)} m of headroom, ${m(body.height)} m needed`,
        at: [x, floor, z],
        object: solid?.id,
      },
      much: 2 + 20 * (body.height - clearance),
      about: [solid?.id],
    };
  const across = openingAhead(near, area, look, floor);
  if (across) {
    const sides = [...new Set([across.of, across.other].map((s) => near.solids[s]?.name ?? 'the ground'))];
    const need = 2 * body.radius + 0.1;
    return {
      stop: {
        code: 'opening',
        message: `${sides.join(' and ')}: an opening ${m(across.width)} m wide, ${m(need)} m needed`,
        at: [x, floor, z],
        object: solid?.id,
      },
      much: 2 + 20 * (need - across.width),
      about: [across.of, across.other].map((s) => near.solids[s]?.id),
    };
  }
  if (of < 0) return tooSteep(area, near.tan[i], [probe.nearX, floor, probe.nearZ]);
  const rise = span.high - at[1];
  return { stop: ledge(area, solid, rise, at), much: 4 + 10 * (rise - body.step) };
}

/** Lowest and highest point of a solid's triangles near a place. */
function spanNear(near: SolidsNear, of: number, x: number, z: number, within: number): { low: number; high: number } {
  let [low, high] = [Infinity, -Infinity];
  const { start, list } = near.about;
  const b = binAt(near.rect, near.about, x, z);
  for (let e = start[b]; e < start[b + 1]; e++) {
    const i = list[e];
    const o = i * 6;
    if (
      near.of[i] !== of ||
      near.bounds[o] > x + within ||
      near.bounds[o + 3] < x - within ||
      near.bounds[o + 2] > z + within ||
      near.bounds[o + 5] < z - within
    )
      continue;
    low = Math.min(low, near.bounds[o + 1]);
    high = Math.max(high, near.bounds[o + 4]);
  }
  return { low, high };
}

/**
 * Width of the opening a line leads through, and the solids on both sides of it: on along the line as long as
 * its middle is free, to where what is nearest stands beside it and something else over against that.
 */
function openingAhead(near: SolidsNear, { limits }: WalkArea, { x, z, dx, dz }: Look, floor: number): { width: number; of: number; other: number } | undefined {
  const probe = makeProbe();
  const feeler: Feeler = { near, limits, probe };
  const l = Math.sqrt(dx * dx + dz * dz) || 1;
  let best: { width: number; of: number; other: number } | undefined;
  for (let s = 0; s < 2 * limits.side; s += 0.02) {
    const [px, pz] = [x + (dx / l) * s, z + (dz / l) * s];
    const room = roomAt(feeler, px, pz, floor, 0);
    if (room < 0.01 || room >= limits.side) return best;
    const [ux, uz] = [(px - probe.nearX) / room, (pz - probe.nearZ) / room];
    if (Math.abs(ux * dx + uz * dz) > 0.2 * l) continue;
    const of = near.of[probe.near];
    // Away from it until something else is nearest: there the middle of the opening is passed.
    for (let t = 0.01; room + t < 2 * limits.side; t += 0.01) {
      const here = roomAt(feeler, px + ux * t, pz + uz * t, floor, 0);
      const facing = (px + ux * t - probe.nearX) * ux + (pz + uz * t - probe.nearZ) * uz;
      if (facing >= -0.9 * here) continue;
      if (!best || room + t + here < best.width) best = { width: room + t + here, of, other: near.of[probe.near] };
      break;
    }
  }
  return best;
}

/** A drop; where ground as high follows within a jump's length, a gap with its verdict. */
function dropOrGap(area: WalkArea, edge: Vec3, { x, z, dx, dz }: Look): Found {
  const {
    body,
    limits,
    on: { terrain },
    cut: { grid },
  } = area;
  const probe = makeProbe();
  const l = Math.sqrt(dx * dx + dz * dz) || 1;
  let below = edge[1] - terrainAt(terrain, x, z).y;
  const under = area.near(x, z);
  const k = floorsAt(under, limits, x, z, probe);
  for (let i = 0; i < k; i++)
    if (probe.floors[i] < edge[1]) {
      below = edge[1] - probe.floors[i];
      break;
    }
  for (let w = 0.1; w <= 12; w += 0.05) {
    const [px, pz] = [edge[0] + (dx / l) * w, edge[2] + (dz / l) * w];
    if (px < 0 || pz < 0 || px > grid.width || pz > grid.depth) break;
    const n = floorsAt(area.near(px, pz), limits, px, pz, probe);
    for (let i = 0; i < n; i++) {
      const up = probe.floors[i] - edge[1];
      if (up > body.jumpApex || up <= -limits.step) continue;
      return {
        stop: { code: 'gap', message: `a gap ${w.toFixed(1)} m wide (${gapVerdict(body, w, up)} to jump, landing ${up.toFixed(1)} m up)`, at: edge },
        much: 6 + 4 * w,
      };
    }
  }
  return { stop: { code: 'drop', message: `a drop of ${below.toFixed(1)} m (step ${m(body.step)} m)`, at: edge }, much: 8 + 10 * below };
}
