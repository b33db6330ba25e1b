import { Command } from 'cmdk';
import { useEffect, useRef } from 'react';
import type { Shortcut } from './shortcuts';

/** Everything that a key can do, found by its words (Ctrl+K). */
export function Finder({ shortcuts, onClose }: { shortcuts: readonly Shortcut[]; onClose(): void }) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    ref.current?.showModal();
    // The dialog would give the focus to the list around the field.
    ref.current?.querySelector('input')?.focus();
  }, []);
  const rows = [...new Map(shortcuts.filter((s) => s.label !== 'arrows').map((s) => [s.does, s])).values()];
  return (
    <dialog ref={ref} onClose={onClose} aria-label="find a command" className="mx-auto mt-[12vh] w-[440px] border p-0" style={{ background: 'var(--raised)', borderColor: 'var(--ink)', color: 'var(--ink)' }}>
      <Command label="find a command" loop>
        <Command.Input placeholder="what should be done" className="textf h-10 w-full border-0 border-b text-[16px]" />
        <Command.List className="max-h-[46vh] overflow-y-auto">
          <Command.Empty className="label px-3 py-2">Nothing is called that.</Command.Empty>
          {rows.map((s) => (
            <Command.Item key={s.code} value={s.does} className="finder-item flex h-7 cursor-pointer items-center justify-between px-3" onSelect={() => { ref.current?.close(); s.run(); }}>
              <span>{s.does}</span><span className="fig label">{s.label}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </dialog>
  );
}
