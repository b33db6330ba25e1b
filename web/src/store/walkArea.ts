import { create } from 'zustand';
import { marker, ofKind, playerBody, presentMarkers, presentPlants } from '@rammer/core/level/level';
import { compareDots } from '@rammer/core/play/compareDots';
import type { Reach } from '@rammer/core/play/reach';
import { placeCosts } from '@rammer/core/cost/places';
import type { Snag } from '@rammer/core/snag/finding';
import { barred } from '@rammer/core/earth/water';
import { overBudget } from '@rammer/core/snag/overBudget';
import { replaceWalkWorker, walkWorker } from '../workers/pool';
import { progress } from '../workers/progress';
import { costDrawables } from './costDrawables';
import type { Session } from './session';

/** Where a threat can go: the marker and its body by name, its walk area, and that laid over the player's. */
export interface ThreatArea {
  id: string;
  name: string;
  body: string;
  dots: Float32Array;
  compared: Float32Array;
}

/** The baked walk area of the player's body, and whether the level has changed since. */
interface WalkAreaState {
  reach?: Reach;
  /** what the checks found with it; whether each is accepted is asked of the level */
  snags: Snag[];
  dots?: Float32Array;
  /** of each threat the walk area of its own body, from where it stands */
  threats: ThreatArea[];
  /** revision of the level it was made from */
  revision: number;
  /** what it depends on changed since: shown with a dashed underline */
  stale: boolean;
  progress?: number;
  error?: string;
  /** what the last bake did */
  summary?: string;
}

export const useWalkArea = create<WalkAreaState>(() => ({ snags: [], threats: [], revision: -1, stale: true }));

/** Bakes (only what changed) and looks for the way. */
export async function bakeWalkArea(session: Session): Promise<void> {
  useWalkArea.setState({ progress: 0, error: undefined, stale: false });
  const revision = session.revision;
  const { made } = session;
  const { figures } = playerBody(session.level);
  const barsFor = (wade: number) => barred(session.terrain, made.waters, wade).barred;
  const input = {
    level: session.id,
    barred: barsFor(figures.wade),
    grid: session.terrain.grid,
    heights: session.terrain.heights,
    blocks: made.still,
    solids: made.solids(),
    body: figures,
    entry: marker(session.level, 'entry')?.at,
    objective: marker(session.level, 'objective')?.at,
    checks: {
      ground: made.ground,
      solids: made.blocks,
      gaps: ofKind(session.level, 'gap'),
      playBounds: ofKind(session.level, 'playBounds'),
      pieces: made.pieces,
      placed: made.placed,
      assets: made.assets,
      voids: made.voids,
      species: made.species,
      plants: [...presentPlants(session.level)],
      waters: made.waters,
    },
  };
  const { onProgress, end } = progress((done) => useWalkArea.setState({ progress: done }));
  try {
    const result = await walkWorker().bake(input, onProgress);
    if (result.kind === 'cancelled') {
      useWalkArea.setState({ progress: undefined, stale: true, summary: 'walk area: cancelled' });
      return;
    }
    const threats: ThreatArea[] = [];
    let baked = result.baked;
    for (const marked of presentMarkers(session.level)) {
      const own = marked.marker === 'threat' && marked.body ? session.level.object(marked.body) : undefined;
      if (own?.kind !== 'body') continue;
      const other = await walkWorker().bake(
        { ...input, barred: barsFor(own.figures.wade), checks: undefined, body: own.figures, entry: marked.at, objective: undefined },
        onProgress,
      );
      // What is baked stays known, so that a bake that goes on later has little left to do.
      if (other.kind === 'cancelled') break;
      threats.push({ id: marked.id, name: marked.name, body: own.name, dots: other.dots, compared: compareDots(result.dots, other.dots) });
      baked += other.baked;
    }
    useWalkArea.setState({
      threats,
      reach: result.reach,
      dots: result.dots,
      revision,
      progress: undefined,
      snags: [...result.snags, ...overBudget(session.level, placeCosts(session.level, costDrawables(session), session.terrain.grid.spacing))],
      summary:
        `walk area: ${baked} nav tile${baked === 1 ? '' : 's'} ` +
        `baked${threats.length > 0 ? `, those of ${threats.length === 1 ? threats[0].body : `${threats.length} threats`} with it` : ''}`,
    });
  } catch (error) {
    replaceWalkWorker();
    useWalkArea.setState({ progress: undefined, stale: true, error: `the walk area could not be baked: ${(error as Error).message}` });
  } finally {
    end();
  }
}

export const cancelBake = (): void => {
  void walkWorker().cancel();
};

/** The threat that is shown: the one that was chosen, else the first. */
export const shownThreat = (threats: readonly ThreatArea[], id: string | undefined): ThreatArea | undefined => threats.find((t) => t.id === id) ?? threats[0];
