import { useMemo, useRef, useState, type PointerEvent } from 'react';
import { routeLine } from '@rammer/core/earth/routeLine';
import { heightAt } from '@rammer/core/earth/sample';
import { playerBody } from '@rammer/core/level/level';
import type { Route } from '@rammer/core/level/objects';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { setLift } from '../tools/lifts';
import { mm } from '../tools/things';
import { useVolumes } from '../store/useVolumes';
import type { LevelView } from '../view/LevelView';
import { useGroundBelow } from './useGroundBelow';

const HEADER = 26;
const FOOT = 18;

/** The long profile of a route, unrolled: the ground below it, the way, what is cut and filled, its points to be dragged up and down. */
export function LongProfile({ session, view, route, width, height }: { session: Session; view: LevelView; route: Route; width: number; height: number }) {
  const revision = useSession(session);
  const volume = useVolumes(session).get(route.id);
  const drag = useRef<{ index: number; y: number; line: Route['line'] }>(undefined);
  const [draft, setDraft] = useState<Route['line']>();
  const shown = useMemo(() => (draft ? { ...route, line: draft } : route), [draft, route]);
  const way = useMemo(() => routeLine(shown), [shown]);
  const below = useGroundBelow(session, route.id, revision);
  const ground = useMemo(() => {
    const kept = routeLine(route);
    return below && Float64Array.from({ length: kept.count }, (_, i) => heightAt(below, kept.x[i], kept.z[i]));
  }, [below, route]);
  const long = way.step * (way.count - 1);
  const body = playerBody(session.level).figures;

  const heights = [...way.y, ...(ground ?? []), ...shown.line.map((p) => p[1])];
  const [low, high] = [Math.min(...heights), Math.max(...heights) + body.height];
  const px = Math.min((width - 60) / Math.max(long, 1), (height - HEADER - FOOT - 8) / Math.max(high - low, 1));
  const x0 = (width - long * px) / 2;
  const x = (i: number) => x0 + i * way.step * px;
  const y = (h: number) => height - FOOT - 4 - (h - low) * px;
  const line = (values: ArrayLike<number>) => Array.from({ length: values.length }, (_, i) => `${x(i).toFixed(1)} ${y(values[i]).toFixed(1)}`).join('L');
  const between =
    ground &&
    `M${line(way.y)}L${Array.from({ length: ground.length }, (_, k) => {
      const i = ground.length - 1 - k;
      return `${x(i).toFixed(1)} ${y(ground[i]).toFixed(1)}`;
    }).join('L')}z`;
  let steepest = 0;
  for (let i = 1; i < way.count; i++) steepest = Math.max(steepest, Math.abs(way.y[i] - way.y[i - 1]) / way.step);
  const at = shown.line.map(([px_, , pz]) => {
    let best = 0;
    let d = Infinity;
    for (let i = 0; i < way.count; i++) {
      const e = (way.x[i] - px_) ** 2 + (way.z[i] - pz) ** 2;
      if (e < d) {
        d = e;
        best = i;
      }
    }
    return best;
  });

  const move = (e: PointerEvent<SVGElement>) => {
    const d = drag.current;
    if (!d) return;
    const next = d.line.map((p, i): Route['line'][number] => (i === d.index ? [p[0], mm(p[1] - (e.clientY - d.y) / px), p[2]] : p));
    setDraft(next);
    const rect = session.scene.terrain.preview(new Map([[route.id, { ...route, line: next }]]));
    if (rect) view.terrainPreview(rect);
  };
  const end = () => {
    if (drag.current && draft) setLift(session, route, { line: draft }, `height of a point of ${route.name}`);
    drag.current = undefined;
    setDraft(undefined);
    const rect = session.scene.terrain.preview();
    if (rect) view.terrainPreview(rect);
  };
  const m3 = (v: number) => `${Math.round(v).toLocaleString('en').replace(/,/g, '\u202f')} m³`;

  return (
    <div
      className="own-layer relative overflow-hidden"
      style={{ height, background: 'var(--raised)' }}
      data-testid="long-profile"
      data-steepest={(steepest * 100).toFixed(2)}
    >
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`Long profile of ${route.name}, ${long.toFixed(1)} m, steepest ${(steepest * 100).toFixed(1)} %`}
      >
        <defs>
          <pattern id="profile-fill" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V6" stroke="var(--fill)" strokeWidth="2.5" />
          </pattern>
          <pattern id="profile-cut" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(-45)">
            <path d="M0 0V6" stroke="var(--cut)" strokeWidth="1.2" />
          </pattern>
          {ground && (
            <clipPath id="profile-under">
              <path d={`M${line(ground)}V${height}H${x(0)}z`} />
            </clipPath>
          )}
          {ground && (
            <clipPath id="profile-over">
              <path d={`M${line(ground)}V0H${x(0)}z`} />
            </clipPath>
          )}
        </defs>
        {between && <path d={between} fill="url(#profile-fill)" clipPath="url(#profile-over)" />}
        {between && <path d={between} fill="url(#profile-cut)" clipPath="url(#profile-under)" />}
        {ground && <path d={`M${line(ground)}`} fill="none" stroke="var(--ink)" strokeDasharray="4 3" />}
        <path d={`M${line(way.y)}`} fill="none" stroke="var(--ink)" strokeWidth="2" />
        <g transform={`translate(${x(0) - 14} ${y(way.y[0])}) scale(${(body.height * px) / 100})`} fill="var(--oxide)">
          <path d="M-9 0L-7 -48L-14 -50L-11 -82H11L14 -50L7 -48L9 0H3L0 -44L-3 0z" />
          <circle cy={-92} r={8} />
        </g>
        {at.slice(1).map((to, k) => {
          const from = at[k];
          const run = (to - from) * way.step;
          if (run * px < 34) return null;
          const grade = ((way.y[to] - way.y[from]) / Math.max(run, 0.01)) * 100;
          return (
            <text
              key={k}
              className="fig"
              x={(x(from) + x(to)) / 2}
              y={height - 5}
              textAnchor="middle"
              fontSize="13"
              fontWeight="600"
              fill="var(--ink)"
            >{`${grade >= 0 ? '+' : '−'}${Math.abs(grade).toFixed(1)} %`}</text>
          );
        })}
        {at.map((i, k) => (
          <path key={`t${k}`} d={`M${x(i)} ${height - FOOT}v4`} stroke="var(--ink)" />
        ))}
        {shown.line.map((p, k) => (
          <g key={`p${k}`}>
            <path d={`M${x(at[k])} ${y(p[1])}V${y(way.y[at[k]])}`} stroke="var(--blue)" strokeDasharray="2 2" />
            <circle
              cx={x(at[k])}
              cy={y(p[1])}
              r={5.5}
              fill="var(--raised)"
              stroke="var(--blue)"
              strokeWidth="2"
              style={{ cursor: 'ns-resize' }}
              data-handle={`height ${k + 1}`}
              onPointerDown={(e) => {
                if (route.locked) return;
                e.currentTarget.setPointerCapture(e.pointerId);
                drag.current = { index: k, y: e.clientY, line: route.line };
              }}
              onPointerMove={move}
              onPointerUp={end}
            >
              <title>{`point ${k + 1}, ${p[1].toFixed(2)} m: drag for its height`}</title>
            </circle>
          </g>
        ))}
      </svg>
      <h2 className="absolute left-3 top-1 m-0 text-[13px] font-semibold">
        {route.name}{' '}
        <span className="label font-normal">{`long profile, ${long.toFixed(1)} m, steepest ${(steepest * 100).toFixed(1)} % of ${route.grade} %`}</span>
      </h2>
      <p className="fig absolute right-3 top-1 m-0" style={{ borderBottom: volume ? undefined : '1px dashed' }}>
        {volume ? `cut ${m3(volume.cut)}, fill ${m3(volume.fill)}` : 'cut and fill …'}
      </p>
    </div>
  );
}
