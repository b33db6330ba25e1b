import type { Session } from '../../store/session';
import { alongOf, type Along } from '../../tools/laidLines';

/** What there is that a line can run along; picking one does it at once. */
export function AlongField({ session, label, told, onPick }: { session: Session; label: string; told: string; onPick(of: Along): void }) {
  const along = alongOf(session);
  if (along.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      <span className="label whitespace-nowrap">{label}</span>
      <select
        className="textf h-6 min-w-0 flex-1 px-1"
        aria-label={label}
        value=""
        onChange={(e) => {
          const of = along[Number(e.target.value)];
          if (of) onPick(of);
        }}
      >
        <option value="">{told}</option>
        {along.map((a, i) => (
          <option key={i} value={i}>
            {a.block ? `block ${a.name}` : a.name}
          </option>
        ))}
      </select>
    </label>
  );
}
