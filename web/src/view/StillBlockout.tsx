import { stillBlockout } from '@rammer/core/kit/swap';
import { ofKind } from '@rammer/core/level/level';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useBlockDraft } from '../store/blockDraft';
import { useUi } from '../store/ui';

/** What the overlay of blockout says: how much no asset stands for yet, and the way to its list. */
export function StillBlockout({ session }: { session: Session }) {
  useSession(session);
  if (useUi((s) => s.overlay) !== 'blockout') return null;
  const solids = ofKind(session.level, 'block').filter((b) => b.op !== 'void');
  const still = stillBlockout(solids);
  const swapped = new Set(ofKind(session.level, 'piece').flatMap((p) => p.standsFor ?? []));
  const done = solids.filter((b) => swapped.has(b.id)).length;
  return (
    <div
      className="absolute bottom-3 right-3 flex items-center gap-2 border px-2 py-1"
      style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
      role="note"
      data-testid="still"
      onPointerDown={(e) => e.stopPropagation()}
      onPointerMove={(e) => e.stopPropagation()}
      onPointerUp={(e) => e.stopPropagation()}
    >
      <svg width="16" height="16" aria-hidden>
        <rect width="16" height="16" fill="#ddc489" />
        <path d="M-2 10L10 -2M2 18L18 2" stroke="#c98b1b" strokeWidth="4.5" />
      </svg>
      <span>
        still blockout: <b className="fig">{still.length}</b> of {still.length + done} solids{done > 0 ? `, assets stand for ${done}` : ''}
      </span>
      {still.length > 0 && (
        <button
          className="act"
          style={{ padding: '1px 7px', minHeight: 24 }}
          onClick={() => {
            useUi.getState().setStage('block');
            useBlockDraft.setState({ stillOnly: true });
          }}
        >
          list them
        </button>
      )}
    </div>
  );
}
