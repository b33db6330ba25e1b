import { Plus } from 'lucide-react';
import { growthConditionName } from '@rammer/core/growth/where/index';
import { MARKER_NAMES, MOST_WHERE, type GroundCondition, type GrowthCondition, type GrowthWhere, type Species } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { NumberField } from '../../ui/NumberField';
import { BandFields } from '../standing/BandFields';
import { ConditionExtras, Which } from '../surface/ConditionExtras';
import { drawnOnes, firstGrowthCondition, GROWTH_CONDITION_KINDS, growthBand } from './growthConditions';

const CHIP = { minHeight: 20, padding: '0 6px' };
/** A plain picture of a colour: the band is drawn of plants over bare ground. */
const plain = (colour: string): string =>
  `data:image/svg+xml,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg"><rect width="100%" height="100%" fill="${colour}"/></svg>`)}`;
const BARE = plain('#d9d6cc');

interface Props {
  session: Session;
  /** of what asks */
  name: string;
  where: readonly GrowthWhere[];
  /** species whose plants may be gone by: they take their place earlier */
  before: readonly Species[];
  onSet(where: GrowthWhere[] | undefined): void;
}

/** What a rule of growth goes by: conditions joined by and, or, not. */
export function WhereFields({ session, name, where, before, onSet }: Props) {
  const put = (next: GrowthWhere[]) => {
    // The first has nothing before it to be joined to.
    const [{ or: _, ...first } = {} as GrowthWhere, ...rest] = next;
    onSet(next.length === 0 ? undefined : [first, ...rest]);
  };
  const change = (i: number, next: GrowthWhere) => put(where.map((w, k) => (k === i ? next : w)));
  const add = () => {
    const by = GROWTH_CONDITION_KINDS.find(
      (k) => !where.some((w) => w.is.by === k) && k !== 'slope' && k !== 'height' && firstGrowthCondition(session.level, before, k),
    );
    const made = by && firstGrowthCondition(session.level, before, by);
    if (made) put([...where, { is: made }]);
  };
  const grown = plain('#6f8f57');
  return (
    <div className="col-span-full grid grid-cols-1 gap-1" role="group" aria-label={`conditions of ${name}`}>
      {where.map((w, i) => (
        <div key={i} className="grid grid-cols-1">
          <Joins of={w} first={i === 0} onSet={(next) => change(i, next)} />
          <BandFields
            by={w.is.by}
            kinds={GROWTH_CONDITION_KINDS.map((by) => ({ by, name: growthConditionName(by), off: !firstGrowthCondition(session.level, before, by) }))}
            of={growthBand(w.is)}
            above={w.not ? BARE : grown}
            below={w.not ? grown : BARE}
            onKind={(by) => {
              const made = firstGrowthCondition(session.level, before, by);
              if (made) change(i, { ...w, is: made });
            }}
            onSet={(fields) => change(i, { ...w, is: { ...w.is, ...fields } })}
            onRemove={() => put(where.filter((_, k) => k !== i))}
          >
            <Extras session={session} before={before} condition={w.is} onSet={(is) => change(i, { ...w, is })} />
          </BandFields>
        </div>
      ))}
      <div className="flex items-center justify-between">
        <span className="label">{where.length === 0 ? 'nothing else is asked' : ''}</span>
        <button className="act plain" style={{ padding: '0 4px', minHeight: 22 }} disabled={where.length >= MOST_WHERE} onClick={add}>
          <Plus size={13} />
          condition
        </button>
      </div>
    </div>
  );
}

/** How a condition is joined to what is before it, and whether it is turned round. */
function Joins({ of, first, onSet }: { of: GrowthWhere; first: boolean; onSet(next: GrowthWhere): void }) {
  const { or, not, ...rest } = of;
  const with_ = (more: { or?: boolean; not?: boolean }) => onSet({ ...rest, ...(more.not ? { not: true } : {}), ...(more.or ? { or: true } : {}) });
  return (
    <div className="flex items-center gap-1 pt-0.5">
      {!first && (
        <>
          <button className="act" style={CHIP} aria-pressed={!or} title="this must hold too" onClick={() => with_({ not })}>
            and
          </button>
          <button
            className="act"
            style={CHIP}
            aria-pressed={or === true}
            title="this or the one before it: the larger share counts"
            onClick={() => with_({ not, or: true })}
          >
            or
          </button>
        </>
      )}
      <button className="act" style={CHIP} aria-pressed={not === true} title="lets in what it would keep out" onClick={() => with_({ not: !not, or })}>
        not
      </button>
    </div>
  );
}

function Extras({
  session,
  before,
  condition: c,
  onSet,
}: {
  session: Session;
  before: readonly Species[];
  condition: GrowthCondition;
  onSet(next: GrowthCondition): void;
}) {
  switch (c.by) {
    case 'side':
      return (
        <NumberField label="bearing" value={c.towards} unit="°" min={-360} max={360} step={15} digits={0} onCommit={(towards) => onSet({ ...c, towards })} />
      );
    case 'marker':
      return (
        <Which
          label="which marker"
          any="any marker"
          value={c.marker}
          list={MARKER_NAMES.map((name) => ({ id: name, name }))}
          onPick={(id) => {
            const { marker: _old, ...rest } = c;
            onSet(id ? { ...rest, marker: id as (typeof MARKER_NAMES)[number] } : rest);
          }}
        />
      );
    case 'plants':
      return <Which label="of which species" value={c.species} list={before} onPick={(id) => id && onSet({ ...c, species: id })} />;
    case 'outline':
      return <Which label="inside which outline" value={c.of} list={drawnOnes(session.level)} onPick={(id) => id && onSet({ ...c, of: id })} />;
    case 'block':
    case 'doorway':
    case 'piece':
    case 'walk':
    case 'canopy':
      return null;
    default:
      return <ConditionExtras session={session} condition={c as GroundCondition} onSet={onSet} />;
  }
}
