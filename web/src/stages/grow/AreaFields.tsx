import { useEffect } from 'react';
import { usePlanting, type Want } from '../../store/planting';
import type { Session } from '../../store/session';
import type { Species } from '@rammer/core/level/objects';
import { adoptIn, generatedIn } from '../../tools/adoptPlants';
import { planAgain, planLevel, sowPlanned } from '../../tools/sowArea';
import { NumberField } from '../../ui/NumberField';
import type { LevelView } from '../../view/LevelView';

const thousands = (v: number): string => Math.round(v).toLocaleString('en').replace(/,/g, '\u202f');

/** How an area is sown: to a density or a total, and what it would come to once it is drawn. */
export function AreaFields({ session, species, view }: { session: Session; species?: Species; view?: LevelView }) {
  const { want, area } = usePlanting();
  const set = (fields: Partial<Want>) => usePlanting.setState({ want: { ...want, ...fields } });
  const { grown } = session.scene.plants;
  // What would come is told anew as what is asked, the species at hand or the plants are others.
  useEffect(() => {
    if (view) planAgain({ session, view });
  }, [session, view, want, species, grown]);
  return (
    <div className="grid gap-1.5 border-b px-3 py-2" style={{ borderColor: 'var(--hair)' }} role="group" aria-label="area to sow">
      <div className="flex items-center gap-2">
        {(['density', 'total'] as const).map((by) => (
          <button key={by} className="act" style={{ minHeight: 24, padding: '1px 7px' }} aria-pressed={want.by === by} onClick={() => set({ by })}>
            {by}
          </button>
        ))}
        {want.by === 'density' ? (
          <NumberField
            label="plants on 100 m²"
            hideLabel
            value={want.density ?? species?.density ?? 1}
            min={0}
            max={8000}
            step={0.5}
            onCommit={(density) => set({ density })}
          />
        ) : (
          <NumberField
            label="plants in all"
            hideLabel
            value={want.total}
            min={0}
            max={200_000}
            step={5}
            digits={0}
            onCommit={(v) => set({ total: Math.round(v) })}
          />
        )}
        <span className="label whitespace-nowrap">{want.by === 'density' ? 'on 100 m²' : 'in all'}</span>
      </div>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={want.clear} onChange={(e) => set({ clear: e.target.checked })} />
        clear the other species there first
      </label>
      {area ? (
        <Offer session={session} species={species} />
      ) : (
        <>
          <p className="label m-0">Click corner after corner; the first again, or Enter, closes it. Nothing is sown before you say so.</p>
          <button
            className="act justify-self-start"
            style={{ minHeight: 24, padding: '1px 7px' }}
            disabled={!view}
            title="instead of an outline"
            onClick={() => view && planLevel({ session, view })}
          >
            the whole level
          </button>
        </>
      )}
    </div>
  );
}

function Offer({ session, species }: { session: Session; species?: Species }) {
  const { area } = usePlanting();
  if (!area) return null;
  const { plan, cost, fault } = area;
  const standing = species ? generatedIn(session, species.id, area.outline).length : 0;
  return (
    <div className="grid gap-1" data-testid="area-offer">
      {fault ? (
        <p className="m-0" style={{ color: 'var(--oxide)' }}>
          {fault}
        </p>
      ) : plan ? (
        <>
          <p className="m-0">
            <span className="fig">{plan.area.toFixed(0)}</span> m²: <span className="fig">{plan.after}</span> {species?.name}, now{' '}
            <span className="fig">{plan.before}</span>
            {plan.others.after !== plan.others.before && (
              <>
                ; <span className="fig">{plan.others.before - plan.others.after}</span> of others less
              </>
            )}
          </p>
          {cost && (
            <p className="label m-0">
              {`${cost.ms >= 0 ? '+' : '−'}${Math.abs(cost.ms).toFixed(2)} ms here, ${thousands(cost.triangles)} triangles as they are drawn`}
            </p>
          )}
          {plan.short && (
            <p className="m-0" style={{ color: 'var(--ochre-text)' }}>
              {`More than four times its own density of ${species?.density} cannot be sown: raise that first.`}
            </p>
          )}
        </>
      ) : (
        <p className="label m-0">reckoning what would grow</p>
      )}
      <div className="flex gap-2">
        <button className="act" style={{ minHeight: 26, padding: '1px 10px' }} disabled={!plan} onClick={() => sowPlanned(session)}>
          sow
        </button>
        {standing > 0 && species && (
          <button
            className="act whitespace-nowrap"
            style={{ minHeight: 26, padding: '1px 10px' }}
            title="sets those that stand in it by hand, as they are: they stay whatever rules become"
            onClick={() => {
              if (adoptIn(session, species.id, area.outline)) usePlanting.setState({ area: undefined });
            }}
          >
            adopt {standing}
          </button>
        )}
        <button
          className="act whitespace-nowrap"
          style={{ minHeight: 26, padding: '1px 10px' }}
          title="drop the outline"
          onClick={() => usePlanting.setState({ area: undefined })}
        >
          drop it
        </button>
      </div>
    </div>
  );
}
