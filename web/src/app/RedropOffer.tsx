import { useEffect } from 'react';
import { useRedrop, watchGround } from '../store/redrop';
import type { Session } from '../store/session';
import { dropThings } from '../tools/dropThings';
import { things } from '../tools/things';

const SMALL = { minHeight: 24, padding: '1px 7px' };

/** What stood on ground, blocks or pieces that moved may be dropped again; nothing is by itself. */
export function RedropOffer({ session }: { session: Session }) {
  const { level, ids } = useRedrop();
  useEffect(() => watchGround(session), [session]);
  if (level !== session.id || ids.size === 0) return null;
  const leave = () => useRedrop.setState({ ids: new Set() });
  return (
    <div className="flex shrink-0 items-center gap-2 border-t px-3 py-1" style={{ borderColor: 'var(--ink)' }} role="status" data-testid="redrop">
      <span className="min-w-0 flex-1 truncate" style={{ color: 'var(--ochre-text)' }} title="what they stood on moved: ground, a block or a piece">
        {ids.size === 1 ? '1 thing' : `${ids.size} things`} to drop again
      </span>
      <button
        className="act"
        style={SMALL}
        title="onto what is below now, less how far each is sunk"
        disabled={!session.writable}
        onClick={() => {
          if (dropThings(session, things(session, [...ids]))) leave();
        }}
      >
        drop
      </button>
      <button className="act plain" style={SMALL} title="they stay where they are" onClick={leave}>
        leave
      </button>
    </div>
  );
}
