import { useEffect } from 'react';
import { parseObject, type Lift } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import type { Session } from '../../store/session';
import { useEarth } from '../../store/earthDraft';
import { useUi } from '../../store/ui';
import { setLift } from '../../tools/lifts';
import type { LevelView } from '../../view/LevelView';

/** A new work window is this share of the level wide, and at most so many metres. */
const SHARE = 0.3;
const MOST = 120;

export interface Work {
  on: boolean;
  /** the lift as it is tuned; as the level has it while no window is open */
  lift: Lift;
  tuned: boolean;
  open(): void;
  tune(fields: Record<string, unknown>): boolean;
  run(): void;
  discard(): void;
}

/** The chosen lift tuned in a work window: shown inside it alone, kept nowhere, until it is run everywhere. */
export function useWorkWindow(session: Session, view: LevelView | undefined, kept: Lift): Work {
  const work = useEarth((s) => (s.workWindow?.lift === kept.id ? s.workWindow : undefined));

  const tunedBy = (fields: Record<string, unknown>) => parseObject(Object.fromEntries(Object.entries({ ...kept, ...fields }).filter(([, v]) => v !== null)));
  const parsed = work && tunedBy(work.fields);
  const lift = parsed?.ok ? (parsed.object as Lift) : kept;
  const key = work && JSON.stringify([work.area, work.fields]);

  useEffect(() => {
    if (!work || !view) return;
    const area = samples(work.area, session.terrain.grid);
    const show = (changed?: Map<string, Lift>) => {
      const rect = session.scene.terrain.previewIn(area, changed);
      if (rect) view.terrainPreview(rect);
    };
    show(new Map([[lift.id, lift]]));
    return () => show();
    // By what it shows, not by the objects it is made of anew each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key, view, session, session.revision]);

  // The window is left with its lift.
  useEffect(
    () => () => {
      if (useEarth.getState().workWindow?.lift === kept.id) useEarth.setState({ workWindow: undefined });
    },
    [kept.id],
  );

  return {
    on: work !== undefined,
    lift,
    tuned: work !== undefined && Object.keys(work.fields).length > 0,
    open() {
      const { width, depth } = session.terrain.grid;
      const half = Math.min(MOST, SHARE * Math.min(width, depth)) / 2;
      const [x, , z] = view?.pose.target ?? [width / 2, 0, depth / 2];
      const held = (v: number, most: number) => Math.round(Math.min(most - half, Math.max(half, v)));
      useEarth.setState({
        workWindow: {
          lift: kept.id,
          fields: {},
          area: { x0: held(x, width) - half, z0: held(z, depth) - half, x1: held(x, width) + half, z1: held(z, depth) + half },
        },
      });
      useUi.setState({ tool: 'select' });
    },
    tune(fields) {
      if (!work) return false;
      const next = { ...work.fields, ...fields };
      const result = tunedBy(next);
      if (!result.ok) {
        session.say(result.message, true);
        return false;
      }
      useEarth.setState({ workWindow: { ...work, fields: next } });
      return true;
    },
    run() {
      if (!work) return;
      const { fields } = work;
      useEarth.setState({ workWindow: undefined });
      if (Object.keys(fields).length > 0) setLift(session, kept, fields, `run ${kept.name} everywhere`);
    },
    discard: () => useEarth.setState({ workWindow: undefined }),
  };
}

const samples = ({ x0, z0, x1, z1 }: { x0: number; z0: number; x1: number; z1: number }, { spacing, nx, nz }: Grid) => ({
  x0: Math.max(0, Math.ceil(x0 / spacing)),
  z0: Math.max(0, Math.ceil(z0 / spacing)),
  x1: Math.min(nx - 1, Math.floor(x1 / spacing)),
  z1: Math.min(nz - 1, Math.floor(z1 / spacing)),
});

const small = { padding: '1px 7px', minHeight: 24 };

/** Opens the window, and decides what comes of what was tuned in it. */
export function WorkBar({ work, disabled }: { work: Work; disabled: boolean }) {
  return (
    <div className="flex items-center gap-2 border-b px-3 py-1" style={{ borderColor: 'var(--hair)', background: work.on ? 'var(--chosen)' : undefined }}>
      {work.on ? (
        <>
          <span className="label min-w-0 flex-1">{work.tuned ? 'tuned in the window' : 'set numbers: the window shows them'}</span>
          <button className="act" style={small} onClick={work.discard}>
            {work.tuned ? 'discard' : 'close'}
          </button>
          <button className="act main" style={small} disabled={!work.tuned} onClick={work.run}>
            run everywhere
          </button>
        </>
      ) : (
        <button
          className="act"
          style={small}
          disabled={disabled}
          title="tune it in a rectangle first: nothing else changes until it is run everywhere"
          onClick={work.open}
        >
          work window
        </button>
      )}
    </div>
  );
}
