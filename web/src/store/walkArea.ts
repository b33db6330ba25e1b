import { create } from 'zustand';
import { proxy } from 'comlink';
import { marker, playerBody } from '@rammer/core/level/level';
import type { Reach } from '@rammer/core/play/reach';
import type { Snag } from '@rammer/core/snag/finding';
import { replaceWalkWorker, walkWorker } from '../workers/pool';
import type { Session } from './session';

/** The baked walk area of the player's body, and whether the level has changed since. */
interface WalkAreaState {
  reach?: Reach;
  /** what the checks found with it; whether each is accepted is asked of the level */
  snags: Snag[];
  dots?: Float32Array;
  tolerance: number;
  /** revision of the level it was made from */
  revision: number;
  /** what it depends on changed since: shown with a dashed underline */
  stale: boolean;
  progress?: number;
  error?: string;
  /** what the last bake did */
  summary?: string;
}

export const useWalkArea = create<WalkAreaState>(() => ({ snags: [], tolerance: 0.2, revision: -1, stale: true }));

/** Bakes (only what changed) and looks for the way. After a trap the worker is replaced and the job tried once more. */
export async function bakeWalkArea(session: Session): Promise<void> {
  useWalkArea.setState({ progress: 0, error: undefined, stale: false });
  const revision = session.revision;
  const input = {
    grid: session.terrain.grid, heights: session.terrain.heights, blocks: session.blocks, body: playerBody(session.level).figures,
    entry: marker(session.level, 'entry')?.at, objective: marker(session.level, 'objective')?.at,
  };
  for (let attempt = 0; attempt < 2; attempt++) {
    try {
      const result = await walkWorker().bake(input, proxy((progress: number) => useWalkArea.setState({ progress })));
      if (result.kind === 'trap') {
        replaceWalkWorker();
        continue;
      }
      if (result.kind === 'cancelled') useWalkArea.setState({ progress: undefined, stale: true, summary: 'walk area: cancelled' });
      else {
        useWalkArea.setState({
          reach: result.reach, snags: result.snags, dots: result.dots, tolerance: result.tolerance, revision, progress: undefined,
          summary: `walk area: ${result.baked} nav tile${result.baked === 1 ? '' : 's'} baked`,
        });
      }
      return;
    } catch (error) {
      replaceWalkWorker();
      useWalkArea.setState({ progress: undefined, stale: true, error: `the walk area could not be baked: ${(error as Error).message}` });
      return;
    }
  }
  useWalkArea.setState({ progress: undefined, stale: true, error: 'the walk area could not be baked: the kernel failed twice. Undo the last change and try again.' });
}

export const cancelBake = (): void => { void walkWorker().cancel(); };
