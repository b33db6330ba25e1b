import type { Course } from '@rammer/core/cost/drawable';
import { useState } from 'react';
import { BUDGET_SHARE, DEVICES, savesWithout } from '@rammer/core/cost/frame';
import { settingsOf } from '@rammer/core/level/level';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { COST_SCOPES, useSpending, type CostScope, type WallUnit } from '../store/spending';
import type { LevelView } from '../view/LevelView';
import { FOLLOW_FRAMES, useDrawnFrame } from '../view/useFrame';
import { bandsOf, spendOf, totalOf, type Band } from './spend';

const UNITS: { id: WallUnit; name: string; unit: string }[] = [
  { id: 'frame', name: 'frame time', unit: 'ms' },
  { id: 'triangles', name: 'triangles', unit: '' },
  { id: 'draws', name: 'draw calls', unit: '' },
  { id: 'memory', name: 'memory', unit: 'MB' },
];

const COLOUR: Record<Course, string> = {
  base: '#49524f',
  terrain: '#6f6a5a',
  blocks: '#857d69',
  kit: '#85603f',
  plants: '#5f6b36',
  water: '#3f6f7c',
  haze: '#7b8079',
  shadows: '#565e6a',
};
/** A pattern each, so that a course is known without its colour. */
const PATTERN: Record<Course, string> = {
  base: '',
  terrain: 'M0 3H8',
  blocks: 'M0 2h5M0 6h3',
  kit: 'M0 0H8M4 0V4M0 4H8M0 4V8',
  plants: 'M1 6L3 2L5 6',
  water: 'M0 4C2 2 2 6 4 4S6 2 8 4',
  haze: 'M0 2h2M4 6h2',
  shadows: 'M0 8L8 0',
};

/**
 * The budget wall: what is spent, as courses of rammed earth under the budget line. Counts are those of
 * the batch list the view draws; the shadow pass is the target device's, modelled. A click opens a
 * course into its spenders.
 *
 * @param narrow only the stack and the sum, on a small screen
 */
