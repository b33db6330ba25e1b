import { useEffect, useRef, useState } from 'react';
import { chordOf, keyLabel, NO_KEY, useKeys } from '../store/keys';
import type { Shortcut } from './shortcuts';

const always = (key: (code: string) => string): [string, string][] => [
  ['left drag', 'the tool; on empty ground with select, turns the view'],
  ['middle drag', 'turns the view; with Shift moves it'],
  ['right drag', `looks around; with ${'W A S D Q E'.replace(/[A-Z]/g, (k) => key(`Key${k}`))} flies, the wheel sets the speed`],
  ['wheel', 'nearer and farther, towards the pointer'],
  ['Esc', 'ends a tool, then the selection; in Walk comes back'],
  ['Shift, Alt', 'with a brush: reverses it, picks what is under the pointer'],
  ['digits', 'while drawing: the length or height; Enter sets it, Backspace takes it back'],
  ['Enter', 'while drawing corners: ends the line; Backspace takes a corner back, Shift keeps to 15°'],
  ['Alt and click', 'on a corner of a line or outline: takes it out'],
  ['Shift, Ctrl and click', 'adds to the selection; in a list Shift takes all between'],
  ['Ctrl and drag', 'duplicates what is dragged'],
  ['Q, E'.replace(/[A-Z]/g, (k) => key(`Key${k}`)), 'while placing a piece: turn it by a quarter'],
  [`${'W A S D'.replace(/[A-Z]/g, (k) => key(`Key${k}`))}, Shift, Space`, `in Walk: walk, run, jump; ${key('KeyQ')} ${key('KeyE')} or right drag turn`],
];

/** The list of keys. A key is changed by clicking it and pressing another, or turned off. */
export function Help({ shortcuts, onClose }: { shortcuts: Shortcut[]; onClose(): void }) {
  const ref = useRef<HTMLDialogElement>(null);
  const { changed, printed, set, reset } = useKeys();
  const [asking, ask] = useState<string>();
  const [taken, setTaken] = useState<string>();
  useEffect(() => {
    ref.current?.showModal();
  }, []);
  useEffect(() => {
    if (asking === undefined) return;
    const onKey = (e: KeyboardEvent) => {
      e.preventDefault();
      e.stopImmediatePropagation();
      if (['ControlLeft', 'ControlRight', 'ShiftLeft', 'ShiftRight', 'AltLeft', 'AltRight', 'MetaLeft', 'MetaRight'].includes(e.code)) return;
      if (e.code !== 'Escape') {
        const chord = chordOf(e);
        const other = shortcuts.find((s) => s.code === chord && (s.own ?? s.code) !== asking);
        if (other) {
          setTaken(`${other.label} is "${other.does}": change or turn that off first`);
          return;
        }
        set(asking, chord);
      }
      setTaken(undefined);
      ask(undefined);
    };
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  }, [asking, shortcuts, set]);
  return (
    <dialog
      ref={ref}
      onClose={onClose}
      aria-label="keys"
      className="m-auto max-h-[86vh] w-[720px] border p-0"
      style={{ background: 'var(--raised)', borderColor: 'var(--ink)', color: 'var(--ink)' }}
    >
      <div className="flex items-center gap-2 border-b px-4 py-2" style={{ borderColor: 'var(--ink)' }}>
        <h2 className="fig m-0 text-[19px] font-semibold">Keys</h2>
        <span role="status" className="min-w-0 flex-1 truncate" style={{ color: taken ? 'var(--oxide)' : 'var(--ink-2)' }}>
          {taken ?? (asking ? 'press the new key; Esc leaves it' : 'click a key to change it')}
        </span>
        {Object.keys(changed).length > 0 && (
          <button className="act" onClick={reset}>
            all as shipped
          </button>
        )}
        <button className="act" onClick={onClose}>
          close
        </button>
      </div>
      <ul className="m-0 list-none columns-2 gap-8 px-4 py-3">
        {shortcuts
          .filter((s) => s.label !== 'arrows')
          .map((s) => {
            const own = s.own ?? s.code;
            return (
              <li key={own} className="flex break-inside-avoid items-center gap-2 border-b py-0.5" style={{ borderColor: 'var(--hair)' }}>
                <button
                  className="act fig w-24 justify-center"
                  style={{ minHeight: 24, padding: '0 4px', fontWeight: 600 }}
                  aria-pressed={asking === own}
                  aria-label={`${s.does}: ${s.label}, change`}
                  onClick={() => {
                    setTaken(undefined);
                    ask(own);
                  }}
                >
                  {asking === own ? 'press' : s.label}
                </button>
                <span className="min-w-0 flex-1">{s.does}</span>
                {s.label !== 'off' && s.label !== NO_KEY && (
                  <button className="act plain" style={{ minHeight: 24, padding: '0 4px' }} aria-label={`turn off ${s.does}`} onClick={() => set(own, '')}>
                    off
                  </button>
                )}
                {changed[own] !== undefined && (
                  <button
                    className="act plain"
                    style={{ minHeight: 24, padding: '0 4px' }}
                    aria-label={`${s.does} as shipped`}
                    onClick={() => set(own, undefined)}
                  >
                    back
                  </button>
                )}
              </li>
            );
          })}
        {[['arrows', 'nudge the selection by the grid, or turn the view'], ...always((code) => keyLabel(code, printed))].map(([k, v]) => (
          <li key={v} className="flex break-inside-avoid gap-3 border-b py-1" style={{ borderColor: 'var(--hair)' }}>
            <b className="fig w-28 shrink-0">{k}</b>
            <span>{v}</span>
          </li>
        ))}
      </ul>
    </dialog>
  );
}
