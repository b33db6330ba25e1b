import { create } from 'zustand';
import { proxy } from 'comlink';
import { marker, ofKind, playerBody } from '@rammer/core/level/level';
import { compareDots } from '@rammer/core/play/compareDots';
import type { Reach } from '@rammer/core/play/reach';
import { placeCosts } from '@rammer/core/cost/places';
import type { Snag } from '@rammer/core/snag/finding';
import { barred } from '@rammer/core/earth/water';
import { overBudget } from '@rammer/core/snag/overBudget';
import { replaceWalkWorker, walkWorker } from '../workers/pool';
import { costDrawables } from './costDrawables';
import type { Session } from './session';

/** The baked walk area of the player's body, and whether the level has changed since. */
interface WalkAreaState {
  reach?: Reach;
  /** what the checks found with it; whether each is accepted is asked of the level */
  snags: Snag[];
  dots?: Float32Array;
  /** the walk area of the first threat's body, with who it is, and both areas laid over each other */
  threat?: { name: string; dots: Float32Array; compared: Float32Array };
  /** revision of the level it was made from */
  revision: number;
  /** what it depends on changed since: shown with a dashed underline */
  stale: boolean;
  progress?: number;
  error?: string;
  /** what the last bake did */
  summary?: string;
}

export const useWalkArea = create<WalkAreaState>(() => ({ snags: [], revision: -1, stale: true }));

/** Bakes (only what changed) and looks for the way. */
export async function bakeWalkArea(session: Session): Promise<void> {
  useWalkArea.setState({ progress: 0, error: undefined, stale: false });
  const revision = session.revision;
  const { made } = session;
  const threat = ofKind(session.level, 'marker').find((m) => m.marker === 'threat');
  const threatBody = threat?.body ? session.level.object(threat.body) : undefined;
  const { figures } = playerBody(session.level);
  const barsFor = (wade: number) => barred(session.terrain, made.waters, wade).barred;
  const input = {
    barred: barsFor(figures.wade), grid: session.terrain.grid, heights: session.terrain.heights, blocks: made.still, solids: made.solids(), body: figures,
    entry: marker(session.level, 'entry')?.at, objective: marker(session.level, 'objective')?.at,
    checks: { ground: made.ground, solids: made.blocks, gaps: ofKind(session.level, 'gap'), playBounds: ofKind(session.level, 'playBounds'), pieces: made.pieces, placed: made.placed, assets: made.assets, voids: made.voids, species: made.species, plants: ofKind(session.level, 'plant'), waters: made.waters },
  };
  try {
    const result = await walkWorker().bake(input, proxy((progress: number) => useWalkArea.setState({ progress })));
    if (result.kind === 'cancelled') {
      useWalkArea.setState({ progress: undefined, stale: true, summary: 'walk area: cancelled' });
      return;
    }
    let forThreat: WalkAreaState['threat'];
    let baked = result.baked;
    if (threat && threatBody?.kind === 'body') {
      const other = await walkWorker().bake({ ...input, barred: barsFor(threatBody.figures.wade), checks: undefined, body: threatBody.figures, entry: threat.at, objective: undefined }, proxy((progress: number) => useWalkArea.setState({ progress })));
      if (other.kind === 'done') {
        forThreat = { name: threatBody.name, dots: other.dots, compared: compareDots(result.dots, other.dots) };
        baked += other.baked;
      }
    }
    useWalkArea.setState({
      threat: forThreat, reach: result.reach, dots: result.dots, revision, progress: undefined,
      snags: [...result.snags, ...overBudget(session.level, placeCosts(session.level, costDrawables(session), session.terrain.grid.spacing))],
      summary: `walk area: ${baked} nav tile${baked === 1 ? '' : 's'} baked${forThreat ? `, ${forThreat.name}'s with it` : ''}`,
    });
  } catch (error) {
    replaceWalkWorker();
    useWalkArea.setState({ progress: undefined, stale: true, error: `the walk area could not be baked: ${(error as Error).message}` });
  }
}

export const cancelBake = (): void => { void walkWorker().cancel(); };