export function Wall({ session, view, height, narrow = false }: { session: Session; view: LevelView; height: number; narrow?: boolean }) {
  useDrawnFrame(view, FOLLOW_FRAMES);
  useSession(session);
  const unit = useSpending((s) => s.wallUnit);
  const scope = useSpending((s) => s.costScope);
  const before = useSpending((s) => s.before);
  const without = useSpending((s) => s.without);
  const [pointed, point] = useState<Band>();
  const [opened, open] = useState<ReadonlySet<Course>>(new Set());
  const device = DEVICES[settingsOf(session.level).device];
  const spend = spendOf(scope, view, session.level, device, session.terrain.grid.spacing);
  const { frame, sums } = spend;
  const shadows = sums.byCourse.shadows;
  const budget = device.target * BUDGET_SHARE;
  // Where the device ends, and the line a level keeps to; counts have none.
  const end = unit === 'frame' ? device.target : unit === 'memory' ? device.memory : undefined;
  const line = end === undefined ? undefined : end * BUDGET_SHARE;
  const { bands, rest } = bandsOf(unit, spend, device, opened);
  const total = totalOf(unit, spend);
  const chosen = UNITS.find((u) => u.id === unit)!;
  const room = Math.max(60, height - (narrow ? 74 : 252));
  // With a budget its line has a fixed place, three quarters up; without one the stack fills the wall.
  const full = line !== undefined ? line / 0.75 : Math.max(total, before?.tops[unit] ?? 0) || 1;
  const px = room / full;
  const over = line !== undefined && total > line;
  const broken = line !== undefined && total * px > room;
  const part = pointed && (sums.bySpender.get(pointed.key)?.sum ?? sums.byCourse[pointed.course]);
  const stack = stackOf(bands, px, room);
  // Courses too thin for a label of their own are named above the stack, the greatest of them.
  const narrowBands = stack
    .filter((s) => s.h <= LABEL_PX)
    .map((s) => s.band)
    .reverse();
  const named = new Set([...narrowBands].sort((a, b) => b.value - a.value).slice(0, 4));
  const thin = narrowBands.filter((b) => named.has(b));
  const heights = namesOver(topOf(stack, room), thin.length, line === undefined ? undefined : room + 8 - line * px);
  const ghost = before ? Math.min(room, before.tops[unit] * px) : undefined;
  const toggle = (course: Course) =>
    open((old) => {
      const next = new Set(old);
      if (!next.delete(course)) next.add(course);
      return next;
    });

  if (narrow) {
    return (
      <aside aria-label="budget" className="own-layer h-full py-2" style={{ background: 'var(--raised)' }} data-testid="wall" data-total={total}>
        <div className="fig text-center text-[17px] font-semibold" style={{ color: over ? 'var(--oxide)' : undefined }}>
          {over ? '▲' : ''}
          {show(total, unit)}
        </div>
        <div className="label text-center text-[12px] leading-4">{unit === 'frame' ? 'ms est.' : chosen.unit || unit}</div>
        <svg width={56} height={room + 20} role="img" aria-label={bands.map((c) => `${c.name} ${show(c.value, unit)}`).join(', ')}>
          <defs>
            {(Object.keys(COLOUR) as Course[]).map((c) => (
              <pattern key={c} id={`course-${c}`} width="8" height="8" patternUnits="userSpaceOnUse">
                <rect width="8" height="8" fill={COLOUR[c]} />
                <path d={PATTERN[c]} stroke="#fff" strokeOpacity="0.18" fill="none" />
              </pattern>
            ))}
          </defs>
          {stack.map(({ band: c, y, h }) => (
            <rect key={c.key} x={10} y={y} width={36} height={Math.max(h - 1, 0.5)} fill={`url(#course-${c.course})`}>
              <title>{`${c.name}: ${show(c.value, unit)}`}</title>
            </rect>
          ))}
          {unit === 'frame' && <path d={`M4 ${room + 8 - budget * px}H52`} stroke="var(--ink)" strokeWidth={3} />}
          <path d={`M6 ${room + 8}H50`} stroke="var(--ink)" strokeWidth={2} />
        </svg>
      </aside>
    );
  }
  return (
    <aside
      aria-label="budget"
      className="own-layer flex h-full flex-col px-2 py-2"
      style={{ background: 'var(--raised)' }}
      data-testid="wall"
      data-total={total}
    >
      <label className="sr-only" htmlFor="device">
        target device
      </label>
      <select
        id="device"
        className="select-plain fig -ml-1 bg-transparent text-[14px] font-semibold"
        value={settingsOf(session.level).device}
        disabled={!session.writable}
        onChange={(e) =>
          session.commit(
            { kind: 'set', patches: [{ id: 'settings', set: { device: e.target.value } }] },
            `target ${DEVICES[e.target.value as keyof typeof DEVICES].name}`,
          )
        }
      >
        {Object.entries(DEVICES).map(([id, d]) => (
          <option key={id} value={id}>
            {d.name}
          </option>
        ))}
      </select>
      <label className="sr-only" htmlFor="wall-unit">
        what the budget shows
      </label>
      <select id="wall-unit" className="-ml-1 bg-transparent" value={unit} onChange={(e) => useSpending.setState({ wallUnit: e.target.value as WallUnit })}>
        {UNITS.map((u) => (
          <option key={u.id} value={u.id}>
            {u.name}
          </option>
        ))}
      </select>
      <label className="sr-only" htmlFor="wall-scope">
        where it is measured
      </label>
      <select
        id="wall-scope"
        className="label -ml-1 bg-transparent"
        value={scope}
        onChange={(e) => useSpending.setState({ costScope: e.target.value as CostScope })}
      >
        {COST_SCOPES.map((s) => (
          <option key={s}>{s}</option>
        ))}
      </select>
      <div className="fig pl-1 text-[24px] font-semibold leading-7" style={{ color: over ? 'var(--oxide)' : undefined }}>
        {show(total, unit)}
        <span className="text-[14px] font-medium">
          {' '}
          {unit === 'frame' ? `of ${budget.toFixed(1)} ms` : unit === 'memory' ? `of ${Math.round(line! / 1e6)} MB` : chosen.unit}
        </span>
      </div>
      <div className="label h-[18px] whitespace-nowrap pl-1">
        {unit === 'frame' && (
          <>
            {over ? `over by ${frame.governs}` : `${frame.governs}-bound`},{' '}
            <a href="/docs/numbers.md" target="_blank" rel="noreferrer" className="underline" title="the coefficients it is estimated by">
              estimate
            </a>
          </>
        )}
      </div>
      <div className="h-[18px] truncate pl-1" title={spend.place?.name}>
        {spend.place && <span className="label">{spend.place.name}</span>}
        {without.size > 0 && (
          <button className="underline" onClick={() => useSpending.setState({ without: new Set() })}>
            {without.size} taken out
          </button>
        )}
      </div>
      <svg width={130} height={room + 20} className="mt-1" role="img" aria-label={bands.map((c) => `${c.name} ${show(c.value, unit)}`).join(', ')}>
        <defs>
          {(Object.keys(COLOUR) as Course[]).map((c) => (
            <pattern key={c} id={`course-${c}`} width="8" height="8" patternUnits="userSpaceOnUse">
              <rect width="8" height="8" fill={COLOUR[c]} />
              <path d={PATTERN[c]} stroke="#fff" strokeOpacity="0.18" fill="none" />
            </pattern>
          ))}
        </defs>
        {stack.map(({ band: c, y, h }) => (
          <g
            key={c.key}
            data-course={c.key}
            style={{ cursor: 'pointer' }}
            onPointerEnter={() => point(c)}
            onPointerLeave={() => point(undefined)}
            onClick={() => toggle(c.course)}
          >
            <rect x={14} y={y} width={102} height={Math.max(h - 1, 0.5)} fill={`url(#course-${c.course})`}>
              <title>{`${c.name}: ${show(c.value, unit)}${c.course === 'shadows' ? ", the target device's shadow pass" : ''}`}</title>
            </rect>
            {h > LABEL_PX && (
              <text x={20} y={y + h / 2 + 4} fontSize={13} fill="#fff" fontWeight={500}>
                {c.name === 'others' ? `${rest} more` : c.name.length > 11 ? `${c.name.slice(0, 10)}…` : c.name}
              </text>
            )}
            {h > LABEL_PX && (
              <text className="fig" x={111} y={y + h / 2 + 5} fontSize={14} textAnchor="end" fill="#fff">
                {show(c.value, unit)}
              </text>
            )}
          </g>
        ))}
        {broken && <path d={`M10 17L40 11L70 17L100 11L120 15`} fill="none" stroke="var(--raised)" strokeWidth={5} />}
        {broken && <path d={`M10 17L40 11L70 17L100 11L120 15`} fill="none" stroke="var(--oxide)" strokeWidth={2} />}
        {thin.map((t, i, list) => (
          <text
            key={t.key}
            className="fig"
            x={14}
            y={heights[list.length - 1 - i]}
            fontSize={12}
            fill="var(--ink-2)"
          >{`${t.name} ${show(t.value, unit)}`}</text>
        ))}
        {ghost !== undefined && (
          <path d={`M12 ${room + 8}V${room + 8 - ghost}H118V${room + 8}`} fill="none" stroke="var(--ink)" strokeDasharray="3 3">
            <title>{`before: ${show(before!.tops[unit], unit)}`}</title>
          </path>
        )}
        <path d={`M8 ${room + 8}H122`} stroke="var(--ink)" strokeWidth={2} />
        {line !== undefined && end !== undefined && (
          <g>
            <path d={`M4 ${room + 8 - line * px}H126`} stroke="var(--raised)" strokeWidth={6} />
            <path d={`M4 ${room + 8 - line * px}H126`} stroke="var(--ink)" strokeWidth={3} />
            <text
              fill="var(--ink)"
              className="fig"
              x={126}
              y={room + 2 - line * px}
              textAnchor="end"
              fontSize={12}
              stroke="var(--raised)"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {unit === 'frame' ? `budget ${budget.toFixed(1)}` : `budget ${Math.round(line / 1e6)}`}
            </text>
            {/* To the right: the names of thin courses stand on the left, and may come up to here. */}
            <path d={`M126 ${room + 8 - end * px}h-6`} stroke="var(--ink)" />
            <text
              className="fig"
              x={118}
              y={room + 12 - end * px}
              textAnchor="end"
              fontSize={12}
              fill="var(--ink-2)"
              stroke="var(--raised)"
              strokeWidth={3}
              paintOrder="stroke"
            >
              {unit === 'frame' ? `target ${device.target}` : `has ${Math.round(end / 1e6)}`}
            </text>
          </g>
        )}
      </svg>
      <div className="fig h-[34px] overflow-hidden pl-1 text-[13px] leading-[17px]" aria-live="polite">
        {part && pointed!.course !== 'base'
          ? `${pointed!.name} off saves ${savesWithout(device, sums.all, part).toFixed(2)} ms`
          : before
            ? `before ${show(before.tops[unit], unit)}`
            : ''}
      </div>
      <ul className="label mt-auto space-y-0 pl-1 leading-4" aria-label="all counts of this view">
        <li className="fig text-[13px]">{show(sums.all.triangles - (shadows?.triangles ?? 0), 'triangles')} triangles</li>
        <li className="fig text-[13px]">{sums.all.draws - (shadows?.draws ?? 0)} draw calls</li>
        {shadows && (
          <li className="fig whitespace-nowrap text-[13px]" title="drawn again by the target device for its shadows">
            + {show(shadows.triangles, 'triangles')} in shadows
          </li>
        )}
        <li className="fig text-[13px]">{show(sums.all.bytes, 'memory')} MB</li>
      </ul>
    </aside>
  );
}

