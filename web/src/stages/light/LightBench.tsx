import { Pin, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ofKind, settingsOf } from '@rammer/core/level/level';
import type { Lighting, Pose } from '@rammer/core/level/objects';
import { lightingOf, SHIPPED_LIGHTING } from '@rammer/core/level/lighting';
import { sunAt } from '@rammer/core/light/sunAt';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useSpending } from '../../store/spending';
import { useUi } from '../../store/ui';
import { newId, nextName } from '../../store/names';
import { renameObject } from '../../tools/blockActions';
import { ColourField } from '../../ui/ColourField';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Row, Table } from '../../ui/Table';
import type { LevelView } from '../../view/LevelView';
import { AirFields } from './AirFields';
import { LensFields } from './LensFields';
import { StillOut } from './StillOut';
import { useKeyLabel } from '../../store/keys';

const POINTS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'];

/** Saved lighting, the one at hand with its fields, the viewpoints, and stills. */
export function LightBench({ session, view, pose, onPose }: { session: Session; view?: LevelView; pose(): Pose | undefined; onPose(pose: Pose): void }) {
  const key = useKeyLabel();
  useSession(session);
  const workLight = useUi((s) => s.workLight);
  const inset = useSpending((s) => s.inset);
  const saved = ofKind(session.level, 'lighting');
  const lighting = lightingOf(session.level);
  const own = saved.some((m) => m.id === lighting.id);
  const chosenId = settingsOf(session.level).lighting;
  const viewpoints = ofKind(session.level, 'viewpoint');
  const set = ({ when, ...rest }: Omit<Partial<Lighting>, 'when'> & { when?: Lighting['when'] | null }, what: string) => {
    const fields = { ...rest, ...(when ? { when } : {}) };
    if (own) session.commit({ kind: 'set', patches: [{ id: lighting.id, set: when === null ? { ...fields, when } : fields }] }, what);
    else session.commit({ kind: 'add', objects: [{ ...lighting, ...fields }] }, what);
  };
  // Set by hand it is of no moment any more.
  const bySun = (sun: Lighting['sun']) => set({ sun, ...(own && lighting.when ? { when: null } : {}) }, 'sun');
  const choose = (id: string) => {
    if (id !== chosenId)
      session.commit({ kind: 'set', patches: [{ id: 'settings', set: { lighting: id } }] }, `lighting ${session.level.object(id)?.name ?? ''}`);
  };
  return (
    <>
      {/* What sets the light scrolls where there is little room; the lists below keep theirs. */}
      <div className="min-h-0 shrink overflow-y-auto">
        <div className="flex gap-3 px-3 pt-3">
          <SunDial lighting={lighting} set={bySun} />
          <div className="grid flex-1 content-start gap-1.5">
            <NumberField
              label="sun from"
              value={lighting.sun.azimuth}
              unit="°"
              min={0}
              max={360}
              step={5}
              digits={0}
              onCommit={(azimuth) => bySun({ ...lighting.sun, azimuth })}
            />
            <NumberField
              label="height"
              value={lighting.sun.elevation}
              unit="°"
              min={-90}
              max={90}
              step={1}
              digits={0}
              onCommit={(elevation) => bySun({ ...lighting.sun, elevation })}
            />
            <TimeOfDay when={lighting.when} set={(fields) => set(fields, 'time of day')} />
            <button className="act" aria-pressed={workLight} onClick={() => useUi.setState({ workLight: !workLight })}>
              {key('KeyL') ? `work light (${key('KeyL')})` : 'work light'}
            </button>
          </div>
        </div>
        <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 py-2">
          <NumberField
            label="sun"
            value={lighting.sunlight * 100}
            unit="%"
            min={0}
            max={300}
            step={5}
            digits={0}
            onCommit={(v) => set({ sunlight: v / 100 }, 'sunlight')}
          />
          <NumberField
            label="fill"
            value={lighting.fill * 100}
            unit="%"
            min={0}
            max={300}
            step={5}
            digits={0}
            onCommit={(v) => set({ fill: v / 100 }, 'fill')}
          />
          <ColourField label="sky" value={lighting.sky} onCommit={(sky) => set({ sky }, 'sky')} />
          <ColourField label="horizon" value={lighting.horizon} onCommit={(horizon) => set({ horizon }, 'horizon')} />
          <NumberField label="haze" value={lighting.haze} unit="m" min={0} max={20000} step={20} digits={0} onCommit={(haze) => set({ haze }, 'haze')} />
          <NumberField
            label="exposure"
            value={lighting.exposure}
            unit="EV"
            min={-4}
            max={4}
            step={0.1}
            onCommit={(exposure) => set({ exposure }, 'exposure')}
          />
          <NumberField
            label="contrast"
            value={lighting.contrast * 100}
            unit="%"
            min={50}
            max={200}
            step={5}
            digits={0}
            onCommit={(v) => set({ contrast: v / 100 }, 'contrast')}
          />
          <NumberField
            label="saturation"
            value={lighting.saturation * 100}
            unit="%"
            min={0}
            max={200}
            step={5}
            digits={0}
            onCommit={(v) => set({ saturation: v / 100 }, 'saturation')}
          />
        </div>
        <AirFields session={session} lighting={lighting} set={set} />
        <div className="flex flex-wrap gap-1.5 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
          <button
            className="act"
            onClick={() => {
              const made: Lighting = { ...lighting, id: newId('lighting'), version: 1, name: nextName(session.level, 'lighting') };
              if (session.commit({ kind: 'add', objects: [made] }, `save ${made.name}`)) choose(made.id);
            }}
          >
            save this lighting
          </button>
          <Compare session={session} view={view} saved={saved} lighting={lighting} />
        </div>
      </div>
      <div className="flex shrink-0 flex-col" style={{ height: '16%', minHeight: 104 }}>
        <Table
          label="lighting"
          rows={saved.length > 0 ? saved : SHIPPED_LIGHTING}
          empty=""
          header={
            <>
              <span className="label">lighting</span>
              {key('KeyB') && <span className="label ml-auto">hold {key('KeyB')} for before</span>}
            </>
          }
          row={(m) => (
            <Row
              selected={m.id === lighting.id}
              onClick={() => (saved.length > 0 ? choose(m.id) : session.commit({ kind: 'add', objects: [...SHIPPED_LIGHTING] }, 'add lighting'))}
              title="click to see the level in it"
            >
              <NameCell name={m.name} onRename={(name) => renameObject(session, m.id, name)} />
              <span className="label">{m.sun.elevation}°</span>
              {saved.length > 1 && (
                <button
                  className="icon-btn"
                  aria-label={`delete ${m.name}`}
                  onClick={(e) => {
                    e.stopPropagation();
                    session.commit({ kind: 'remove', ids: [m.id] }, `delete ${m.name}`);
                  }}
                >
                  <Trash2 size={14} />
                </button>
              )}
            </Row>
          )}
        />
      </div>
      <div className="flex min-h-0 flex-1 flex-col" style={{ minHeight: 108 }}>
        <Table
          label="viewpoints"
          rows={viewpoints}
          empty="No viewpoints yet. Look at something worth coming back to, then save it."
          header={
            <>
              <span className="label">viewpoints</span>
              <button
                className="act ml-auto"
                style={{ minHeight: 22, padding: '0 8px' }}
                onClick={() => {
                  const p = pose();
                  if (p)
                    session.commit(
                      { kind: 'add', objects: [{ id: newId('view'), version: 1, kind: 'viewpoint', name: nextName(session.level, 'viewpoint'), pose: p }] },
                      'save viewpoint',
                    );
                }}
              >
                save this viewpoint
              </button>
            </>
          }
          row={(v) => (
            <Row title="click to look from there" onClick={() => onPose(v.pose)}>
              <NameCell name={v.name} onRename={(name) => renameObject(session, v.id, name)} />
              <span className="label">{v.pose.view}</span>
              <button
                className="icon-btn"
                aria-label={inset === v.id ? `unpin ${v.name}` : `pin ${v.name} as an inset`}
                aria-pressed={inset === v.id}
                onClick={(e) => {
                  e.stopPropagation();
                  useSpending.setState({ inset: inset === v.id ? undefined : v.id });
                }}
                style={{ background: inset === v.id ? 'var(--ink)' : undefined, color: inset === v.id ? 'var(--raised)' : undefined }}
              >
                <Pin size={14} />
              </button>
              <button
                className="icon-btn"
                aria-label={`delete ${v.name}`}
                onClick={(e) => {
                  e.stopPropagation();
                  session.commit({ kind: 'remove', ids: [v.id] }, `delete ${v.name}`);
                }}
              >
                <Trash2 size={14} />
              </button>
            </Row>
          )}
        />
      </div>
      {view && <LensFields view={view} onPose={onPose} />}
      <StillOut session={session} view={view} />
    </>
  );
}

