import { useCallback, useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { ofKind } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import { heightAt } from '@rammer/core/earth/sample';
import { overviewPose } from '@rammer/core/snag/checkLevel';
import type { Session } from '../store/session';
import { READINGS, STAGES, useUi, type Reading, type StageId } from '../store/ui';
import type { LevelView } from '../view/LevelView';
import { poseFromText, poseToText } from '../view/rig';

const WRITE_AFTER_MS = 350;

/** Pose, stage and reading live in the link, so that it shows the same thing elsewhere; not while walking. */
export function useLink(session: Session, view: LevelView | undefined): { firstPose(): Pose } {
  const [params, setParams] = useSearchParams();
  const stage = useUi((s) => s.stage);
  const reading = useUi((s) => s.reading);

  // Stage and reading from the link, once.
  useEffect(() => {
    const wantedStage = params.get('stage') as StageId | null;
    const wantedReading = params.get('reading') as Reading | null;
    if (wantedStage && STAGES.some((s) => s.id === wantedStage)) useUi.getState().setStage(wantedStage);
    if (wantedReading && READINGS.includes(wantedReading)) useUi.setState({ reading: wantedReading });
  // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  useEffect(() => {
    if (!view) return;
    const write = () => {
      const { mode, stage, reading } = useUi.getState();
      // How it is drawn stays as the link said.
      const draw = new URLSearchParams(location.search).get('draw');
      if (mode !== 'walk') setParams({ stage, reading, pose: poseToText(view.pose), ...(draw ? { draw } : {}) }, { replace: true });
    };
    // Stage and reading at once, so that a page loaded again is at the stage that was chosen last; a pose
    // when the view has come to rest, for browsers count how often a link is written.
    write();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const off = view.onFrame(() => { clearTimeout(timer); timer = setTimeout(write, WRITE_AFTER_MS); });
    return () => { off(); clearTimeout(timer); };
  // setParams changes with every link; the view and what is shown decide here.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, stage, reading]);

  /** The link's pose, else the first saved Orbit viewpoint, else all of the level. */
  const firstPose = useCallback((): Pose => {
    const saved = ofKind(session.level, 'viewpoint').find((p) => p.pose.view === 'orbit');
    const { grid } = session.terrain;
    return poseFromText(new URLSearchParams(location.search).get('pose')) ?? saved?.pose ?? overviewPose(grid.width, grid.depth, heightAt(session.terrain, grid.width / 2, grid.depth / 2));
  }, [session]);

  return { firstPose };
}
