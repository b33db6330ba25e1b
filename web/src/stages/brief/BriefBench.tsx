import { useState } from 'react';
import { SHIPPED_BODIES, type BodyFigures } from '@rammer/core/body/bodies';
import { derivedFigures } from '@rammer/core/body/derived';
import { ofKind, settingsOf } from '@rammer/core/level/level';
import { gridOf } from '@rammer/core/level/tiles';
import { tanDeg } from '@rammer/core/num/trig';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { newId } from '../../store/names';
import { NumberField } from '../../ui/NumberField';
import type { Pose } from '@rammer/core/level/objects';
import type { LevelView } from '../../view/LevelView';
import { BodyDrawing } from './BodyDrawing';
import { OtherSize } from './OtherSize';
import { References } from './References';

/** The figures of a body. Those that are optional are 0 where the body does not do that. */
export const FIGURES: { key: keyof BodyFigures; label: string; unit: string; min: number; max: number; optional?: boolean }[] = [
  { key: 'height', label: 'height', unit: 'm', min: 0.2, max: 20 },
  { key: 'crouched', label: 'crouched', unit: 'm', min: 0, max: 20, optional: true },
  { key: 'eye', label: 'eye', unit: 'm', min: 0.1, max: 20 },
  { key: 'radius', label: 'radius', unit: 'm', min: 0.05, max: 5 },
  { key: 'step', label: 'step', unit: 'm', min: 0.05, max: 5 },
  { key: 'maxSlope', label: 'max slope', unit: '°', min: 1, max: 80 },
  { key: 'walk', label: 'walk', unit: 'm/s', min: 0.1, max: 50 },
  { key: 'run', label: 'run', unit: 'm/s', min: 0.1, max: 100 },
  { key: 'jumpApex', label: 'jump apex', unit: 'm', min: 0, max: 50 },
  { key: 'vault', label: 'vault', unit: 'm', min: 0, max: 20, optional: true },
  { key: 'climb', label: 'climb', unit: 'm', min: 0, max: 20, optional: true },
  { key: 'gravity', label: 'gravity', unit: 'm/s²', min: 0.1, max: 100 },
  { key: 'safeDrop', label: 'safe drop', unit: 'm', min: 0.1, max: 100 },
  { key: 'wade', label: 'wade', unit: 'm', min: 0.05, max: 20 },
];

/** Figures with one of them set; an optional one that is 0 is taken out. */
export function withFigure(figures: BodyFigures, key: keyof BodyFigures, value: number): BodyFigures {
  const { [key]: _, ...rest } = figures;
  return (value === 0 && FIGURES.some((x) => x.key === key && x.optional) ? rest : { ...figures, [key]: value }) as BodyFigures;
}

