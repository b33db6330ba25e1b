import { proxy } from 'comlink';
import { create } from 'zustand';
import { aroundLift } from '@rammer/core/earth/volume';
import { weatherHash } from '@rammer/core/earth/weather/weatherLift';
import type { Weather } from '@rammer/core/level/objects';
import { replaceWeatherWorker, weatherWorker } from '../workers/pool';
import type { Session } from './session';

/** Weathering that runs, by the lift it is for. */
export const useWeathering = create<{ lift?: string; progress: number }>(() => ({ progress: 0 }));

let cancel: (() => void) | undefined;

/** Weathers the ground below a lift in a worker of its own and keeps the result as one edit. */
export async function weatherLift(session: Session, lift: Weather): Promise<void> {
  const around = session.composing ? undefined : aroundLift(session.level, session.terrain, lift.id);
  if (!around) return;
  const { grid } = session.terrain;
  const { heights } = around.below;
  useWeathering.setState({ lift: lift.id, progress: 0 });
  const stopped = new Promise<undefined>((stop) => {
    cancel = () => stop(undefined);
  });
  try {
    const made = await Promise.race([
      weatherWorker().weather(
        lift,
        heights,
        grid,
        proxy((progress: number) => useWeathering.setState({ progress })),
      ),
      stopped,
    ]);
    const now = session.level.object(lift.id);
    const own = new Map([...session.level.tiles].filter(([key]) => key.startsWith(`${lift.id}/`)));
    const edit =
      made && now?.kind === 'lift' && now.lift === 'weather'
        ? await Promise.race([weatherWorker().keep(now, made.made, made.hash, grid, own), stopped])
        : undefined;
    if (!made || (now && !edit)) session.say(`weathering of ${lift.name} was cancelled; its last shape is kept`);
    else if (now?.kind !== 'lift' || now.lift !== 'weather') session.say(`${lift.name} is gone: what was weathered is dropped`, true);
    else if (edit) session.commit(edit, `weather ${now.name}`);
  } catch (error) {
    replaceWeatherWorker();
    session.say(`weathering failed: ${(error as Error).message}`, true);
  } finally {
    cancel = undefined;
    useWeathering.setState({ lift: undefined, progress: 0 });
  }
}

export function cancelWeathering(): void {
  replaceWeatherWorker();
  cancel?.();
}

/** Whether a weather lift was made from other ground, or with other numbers, than there are now; `undefined` where it was never made. */
export function isStale(session: Session, lift: Weather): boolean | undefined {
  if (!lift.made) return undefined;
  const around = aroundLift(session.level, session.terrain, lift.id);
  return around && weatherHash(lift, around.below.heights, session.terrain.grid) !== lift.made;
}
