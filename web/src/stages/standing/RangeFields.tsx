import { X } from 'lucide-react';
import type { Ranges } from '@rammer/core/level/lay/dressed';
import { NumberField } from '../../ui/NumberField';

export const HALF = 'grid min-w-0 flex-1 gap-0.5';

interface RangeProps {
  label: string;
  unit?: string;
  value: readonly [number, number];
  limits: readonly [number, number];
  step: number;
  digits?: number;
  onSet(v: [number, number]): void;
}

/** Lowest and highest of what each draws. */
export function Range({ label, value, limits, onSet, ...field }: RangeProps) {
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

/** Turn, size and sink of each, what it leans by, and how uneven it is. @param tilt a field in the place of that of the tilt */
export function RangeFields({ value, onSet, tilt, flat }: { value: Ranges; onSet(set: Partial<Ranges>): void; tilt?: React.ReactNode; flat?: boolean }) {
  return (
    <>
      <Range label="turn" unit="°" value={value.turn} limits={[-180, 180]} step={15} digits={0} onSet={(turn) => onSet({ turn })} />
      <Range label="size" value={value.size} limits={[0.01, 100]} step={0.05} onSet={(size) => onSet({ size })} />
      {!flat && <Range label="sink" unit="m" value={value.sink} limits={[-5, 5]} step={0.05} onSet={(sink) => onSet({ sink })} />}
      <div className="flex gap-2">
        <NumberField
          label="uneven"
          className={HALF}
          fill
          value={value.uneven * 100}
          unit="%"
          min={0}
          max={80}
          step={5}
          digits={0}
          onCommit={(v) => onSet({ uneven: v / 100 })}
        />
        {tilt ?? (
          <NumberField
            label="tilt to"
            className={HALF}
            fill
            value={value.tilt}
            unit="°"
            min={0}
            max={90}
            step={5}
            digits={0}
            onCommit={(v) => onSet({ tilt: v })}
          />
        )}
        <NumberField
          label="flip 1 in"
          className={HALF}
          fill
          value={value.flip}
          min={0}
          max={1000}
          step={1}
          digits={0}
          onCommit={(v) => onSet({ flip: Math.round(v) })}
        />
      </div>
    </>
  );
}

/** How far each leans with what it stands on. */
export const LeanField = ({ value, onSet }: { value: number; onSet(lean: number): void }) => (
  <NumberField label="lean" className={HALF} fill value={value * 100} unit="%" min={0} max={100} step={10} digits={0} onCommit={(v) => onSet(v / 100)} />
);

/** What is set, how often each comes against the others. */
export function MixList({
  label,
  list,
  onWeight,
  onTake,
}: {
  label: string;
  list: readonly { id: string; name: string; weight: number }[];
  onWeight(id: string, weight: number): void;
  onTake(id: string): void;
}) {
  return (
    <ul className="m-0 list-none p-0" aria-label={label}>
      {list.map(({ id, name, weight }) => (
        <li key={id} className="flex h-[26px] items-center gap-2">
          <span className="min-w-0 flex-1 truncate">{name}</span>
          <NumberField
            label={`weight of ${name}`}
            hideLabel
            className="w-[48px]"
            fill
            value={weight}
            min={0}
            max={1000}
            step={1}
            digits={1}
            onCommit={(v) => onWeight(id, v)}
          />
          <button className="icon-btn" aria-label={`take ${name} out`} onClick={() => onTake(id)}>
            <X size={14} />
          </button>
        </li>
      ))}
    </ul>
  );
}
