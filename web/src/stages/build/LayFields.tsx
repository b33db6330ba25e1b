import { useLaying } from '../../store/laying';
import type { Session } from '../../store/session';
import { alongOf, kitAtHand, layAlong } from '../../tools/laidLines';
import { KitField, LineOptions } from '../standing/LineOptions';
import { KitSources } from './KitSources';

/** What the next line is laid from and how, and what it can be laid along. */
export function LayFields({ session }: { session: Session }) {
  const { as } = useLaying();
  const kit = kitAtHand(session);
  const along = alongOf(session);
  if (!kit) return <KitSources session={session} />;
  return (
    <>
      <div className="flex items-end gap-2">
        <KitField session={session} value={kit.id} onPick={(id) => useLaying.setState({ kit: id })} />
        <button
          className="act"
          style={{ minHeight: 24, padding: '1px 7px' }}
          title="parts of the kit, what they are laid as, and their joins"
          onClick={() => useLaying.setState({ sheet: kit.id })}
        >
          parts
        </button>
      </div>
      <LineOptions kit={kit} value={as} onSet={(set) => useLaying.setState({ as: { ...as, ...set } })} />
      {along.length > 0 && (
        <label className="flex items-center gap-2">
          <span className="label whitespace-nowrap">lay along</span>
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="lay along"
            value=""
            onChange={(e) => {
              const of = along[Number(e.target.value)];
              if (of) layAlong(session, kit, of);
            }}
          >
            <option value="">pick: it is laid at once</option>
            {along.map((a, i) => (
              <option key={i} value={i}>
                {a.block ? `block ${a.name}` : a.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <p className="label m-0">
        Click corner after corner; type a length for the next one. Enter, or the last corner again, ends the line; the first one closes it. Backspace takes a
        corner back, Shift keeps to 15°.
      </p>
    </>
  );
}
