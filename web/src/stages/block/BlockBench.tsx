import { Eye, EyeOff, LogIn, LogOut, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ofKind } from '@rammer/core/level/level';
import { MIN_BLOCK, type Block } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { SNAPS, useUi, type HandleMode } from '../../store/ui';
import { renameObject, selectedBlocks, setBlocks } from '../../tools/blockActions';
import { dropThings, duplicateThings, removeThings } from '../../tools/things';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import { Row, Table } from '../../ui/Table';

const GROUND = 'M0 19H118';

export function BlockBench({ session }: { session: Session }) {
  useSession(session);
  const ui = useUi();
  const blocks = ofKind(session.level, 'block');
  const [search, setSearch] = useState('');
  const shown = search ? blocks.filter((b) => b.name.toLowerCase().includes(search.toLowerCase())) : blocks;
  const selected = selectedBlocks(session);

  const pick = (b: Block, e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    if (e.shiftKey && ui.selection.length > 0) {
      const a = shown.findIndex((x) => x.id === ui.selection[ui.selection.length - 1]);
      const z = shown.indexOf(b);
      ui.select([...new Set([...ui.selection, ...shown.slice(Math.min(a, z), Math.max(a, z) + 1).map((x) => x.id)])]);
    } else if (e.ctrlKey || e.metaKey) ui.select(ui.selection.includes(b.id) ? ui.selection.filter((i) => i !== b.id) : [...ui.selection, b.id]);
    else ui.select([b.id]);
  };

  return (
    <>
      <div className="grid grid-cols-2 border-b" style={{ borderColor: 'var(--ink)' }}>
        <Profile name="select" before={GROUND} after="M0 19H40V7H78V19H118" active={ui.tool === 'select'} onPick={() => ui.setTool('select')} />
        <Profile name="box" shortcut="R" before={GROUND} after="M0 19H34V5H84V19H118" active={ui.tool === 'box'} onPick={() => ui.setTool('box')} />
        <Profile name="ramp" shortcut="P" before={GROUND} after="M0 19H28L90 6V19H118" active={ui.tool === 'ramp'} onPick={() => ui.setTool('ramp')} />
        <div className="flex items-center justify-center gap-0 px-1">
          <div className="seg" role="group" aria-label="handles">
            {(['move', 'turn', 'size'] as HandleMode[]).map((m) => <button key={m} className="act" style={{ padding: '2px 7px' }} aria-pressed={ui.handle === m} title={{ move: 'M', turn: 'T', size: 'Y' }[m]} onClick={() => ui.set({ handle: m, tool: 'select' })}>{m}</button>)}
          </div>
        </div>
      </div>
      {/* One height whatever is selected: the rows below must not move under a double click. */}
      <div className="grid h-[226px] shrink-0 content-start gap-1.5 px-3 py-2">
        <div className="flex items-center justify-between gap-2"><span className="label" id="snap">grid snap</span>
          <div className="seg" role="group" aria-labelledby="snap">{SNAPS.map((s) => <button key={s} className="act fig" style={{ padding: '1px 7px', minHeight: 24 }} aria-pressed={ui.snap === s} onClick={() => ui.set({ snap: s })}>{s === 0 ? 'off' : s}</button>)}</div>
        </div>
        {selected.length === 0 ? <NewSize /> : <Fields session={session} blocks={selected} />}
      </div>
      <Table
        label="blocks" rows={shown} empty={search ? `no block's name holds "${search}"` : 'No blocks yet. Pick box, then drag a footprint on the ground and move up for the height.'}
        header={<><span className="label whitespace-nowrap">{selected.length > 1 ? `${selected.length} of ${blocks.length} selected` : `${blocks.length} blocks`}</span><input className="textf ml-auto h-[22px] w-28" placeholder="search" aria-label="search blocks" value={search} onChange={(e) => setSearch(e.target.value)} onKeyDown={(e) => e.stopPropagation()} /></>}
        row={(b) => (
          <Row selected={ui.selection.includes(b.id)} colour={b.out ? 'var(--ink-2)' : undefined} onClick={(e) => pick(b, e)}>
            <svg width="14" height="12" aria-hidden><path d={b.shape === 'box' ? 'M1 2H13V11H1z' : 'M1 11L13 2V11z'} fill="none" stroke="currentColor" strokeWidth="1.3" /></svg>
            <NameCell name={b.name} onRename={(name) => renameObject(session, b.id, name)}><span style={{ textDecoration: b.out ? 'line-through' : undefined }}>{b.name}</span></NameCell>
            <span className="label fig whitespace-nowrap">{b.size.map((s) => Number(s.toFixed(2))).join(' x ')}</span>
            <button className="icon-btn" aria-label={b.hidden ? `show ${b.name}` : `hide ${b.name} from view`} aria-pressed={b.hidden} onClick={(e) => { e.stopPropagation(); setBlocks(session, [b], () => ({ hidden: !b.hidden }), b.hidden ? 'show' : 'hide'); }}>{b.hidden ? <EyeOff size={14} /> : <Eye size={14} />}</button>
            <button className="icon-btn" aria-label={b.out ? `put ${b.name} back into the level` : `take ${b.name} out of the level`} aria-pressed={b.out} onClick={(e) => { e.stopPropagation(); setBlocks(session, [b], () => ({ out: !b.out }), b.out ? 'put back' : 'take out'); }}>{b.out ? <LogIn size={14} /> : <LogOut size={14} />}</button>
          </Row>
        )}
      />
    </>
  );
}

