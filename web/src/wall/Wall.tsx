import { COURSES, tally, type Course, type Tally } from '@rammer/core/cost/batches';
import { useState } from 'react';
import { BUDGET_SHARE, DEVICES, frameOf, savesWithout } from '@rammer/core/cost/frame';
import { settingsOf } from '@rammer/core/level/level';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useUi, type WallUnit } from '../store/ui';
import type { LevelView } from '../view/LevelView';
import { FOLLOW_FRAMES, useDrawnFrame } from '../view/useFrame';

const UNITS: { id: WallUnit; name: string; unit: string }[] = [
  { id: 'frame', name: 'frame time', unit: 'ms' },
  { id: 'triangles', name: 'triangles', unit: '' },
  { id: 'draws', name: 'draw calls', unit: '' },
  { id: 'memory', name: 'memory', unit: 'MB' },
];

const COLOUR: Record<Course, string> = { base: '#49524f', terrain: '#6f6a5a', blocks: '#98917e', kit: '#85603f', plants: '#5f6b36', water: '#3f6f7c', shadows: '#565e6a' };
const PATTERN: Partial<Record<Course, string>> = { terrain: 'M0 3H8', blocks: 'M0 2h5M0 6h3', base: '' };

/** The budget wall: what this view draws, as courses of rammed earth. Counts are those of the batch list the view draws. */
export function Wall({ session, view, height }: { session: Session; view: LevelView; height: number }) {
  useDrawnFrame(view, FOLLOW_FRAMES);
  useSession(session);
  const unit = useUi((s) => s.wallUnit);
  const [pointed, point] = useState<Course>();
  const device = DEVICES[settingsOf(session.level).device];
  const sums = tally(view.drawn?.batches ?? []);
  const frame = frameOf(device, sums.all);
  const budget = device.target * BUDGET_SHARE;
  const courses = valuesOf(unit, sums.byCourse, frame.governs, device);
  const total = courses.reduce((s, c) => s + c.value, 0);
  const chosen = UNITS.find((u) => u.id === unit)!;
  const room = Math.max(60, height - 208);
  // With a budget its line has a fixed place, three quarters up; without one the stack fills the wall.
  const full = unit === 'frame' ? budget / 0.75 : total || 1;
  const px = room / full;
  const over = unit === 'frame' && frame.frame > budget;
  const part = pointed ? sums.byCourse[pointed] : undefined;
  const stack = stackOf(courses, px, room);
  // Courses too thin for a label of their own are named above the stack.
  const thin = stack.filter((s) => s.h <= LABEL_PX).map((s) => s.course).reverse();

  return (
    <aside aria-label="budget wall" className="own-layer flex h-full flex-col px-2 py-2" style={{ background: 'var(--raised)' }} data-testid="wall" data-total={total}>
      <label className="sr-only" htmlFor="device">target device</label>
      <select id="device" className="select-plain fig -ml-1 bg-transparent text-[14px] font-semibold" value={settingsOf(session.level).device} disabled={!session.writable}
        onChange={(e) => session.commit({ kind: 'set', patches: [{ id: 'settings', set: { device: e.target.value } }] }, `target ${DEVICES[e.target.value as keyof typeof DEVICES].name}`)}>
        {Object.entries(DEVICES).map(([id, d]) => <option key={id} value={id}>{d.name}</option>)}
      </select>
      <label className="sr-only" htmlFor="wall-unit">what the wall shows</label>
      <select id="wall-unit" className="-ml-1 bg-transparent" value={unit} onChange={(e) => useUi.getState().set({ wallUnit: e.target.value as WallUnit })}>
        {UNITS.map((u) => <option key={u.id} value={u.id}>{u.name}</option>)}
      </select>
      <div className="label pl-1">this view{unit === 'frame' ? `, ${frame.governs}-bound` : ''}</div>
      <div className="fig pl-1 text-[24px] font-semibold leading-7" style={{ color: over ? 'var(--oxide)' : undefined }}>{show(total, unit)}<span className="text-[14px] font-medium"> {unit === 'frame' ? `of ${budget.toFixed(1)} ms` : chosen.unit}</span></div>
      <div className="label h-[18px] pl-1">{unit === 'frame' ? (over ? '▲ over budget, estimate' : 'estimate') : ''}</div>
      <svg width={130} height={room + 20} className="mt-1" role="img" aria-label={courses.map((c) => `${c.course} ${show(c.value, unit)}`).join(', ')}>
        <defs>{courses.map((c) => <pattern key={c.course} id={`course-${c.course}`} width="8" height="8" patternUnits="userSpaceOnUse"><rect width="8" height="8" fill={COLOUR[c.course]} /><path d={PATTERN[c.course] ?? ''} stroke="var(--raised)" strokeOpacity="0.25" /></pattern>)}</defs>
        {stack.map(({ course: c, y, h }) => {
          return (
            <g key={c.course} onPointerEnter={() => point(c.course)} onPointerLeave={() => point(undefined)}>
              <rect x={14} y={y} width={102} height={Math.max(h - 1, 0.5)} fill={`url(#course-${c.course})`}><title>{`${c.course}: ${show(c.value, unit)}`}</title></rect>
              {h > LABEL_PX && <text x={20} y={y + h / 2 + 4} fontSize={13} fill="#fff" fontWeight={500}>{c.course}</text>}
              {h > LABEL_PX && <text className="fig" x={111} y={y + h / 2 + 5} fontSize={14} textAnchor="end" fill="#fff">{show(c.value, unit)}</text>}
            </g>
          );
        })}
        {thin.map((t, i) => (
          <text key={t.course} className="fig" x={14} y={topOf(stack, room) - 5 - (thin.length - 1 - i) * 14} fontSize={12} fill="var(--ink-2)">{`${t.course} ${show(t.value, unit)}`}</text>
        ))}
        <path d={`M8 ${room + 8}H122`} stroke="var(--ink)" strokeWidth={2} />
        {unit === 'frame' && (
          <g>
            <path d={`M4 ${room + 8 - budget * px}H126`} stroke="var(--raised)" strokeWidth={6} />
            <path d={`M4 ${room + 8 - budget * px}H126`} stroke="var(--ink)" strokeWidth={3} />
            <text fill="var(--ink)" className="fig" x={126} y={room + 2 - budget * px} textAnchor="end" fontSize={12} stroke="var(--raised)" strokeWidth={3} paintOrder="stroke">{`budget ${budget.toFixed(1)}`}</text>
            <path d={`M4 ${room + 8 - device.target * px}h8`} stroke="var(--ink)" />
            <text className="fig" x={16} y={room + 12 - device.target * px} fontSize={12} fill="var(--ink-2)">{`target ${device.target}`}</text>
          </g>
        )}
      </svg>
      <div className="fig h-[18px] whitespace-nowrap pl-1 text-[13px]" aria-live="polite">{part ? `${pointed} off saves ${savesWithout(device, sums.all, part).toFixed(2)} ms` : ''}</div>
      <ul className="label mt-auto space-y-0 pl-1 leading-4" aria-label="all counts of this view">
        <li className="fig text-[13px]">{show(sums.all.triangles, 'triangles')} triangles</li>
        <li className="fig text-[13px]">{sums.all.draws} draw calls</li>
        <li className="fig text-[13px]">{show(sums.all.bytes, 'memory')} MB</li>
      </ul>
    </aside>
  );
}

