import { useEffect } from 'react';
import { BRUSHES } from '@rammer/core/earth/brushes/index';
import { liftStack } from '@rammer/core/level/level';
import type { Session } from '../../store/session';
import { useEarth } from '../../store/earthDraft';
import { useUi } from '../../store/ui';
import { useSession } from '../../store/useSession';
import { padUnderSelection } from '../../tools/lifts';
import { handLiftAt } from '../../tools/sculptedLift';
import type { LevelView } from '../../view/LevelView';
import { AddLift } from './AddLift';
import { BrushFields } from './BrushFields';
import { BrushTools } from './BrushTools';
import { LiftFields } from './LiftFields';
import { NextLift } from './NextLift';
import { Strata } from './Strata';
import { WaterList } from './WaterList';

/** The lifts as strata, the chosen one open with what works on it; new ones at the column's head, water at its foot. */
export function EarthBench({ session, view }: { session: Session; view?: LevelView }) {
  useSession(session);
  const tool = useUi((s) => s.tool);
  const id = useEarth((s) => s.lift);
  const solo = useEarth((s) => s.solo);
  const chosen = useUi((s) => s.selection.length);
  const brushing = tool === 'earth-ramp' || (BRUSHES as readonly string[]).includes(tool);
  const drawing = tool === 'propose' ? 'route' : tool === 'landform' || tool === 'route' || tool === 'pad' ? tool : undefined;
  const open = brushing ? handLiftAt(session, id)?.id : drawing ? undefined : id;

  // Alone until the level changes or the stage is left.
  useEffect(() => {
    if (!solo || !view) return;
    const show = (alone: boolean) => {
      const rect = session.scene.terrain.preview(alone ? new Map(liftStack(session.level).map((l) => [l.id, { ...l, visible: l.id === solo }])) : undefined);
      if (rect) view.terrainPreview(rect);
    };
    show(true);
    const off = session.subscribe((c) => {
      if (c.rect || c.objects) useEarth.setState({ solo: undefined });
    });
    return () => {
      off();
      show(false);
    };
  }, [solo, session, view]);

  return (
    <>
      <div className="flex h-6 shrink-0 items-center gap-2 pl-3 pr-2">
        <span className="label mr-auto whitespace-nowrap">lifts (layers), top wins</span>
        {(['cut', 'fill'] as const).map((what) => (
          <span
            key={what}
            className="label flex items-center gap-1"
            title={what === 'cut' ? 'taken away by the lift alone, left of zero' : 'added by the lift alone, right of zero'}
          >
            <i className="h-2.5 w-2.5 border" style={{ background: `var(--${what})`, borderColor: 'var(--ink)' }} aria-hidden />
            {what}
          </span>
        ))}
      </div>
      <AddLift session={session} />
      {chosen > 0 && (
        <div className="flex items-center justify-between border-b px-3 py-1" style={{ borderColor: 'var(--hair)' }}>
          <span className="label">{chosen} selected</span>
          <button
            className="act"
            style={{ padding: '1px 7px', minHeight: 24 }}
            disabled={!session.writable}
            title="level ground that follows them when they move"
            onClick={() => padUnderSelection(session)}
          >
            pad under them
          </button>
        </div>
      )}
      {drawing && <NextLift kind={drawing} />}
      <Strata
        session={session}
        open={open}
        inside={(lift) => (
          <>
            {lift.lift === 'hand' && <BrushTools />}
            {brushing ? <BrushFields session={session} /> : <LiftFields session={session} view={view} lift={lift} />}
          </>
        )}
      />
      <WaterList session={session} />
    </>
  );
}
