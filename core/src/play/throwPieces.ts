import type Rapier from '@dimforge/rapier3d-compat';
import { blockGrid, CELL } from '../block/grid';
import { meshGrid } from '../block/placedMesh';
import { hashUnit } from '../num/hash';
import type { Mesh } from '../num/mesh';
import { placer, poseAxes, rotationOf, splitRotation, type Pose, type Quaternion } from '../num/pose';
import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { cellColliders, type Stopping } from './cellColliders';
import type { WalkedOn } from './walker';
import { dressedAt, type Dressed, type Dressing, type Surface } from '../level/lay/dressed';

/** Seconds a step. */
export const THROW_STEP = 1 / 120;
/** The most that is thrown at once: more fall slower than one can watch. */
export const MOST_THROWN = 300;
/** They come in no farther about the place than this, metres. */
export const THROWN_RADIUS = 20;
/** What rests lies no deeper in anything than this, metres. */
export const DEEPEST_REST = 0.005;
/** Of what is thrown, while it has nowhere to come in: so long it is waited for, seconds. */
const PATIENCE = 2.5;
/** Seconds between one and the next. */
const APART = 0.12;
/** Slower than this is at rest, once for so long: metres and radians a second, seconds. */
const CALM = { speed: 0.03, spin: 0.06, time: 0.35 };
/** Seconds after the last came in: from when on movement is braked, and when it ends whatever still rolls. */
const BRAKE = [1.5, 3, 6] as const;
/** Heights to come in at, as shares of the one asked for: lower under a ceiling, higher over a heap. */
const OVER = [1, 1, 0.6, 0.3, 0.05, 1.5, 2, 2.5, 3, 4];
/** How far over a thing's colliders the world is made around it, metres. */
const ROUND = 4;
const GRAVITY = 9.81;

/** Something that is thrown: where it comes in, and its shapes in its own axes, each taken as its convex hull. */
export interface Thrown extends Pose {
  shapes: readonly Mesh[];
  /** where it is thrown to, and other places over it to come in where the first one is taken; none for what lies there already */
  to?: Vec3;
  or?: readonly Vec3[];
}

interface Body {
  body: Rapier.RigidBody;
  colliders: Rapier.Collider[];
  scale: Pose['scale'];
}

/** Corners of shapes at a size. */
function sized(shape: Mesh, [sx, sy, sz]: Vec3): Float32Array {
  const out = new Float32Array(shape.positions.length);
  for (let i = 0; i < out.length; i += 3) {
    out[i] = shape.positions[i] * sx;
    out[i + 1] = shape.positions[i + 1] * sy;
    out[i + 2] = shape.positions[i + 2] * sz;
  }
  return out;
}

