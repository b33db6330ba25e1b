import { ArrowDown, ArrowDownToLine, ArrowUp, Copy, Eye, EyeOff, Focus, Lock, LockOpen, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { liftStack } from '@rammer/core/level/level';
import type { Lift } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import type { HeightFile } from '../../tools/heightFile';
import { addLift, copyLift, mergeLift, placeLift, removeLift, setLift } from '../../tools/lifts';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';
import { HeightFileButton } from './HeightFileButton';
import { LiftSwatch } from './LiftSwatch';
import { SurveyDialog } from './SurveyDialog';
import { useVolumes } from './useVolumes';

/** The stack as strata, top one wins: dragged to reorder, with what each cuts and fills by itself. */
export function LiftTable({ session }: { session: Session }) {
  const id = useUi((s) => s.lift);
  const solo = useUi((s) => s.solo);
  const { set, setTool } = useUi.getState();
  const volumes = useVolumes(session);
  const up = liftStack(session.level);
  const stack = [...up].reverse();
  const chosen = stack.find((l) => l.id === id);
  const place = chosen ? up.indexOf(chosen) : -1;
  const most = Math.max(1, ...[...volumes.values()].flatMap((v) => [v.cut, v.fill]));
  const dragged = useRef<Lift>(undefined);
  const [over, setOver] = useState<string>();
  const [heights, setHeights] = useState<HeightFile>();

  const drop = (on: Lift) => {
    const lift = dragged.current;
    dragged.current = undefined;
    setOver(undefined);
    if (lift && lift.id !== on.id) placeLift(session, lift, up.indexOf(on));
  };
  const noise = () => addLift(session, { lift: 'noise', seed: crypto.getRandomValues(new Uint32Array(1))[0] % 100_000, height: 1, scale: 30, octaves: 4 });

  return (
    <>
      <div className="flex items-center gap-1 border-t px-3 py-0.5" style={{ borderColor: 'var(--hair)' }} role="toolbar" aria-label="add a lift">
        <span className="label mr-auto">add</span>
        <HeightFileButton label="survey" of="file of heights" title="heights from a picture (PNG of 8 or 16 bits, RAW of 16, GeoTIFF) or a mesh of ground (OBJ, GLB)" className="fig" style={{ padding: '0 4px', minHeight: 22 }} onFile={setHeights} />
        <button className="act fig" style={{ padding: '0 4px', minHeight: 22 }} title="another noise lift" onClick={() => { if (noise()) setTool('select'); }}>noise</button>
        <button className="act fig" style={{ padding: '0 4px', minHeight: 22 }} title="another hand lift, to sculpt apart" onClick={() => addLift(session, { lift: 'hand' })}>hand</button>
        <button className="act fig" style={{ padding: '0 4px', minHeight: 22 }} title="rain and sliding over what lies below" onClick={() => { if (addLift(session, WEATHER)) setTool('select'); }}>weather</button>
      </div>
      {chosen && (
        <div className="flex items-center gap-0.5 border-t px-2" style={{ borderColor: 'var(--hair)' }} role="toolbar" aria-label="the chosen lift">
          <span className="label mr-auto truncate px-1">{chosen.name}</span>
          <button className="icon-btn" aria-label="raise in the stack" disabled={place >= up.length - 1} onClick={() => placeLift(session, chosen, place + 1)}><ArrowUp size={14} /></button>
          <button className="icon-btn" aria-label="lower in the stack" disabled={place < 1} onClick={() => placeLift(session, chosen, place - 1)}><ArrowDown size={14} /></button>
          <button className="icon-btn" aria-label="show it alone" aria-pressed={solo === chosen.id} title="show what it does alone" onClick={() => set({ solo: solo === chosen.id ? undefined : chosen.id })}><Focus size={14} /></button>
          <button className="icon-btn" aria-label="duplicate the lift" onClick={() => copyLift(session, chosen)}><Copy size={14} /></button>
          <button className="icon-btn" aria-label="merge down" title="make one hand lift of it and the one below" disabled={place < 1} onClick={() => mergeLift(session, chosen)}><ArrowDownToLine size={14} /></button>
          <button className="icon-btn" aria-label="delete the lift" onClick={() => removeLift(session, chosen)}><Trash2 size={14} /></button>
        </div>
      )}
      {heights && <SurveyDialog session={session} file={heights} onDone={() => setHeights(undefined)} />}
      <Table
        label="lifts" rows={stack} empty="no lifts: the ground is level at 0 m. Add noise, or a hand lift to sculpt."
        header={<><span className="label w-[112px]">lifts, top wins</span><span className="label">cut</span><span className="label ml-3">fill</span></>}
        row={(l) => {
          const v = volumes.get(l.id);
          return (
            <div draggable onDragStart={(e) => { dragged.current = l; e.dataTransfer.effectAllowed = 'move'; e.dataTransfer.setData('text/plain', l.name); }} onDragOver={(e) => { e.preventDefault(); setOver(l.id); }} onDragLeave={() => setOver(undefined)} onDragEnd={() => setOver(undefined)} onDrop={(e) => { e.preventDefault(); drop(l); }} style={{ boxShadow: over === l.id ? 'inset 0 2px 0 var(--ink)' : undefined }} role="presentation">
              <Row selected={l.id === id} colour={l.visible ? undefined : 'var(--ink-2)'} onClick={() => { set({ lift: l.id, water: undefined }); if (l.lift !== 'hand') setTool('select'); }}>
                <LiftSwatch lift={l} />
                <span className="flex w-[76px] min-w-0"><NameCell name={l.name} onRename={(name) => setLift(session, l, { name }, `rename to ${name}`)} /></span>
                <svg width="50" height="14" className="shrink-0" aria-hidden>
                  {v && <path d={`M25 3h${-(v.cut / most) * 23}v8h${(v.cut / most) * 23}z`} fill="var(--cut)" />}
                  {v && <path d={`M25 3h${(v.fill / most) * 23}v8h${-(v.fill / most) * 23}z`} fill="var(--fill)" />}
                  <path d="M25 0V14" stroke="var(--ink)" />
                </svg>
                <span className="fig ml-auto whitespace-nowrap" title={v ? `cut ${Math.round(v.cut)} m³, fill ${Math.round(v.fill)} m³` : 'being worked out'} style={{ borderBottom: v ? undefined : '1px dashed' }}>{v ? signed(v.fill - v.cut) : '…'}</span>
                <button className="icon-btn shrink-0" style={{ width: 18 }} aria-label={l.locked ? `unlock ${l.name}` : `lock ${l.name}`} aria-pressed={l.locked ?? false} onClick={(e) => { e.stopPropagation(); setLift(session, l, { locked: l.locked ? null : true }, l.locked ? `unlock ${l.name}` : `lock ${l.name}`); }}>{l.locked ? <Lock size={13} /> : <LockOpen size={13} style={{ opacity: 0.35 }} />}</button>
                <button className="icon-btn shrink-0" style={{ width: 18 }} aria-label={l.visible ? `hide ${l.name}` : `show ${l.name}`} aria-pressed={!l.visible} onClick={(e) => { e.stopPropagation(); setLift(session, l, { visible: !l.visible }, l.visible ? `hide ${l.name}` : `show ${l.name}`); }}>{l.visible ? <Eye size={14} /> : <EyeOff size={14} />}</button>
              </Row>
            </div>
          );
        }}
      />
    </>
  );
}

const WEATHER = { lift: 'weather', seed: 1, droplets: 60_000, strength: 1, radius: 1.5, talus: 36, rounds: 40 } as const;

/** Thin spaces between thousands, a true minus. */
const signed = (m3: number): string => `${m3 >= 0 ? '+' : '−'}${Math.round(Math.abs(m3)).toLocaleString('en').replace(/,/g, '\u202f')} m³`;
