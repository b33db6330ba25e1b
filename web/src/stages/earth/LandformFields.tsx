import { useRef, type PointerEvent } from 'react';
import { playerBody } from '@rammer/core/level/level';
import { landformProfile } from '@rammer/core/earth/lifts/landform';
import type { Landform } from '@rammer/core/level/objects';
import { slopeDeg } from '@rammer/core/num/trig';
import type { Session } from '../../store/session';
import { NumberField } from '../../ui/NumberField';
import type { SetFields } from './LiftFields';

const W = 248;
const H = 84;

/** Widest a side of its foot lets the crest be: the half of its narrower extent, metres. */
function halfWidth(lift: Landform): number {
  if (lift.line.length === 1) return lift.radius;
  const span = (k: 0 | 1) => Math.max(...lift.line.map((p) => p[k])) - Math.min(...lift.line.map((p) => p[k]));
  return Math.max(lift.foot, Math.min(span(0), span(1)) / 2);
}

/** A landform's side profile with the figure at true scale: drag the crest for height and foot distance; the same as numbers. */
export function LandformFields({ session, lift, set }: { session: Session; lift: Landform; set: SetFields }) {
  const body = playerBody(session.level).figures;
  const half = halfWidth(lift);
  const reach = half + 3;
  const k = Math.min((W - 16) / (reach + 3), (H - 18) / Math.max(lift.height, body.height + 0.4));
  const sign = lift.cut ? -1 : 1;
  const floor = lift.cut ? 16 : H - 12;
  const x = (m: number) => 26 + m * k;
  const y = (m: number) => floor - sign * m * k;
  const profile = Array.from({ length: 61 }, (_, i) => { const d = (i / 60) * half; return `${x(d).toFixed(1)} ${y(lift.height * landformProfile(lift, d)).toFixed(1)}`; }).join('L');
  const drag = useRef<{ height: number; foot: number } | undefined>(undefined);
  const from = (e: PointerEvent<SVGCircleElement>) => {
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
    const foot = Math.min(half, Math.max(0.05, (e.clientX - box.left - 26) / k));
    const height = Math.min(500, Math.max(0.05, (sign * (floor - (e.clientY - box.top))) / k));
    return { height: Number(height.toFixed(2)), foot: Number(foot.toFixed(2)) };
  };
  return (
    <>
      <svg width={W} height={H} className="mx-3 mt-2 block select-none" style={{ touchAction: 'none' }} role="img" aria-label={`${lift.cut ? 'cut' : 'heap'} ${lift.height} m ${lift.cut ? 'deep' : 'high'}, its foot ${lift.foot} m wide, beside a ${body.height} m figure`}>
        <defs><pattern id="landform-earth" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V6" stroke="var(--hair)" /></pattern></defs>
        <path d={`M0 ${floor}H26L${profile}H${W}V${H}H0z`} fill="url(#landform-earth)" />
        <path d={`M0 ${floor}H${W}`} stroke="var(--ink)" strokeDasharray="3 3" />
        <path d={`M0 ${floor}H26L${profile}H${W}`} fill="none" stroke="var(--ink)" strokeWidth="1.75" />
        <g transform={`translate(14 ${floor}) scale(${(body.height * k) / 100})`} fill="var(--oxide)"><path d="M-9 0L-7 -48L-14 -50L-11 -82H11L14 -50L7 -48L9 0H3L0 -44L-3 0z" /><circle cy={-92} r={8} /></g>
        <circle cx={x(Math.min(lift.foot, half))} cy={y(lift.height * landformProfile(lift, lift.foot))} r={6} fill="var(--raised)" stroke="var(--blue)" strokeWidth="2" style={{ cursor: 'move' }}
          onPointerDown={(e) => { e.currentTarget.setPointerCapture(e.pointerId); drag.current = from(e); }}
          onPointerMove={(e) => { if (!drag.current) return; drag.current = from(e); e.currentTarget.setAttribute('cx', String(x(drag.current.foot))); e.currentTarget.setAttribute('cy', String(y(drag.current.height))); }}
          onPointerUp={() => { if (drag.current) set({ ...drag.current }, 'crest'); drag.current = undefined; }}><title>crest: drag for height and foot</title></circle>
        <text className="fig" x={W - 4} y={lift.cut ? H - 4 : H - 18} textAnchor="end" fontSize="12" fill="var(--ink)" stroke="var(--raised)" strokeWidth="4" paintOrder="stroke">{`${slopeDeg(lift.height / lift.foot).toFixed(0)}° batter${slopeDeg(lift.height / lift.foot) > body.maxSlope ? ', too steep to walk' : ''}`}</text>
      </svg>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 pt-1">
        <NumberField label={lift.cut ? 'depth' : 'crest'} value={lift.height} unit="m" min={0} max={500} step={0.25} onCommit={(height) => set({ height }, 'crest')} />
        <NumberField label="foot" value={lift.foot} unit="m" min={0.05} max={2000} step={0.25} onCommit={(foot) => set({ foot }, 'foot')} />
        <NumberField label="ragged" value={lift.ragged} unit="m" min={0} max={100} step={0.25} onCommit={(ragged) => set({ ragged }, 'ragged edge')} />
        {lift.line.length === 1 ? <NumberField label="radius" value={lift.radius} unit="m" min={0.5} max={4096} step={0.5} onCommit={(radius) => set({ radius }, 'radius')} /> : <NumberField label="seed" value={lift.seed} min={0} max={2_147_483_647} step={1} digits={0} onCommit={(v) => set({ seed: Math.round(v) }, 'seed')} />}
        <label className="flex items-center justify-between gap-2"><span className="label">crown</span>
          <select className="textf h-6 w-[84px] px-1" aria-label="crown" value={lift.crown} onChange={(e) => set({ crown: e.target.value }, 'crown')}><option value="flat">flat</option><option value="domed">domed</option><option value="dished">dished</option></select>
        </label>
        <div className="seg justify-self-end" role="group" aria-label="heap or cut">
          {[false, true].map((cut) => <button key={String(cut)} className="act fig" style={{ padding: '0 6px', minHeight: 24 }} aria-pressed={lift.cut === cut} onClick={() => set({ cut }, 'way')}>{cut ? 'cut' : 'heap'}</button>)}
        </div>
      </div>
    </>
  );
}
