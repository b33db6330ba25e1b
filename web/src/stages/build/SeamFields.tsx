import { useLaying } from '../../store/laying';
import type { Session } from '../../store/session';
import { addSeam } from '../../tools/seams';
import { LineDressFields } from '../standing/LineDressFields';
import { AlongField } from './AlongField';

/** What the next seam line is dressed with, and what it can run along. @param picked it is picked at a thing, else drawn */
export function SeamFields({ session, picked }: { session: Session; picked: boolean }) {
  const { seam } = useLaying();
  const empty = seam.pieces.length + seam.plants.length === 0;
  return (
    <>
      <LineDressFields session={session} value={seam} onSet={(next) => useLaying.setState({ seam: next })} />
      <AlongField session={session} label="dress along" told="pick: it is dressed at once" onPick={(of) => addSeam(session, of.places, of.closed)} />
      <p className="label m-0">
        {picked
          ? 'Click a thing, a laid line or a shore: its foot is dressed all round.'
          : 'Click corner after corner; Enter, or the last corner again, ends the line. Aside above 0 is to the right of the way it goes.'}
        {empty && ' With an empty list it takes what fits the ground there.'}
      </p>
    </>
  );
}
