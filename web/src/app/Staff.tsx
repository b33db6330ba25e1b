import type { Course } from '@rammer/core/cost/drawable';
import { BUDGET_SHARE, DEVICES, termOf } from '@rammer/core/cost/frame';
import { settingsOf } from '@rammer/core/level/level';
import type { Level } from '@rammer/core/level/level';
import type { Snag } from '@rammer/core/snag/finding';
import type { Session } from '../store/session';
import { useSnags } from '../store/useSnags';
import { STAGES, useUi, type StageId } from '../store/ui';
import type { LevelView } from '../view/LevelView';
import { FOLLOW_FRAMES, useDrawnFrame } from '../view/useFrame';
import { spendOf } from '../wall/spend';

/** What of the budget each stage spends; the others spend nothing. */
const SPENDS: Partial<Record<StageId, Course[]>> = { block: ['blocks'], earth: ['terrain', 'water'], build: ['kit'], grow: ['plants'], light: ['shadows'] };

/** The stage a snag is mended in. */
function stageOf({ code, object }: Snag, level: Level): StageId {
  if (code === 'size-unlikely') return object !== undefined && level.object(object)?.kind === 'plant' ? 'grow' : 'build';
  if (code.startsWith('plant')) return 'grow';
  if (code.startsWith('piece')) return 'build';
  if (code.startsWith('over-')) return 'cost';
  if (code.startsWith('block') || code.startsWith('step') || code.startsWith('ramp') || code.startsWith('opening')) return 'block';
  return 'play';
}

const countIn = (snags: readonly Snag[], stage: StageId, level: Level): number => snags.filter((s) => stageOf(s, level) === stage).length;

/** The graduated strip of stages, drawn like a surveyor's levelling staff. @param row along the foot of a small screen */
export function Staff({ session, view, row = false }: { session: Session; view?: LevelView; row?: boolean }) {
  const stage = useUi((s) => s.stage);
  const { open } = useSnags(session);
  if (row) {
    return (
      <nav aria-label="stages" className="flex h-11 shrink-0 overflow-x-auto border-t" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>
        {STAGES.map((s) => (
          <button
            key={s.id}
            aria-current={s.id === stage ? 'step' : undefined}
            onClick={() => useUi.getState().setStage(s.id)}
            className="min-w-[68px] flex-1 border-r px-2 text-left"
            style={{ borderColor: 'var(--hair)', background: s.id === stage ? 'var(--ink)' : undefined, color: s.id === stage ? 'var(--raised)' : undefined }}
          >
            <span className="fig mr-1 text-[12px]">{s.number}</span>
            {s.name}
          </button>
        ))}
      </nav>
    );
  }
  return (
    <nav aria-label="stages" className="flex h-full w-16 shrink-0 flex-col border-r" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>
      {STAGES.map((s) => {
        const on = s.id === stage;
        const snags = countIn(open, s.id, session.level);
        return (
          <button
            key={s.id}
            aria-current={on ? 'step' : undefined}
            onClick={() => useUi.getState().setStage(s.id)}
            title={`${s.name} (${s.number % 10})${snags > 0 ? `, ${snags} ${snags === 1 ? 'snag' : 'snags'} to mend here` : ''}`}
            className="relative min-h-0 flex-1 border-b pl-[14px] pt-2 text-left align-top"
            style={{ borderColor: 'var(--hair)', background: on ? 'var(--ink)' : undefined, color: on ? 'var(--raised)' : undefined, maxHeight: 122 }}
          >
            <svg className="absolute inset-y-0 left-0 h-full w-[10px]" preserveAspectRatio="none" viewBox="0 0 10 100" aria-hidden>
              <path
                d="M0 0H10M0 20H5M0 40H5M0 50H8M0 60H5M0 80H5"
                stroke={on ? 'var(--raised)' : 'var(--edge)'}
                strokeWidth="1"
                vectorEffect="non-scaling-stroke"
              />
            </svg>
            {snags > 0 && (
              <span
                aria-hidden
                className="fig absolute right-1.5 top-1.5 text-[13px] font-semibold leading-4"
                style={{ color: on ? 'var(--raised)' : 'var(--oxide)' }}
              >
                {snags}
              </span>
            )}
            <span className="fig block text-[12px] leading-4" style={{ color: on ? 'var(--hair)' : 'var(--ink-2)' }}>
              {s.number}
            </span>
            <span className="block text-[13px] font-medium leading-4">{s.name}</span>
            {view && SPENDS[s.id] && <Share session={session} view={view} courses={SPENDS[s.id]!} on={on} />}
          </button>
        );
      })}
      <div className="flex-1" />
    </nav>
  );
}

/** The stage's share of the budget as a bar: the whole width is the budget line. */
function Share({ session, view, courses, on }: { session: Session; view: LevelView; courses: Course[]; on: boolean }) {
  useDrawnFrame(view, FOLLOW_FRAMES);
  const device = DEVICES[settingsOf(session.level).device];
  const { sums, frame } = spendOf('this view', view, session.level, device, session.terrain.grid.spacing);
  const spent = courses.reduce((sum, c) => {
    const t = sums.byCourse[c];
    return sum + (t ? termOf(device, t, frame.governs) : 0);
  }, 0);
  const share = Math.min(1, spent / (device.target * BUDGET_SHARE));
  if (share < 0.01) return null;
  return (
    <svg className="absolute bottom-1.5 left-[14px]" width="44" height="4" aria-hidden>
      <rect width={Math.max(2, share * 44)} height="4" fill={on ? 'var(--raised)' : 'var(--ochre-text)'} />
    </svg>
  );
}