/** The level's size and its bodies, with the figures that follow from them. */
export function BriefBench({ session, view, onPose }: { session: Session; view?: LevelView; onPose(pose: Pose): void }) {
  useSession(session);
  const settings = settingsOf(session.level);
  const grid = gridOf(settings);
  const bodies = ofKind(session.level, 'body');
  const [chosen, choose] = useState(settings.player);
  const body = bodies.find((b) => b.id === chosen) ?? bodies[0];
  const f = body.figures;
  const derived = derivedFigures(f, Math.max(grid.width, grid.depth), tanDeg(f.maxSlope));
  const setFigure = (key: keyof BodyFigures, value: number) =>
    session.commit({ kind: 'set', patches: [{ id: body.id, set: { figures: withFigure(f, key, value) } }] }, `${body.name} ${key}`);
  const setSettings = (set: Record<string, unknown>, label: string) => session.commit({ kind: 'set', patches: [{ id: 'settings', set }] }, label);

  return (
    <div className="min-h-0 flex-1 overflow-y-auto">
      <div className="grid gap-1.5 px-3 py-2.5">
        <label className="flex items-center justify-between gap-2">
          <span className="label">level</span>
          <input
            className="textf w-40"
            key={settings.name}
            defaultValue={settings.name}
            maxLength={120}
            onKeyDown={(e) => {
              e.stopPropagation();
              if (e.key === 'Enter') e.currentTarget.blur();
            }}
            onBlur={(e) => {
              const v = e.target.value.trim();
              if (v && v !== settings.name) setSettings({ name: v }, 'rename the level');
              else e.target.value = settings.name;
            }}
          />
        </label>
        <p className="m-0">
          <b className="fig">
            {grid.width} x {grid.depth} m
          </b>{' '}
          <span className="label">
            across in {Math.round(derived.crossWalk)} s at a walk, {Math.round(derived.crossRun)} s at a run
          </span>
        </p>
        {derived.tooFar && (
          <p className="m-0" style={{ color: 'var(--ochre-text)' }}>
            ▲ over ten minutes to cross at a run: smaller levels are easier to fill well.
          </p>
        )}
      </div>
      <div className="flex h-7 items-center border-y px-3" style={{ borderColor: 'var(--ink)' }}>
        <span className="label">bodies</span>
        <button
          className="ml-auto underline"
          onClick={() => {
            const id = newId('body');
            const n = bodies.length + 1;
            if (session.commit({ kind: 'add', objects: [{ id, version: 1, kind: 'body', name: `body ${n}`, figures: SHIPPED_BODIES.child }] }, `add body ${n}`))
              choose(id);
          }}
        >
          add a body
        </button>
      </div>
      <div role="listbox" aria-label="bodies">
        {bodies.map((b) => (
          <div
            key={b.id}
            role="option"
            tabIndex={0}
            aria-selected={b.id === body.id}
            className="sheet-row cursor-pointer"
            onClick={() => choose(b.id)}
            onKeyDown={(e) => {
              if (e.key === 'Enter') choose(b.id);
            }}
          >
            <span className="truncate">{b.name}</span>
            <span className="label fig ml-auto">{b.figures.height.toFixed(2)} m</span>
            {b.id === settings.player && <span className="label">player</span>}
          </div>
        ))}
      </div>
      <BodyDrawing figures={f} />
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3">
        {FIGURES.map((x) => (
          <NumberField
            key={x.key}
            label={x.label}
            value={f[x.key] ?? 0}
            unit={x.unit}
            min={x.min}
            max={x.max}
            step={x.key === 'maxSlope' ? 1 : 0.05}
            onCommit={(v) => setFigure(x.key, v)}
          />
        ))}
      </div>
      <dl className="fig m-0 grid grid-cols-2 gap-x-3 px-3 py-2">
        {[
          ['jump reach', `${derived.reach.toFixed(2)} m`],
          ['easy gap to', `${derived.easyGap.toFixed(2)} m`],
          ['widest gap', `${derived.widestGap.toFixed(2)} m`],
          ['take-off', `${derived.takeOff.toFixed(2)} m/s`],
          ['steepest grade', `${(derived.maxGrade * 100).toFixed(0)} %`],
          ['narrowest door', `${(2 * f.radius + 0.1).toFixed(2)} m`],
        ].map(([k, v]) => (
          <div key={k} className="flex justify-between">
            <dt className="label">{k}</dt>
            <dd className="m-0 font-semibold">{v}</dd>
          </div>
        ))}
      </dl>
      <div className="flex gap-2 px-3 pb-3">
        <button className="act" disabled={body.id === settings.player} onClick={() => setSettings({ player: body.id }, `${body.name} is the player`)}>
          make it the player
        </button>
        <button
          className="act"
          disabled={body.id === settings.player}
          onClick={() => {
            if (session.commit({ kind: 'remove', ids: [body.id] }, `delete ${body.name}`)) choose(settings.player);
          }}
        >
          delete
        </button>
      </div>
      <OtherSize session={session} />
      <References session={session} view={view} onPose={onPose} />
    </div>
  );
}
