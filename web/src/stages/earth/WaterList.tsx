import { Eye, EyeOff, Plus, Trash2 } from 'lucide-react';
import { liftStack, playerBody, ofKind } from '@rammer/core/level/level';
import type { AnyEditBody } from '@rammer/core/level/edits/index';
import type { Route, Water } from '@rammer/core/level/objects';
import type { Spill } from '@rammer/core/earth/flood';
import { WATER_LOOK, type WaterBody } from '@rammer/core/earth/water';
import type { Session } from '../../store/session';
import { useEarth } from '../../store/earthDraft';
import { useUi } from '../../store/ui';
import { newId, nextName } from '../../store/names';
import { ColourField } from '../../ui/ColourField';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Row } from '../../ui/Table';
import { HIDES } from '../../ui/hides';

/** How deep a new stream is, metres. */
const STREAM_DEPTH = 0.4;

/** Ways a stream can run along, topmost first. */
const routesOf = (session: Session): Route[] =>
  liftStack(session.level)
    .filter((l): l is Route => l.lift === 'route')
    .reverse();

/** The waters of the level, each with its height to be typed, always live; the chosen one with the rest. */
export function WaterList({ session }: { session: Session }) {
  const id = useEarth((s) => s.water);
  const tool = useUi((s) => s.tool);
  const depth = useEarth((s) => s.poolDepth);
  const { setTool } = useUi.getState();
  const waters = ofKind(session.level, 'water');
  const chosen = waters.find((w) => w.id === id);
  const change = (w: Water, fields: Record<string, unknown>, label: string) =>
    session.commit({ kind: 'set', patches: [{ id: w.id, set: fields }] }, `${label} of ${w.name}`);
  const sea = () => {
    const water = {
      id: newId('water'),
      version: 1,
      kind: 'water' as const,
      form: 'sea' as const,
      name: nextName(session.level, 'sea'),
      height: 0,
      hidden: false,
      out: false,
    };
    if (session.commit({ kind: 'add', objects: [water] }, 'let the sea in')) useEarth.setState({ water: water.id, lift: undefined });
  };
  const routes = routesOf(session);
  /** Along the chosen route, or the topmost without a stream. Its way is sunk where it is not yet: a bed needs banks. */
  const stream = () => {
    const taken = new Set(waters.map((w) => w.route));
    const route = routes.find((r) => r.id === useEarth.getState().lift) ?? routes.find((r) => !taken.has(r.id)) ?? routes[0];
    const water = {
      id: newId('water'),
      version: 1,
      kind: 'water' as const,
      form: 'stream' as const,
      name: nextName(session.level, 'stream'),
      route: route.id,
      height: STREAM_DEPTH,
      hidden: false,
      out: false,
    };
    const parts: Extract<AnyEditBody, { kind: 'together' }>['parts'] = [{ kind: 'add', objects: [water] }];
    if (!route.sunk && !route.locked) parts.push({ kind: 'set', patches: [{ id: route.id, set: { sunk: STREAM_DEPTH * 2 } }] });
    if (session.commit({ kind: 'together', parts }, 'let a stream run')) useEarth.setState({ water: water.id, lift: undefined });
  };
  return (
    <section aria-label="water" className="shrink-0 border-t" style={{ borderColor: 'var(--ink)' }}>
      <div className="flex items-center gap-1 px-3 py-1">
        <span className="label">water</span>
        {tool === 'pool' && (
          <NumberField label="depth" value={depth} unit="m" min={0.05} max={200} step={0.25} onCommit={(poolDepth) => useEarth.setState({ poolDepth })} />
        )}
        <span className="ml-auto" />
        <button
          className="act fig"
          style={{ padding: '0 5px', minHeight: 22 }}
          aria-pressed={tool === 'pool'}
          title="click a low place: its basin is filled"
          onClick={() => setTool('pool')}
        >
          <Plus size={12} />
          pool
        </button>
        <button
          className="act fig"
          style={{ padding: '0 5px', minHeight: 22 }}
          title="water that comes in from the level's edge"
          disabled={!session.writable || waters.some((w) => w.form === 'sea')}
          onClick={sea}
        >
          <Plus size={12} />
          sea
        </button>
        <button
          className="act fig"
          style={{ padding: '0 5px', minHeight: 22 }}
          title={routes.length > 0 ? 'water that runs down along a route, the chosen one first' : 'draw a route first: its way is the bed of the stream'}
          disabled={!session.writable || routes.length === 0}
          onClick={stream}
        >
          <Plus size={12} />
          stream
        </button>
      </div>
      {waters.length > 0 && (
        <div role="grid" aria-label="waters" className="max-h-[76px] overflow-y-auto border-t" style={{ borderColor: 'var(--hair)' }}>
          {waters.map((w) => {
            const body = session.scene.waters.bodies.find((b) => b.id === w.id);
            const dry = session.scene.waters.dry.find((d) => d.id === w.id);
            return (
              <Row
                key={w.id}
                selected={w.id === id}
                title={dry?.message}
                colour={dry ? 'var(--ochre-text)' : undefined}
                onClick={() => {
                  useEarth.setState({ water: w.id, lift: undefined });
                  setTool('select');
                }}
              >
                <svg width="16" height="14" className="shrink-0" aria-hidden>
                  <rect x="0.5" y="0.5" width="15" height="13" fill="var(--raised)" stroke="var(--ink)" />
                  <path d="M1 5Q4 3 7 5T15 5M1 9Q4 7 7 9T15 9" fill="none" stroke="var(--ink)" />
                </svg>
                <span className="flex w-[82px] min-w-0">
                  <NameCell name={w.name} onRename={(name) => change(w, { name }, 'name')} />
                </span>
                <span className="fig ml-auto whitespace-nowrap">
                  {dry ? 'dry' : body?.leak ? (w.form === 'stream' ? 'runs over' : 'runs out') : body ? `${body.deepest.toFixed(2)} m deep` : 'out'}
                </span>
                <button
                  className="icon-btn"
                  title={HIDES}
                  aria-label={w.hidden ? `show ${w.name}` : `hide ${w.name}`}
                  aria-pressed={w.hidden}
                  onClick={(e) => {
                    e.stopPropagation();
                    change(w, { hidden: !w.hidden }, w.hidden ? 'show' : 'hide');
                  }}
                >
                  {w.hidden ? <EyeOff size={14} /> : <Eye size={14} />}
                </button>
                <button
                  className="icon-btn"
                  aria-label={`delete ${w.name}`}
                  onClick={(e) => {
                    e.stopPropagation();
                    session.commit({ kind: 'remove', ids: [w.id] }, `delete ${w.name}`);
                  }}
                >
                  <Trash2 size={14} />
                </button>
              </Row>
            );
          })}
        </div>
      )}
      {/* The hands are full with a brush: its numbers take this room. */}
      {chosen && (tool === 'select' || tool === 'pool') && (
        <WaterFields session={session} water={chosen} onChange={(fields, label) => change(chosen, fields, label)} />
      )}
    </section>
  );
}

