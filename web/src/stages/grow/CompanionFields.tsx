import { X } from 'lucide-react';
import { companionsOf } from '@rammer/core/growth/mix';
import { speciesOf } from '@rammer/core/level/level';
import { MOST_WITH, type Species } from '@rammer/core/level/objects';
import { usePlanting } from '../../store/planting';
import type { Session } from '../../store/session';
import type { SetFields } from './SpeciesFields';

const CHIP = { padding: '0 6px', minHeight: 22 };

/** Which species usually stand with one, and taking them in hand with it: what is picked is set, sown in a line and mixed in a rule together. */
export function CompanionFields({ session, species, chosen, set }: { session: Session; species: Species; chosen: readonly Species[]; set: SetFields }) {
  const all = speciesOf(session.level);
  const own = companionsOf([species], all);
  const more = companionsOf(chosen, all);
  const others = all.filter((s) => s.id !== species.id && !own.includes(s));
  const put = (list: readonly Species[]) => set({ with: list.length > 0 ? list.map((s) => s.id) : null }, 'what goes with it');
  if (all.length < 2) return null;
  return (
    <div
      className="flex flex-wrap items-center gap-1.5 border-t px-3 py-2"
      style={{ borderColor: 'var(--hair)' }}
      role="group"
      aria-label={`goes with ${species.name}`}
    >
      <span className="label">goes with</span>
      {own.map((s) => (
        <span key={s.id} className="inline-flex items-center">
          {s.name}
          <button className="icon-btn" style={{ width: 18 }} aria-label={`${s.name} goes with it no more`} onClick={() => put(own.filter((o) => o !== s))}>
            <X size={12} />
          </button>
        </span>
      ))}
      {others.length > 0 && own.length < MOST_WITH && (
        <select
          className="textf h-6 min-w-0 px-1"
          aria-label="goes with another"
          value=""
          onChange={(e) => {
            const found = others.find((s) => s.id === e.target.value);
            if (found) put([...own, found]);
          }}
        >
          <option value="">{own.length > 0 ? 'another …' : 'no other yet …'}</option>
          {others.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
      )}
      {more.length > 0 && (
        <button
          className="act ml-auto"
          style={CHIP}
          title={`picks ${more.map((s) => s.name).join(', ')} as well: brush, line and a new rule take all that is picked`}
          onClick={() => usePlanting.setState((p) => ({ also: [...p.also.filter((id) => !more.some((s) => s.id === id)), ...more.map((s) => s.id)] }))}
        >
          pick them too
        </button>
      )}
    </div>
  );
}
