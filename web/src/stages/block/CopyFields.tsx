import { ArrowDownToLine, Copy, Trash2, Unlink } from 'lucide-react';
import type { CopyObject } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { detachCopies } from '../../tools/assemblies';
import { dropThings, duplicateThings, mm, removeThings, setThings } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';
import { useHint } from '../../store/keys';

/** Place and turn of selected copies; their shape is their master's. */
export function CopyFields({ session, copies }: { session: Session; copies: CopyObject[] }) {
  const hint = useHint();
  const [first] = copies;
  const of = session.level.object(first.assembly);
  const set = (k: number, v: number) => setThings(session, copies, (t) => ({ at: t.at.map((c, i) => (i === k ? mm(v) : c)) }), 'move');
  return (
    <>
      <b className="truncate font-medium">{copies.length === 1 ? `${first.name}, of ${of?.name ?? 'a group that is gone'}` : `${copies.length} copies`}</b>
      <div className="flex gap-2">{(['x', 'base', 'z'] as const).map((n, k) => <NumberField key={n} label={n} className="grid gap-0.5" value={first.at[k]} mixed={copies.some((c) => c.at[k] !== first.at[k]) ? 'mixed' : undefined} unit="m" digits={3} onCommit={(v) => set(k, v)} />)}</div>
      <div className="flex items-end gap-1">
        <NumberField label="turn" className="grid gap-0.5" value={first.turn} mixed={copies.some((c) => c.turn !== first.turn) ? 'mixed' : undefined} unit="°" min={-360} max={360} step={15} onCommit={(turn) => setThings(session, copies, () => ({ turn }), 'turn')} />
        <button className="act" title="make it blocks of its own: it follows its master no more" onClick={() => detachCopies(session, copies)}><Unlink size={14} />detach</button>
        <button className="icon-btn mb-0.5" aria-label="duplicate" title={hint('duplicate', 'KeyC')} onClick={() => duplicateThings(session)}><Copy size={14} /></button>
        <button className="icon-btn mb-0.5" aria-label="drop" title={hint('drop onto what is below', 'KeyJ')} onClick={() => dropThings(session)}><ArrowDownToLine size={14} /></button>
        <button className="icon-btn mb-0.5" aria-label="delete the selection" title="Delete" onClick={() => removeThings(session)}><Trash2 size={15} /></button>
      </div>
      <p className="label m-0">Its blocks are those of its master: edit the group and every copy follows.</p>
    </>
  );
}
