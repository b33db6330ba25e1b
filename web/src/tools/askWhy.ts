import { usePlanting } from '../store/planting';
import type { Session } from '../store/session';
import { growthWorker } from '../workers/pool';

/** Asks why the species at hand grows at a point; its answer is kept up as plants grow again. */
export function askWhy(session: Session, asked: { species: string; at: [number, number] }): void {
  usePlanting.setState({ asked });
  void growthWorker()
    .why(asked.species, ...asked.at)
    .then((why) => {
      if (usePlanting.getState().asked === asked) usePlanting.setState({ why: why && { ...why, species: asked.species } });
    })
    .catch((error: Error) => session.say(`it is not known why: ${error.message}`, true));
}
