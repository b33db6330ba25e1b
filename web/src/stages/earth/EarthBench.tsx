import { useEffect } from 'react';
import { BRUSHES } from '@rammer/core/earth/brush';
import { liftStack } from '@rammer/core/level/level';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import { useSession } from '../../store/useSession';
import type { LevelView } from '../../view/LevelView';
import { BrushFields } from './BrushFields';
import { EarthTools } from './EarthTools';
import { LiftFields } from './LiftFields';
import { LiftTable } from './LiftTable';
import { NextLift } from './NextLift';
import { WaterList } from './WaterList';

/** Tools, the brush or the chosen lift, and the lifts as strata. */
export function EarthBench({ session, view }: { session: Session; view?: LevelView }) {
  useSession(session);
  const tool = useUi((s) => s.tool);
  const id = useUi((s) => s.lift);
  const solo = useUi((s) => s.solo);
  const lift = liftStack(session.level).find((l) => l.id === id);
  const brushing = tool === 'earth-ramp' || (BRUSHES as readonly string[]).includes(tool);

  // Alone until the level changes or the stage is left.
  useEffect(() => {
    if (!solo || !view) return;
    const show = (alone: boolean) => {
      const rect = session.composer.preview(alone ? new Map(liftStack(session.level).map((l) => [l.id, { ...l, visible: l.id === solo }])) : undefined);
      if (rect) view.terrainPreview(rect);
    };
    show(true);
    const off = session.subscribe((c) => { if (c.rect || c.objects) useUi.setState({ solo: undefined }); });
    return () => { off(); show(false); };
  }, [solo, session, view]);

  return (
    <>
      <EarthTools session={session} />
      {brushing && <BrushFields session={session} />}
      {(tool === 'landform' || tool === 'route' || tool === 'propose' || tool === 'pad') && <NextLift kind={tool === 'propose' ? 'route' : tool} />}
      <LiftTable session={session} />
      {!brushing && lift && <LiftFields session={session} view={view} lift={lift} />}
      <WaterList session={session} />
      {brushing && <p className="label m-0 border-t px-3 py-1.5" style={{ borderColor: 'var(--hair)' }}>A new seed keeps hand work: raised ground stays raised by as much, levelled ground stays at its height.</p>}
    </>
  );
}
