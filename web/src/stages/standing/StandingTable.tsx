import { ChevronDown, ChevronRight, CopyPlus, Eye, EyeOff, Focus, Lock, LockOpen } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import { STANDING_KINDS, type Standing, type StandingKind } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import { copyGroup, renameGroup } from '../../tools/assemblies';
import { isolate } from '../../tools/blockActions';
import { hideThings, lockThings, renameThings, takeOutThings } from '../../tools/things';
import { OutSign } from '../../ui/OutSign';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';
import { HIDES } from '../../ui/hides';
import { KindMark } from './KindMark';
import { isGroup, picked, rowsOf, type GroupRow } from './rows';

interface Props {
  session: Session;
  /** what is listed and counted, in words: blocks, pieces, plants */
  label: string;
  kinds: readonly StandingKind[];
  empty: string;
  /** lists those only, for as long as it is given */
  keep?(thing: Standing): boolean;
  /** between the count and the search */
  header?: ReactNode;
}

const EVERY: ReadonlySet<StandingKind> = new Set(STANDING_KINDS);

/** All that stands, of a stage's kinds or of every one: groups first, each under a row that folds, hides, takes out, locks and isolates all of it. */
export function StandingTable({ session, label, kinds, empty, keep, header }: Props) {
  const ui = useUi();
  const [search, setSearch] = useState('');
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [every, setEvery] = useState(false);
  const { level, revision } = session;
  // The level is one object that changes: its revision says which it is.
  const all = useMemo(() => ({ revision, list: STANDING_KINDS.flatMap((kind): Standing[] => level.objects.of(kind)) }), [level, revision]);
  const rows = useMemo(
    () =>
      rowsOf(all.list, {
        kinds: every ? EVERY : new Set(kinds),
        search,
        folded,
        keep,
        masterOf: (c) => {
          const a = c.kind === 'copy' ? level.object(c.assembly) : undefined;
          return a?.kind === 'assembly' ? a.group : undefined;
        },
      }),
    [all, every, kinds, search, folded, keep, level],
  );
  const selected = useMemo(() => new Set(ui.selection), [ui.selection]);
  const things = rows.filter((r): r is Standing => !isGroup(r));
  // Copies are listed among a stage's own and counted as none of them.
  const listed = things.filter((t) => every || t.kind === kinds[0]).length;
  const chosen = things.filter((t) => selected.has(t.id)).length;
  const counted = every ? `${listed} thing${listed === 1 ? '' : 's'}` : `${listed} ${listed === 1 ? label.replace(/s$/, '') : label}`;
  const pick = (ids: string[], e: PickEvent) => ui.select(picked(rows, ui.selection, ids, { shift: e.shiftKey, ctrl: e.ctrlKey || e.metaKey }));
  const fold = (name: string) => {
    const next = new Set(folded);
    if (!next.delete(name)) next.add(name);
    setFolded(next);
  };

  return (
    <Table
      label={label}
      rows={rows}
      empty={search ? `no name holds "${search}"` : empty}
      header={
        <>
          <span className="label whitespace-nowrap">{ui.selection.length > 1 ? `${chosen} of ${things.length} selected` : counted}</span>
          {ui.isolated && (
            <button className="act" style={SMALL} onClick={() => isolate(undefined)}>
              show all
            </button>
          )}
          <span className="ml-auto flex gap-1">
            {header}
            <button
              className="act"
              style={SMALL}
              aria-pressed={every}
              title="list all that stands: blocks, pieces, plants set by hand, copies, markers, people"
              onClick={() => setEvery(!every)}
            >
              all kinds
            </button>
          </span>
          <input
            className="textf h-[22px] w-16 min-w-0"
            placeholder="search"
            aria-label={`search ${label}`}
            value={search}
            onChange={(e) => setSearch(e.target.value)}
            onKeyDown={(e) => e.stopPropagation()}
          />
        </>
      }
      row={(r) =>
        isGroup(r) ? (
          <GroupLine
            session={session}
            row={r}
            folded={folded.has(r.group)}
            selected={r.members.every((t) => selected.has(t.id))}
            onFold={() => fold(r.group)}
            onPick={(e) =>
              pick(
                r.members.map((t) => t.id),
                e,
              )
            }
          />
        ) : (
          <ThingLine session={session} thing={r} selected={selected.has(r.id)} onPick={(e) => pick([r.id], e)} />
        )
      }
    />
  );
}

const SMALL = { padding: '0 5px', minHeight: 22 };

