import { surfaceOver } from '@rammer/core/earth/water';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useEarth } from '../store/earthDraft';
import { useUi } from '../store/ui';
import { useSession } from '../store/useSession';
import type { LevelView } from './LevelView';
import { useDrawnFrame } from './useFrame';

/** The chosen water in the view: its shore, where it runs out of the level, and where its basin would run over. */
export function WaterMarks({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  const stage = useUi((s) => s.stage);
  const id = useEarth((s) => s.water);
  const body = stage === 'earth' ? session.scene.waters.bodies.find((w) => w.id === id) : undefined;
  if (!body) return null;
  const at = (p: Vec3) => view.project(p);
  const on = (x: number, z: number) => at([x, surfaceOver(body, x, z), z]);
  let d = '';
  for (let i = 0; i < body.shore.length; i += 4) {
    const [a, b] = [on(body.shore[i], body.shore[i + 1]), on(body.shore[i + 2], body.shore[i + 3])];
    if (a && b) d += `M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`;
  }
  const leak = body.leak && on(body.leak[0], body.leak[2]);
  // Where it runs over next, and where it leaves the level in the end.
  const ahead = (body.spills ?? []).filter((s) => s.height >= body.height);
  const spills = ahead.filter((_, i) => i === 0 || i === ahead.length - 1);
  const label = (x: number, y: number, text: string, colour: string) => (
    <text x={x + 10} y={y - 8} className="fig" fontSize={13} fontWeight={600} fill={colour} stroke="var(--raised)" strokeWidth={4} paintOrder="stroke">
      {text}
    </text>
  );
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="water-marks" aria-hidden>
      <g fill="none">
        <path d={d} stroke="var(--raised)" strokeWidth={5} />
        <path d={d} stroke="var(--blue)" strokeWidth={2} />
      </g>
      {leak && (
        <g>
          <path d={`M${leak.x} ${leak.y - 7}l7 12h-14z`} fill="var(--oxide)" stroke="var(--raised)" strokeWidth={1.5} />
          {label(leak.x, leak.y, body.levels ? 'runs over its banks' : 'runs out of the level', 'var(--oxide)')}
        </g>
      )}
      {spills.map((s) => {
        const p = at(s.at);
        const d = p && `M${p.x - 7} ${p.y}h14M${p.x} ${p.y - 7}v14`;
        return (
          p && (
            <g key={s.height}>
              <path d={d} stroke="var(--raised)" strokeWidth={5} />
              <path d={d} stroke="var(--ink)" strokeWidth={2} />
              {label(p.x, p.y, `runs ${s.into === 'edge' ? 'out of the level' : 'over'} at ${s.height.toFixed(2)} m`, 'var(--ink)')}
            </g>
          )
        );
      })}
    </svg>
  );
}
