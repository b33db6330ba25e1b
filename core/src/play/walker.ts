import type Rapier from '@dimforge/rapier3d-compat';
import type { BodyFigures } from '../body/bodies';
import { takeOffSpeed } from '../body/jump';
import { CELL, blockGrid } from '../block/grid';
import { meshGrid, type PlacedMesh } from '../block/placedMesh';
import { blockSolid } from '../block/solid';
import { OPEN, type Terrain } from '../earth/compose';
import { moverOffset } from '../block/mover';
import type { Block, Stop } from '../level/objects';
import { DEG } from '../num/trig';
import type { Vec3 } from '../num/vec';
import { cellColliders } from './cellColliders';
import { limitsOf, SLOPE_ROOM } from './limits';
import { steepAhead } from './steepAhead';
import { groundAt } from '../surface/groundAt';

export interface WalkInput {
  /** wanted direction in plan, length up to 1 */
  x: number;
  z: number;
  run: boolean;
  jump: boolean;
}

/** The body on the ground: gravity, slope limit, step, jump, collision with terrain, blocks, pieces and trunks. */
export interface Walker {
  /** feet */
  readonly at: Vec3;
  readonly grounded: boolean;
  /** seconds walked: movers are where they are at that time */
  readonly time: number;
  /** One step of 1/60 s. */
  step(input: WalkInput): void;
  /** The level changed: colliders of the touched cells are made anew. `undefined` remakes all. */
  refresh(terrain: Terrain, blocks: readonly Block[], rect?: { x0: number; z0: number; x1: number; z1: number }, meshes?: readonly PlacedMesh[]): void;
  /** Other movers, or the same ones changed; `mesh` where a mover's solid is a mesh. */
  setMovers(movers: readonly Mover[]): void;
  moveTo(at: Vec3): void;
  dispose(): void;
}

/** A block that moves by itself, and its mesh where its solid is one. */
export interface Mover {
  block: Block;
  mesh?: Pick<PlacedMesh, 'positions' | 'indices'>;
}

/** Seconds a step. */
export const WALK_STEP = 1 / 60;
/** Gap the controller keeps to everything, metres. */
const SKIN = 0.02;
/** Steps of the clock between two tries to get up by hand. */
const TRY_AGAIN = 9;
/** How far a foot is set on a step at least, metres. */
const FOOT = 0.06;
/** Cells around the walker that have colliders. */
const AROUND = 1;

/** What a walker walks on and is stopped by. */
export interface WalkedOn {
  terrain: Terrain;
  blocks: readonly Block[];
  /** none */
  meshes?: readonly PlacedMesh[];
}

/**
 * Makes a walker. A cylinder, because a capsule's round foot slides off steps; with its skin it is as large as
 * what the walk area keeps free for the body, and takes the same steps and slopes: see `Limits`.
 */
