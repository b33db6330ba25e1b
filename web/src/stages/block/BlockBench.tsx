import { Eye, EyeOff, LogIn, LogOut, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ofKind } from '@rammer/core/level/level';
import { DEFAULT_STEPS, DEFAULT_WALL, MIN_BLOCK, SHAPES, type Block, type Shape } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { SNAPS, useUi, type HandleMode } from '../../store/ui';
import { renameObject, selectedBlocks, setBlocks } from '../../tools/blockActions';
import { dropThings, duplicateThings, mm, removeThings } from '../../tools/things';
import { Arrange } from './Arrange';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import { Row, Table } from '../../ui/Table';

const GROUND = 'M0 19H118';

/** What each shape leaves, as a section. */
const SECTIONS: Record<Shape, string> = {
  box: 'M0 19H36V5H82V19H118', ramp: 'M0 19H30L88 6V19H118', wedge: 'M0 19H32L59 5L86 19H118', stair: 'M0 19H34V15.5H46V12H58V8.5H70V5H84V19H118',
  cylinder: 'M0 19H42V6Q59 1 76 6V19H118', cone: 'M0 19H38L59 4L80 19H118', arch: 'M0 19H34V4H84V19H74V16Q74 9 59 9Q44 9 44 16V19H118', ring: 'M0 19H34V9H44V19H74V9H84V19H118',
};
const KEYS: Partial<Record<Shape, string>> = { box: 'R', ramp: 'P', stair: 'I' };
/** The same in a row of the table. */
const MARKS: Record<Shape, string> = {
  box: 'M1 2H13V11H1z', ramp: 'M1 11L13 2V11z', wedge: 'M1 11L7 2L13 11z', stair: 'M1 11V8H5V5H9V2H13V11z', cylinder: 'M2 3Q7 0 12 3V11H2z', cone: 'M2 11L7 1L12 11z', arch: 'M1 11V2H13V11H10V8Q7 4 4 8V11z', ring: 'M1 11V3H4V11zM10 11V3H13V11z',
};

