import { useMemo, useRef, useState } from 'react';
import { playerBody } from '@rammer/core/level/level';
import { directionOf } from '@rammer/core/cost/camera';
import { heightAt } from '@rammer/core/earth/sample';
import { sectionAlong, type Section as Cut } from '@rammer/core/surface/section';
import { ledgeVerdict } from '@rammer/core/body/checks';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useUi } from '../store/ui';
import type { LevelView } from '../view/LevelView';
import { useDrawnFrame } from '../view/useFrame';

const WINDOW_M = 60;
const HEADER = 24;

/** The true-scale cross-section along the view direction, with the figure in it. Follows what is drawn. */
export function Section({ session, view, width, height }: { session: Session; view: LevelView; width: number; height: number }) {
  useDrawnFrame(view);
  const revision = useSession(session);
  const mode = useUi((s) => s.mode);
  const hover = useUi((s) => s.hover);
  const [loupe, setLoupe] = useState<number>();
  const [shift, setShift] = useState(0);
  const drag = useRef<number>(undefined);
  const body = playerBody(session.level);
  const { pose } = view;
  const walking = mode === 'walk';
  const target = pose.target;
  const forward = pose.view === 'plan' ? [0, 0, -1] : directionOf(pose.yaw, 0);
  const key = [revision, width, height, forward.map((v) => v.toFixed(4)), target.map((v) => v.toFixed(2)), walking, shift.toFixed(1)].join();
  const scale = width / WINDOW_M;
  const span = walking ? 40 : WINDOW_M;
  const px = width / span;

  const cut = useMemo(() => {
    const line = { x0: target[0], z0: target[2], dx: forward[0], dz: forward[2] };
    const far = Math.hypot(session.terrain.grid.width, session.terrain.grid.depth) * 1.5;
    const whole = sectionAlong(session.terrain, [], line, -far, far, 90);
    const from = walking ? -10 : shift - span / 2;
    return { from, to: from + span, fine: sectionAlong(session.terrain, session.blocks, line, from, from + span, body.figures.maxSlope), whole };
  // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);

  const { fine, whole, from } = cut;
  const body0 = walking ? target[1] : heightAt(session.terrain, target[0], target[2]);
  const room = height - HEADER - 14;
  // The profile is kept inside its window: centred on its own middle where it fits, on the figure where not.
  const middle = (fine.high - fine.low) * px < room * 0.92 ? (fine.low + fine.high + body.figures.height * 0.5) / 2 : Math.min(Math.max(body0 + 1, fine.low + room / px / 2 - 1), fine.high - room / px / 2 + 2);
  const y = (h: number) => HEADER + room / 2 - (h - middle) * px;
  const x = (s: number) => (s - from) * px;
  const ground = profile(fine, x, y);
  const near = hover && Math.abs((hover.point[0] - target[0]) * -forward[2] + (hover.point[2] - target[2]) * forward[0]) < 4
    ? (hover.point[0] - target[0]) * forward[0] + (hover.point[2] - target[2]) * forward[2] : undefined;
  const ticks = Array.from({ length: span / 2 + 2 }, (_, i) => Math.ceil(from / 2) * 2 + i * 2).filter((s) => s <= cut.to);
  const at = loupe !== undefined ? from + loupe / px : undefined;
  const atHeight = at !== undefined ? sampleAt(fine, at) : undefined;

  return (
    <section aria-label="section" className="relative overflow-hidden" style={{ height, background: 'var(--raised)' }} data-testid="section" data-too-steep={fine.tooSteep.length} data-blocks={fine.blocks.length}
      onPointerMove={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        if (drag.current !== undefined) {
          setShift((s) => s - (e.clientX - drag.current!) / px);
          drag.current = e.clientX;
        }
        setLoupe(e.clientX - box.left);
      }}
      onPointerDown={(e) => { if (!walking) { e.currentTarget.setPointerCapture(e.pointerId); drag.current = e.clientX; } }}
      onPointerUp={() => { drag.current = undefined; }}
      onPointerLeave={() => setLoupe(undefined)} onDoubleClick={() => setShift(0)}>
      <svg width={width} height={height} role="img" aria-label={`Section along the view, ${span} m wide, same scale both ways. ${fine.tooSteep.length} stretches too steep for ${body.name}.`}>
        <defs>
          <pattern id="earth" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)"><path d="M0 0V7" stroke="#b9c0b8" strokeWidth="1" /></pattern>
          <pattern id="cutblock" width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)"><path d="M0 0V5" stroke="#7a837b" strokeWidth="1.2" /></pattern>
          <clipPath id="profile"><rect x="0" y={HEADER} width={width} height={height - HEADER} /></clipPath>
        </defs>
        <g clipPath="url(#profile)">
          {ground && <path d={`${ground}L${x(fine.ground[fine.ground.length - 2]).toFixed(1)} ${height + 20}L${x(fine.ground[0]).toFixed(1)} ${height + 20}z`} fill="url(#earth)" />}
          {fine.blocks.map((b) => (
            <g key={b.id}>
              <path d={`M${b.outline.map(([s, h]) => `${x(s).toFixed(1)} ${y(h).toFixed(1)}`).join('L')}z`} fill="#f6f7f4" />
              <path d={`M${b.outline.map(([s, h]) => `${x(s).toFixed(1)} ${y(h).toFixed(1)}`).join('L')}z`} fill="url(#cutblock)" stroke="#17211f" strokeWidth={1.5}><title>{b.name}</title></path>
            </g>
          ))}
          {ground && <path d={ground} fill="none" stroke="#17211f" strokeWidth={1.75} strokeLinejoin="round" />}
          {fine.tooSteep.map((t) => <path key={t.from} d={profile(fine, x, y, t.from, t.to)} fill="none" stroke="#c98b1b" strokeWidth={5} strokeLinecap="butt" />)}
          {fine.tooSteep.map((t) => <path key={`i${t.from}`} d={profile(fine, x, y, t.from, t.to)} fill="none" stroke="#17211f" strokeWidth={1.25} strokeDasharray="2 2" />)}
          {labelled(fine, px).map((t) => {
            const a = sampleAt(fine, t.from) ?? 0;
            const b = sampleAt(fine, t.to) ?? 0;
            const rise = Math.abs(b - a);
            return <text key={`t${t.from}`} className="fig" x={x((t.from + t.to) / 2) + 10} y={Math.min(Math.max(y((a + b) / 2) + 4, HEADER + 12), height - 24)} fontSize={12} fontWeight={600} fill="#8a5a00" stroke="#f6f7f4" strokeWidth={3.5} paintOrder="stroke">{`${rise.toFixed(1)} m face: ${ledgeVerdict(body.figures, rise)}`}</text>;
          })}
          <Figure x={x(0)} y={y(body0)} h={body.figures.height * px} />
          {near !== undefined && <path d={`M${x(near)} ${HEADER}V${height - 16}`} stroke="#17211f" strokeWidth={1} strokeDasharray="2 3" />}
        </g>
        {ticks.map((s) => <path key={s} d={`M${x(s).toFixed(1)} ${height}v${s % 10 === 0 ? -9 : -4}`} stroke="#17211f" />)}
        {ticks.filter((s) => s % 10 === 0).map((s) => <text key={`l${s}`} className="fig" x={x(s) + 3} y={height - 3} fontSize={12} fill="#4c5752" stroke="#f6f7f4" strokeWidth={3} paintOrder="stroke">{Math.round(s)}</text>)}
        <path d={`M0 ${height - 0.5}H${width}`} stroke="#17211f" />
        <Thread whole={whole} from={from} to={cut.to} width={width} onMove={walking ? undefined : (s) => setShift(s)} />
        {atHeight !== undefined && at !== undefined && (
          <g>
            <circle cx={x(at)} cy={y(atHeight)} r={4} fill="#f6f7f4" stroke="#17211f" strokeWidth={1.5} />
            <text className="fig" x={Math.min(x(at) + 9, width - 150)} y={Math.max(HEADER + 14, y(atHeight) - 8)} fontSize={13} fontWeight={600} stroke="#f6f7f4" strokeWidth={4} paintOrder="stroke" fill="#17211f">{`${at.toFixed(1)} m along, height ${atHeight.toFixed(2)} m`}</text>
          </g>
        )}
      </svg>
      <h2 className="absolute left-3 top-1 text-[13px] font-semibold">Section <span className="label font-normal">{walking ? '10 m behind, 30 m ahead' : `along the view, ${span} m`}, same scale both ways</span></h2>
      {scale < 4 && <span className="sr-only">narrow window</span>}
    </section>
  );
}

