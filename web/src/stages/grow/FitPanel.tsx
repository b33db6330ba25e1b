import type { FitStep } from '@rammer/core/cost/fitPlants';
import type { Species } from '@rammer/core/level/objects';
import { usePlanting } from '../../store/planting';
import type { Session } from '../../store/session';
import { budgetOf, planFit, planWhatIf, takeFit } from '../../tools/fitBudget';
import type { LevelView } from '../../view/LevelView';
import { LostPictures } from './LostPictures';

const SMALL = { minHeight: 24, padding: '1px 8px' };
const end = (step: FitStep, v: number): string =>
  step.what === 'cut-off' ? (v === 0 ? 'none' : `${v} m`) : step.what === 'shadows' ? (v > 0 ? 'on' : 'off') : `${Math.round(v)} %`;

/** What would bring the plants under the budget, line by line, before it is taken. */
export function FitPanel({ session, view }: { session: Session; view?: LevelView }) {
  const { fit } = usePlanting();
  if (!fit) return null;
  const budget = budgetOf(session);
  const { before, after, steps, inside } = fit;
  return (
    <div
      className="grid max-h-52 shrink-0 gap-1 overflow-y-auto border-t px-3 py-2"
      style={{ borderColor: 'var(--hair)' }}
      role="group"
      aria-label="fit to budget"
    >
      <p className="m-0">
        <span className="fig">{before.frame.toFixed(1)}</span> of <span className="fig">{budget.toFixed(1)}</span> ms
        {before.place && ` at the dearest place, ${before.place}`}
        {steps.length > 0 && (
          <>
            ; it would be <span className="fig">{after.frame.toFixed(1)}</span>
            {after.place !== before.place && `, then at ${after.place}`}
          </>
        )}
      </p>
      {steps.length === 0 ? (
        <p className="label m-0">
          {before.place === ''
            ? 'The level has no place to measure from: set an entry or a viewpoint.'
            : inside
              ? 'It is inside: nothing is taken.'
              : 'Plants have nothing left to give.'}
        </p>
      ) : (
        <table className="w-full" aria-label="what is taken">
          <tbody>
            {steps.map((s) => (
              <tr key={`${s.species} ${s.what}`}>
                <td>{s.name}</td>
                <td className="label">{s.what}</td>
                <td className="fig whitespace-nowrap">{`${end(s, s.from)} → ${end(s, s.to)}`}</td>
                <td className="fig whitespace-nowrap text-right">{`−${s.ms.toFixed(2)} ms`}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {steps.length > 0 && !inside && (
        <p className="m-0" style={{ color: 'var(--ochre-text)' }}>{`All of it is not enough: plants alone cannot bring it to ${budget.toFixed(1)} ms.`}</p>
      )}
      {view && fit.patches.length > 0 && <LostPictures key={JSON.stringify(fit.patches)} session={session} view={view} fit={fit} />}
      <div className="flex gap-2">
        {steps.length > 0 && (
          <button className="act" style={SMALL} onClick={() => takeFit(session)}>
            take these
          </button>
        )}
        <button className="act" style={SMALL} onClick={() => usePlanting.setState({ fit: undefined })}>
          {steps.length > 0 ? 'leave it' : 'close'}
        </button>
      </div>
    </div>
  );
}

/** Asks what would bring the plants under the budget. */
export function FitButton({ session }: { session: Session }) {
  const { reckoning } = usePlanting();
  return (
    <button
      className="act whitespace-nowrap"
      style={{ minHeight: 22, padding: '0 6px' }}
      disabled={reckoning}
      title="what would bring plants under the budget, seen least"
      onClick={() => planFit(session)}
    >
      {reckoning ? 'reckoning' : 'fit to budget'}
    </button>
  );
}

const STEPS: readonly (readonly [what: FitStep['what'], name: string, title: string])[] = [
  ['shadows', 'no shadows', 'throws none'],
  ['cut-off', 'nearer', 'left out from nearer on'],
  ['amount', 'thinner', 'an even share of it less'],
  ['LODs', 'coarser', 'LODs take over nearer: fewer triangles'],
];

/** Asks what one step of the species that are picked would save, before it is taken. */
export function WhatIf({ session, chosen }: { session: Session; chosen: readonly Species[] }) {
  const { reckoning } = usePlanting();
  return (
    <div className="flex flex-wrap items-center gap-1 px-3 pb-1" role="group" aria-label="what if">
      <span className="label">what if</span>
      {STEPS.map(([what, name, title]) => (
        <button
          key={what}
          className="act"
          style={{ minHeight: 22, padding: '0 6px' }}
          title={`${title}: what it would save, and what one would see of it`}
          disabled={reckoning || (what === 'shadows' && chosen.every((s) => !s.shadows))}
          onClick={() =>
            planWhatIf(
              session,
              chosen.map((s) => s.id),
              what,
            )
          }
        >
          {name}
        </button>
      ))}
    </div>
  );
}
