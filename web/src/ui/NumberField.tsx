import { useEffect, useId, useRef, useState } from 'react';
import { parseQuantity } from './quantity';

interface Props {
  label: string;
  value: number;
  unit?: string;
  min?: number;
  max?: number;
  digits?: number;
  /** step of the arrow keys; Shift takes ten */
  step?: number;
  disabled?: boolean;
  hideLabel?: boolean;
  autoFocus?: boolean;
  className?: string;
  /** a finished value: Enter, an arrow key or leaving the field */
  onCommit(value: number): void;
  onCancel?(): void;
}

/** A number that can be typed, with its unit: `2.4`, `180cm`, `6ft`, `2*1.2+0.35`. */
export function NumberField(props: Props) {
  const { label, value, unit, min = -Infinity, max = Infinity, digits = 2, step = 0.1, disabled, hideLabel, autoFocus, className, onCommit, onCancel } = props;
  const id = useId();
  const shown = format(value, digits);
  const [text, setText] = useState(shown);
  const [problem, setProblem] = useState<string>();
  const input = useRef<HTMLInputElement>(null);
  const editing = useRef(false);

  useEffect(() => { if (!editing.current) setText(shown); }, [shown]);
  useEffect(() => { if (autoFocus) input.current?.select(); }, [autoFocus]);

  const finish = (raw: string): boolean => {
    const parsed = parseQuantity(raw, unit);
    const fault = parsed === undefined ? 'not a number' : parsed < min ? `at least ${format(min, digits)}${unit ? ` ${unit}` : ''}` : parsed > max ? `at most ${format(max, digits)}${unit ? ` ${unit}` : ''}` : undefined;
    setProblem(fault);
    if (fault || parsed === undefined) return false;
    if (parsed !== value) onCommit(parsed);
    setText(format(parsed, digits));
    return true;
  };

  return (
    <div className={className ?? 'flex items-center justify-between gap-2'}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'label'}>{label}</label>
      <span className="numf" style={{ width: unit ? 78 : 64 }} data-bad={problem !== undefined} title={problem}>
        <input
          ref={input} id={id} value={text} disabled={disabled} inputMode="decimal" autoComplete="off" spellCheck={false} autoFocus={autoFocus}
          aria-invalid={problem !== undefined} aria-errormessage={problem ? `${id}-problem` : undefined}
          onFocus={(e) => { editing.current = true; e.currentTarget.select(); }}
          onChange={(e) => { setText(e.target.value); setProblem(undefined); }}
          onBlur={(e) => {
            editing.current = false;
            if (!finish(e.currentTarget.value)) { setText(shown); setProblem(undefined); }
          }}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Enter') { if (finish(e.currentTarget.value)) { editing.current = false; e.currentTarget.blur(); } }
            else if (e.key === 'Escape') { setText(shown); setProblem(undefined); editing.current = false; e.currentTarget.value = shown; e.currentTarget.blur(); onCancel?.(); }
            else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
              e.preventDefault();
              const by = step * (e.shiftKey ? 10 : 1) * (e.key === 'ArrowUp' ? 1 : -1);
              finish(String(Math.min(max, Math.max(min, Number((value + by).toFixed(6))))));
            }
          }}
        />
        {unit && <span aria-hidden>{unit}</span>}
      </span>
      {problem && <span id={`${id}-problem`} role="alert" className="sr-only">{label}: {problem}</span>}
    </div>
  );
}

function format(value: number, digits: number): string {
  return Number.isFinite(value) ? String(Number(value.toFixed(digits))) : '';
}
