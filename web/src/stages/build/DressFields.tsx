import { Dices, X } from 'lucide-react';
import { MOST_THROWN } from '@rammer/core/play/throwPieces';
import { useDressing } from '../../store/dressing';
import type { Session } from '../../store/session';
import { useKeyLabel } from '../../store/keys';
import { rollAgain } from '../../tools/dressed';
import { NumberField } from '../../ui/NumberField';

const HALF = 'grid min-w-0 flex-1 gap-0.5';

/** What brush and throw set, and the ranges each draws from. @param thrown fields of the throw, else of the brush */
export function DressFields({ session, thrown }: { session: Session; thrown: boolean }) {
  const { of, radius, throwing, falling, set } = useDressing();
  const setThrow = (fields: Partial<typeof throwing>) => useDressing.setState({ throwing: { ...throwing, ...fields } });
  const key = useKeyLabel();
  return (
    <>
      <ul className="m-0 list-none p-0" aria-label="in the brush">
        {of.list.map((l, i) => (
          <li key={l.asset} className="flex h-[26px] items-center gap-2">
            <span className="min-w-0 flex-1 truncate">{session.level.object(l.asset)?.name ?? 'a mesh that is gone'}</span>
            <NumberField
              label={`weight of ${session.level.object(l.asset)?.name ?? 'it'}`}
              hideLabel
              className="w-[48px]"
              fill
              value={l.weight}
              min={0}
              max={1000}
              step={1}
              digits={1}
              onCommit={(weight) => set({ list: of.list.map((o, k) => (k === i ? { ...o, weight } : o)) })}
            />
            <button className="icon-btn" aria-label="take it out of the brush" onClick={() => set({ list: of.list.filter((_, k) => k !== i) })}>
              <X size={14} />
            </button>
          </li>
        ))}
      </ul>
      {of.list.length === 0 && <p className="label m-0">Click pieces and props in the library: each click puts one into the brush, or takes it out.</p>}
      <div className="flex gap-2">
        <NumberField
          label="radius"
          className={HALF}
          fill
          value={radius}
          unit="m"
          min={0.25}
          max={50}
          step={0.25}
          onCommit={(v) => useDressing.setState({ radius: v })}
        />
        {thrown ? (
          <>
            <NumberField
              label="count"
              className={HALF}
              fill
              value={throwing.count}
              min={1}
              max={MOST_THROWN}
              step={1}
              digits={0}
              onCommit={(v) => setThrow({ count: Math.round(v) })}
            />
            <NumberField
              label="from"
              className={HALF}
              fill
              value={throwing.height}
              unit="m"
              min={0}
              max={50}
              step={0.5}
              onCommit={(height) => setThrow({ height })}
            />
          </>
        ) : (
          <>
            <NumberField
              label="spacing"
              className={HALF}
              fill
              value={of.spacing}
              unit="m"
              min={0.05}
              max={100}
              step={0.1}
              onCommit={(spacing) => set({ spacing })}
            />
            <NumberField
              label="lean"
              className={HALF}
              fill
              value={of.lean * 100}
              unit="%"
              min={0}
              max={100}
              step={10}
              digits={0}
              onCommit={(v) => set({ lean: v / 100 })}
            />
          </>
        )}
      </div>
      <Range label="turn" unit="°" value={of.turn} limits={[-180, 180]} step={15} digits={0} onSet={(turn) => set({ turn })} />
      <Range label="size" value={of.size} limits={[0.01, 100]} step={0.05} onSet={(size) => set({ size })} />
      {!thrown && <Range label="sink" unit="m" value={of.sink} limits={[-5, 5]} step={0.05} onSet={(sink) => set({ sink })} />}
      <div className="flex gap-2">
        <NumberField
          label="uneven"
          className={HALF}
          fill
          value={of.uneven * 100}
          unit="%"
          min={0}
          max={80}
          step={5}
          digits={0}
          onCommit={(v) => set({ uneven: v / 100 })}
        />
        <NumberField
          label={thrown ? 'tumble' : 'tilt to'}
          className={HALF}
          fill
          value={thrown ? throwing.tumble : of.tilt}
          unit="°"
          min={0}
          max={thrown ? 180 : 90}
          step={5}
          digits={0}
          onCommit={(v) => (thrown ? setThrow({ tumble: v }) : set({ tilt: v }))}
        />
        <NumberField
          label="flip 1 in"
          className={HALF}
          fill
          value={of.flip}
          min={0}
          max={1000}
          step={1}
          digits={0}
          onCommit={(v) => set({ flip: Math.round(v) })}
        />
      </div>
      <div className="flex items-center gap-2">
        <button className="act" style={{ minHeight: 24, padding: '1px 7px' }} onClick={() => rollAgain(session)}>
          <Dices size={14} />
          roll again ({key('KeyR')})
        </button>
        {falling && (
          <button className="act" style={{ minHeight: 24, padding: '1px 7px' }} onClick={falling.stop}>
            stop
          </button>
        )}
        <span className="label">
          {thrown ? 'Click throws; Escape stops it;' : 'Shift takes away;'} {key('BracketLeft')} {key('BracketRight')} the radius.
        </span>
      </div>
    </>
  );
}

/** Lowest and highest of what each draws. */
function Range({
  label,
  value,
  limits,
  onSet,
  ...field
}: {
  label: string;
  unit?: string;
  value: readonly [number, number];
  limits: readonly [number, number];
  step: number;
  digits?: number;
  onSet(v: [number, number]): void;
}) {
  const [low, high] = value;
  return (
    <div className="flex items-center gap-2">
      <span className="label w-[34px]">{label}</span>
      <NumberField
        label={`${label} from`}
        hideLabel
        className="min-w-0 flex-1"
        fill
        value={low}
        min={limits[0]}
        max={limits[1]}
        onCommit={(v) => onSet([v, Math.max(v, high)])}
        {...field}
      />
      <span className="label">to</span>
      <NumberField
        label={`${label} to`}
        hideLabel
        className="min-w-0 flex-1"
        fill
        value={high}
        min={limits[0]}
        max={limits[1]}
        onCommit={(v) => onSet([Math.min(v, low), v])}
        {...field}
      />
    </div>
  );
}