function SunDial({ lighting, set }: { lighting: Lighting; set(sun: Lighting['sun']): void }) {
  const { sun } = lighting;
  const a = (sun.azimuth * Math.PI) / 180;
  const r = Math.min(54, 44 * (1 - sun.elevation / 90));
  return (
    <svg
      width="112"
      height="112"
      viewBox="-56 -56 112 112"
      role="img"
      aria-label={`sun in the ${POINTS[Math.round(sun.azimuth / 45) % 8]}, ${sun.elevation} degrees ${sun.elevation < 0 ? 'high, below the horizon' : 'high'}`}
      style={{ touchAction: 'none', cursor: 'crosshair' }}
      onPointerDown={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        const x = e.clientX - box.left - 56;
        const y = e.clientY - box.top - 56;
        set({
          azimuth: Math.round(((Math.atan2(x, -y) * 180) / Math.PI + 360) % 360),
          elevation: Math.round(Math.min(90, Math.max(0, 90 * (1 - Math.hypot(x, y) / 44)))),
        });
      }}
    >
      <circle r="44" fill="var(--field)" stroke="var(--ink)" />
      <circle r="29.3" fill="none" stroke="var(--hair)" />
      <circle r="14.7" fill="none" stroke="var(--hair)" />
      <path d="M0 -44V44M-44 0H44" stroke="var(--hair)" />
      <text fill="var(--ink)" y={-46} textAnchor="middle" className="fig" fontSize="12">
        N
      </text>
      <circle cx={Math.sin(a) * r} cy={-Math.cos(a) * r} r="7" fill={sun.elevation < -1 ? 'var(--ink)' : '#e9b44c'} stroke="var(--ink)" strokeWidth="1.5" />
    </svg>
  );
}