function profile(cut: Cut, x: (s: number) => number, y: (h: number) => number, from = -Infinity, to = Infinity): string {
  let d = '';
  for (let i = 0; i < cut.ground.length; i += 2) {
    const s = cut.ground[i];
    if (s < from - 1e-6 || s > to + 1e-6) continue;
    d += `${d ? 'L' : 'M'}${x(s).toFixed(1)} ${y(cut.ground[i + 1]).toFixed(1)}`;
  }
  return d;
}

function sampleAt(cut: Cut, s: number): number | undefined {
  const g = cut.ground;
  for (let i = 2; i < g.length; i += 2) {
    if (s >= g[i - 2] && s <= g[i]) return g[i - 1] + ((g[i + 1] - g[i - 1]) * (s - g[i - 2])) / (g[i] - g[i - 2] || 1);
  }
  return undefined;
}

/** The highest few too-steep stretches, far enough apart for their labels. */
function labelled(cut: Cut, px: number): Cut['tooSteep'] {
  const rise = (t: Cut['tooSteep'][number]) => Math.abs((sampleAt(cut, t.to) ?? 0) - (sampleAt(cut, t.from) ?? 0));
  const out: Cut['tooSteep'] = [];
  for (const t of [...cut.tooSteep].sort((a, b) => rise(b) - rise(a))) {
    if (rise(t) < 0.5 || out.length >= 4) break;
    if (out.every((o) => Math.abs(o.from - t.from) * px > 120)) out.push(t);
  }
  return out;
}

