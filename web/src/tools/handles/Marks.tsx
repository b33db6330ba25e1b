import type { RefObject } from 'react';
import { presentMarkers } from '@rammer/core/level/level';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { usePointer } from '../../store/pointer';
import { useUi } from '../../store/ui';
import { useWalkArea } from '../../store/walkArea';
import type { Tool } from '../tool';
import type { LevelView } from '../../view/LevelView';
import { poseToText } from '../../view/rig';
import { useDrawnFrame } from '../../view/useFrame';

/** Marks over the view: tool rings and labels, markers, the way, the north arrow, the scale bar. Double strokes, so that they read on grass and on rock. */
export function Marks({ session, view, tool }: { session: Session; view: LevelView; tool: RefObject<Tool | undefined> }) {
  useDrawnFrame(view);
  const mode = useUi((s) => s.mode);
  const hover = usePointer((s) => s.hover);
  const reach = useWalkArea((s) => s.areas?.reach);
  const stale = useWalkArea((s) => s.stale);
  const overlay = useUi((s) => s.overlay);
  const stage = useUi((s) => s.stage);
  const { drawn } = view;
  const line = (points: Vec3[]): string => {
    let out = '';
    let pen = 'M';
    for (const p of points) {
      const s = view.project(p);
      if (!s) {
        pen = 'M';
        continue;
      }
      out += `${pen}${s.x.toFixed(1)} ${s.y.toFixed(1)}`;
      pen = 'L';
    }
    return out;
  };
  const showWay = reach && (overlay === 'walk area' || stage === 'play');
  const times = view.governor.times;
  const last = times[times.length - 1];
  return (
    <>
      <svg data-testid="marks" className="own-layer pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
        {showWay && reach.path.length > 1 && (
          <g fill="none" strokeLinejoin="round" opacity={stale ? 0.55 : 1}>
            <path d={line(reach.path.map(([x, y, z]) => [x, y + 0.15, z]))} stroke="var(--raised)" strokeWidth={6} />
            <path
              d={line(reach.path.map(([x, y, z]) => [x, y + 0.15, z]))}
              stroke={reach.reached ? 'var(--ink)' : 'var(--oxide)'}
              strokeWidth={2.5}
              strokeDasharray={stale ? '3 5' : '9 4'}
            />
          </g>
        )}
        {showWay && reach.stop?.at && <StopMark at={view.project([reach.stop.at[0], reach.stop.at[1] + 0.9, reach.stop.at[2]])} />}
        {spread(
          presentMarkers(session.level).flatMap((m) => {
            if (m.hidden) return [];
            const foot = view.project(m.at);
            const top = view.project([m.at[0], m.at[1] + 3, m.at[2]]);
            // Threats are told by their figure; their flag and name belong to stage Play.
            if (!foot || !top || (m.marker === 'threat' && stage !== 'play')) return [];
            return [{ m, foot, top, text: stage === 'play' && m.name !== m.marker ? `${m.marker}: ${m.name}` : m.marker }];
          }),
        ).map(({ m, foot, top, text, drop }) => {
          return (
            <g key={m.id}>
              <path d={`M${foot.x} ${foot.y}L${top.x} ${top.y}`} stroke="var(--raised)" strokeWidth={5} />
              <path d={`M${foot.x} ${foot.y}L${top.x} ${top.y}`} stroke="var(--ink)" strokeWidth={2} />
              {m.marker === 'entry' ? (
                <path d={`M${top.x} ${top.y}l15 6l-15 6z`} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.5} />
              ) : m.marker === 'threat' ? (
                <path d={`M${top.x} ${top.y}l15 0l-7.5 12z`} fill="var(--ochre)" stroke="var(--ink)" strokeWidth={1.5} />
              ) : (
                <path d={`M${top.x} ${top.y}h16l-4 6l4 6h-16z`} fill="var(--ink)" stroke="var(--raised)" strokeWidth={1.5} />
              )}
              <Label x={top.x + 20} y={top.y + 10 + drop} text={text} anchor="start" />
            </g>
          );
        })}
        {hover && mode === 'orbit' && tool.current?.marks === undefined && <StaffLabel view={view} at={hover.point} />}
        {tool.current?.marks?.().map((m, i) => {
          if (m.kind === 'ring') {
            const d = line(m.points);
            return (
              <g key={i} fill="none">
                <path d={d} stroke="var(--raised)" strokeWidth={m.dashed ? 3 : 4.5} strokeDasharray={m.dashed ? '6 5' : undefined} />
                <path d={d} stroke="var(--ink)" strokeWidth={m.dashed ? 1 : 2} strokeDasharray={m.dashed ? '6 5' : undefined} />
              </g>
            );
          }
          const s = view.project(m.at);
          return s ? <Label key={i} x={s.x} y={s.y - 12} text={m.text} /> : null;
        })}
        {mode === 'walk' && <path d={`M${view.width / 2 - 7} ${view.height / 2}h14m-7 -7v14`} stroke="var(--raised)" strokeWidth={3} />}
        {mode === 'walk' && <path d={`M${view.width / 2 - 7} ${view.height / 2}h14m-7 -7v14`} stroke="var(--ink)" strokeWidth={1} />}
        <North view={view} />
        {mode === 'plan' && <ScaleBar view={view} />}
      </svg>
      <output
        className="hidden"
        data-testid="drawn"
        data-list-draws={drawn?.listed.draws}
        data-list-triangles={drawn?.listed.triangles}
        data-drawn-draws={drawn?.counted.draws}
        data-drawn-triangles={drawn?.counted.triangles}
        data-frame-ms={last?.whole.toFixed(1)}
        data-own-ms={last?.own.toFixed(2)}
        data-frames={view.governor.count}
        data-recent={times
          .slice(-60)
          .map((t) => `${t.whole.toFixed(0)}/${t.own.toFixed(1)}`)
          .join(' ')}
        data-ratio={drawn?.ratio}
        data-pose={poseToText(view.pose)}
      />
    </>
  );
}

