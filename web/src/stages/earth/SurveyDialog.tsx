import { useEffect, useRef, useState } from 'react';
import { insertLift } from '@rammer/core/earth/stack';
import { surveyStroke } from '@rammer/core/earth/survey';
import { isRaw } from '@rammer/core/io/heightFile';
import { rawSizes, readHeightRaw, type Heightmap } from '@rammer/core/io/heightmap';
import type { Outcome } from '@rammer/core/io/fault';
import { liftStack, playerBody } from '@rammer/core/level/level';
import type { Survey } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import type { HeightFile } from '../../tools/heightFile';
import { useEarth } from '../../store/earthDraft';
import { useUi } from '../../store/ui';
import { newId, nextName } from '../../store/names';
import { NumberField } from '../../ui/NumberField';

const W = 460;
const H = 130;

/** Asks for the real size and heights of a picture of heights, and shows them against the figure before it is laid into the level. */
export function SurveyDialog({ session, file, onDone }: { session: Session; file: HeightFile; onDone(): void }) {
  const dialog = useRef<HTMLDialogElement>(null);
  const { grid } = session.terrain;
  const body = playerBody(session.level).figures;
  const raw = isRaw(file.name);
  const [sizes] = useState(() => (raw ? rawSizes(file.bytes.length) : []));
  const [size, setSize] = useState(0);
  const [bigEndian, setBigEndian] = useState(false);
  const [read, setRead] = useState<Outcome<Heightmap>>(() => readFile());
  function readFile(index = 0, big = false): Outcome<Heightmap> {
    if (file.read) return file.read;
    if (sizes.length === 0) return readHeightRaw(file.name, file.bytes, 2, 2, big);
    return readHeightRaw(file.name, file.bytes, sizes[index].width, sizes[index].height, big);
  }
  // What the file says of its size and heights is taken; the rest is asked for.
  const said = read.ok ? read.value : undefined;
  const [width, setWidth] = useState(said?.pixel ? Math.round(said.pixel * (said.width - 1) * 1000) / 1000 : grid.width);
  const [low, setLow] = useState(said?.range?.[0] ?? 0);
  const [high, setHigh] = useState(said?.range?.[1] ?? 20);
  useEffect(() => {
    if (!dialog.current?.open) dialog.current?.showModal();
  }, []);
  const map = read.ok ? read.value : undefined;
  const depth = map ? (width * (map.height - 1)) / (map.width - 1) : 0;

  const apply = () => {
    if (!map) return;
    const lift: Survey = { id: newId('lift'), version: 1, kind: 'lift', lift: 'survey', name: nextName(session.level, 'survey'), order: 0, visible: true };
    // In the level's middle, whatever its size.
    const stroke = surveyStroke(lift, map, { x: (grid.width - width) / 2, z: (grid.depth - depth) / 2, width, depth, low, high }, grid);
    if (!stroke) {
      session.say('no part of it lies in the level: make it larger', true);
      return;
    }
    const insert = insertLift(liftStack(session.level), lift);
    const parts = insert.kind === 'together' ? insert.parts : [insert];
    if (session.commit({ kind: 'together', parts: [...parts, stroke] }, `lay in ${file.name}`)) {
      useEarth.setState({ lift: lift.id, water: undefined });
      useUi.setState({ tool: 'select' });
    }
    onDone();
  };

  return (
    <dialog
      ref={dialog}
      className="m-auto border p-0"
      style={{ background: 'var(--raised)', color: 'var(--ink)', borderColor: 'var(--ink)', width: W + 40 }}
      aria-label="lay in heights"
      onClose={onDone}
      onKeyDown={(e) => e.stopPropagation()}
    >
      <h2 className="m-0 border-b px-5 py-2 text-[16px] font-semibold" style={{ borderColor: 'var(--ink)' }}>
        Heights from {file.name}
      </h2>
      <div className="grid gap-3 px-5 py-3">
        {!read.ok && (
          <p role="alert" className="m-0" style={{ color: 'var(--oxide)' }}>
            {read.message}
          </p>
        )}
        {raw && sizes.length > 0 && (
          <div className="flex items-center gap-4">
            <label className="flex items-center gap-2">
              <span className="label">pixels</span>
              <select
                className="textf h-7"
                value={size}
                onChange={(e) => {
                  const i = Number(e.target.value);
                  setSize(i);
                  setRead(readFile(i, bigEndian));
                }}
              >
                {sizes.slice(0, 12).map((s, i) => (
                  <option key={i} value={i}>
                    {s.width} x {s.height}
                  </option>
                ))}
              </select>
            </label>
            <label className="label flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={bigEndian}
                onChange={(e) => {
                  setBigEndian(e.target.checked);
                  setRead(readFile(size, e.target.checked));
                }}
              />
              higher byte first
            </label>
          </div>
        )}
        {map && (
          <>
            <p className="label m-0">
              {`${map.width} x ${map.height} pixels${map.depth ? ` of ${map.depth} bits` : ', its top sampled'}; ` +
                `the level is ${grid.width} x ${grid.depth} m, a sample each ${grid.spacing} m`}
            </p>
            <div className="grid grid-cols-3 gap-x-4">
              <NumberField label="width" value={width} unit="m" min={1} max={100_000} step={10} digits={1} onCommit={setWidth} />
              <NumberField label="lowest" value={low} unit="m" min={-2000} max={9000} step={1} onCommit={setLow} />
              <NumberField label="highest" value={high} unit="m" min={-2000} max={9000} step={1} onCommit={setHigh} />
            </div>
            <Profile map={map} width={width} low={low} high={high} body={body.height} />
            <p className="label m-0">
              {`${width.toFixed(1)} x ${depth.toFixed(1)} m, ` +
                `${(width / body.walk).toFixed(0)} s across at a walk; a pixel is ${(width / (map.width - 1)).toFixed(2)} m`}
            </p>
          </>
        )}
        <div className="flex justify-end gap-2">
          <button className="act" onClick={onDone}>
            cancel
          </button>
          <button className="act main" disabled={!map || high < low || !session.writable} onClick={apply}>
            lay it in
          </button>
        </div>
      </div>
    </dialog>
  );
}

