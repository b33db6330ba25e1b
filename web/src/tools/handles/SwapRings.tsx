import { plantSwaps, swapText } from '@rammer/core/cost/plantSwaps';
import { heightAt } from '@rammer/core/earth/sample';
import { ofKind } from '@rammer/core/level/level';
import { sinCosDeg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import { speciesAtHand, usePlanting } from '../../store/planting';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useUi } from '../../store/ui';
import type { LevelView } from '../../view/LevelView';
import { useDrawnFrame } from '../../view/useFrame';
import { hazeOf } from '../hazeOf';
import { Label } from './Marks';

const SIDES = 96;
/** Labels of rings beside each other stand so far apart about the eye, degrees. */
const ASIDE = 9;
const MOST = 5000;

/** Rings on the ground about the eye where the species at hand swaps LODs, thins and is left out, with what one sees of it in pixels. */
export function SwapRings({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  usePlanting((s) => s.species);
  const shown = useUi((s) => s.overlay === 'plant swaps');
  if (!shown) return null;
  const species = speciesAtHand(session.level);
  const { eye, fov } = view.camera;
  const covers = ofKind(session.level, 'cover').some((c) => c.on && c.species === species?.id);
  const swaps =
    species && fov > 0 ? plantSwaps(species, session.scene.placed.assets, { covers, haze: hazeOf(session.level) }).filter((s) => s.distance < MOST) : [];
  const rings = swaps.flatMap((swap, i) => {
    const at = (deg: number) => onGround(session, eye, swap.distance, deg);
    const points = Array.from({ length: SIDES + 1 }, (_, k) => at((k * 360) / SIDES));
    if (points.every((p) => p === undefined)) return [];
    // In sight, straight ahead and to either side in turn.
    const label = at(view.pose.yaw - 90 + ((i % 3) - 1) * ASIDE);
    return [{ swap, path: pathOf(view, points), label: label && view.project(label) }];
  });
  const why = !species
    ? 'no species yet'
    : fov === 0
      ? 'from above nothing swaps: stand or orbit'
      : `${species.name}: ${rings.length === 0 ? 'nothing swaps' : ''}`;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="swaps" aria-label={`overlay: plant swaps, ${why}`} role="img">
      {rings.map(({ swap, path, label }, i) => (
        <g key={i} fill="none">
          <path d={path} stroke="var(--raised)" strokeWidth={5} />
          <path d={path} stroke="var(--ink)" strokeWidth={2} strokeDasharray={swap.what === 'left out' ? undefined : swap.what === 'swap' ? '9 4' : '2 5'} />
          {label && <Label x={label.x} y={label.y - 6} text={swapText(swap)} />}
        </g>
      ))}
      {(rings.length === 0 || !species) && <Label x={view.width / 2} y={40} text={why} />}
    </svg>
  );
}

/** Where the ground is so far from the eye, in a direction in plan; `undefined` where the eye is higher over it than that. */
function onGround(session: Session, [x, y, z]: Vec3, distance: number, deg: number): Vec3 | undefined {
  const [s, c] = sinCosDeg(deg);
  let r = distance;
  let ground = y;
  // The ground is as high as it is where the ring lies: a few rounds find it.
  for (let i = 0; i < 4; i++) {
    ground = heightAt(session.terrain, x + c * r, z + s * r);
    const up = y - ground;
    if (Math.abs(up) >= distance) return undefined;
    r = Math.sqrt(distance * distance - up * up);
  }
  return [x + c * r, ground + 0.08, z + s * r];
}

function pathOf(view: LevelView, points: readonly (Vec3 | undefined)[]): string {
  let d = '';
  let pen = 'M';
  for (const p of points) {
    const s = p && view.project(p);
    if (s) d += `${pen}${s.x.toFixed(1)} ${s.y.toFixed(1)}`;
    pen = s ? 'L' : 'M';
  }
  return d;
}
