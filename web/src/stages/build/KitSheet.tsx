import { X } from 'lucide-react';
import { useState } from 'react';
import { foundJoins } from '@rammer/core/kit/joins';
import type { Asset } from '@rammer/core/kit/asset';
import { PART_USES, type Kit, type Part } from '@rammer/core/level/objects';
import { useLaying } from '../../store/laying';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { kitsOf } from '../../tools/laidLines';
import { addPart, removeKit, setKit, setPart } from '../../tools/kits';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { WideSheet } from '../../ui/WideSheet';
import type { LevelView } from '../../view/LevelView';
import { useEntries } from '../assets/useEntries';
import { Joins } from './Joins';
import { KitSources } from './KitSources';

const SMALL = { minHeight: 24, padding: '1px 7px' };
const close = () => useLaying.setState({ sheet: undefined });

/** A kit in wide: its parts, what each is laid as, and its joins drawn on its picture. */
export function KitSheet({ session, view }: { session: Session; view?: LevelView }) {
  useSession(session);
  const sheet = useLaying((s) => s.sheet);
  const kit = kitsOf(session).find((k) => k.id === sheet);
  return kit ? <Sheet key={kit.id} session={session} view={view} kit={kit} /> : null;
}

function Sheet({ session, view, kit }: { session: Session; view?: LevelView; kit: Kit }) {
  const [chosen, setChosen] = useState(0);
  const { entries } = useEntries(session);
  const assets = session.scene.placed.assets;
  const nameOf = (part: Part) => session.level.object(part.asset)?.name ?? 'a mesh that is gone';
  const hashes = new Set(kit.parts.flatMap((p) => (session.level.object(p.asset) as { hash?: string } | undefined)?.hash ?? []));
  const more = entries.filter((e) => (e.role === 'piece' || e.role === 'prop') && !hashes.has(e.hash));
  const part = kit.parts[Math.min(chosen, kit.parts.length - 1)];
  const index = kit.parts.indexOf(part);
  const lines = session.level.objects.of('laidLine').filter((l) => l.kit === kit.id).length;
  const line = { borderColor: 'var(--hair)' };
  return (
    <WideSheet
      label={`kit ${kit.name}`}
      title="Kit"
      onClose={close}
      head={
        <>
          <select
            className="textf h-6 w-[140px] px-1"
            aria-label="kit"
            value={kit.id}
            onChange={(e) => useLaying.setState({ sheet: e.target.value, kit: e.target.value })}
          >
            {kitsOf(session).map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </select>
          <span className="label whitespace-nowrap">{lines === 0 ? 'laid nowhere yet' : `laid along ${lines} line${lines === 1 ? '' : 's'}`}</span>
          <span className="ml-auto" />
          <button className="act" style={SMALL} disabled={!session.writable} onClick={() => removeKit(session, kit)}>
            delete
          </button>
        </>
      }
    >
      <div className="flex w-[356px] shrink-0 flex-col border-r" style={line}>
        <div className="flex flex-wrap items-end gap-3 border-b px-3 py-2" style={line}>
          <div className="grid min-w-0 basis-full gap-0.5">
            <span className="label">name</span>
            <NameCell name={kit.name} onRename={(name) => setKit(session, kit, { name }, 'name')}>
              <b className="font-medium">{kit.name}</b>
            </NameCell>
          </div>
          <NumberField
            label="grid"
            className="grid gap-0.5"
            value={kit.pitch}
            unit="m"
            min={0.05}
            max={100}
            step={0.5}
            onCommit={(pitch) => setKit(session, kit, { pitch }, 'grid')}
          />
          <NumberField
            label="floor to floor"
            className="grid gap-0.5"
            value={kit.storey}
            unit="m"
            min={0.1}
            max={100}
            step={0.1}
            onCommit={(storey) => setKit(session, kit, { storey }, 'storey')}
          />
          <NumberField
            label="pressed to"
            className="grid gap-0.5"
            value={kit.stretch[0] * 100}
            unit="%"
            min={20}
            max={100}
            step={5}
            digits={0}
            onCommit={(v) => setKit(session, kit, { stretch: [v / 100, kit.stretch[1]] }, 'stretch')}
          />
          <NumberField
            label="drawn to"
            className="grid gap-0.5"
            value={kit.stretch[1] * 100}
            unit="%"
            min={100}
            max={500}
            step={5}
            digits={0}
            onCommit={(v) => setKit(session, kit, { stretch: [kit.stretch[0], v / 100] }, 'stretch')}
          />
        </div>
        <ul className="m-0 min-h-0 flex-1 list-none overflow-y-auto p-0" aria-label="parts">
          {kit.parts.map((p, i) => (
            <li key={i} className="flex h-[30px] items-center gap-2 border-b px-3" style={{ ...line, background: i === index ? 'var(--raised)' : undefined }}>
              <button
                className="min-w-0 flex-1 truncate text-left"
                aria-pressed={i === index}
                style={{ fontWeight: i === index ? 600 : 400 }}
                onClick={() => setChosen(i)}
              >
                {nameOf(p)}
              </button>
              <span className="label fig whitespace-nowrap">{p.joins.length === 0 ? 'no joins' : `${p.joins.length} joins`}</span>
              <select
                className="textf h-6 w-[92px] px-1"
                aria-label={`${nameOf(p)} is laid as`}
                value={p.use}
                onChange={(e) => {
                  const use = e.target.value as Part['use'];
                  setPart(session, kit, i, { use, joins: foundJoins(use, p.box, kit.pitch) }, `use of ${nameOf(p)}`);
                }}
              >
                {PART_USES.map((u) => (
                  <option key={u}>{u}</option>
                ))}
              </select>
              <NumberField
                label={`weight of ${nameOf(p)}`}
                hideLabel
                className="w-[44px]"
                fill
                value={p.weight}
                min={0}
                max={1000}
                step={1}
                digits={1}
                onCommit={(weight) => setPart(session, kit, i, { weight }, `weight of ${nameOf(p)}`)}
              />
              <button
                className="icon-btn"
                aria-label={`take ${nameOf(p)} out of the kit`}
                title="take it out of the kit"
                onClick={() => setKit(session, kit, { parts: kit.parts.filter((_, k) => k !== i) }, `parts`)}
              >
                <X size={14} />
              </button>
            </li>
          ))}
        </ul>
        <div className="grid gap-2 border-t px-3 py-2" style={line}>
          <label className="flex items-center gap-2">
            <span className="label whitespace-nowrap">add a part</span>
            <select
              className="textf h-6 min-w-0 flex-1 px-1"
              aria-label="add a part"
              value=""
              onChange={(e) => {
                const of = more.find((m) => m.hash === e.target.value);
                if (of) void addPart(session, kit, of).then((done) => done && setChosen(kit.parts.length));
              }}
            >
              <option value="">of the library</option>
              {more.map((m) => (
                <option key={m.hash} value={m.hash}>
                  {m.name}
                </option>
              ))}
            </select>
          </label>
          <KitSources session={session} />
        </div>
      </div>
      {part ? (
        <Joins
          session={session}
          view={view}
          name={nameOf(part)}
          part={part}
          asset={assets.get(part.asset) as Asset | undefined}
          onSet={(joins) => setPart(session, kit, index, { joins }, `joins of ${nameOf(part)}`)}
          onFind={() => setPart(session, kit, index, { joins: foundJoins(part.use, part.box, kit.pitch) }, `joins of ${nameOf(part)}`)}
        />
      ) : (
        <p className="label m-0 p-4">This kit has no parts yet: add one of the library.</p>
      )}
    </WideSheet>
  );
}
