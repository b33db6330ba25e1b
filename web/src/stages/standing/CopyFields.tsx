import { RotateCcw } from 'lucide-react';
import { isMade } from '@rammer/core/level/instance';
import type { CopyObject } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import { detachCopies } from '../../tools/assemblies';
import { dropMembers } from '../../tools/dropThings';
import { masterOf, putBack } from '../../tools/overrides';
import { setThings } from '../../tools/things';
import { GroupField, PlaceFields, ScaleFields, ThingButtons, TurnFields } from './PoseFields';

const SMALL = { padding: '1px 6px', minHeight: 24 };

/** Place, turn and size of selected copies, and what of them is their own; all else is their master's. */
export function CopyFields({ session, copies }: { session: Session; copies: CopyObject[] }) {
  const [first] = copies;
  const of = session.level.object(first.assembly);
  const assemblies = session.level.objects.of('assembly');
  const own = copies.filter((c) => c.overrides?.length);
  return (
    <>
      <div className="flex items-center gap-2">
        <b className="min-w-0 flex-1 truncate font-medium">
          {copies.length === 1 ? `${first.name}, of ${of?.name ?? 'a group that is gone'}` : `${copies.length} copies`}
        </b>
        <select
          className="textf h-6 max-w-[110px] px-1"
          aria-label="assembly"
          title="swap for a copy of another group"
          value={copies.every((c) => c.assembly === first.assembly) ? first.assembly : ''}
          onChange={(e) => setThings(session, copies, () => ({ assembly: e.target.value }), 'swap')}
        >
          {!of && <option value={first.assembly}>gone</option>}
          {copies.some((c) => c.assembly !== first.assembly) && <option value="">several</option>}
          {assemblies.map((a) => (
            <option key={a.id} value={a.id}>
              {a.name}
            </option>
          ))}
        </select>
      </div>
      <PlaceFields session={session} list={copies} />
      <TurnFields session={session} list={copies} />
      <ScaleFields session={session} list={copies} />
      <div className="flex items-end gap-1">
        <GroupField session={session} list={copies} />
        <ThingButtons session={session} list={copies} />
      </div>
      <div className="flex gap-1">
        <button className="act" style={SMALL} title="make it things of its own: it follows its master no more" onClick={() => detachCopies(session, copies)}>
          detach
        </button>
        <button className="act" style={SMALL} title="each member onto what is below it here" onClick={() => dropMembers(session, copies)}>
          drop members
        </button>
        <button
          className="act"
          style={SMALL}
          disabled={own.length === 0}
          title="take away what members have of their own here"
          onClick={() => putBack(session, own)}
        >
          as master
        </button>
      </div>
      {copies.length === 1 && <Members session={session} copy={first} />}
    </>
  );
}

/** Members of one copy: what each has of its own, said; one that is taken out here can be put back. */
function Members({ session, copy }: { session: Session; copy: CopyObject }) {
  const standing = presentOf(session.level.objects).inCopy(copy.id);
  const overrides = new Map((copy.overrides ?? []).map((o) => [`${copy.id}~${o.member}`, o]));
  const gone = [...overrides].filter(([id, o]) => o.out && isMade(id) && masterOf(session, id));
  const rows = [
    ...standing.map((t) => ({ id: t.id, name: masterOf(session, t.id)?.master.name ?? t.name, out: false })),
    ...gone.map(([id]) => ({ id, name: masterOf(session, id)!.master.name, out: true })),
  ];
  return (
    <ul
      className="m-0 min-h-[46px] flex-1 list-none overflow-y-auto border-t p-0"
      style={{ borderColor: 'var(--hair)' }}
      aria-label={`members of ${copy.name}`}
    >
      {rows.map(({ id, name, out }) => {
        const o = overrides.get(id);
        const words = o
          ? Object.keys(o)
              .filter((k) => k !== 'member')
              .join(', ')
          : '';
        return (
          <li key={id} className="flex items-center gap-2">
            <button
              className="min-w-0 flex-1 truncate text-left"
              style={{ color: out ? 'var(--ink-2)' : undefined }}
              disabled={out}
              title="select it in this copy"
              onClick={() => useUi.getState().select([id])}
            >
              <span style={{ textDecoration: out ? 'line-through' : undefined }}>{name}</span>
            </button>
            {words && <span className="label whitespace-nowrap">{words}</span>}
            {o && (
              <button className="icon-btn" aria-label={`${name} as the master`} title="as the master" onClick={() => putBack(session, [copy], o.member)}>
                <RotateCcw size={13} />
              </button>
            )}
          </li>
        );
      })}
    </ul>
  );
}