function Figure({ x, y, h }: { x: number; y: number; h: number }) {
  return (
    <g transform={`translate(${x.toFixed(1)} ${y.toFixed(1)}) scale(${(h / 100).toFixed(4)})`} stroke="#f6f7f4" strokeWidth={(1.2 * 100) / h} paintOrder="stroke" fill="#b3402a">
      <path d="M-9 0L-7 -48L-14 -50L-11 -82H11L14 -50L7 -48L9 0H3L0 -44L-3 0z" />
      <circle cx="0" cy="-92" r="8" />
    </g>
  );
}

/** The overview thread: the whole line, with the window marked. */
function Thread({ whole, from, to, width, onMove }: { whole: Cut; from: number; to: number; width: number; onMove?: (s: number) => void }) {
  const g = whole.ground;
  if (g.length < 4) return null;
  const w = Math.min(250, width * 0.32);
  const x0 = width - w - 12;
  const first = g[0];
  const last = g[g.length - 2];
  const k = w / (last - first);
  const range = Math.max(whole.high - whole.low, 1);
  let d = '';
  const stride = Math.max(2, Math.floor(g.length / 160) * 2);
  for (let i = 0; i < g.length; i += stride) d += `${d ? 'L' : 'M'}${(x0 + (g[i] - first) * k).toFixed(1)} ${(18 - ((g[i + 1] - whole.low) / range) * 12).toFixed(1)}`;
  return (
    <g style={{ cursor: onMove ? 'pointer' : 'default' }} onPointerDown={(e) => {
      if (!onMove) return;
      e.stopPropagation();
      const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
      onMove(first + (e.clientX - box.left - x0) / k);
    }}>
      <rect x={x0 - 4} y={1} width={w + 8} height={22} fill="#f6f7f4" />
      <path d={d} fill="none" stroke="#4c5752" strokeWidth={1} />
      <rect x={x0 + (Math.max(from, first) - first) * k} y={3} width={Math.max(3, (Math.min(to, last) - Math.max(from, first)) * k)} height={18} fill="none" stroke="#17211f" strokeWidth={1.75} />
      <text className="fig" x={x0 - 8} y={16} textAnchor="end" fontSize={12} fill="#4c5752">{`${(Math.max(0, Math.min(to, last) - Math.max(from, first))).toFixed(0)} of ${(last - first).toFixed(0)} m`}</text>
    </g>
  );
}
