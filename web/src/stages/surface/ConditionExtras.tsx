import { liftStack } from '@rammer/core/level/level';
import type { GroundCondition } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { NumberField } from '../../ui/NumberField';

/** What a condition of the ground has beside its band. */
export function ConditionExtras<C extends GroundCondition>({ session, condition: c, onSet }: { session: Session; condition: C; onSet(next: C): void }) {
  switch (c.by) {
    case 'curvature':
      return <NumberField label="across" value={c.over} unit="m" min={0.25} max={200} step={0.5} onCommit={(over) => onSet({ ...c, over })} />;
    case 'noise':
      return (
        <>
          <NumberField label="size" value={c.scale} unit="m" min={0.5} max={5000} step={1} onCommit={(scale) => onSet({ ...c, scale })} />
          <button
            className="act"
            style={{ padding: '0 6px', minHeight: 22 }}
            title="other patches"
            onClick={() => onSet({ ...c, seed: (c.seed + 1) % 2_147_483_647 })}
          >
            seed <span className="fig">{c.seed}</span>
          </button>
        </>
      );
    case 'route':
      return (
        <Which
          label="which way"
          any="any way"
          value={c.route}
          list={liftStack(session.level).filter((l) => l.lift === 'route')}
          onPick={(id) => {
            const { route: _old, ...rest } = c;
            onSet((id ? { ...rest, route: id } : rest) as C);
          }}
        />
      );
    case 'lift':
      return <Which label="which lift" value={c.lift} list={liftStack(session.level)} onPick={(id) => id && onSet({ ...c, lift: id })} />;
    default:
      return null;
  }
}

/** One of some things by name. @param any words for none of them, where that may be */
export function Which({
  label,
  any,
  value,
  list,
  onPick,
}: {
  label: string;
  any?: string;
  value?: string;
  list: readonly { id: string; name: string }[];
  onPick(id?: string): void;
}) {
  return (
    <select className="textf h-6 min-w-0 flex-1 px-1" aria-label={label} value={value ?? ''} onChange={(e) => onPick(e.target.value || undefined)}>
      {any !== undefined && <option value="">{any}</option>}
      {value !== undefined && !list.some((l) => l.id === value) && <option value={value}>one that is gone</option>}
      {list.map((l) => (
        <option key={l.id} value={l.id}>
          {l.name}
        </option>
      ))}
    </select>
  );
}
