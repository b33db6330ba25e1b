import { ChevronDown, ChevronRight, CopyPlus, Eye, EyeOff, Focus, Link2, Lock, LockOpen } from 'lucide-react';
import { useState } from 'react';
import { stillBlockout } from '@rammer/core/kit/swap';
import type { Block, CopyObject, Shape } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import { copyGroup, renameGroup } from '../../tools/assemblies';
import { isolate, lockBlocks, renameObject, setBlocks } from '../../tools/blockActions';
import { OutSign } from '../../ui/OutSign';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';
import { HIDES } from '../../ui/hides';

/** Shapes as a row of the table shows them. */
const MARKS: Record<Shape, string> = {
  box: 'M1 2H13V11H1z', ramp: 'M1 11L13 2V11z', wedge: 'M1 11L7 2L13 11z', terraces: 'M1 11L2 8H5L6 5H9L10 2H13V11z', stair: 'M1 11V8H5V5H9V2H13V11z', cylinder: 'M2 3Q7 0 12 3V11H2z', cone: 'M2 11L7 1L12 11z', arch: 'M1 11V2H13V11H10V8Q7 4 4 8V11z', ring: 'M1 11V3H4V11zM10 11V3H13V11z',
  wall: 'M1 11V2H4V8H13V11z', slab: 'M1 10L4 6H13L10 10z', tunnel: 'M1 11V6Q1 2 7 2Q13 2 13 6V11H10V7Q10 5 7 5Q4 5 4 7V11z',
};


interface Group { name: string; blocks: Block[] }

/** Every block: groups first, each under a row of its own that folds, hides, takes out, locks and isolates all of it. */
export function BlockTable({ session, blocks, copies }: { session: Session; blocks: Block[]; copies: CopyObject[] }) {
  const ui = useUi();
  const [search, setSearch] = useState('');
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const kept = ui.stillOnly ? stillBlockout(blocks) : blocks;
  const found = search ? kept.filter((b) => `${b.name} ${b.group ?? ''}`.toLowerCase().includes(search.toLowerCase())) : kept;
  const groups = new Map<string, Block[]>();
  for (const b of found) if (b.group) groups.set(b.group, [...(groups.get(b.group) ?? []), b]);
  const masterOf = (c: CopyObject) => { const a = session.level.object(c.assembly); return a?.kind === 'assembly' ? a.group : undefined; };
  const shownCopies = ui.stillOnly ? [] : copies.filter((c) => !search || c.name.toLowerCase().includes(search.toLowerCase()));
  const rows: (Block | Group | CopyObject)[] = [...[...groups].sort(([a], [b]) => a.localeCompare(b)).flatMap(([name, list]) => [{ name, blocks: list }, ...(folded.has(name) && !search ? [] : list), ...shownCopies.filter((c) => masterOf(c) === name)]), ...found.filter((b) => !b.group), ...shownCopies.filter((c) => !groups.has(masterOf(c) ?? ''))];
  const order = rows.filter((r): r is Block | CopyObject => 'id' in r);
  const selected = new Set(ui.selection);

  const pick = (ids: string[], e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    if (e.shiftKey && ui.selection.length > 0 && ids.length === 1) {
      const a = order.findIndex((x) => x.id === ui.selection[ui.selection.length - 1]);
      const z = order.findIndex((x) => x.id === ids[0]);
      ui.select([...new Set([...ui.selection, ...order.slice(Math.min(a, z), Math.max(a, z) + 1).map((x) => x.id)])]);
    } else if (e.ctrlKey || e.metaKey || e.shiftKey) ui.select(ids.every((i) => selected.has(i)) ? ui.selection.filter((i) => !ids.includes(i)) : [...new Set([...ui.selection, ...ids])]);
    else ui.select(ids);
  };
  const fold = (name: string) => {
    const next = new Set(folded);
    if (!next.delete(name)) next.add(name);
    setFolded(next);
  };

  return (
    <Table
      label="blocks" rows={rows} empty={ui.stillOnly && kept.length === 0 ? 'Nothing is blockout any more: an asset stands for every solid.' : search ? `no block's name holds "${search}"` : 'No blocks yet. Pick box, then drag a footprint on the ground and move up for the height.'}
      header={<>
        <span className="label whitespace-nowrap">{ui.selection.length > 1 ? `${order.filter((b) => selected.has(b.id)).length} of ${blocks.length} selected` : `${kept.length} block${kept.length === 1 ? '' : 's'}`}</span>
        {ui.isolated && <button className="act" style={{ padding: '0 6px', minHeight: 22 }} onClick={() => isolate(undefined)}>show all</button>}
        <button className="act ml-auto" style={{ padding: '0 5px', minHeight: 22 }} aria-pressed={ui.stillOnly} title="list what no asset stands for yet" onClick={() => ui.set({ stillOnly: !ui.stillOnly })}>blockout</button>
        <input className="textf h-[22px] w-20" placeholder="search" aria-label="search blocks" value={search} onChange={(e) => setSearch(e.target.value)} onKeyDown={(e) => e.stopPropagation()} />
      </>}
      row={(r) => ('id' in r && r.kind === 'copy' ? <CopyRow session={session} copy={r} selected={selected.has(r.id)} onPick={(e) => pick([r.id], e)} /> : 'id' in r
        ? <BlockRow session={session} block={r} selected={selected.has(r.id)} onPick={(e) => pick([r.id], e)} />
        : <GroupRow session={session} group={r} folded={folded.has(r.name)} selected={r.blocks.every((b) => selected.has(b.id))} onFold={() => fold(r.name)} onPick={(e) => pick(r.blocks.map((b) => b.id), e)} />)}
    />
  );
}