/** Size of a block set with one click. */
function NewSize() {
  const size = useUi((s) => s.blockSize);
  const set = (i: number, v: number) => {
    const next: [number, number, number] = [...size];
    next[i] = v;
    useUi.getState().set({ blockSize: next });
  };
  return (
    <>
      <div className="flex gap-2">
        {(['length', 'height', 'width'] as const).map((n, i) => <NumberField key={n} label={n} className="grid gap-0.5" value={size[i]} unit="m" min={MIN_BLOCK} max={4096} onCommit={(v) => set(i, v)} />)}
      </div>
      <p className="label m-0">A click sets a block of this size; a drag draws its footprint.</p>
    </>
  );
}

const same = (values: number[]): number | undefined => (values.every((v) => Math.abs(v - values[0]) < 1e-6) ? values[0] : undefined);
const range = (values: number[]): string => `${Number(Math.min(...values).toFixed(2))}-${Number(Math.max(...values).toFixed(2))}`;

/** Shared fields of the selected blocks; what differs reads as a range and can still be typed. */
function Fields({ session, blocks }: { session: Session; blocks: Block[] }) {
  const field = (label: string, get: (b: Block) => number, set: (b: Block, v: number) => Partial<Block>, unit: string, limits: { min?: number; max?: number; step?: number } = {}) => {
    const values = blocks.map(get);
    const one = same(values);
    return <NumberField key={label} label={label} className="grid gap-0.5" value={one ?? values[0]} mixed={one === undefined ? range(values) : undefined} unit={unit} digits={3} {...limits} onCommit={(v) => setBlocks(session, blocks, (b) => set(b, v), label)} />;
  };
  const side = (i: number) => [(b: Block) => b.size[i], (b: Block, v: number) => ({ size: b.size.map((s, k) => (k === i ? v : s)) as Block['size'] })] as const;
  const place = (i: number) => [(b: Block) => b.at[i], (b: Block, v: number) => ({ at: b.at.map((s, k) => (k === i ? v : s)) as Block['at'] })] as const;
  const sizes = { min: MIN_BLOCK, max: 4096 };
  return (
    <>
      <div className="flex items-center justify-between"><b className="truncate font-medium">{blocks.length === 1 ? blocks[0].name : `${blocks.length} selected, ${new Set(blocks.map((b) => b.shape)).size} kind${new Set(blocks.map((b) => b.shape)).size > 1 ? 's' : ''}`}</b></div>
      <div className="flex gap-2">{field('length', ...side(0), 'm', sizes)}{field('height', ...side(1), 'm', sizes)}{field('width', ...side(2), 'm', sizes)}</div>
      <div className="flex gap-2">{field('x', ...place(0), 'm')}{field('base', ...place(1), 'm')}{field('z', ...place(2), 'm')}</div>
      <div className="flex items-end gap-2">
        {field('turn', (b) => b.turn, (_b, v) => ({ turn: v }), '°', { min: -360, max: 360, step: 15 })}
        <button className="act" title="C" onClick={() => duplicateThings(session)}>duplicate</button>
        <button className="act" title="J: onto what is below" onClick={() => dropThings(session)}>drop</button>
        <button className="icon-btn mb-0.5" aria-label="delete the selection" title="Delete" onClick={() => removeThings(session)}><Trash2 size={15} /></button>
      </div>
    </>
  );
}
