import { useLaying } from '../../store/laying';
import type { Session } from '../../store/session';
import { kitAtHand, layAlong } from '../../tools/laidLines';
import { KitField, LineOptions } from '../standing/LineOptions';
import { KitSources } from './KitSources';
import { AlongField } from './AlongField';

/** What the next line is laid from and how, and what it can be laid along. */
export function LayFields({ session }: { session: Session }) {
  const { as } = useLaying();
  const kit = kitAtHand(session);
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
      <AlongField session={session} label="lay along" told="pick: it is laid at once" onPick={(of) => layAlong(session, kit, of)} />
      <p className="label m-0">
        Click corner after corner; type a length for the next one. Enter, or the last corner again, ends the line; the first one closes it. Backspace takes a
        corner back, Shift keeps to 15°.
      </p>
    </>
  );
}
