import { useRef, useState } from 'react';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { download, slug } from '../ui/download';

const clock = (d: Date): string => `${String(d.getHours()).padStart(2, '0')}:${String(d.getMinutes()).padStart(2, '0')}`;

/** Saved, saving, offline (n waiting), read only, conflict, storage full; and what can be done about it. */
export function SaveBadge({ session }: { session: Session }) {
  useSession(session);
  const [busy, setBusy] = useState(false);
  const { save } = session;
  const during = (work: () => Promise<void>) => {
    setBusy(true);
    void work()
      .catch((e: Error) => session.say(e.message, true))
      .finally(() => setBusy(false));
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
      <span
        role="status"
        data-testid="save"
        data-state={save.kind}
        data-kept={session.kept}
        className="fig whitespace-nowrap"
        style={{ color: calm ? undefined : save.kind === 'read-only' ? 'var(--ochre-text)' : 'var(--oxide)', fontWeight: calm ? 500 : 600 }}
        title={save.kind === 'offline' ? save.why : undefined}
      >
        {calm ? '' : '▲ '}
        {text}
      </span>
      {save.kind === 'offline' && save.why && (
        <span className="label max-w-52 truncate" title={save.why}>
          {save.why.split(/[;:]/)[0]}
        </span>
      )}
      {session.aside.length > 0 && <Aside session={session} busy={busy} during={during} />}
      {save.kind === 'read-only' && (
        <button className="act" disabled={busy} onClick={() => during(() => session.takeOver())}>
          Take over
        </button>
      )}
      {save.kind === 'conflict' && (
        <>
          <span className="label max-w-52 truncate" title={save.conflicts.map((c) => c.label).join(', ')}>
            elsewhere: {save.conflicts.map((c) => c.label).join(', ')}
          </span>
          <button className="act" disabled={busy} onClick={() => during(() => session.settle(true))}>
            Keep mine
          </button>
          <button className="act" disabled={busy} onClick={() => during(() => session.settle(false))}>
            Discard mine
          </button>
        </>
      )}
    </div>
  );
}

interface AsideProps {
  session: Session;
  busy: boolean;
  during(work: () => Promise<void>): void;
}

/** Edits the server would not take: what they were, why, and what becomes of them. */
function Aside({ session, busy, during }: AsideProps) {
  const dialog = useRef<HTMLDialogElement>(null);
  const { aside } = session;
  const n = aside.length;
  const them = n === 1 ? 'it' : 'them';
  return (
    <>
      <button className="act" style={{ borderColor: 'var(--oxide)', color: 'var(--oxide)' }} onClick={() => dialog.current?.showModal()}>
        {n} set aside
      </button>
      <dialog
        ref={dialog}
        aria-label="edits set aside"
        className="mx-auto mt-[12vh] w-[560px] border p-0"
        style={{ background: 'var(--raised)', borderColor: 'var(--ink)', color: 'var(--ink)' }}
      >
        <header className="border-b px-4 py-3" style={{ borderColor: 'var(--hair)' }}>
          <h2 className="m-0 text-[16px] font-semibold">{n === 1 ? 'One edit was' : `${n} edits were`} not taken</h2>
          <p className="label m-0 mt-1">
            {n === 1 ? 'It is' : 'They are'} no part of the level, and nothing is lost: {`send ${them} again, or keep ${them} as a file.`}
          </p>
        </header>
        <ul className="m-0 max-h-[40vh] list-none overflow-y-auto p-0">
          {aside.map((a) => (
            <li key={a.seq} className="flex items-center gap-3 border-b px-4 py-2" style={{ borderColor: 'var(--hair)' }}>
              <span className="min-w-0 flex-1">
                <span className="block truncate font-semibold">{a.edit.label}</span>
                <span className="label block">{a.why}</span>
              </span>
              <button className="act" disabled={busy} onClick={() => during(() => session.decide([a], true))}>
                Send again
              </button>
              <button className="act" disabled={busy} onClick={() => during(() => session.decide([a], false))}>
                Discard
              </button>
            </li>
          ))}
        </ul>
        <footer className="flex justify-end gap-2 px-4 py-3">
          <button
            className="act"
            onClick={() =>
              download(
                JSON.stringify(aside.map(({ edit, why, at }) => ({ at: new Date(at).toISOString(), why, edit }))),
                'application/json',
                `${slug(session.name)}-set-aside.json`,
              )
            }
          >
            Save to a file
          </button>
          <button className="act" disabled={busy} onClick={() => during(() => session.decide(aside, true))}>
            Send all again
          </button>
          <button className="act main" onClick={() => dialog.current?.close()}>
            Close
          </button>
        </footer>
      </dialog>
    </>
  );
}