function CopyRow({ session, copy: c, selected, onPick }: { session: Session; copy: CopyObject; selected: boolean; onPick(e: PickEvent): void }) {
  return (
    <Row selected={selected} colour={c.out ? 'var(--ink-2)' : undefined} onClick={onPick}>
      <span className="w-2" /><Link2 size={14} aria-label="copy" role="img" />
      <NameCell name={c.name} onRename={(name) => renameObject(session, c.id, name)}><span style={{ textDecoration: c.out ? 'line-through' : undefined }}>{c.name}</span></NameCell>
      <button className="icon-btn" title={HIDES} aria-label={c.hidden ? `show ${c.name}` : `hide ${c.name} from view`} aria-pressed={c.hidden} onClick={(e) => { e.stopPropagation(); session.commit({ kind: 'set', patches: [{ id: c.id, set: { hidden: !c.hidden } }] }, `${c.hidden ? 'show' : 'hide'} ${c.name}`); }}>{c.hidden ? <EyeOff size={14} /> : <Eye size={14} />}</button>
      <button className="icon-btn" aria-label={c.out ? `put ${c.name} back into the level` : `take ${c.name} out of the level`} aria-pressed={c.out} onClick={(e) => { e.stopPropagation(); session.commit({ kind: 'set', patches: [{ id: c.id, set: { out: !c.out } }] }, `${c.out ? 'put back' : 'take out'} ${c.name}`); }}><OutSign out={c.out} /></button>
    </Row>
  );
}

type PickEvent = { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean };

function BlockRow({ session, block: b, selected, onPick }: { session: Session; block: Block; selected: boolean; onPick(e: PickEvent): void }) {
  return (
    <Row selected={selected} colour={b.out ? 'var(--ink-2)' : undefined} onClick={onPick}>
      {b.group && <span className="w-2" />}
      <svg width="14" height="12" role="img" aria-label={b.op === 'void' ? `${b.shape}, void` : b.shape}><path d={MARKS[b.shape]} fill="none" stroke="currentColor" strokeWidth="1.3" strokeDasharray={b.op === 'void' ? '2 1.5' : undefined} /></svg>
      <NameCell name={b.name} onRename={(name) => renameObject(session, b.id, name)}><span style={{ textDecoration: b.out ? 'line-through' : undefined }}>{b.name}</span></NameCell>
      {b.locked ? <button className="icon-btn" aria-label={`unlock ${b.name}`} aria-pressed onClick={(e) => { e.stopPropagation(); lockBlocks(session, [b], false); }}><Lock size={13} /></button>
        : <span className="label fig whitespace-nowrap">{b.size.map((s) => Number(s.toFixed(2))).join(' x ')}</span>}
      <button className="icon-btn" title={HIDES} aria-label={b.hidden ? `show ${b.name}` : `hide ${b.name} from view`} aria-pressed={b.hidden} onClick={(e) => { e.stopPropagation(); setBlocks(session, [b], () => ({ hidden: !b.hidden }), b.hidden ? 'show' : 'hide'); }}>{b.hidden ? <EyeOff size={14} /> : <Eye size={14} />}</button>
      <button className="icon-btn" aria-label={b.out ? `put ${b.name} back into the level` : `take ${b.name} out of the level`} aria-pressed={b.out} onClick={(e) => { e.stopPropagation(); setBlocks(session, [b], () => ({ out: !b.out }), b.out ? 'put back' : 'take out'); }}><OutSign out={b.out} /></button>
    </Row>
  );
}

function GroupRow({ session, group: { name, blocks }, folded, selected, onFold, onPick }: { session: Session; group: Group; folded: boolean; selected: boolean; onFold(): void; onPick(e: PickEvent): void }) {
  const isolated = useUi((s) => s.isolated);
  const hidden = blocks.every((b) => b.hidden);
  const out = blocks.every((b) => b.out);
  const locked = blocks.every((b) => b.locked);
  const alone = isolated !== undefined && blocks.every((b) => isolated.has(b.id));
  const act = (label: string, on: boolean, run: () => void, icon: React.ReactNode) => <button className="icon-btn" aria-label={label} aria-pressed={on} title={label} onClick={(e) => { e.stopPropagation(); run(); }}>{icon}</button>;
  return (
    <Row selected={selected} onClick={onPick}>
      <button className="icon-btn -ml-2 w-4" aria-label={folded ? `unfold ${name}` : `fold ${name}`} aria-expanded={!folded} onClick={(e) => { e.stopPropagation(); onFold(); }}>{folded ? <ChevronRight size={14} /> : <ChevronDown size={14} />}</button>
      <NameCell name={name} onRename={(to) => renameGroup(session, blocks, name, to)}><b className="font-medium" style={{ textDecoration: out ? 'line-through' : undefined }}>{name}</b></NameCell>
      <span className="label fig">{blocks.length}</span>
      {act(`place a copy of ${name}`, false, () => copyGroup(session, name), <CopyPlus size={14} />)}
      {act(alone ? 'show all blocks again' : `isolate group ${name}`, alone, () => isolate(alone ? undefined : blocks), <Focus size={14} />)}
      {act(locked ? `unlock group ${name}` : `lock group ${name}`, locked, () => lockBlocks(session, blocks, !locked), locked ? <Lock size={14} /> : <LockOpen size={14} />)}
      {act(hidden ? `show group ${name}` : `hide group ${name} from view`, hidden, () => setBlocks(session, blocks, () => ({ hidden: !hidden }), `${hidden ? 'show' : 'hide'} group ${name}:`), hidden ? <EyeOff size={14} /> : <Eye size={14} />)}
      {act(out ? `put group ${name} back into the level` : `take group ${name} out of the level`, out, () => setBlocks(session, blocks, () => ({ out: !out }), `${out ? 'put back' : 'take out'} group ${name}:`), <OutSign out={out} />)}
    </Row>
  );
}