/** Labels moved down until none lies on one before it. About 6.5 pixels a letter. */
function spread<T extends { top: { x: number; y: number }; text: string }>(list: T[]): (T & { drop: number })[] {
  const taken: { x: number; y: number; w: number }[] = [];
  return list.map((l) => {
    const w = l.text.length * 6.5;
    let drop = 0;
    while (taken.some((t) => Math.abs(t.y - l.top.y - drop) < 16 && l.top.x < t.x + t.w && t.x < l.top.x + w) && drop < 80) drop += 16;
    taken.push({ x: l.top.x, y: l.top.y + drop, w });
    return { ...l, drop };
  });
}

function StopMark({ at }: { at?: { x: number; y: number } }) {
  if (!at) return null;
  return (
    <g>
      <circle cx={at.x} cy={at.y} r={9} fill="var(--raised)" stroke="var(--oxide)" strokeWidth={3} />
      <path d={`M${at.x - 4} ${at.y - 4}l8 8m0 -8l-8 8`} stroke="var(--oxide)" strokeWidth={3} />
    </g>
  );
}

export function Label({ x, y, text, anchor = 'middle' }: { x: number; y: number; text: string; anchor?: 'start' | 'middle' }) {
  return (
    <text
      className="fig"
      x={x}
      y={y}
      textAnchor={anchor}
      fontSize={13}
      fontWeight={600}
      paintOrder="stroke"
      stroke="var(--raised)"
      strokeWidth={4}
      strokeLinejoin="round"
      fill="var(--ink)"
    >
      {text}
    </text>
  );
}

/** Metre marks beside the staff at the pointer. */
function StaffLabel({ view, at }: { view: LevelView; at: Vec3 }) {
  const top = view.project([at[0], at[1] + 5, at[2]]);
  const foot = view.project(at);
  if (!top || !foot || foot.y - top.y < 26) return null;
  return <Label x={top.x + 13} y={top.y + 8} text="5 m" anchor="start" />;
}

function North({ view }: { view: LevelView }) {
  const yaw = view.pose.view === 'plan' ? 0 : view.pose.yaw;
  return (
    <g transform={`translate(${view.width - 32} 34) rotate(${-yaw})`}>
      <path d="M0 -17L7 9L0 4L-7 9z" fill="var(--ink)" stroke="var(--raised)" strokeWidth={2} paintOrder="stroke" />
      <text fill="var(--ink)" y={-20} textAnchor="middle" className="fig" fontSize={12} paintOrder="stroke" stroke="var(--raised)" strokeWidth={3}>
        N
      </text>
    </g>
  );
}

function ScaleBar({ view }: { view: LevelView }) {
  const ppm = view.pixelsPerMetre(view.pose.target);
  const metres = [1, 2, 5, 10, 20, 50, 100, 200, 500].find((m) => m * ppm >= 80) ?? 1000;
  const w = metres * ppm;
  const y = view.height - 20;
  return (
    <g>
      <rect x={14} y={y - 22} width={w + 20} height={34} fill="var(--raised)" opacity={0.88} />
      <path d={`M24 ${y - 5}v10M24 ${y}h${w}M${24 + w / 2} ${y - 3}v6M${24 + w} ${y - 5}v10`} stroke="var(--ink)" strokeWidth={1.5} fill="none" />
      <text fill="var(--ink)" className="fig" x={24 + w} y={y - 8} textAnchor="end" fontSize={13}>
        {metres} m
      </text>
    </g>
  );
}
