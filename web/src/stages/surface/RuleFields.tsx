import { Plus } from 'lucide-react';
import type { ConditionKind, GroundCondition, GroundRule, Surface } from '@rammer/core/level/objects';
import { conditionName, holdsOnTops, unitOf } from '@rammer/core/surface/rules/index';
import type { Session } from '../../store/session';
import { laySurface, setRule } from '../../tools/grounds';
import { NumberField } from '../../ui/NumberField';
import { BandFields } from '../standing/BandFields';
import { ConditionExtras } from './ConditionExtras';
import { CONDITION_KINDS, CONDITIONS, firstCondition } from './conditions';
import { useSwatch } from './Swatch';

const LIES = { ground: 'the ground', tops: 'tops of blocks and pieces', both: 'the ground and tops' };

/** What a rule lays, how much of it, and where. */
export function RuleFields({ session, rule, surfaces }: { session: Session; rule: GroundRule; surfaces: readonly Surface[] }) {
  const surface = surfaces.find((s) => s.id === rule.surface);
  const above = useSwatch(session, surface);
  const below = useSwatch(session, surfaces[0]);
  const put = (where: GroundCondition[], what = 'condition') => setRule(session, rule, { where }, `${what} of ${rule.name}`);
  const add = () => {
    const by = CONDITION_KINDS.find((k) => !rule.where.some((c) => c.by === k) && firstCondition(session.level, k));
    const made = by && firstCondition(session.level, by);
    if (made) put([...rule.where, made]);
  };
  // Conditions that have no value on a top: a rule with one lays nothing there.
  const deaf = rule.where.map((c) => c.by).filter((by) => !holdsOnTops(by));
  return (
    <div className="grid grid-cols-1 gap-1 border-t px-3 py-1.5" style={{ borderColor: 'var(--hair)' }} role="group" aria-label={`rule ${rule.name}`}>
      <div className="flex items-center gap-2">
        <select
          className="textf h-6 min-w-0 flex-1 px-1"
          aria-label="surface the rule lays"
          value={rule.surface}
          onChange={(e) => laySurface(session, rule, e.target.value)}
        >
          {!surface && <option value={rule.surface}>a surface that is gone</option>}
          {surfaces.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
        <NumberField
          label="share the rule lays"
          hideLabel
          className="w-[58px]"
          fill
          value={rule.share * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          digits={0}
          onCommit={(v) => setRule(session, rule, { share: v / 100 }, `share of ${rule.name}`)}
        />
        <label className="flex items-center gap-1 whitespace-nowrap" title="it lies over paint too: rock stays rock on a cliff">
          <input
            type="checkbox"
            checked={rule.wins}
            onChange={(e) => setRule(session, rule, { wins: e.target.checked }, `${rule.name}: ${e.target.checked ? 'paint yields to it' : 'paint covers it'}`)}
          />
          over paint
        </label>
      </div>
      <div className="flex items-center gap-2">
        <label className="flex min-w-0 items-center gap-1 whitespace-nowrap">
          lies on
          <select
            className="textf h-6 min-w-0 px-1"
            aria-label="lies on"
            value={rule.lies ?? 'ground'}
            onChange={(e) =>
              setRule(
                session,
                rule,
                { lies: e.target.value === 'tops' || e.target.value === 'both' ? e.target.value : null },
                `${rule.name} lies on ${LIES[e.target.value as keyof typeof LIES]}`,
              )
            }
          >
            {Object.entries(LIES).map(([k, words]) => (
              <option key={k} value={k}>
                {words}
              </option>
            ))}
          </select>
        </label>
      </div>
      {rule.lies && deaf.length > 0 && (
        <div className="text-[13px] leading-tight" style={{ color: 'var(--oxide)' }}>
          nothing on tops: {deaf.map(conditionName).join(', ')} {deaf.length === 1 ? 'is' : 'are'} of the ground
        </div>
      )}
      {rule.where.map((c, i) => (
        <ConditionFields
          key={i}
          session={session}
          condition={c}
          above={above}
          below={below}
          onSet={(next) => put(rule.where.map((o, k) => (k === i ? next : o)))}
          onRemove={() => put(rule.where.filter((_, k) => k !== i))}
        />
      ))}
      <div className="flex items-center justify-between">
        <span className="label">{rule.where.length === 0 ? 'everywhere, as it has no condition' : rule.where.length === 1 ? '' : 'all of them must hold'}</span>
        <button className="act plain" style={{ padding: '0 4px', minHeight: 22 }} disabled={rule.where.length >= 8} onClick={add}>
          <Plus size={13} />
          condition
        </button>
      </div>
    </div>
  );
}

interface ConditionProps {
  session: Session;
  condition: GroundCondition;
  above: string;
  below: string;
  onSet(next: GroundCondition): void;
  onRemove(): void;
}

function ConditionFields({ session, condition: c, above, below, onSet, onRemove }: ConditionProps) {
  const change = (by: ConditionKind) => {
    const made = firstCondition(session.level, by);
    if (made) onSet(made);
  };
  return (
    <BandFields
      by={c.by}
      kinds={CONDITION_KINDS.map((by) => ({ by, name: conditionName(by), off: !firstCondition(session.level, by) }))}
      of={{ ...CONDITIONS[c.by], name: conditionName(c.by), unit: unitOf(c.by), band: c.band, soft: c.soft }}
      above={above}
      below={below}
      onKind={change}
      onSet={(fields) => onSet({ ...c, ...fields })}
      onRemove={onRemove}
    >
      <ConditionExtras session={session} condition={c} onSet={onSet} />
    </BandFields>
  );
}
