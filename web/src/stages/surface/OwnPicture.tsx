import { X } from 'lucide-react';
import { useRef, useState } from 'react';
import type { Surface } from '@rammer/core/level/objects';
import { keepPicture } from '../../store/pictures';
import type { Session } from '../../store/session';
import { setPicture } from '../../tools/grounds';

/** A picture of one's own that a surface wears instead of its texture. */
export function OwnPicture({ session, surface }: { session: Session; surface: Surface }) {
  const file = useRef<HTMLInputElement>(null);
  const [busy, setBusy] = useState(false);
  const worn = surface.picture === undefined ? undefined : session.level.object(surface.picture);
  const take = (picked: File) => {
    setBusy(true);
    keepPicture(picked)
      .then(
        (kept) => setPicture(session, surface, kept),
        (e: Error) => session.say(`${picked.name} is not worn by ${surface.name}: ${e.message}`, true),
      )
      .finally(() => setBusy(false));
  };
  return (
    <div className="flex items-center gap-2">
      <span className="label whitespace-nowrap">own picture</span>
      <span className="min-w-0 flex-1 truncate text-right" title={worn?.name}>
        {busy ? 'loading' : worn ? worn.name : <span className="label">none</span>}
      </span>
      {worn && (
        <button className="icon-btn" aria-label={`${surface.name} wears its texture again`} onClick={() => setPicture(session, surface)}>
          <X size={14} />
        </button>
      )}
      <button className="act" style={{ padding: '0 6px', minHeight: 22 }} disabled={busy} onClick={() => file.current?.click()}>
        choose
      </button>
      <input
        ref={file}
        type="file"
        accept="image/*"
        className="hidden"
        aria-label={`picture that ${surface.name} wears`}
        onChange={(e) => {
          const f = e.target.files?.[0];
          e.target.value = '';
          if (f) take(f);
        }}
      />
    </div>
  );
}
