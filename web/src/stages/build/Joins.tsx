import { Plus, X } from 'lucide-react';
import { useEffect, useState } from 'react';
import type { Asset } from '@rammer/core/kit/asset';
import { playerBody } from '@rammer/core/level/level';
import type { Join, Part } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { NumberField } from '../../ui/NumberField';
import { useTurned } from '../../ui/useTurned';
import { pictured } from '../../view/assetPicture';
import type { LevelView } from '../../view/LevelView';
import { JoinMarks } from './JoinMarks';

interface Props {
  session: Session;
  view?: LevelView;
  name: string;
  part: Part;
  asset?: Asset;
  onSet(joins: Join[]): void;
  onFind(): void;
}

const SMALL = { minHeight: 24, padding: '1px 7px' };

/** The joins of a part: drawn on its picture, which drags round, and as numbers. */
export function Joins({ session, view, name, part, asset, onSet, onFind }: Props) {
  const { frame, size, turn, drag } = useTurned([25, 32]);
  const [drawn, setDrawn] = useState<{ url: string; turn: [number, number]; asset: Asset }>();
  const [at, setAt] = useState<number>();
  useEffect(() => {
    if (!view || !asset || !size || size[0] < 20 || size[1] < 20) return;
    let gone = false;
    void view.assetPicture(asset, { width: size[0], height: size[1], round: turn[0], over: turn[1] }).then((url) => {
      if (!gone) setDrawn({ url, turn, asset });
    });
    return () => {
      gone = true;
    };
  }, [view, asset, size, turn]);
  const { joins } = part;
  const set = (i: number, fields: Partial<Join>) => onSet(joins.map((j, k) => (k === i ? { ...j, ...fields } : j)));
  const shown = drawn && asset === drawn.asset && size ? drawn : undefined;
  const project =
    shown && pictured(shown.asset, playerBody(session.level).figures, { width: size![0], height: size![1], round: shown.turn[0], over: shown.turn[1] });
  return (
    <div className="flex min-w-0 flex-1 flex-col">
      <div ref={frame} className="relative min-h-0 flex-1 cursor-grab touch-none overflow-hidden" style={{ background: 'var(--plot)' }} {...drag}>
        {shown && <img src={shown.url} alt={`${name} beside the figure`} draggable={false} className="pointer-events-none block h-full w-full" />}
        {!asset && <p className="label m-0 p-4">Its mesh is not here: it is still read, or its asset is gone.</p>}
        {project && <JoinMarks part={part} project={project} width={size![0]} at={at} onHover={setAt} onSet={(i, fields) => set(i, fields)} />}
        <p className="label pointer-events-none absolute left-3 right-3 top-2 m-0 truncate">{name}; drag turns it, the dots move and turn its joins</p>
      </div>
      <div className="max-h-[46%] shrink-0 overflow-y-auto border-t" style={{ borderColor: 'var(--ink)' }}>
        <div className="flex items-center gap-2 border-b px-3 py-1.5" style={{ borderColor: 'var(--hair)' }}>
          <b className="font-medium">joins</b>
          <span className="label min-w-0 flex-1 truncate">where it meets others: along a line its left side looks to 180°, its right side to 0°</span>
          <button className="act" style={SMALL} title="by its box and the kit's grid" onClick={onFind}>
            find
          </button>
          <button
            className="act"
            style={SMALL}
            disabled={joins.length >= 16}
            onClick={() => onSet([...joins, { at: [part.box[1][0], 0, 0], turn: 0, kind: joins[0]?.kind ?? 'wall', width: 0.3 }])}
          >
            <Plus size={13} />
            join
          </button>
        </div>
        {joins.length === 0 && <p className="label m-0 px-3 py-2">None: it stands where it is put. Find them by its box, or add one.</p>}
        {joins.map((j, i) => (
          <div
            key={i}
            className="flex flex-wrap items-center gap-x-2 gap-y-1 border-b px-3 py-1.5"
            style={{ borderColor: 'var(--hair)', background: at === i ? 'var(--raised)' : undefined }}
            onPointerEnter={() => setAt(i)}
            onPointerLeave={() => setAt(undefined)}
          >
            <span className="fig w-4 shrink-0 font-semibold">{i + 1}</span>
            {(['x', 'y', 'z'] as const).map((axis, k) => (
              <NumberField
                key={axis}
                label={axis}
                className="flex w-[86px] items-center gap-1"
                fill
                value={j.at[k]}
                unit="m"
                digits={3}
                step={0.05}
                onCommit={(v) => set(i, { at: j.at.map((c, n) => (n === k ? v : c)) as Vec3 })}
              />
            ))}
            <button className="icon-btn ml-auto" aria-label={`take join ${i + 1} away`} onClick={() => onSet(joins.filter((_, k) => k !== i))}>
              <X size={14} />
            </button>
            <span className="w-4 shrink-0 basis-4" />
            <NumberField
              label="to"
              className="flex w-[86px] items-center gap-1"
              fill
              value={j.turn}
              unit="°"
              min={-360}
              max={360}
              step={15}
              digits={1}
              onCommit={(v) => set(i, { turn: v })}
            />
            <NumberField
              label="wide"
              className="flex w-[96px] items-center gap-1"
              fill
              value={j.width}
              unit="m"
              min={0}
              max={1000}
              step={0.05}
              onCommit={(v) => set(i, { width: v })}
            />
            <Words label="kind" value={j.kind} onSet={(kind) => kind && set(i, { kind })} />
            <Words
              label="fits"
              value={(j.fits ?? []).join(', ')}
              placeholder="its own kind"
              onSet={(text) => {
                const fits = text
                  .split(',')
                  .map((w) => w.trim().slice(0, 40))
                  .filter(Boolean)
                  .slice(0, 16);
                const { fits: _, ...rest } = j;
                onSet(joins.map((other, k) => (k === i ? { ...rest, ...(fits.length > 0 ? { fits } : {}) } : other)));
              }}
            />
          </div>
        ))}
      </div>
    </div>
  );
}

/** A word or some, taken when the field is left. */
function Words({ label, value, placeholder, onSet }: { label: string; value: string; placeholder?: string; onSet(text: string): void }) {
  return (
    <label className="flex w-[102px] items-center gap-1">
      <span className="label">{label}</span>
      <input
        key={value}
        className="textf h-6 w-full min-w-0"
        defaultValue={value}
        placeholder={placeholder}
        maxLength={200}
        onBlur={(e) => e.target.value.trim() !== value && onSet(e.target.value.trim())}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
    </label>
  );
}