/** The box about shapes as they are turned: its middle from the pivot, half its sides, and how far it reaches up and down from its middle. */
function boxOf(shapes: readonly Mesh[], { turn, tilt, scale = [1, 1, 1] }: Omit<Pose, 'at'>): { centre: Vec3; half: Vec3; up: number } {
  const low: Vec3 = [Infinity, Infinity, Infinity];
  const high: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (const { positions } of shapes)
    for (let i = 0; i < positions.length; i++) {
      low[i % 3] = Math.min(low[i % 3], positions[i]);
      high[i % 3] = Math.max(high[i % 3], positions[i]);
    }
  const half = scale.map((s, k) => ((high[k] - low[k]) / 2) * s) as Vec3;
  const centre = placer({ at: [0, 0, 0], turn, ...(tilt ? { tilt } : {}), scale })((low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2);
  const up = poseAxes({ turn, ...(tilt ? { tilt } : {}) }).reduce((sum, axis, k) => sum + Math.abs(axis[1]) * half[k], 0);
  return { centre, half, up };
}

/**
 * Pieces that fall on what stops a body, and on each other, until they rest. The same throw ends the same on every machine:
 * the solver is one WebAssembly module.
 */
export class Falling {
  private readonly world: Rapier.World;
  private readonly cells = new Set<string>();
  private readonly bodies: (Body | undefined)[];
  private readonly on: Stopping;
  private next = 0;
  private waited = 0;
  private calm = 0;
  private last = 0;
  private overtime = 0;
  /** places in the list of those that fell over the edge of the level, or had no room to come in */
  readonly lost = new Set<number>();
  readonly full = new Set<number>();
  /** seconds so far */
  time = 0;

  /** @param rapier the module, initialised */
  constructor(
    private readonly rapier: typeof Rapier,
    { terrain, blocks, meshes = [] }: WalkedOn,
    private readonly list: readonly Thrown[],
  ) {
    this.world = new rapier.World({ x: 0, y: -GRAVITY, z: 0 });
    this.world.timestep = THROW_STEP;
    this.world.numSolverIterations = 12;
    this.on = { terrain, blocks: blockGrid(blocks), meshes: meshGrid(meshes) };
    this.bodies = list.map(() => undefined);
    // What lies there is there from the start.
    while (this.next < list.length && !list[this.next].to) this.enter(this.next++, list[this.next - 1].at);
  }

  /** How many have come in and are in the level. */
  get count(): number {
    return this.bodies.reduce((n, b) => n + (b ? 1 : 0), 0);
  }

  /** One step of the clock. @returns whether anything still moves */
  step(): boolean {
    if (this.next < this.list.length) this.admit();
    for (const b of this.bodies) if (b) this.around(b.body.translation());
    this.world.step();
    this.time += THROW_STEP;
    let moves = this.next < this.list.length;
    const since = moves ? 0 : this.time - this.last;
    const brake = since > BRAKE[1] ? 12 : since > BRAKE[0] ? 2 : 0;
    this.bodies.forEach((b, i) => {
      if (!b) return;
      const { x, y, z } = b.body.translation();
      const { terrain } = this.on;
      if (x < 0 || z < 0 || x > terrain.grid.width || z > terrain.grid.depth || y < this.floor) {
        this.leave(i);
        this.lost.add(i);
        return;
      }
      const [v, w] = [b.body.linvel(), b.body.angvel()];
      if (v.x * v.x + v.y * v.y + v.z * v.z > CALM.speed ** 2 || w.x * w.x + w.y * w.y + w.z * w.z > CALM.spin ** 2) moves = true;
      if (brake > 0 && b.body.linearDamping() !== brake) {
        b.body.setLinearDamping(brake);
        b.body.setAngularDamping(brake * 2);
      }
    });
    this.calm = moves ? 0 : this.calm + THROW_STEP;
    if (this.next < this.list.length) return true;
    if (since > BRAKE[2]) return false;
    if (this.calm < CALM.time) return true;
    // Something heavy may have pressed into what it lies on: it is given time to be pushed out again.
    if (this.overtime < 3 && this.deepest() > DEEPEST_REST * 0.8) {
      this.overtime += THROW_STEP;
      return true;
    }
    return false;
  }

  /** Where one is now; nothing before it comes in, and of what fell over the edge. @param i place in the list */
  poseOf(i: number): Pose | undefined {
    const b = this.bodies[i];
    if (!b) return undefined;
    const [p, r] = [b.body.translation(), b.body.rotation()];
    const fine = (v: number) => Math.round(v * 1e4) / 1e4 + 0;
    return { at: [fine(p.x), fine(p.y), fine(p.z)], ...splitRotation([r.x, r.y, r.z, r.w] as Quaternion), ...(b.scale ? { scale: b.scale } : {}) };
  }

  /** How deep one lies in another, or in what it stands on, at most, metres. */
  deepest(): number {
    let most = 0;
    for (const b of this.bodies)
      for (const own of b?.colliders ?? [])
        this.world.contactPairsWith(own, (other) => {
          this.world.contactPair(own, other, (manifold) => {
            for (let i = 0; i < manifold.numContacts(); i++) most = Math.max(most, -manifold.contactDist(i));
          });
        });
    return most;
  }

  /** Frees what the solver holds. */
  dispose(): void {
    this.world.free();
  }

  /** Under this nothing is ever met again, metres. */
  private get floor(): number {
    return this.lowest ?? (this.lowest = this.on.terrain.heights.reduce((low, h) => Math.min(low, h), 0) - 20);
  }
  private lowest?: number;

  /** Lets the next one in where there is room; what waits too long stays out. */
  private admit(): void {
    if (this.time < this.last + (this.next > 0 ? APART : 0)) return;
    const of = this.list[this.next];
    for (const at of [of.at, ...(of.or ?? [])]) this.around({ x: at[0], y: at[1], z: at[2] });
    const at = [of.at, ...(of.or ?? [])].find((p) => this.free(of, p));
    if (at) {
      this.enter(this.next++, at);
      this.last = this.time;
      this.waited = 0;
    } else if ((this.waited += THROW_STEP) > PATIENCE) {
      // Nothing came out of the way: there is no room for those that follow either.
      for (; this.next < this.list.length; this.next++) this.full.add(this.next);
    }
  }

  private free({ shapes, to, ...pose }: Thrown, at: Vec3): boolean {
    const { centre, half } = boxOf(shapes, pose);
    const [x, y, z, w] = rotationOf(pose);
    const middle: Vec3 = [at[0] + centre[0], at[1] + centre[1], at[2] + centre[2]];
    const room = new this.rapier.Cuboid(half[0] + 0.01, half[1] + 0.01, half[2] + 0.01);
    return this.seen(to ?? at, middle) && this.world.intersectionWithShape({ x: middle[0], y: middle[1], z: middle[2] }, { x, y, z, w }, room) === null;
  }

  /** Whether nothing that stands lies between where something is thrown to and a place over it: a ceiling, a wall. */
  private seen([x, y, z]: Vec3, at: Vec3): boolean {
    const ray = new this.rapier.Ray({ x, y: y + 0.05, z }, { x: at[0] - x, y: at[1] - y - 0.05, z: at[2] - z });
    return this.world.castRay(ray, 1, true, this.rapier.QueryFilterFlags.EXCLUDE_DYNAMIC) === null;
  }

  private enter(i: number, at: Vec3): void {
    const { shapes, scale, ...pose } = this.list[i];
    const [x, y, z, w] = rotationOf(pose);
    const desc = this.rapier.RigidBodyDesc.dynamic().setTranslation(at[0], at[1], at[2]).setRotation({ x, y, z, w }).setCcdEnabled(true);
    const body = this.world.createRigidBody(desc.setAngularDamping(0.2));
    const colliders = shapes.flatMap((shape) => {
      const hull = this.rapier.ColliderDesc.convexHull(sized(shape, scale ?? [1, 1, 1]));
      return hull ? [this.world.createCollider(hull.setFriction(0.7).setRestitution(0.05), body)] : [];
    });
    this.bodies[i] = { body, colliders, scale };
    this.around({ x: at[0], y: at[1], z: at[2] });
  }

  private leave(i: number): void {
    this.world.removeRigidBody(this.bodies[i]!.body);
    this.bodies[i] = undefined;
  }

  /** Makes what stops a body around a place. */
  private around({ x, z }: { x: number; y: number; z: number }): void {
    const { grid } = this.on.terrain;
    let made = false;
    for (let cx = Math.floor((x - ROUND) / CELL); cx <= Math.floor((x + ROUND) / CELL); cx++)
      for (let cz = Math.floor((z - ROUND) / CELL); cz <= Math.floor((z + ROUND) / CELL); cz++) {
        const key = `${cx},${cz}`;
        if (this.cells.has(key) || cx < 0 || cz < 0 || cx * CELL >= grid.width || cz * CELL >= grid.depth) continue;
        this.cells.add(key);
        cellColliders(this.rapier, this.world, this.on, cx, cz);
        made = true;
      }
    // New colliders are met by what is asked of the world only after a step.
    if (made && this.next < this.list.length && this.count === 0) this.world.step();
  }
}

/** How a list is thrown. */
export interface Throwing {
  count: number;
  /** metres over the place, and about it */
  height: number;
  radius: number;
  /** degrees that each is tipped by at most as it comes in */
  tumble: number;
}

/**
 * What a throw lets fall at a place: drawn from the list as a brush draws, each with places where it may come in.
 *
 * @param which throw it is: what is drawn is fixed by seed and throw
 * @param shapesOf shapes of an asset in its own axes
 */
export function thrownAt(
  dressing: Dressing,
  { count, height, radius, tumble }: Throwing,
  place: Surface,
  which: number,
  shapesOf: (asset: string) => readonly Mesh[],
): (Thrown & Pick<Dressed, 'asset'>)[] {
  const upright: Dressing = { ...dressing, lean: 0, tilt: tumble, sink: [0, 0] };
  return Array.from({ length: Math.min(count, MOST_THROWN) }, (_, i) => {
    const base = which * 4093 + i;
    const draw = (what: number): number => hashUnit(dressing.seed, base, what);
    const { asset, turn, tilt, scale } = dressedAt(upright, place, draw);
    const shapes = shapesOf(asset);
    const pose = { turn, ...(tilt ? { tilt } : {}), ...(scale ? { scale } : {}) };
    const { centre, up } = boxOf(shapes, pose);
    const places = OVER.map((share, k): Vec3 => {
      const [s, c] = sinCosDeg(draw(20 + k) * 360);
      const r = Math.sqrt(draw(40 + k)) * Math.min(radius, THROWN_RADIUS);
      const over = up + 0.03 + height * share + Math.max(0, share - 1) * 2 * up;
      return [0, 1, 2].map((axis) => place.at[axis] + [c * r, over, s * r][axis] - centre[axis]) as Vec3;
    });
    return { asset, ...pose, at: places[0], to: place.at, or: places.slice(1), shapes };
  });
}