export function makeWalker(rapier: typeof Rapier, body: BodyFigures, { terrain, blocks, meshes = [] }: WalkedOn, at: Vec3): Walker {
  const world = new rapier.World({ x: 0, y: -body.gravity, z: 0 });
  world.timestep = WALK_STEP;
  const limits = limitsOf(body);
  const steepest = body.maxSlope + SLOPE_ROOM;
  /** how high a step is over the collider, which stands its skin over the ground */
  const climb = limits.step - SKIN;
  const half = limits.head / 2 - SKIN;
  const collider = world.createCollider(rapier.ColliderDesc.cylinder(half, limits.side - SKIN));
  const controller = world.createCharacterController(SKIN);
  controller.setMaxSlopeClimbAngle(steepest * DEG);
  controller.setMinSlopeSlideAngle(steepest * DEG);
  controller.enableSnapToGround(body.step);
  controller.setUp({ x: 0, y: 1, z: 0 });

  let ground = terrain;
  let solids = blocks;
  let grid = blockGrid(blocks);
  let standing = meshGrid(meshes);
  const cells = new Map<string, Rapier.Collider[]>();
  let fall = 0;
  let grounded = false;
  let rest = 0;
  const feet: Vec3 = [...at];

  let time = 0;
  let platforms: { stops: readonly Stop[]; at: Vec3; collider: Rapier.Collider }[] = [];
  const rotation = { x: 0, y: 0, z: 0, w: 1 };

  const setMovers = (movers: readonly Mover[]) => {
    for (const p of platforms) world.removeCollider(p.collider, false);
    platforms = movers.flatMap(({ block, mesh }) => {
      const shape = mesh
        ? rapier.ColliderDesc.trimesh(mesh.positions, mesh.indices)
        : rapier.ColliderDesc.convexHull(Float32Array.from(blockSolid(block).corners.flat()));
      if (!shape || !block.stops) return [];
      const made = world.createCollider(shape);
      const at = moverOffset(block.stops, time);
      made.setTranslation({ x: at[0], y: at[1], z: at[2] });
      return [{ stops: block.stops, at, collider: made }];
    });
    world.step();
  };

  /** Movers go on; who stands on one goes with it, who stands in its way is pushed. */
  const moveOn = () => {
    time += WALK_STEP;
    for (const p of platforms) {
      const next = moverOffset(p.stops, time);
      const by: Vec3 = [next[0] - p.at[0], next[1] - p.at[1], next[2] - p.at[2]];
      if (by[0] === 0 && by[1] === 0 && by[2] === 0) continue;
      // Looked for a little above the feet, and as far under them as a mover sinks in a step and the skin is wide.
      const carried = p.collider.castRay(new rapier.Ray({ x: feet[0], y: feet[1] + 0.2, z: feet[2] }, { x: 0, y: -1, z: 0 }), 0.2 + 3 * SKIN, true) >= 0;
      p.collider.setTranslation({ x: next[0], y: next[1], z: next[2] });
      p.at = next;
      const pushed = !carried && p.collider.intersectsShape(collider.shape, { x: feet[0], y: feet[1] + limits.head / 2, z: feet[2] }, rotation);
      if (!carried && !pushed) continue;
      feet[0] += by[0];
      feet[1] += carried ? by[1] : Math.max(0, by[1]);
      feet[2] += by[2];
    }
  };

  const place = () => collider.setTranslation({ x: feet[0], y: feet[1] + limits.head / 2, z: feet[2] });

  const ensureCells = () => {
    const cx = Math.floor(feet[0] / CELL);
    const cz = Math.floor(feet[2] / CELL);
    let made = false;
    for (let x = cx - AROUND; x <= cx + AROUND; x++) {
      for (let z = cz - AROUND; z <= cz + AROUND; z++) {
        const key = `${x},${z}`;
        if (cells.has(key) || x < 0 || z < 0 || x * CELL >= ground.grid.width || z * CELL >= ground.grid.depth) continue;
        cells.set(key, cellColliders(rapier, world, { terrain: ground, blocks: grid, meshes: standing }, x, z));
        made = true;
      }
    }
    // New colliders are seen by queries only after a step of the world.
    if (made) world.step();
  };

  /**
   * A step in plan laid along the ground under the feet, as long as it was: a body walks as fast up a
   * slope as on the flat. Ground too steep to walk leaves the step as it is.
   */
  const alongGround = (step: Vec3): Vec3 => {
    const [x, , z] = step;
    const { normal: n, slope } = groundAt(ground, grid, [feet[0], feet[1] + 0.1, feet[2]], { meshes: standing });
    const length = Math.sqrt(x * x + z * z);
    if (slope > steepest || length === 0) return step;
    const rise = -(n[0] * x + n[2] * z) / n[1];
    const k = length / Math.sqrt(length * length + rise * rise);
    return [x * k, rise * k, z * k];
  };

  /** Whether a place is on barred ground, or on something that stands there and is as deep in the water. */
  const shut = (x: number, y: number, z: number): boolean => {
    const { barred, grid: g } = ground;
    if (!barred) return false;
    const at = (v: number, n: number) => Math.min(n - 1, Math.max(0, Math.round(v / g.spacing)));
    const least = barred[at(z, g.nz) * g.nx + at(x, g.nx)];
    if (least === OPEN) return false;
    const under = groundAt(ground, grid, [x, y + 0.1, z], { meshes: standing });
    return under.host.kind === 'terrain' || under.height < least;
  };

  const move = ([x, y, z]: Vec3, step: number): { x: number; y: number; z: number } => {
    controller.enableAutostep(step, 0.05, false);
    controller.computeColliderMovement(collider, { x, y, z });
    return controller.computedMovement();
  };

  /**
   * A step up by hand: as far up as there is room over the head, on by the step or a foot's width, and down
   * again. `undefined` where that leads nowhere.
   */
  const stepUp = ([x, , z]: Vec3): { x: number; y: number; z: number } | undefined => {
    controller.disableAutostep();
    controller.disableSnapToGround();
    const go = (by: { x: number; y: number; z: number }) => {
      controller.computeColliderMovement(collider, by);
      const moved = { ...controller.computedMovement() };
      const at = collider.translation();
      collider.setTranslation({ x: at.x + moved.x, y: at.y + moved.y, z: at.z + moved.z });
      return moved;
    };
    const length = Math.sqrt(x * x + z * z);
    const on = Math.max(1, FOOT / length);
    const up = go({ x: 0, y: climb, z: 0 }).y;
    const forth = go({ x: x * on, y: 0, z: z * on });
    const down = go({ x: 0, y: -up, z: 0 }).y;
    place();
    const rise = up + down;
    const far = Math.sqrt(forth.x * forth.x + forth.z * forth.z);
    if (rise <= 0.01 || rise > limits.step || far <= length * 0.5) return undefined;
    // A face too steep to walk is no tread, under the middle of the body or under its front.
    const too = (ahead: number) =>
      groundAt(ground, grid, [feet[0] + forth.x + (x / length) * ahead, feet[1] + rise + 0.1, feet[2] + forth.z + (z / length) * ahead], { meshes: standing })
        .slope > steepest;
    return too(0) || too(body.radius) ? undefined : { x: forth.x, y: rise, z: forth.z };
  };

  /** A move that rises, kept off ground too steep to walk: along it instead, or not at all. */
  const besideSteep = (wanted: Vec3, moved: { x: number; y: number; z: number }): { x: number; y: number; z: number } => {
    const wall = steepIn(wanted);
    if (!wall) return moved;
    const into = wanted[0] * wall[0] + wanted[2] * wall[1];
    const along: Vec3 = [wanted[0] - wall[0] * into, 0, wanted[2] - wall[1] * into];
    const slid = move(along, climb);
    return slid.y > 0 && steepIn(along) ? { x: 0, y: Math.min(0, slid.y), z: 0 } : slid;
  };
  const steepIn = ([x, , z]: Vec3) => {
    const l = Math.sqrt(x * x + z * z);
    return l === 0
      ? undefined
      : steepAhead(
          ground,
          limits,
          { x: feet[0], z: feet[2], dx: x / l, dz: z / l },
          (px, pz, y) => groundAt(ground, grid, [px, Math.max(y, feet[1]) + limits.step, pz], { meshes: standing }).host.kind !== 'terrain',
        );
  };

  place();
  ensureCells();

  return {
    get at() {
      return feet;
    },
    get grounded() {
      return grounded;
    },
    get time() {
      return time;
    },
    setMovers,
    step(input) {
      ensureCells();
      if (grounded && fall <= 0) fall = input.jump ? takeOffSpeed(body) : 0;
      // Velocity Verlet: half the change of speed now, so that the apex is v0^2 / 2g whatever the step.
      const lift = (fall - (body.gravity * WALK_STEP) / 2) * WALK_STEP;
      fall -= body.gravity * WALK_STEP;
      const speed = (input.run ? body.run : body.walk) * WALK_STEP;
      const l = Math.max(1, Math.sqrt(input.x * input.x + input.z * input.z));
      let wanted: Vec3 = [(input.x / l) * speed, lift, (input.z / l) * speed];
      if (grounded && lift <= 0) wanted = alongGround(wanted);
      if (lift > 0) controller.disableSnapToGround();
      else controller.enableSnapToGround(body.step);
      let moved = move(wanted, climb);
      // The controller wants its whole step free over the head before it takes a low one: under a lintel or a stairwell's edge half a step is tried.
      const stuck = () => grounded && lift <= 0 && moved.x * moved.x + moved.z * moved.z < (wanted[0] * wanted[0] + wanted[2] * wanted[2]) * 0.01;
      const going = wanted[0] !== 0 || wanted[2] !== 0;
      if (going && stuck()) moved = move(wanted, climb / 2);
      let stepped: ReturnType<typeof stepUp>;
      if (going && stuck()) {
        // Against a wall it leads nowhere, and its three casts are dear: it is tried now and then.
        if (rest > 0) rest--;
        else if (!(stepped = stepUp(wanted))) rest = TRY_AGAIN;
      } else rest = 0;
      if (stepped) moved = stepped;
      if (going && grounded && lift <= 0 && moved.y > 0) moved = besideSteep(wanted, moved);
      grounded = stepped !== undefined || controller.computedGrounded();
      if (lift > 0 && moved.y < lift * 0.5) fall = Math.min(fall, 0);
      if (grounded && fall < 0) fall = 0;
      // Water too deep to wade stops a body at its edge; one that is in it already may come out.
      if (shut(feet[0] + moved.x, feet[1] + moved.y, feet[2] + moved.z) && !shut(feet[0], feet[1], feet[2])) moved = { x: 0, y: Math.min(0, moved.y), z: 0 };
      feet[0] = Math.min(Math.max(feet[0] + moved.x, body.radius), ground.grid.width - body.radius);
      feet[1] += moved.y;
      feet[2] = Math.min(Math.max(feet[2] + moved.z, body.radius), ground.grid.depth - body.radius);
      moveOn();
      place();
      world.step();
    },
    refresh(nextTerrain, nextBlocks, rect, nextMeshes) {
      ground = nextTerrain;
      solids = nextBlocks;
      grid = blockGrid(solids);
      if (nextMeshes) standing = meshGrid(nextMeshes);
      for (const [key, colliders] of cells) {
        const [cx, cz] = key.split(',').map(Number);
        const touched = !rect || (rect.x1 >= cx * CELL && rect.x0 <= (cx + 1) * CELL && rect.z1 >= cz * CELL && rect.z0 <= (cz + 1) * CELL);
        if (!touched) continue;
        for (const c of colliders) world.removeCollider(c, false);
        cells.delete(key);
      }
    },
    moveTo(next) {
      feet[0] = next[0];
      feet[1] = next[1];
      feet[2] = next[2];
      fall = 0;
      place();
    },
    dispose() {
      world.removeCharacterController(controller);
      world.free();
    },
  };
}