/** Where each course lies in the drawing, bottom first; a stack beyond the room is cut off at its top. */
function stackOf(courses: { course: Course; value: number }[], px: number, room: number): { course: { course: Course; value: number }; y: number; h: number }[] {
  const tops = courses.reduce<number[]>((sums, c) => [...sums, Math.min(room, (sums[sums.length - 1] ?? 0) + c.value * px)], []);
  return courses.map((course, i) => ({ course, y: room + 8 - tops[i], h: tops[i] - (tops[i - 1] ?? 0) }));
}

/** Least height of a course that can hold its own label, pixels. */
const LABEL_PX = 17;

const topOf = (stack: { y: number }[], room: number): number => Math.min(room + 8, ...stack.map((s) => s.y));

function show(value: number, unit: WallUnit): string {
  if (unit === 'memory') return (value / 1e6).toFixed(1);
  if (unit === 'frame') return value.toFixed(value < 0.1 ? 2 : 1);
  return String(Math.round(value)).replace(/\B(?=(\d{3})+$)/g, '\u202f');
}

/** Each course's share: additive terms of the governing side for frame time, base first; plain counts else. */
function valuesOf(unit: WallUnit, by: Partial<Record<Course, Tally>>, governs: 'CPU' | 'GPU', device: (typeof DEVICES)[keyof typeof DEVICES]): { course: Course; value: number }[] {
  const zero: Tally = { draws: 0, triangles: 0, vertices: 0, instances: 0, overdraw: 0, bytes: 0 };
  return COURSES.flatMap((course) => {
    const t = by[course];
    if (unit !== 'frame') {
      const value = t ? { triangles: t.triangles, draws: t.draws, memory: t.bytes }[unit] : 0;
      return value > 0 ? [{ course, value }] : [];
    }
    if (course === 'base') {
      const f = frameOf(device, zero);
      return [{ course, value: governs === 'CPU' ? f.cpu : f.gpu }];
    }
    if (!t) return [];
    const f = frameOf(device, t);
    const base = frameOf(device, zero);
    return [{ course, value: governs === 'CPU' ? f.cpu - base.cpu : f.gpu - base.gpu }];
  });
}
