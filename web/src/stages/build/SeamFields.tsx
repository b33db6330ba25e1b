import { useLaying } from '../../store/laying';
import type { Session } from '../../store/session';
import { alongOf } from '../../tools/laidLines';
import { addSeam } from '../../tools/seams';
import { LineDressFields } from '../standing/LineDressFields';

/** What the next seam line is dressed with, and what it can run along. @param picked it is picked at a thing, else drawn */
export function SeamFields({ session, picked }: { session: Session; picked: boolean }) {
  const { seam } = useLaying();
  const along = alongOf(session);
  const empty = seam.pieces.length + seam.plants.length === 0;
  return (
    <>
      <LineDressFields session={session} value={seam} onSet={(next) => useLaying.setState({ seam: next })} />
      {along.length > 0 && (
        <label className="flex items-center gap-2">
          <span className="label whitespace-nowrap">dress along</span>
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="dress along"
            value=""
            onChange={(e) => {
              const of = along[Number(e.target.value)];
              if (of) addSeam(session, of.places, of.closed);
            }}
          >
            <option value="">pick: it is dressed at once</option>
            {along.map((a, i) => (
              <option key={i} value={i}>
                {a.block ? `block ${a.name}` : a.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <p className="label m-0">
        {picked
          ? 'Click a thing, a laid line or a shore: its foot is dressed all round.'
          : 'Click corner after corner; Enter, or the last corner again, ends the line. Aside above 0 is to the right of the way it goes.'}
        {empty && ' With an empty list it takes what fits the ground there.'}
      </p>
    </>
  );
}
