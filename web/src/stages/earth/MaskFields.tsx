import { liftStack } from '@rammer/core/level/level';
import type { Lift, LiftMask } from '@rammer/core/level/objects';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import { NumberField } from '../../ui/NumberField';
import type { SetFields } from './LiftFields';

/** Where the lift counts: by slope and height of what lies below it, and inside an outline drawn before. */
export function MaskFields({ session, lift, set }: { session: Session; lift: Lift; set: SetFields }) {
  const mask = lift.mask ?? {};
  const tool = useUi((s) => s.tool);
  const put = (next: LiftMask) => set({ mask: Object.keys(next).length > 0 ? next : null }, 'mask');
  const without = (key: keyof LiftMask) => {
    const { [key]: _gone, ...rest } = mask;
    put(rest);
  };
  // Outlines there are: of the level's pads and landforms, and what is selected in the stack.
  const outlines = [...session.level.objects.values()].flatMap((o) =>
    o.kind === 'lift' && o.id !== lift.id
      ? o.lift === 'pad'
        ? [{ name: o.name, line: o.outline }]
        : o.lift === 'landform' && o.line.length > 2
          ? [{ name: o.name, line: o.line }]
          : []
      : o.kind === 'playBounds'
        ? [{ name: o.name, line: o.outline }]
        : [],
  );
  const { surfaces } = surfacesOf(session.level);
  const stack = liftStack(session.level);
  const weathered = stack
    .slice(
      0,
      stack.findIndex((l) => l.id === lift.id),
    )
    .some((l) => l.lift === 'weather');
  return (
    <div className="grid gap-1 border-t px-3 py-1.5" style={{ borderColor: 'var(--hair)' }}>
      <span className="label">{lift.mask ? 'counts only where' : 'counts everywhere; only where'}</span>
      <Band
        name="slope"
        unit="°"
        value={mask.slope}
        first={{ band: [0, Math.round(useUi.getState().overlay === 'slope' ? 45 : 30)], soft: 6 }}
        limits={[0, 90]}
        onSet={(slope) => put({ ...mask, slope })}
        onClear={() => without('slope')}
      />
      <Band
        name="height"
        unit="m"
        value={mask.height}
        first={{ band: [0, 10], soft: 2 }}
        limits={[-2000, 3000]}
        onSet={(height) => put({ ...mask, height })}
        onClear={() => without('height')}
      />
      {(weathered || mask.weathering) && (
        <>
          <Band
            name="weather"
            unit={mask.weathering?.mark === 'runoff' ? '' : 'm'}
            value={mask.weathering}
            first={{ band: [0.1, 50], soft: 0.1 }}
            limits={[0, 500]}
            onSet={(v) => put({ ...mask, weathering: { mark: mask.weathering?.mark ?? 'scour', ...v } })}
            onClear={() => without('weathering')}
          />
          {mask.weathering && (
            <label className="label flex items-center gap-1">
              what it left
              <select
                className="textf h-6 px-1"
                aria-label="what weathering left"
                value={mask.weathering.mark}
                onChange={(e) => {
                  const mark = e.target.value as NonNullable<LiftMask['weathering']>['mark'];
                  put({ ...mask, weathering: { mark, band: mark === 'runoff' ? [0.3, 1] : [0.1, 50], soft: mark === 'runoff' ? 0.2 : 0.1 } });
                }}
              >
                <option value="scour">scoured</option>
                <option value="settle">settled</option>
                <option value="runoff">runoff</option>
              </select>
            </label>
          )}
        </>
      )}
      <label className="label flex items-center gap-1">
        <input
          type="checkbox"
          checked={mask.painted !== undefined}
          onChange={(e) => {
            if (e.target.checked) put({ ...mask, painted: surfaces[0].id });
            else without('painted');
          }}
        />
        where painted
        {mask.painted !== undefined && (
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="surface of the mask"
            value={mask.painted}
            onChange={(e) => put({ ...mask, painted: e.target.value })}
          >
            {surfaces.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        )}
      </label>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
        <label className="label flex items-center gap-1">
          <input
            type="checkbox"
            checked={mask.outline !== undefined}
            disabled={!mask.outline && outlines.length === 0}
            onChange={(e) => {
              if (e.target.checked) put({ ...mask, outline: { line: outlines[0].line, soft: 2 } });
              else without('outline');
            }}
          />
          inside
        </label>
        {mask.outline ? (
          <>
            <select
              className="textf h-6 min-w-0 flex-1 px-1"
              aria-label="outline of the mask"
              value={outlines.find((o) => JSON.stringify(o.line) === JSON.stringify(mask.outline!.line))?.name ?? ''}
              onChange={(e) => {
                const o = outlines.find((x) => x.name === e.target.value);
                if (o) put({ ...mask, outline: { line: o.line, soft: mask.outline!.soft } });
              }}
            >
              <option value="" disabled>
                an outline of its own
              </option>
              {outlines.map((o) => (
                <option key={o.name} value={o.name}>
                  {o.name}
                </option>
              ))}
            </select>
            <span className="w-full" />
            <span className="label">soft edge</span>
            <NumberField
              label="soft edge of the outline"
              hideLabel
              value={mask.outline.soft}
              unit="m"
              min={0}
              max={500}
              step={0.5}
              onCommit={(soft) => put({ ...mask, outline: { ...mask.outline!, soft } })}
            />
          </>
        ) : (
          <span className="label">{outlines.length === 0 ? 'an outline' : 'an outline there is'}</span>
        )}
        <button
          className="act ml-auto"
          style={{ padding: '1px 7px', minHeight: 24 }}
          aria-pressed={tool === 'mask'}
          title="click its corners on the ground, the first again to close it"
          onClick={() => useUi.getState().setTool('mask')}
        >
          draw
        </button>
      </div>
    </div>
  );
}

interface BandProps {
  name: string;
  unit: string;
  value?: { band: [number, number]; soft: number };
  first: { band: [number, number]; soft: number };
  limits: [number, number];
  onSet(value: { band: [number, number]; soft: number }): void;
  onClear(): void;
}

function Band({ name, unit, value, first, limits: [low, high], onSet, onClear }: BandProps) {
  return (
    <div className="flex items-center gap-1">
      <label className="label flex w-[76px] items-center gap-1">
        <input type="checkbox" checked={value !== undefined} onChange={(e) => (e.target.checked ? onSet(first) : onClear())} />
        by {name}
      </label>
      {value && (
        <>
          <NumberField
            label={`least ${name}`}
            hideLabel
            className="w-[46px]"
            fill
            value={value.band[0]}
            min={low}
            max={value.band[1]}
            step={1}
            onCommit={(v) => onSet({ ...value, band: [v, value.band[1]] })}
          />
          <span className="label">to</span>
          <NumberField
            label={`most ${name}`}
            hideLabel
            className="w-[46px]"
            fill
            value={value.band[1]}
            min={value.band[0]}
            max={high}
            step={1}
            onCommit={(v) => onSet({ ...value, band: [value.band[0], v] })}
          />
          <span className="label">soft</span>
          <NumberField
            label={`soft edge of ${name}`}
            hideLabel
            className="w-[56px]"
            fill
            value={value.soft}
            unit={unit}
            min={0}
            max={name === 'slope' ? 60 : 500}
            step={1}
            onCommit={(soft) => onSet({ ...value, soft })}
          />
        </>
      )}
    </div>
  );
}
