import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { SHIPPED_BODIES, bodyFigures, type BodyFigures } from '@rammer/core/body/bodies';
import { defaultGrid, derivedFigures } from '@rammer/core/body/derived';
import { GRID_SPACINGS } from '@rammer/core/level/objects';
import { gridOf } from '@rammer/core/level/tiles';
import { tanDeg } from '@rammer/core/num/trig';
import { call } from '../outbox/api';
import { FIGURES, withFigure } from '../stages/brief/BriefBench';
import { BodyDrawing } from '../stages/brief/BodyDrawing';
import { NumberField } from '../ui/NumberField';

/** The brief of a new level: name, body, and a size that follows from the body until it is typed. */
export function NewLevel() {
  const go = useNavigate();
  const [name, setName] = useState('');
  const [bodyName, setBodyName] = useState('adult');
  const [figures, setFigures] = useState<BodyFigures>(SHIPPED_BODIES.adult);
  const [typed, setTyped] = useState<{ tilesX: number; tilesZ: number; spacing: (typeof GRID_SPACINGS)[number] }>();
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string>();
  const size = typed ?? defaultGrid(figures);
  const grid = gridOf(size);
  const derived = derivedFigures(figures, Math.max(grid.width, grid.depth), tanDeg(figures.maxSlope));
  const fault = bodyFigures.safeParse(figures);
  const bad = !name.trim()
    ? 'Give the level a name.'
    : !fault.success
      ? `${fault.error.issues[0].path.join('.')}: ${fault.error.issues[0].message}`
      : undefined;

  const make = async () => {
    setBusy(true);
    setProblem(undefined);
    try {
      const { id } = await call<{ id: string }>('POST', '/api/levels', {
        name: name.trim(),
        ...size,
        body: { name: bodyName, figures },
        seed: crypto.getRandomValues(new Uint32Array(1))[0] % 100_000,
      });
      void go(`/levels/${id}?stage=block`);
    } catch (e) {
      setProblem((e as Error).message);
      setBusy(false);
    }
  };

  return (
    <main>
      <form
        className="mx-auto max-w-[940px] px-6 py-6"
        onSubmit={(e) => {
          e.preventDefault();
          if (!bad && !busy) void make();
        }}
      >
        <header className="flex items-end border-b pb-3" style={{ borderColor: 'var(--ink)' }}>
          <h1 className="fig m-0 text-[30px] font-semibold leading-8">New level</h1>
          <Link className="act ml-auto no-underline" to="/">
            back
          </Link>
        </header>
        <div className="grid gap-8 pt-5" style={{ gridTemplateColumns: '300px 1fr' }}>
          <section className="grid content-start gap-3">
            <label className="grid gap-1">
              <span className="label">name</span>
              <input className="textf h-9 text-[16px]" value={name} maxLength={120} autoFocus onChange={(e) => setName(e.target.value)} />
            </label>
            <label className="grid gap-1">
              <span className="label">player body</span>
              <select
                className="textf h-8"
                value={bodyName}
                onChange={(e) => {
                  setBodyName(e.target.value);
                  setFigures(SHIPPED_BODIES[e.target.value]);
                }}
              >
                {Object.keys(SHIPPED_BODIES).map((b) => (
                  <option key={b}>{b}</option>
                ))}
              </select>
            </label>
            <div className="grid grid-cols-2 gap-x-4 gap-y-1.5">
              {FIGURES.map((x) => (
                <NumberField
                  key={x.key}
                  label={x.label}
                  value={figures[x.key] ?? 0}
                  unit={x.unit}
                  min={x.min}
                  max={x.max}
                  step={x.key === 'maxSlope' ? 1 : 0.05}
                  onCommit={(v) => setFigures(withFigure(figures, x.key, v))}
                />
              ))}
            </div>
            <BodyDrawing figures={figures} />
          </section>
          <section className="grid content-start gap-3">
            <div className="flex flex-wrap items-end gap-4">
              <NumberField
                label="tiles east to west"
                className="grid gap-1"
                value={size.tilesX}
                min={2}
                max={64}
                step={1}
                digits={0}
                onCommit={(v) => setTyped({ ...size, tilesX: Math.round(v) })}
              />
              <NumberField
                label="tiles north to south"
                className="grid gap-1"
                value={size.tilesZ}
                min={2}
                max={64}
                step={1}
                digits={0}
                onCommit={(v) => setTyped({ ...size, tilesZ: Math.round(v) })}
              />
              <div className="grid gap-1">
                <span className="label" id="spacing">
                  metres between heights
                </span>
                <div className="seg" role="group" aria-labelledby="spacing">
                  {GRID_SPACINGS.map((s) => (
                    <button type="button" key={s} className="act fig" aria-pressed={size.spacing === s} onClick={() => setTyped({ ...size, spacing: s })}>
                      {s}
                    </button>
                  ))}
                </div>
              </div>
              {typed && (
                <button type="button" className="underline" onClick={() => setTyped(undefined)}>
                  size from the body
                </button>
              )}
            </div>
            <LevelDrawing width={grid.width} depth={grid.depth} tilesX={size.tilesX} tilesZ={size.tilesZ} reach={derived.reach} walk={figures.walk} />
            <p className="m-0 text-[15px]">
              <b className="fig text-[19px]">
                {grid.width} x {grid.depth} m
              </b>
              , {Math.round(derived.crossWalk)} s across at a walk, {Math.round(derived.crossRun)} s at a run
            </p>
            {derived.tooFar && (
              <p className="m-0" style={{ color: 'var(--ochre-text)' }}>
                ▲ Over ten minutes to cross at a run. Most of it would stay empty: start smaller.
              </p>
            )}
            <dl className="fig m-0 grid max-w-[420px] grid-cols-2 gap-x-8 gap-y-1">
              {[
                ['jump reach', `${derived.reach.toFixed(2)} m`],
                ['easy gap to', `${derived.easyGap.toFixed(2)} m`],
                ['step', `${figures.step.toFixed(2)} m`],
                ['widest gap', `${derived.widestGap.toFixed(2)} m`],
                ['max slope', `${figures.maxSlope}°, ${(derived.maxGrade * 100).toFixed(0)} %`],
                ['narrowest door', `${(2 * figures.radius + 0.1).toFixed(2)} m`],
              ].map(([k, v]) => (
                <div key={k} className="flex justify-between border-b" style={{ borderColor: 'var(--hair)' }}>
                  <dt className="label">{k}</dt>
                  <dd className="m-0 font-semibold">{v}</dd>
                </div>
              ))}
            </dl>
            <div className="flex items-center gap-3 pt-2">
              <button type="submit" className="act main" style={{ minHeight: 36, padding: '0 18px' }} disabled={busy || bad !== undefined}>
                {busy ? 'making' : 'Make the level'}
              </button>
              <span role="alert" style={{ color: problem ? 'var(--oxide)' : 'var(--ink-2)' }}>
                {problem ?? bad}
              </span>
            </div>
          </section>
        </div>
      </form>
    </main>
  );
}

