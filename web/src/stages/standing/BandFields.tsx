import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { NumberField } from '../../ui/NumberField';
import { BandStrip, type Band } from './BandStrip';

/** How a kind of condition is typed and drawn. */
export interface BandKind {
  drawn: [number, number];
  limits: [number, number];
  widest: number;
  step: number;
}

interface Props<K extends string> {
  by: K;
  /** kinds there are to choose from */
  kinds: readonly { by: K; name: string; off?: boolean }[];
  of: Omit<Band, 'drawn'> & BandKind;
  above: string;
  below: string;
  onKind(by: K): void;
  onSet(fields: { band?: [number, number]; soft?: number }): void;
  onRemove(): void;
  /** what a kind has beside */
  children?: ReactNode;
}

/** A condition: what it goes by, the band of values it lets in, drawn, and how soft its ends are. */
export function BandFields<K extends string>({ by, kinds, of, above, below, onKind, onSet, onRemove, children }: Props<K>) {
  const { name, unit, band, soft, limits, widest, step } = of;
  const digits = step < 1 ? 2 : 1;
  const field = { hideLabel: true, className: 'w-[46px]', fill: true, step, digits };
  return (
    <div className="grid grid-cols-1 gap-0.5 border-t pt-1" style={{ borderColor: 'var(--hair)' }}>
      <div className="flex items-center gap-1">
        <select className="textf h-6 w-[88px] min-w-0 px-0.5" aria-label="what the condition goes by" value={by} onChange={(e) => onKind(e.target.value as K)}>
          {kinds.map((k) => (
            <option key={k.by} value={k.by} disabled={k.off}>
              {k.name}
            </option>
          ))}
        </select>
        <NumberField label={`${name} from`} {...field} value={band[0]} min={limits[0]} max={band[1]} onCommit={(v) => onSet({ band: [v, band[1]] })} />
        <span className="label">to</span>
        <NumberField label={`${name} to`} {...field} value={band[1]} min={band[0]} max={limits[1]} onCommit={(v) => onSet({ band: [band[0], v] })} />
        <button className="icon-btn ml-auto" style={{ width: 20 }} aria-label={`remove the condition ${name}`} onClick={onRemove}>
          <X size={13} />
        </button>
      </div>
      <BandStrip of={of} above={above} below={below} />
      <div className="flex flex-wrap items-center justify-between gap-x-2 gap-y-0.5">
        <NumberField
          label="soft over"
          value={soft}
          unit={unit || undefined}
          min={0}
          max={widest}
          step={step}
          digits={digits}
          onCommit={(v) => onSet({ soft: v })}
        />
        {children}
      </div>
    </div>
  );
}
