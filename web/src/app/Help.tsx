import { useEffect, useRef } from 'react';
import type { Shortcut } from './shortcuts';

const ALWAYS: [string, string][] = [
  ['left drag', 'the tool; on empty ground with select, turns the view'],
  ['middle drag', 'turns the view; with Shift moves it'],
  ['right drag', 'looks around; with W A S D Q E flies, the wheel sets the speed'],
  ['wheel', 'nearer and farther, towards the pointer'],
  ['Shift, Alt', 'with a brush: reverses it, picks the height under the pointer'],
  ['W A S D, Shift, Space', 'in Walk: walk, run, jump; Q E or right drag turn'],
];

export function Help({ shortcuts, onClose }: { shortcuts: Shortcut[]; onClose(): void }) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => { ref.current?.showModal(); }, []);
  const rows = new Map<string, Set<string>>();
  for (const s of shortcuts) rows.set(s.does, (rows.get(s.does) ?? new Set()).add(s.label));
  return (
    <dialog ref={ref} onClose={onClose} aria-label="keys" className="m-auto max-h-[86vh] w-[680px] border p-0" style={{ background: 'var(--raised)', borderColor: 'var(--ink)', color: 'var(--ink)' }}>
      <div className="flex items-center border-b px-4 py-2" style={{ borderColor: 'var(--ink)' }}><h2 className="fig m-0 text-[19px] font-semibold">Keys</h2><button className="act ml-auto" onClick={onClose}>close</button></div>
      <dl className="m-0 columns-2 gap-8 px-4 py-3">
        {[...[...rows].map(([does, labels]) => [[...labels].join(', '), does]), ...ALWAYS].map(([k, v]) => (
          <div key={v} className="flex break-inside-avoid gap-3 border-b py-1" style={{ borderColor: 'var(--hair)' }}><dt className="fig w-28 shrink-0 font-semibold">{k}</dt><dd className="m-0">{v}</dd></div>
        ))}
      </dl>
    </dialog>
  );
}
