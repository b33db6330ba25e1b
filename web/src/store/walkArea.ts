import { create } from 'zustand';
import type { WalkAreas, ThreatArea } from '@rammer/core/scene/nodes/walkAreas';
import type { Snag } from '@rammer/core/snag/finding';
import { walkWorker } from '../workers/pool';
import type { Session } from './session';

/** What of the walk areas is shown; they are a node of the scene. */
interface WalkAreaState {
  areas?: WalkAreas;
  /** what the checks found with them; whether each is accepted is asked of the level */
  snags: readonly Snag[];
  /** revision of the level they were made from */
  revision: number;
  /** what they depend on changed since: shown with a dashed underline */
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
  const { revision } = session;
  const { walkAreas } = session.scene;
  try {
    const done = await walkAreas.bake((progress) => useWalkArea.setState({ progress }));
    const { stale, value: areas } = walkAreas;
    if (done) useWalkArea.setState({ areas, snags: session.scene.snags.list, revision, stale, summary: summaryOf(areas!) });
    else useWalkArea.setState({ stale, summary: 'walk area: cancelled' });
  } catch (error) {
    useWalkArea.setState({ stale: true, error: (error as Error).message });
  } finally {
    useWalkArea.setState({ progress: undefined });
  }
}

function summaryOf({ baked, threats }: WalkAreas): string {
  const with_ = threats.length === 0 ? '' : `, those of ${threats.length === 1 ? threats[0].body : `${threats.length} threats`} with it`;
  return `walk area: ${baked} nav tile${baked === 1 ? '' : 's'} baked${with_}`;
}

export const cancelBake = (): void => {
  void walkWorker().cancel();
};

/** The threat that is shown: the one that was chosen, else the first. */
export const shownThreat = (threats: readonly ThreatArea[], id: string | undefined): ThreatArea | undefined => threats.find((t) => t.id === id) ?? threats[0];