/** A moment to begin with where the sun was set by hand: midsummer afternoon on a northern moor. */
const FIRST: NonNullable<Lighting['when']> = { latitude: 53, day: 172, hour: 15 };

/** The sun by place, day and hour; at night a moon lights the level. */
function TimeOfDay({ when = FIRST, set }: { when?: Lighting['when']; set(fields: Partial<Lighting>): void }) {
  const put = (patch: Partial<typeof when>) => {
    const next = { ...when, ...patch };
    const { azimuth, elevation } = sunAt(next);
    set({ when: next, sun: { azimuth: Math.round(azimuth * 10) / 10, elevation: Math.round(elevation * 10) / 10 } });
  };
  return (
    <>
      <NumberField label="hour" value={when.hour} unit="h" min={0} max={24} step={0.5} digits={1} onCommit={(hour) => put({ hour })} />
      <NumberField label="day of year" value={when.day} min={1} max={366} step={10} digits={0} onCommit={(day) => put({ day: Math.round(day) })} />
      <NumberField label="latitude" value={when.latitude} unit="°" min={-90} max={90} step={5} digits={1} onCommit={(latitude) => put({ latitude })} />
    </>
  );
}

/** Shows another lighting beside the level's own, as long as the button is on. */
function Compare({ session, view, saved, lighting }: { session: Session; view?: LevelView; saved: Lighting[]; lighting: Lighting }) {
  const [other, setOther] = useState<string>();
  const others = saved.filter((m) => m.id !== lighting.id);
  if (others.length === 0) return null;
  const show = (id: string | undefined) => {
    setOther(id);
    const m = id ? session.level.object(id) : undefined;
    view?.showLighting(m?.kind === 'lighting' ? m : undefined);
  };
  return (
    <label className="flex items-center gap-1">
      <span className="label">compare</span>
      <select className="textf h-7 px-1" value={other ?? ''} onChange={(e) => show(e.target.value || undefined)}>
        <option value="">off</option>
        {others.map((m) => (
          <option key={m.id} value={m.id}>
            {m.name}
          </option>
        ))}
      </select>
    </label>
  );
}
