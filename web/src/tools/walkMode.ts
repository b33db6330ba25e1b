import type { Vec3 } from '@rammer/core/num/vec';
import { barred } from '@rammer/core/earth/water';
import { playerBody } from '@rammer/core/level/level';
import { makeWalker, WALK_STEP, type Mover, type Walker } from '@rammer/core/play/walker';
import type { Pose } from '@rammer/core/level/objects';
import type { LevelView } from '../view/LevelView';
import type { Session } from '../store/session';
import { usePointer } from '../store/pointer';
import { useUi } from '../store/ui';

/** Walking the level: the body, the keys held, and the view to come back to. */
export interface WalkMode {
  readonly walker: Walker;
  key(code: string, down: boolean): boolean;
  look(dx: number, dy: number): void;
  stop(): void;
}

const KEYS: Record<string, [right: number, forward: number]> = {
  KeyW: [0, 1],
  KeyS: [0, -1],
  KeyA: [-1, 0],
  KeyD: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
const TURN_KEYS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1, KeyQ: -1, KeyE: 1 };
/** At most this much is caught up in one frame, seconds; a slow machine walks slower rather than jumps. */
const CATCH_UP = 0.25;

const moversOf = ({ scene }: Session): Mover[] => [...scene.solids.movers.values()].map((block) => ({ block, mesh: scene.solids.built.get(block.id) }));

/** Loads the physics kernel on the first walk. */
export async function startWalk(session: Session, view: LevelView, at: Vec3): Promise<WalkMode> {
  const rapier = (await import('@dimforge/rapier3d-compat')).default;
  await rapier.init();
  const body = playerBody(session.level).figures;
  const back = { pose: view.pose, mode: useUi.getState().mode };
  const ground = () => barred(session.terrain, session.scene.waters.bodies, body.wade);
  const walker = makeWalker(rapier, body, { terrain: ground(), blocks: session.scene.walk.blocks, meshes: session.scene.walk.meshes }, [
    at[0],
    at[1] + 0.05,
    at[2],
  ]);
  walker.setMovers(moversOf(session));
  const held = new Set<string>();
  let yaw = view.pose.view === 'plan' ? 0 : view.pose.yaw;
  let pitch = 0;
  let last = performance.now();
  let debt = 0;
  let raf = 0;
  let shown = '';

  const show = () => {
    const pose: Pose = { view: 'stand', target: [...walker.at], yaw, pitch, distance: 10 };
    const text = pose.target.map((v) => v.toFixed(3)).join() + yaw.toFixed(2) + pitch.toFixed(2);
    if (text !== shown) {
      shown = text;
      view.setPose(pose);
      usePointer.setState({ feet: { at: [...walker.at], grounded: walker.grounded } });
    }
  };

  const tick = (now: number) => {
    raf = requestAnimationFrame(tick);
    debt = Math.min(debt + (now - last) / 1000, CATCH_UP);
    last = now;
    let steps = 0;
    while (debt >= WALK_STEP) {
      debt -= WALK_STEP;
      steps++;
      let right = 0;
      let forward = 0;
      for (const code of held) {
        const k = KEYS[code];
        if (k) {
          right += k[0];
          forward += k[1];
        }
        const t = TURN_KEYS[code];
        if (t) yaw = (yaw + t * 110 * WALK_STEP + 360) % 360;
      }
      const a = (yaw * Math.PI) / 180;
      walker.step({
        x: Math.sin(a) * forward + Math.cos(a) * right,
        z: -Math.cos(a) * forward + Math.sin(a) * right,
        run: held.has('ShiftLeft') || held.has('ShiftRight'),
        jump: held.has('Space'),
      });
    }
    if (steps > 0) {
      view.blocks.runTo(walker.time);
      show();
    }
  };

  const unsubscribe = session.subscribe((change) => {
    if (!change.rect && !change.blocks && !change.pieces && !change.plants && !change.waters) return;
    const s = session.terrain.grid.spacing;
    const rect =
      change.rect && !change.blocks && !change.pieces
        ? { x0: change.rect.x0 * s, z0: change.rect.z0 * s, x1: change.rect.x1 * s, z1: change.rect.z1 * s }
        : undefined;
    walker.refresh(ground(), session.scene.walk.blocks, rect, session.scene.walk.meshes);
    if (change.blocks) walker.setMovers(moversOf(session));
  });

  useUi.setState({ mode: 'walk' });
  show();
  raf = requestAnimationFrame(tick);

  return {
    walker,
    key(code, down) {
      const mine = code in KEYS || code in TURN_KEYS || code === 'Space' || code.startsWith('Shift');
      if (!mine) return false;
      if (down) held.add(code);
      else held.delete(code);
      return true;
    },
    look(dx, dy) {
      yaw = (yaw + dx * 0.2 + 360) % 360;
      pitch = Math.min(80, Math.max(-80, pitch - dy * 0.2));
      show();
    },
    stop() {
      cancelAnimationFrame(raf);
      unsubscribe();
      walker.dispose();
      view.blocks.runTo(undefined);
      usePointer.setState({ feet: undefined });
      useUi.setState({ mode: back.mode });
      view.setPose(back.pose);
    },
  };
}
