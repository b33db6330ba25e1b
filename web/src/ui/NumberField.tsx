import { useEffect, useId, useRef, useState } from 'react';
import { parseQuantity } from './quantity';

interface Props {
  label: string;
  value: number;
  /** shown instead of the value where several things differ, `4.0-6.2`; typing sets them all */
  mixed?: string;
  unit?: string;
  min?: number;
  max?: number;
  digits?: number;
  /** step of the arrow keys; Shift takes ten */
  step?: number;
  disabled?: boolean;
  hideLabel?: boolean;
  /** what is seen instead of the label, where there is no room for it */
  short?: string;
  autoFocus?: boolean;
  className?: string;
  /** as wide as its place */
  fill?: boolean;
  /** a finished value: Enter, an arrow key or leaving the field; false where it was refused */
  onCommit(value: number): unknown;
  /** the field was left, whatever it holds */
  onLeave?(): void;
}

/** A number that can be typed, with its unit: `2.4`, `180cm`, `6ft`, `2*1.2+0.35`. */
export function NumberField(props: Props) {
  const {
    label,
    value,
    mixed,
    unit,
    min = -Infinity,
    max = Infinity,
    digits = 2,
    step = 0.1,
    disabled,
    hideLabel,
    short,
    autoFocus,
    className,
    fill,
    onCommit,
    onLeave,
  } = props;
  const id = useId();
  const shown = mixed ?? format(value, digits);
  /** what is being typed; undefined while the value itself is shown */
  const [draft, setDraft] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  /** what was committed last: Enter also leaves the field, and one value is one edit */
  const committed = useRef<number>(undefined);

  useEffect(() => {
    committed.current = mixed === undefined ? value : undefined;
  }, [value, mixed]);
  useEffect(() => {
    if (autoFocus) input.current?.select();
  }, [autoFocus]);

  const finish = (raw: string): boolean => {
    if (raw === shown) return true;
    const parsed = parseQuantity(raw, unit);
    const fault =
      parsed === undefined
        ? 'not a number'
        : parsed < min
          ? `at least ${format(min, digits)}${unit ? ` ${unit}` : ''}`
          : parsed > max
            ? `at most ${format(max, digits)}${unit ? ` ${unit}` : ''}`
            : undefined;
    setProblem(fault);
    if (fault || parsed === undefined) return false;
    if (parsed !== committed.current) {
      committed.current = parsed;
      if (onCommit(parsed) === false) committed.current = value;
    }
    return true;
  };
  const leave = () => {
    setDraft(undefined);
    setProblem(undefined);
  };

  return (
    <div className={className ?? 'flex items-center justify-between gap-2'}>
      {short !== undefined && (
        <span className="label" aria-hidden>
          {short}
        </span>
      )}
      <label htmlFor={id} className={hideLabel || short !== undefined ? 'sr-only' : 'label whitespace-nowrap'}>
        {label}
      </label>
      <span className="numf" style={{ width: fill ? '100%' : unit ? 78 : 64 }} data-bad={problem !== undefined} title={problem}>
        <input
          ref={input}
          id={id}
          value={draft ?? shown}
          disabled={disabled}
          inputMode="decimal"
          autoComplete="off"
          spellCheck={false}
          autoFocus={autoFocus}
          aria-invalid={problem !== undefined}
          aria-errormessage={problem ? `${id}-problem` : undefined}
          onFocus={(e) => e.currentTarget.select()}
          onChange={(e) => {
            setDraft(e.target.value);
            setProblem(undefined);
          }}
          onBlur={(e) => {
            finish(e.currentTarget.value);
            leave();
            onLeave?.();
          }}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Enter') {
              if (finish(e.currentTarget.value)) e.currentTarget.blur();
            } else if (e.key === 'Escape') {
              e.currentTarget.value = shown;
              e.currentTarget.blur();
            } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
              e.preventDefault();
              const by = step * (e.shiftKey ? 10 : 1) * (e.key === 'ArrowUp' ? 1 : -1);
              if (finish(String(Math.min(max, Math.max(min, Number((value + by).toFixed(6))))))) leave();
            }
          }}
        />
        {unit && <span aria-hidden>{unit}</span>}
      </span>
      {problem && (
        <span id={`${id}-problem`} role="alert" className="sr-only">
          {label}: {problem}
        </span>
      )}
    </div>
  );
}

function format(value: number, digits: number): string {
  return Number.isFinite(value) ? String(Number(value.toFixed(digits))) : '';
}
