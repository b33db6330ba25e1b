import { Eye, EyeOff, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { ofKind } from '@rammer/core/level/level';
import type { Piece } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useUi } from '../../store/ui';
import { renameObject } from '../../tools/blockActions';
import { swapBack } from '../../tools/castBlocks';
import { dropThings, duplicateThings, mm, removeThings, setThings } from '../../tools/things';
import { OutSign } from '../../ui/OutSign';
import { Library } from '../../ui/Library';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import { Row, Table } from '../../ui/Table';
import type { LevelView } from '../../view/LevelView';
import { HIDES } from '../../ui/hides';
import { useHint, useKeyLabel } from '../../store/keys';

/** The kit's library, the fields of what is placed or selected, and the pieces of the level. */
export function BuildBench({ session, view }: { session: Session; view?: LevelView }) {
  const hint = useHint();
  const key = useKeyLabel();
  useSession(session);
  const ui = useUi();
  const pieces = ofKind(session.level, 'piece');
  const [search, setSearch] = useState('');
  const shown = search ? pieces.filter((p) => p.name.toLowerCase().includes(search.toLowerCase())) : pieces;
  const selected = pieces.filter((p) => ui.selection.includes(p.id));
  const set = (fields: (p: Piece) => Partial<Piece>, verb: string) => setThings(session, selected, (t) => fields(t as Piece), verb);
  const one = <K extends keyof Piece>(key: K): { value: Piece[K]; mixed?: string } => ({ value: selected[0][key], ...(selected.every((p) => p[key] === selected[0][key]) ? {} : { mixed: 'mixed' }) });
  const pick = (p: Piece, e: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => {
    if (e.shiftKey && ui.selection.length > 0) {
      const a = shown.findIndex((x) => x.id === ui.selection[ui.selection.length - 1]);
      const z = shown.indexOf(p);
      ui.select([...new Set([...ui.selection, ...shown.slice(Math.max(0, Math.min(a, z)), Math.max(a, z) + 1).map((x) => x.id)])]);
    } else if (e.ctrlKey || e.metaKey) ui.select(ui.selection.includes(p.id) ? ui.selection.filter((i) => i !== p.id) : [...ui.selection, p.id]);
    else ui.select([p.id]);
  };
  return (
    <>
      <div className="grid grid-cols-2 border-b" style={{ borderColor: 'var(--ink)' }}>
        <Profile name="select" before="M0 19H118" after="M0 19H40V7H78V19H118" active={ui.tool === 'select'} onPick={() => ui.setTool('select')} />
        <Profile name="place" before="M0 19H30V6H62V19H118" after="M0 19H30V6H62V4H92V19H118" active={ui.tool === 'piece'} onPick={() => ui.setTool('piece')} />
      </div>
      <Library session={session} view={view} role="piece" chosen={ui.kitAsset} onPick={(a) => { ui.set({ kitAsset: a.hash }); ui.setTool('piece'); }} />
      <div className="grid h-[146px] shrink-0 content-start gap-1.5 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
        {selected.length === 0 || ui.tool === 'piece' ? (
          <>
            <div className="grid grid-cols-2 gap-x-3">
              <NumberField label="turn" value={ui.pieceTurn} unit="°" min={-180} max={180} step={90} digits={0} onCommit={(pieceTurn) => ui.set({ pieceTurn })} />
              <NumberField label="sink" value={ui.pieceSink} unit="m" min={-5} max={5} step={0.05} onCommit={(pieceSink) => ui.set({ pieceSink })} />
            </div>
            <p className="label m-0">Pieces join on a 2 m grid and stand on what is pointed at. {key('KeyQ')} and {key('KeyE')} turn, Shift leaves the grid.</p>
          </>
        ) : (
          <>
            <div className="grid grid-cols-2 gap-x-3 gap-y-1">
              <NumberField label="turn" {...one('turn')} unit="°" min={-360} max={360} step={90} digits={1} onCommit={(turn) => set(() => ({ turn }), 'turn')} />
              <NumberField label="sink" {...one('sink')} unit="m" min={-5} max={5} step={0.05} onCommit={(sink) => set((p) => ({ sink, at: [p.at[0], mm(p.at[1] + p.sink - sink), p.at[2]] }), 'sink')} />
              <NumberField label="height" value={selected[0].at[1]} mixed={selected.length > 1 ? 'mixed' : undefined} unit="m" step={0.1} onCommit={(y) => set((p) => ({ at: [p.at[0], mm(y), p.at[2]] }), 'raise')} />
              <label className="col-span-2 flex items-center justify-between gap-2"><span className="label">collider</span>
                <select className="textf h-6 px-1" value={one('collider').mixed ? '' : one('collider').value} onChange={(e) => set(() => ({ collider: e.target.value as Piece['collider'] }), 'collider of')}>
                  {one('collider').mixed && <option value="">mixed</option>}
                  <option value="asset">{`asset: ${session.made.assets.get(selected[0].asset)?.collider ?? '?'}`}</option><option>none</option><option>box</option><option>mesh</option>
                </select>
              </label>
            </div>
            <div className="flex gap-1.5"><button className="act" onClick={() => dropThings(session)} title={hint('onto what is below', 'KeyJ')}>drop</button><button className="act" onClick={() => duplicateThings(session)} title={hint('duplicate', 'KeyC')}>duplicate</button><button className="act" onClick={() => removeThings(session)} title={hint('delete the selection', 'Delete')}>delete</button>{selected.some((p) => p.standsFor) && <button className="act" title="put the blocks back that it stands for" onClick={() => swapBack(session, selected)}>swap back</button>}</div>
          </>
        )}
      </div>
      <Table label="pieces" rows={shown} empty={search ? `no piece's name holds "${search}"` : 'No pieces yet. Pick one in the library above, then click where it stands.'}
        header={<><span className="label whitespace-nowrap">{selected.length > 1 ? `${selected.length} of ${pieces.length} selected` : `${pieces.length} pieces`}</span><input className="textf ml-auto h-[22px] w-28" placeholder="search" aria-label="search pieces" value={search} onChange={(e) => setSearch(e.target.value)} onKeyDown={(e) => e.stopPropagation()} /></>}
        row={(p) => (
          <Row selected={ui.selection.includes(p.id)} colour={p.out ? 'var(--edge)' : undefined} onClick={(e) => pick(p, e)}>
            <NameCell name={p.name} onRename={(name) => renameObject(session, p.id, name)} />
            <button className="icon-btn ml-auto" title={HIDES} aria-label={p.hidden ? `show ${p.name}` : `hide ${p.name}`} aria-pressed={p.hidden} onClick={(e) => { e.stopPropagation(); setThings(session, [p], () => ({ hidden: !p.hidden }), p.hidden ? 'show' : 'hide'); }}>{p.hidden ? <EyeOff size={14} /> : <Eye size={14} />}</button>
            <button className="icon-btn" aria-label={p.out ? `put ${p.name} back` : `take ${p.name} out`} aria-pressed={p.out} onClick={(e) => { e.stopPropagation(); setThings(session, [p], () => ({ out: !p.out }), p.out ? 'put back' : 'take out'); }}><OutSign out={p.out} /></button>
            <button className="icon-btn" aria-label={`delete ${p.name}`} onClick={(e) => { e.stopPropagation(); session.commit({ kind: 'remove', ids: [p.id] }, `delete ${p.name}`); }}><Trash2 size={14} /></button>
          </Row>
        )} />
    </>
  );
}