type PickEvent = { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean };

/** What a row tells beside the name. */
const told = (t: Standing): string | undefined =>
  t.kind === 'block' ? t.size.map((s) => Number(s.toFixed(2))).join(' x ') : t.kind === 'copy' && t.overrides?.length ? `${t.overrides.length} own` : undefined;

function Act({ label, on, run, children }: { label: string; on: boolean; run(): void; children: ReactNode }) {
  return (
    <button
      className="icon-btn"
      aria-label={label}
      aria-pressed={on}
      title={label}
      onClick={(e) => {
        e.stopPropagation();
        run();
      }}
    >
      {children}
    </button>
  );
}

function ThingLine({ session, thing: t, selected, onPick }: { session: Session; thing: Standing; selected: boolean; onPick(e: PickEvent): void }) {
  const text = told(t);
  return (
    <Row selected={selected} colour={t.out ? 'var(--ink-2)' : undefined} onClick={onPick}>
      {(t.group || t.kind === 'copy') && <span className="w-2" />}
      <KindMark thing={t} />
      <NameCell name={t.name} onRename={(name) => renameThings(session, [t], name)}>
        <span style={{ textDecoration: t.out ? 'line-through' : undefined }}>{t.name}</span>
      </NameCell>
      {t.locked ? (
        <Act label={`unlock ${t.name}`} on run={() => lockThings(session, [t], false)}>
          <Lock size={13} />
        </Act>
      ) : (
        text && <span className="label fig whitespace-nowrap">{text}</span>
      )}
      <button
        className="icon-btn"
        title={HIDES}
        aria-label={t.hidden ? `show ${t.name}` : `hide ${t.name} from view`}
        aria-pressed={t.hidden ?? false}
        onClick={(e) => {
          e.stopPropagation();
          hideThings(session, [t]);
        }}
      >
        {t.hidden ? <EyeOff size={14} /> : <Eye size={14} />}
      </button>
      <Act label={t.out ? `put ${t.name} back into the level` : `take ${t.name} out of the level`} on={t.out ?? false} run={() => takeOutThings(session, [t])}>
        <OutSign out={t.out ?? false} />
      </Act>
    </Row>
  );
}

function GroupLine({
  session,
  row: { group: name, members },
  folded,
  selected,
  onFold,
  onPick,
}: {
  session: Session;
  row: GroupRow;
  folded: boolean;
  selected: boolean;
  onFold(): void;
  onPick(e: PickEvent): void;
}) {
  const isolated = useUi((s) => s.isolated);
  const hidden = members.every((t) => t.hidden);
  const out = members.every((t) => t.out);
  const locked = members.every((t) => t.locked);
  const alone = isolated !== undefined && members.every((t) => isolated.has(t.id));
  return (
    <Row selected={selected} onClick={onPick}>
      <button
        className="icon-btn -ml-2 w-4"
        aria-label={folded ? `unfold ${name}` : `fold ${name}`}
        aria-expanded={!folded}
        onClick={(e) => {
          e.stopPropagation();
          onFold();
        }}
      >
        {folded ? <ChevronRight size={14} /> : <ChevronDown size={14} />}
      </button>
      <NameCell name={name} onRename={(to) => renameGroup(session, name, to)}>
        <b className="font-medium" style={{ textDecoration: out ? 'line-through' : undefined }}>
          {name}
        </b>
      </NameCell>
      <span className="label fig">{members.length}</span>
      <Act label={`place a copy of ${name}`} on={false} run={() => copyGroup(session, name)}>
        <CopyPlus size={14} />
      </Act>
      <Act label={alone ? 'show all again' : `isolate group ${name}`} on={alone} run={() => isolate(alone ? undefined : members)}>
        <Focus size={14} />
      </Act>
      <Act label={locked ? `unlock group ${name}` : `lock group ${name}`} on={locked} run={() => lockThings(session, members, !locked)}>
        {locked ? <Lock size={14} /> : <LockOpen size={14} />}
      </Act>
      <Act label={hidden ? `show group ${name}` : `hide group ${name} from view`} on={hidden} run={() => hideThings(session, members)}>
        {hidden ? <EyeOff size={14} /> : <Eye size={14} />}
      </Act>
      <Act label={out ? `put group ${name} back into the level` : `take group ${name} out of the level`} on={out} run={() => takeOutThings(session, members)}>
        <OutSign out={out} />
      </Act>
    </Row>
  );
}