/** Its middle row as a section, the same scale both ways, with the figure on it; cut off at the drawing's end where it is longer. */
function Profile({ map, width, low, high, body }: { map: Heightmap; width: number; low: number; high: number; body: number }) {
  const k = Math.max(W / width, Math.min(24 / body, (H - 30) / Math.max(high - low, body * 1.5)));
  const shown = Math.min(width, W / k);
  const row = Math.floor(map.height / 2) * map.width;
  const at = (m: number) => map.values[row + Math.round((m / width) * (map.width - 1))];
  const y = (v: number) => H - 8 - (v === v ? v : 0) * (high - low) * k;
  const line = Array.from({ length: 231 }, (_, i) => {
    const m = (i / 230) * shown;
    return `${(m * k).toFixed(1)} ${y(at(m)).toFixed(1)}`;
  }).join('L');
  return (
    <svg
      width={W}
      height={H}
      className="border"
      style={{ borderColor: 'var(--hair)' }}
      role="img"
      aria-label={`its middle row beside a ${body} m figure, ${shown.toFixed(0)} m of it`}
    >
      <defs>
        <pattern id="survey-earth" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke="var(--hair)" />
        </pattern>
      </defs>
      <path d={`M${line}V${H}H0z`} fill="url(#survey-earth)" />
      <path d={`M${line}`} fill="none" stroke="var(--ink)" strokeWidth="1.75" />
      <g transform={`translate(${(shown * k) / 3} ${y(at(shown / 3))}) scale(${(body * k) / 100})`} fill="var(--oxide)">
        <path d="M-9 0L-7 -48L-14 -50L-11 -82H11L14 -50L7 -48L9 0H3L0 -44L-3 0z" />
        <circle cy={-92} r={8} />
      </g>
      <text
        className="fig"
        x={W - 4}
        y={14}
        textAnchor="end"
        fontSize="12"
        fill="var(--ink-2)"
      >{`${shown.toFixed(0)} of ${width.toFixed(0)} m, same scale both ways`}</text>
    </svg>
  );
}
