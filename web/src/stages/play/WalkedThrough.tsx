import { settingsOf } from '@rammer/core/level/level';
import { presentOf } from '@rammer/core/level/present';
import type { Session } from '../../store/session';

/** Groups that count for no walk area: what is loose and moved aside. */
export function WalkedThrough({ session }: { session: Session }) {
  const through = settingsOf(session.level).walkedThrough ?? [];
  const others = presentOf(session.level.objects)
    .groupNames()
    .filter((g) => !through.includes(g))
    .sort((a, b) => a.localeCompare(b));
  const set = (list: string[], label: string) =>
    session.commit({ kind: 'set', patches: [{ id: 'settings', set: { walkedThrough: list.length > 0 ? list : null } }] }, label);
  if (through.length === 0 && others.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-1">
      <span className="label">not counted:</span>
      {through.map((g) => (
        <button
          key={g}
          className="act"
          style={{ minHeight: 22, padding: '0 6px' }}
          title="count it again"
          onClick={() =>
            set(
              through.filter((o) => o !== g),
              `count ${g} in walk areas`,
            )
          }
        >
          {g} <span aria-hidden>×</span>
        </button>
      ))}
      {others.length > 0 && (
        <select
          className="textf h-6 min-w-[80px] flex-1 px-1"
          aria-label="leave a group out of walk areas"
          title="its members stop nobody and are stood on by nobody: what is loose and moved aside"
          value=""
          onChange={(e) => set([...through, e.target.value], `leave ${e.target.value} out of walk areas`)}
        >
          <option value="">a group</option>
          {others.map((g) => (
            <option key={g}>{g}</option>
          ))}
        </select>
      )}
    </div>
  );
}
