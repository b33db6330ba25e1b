import { ArrowDownToLine, Copy, Link, Lock, LockOpen, Trash2, Unlink } from 'lucide-react';
import { useState } from 'react';
import { poseOf } from '@rammer/core/level/instance';
import { tiltAngles, tiltOf } from '@rammer/core/num/pose';
import type { Vec3 } from '@rammer/core/num/vec';
import { useHint } from '../../store/keys';
import type { Session } from '../../store/session';
import { groupThings } from '../../tools/assemblies';
import { dropThings } from '../../tools/dropThings';
import { duplicateThings } from '../../tools/duplicateThings';
import { lockThings, mm, removeThings, setThings, type Thing } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';

const range = (values: readonly number[]): string => `${Number(Math.min(...values).toFixed(2))}-${Number(Math.max(...values).toFixed(2))}`;

/** A number of several things: one value, or the range of them. */
const shared = (values: readonly number[]): { value: number; mixed?: string } =>
  values.every((v) => Math.abs(v - values[0]) < 1e-6) ? { value: values[0] } : { value: values[0], mixed: range(values) };

const hasTilt = (t: Thing): boolean => t.kind !== 'marker' && t.kind !== 'people' && t.kind !== 'laidLine';
const hasScale = (t: Thing): boolean => hasTilt(t) && t.kind !== 'block';

/** A number with its label before it: three stand in a row. */
function Compact({ label, ...field }: Omit<Parameters<typeof NumberField>[0], 'className' | 'fill'>) {
  return <NumberField label={label} className="flex min-w-0 flex-1 items-center gap-1" fill {...field} />;
}

/** Where the selected things stand; what differs reads as a range and can still be typed. */
export function PlaceFields({ session, list }: { session: Session; list: readonly Thing[] }) {
  return (
    <div className="flex gap-2">
      {(['x', 'base', 'z'] as const).map((label, k) => (
        <Compact
          key={label}
          label={label}
          {...shared(list.map((t) => t.at[k]))}
          digits={3}
          onCommit={(v) => setThings(session, list, (t) => ({ at: t.at.map((c, i) => (i === k ? mm(v) : c)) }), 'move')}
        />
      ))}
    </div>
  );
}

/** How they are turned about Y, and tilted about their own length and width before that. */
export function TurnFields({ session, list }: { session: Session; list: readonly Thing[] }) {
  const tilts = list.map((t) => tiltAngles(poseOf(t).tilt));
  const tilt = (k: 0 | 1, v: number) =>
    setThings(
      session,
      list,
      (t) => {
        const [x, z] = tiltAngles(poseOf(t).tilt);
        return { tilt: tiltOf(k === 0 ? v : x, k === 1 ? v : z) ?? null };
      },
      'tilt',
    );
  return (
    <div className="flex gap-2">
      <Compact
        label="turn"
        {...shared(list.map((t) => t.turn))}
        unit="°"
        min={-360}
        max={360}
        step={15}
        digits={1}
        onCommit={(turn) => setThings(session, list, () => ({ turn }), 'turn')}
      />
      {list.every(hasTilt) &&
        (['x', 'z'] as const).map((axis, k) => (
          <Compact
            key={axis}
            label={`tilt ${axis}`}
            {...shared(tilts.map((t) => t[k]))}
            unit="°"
            min={-180}
            max={180}
            step={15}
            digits={1}
            onCommit={(v) => tilt(k as 0 | 1, v)}
          />
        ))}
    </div>
  );
}

/** Sizes against the own size, on each axis; even ones follow each other. */
export function ScaleFields({ session, list }: { session: Session; list: readonly Thing[] }) {
  const [even, setEven] = useState(true);
  if (!list.every(hasScale)) return null;
  const of = (t: Thing): Vec3 => poseOf(t).scale ?? [1, 1, 1];
  const set = (k: number, v: number) =>
    setThings(
      session,
      list,
      (t) => {
        const was = of(t);
        const scale = was.map((s, i) => clampScale(i === k ? v : even ? s * (v / was[k]) : s)) as Vec3;
        const same = scale.every((s) => Math.abs(s - scale[0]) < 1e-6);
        return { scale: t.kind === 'plant' ? (same ? scale[0] : scale) : same && Math.abs(scale[0] - 1) < 1e-6 ? null : scale };
      },
      'size',
    );
  return (
    <div className="flex items-center gap-2">
      <span className="label" aria-hidden>
        size
      </span>
      {(['size x', 'size y', 'size z'] as const).map((label, k) => (
        <Compact
          key={label}
          label={label}
          short={label.slice(-1)}
          {...shared(list.map((t) => of(t)[k]))}
          min={0.01}
          max={100}
          step={0.05}
          digits={2}
          onCommit={(v) => set(k, v)}
        />
      ))}
      <button
        className="icon-btn"
        aria-label="even sizes"
        aria-pressed={even}
        title={even ? 'the three follow each other' : 'each by itself'}
        onClick={() => setEven(!even)}
      >
        {even ? <Link size={14} /> : <Unlink size={14} />}
      </button>
    </div>
  );
}

const clampScale = (v: number): number => Math.min(100, Math.max(0.01, Math.round(v * 1e4) / 1e4));

/** The name of the group the things belong to; empty takes them out of it. */
export function GroupField({ session, list }: { session: Session; list: readonly Thing[] }) {
  const groups = new Set(list.map((t) => t.group ?? ''));
  const value = groups.size === 1 ? [...groups][0] : '';
  const [draft, setDraft] = useState<string>();
  const finish = () => {
    if (draft !== undefined && draft.trim() !== value) groupThings(session, list, draft.trim() || null);
    setDraft(undefined);
  };
  return (
    <label className="grid min-w-0 flex-1 gap-0.5">
      <span className="label">group</span>
      <input
        className="textf h-[24px] w-full"
        maxLength={120}
        placeholder={groups.size > 1 ? 'several' : 'none'}
        value={draft ?? value}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={finish}
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') e.currentTarget.blur();
          if (e.key === 'Escape') setDraft(undefined);
        }}
      />
    </label>
  );
}

/** What can be done to anything that is selected. */
export function ThingButtons({ session, list }: { session: Session; list: readonly Thing[] }) {
  const hint = useHint();
  const locked = list.every((t) => t.locked);
  return (
    <>
      <button
        className="icon-btn mb-0.5"
        aria-label={locked ? 'unlock the selection' : 'lock the selection'}
        aria-pressed={locked}
        title={locked ? 'unlock' : 'lock: kept from hands'}
        onClick={() => lockThings(session, list, !locked)}
      >
        {locked ? <Lock size={14} /> : <LockOpen size={14} />}
      </button>
      <button
        className="icon-btn mb-0.5"
        aria-label="duplicate"
        title={`${hint('duplicate', 'KeyC')}; Ctrl and a drag too`}
        onClick={() => duplicateThings(session)}
      >
        <Copy size={14} />
      </button>
      <button
        className="icon-btn mb-0.5"
        aria-label="drop"
        title={`${hint('drop onto what is below, each by itself', 'KeyJ')}; with Shift together, as they are arranged`}
        onClick={(e) => dropThings(session, undefined, e.shiftKey)}
      >
        <ArrowDownToLine size={14} />
      </button>
      <button className="icon-btn mb-0.5" aria-label="delete the selection" title={hint('delete', 'Delete')} onClick={() => removeThings(session)}>
        <Trash2 size={15} />
      </button>
    </>
  );
}
