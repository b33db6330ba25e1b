import { ofKind } from '@rammer/core/level/level';
import { heightAt } from '@rammer/core/earth/sample';
import type { Point2 } from '@rammer/core/num/outline';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useUi } from '../store/ui';
import type { LevelView } from './LevelView';
import { useDrawnFrame } from './useFrame';

/** Points along a line this far apart are laid on the ground, metres. */
const APART = 2;

/** Lines that lie on the ground: the rim of play in Block and Play, and the kept line the section runs along. */
export function Lines({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  const stage = useUi((s) => s.stage);
  const kept = useUi((s) => s.sectionLine);
  const own = kept ? session.level.object(kept) : undefined;
  const rims = stage === 'block' || stage === 'play' ? ofKind(session.level, 'rim') : [];
  const path = (points: readonly Point2[], closed: boolean): string => {
    let d = '';
    let pen = 'M';
    const sides = closed ? points.length : points.length - 1;
    for (let i = 0; i < sides; i++) {
      const [a, b] = [points[i], points[(i + 1) % points.length]];
      const n = Math.max(1, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / APART));
      for (let k = i === 0 ? 0 : 1; k <= n; k++) {
        const [x, z] = [a[0] + ((b[0] - a[0]) * k) / n, a[1] + ((b[1] - a[1]) * k) / n];
        const p = view.project([x, heightAt(session.terrain, x, z) + 0.1, z]);
        if (!p) { pen = 'M'; continue; }
        d += `${pen}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
        pen = 'L';
      }
    }
    return d;
  };
  const ends = own?.kind === 'section' ? ([[own.from, 'A'], [own.to, 'B']] as const).flatMap(([[x, z], letter]) => { const p = view.project([x, heightAt(session.terrain, x, z) + 0.1, z]); return p ? [{ p, letter }] : []; }) : [];
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="lines" aria-hidden>
      {rims.map((r) => { const d = path(r.outline, true); return <g key={r.id} fill="none"><path d={d} stroke="var(--raised)" strokeWidth={5} /><path d={d} stroke="var(--ink)" strokeWidth={2} strokeDasharray="12 3 2 3" /></g>; })}
      {own?.kind === 'section' && <g fill="none"><path d={path([own.from, own.to], false)} stroke="var(--raised)" strokeWidth={4} /><path d={path([own.from, own.to], false)} stroke="var(--ink)" strokeWidth={1.5} strokeDasharray="16 4 4 4" /></g>}
      {ends.map(({ p, letter }) => <g key={letter}><circle cx={p.x} cy={p.y} r={9} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.5} /><text x={p.x} y={p.y + 4.5} textAnchor="middle" className="fig" fontSize={13} fontWeight={600} fill="var(--ink)">{letter}</text></g>)}
    </svg>
  );
}
