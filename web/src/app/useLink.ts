import { useCallback, useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { ofKind } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import { heightAt } from '@rammer/core/earth/sample';
import { overviewPose } from '@rammer/core/scene/checkLevel';
import type { Session } from '../store/session';
import { OVERLAYS, STAGES, useUi, type Overlay, type StageId } from '../store/ui';
import type { LevelView } from '../view/LevelView';
import { firstSight } from '../view/firstSight';
import { poseFromText, poseToText } from '../view/rig';

const WRITE_AFTER_MS = 350;

/** Pose, stage and overlay live in the link, so that it shows the same thing elsewhere; not while walking. */
export function useLink(session: Session, view: LevelView | undefined): { firstPose(): Pose } {
  const [params, setParams] = useSearchParams();
  const stage = useUi((s) => s.stage);
  const overlay = useUi((s) => s.overlay);

  // Stage and overlay from the link, once; links of before call the overlay a reading.
  useEffect(() => {
    const wantedStage = params.get('stage') as StageId | null;
    const wantedOverlay = (params.get('overlay') ?? params.get('reading')) as Overlay | null;
    if (wantedStage && STAGES.some((s) => s.id === wantedStage)) useUi.getState().setStage(wantedStage);
    if (wantedOverlay && OVERLAYS.includes(wantedOverlay)) useUi.setState({ overlay: wantedOverlay });
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  useEffect(() => {
    if (!view) return;
    const write = () => {
      const { mode, stage, overlay } = useUi.getState();
      // How it is drawn stays as the link said.
      const draw = new URLSearchParams(location.search).get('draw');
      if (mode !== 'walk') setParams({ stage, overlay, pose: poseToText(view.pose), ...(draw ? { draw } : {}) }, { replace: true });
    };
    // Stage and overlay at once, so that a page loaded again is at the stage that was chosen last; a pose
    // when the view has come to rest, for browsers count how often a link is written.
    write();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const off = view.onFrame(() => {
      clearTimeout(timer);
      timer = setTimeout(write, WRITE_AFTER_MS);
    });
    return () => {
      off();
      clearTimeout(timer);
    };
    // setParams changes with every link; the view and what is shown decide here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, stage, overlay]);

  /** The link's pose, else the first saved Orbit viewpoint, else the figure of a level that holds nothing yet, else all of the level. */
  const firstPose = useCallback((): Pose => {
    const saved = ofKind(session.level, 'viewpoint').find((p) => p.pose.view === 'orbit');
    const { grid } = session.terrain;
    return (
      poseFromText(new URLSearchParams(location.search).get('pose')) ??
      saved?.pose ??
      firstSight(session) ??
      overviewPose(grid.width, grid.depth, heightAt(session.terrain, grid.width / 2, grid.depth / 2))
    );
  }, [session]);

  return { firstPose };
}