/** The level's plan with its tiles, the player's ten-second walk as a circle, and the reach of a jump. */
function LevelDrawing({
  width,
  depth,
  tilesX,
  tilesZ,
  reach,
  walk,
}: {
  width: number;
  depth: number;
  tilesX: number;
  tilesZ: number;
  reach: number;
  walk: number;
}) {
  const k = Math.min(440 / width, 230 / depth);
  const w = width * k;
  const h = depth * k;
  const lines = (n: number, l: number, cross: number, vertical: boolean) =>
    Array.from({ length: n - 1 }, (_, i) => (vertical ? `M${((i + 1) * l) / n} 0V${cross}` : `M0 ${((i + 1) * l) / n}H${cross}`)).join('');
  return (
    <svg width={w + 20} height={h + 34} role="img" aria-label={`plan of the level, ${width} by ${depth} metres`}>
      <g transform="translate(10 6)">
        <rect width={w} height={h} fill="var(--plot)" stroke="var(--ink)" />
        <path d={lines(tilesX, w, h, true) + lines(tilesZ, h, w, false)} stroke="var(--hair)" fill="none" />
        <circle cx={w / 2} cy={h / 2} r={Math.min(walk * 10 * k, 400)} fill="none" stroke="var(--ink)" strokeDasharray="4 3" />
        <text
          fill="var(--ink)"
          className="fig"
          x={w / 2}
          y={Math.max(14, h / 2 - walk * 10 * k - 4)}
          textAnchor="middle"
          fontSize="13"
          stroke="var(--plot)"
          strokeWidth="3"
          paintOrder="stroke"
        >
          10 s at a walk, {(walk * 10).toFixed(0)} m
        </text>
        <circle cx={w / 2} cy={h / 2} r={Math.max(1.5, reach * k)} fill="var(--oxide)" />
        <path d={`M0 ${h + 12}H${w}M0 ${h + 7}v10M${w} ${h + 7}v10`} stroke="var(--ink)" fill="none" />
        <text
          fill="var(--ink)"
          className="fig"
          x={w / 2}
          y={h + 25}
          textAnchor="middle"
          fontSize="13"
          fontWeight="600"
          stroke="var(--paper)"
          strokeWidth="4"
          paintOrder="stroke"
        >
          {width} m
        </text>
      </g>
    </svg>
  );
}
