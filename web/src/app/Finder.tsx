import { useEffect, useId, useRef, useState } from 'react';
import type { Shortcut } from './shortcuts';

/** Everything that a key can do, found by its words (Ctrl+K): each typed word must occur. */
export function Finder({ shortcuts, onClose }: { shortcuts: readonly Shortcut[]; onClose(): void }) {
  const ref = useRef<HTMLDialogElement>(null);
  const input = useRef<HTMLInputElement>(null);
  const id = useId();
  const [text, setText] = useState('');
  const [at, setAt] = useState(0);
  useEffect(() => {
    ref.current?.showModal();
    input.current?.focus();
  }, []);
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  const all = [...new Map(shortcuts.filter((s) => s.label !== 'arrows').map((s) => [s.does, s])).values()];
  const rows = all.filter((s) => words.every((w) => s.does.toLowerCase().includes(w)));
  const marked = Math.min(at, rows.length - 1);
  const run = (s: Shortcut | undefined) => {
    if (!s) return;
    ref.current?.close();
    s.run();
  };
  useEffect(() => {
    document.getElementById(`${id}-${marked}`)?.scrollIntoView({ block: 'nearest' });
  }, [id, marked]);
  return (
    <dialog
      ref={ref}
      onClose={onClose}
      aria-label="find a command"
      className="mx-auto mt-[12vh] w-[440px] border p-0"
      style={{ background: 'var(--raised)', borderColor: 'var(--ink)', color: 'var(--ink)' }}
    >
      <input
        ref={input}
        className="textf h-10 w-full border-0 border-b text-[16px]"
        placeholder="what should be done"
        role="combobox"
        aria-label="what should be done"
        aria-expanded
        aria-autocomplete="list"
        autoComplete="off"
        spellCheck={false}
        aria-controls={`${id}-list`}
        aria-activedescendant={marked >= 0 ? `${id}-${marked}` : undefined}
        value={text}
        onChange={(e) => {
          setText(e.target.value);
          setAt(0);
        }}
        onKeyDown={(e) => {
          if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            setAt((marked + (e.key === 'ArrowDown' ? 1 : rows.length - 1)) % Math.max(1, rows.length));
          } else if (e.key === 'Enter') {
            e.preventDefault();
            run(rows[marked]);
          }
        }}
      />
      <div id={`${id}-list`} role="listbox" aria-label="commands" tabIndex={-1} className="max-h-[46vh] overflow-y-auto">
        {rows.map((s, i) => (
          <div
            key={s.code}
            id={`${id}-${i}`}
            role="option"
            aria-selected={i === marked}
            className="finder-item flex h-7 cursor-pointer items-center justify-between px-3"
            onPointerMove={() => setAt(i)}
            onClick={() => run(s)}
          >
            <span>{s.does}</span>
            <span className="fig label">{s.label}</span>
          </div>
        ))}
      </div>
      {rows.length === 0 && (
        <p role="status" className="label m-0 px-3 py-2">
          Nothing is called that.
        </p>
      )}
    </dialog>
  );
}