/** Where each course lies in the drawing, bottom first; a stack beyond the room is cut off at its top. */
function stackOf(bands: Band[], px: number, room: number): { band: Band; y: number; h: number }[] {
  const tops = bands.reduce<number[]>((sums, c) => [...sums, Math.min(room, (sums[sums.length - 1] ?? 0) + c.value * px)], []);
  return bands.map((band, i) => ({ band, y: room + 8 - tops[i], h: tops[i] - (tops[i - 1] ?? 0) }));
}

/** Least height of a course that can hold its own label, pixels. */
const LABEL_PX = 17;

/** Where names stand over a stack, the lowest first: none across the line of the budget. */
function namesOver(top: number, count: number, line?: number): number[] {
  const out: number[] = [];
  for (let y = top - 5; out.length < count; y -= 14) {
    if (line !== undefined && y > line - 6 && y - 11 < line + 4) y = line - 6;
    out.push(y);
  }
  return out;
}

const topOf = (stack: { y: number }[], room: number): number => Math.min(room + 8, ...stack.map((s) => s.y));

export function show(value: number, unit: WallUnit): string {
  if (unit === 'memory') return (value / 1e6).toFixed(1);
  if (unit === 'frame') return value.toFixed(value < 0.1 ? 2 : 1);
  return String(Math.round(value)).replace(/\B(?=(\d{3})+$)/g, '\u202f');
}