/** How many of the spills ahead are told. */
const TOLD = 3;

/** Where a pool that rises runs over next, and then. */
function runsOver({ spills, height }: WaterBody): string[] {
  const ahead = (spills ?? []).filter((s) => s.height >= height);
  const into = (s: Spill) => `at ${s.height.toFixed(2)} m ${s.into === 'edge' ? 'out of the level' : 'into a basin beside it'}`;
  return ahead.slice(0, TOLD).map((s, i) => (i === 0 ? `it runs over ${into(s)}` : `then ${into(s)}`));
}

function WaterFields({ session, water, onChange }: { session: Session; water: Water; onChange(fields: Record<string, unknown>, label: string): void }) {
  const body = session.scene.waters.bodies.find((b) => b.id === water.id);
  const dry = session.scene.waters.dry.find((d) => d.id === water.id);
  const look = water.look ?? WATER_LOOK;
  const routes = routesOf(session);
  const { wade } = playerBody(session.level).figures;
  const facts =
    body &&
    [
      `${Math.round(body.area).toLocaleString('en').replace(/,/g, '\u202f')} m², ${Math.round(body.volume).toLocaleString('en').replace(/,/g, '\u202f')} m³`,
      body.closed ? 'nobody may enter' : body.deepest > wade ? `too deep to wade: ${wade} m` : `waded through, at most ${wade} m`,
      ...(body.leak ? [water.form === 'stream' ? 'it runs over its banks: sink its route, or make it shallower' : 'it runs out of the level'] : runsOver(body)),
    ].join('; ');
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
      {water.form === 'stream' ? (
        <NumberField label="depth" value={water.height} unit="m" min={0.05} max={50} step={0.1} onCommit={(height) => onChange({ height }, 'depth')} />
      ) : (
        <NumberField label="height" value={water.height} unit="m" min={-2000} max={3000} step={0.1} onCommit={(height) => onChange({ height }, 'height')} />
      )}
      <label className="label flex items-center gap-1.5">
        <input type="checkbox" checked={water.closed ?? false} onChange={(e) => onChange({ closed: e.target.checked || null }, 'rule')} />
        may not enter
      </label>
      {water.form === 'stream' && (
        <label className="col-span-2 flex items-center justify-between gap-2">
          <span className="label">runs along</span>
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="route it runs along"
            value={water.route ?? ''}
            onChange={(e) => onChange({ route: e.target.value }, 'route')}
          >
            {!routes.some((r) => r.id === water.route) && <option value={water.route}>a route that is gone</option>}
            {routes.map((r) => (
              <option key={r.id} value={r.id}>
                {r.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <NumberField
        label="clarity"
        value={look.clarity}
        unit="m"
        min={0.1}
        max={100}
        step={0.5}
        onCommit={(clarity) => onChange({ look: { ...look, clarity } }, 'clarity')}
      />
      <ColourField label="colour" value={look.colour} onCommit={(colour) => onChange({ look: { ...look, colour } }, 'colour')} />
      <NumberField
        label="foam"
        value={look.foam * 100}
        unit="%"
        min={0}
        max={100}
        step={10}
        digits={0}
        onCommit={(v) => onChange({ look: { ...look, foam: v / 100 } }, 'foam')}
      />
      <NumberField
        label="waves"
        value={look.waves * 100}
        unit="%"
        min={0}
        max={100}
        step={10}
        digits={0}
        onCommit={(v) => onChange({ look: { ...look, waves: v / 100 } }, 'waves')}
      />
      <p className="label col-span-2 m-0" role="status" style={{ color: dry || body?.leak ? 'var(--ochre-text)' : undefined }}>
        {dry?.message ?? facts ?? 'taken out of the level'}
      </p>
    </div>
  );
}