export function BlockBench({ session }: { session: Session }) {
  useSession(session);
  const ui = useUi();
  const blocks = ofKind(session.level, 'block');
  const [search, setSearch] = useState('');
  const shown = search ? blocks.filter((b) => `${b.name} ${b.group ?? ''}`.toLowerCase().includes(search.toLowerCase())) : blocks;
  const selected = selectedBlocks(session);
  const [arranging, setArranging] = useState(false);

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
      <div className="grid grid-cols-3 border-b" style={{ borderColor: 'var(--ink)' }}>
        <Profile narrow name="select" before={GROUND} after="M0 19H40V7H78V19H118" active={ui.tool === 'select'} onPick={() => ui.setTool('select')} />
        {SHAPES.map((shape) => <Profile narrow key={shape} name={shape} shortcut={KEYS[shape]} before={GROUND} after={SECTIONS[shape]} active={ui.tool === shape} onPick={() => ui.setTool(shape)} />)}
      </div>
      <div className="flex items-center justify-between border-b px-3 py-1" style={{ borderColor: 'var(--hair)' }}>
        <div className="seg" role="group" aria-label="the next block">
          {(['solid', 'void'] as const).map((op) => <button key={op} className="act" style={{ padding: '2px 5px' }} aria-pressed={ui.blockOp === op} title={op === 'void' ? 'the next block cuts (O)' : 'the next block adds (O)'} onClick={() => ui.set({ blockOp: op })}>{op}</button>)}
        </div>
        <button className="act" style={{ padding: '2px 5px' }} aria-pressed={ui.tool === 'span'} title="span: measure between two points (U)" onClick={() => ui.setTool('span')}>span</button>
        <div className="seg" role="group" aria-label="handles">
          {(['move', 'turn', 'size'] as HandleMode[]).map((m) => <button key={m} className="act" style={{ padding: '2px 5px' }} aria-pressed={ui.handle === m} title={{ move: 'M', turn: 'T', size: 'Y' }[m]} onClick={() => ui.set({ handle: m, tool: 'select' })}>{m}</button>)}
        </div>
      </div>
      {/* One height whatever is selected: the rows below must not move under a double click. */}
      <div className="grid h-[266px] shrink-0 content-start gap-1.5 px-3 py-2">
        <div className="flex items-center justify-between gap-2"><span className="label" id="snap">grid snap</span>
          <div className="seg" role="group" aria-labelledby="snap">{SNAPS.map((s) => <button key={s} className="act fig" style={{ padding: '1px 7px', minHeight: 24 }} aria-pressed={ui.snap === s} onClick={() => ui.set({ snap: s })}>{s === 0 ? 'off' : s}</button>)}</div>
        </div>
        {selected.length === 0 ? <NewSize /> : arranging ? <Arrange session={session} blocks={selected} onDone={() => setArranging(false)} /> : <Fields session={session} blocks={selected} onArrange={() => setArranging(true)} />}
      </div>
      <Table
        label="blocks" rows={shown} empty={search ? `no block's name holds "${search}"` : 'No blocks yet. Pick box, then drag a footprint on the ground and move up for the height.'}
        header={<><span className="label whitespace-nowrap">{selected.length > 1 ? `${selected.length} of ${blocks.length} selected` : `${blocks.length} blocks`}</span><input className="textf ml-auto h-[22px] w-28" placeholder="search" aria-label="search blocks" value={search} onChange={(e) => setSearch(e.target.value)} onKeyDown={(e) => e.stopPropagation()} /></>}
        row={(b) => (
          <Row selected={ui.selection.includes(b.id)} colour={b.out ? 'var(--ink-2)' : undefined} onClick={(e) => pick(b, e)}>
            <svg width="14" height="12" role="img" aria-label={b.op === 'void' ? `${b.shape}, void` : b.shape}><path d={MARKS[b.shape]} fill="none" stroke="currentColor" strokeWidth="1.3" strokeDasharray={b.op === 'void' ? '2 1.5' : undefined} /></svg>
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
  const op = useUi((s) => s.blockOp);
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
      <p className="label m-0">A click sets a block of this size; a drag draws its footprint.{op === 'void' ? ' On a wall a click cuts straight through it: low down a door, higher up a window.' : ''}</p>
    </>
  );
}

const same = (values: number[]): number | undefined => (values.every((v) => Math.abs(v - values[0]) < 1e-6) ? values[0] : undefined);
const range = (values: number[]): string => `${Number(Math.min(...values).toFixed(2))}-${Number(Math.max(...values).toFixed(2))}`;

const stepsOf = (b: Block): number => b.steps ?? DEFAULT_STEPS;
const stepsFor = (v: number): number => Math.min(500, Math.max(1, Math.round(v)));
const riserOf = (b: Block): number => b.size[1] / stepsOf(b);
const goingOf = (b: Block): number => b.size[0] / stepsOf(b);

/** The name of the group the selected blocks belong to; empty takes them out of it. */
function GroupField({ session, blocks }: { session: Session; blocks: Block[] }) {
  const groups = new Set(blocks.map((b) => b.group ?? ''));
  const value = groups.size === 1 ? [...groups][0] : '';
  const [draft, setDraft] = useState<string>();
  const finish = () => {
    if (draft !== undefined && draft.trim() !== value) setBlocks(session, blocks, () => ({ group: draft.trim() || null }), 'group');
    setDraft(undefined);
  };
  return (
    <label className="grid min-w-0 flex-1 gap-0.5"><span className="label">group</span>
      <input className="textf h-[24px] w-full" maxLength={120} placeholder={groups.size > 1 ? 'several' : 'none'} value={draft ?? value} onChange={(e) => setDraft(e.target.value)} onBlur={finish}
        onKeyDown={(e) => { e.stopPropagation(); if (e.key === 'Enter') e.currentTarget.blur(); if (e.key === 'Escape') { setDraft(undefined); } }} />
    </label>
  );
}

/** Shared fields of the selected blocks; what differs reads as a range and can still be typed. */
function Fields({ session, blocks, onArrange }: { session: Session; blocks: Block[]; onArrange(): void }) {
  const field = (label: string, get: (b: Block) => number, set: (b: Block, v: number) => Partial<Block>, unit: string, limits: { min?: number; max?: number; step?: number } = {}) => {
    const values = blocks.map(get);
    const one = same(values);
    return <NumberField key={label} label={label} className="grid gap-0.5" value={one ?? values[0]} mixed={one === undefined ? range(values) : undefined} unit={unit} digits={3} {...limits} onCommit={(v) => setBlocks(session, blocks, (b) => set(b, v), label)} />;
  };
  const side = (i: number) => [(b: Block) => b.size[i], (b: Block, v: number) => ({ size: b.size.map((s, k) => (k === i ? v : s)) as Block['size'] })] as const;
  const place = (i: number) => [(b: Block) => b.at[i], (b: Block, v: number) => ({ at: b.at.map((s, k) => (k === i ? v : s)) as Block['at'] })] as const;
  const sizes = { min: MIN_BLOCK, max: 4096 };
  const kinds = new Set(blocks.map((b) => b.shape)).size;
  const stairs = blocks.every((b) => b.shape === 'stair');
  const walled = blocks.every((b) => b.shape === 'arch' || b.shape === 'ring');
  return (
    <>
      <div className="flex items-center justify-between gap-2"><b className="truncate font-medium">{blocks.length === 1 ? blocks[0].name : `${blocks.length} selected, ${kinds} kind${kinds > 1 ? 's' : ''}`}</b>
        <button className="act" style={{ padding: '1px 7px', minHeight: 24 }} title="arrays, mirror, align, names" onClick={onArrange}>arrange</button>
      </div>
      <div className="flex gap-2">{field('length', ...side(0), 'm', sizes)}{field('height', ...side(1), 'm', sizes)}{field('width', ...side(2), 'm', sizes)}</div>
      <div className="flex gap-2">{field('x', ...place(0), 'm')}{field('base', ...place(1), 'm')}{field('z', ...place(2), 'm')}</div>
      <div className="flex items-end gap-2">
        {field('turn', (b) => b.turn, (_b, v) => ({ turn: v }), '°', { min: -360, max: 360, step: 15 })}
        <button className="act" title="C" onClick={() => duplicateThings(session)}>duplicate</button>
        <button className="act" title="J: onto what is below" onClick={() => dropThings(session)}>drop</button>
        <button className="icon-btn mb-0.5" aria-label="delete the selection" title="Delete" onClick={() => removeThings(session)}><Trash2 size={15} /></button>
      </div>
      <div className="flex items-end gap-2">
        {stairs && <>
          {field('riser', riserOf, (b, v) => ({ steps: stepsFor(b.size[1] / v) }), 'm', { min: 0.02, max: 4 })}
          {field('going', goingOf, (b, v) => ({ size: [mm(v * stepsOf(b)), b.size[1], b.size[2]] }), 'm', { min: 0.02, max: 10 })}
          {field('steps', stepsOf, (_b, v) => ({ steps: stepsFor(v) }), '', { min: 1, max: 500, step: 1 })}
        </>}
        {walled && field('wall', (b) => b.wall ?? DEFAULT_WALL, (_b, v) => ({ wall: v }), 'm', { min: 0.02, max: 1000 })}
        {!stairs && <GroupField session={session} blocks={blocks} />}
        {blocks.every((b) => b.op === 'void') && (
          <label className="grid gap-0.5"><span className="label">cuts</span>
            <select className="textf h-6 px-1" aria-label="what it cuts" value={blocks[0].cuts ?? 'all'} onChange={(e) => setBlocks(session, blocks, () => ({ cuts: e.target.value === 'group' ? 'group' : null }), 'what it cuts:')}>
              <option value="all">all it meets</option><option value="group">its group</option>
            </select>
          </label>
        )}
        <div className="seg" role="group" aria-label="adds or cuts">
          {(['solid', 'void'] as const).map((op) => <button key={op} className="act" style={{ padding: '1px 7px', minHeight: 24 }} aria-pressed={blocks.every((b) => (b.op ?? 'solid') === op)} onClick={() => setBlocks(session, blocks, () => ({ op: op === 'void' ? op : null }), `make ${op}`)}>{op}</button>)}
        </div>
      </div>
    </>
  );
}
