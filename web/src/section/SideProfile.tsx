import { useState, type PointerEvent } from 'react';
import { crossSection, landformProfile } from '@rammer/core/earth/lifts/landform';
import { heightAt } from '@rammer/core/earth/sample';
import { playerBody } from '@rammer/core/level/level';
import type { Landform } from '@rammer/core/level/objects';
import { slopeDeg } from '@rammer/core/num/trig';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { setLift } from '../tools/lifts';
import { useVolumes } from '../store/useVolumes';
import type { LevelView } from '../view/LevelView';
import { useGroundBelow } from './useGroundBelow';

const HEADER = 26;
const FOOT = 18;
/** Ground shown on either side of the landform, metres. */
const BESIDE = 6;

/** The side profile of a landform in the ground it stands in, the same scale both ways: its crest is dragged for height and foot distance. */
export function SideProfile({ session, view, lift, width, height }: { session: Session; view: LevelView; lift: Landform; width: number; height: number }) {
  const revision = useSession(session);
  const volume = useVolumes(session).get(lift.id);
  const below = useGroundBelow(session, lift.id, revision);
  const body = playerBody(session.level).figures;
  const [draft, setDraft] = useState<Pick<Landform, 'height' | 'foot'>>();
  // The scale as it was when the crest was taken: it stays under the pointer.
  const [held, setHeld] = useState<{ low: number; px: number }>();
  const shown = draft ? { ...lift, ...draft } : lift;
  const {
    at: [cx, cz],
    way: [dx, dz],
    from,
    to,
  } = crossSection(lift);
  const half = (to - from) / 2;
  const [s0, s1] = [from - BESIDE, to + BESIDE];
  const count = 241;
  const along = Array.from({ length: count }, (_, i) => s0 + ((s1 - s0) * i) / (count - 1));
  const over = (t: Parameters<typeof heightAt>[0]) => along.map((s) => heightAt(t, cx + dx * s, cz + dz * s));
  const now = over(session.terrain);
  const ground = below && over(below);
  const sign = lift.cut ? -1 : 1;
  const crest = Math.min(shown.foot, half);
  const share = landformProfile(shown, crest);
  const groundAt = (s: number) => heightAt(below ?? session.terrain, cx + dx * s, cz + dz * s);
  const top = groundAt(from + crest) + sign * shown.height * share;

  const heights = [...now, ...(ground ?? []), top];
  const fits = () => {
    const [low, high] = [Math.min(...heights), Math.max(...heights) + body.height];
    return { low, px: Math.min((width - 60) / (s1 - s0), (height - HEADER - FOOT - 8) / Math.max(high - low, 1)) };
  };
  const { low, px } = held ?? fits();
  const x = (s: number) => (width - (s1 - s0) * px) / 2 + (s - s0) * px;
  const y = (h: number) => height - FOOT - 4 - (h - low) * px;
  const path = (values: readonly number[]) => values.map((h, i) => `${x(along[i]).toFixed(1)} ${y(h).toFixed(1)}`).join('L');

  const show = (next?: Pick<Landform, 'height' | 'foot'>) => {
    const rect = session.scene.terrain.preview(next && new Map([[lift.id, { ...lift, ...next }]]));
    if (rect) view.terrainPreview(rect);
    setDraft(next);
  };
  const move = (e: PointerEvent<SVGElement>) => {
    if (!held) return;
    const box = e.currentTarget.ownerSVGElement!.getBoundingClientRect();
    const s = s0 + (e.clientX - box.left - x(s0)) / px;
    const foot = Number(Math.min(half, Math.max(0.05, s - from)).toFixed(2));
    const tall = (sign * (low + (height - FOOT - 4 - (e.clientY - box.top)) / px - groundAt(from + foot))) / landformProfile({ ...lift, foot }, foot);
    show({ foot, height: Number(Math.min(500, Math.max(0.05, tall)).toFixed(2)) });
  };
  const end = () => {
    if (held && draft) setLift(session, lift, { ...draft }, `crest of ${lift.name}`);
    setHeld(undefined);
    show(undefined);
  };
  const batter = slopeDeg(shown.height / shown.foot);
  const m3 = (v: number) => `${Math.round(v).toLocaleString('en').replace(/,/g, '\u202f')} m³`;
  const dim = (s: number, a: number, b: number, text: string, side: number) => (
    <g key={text}>
      <path d={`M${x(s)} ${y(a)}V${y(b)}M${x(s) - 4} ${y(a)}h8M${x(s) - 4} ${y(b)}h8`} stroke="var(--ink)" />
      <text
        className="fig"
        x={x(s) + 6 * side}
        y={(y(a) + y(b)) / 2 + 4}
        textAnchor={side > 0 ? 'start' : 'end'}
        fontSize="13"
        fontWeight="600"
        fill="var(--ink)"
        stroke="var(--raised)"
        strokeWidth="4"
        paintOrder="stroke"
      >
        {text}
      </text>
    </g>
  );

  return (
    <div
      className="own-layer relative overflow-hidden"
      style={{ height, background: 'var(--raised)' }}
      data-testid="side-profile"
      data-ground={below ? 'below' : undefined}
    >
      <svg
        width={width}
        height={height}
        style={{ touchAction: 'none' }}
        role="img"
        aria-label={
          `Side profile of ${lift.name}: ${lift.cut ? 'cut' : 'heap'} ${shown.height} ` +
          `m ${lift.cut ? 'deep' : 'high'}, its foot ${shown.foot} m wide, beside a ${body.height} m figure`
        }
      >
        <defs>
          <pattern id="landform-earth" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V8" stroke="var(--hair)" />
          </pattern>
        </defs>
        <path d={`M${path(now)}V${height}H${x(s0)}z`} fill="url(#landform-earth)" />
        {ground && <path d={`M${path(ground)}`} fill="none" stroke="var(--ink)" strokeDasharray="4 3" />}
        <path d={`M${path(now)}`} fill="none" stroke="var(--ink)" strokeWidth="2" />
        <g transform={`translate(${x(s0) + 12} ${y(now[4])}) scale(${(body.height * px) / 100})`} fill="var(--oxide)">
          <path d="M-9 0L-7 -48L-14 -50L-11 -82H11L14 -50L7 -48L9 0H3L0 -44L-3 0z" />
          <circle cy={-92} r={8} />
        </g>
        {dim(from + crest, groundAt(from + crest), top, `${(shown.height * share).toFixed(2)} m`, 1)}
        <path
          d={`M${x(from)} ${height - FOOT + 2}H${x(from + crest)}M${x(from)} ${height - FOOT - 2}v8M${x(from + crest)} ${height - FOOT - 2}v8`}
          stroke="var(--ink)"
        />
        <text
          className="fig"
          x={x(from + crest) + 6}
          y={height - FOOT + 6}
          fontSize="13"
          fontWeight="600"
          fill="var(--ink)"
          stroke="var(--raised)"
          strokeWidth="4"
          paintOrder="stroke"
        >{`foot ${shown.foot.toFixed(2)} m`}</text>
        {!lift.locked && session.writable && (
          <circle
            cx={x(from + crest)}
            cy={y(top)}
            r={6.5}
            fill="var(--raised)"
            stroke="var(--blue)"
            strokeWidth="2"
            style={{ cursor: 'move' }}
            data-handle="crest"
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              setHeld({ low, px });
            }}
            onPointerMove={move}
            onPointerUp={end}
          >
            <title>crest: drag for height and foot</title>
          </circle>
        )}
      </svg>
      <h2 className="absolute left-3 top-1 m-0 text-[13px] font-semibold">
        {lift.name}{' '}
        <span className="label font-normal">
          {`side profile, ${(to - from).toFixed(1)} m across, ` + `${batter.toFixed(0)}° batter${batter > body.maxSlope ? ', too steep to walk' : ''}`}
        </span>
      </h2>
      <p className="fig absolute right-3 top-1 m-0" style={{ borderBottom: volume ? undefined : '1px dashed' }}>
        {volume ? `cut ${m3(volume.cut)}, fill ${m3(volume.fill)}` : 'cut and fill …'}
      </p>
    </div>
  );
}
