import { useState } from 'react';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';

const clock = (d: Date): string => `${String(d.getHours()).padStart(2, '0')}:${String(d.getMinutes()).padStart(2, '0')}`;

/** Saved, saving, offline (n waiting), read only, conflict, storage full; and what can be done about it. */
export function SaveBadge({ session }: { session: Session }) {
  useSession(session);
  const [busy, setBusy] = useState(false);
  const { save } = session;
  const during = (work: () => Promise<void>) => {
    setBusy(true);
    void work().catch((e: Error) => session.say(e.message, true)).finally(() => setBusy(false));
  };
  const text = {
    saved: () => `saved ${clock((save as { at: Date }).at)}`,
    saving: () => 'saving',
    offline: () => `offline, ${(save as { waiting: number }).waiting} waiting`,
    'read-only': () => `read only${(save as { waiting: number }).waiting > 0 ? `, ${(save as { waiting: number }).waiting} waiting` : ''}`,
    conflict: () => 'conflict',
    'storage-full': () => 'storage full',
  }[save.kind]();
  const calm = save.kind === 'saved' || save.kind === 'saving';
  return (
    <div className="flex items-center gap-2">
      <span role="status" data-testid="save" data-state={save.kind} data-kept={session.kept} className="fig whitespace-nowrap" style={{ color: calm ? undefined : save.kind === 'read-only' ? 'var(--ochre-text)' : 'var(--oxide)', fontWeight: calm ? 500 : 600 }}>{calm ? '' : '▲ '}{text}</span>
      {save.kind === 'read-only' && <button className="act" disabled={busy} onClick={() => during(() => session.takeOver())}>Take over</button>}
      {save.kind === 'conflict' && (
        <>
          <span className="label max-w-52 truncate" title={save.conflicts.map((c) => c.label).join(', ')}>elsewhere: {save.conflicts.map((c) => c.label).join(', ')}</span>
          <button className="act" disabled={busy} onClick={() => during(() => session.settle(true))}>Keep mine</button>
          <button className="act" disabled={busy} onClick={() => during(() => session.settle(false))}>Drop mine</button>
        </>
      )}
    </div>
  );
}
