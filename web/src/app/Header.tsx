import { Moon, Redo2, Sun, Undo2 } from 'lucide-react';
import { Link } from 'react-router';
import { settingsOf } from '@rammer/core/level/level';
import { gridOf } from '@rammer/core/level/tiles';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { OVERLAYS, useUi, type ViewMode } from '../store/ui';
import type { Room } from './useNarrow';
import { SaveBadge } from './SaveBadge';
import { useHint } from '../store/keys';

const MODES: { id: ViewMode; name: string }[] = [
  { id: 'plan', name: 'Plan' },
  { id: 'orbit', name: 'Orbit' },
  { id: 'stand', name: 'Stand' },
  { id: 'walk', name: 'Walk' },
];

export function Header({ session, onMode, onSheet, room }: { session: Session; onMode(mode: ViewMode): void; onSheet(): void; room: Room }) {
  const hint = useHint();
  const sheet = useUi((s) => s.sheet);
  useSession(session);
  const mode = useUi((s) => s.mode);
  const overlay = useUi((s) => s.overlay);
  const workLight = useUi((s) => s.workLight);
  const settings = settingsOf(session.level);
  const grid = gridOf(settings);
  const { undo } = session;
  return (
    <header
      className={`flex h-11 shrink-0 items-center border-b px-3 ${room === 'wide' ? 'gap-4' : 'gap-2'}`}
      style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
    >
      <Link to="/" className="fig text-[20px] font-semibold tracking-wide" title="Levels">
        RAMMER
      </Link>
      <span className={`min-w-0 truncate ${room === 'phone' ? 'hidden' : ''}`}>
        <b className="font-medium">{settings.name}</b>{' '}
        <span className="label">{grid.width === grid.depth ? `${grid.width} m` : `${grid.width} x ${grid.depth} m`}</span>
      </span>
      <div className="seg" role="group" aria-label="view">
        {MODES.filter((m) => room !== 'phone' || m.id === 'plan' || m.id === 'walk' || m.id === 'orbit').map((m) => (
          <button key={m.id} className="act" aria-pressed={mode === m.id} onClick={() => onMode(m.id)}>
            {m.name}
          </button>
        ))}
      </div>
      {room !== 'phone' && (
        <label className="flex items-center gap-1">
          {room === 'wide' && <span className="label">overlay</span>}
          <select className="textf" aria-label="overlay" value={overlay} onChange={(e) => useUi.setState({ overlay: e.target.value as typeof overlay })}>
            {OVERLAYS.map((r) => (
              <option key={r}>{r}</option>
            ))}
          </select>
        </label>
      )}
      {room !== 'phone' && (
        <button
          className="act"
          aria-pressed={workLight}
          aria-label="work light"
          onClick={() => useUi.setState({ workLight: !workLight })}
          title={hint('even light without shadows', 'KeyL')}
        >
          <Sun size={14} aria-hidden />
          {room === 'wide' && 'work light'}
        </button>
      )}
      <button
        className="icon-btn"
        aria-label={sheet === 'night' ? 'Sheet' : 'Night sheet'}
        title={hint(sheet === 'night' ? 'Sheet' : 'Night sheet', 'Shift+KeyL')}
        onClick={onSheet}
      >
        <Moon size={15} aria-hidden />
      </button>
      <div className="flex-1" />
      <SaveBadge session={session} />
      {room !== 'phone' && (
        <div className="seg" role="group" aria-label="undo and redo">
          <button
            className="act fig"
            disabled={undo.undoCount === 0 || !session.writable}
            onClick={() => session.undoLast()}
            title={undo.nextUndo ? hint(`undo ${undo.nextUndo.label}`, 'Ctrl+KeyZ') : 'nothing to undo'}
            aria-label={`undo, ${undo.undoCount} edits`}
            data-testid="undo"
          >
            <Undo2 size={14} aria-hidden />
            {undo.undoCount}
          </button>
          <button
            className="act fig"
            disabled={undo.redoCount === 0 || !session.writable}
            onClick={() => session.redoNext()}
            title={undo.nextRedo ? hint(`redo ${undo.nextRedo.label}`, 'Ctrl+Shift+KeyZ') : 'nothing to redo'}
            aria-label={`redo, ${undo.redoCount} edits`}
            data-testid="redo"
          >
            {undo.redoCount}
            <Redo2 size={14} aria-hidden />
          </button>
        </div>
      )}
    </header>
  );
}
