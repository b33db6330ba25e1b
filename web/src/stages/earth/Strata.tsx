import { ArrowDown, ArrowDownToLine, ArrowUp, ChevronDown, ChevronRight, Copy, Eye, EyeOff, Focus, Lock, LockOpen, Trash2 } from 'lucide-react';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { CutAndFill } from '@rammer/core/earth/volume';
import { liftStack } from '@rammer/core/level/level';
import type { Lift } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useEarth } from '../../store/earthDraft';
import { useUi } from '../../store/ui';
import { copyLift, mergeLift, placeLift, removeLift, setLift } from '../../tools/lifts';
import { NameCell } from '../../ui/NameCell';
import { StratumPattern } from './StratumPattern';
import { useVolumes } from '../../store/useVolumes';

interface Props {
  session: Session;
  /** the lift that is open, if any */
  open: string | undefined;
  /** what the open one holds: what works on it */
  inside(lift: Lift): ReactNode;
}

/** The lifts as one column, top one wins: each with its pattern and with what it cuts and fills by itself; the chosen one opens in place. */
export function Strata({ session, open, inside }: Props) {
  const volumes = useVolumes(session);
  const up = liftStack(session.level);
  const stack = [...up].reverse();
  const most = Math.max(1, ...[...volumes.values()].flatMap((v) => [v.cut, v.fill]));
  const dragged = useRef<Lift>(undefined);
  const [over, setOver] = useState<string>();
  const opened = useRef<HTMLLIElement>(null);
  useEffect(() => {
    opened.current?.scrollIntoView({ block: 'nearest' });
  }, [open]);

  const drop = (on: Lift) => {
    const lift = dragged.current;
    dragged.current = undefined;
    setOver(undefined);
    if (lift && lift.id !== on.id) placeLift(session, lift, up.indexOf(on));
  };
  return (
    <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={-1}>
      {stack.length === 0 && <p className="label m-0 px-3 py-2">no lifts: the ground is level at 0 m. Add noise, or a hand lift to sculpt.</p>}
      {stack.length > 0 && (
        <ul aria-label="lifts" className="m-0 list-none p-0">
          {stack.map((l, i) => (
            <li
              key={l.id}
              ref={l.id === open ? opened : undefined}
              className="relative border-b pl-4"
              style={{ borderColor: 'var(--hair)', boxShadow: over === l.id ? 'inset 0 2px 0 var(--ink)' : undefined }}
              draggable={l.id !== open}
              onDragStart={(e) => {
                dragged.current = l;
                e.dataTransfer.effectAllowed = 'move';
                e.dataTransfer.setData('text/plain', l.name);
              }}
              onDragOver={(e) => {
                e.preventDefault();
                setOver(l.id);
              }}
              onDragLeave={() => setOver(undefined)}
              onDragEnd={() => setOver(undefined)}
              onDrop={(e) => {
                e.preventDefault();
                drop(l);
              }}
            >
              <StratumPattern kind={l.lift} hidden={!l.visible} className="absolute left-0 top-0 h-full w-4 border-r" />
              <Stratum session={session} lift={l} open={l.id === open} most={most} volume={volumes.get(l.id)} />
              {l.id === open && (
                <section aria-label={`the lift ${l.name}`} className="border-t" style={{ borderColor: 'var(--hair)' }}>
                  <LiftActs session={session} lift={l} place={stack.length - 1 - i} count={stack.length} />
                  {inside(l)}
                </section>
              )}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Stratum({ session, lift: l, open, most, volume: v }: { session: Session; lift: Lift; open: boolean; most: number; volume: CutAndFill | undefined }) {
  const { setTool } = useUi.getState();
  const choose = () => {
    useEarth.setState({ lift: l.id, water: undefined });
    if (l.lift !== 'hand') setTool('select');
  };
  const close = () => {
    useEarth.setState({ lift: undefined });
    setTool('select');
  };
  return (
    // The button opens it for the keyboard; the row is the larger target of the same for the hand.
    <div
      className="sheet-row cursor-pointer"
      data-open={open}
      style={{ color: l.visible ? undefined : 'var(--ink-2)', border: 0, padding: '0 8px 0 2px', background: open ? 'var(--chosen)' : undefined }}
      onClick={choose}
    >
      <button
        className="icon-btn shrink-0"
        style={{ width: 16 }}
        aria-expanded={open}
        aria-label={open ? `close ${l.name}` : `open ${l.name}`}
        onClick={(e) => {
          e.stopPropagation();
          (open ? close : choose)();
        }}
      >
        {open ? <ChevronDown size={14} /> : <ChevronRight size={14} />}
      </button>
      <span className="flex w-[72px] min-w-0">
        <NameCell name={l.name} onRename={(name) => setLift(session, l, { name }, `rename to ${name}`)} />
      </span>
      <svg width="50" height="14" className="shrink-0" aria-hidden>
        {v && <path d={`M25 3h${-(v.cut / most) * 23}v8h${(v.cut / most) * 23}z`} fill="var(--cut)" />}
        {v && <path d={`M25 3h${(v.fill / most) * 23}v8h${-(v.fill / most) * 23}z`} fill="var(--fill)" />}
        <path d="M25 0V14" stroke="var(--ink)" />
      </svg>
      <span
        className="fig ml-auto whitespace-nowrap"
        title={v ? `cut ${Math.round(v.cut)} m³, fill ${Math.round(v.fill)} m³` : 'being worked out'}
        style={{ borderBottom: v ? undefined : '1px dashed' }}
      >
        {v ? signed(v.fill - v.cut) : '…'}
      </span>
      <button
        className="icon-btn shrink-0"
        style={{ width: 18 }}
        aria-label={l.locked ? `unlock ${l.name}` : `lock ${l.name}`}
        aria-pressed={l.locked ?? false}
        onClick={(e) => {
          e.stopPropagation();
          setLift(session, l, { locked: l.locked ? null : true }, l.locked ? `unlock ${l.name}` : `lock ${l.name}`);
        }}
      >
        {l.locked ? <Lock size={13} /> : <LockOpen size={13} style={{ opacity: 0.35 }} />}
      </button>
      <button
        className="icon-btn shrink-0"
        style={{ width: 18 }}
        aria-label={l.visible ? `hide ${l.name}` : `show ${l.name}`}
        aria-pressed={!l.visible}
        onClick={(e) => {
          e.stopPropagation();
          setLift(session, l, { visible: !l.visible }, l.visible ? `hide ${l.name}` : `show ${l.name}`);
        }}
      >
        {l.visible ? <Eye size={14} /> : <EyeOff size={14} />}
      </button>
    </div>
  );
}

function LiftActs({ session, lift, place, count }: { session: Session; lift: Lift; place: number; count: number }) {
  const solo = useEarth((s) => s.solo);

  return (
    <div className="flex items-center gap-0.5 px-2" role="toolbar" aria-label="the chosen lift">
      <span className="label mr-auto truncate px-1">{KIND[lift.lift]}</span>
      <button className="icon-btn" aria-label="up in the stack" disabled={place >= count - 1} onClick={() => placeLift(session, lift, place + 1)}>
        <ArrowUp size={14} />
      </button>
      <button className="icon-btn" aria-label="down in the stack" disabled={place < 1} onClick={() => placeLift(session, lift, place - 1)}>
        <ArrowDown size={14} />
      </button>
      <button
        className="icon-btn"
        aria-label="show it alone"
        aria-pressed={solo === lift.id}
        title="show what it does alone"
        onClick={() => useEarth.setState({ solo: solo === lift.id ? undefined : lift.id })}
      >
        <Focus size={14} />
      </button>
      <button className="icon-btn" aria-label="duplicate the lift" title="duplicate" onClick={() => copyLift(session, lift)}>
        <Copy size={14} />
      </button>
      <button
        className="icon-btn"
        aria-label="merge down"
        title="make one hand lift of it and the one below"
        disabled={place < 1}
        onClick={() => mergeLift(session, lift)}
      >
        <ArrowDownToLine size={14} />
      </button>
      <button className="icon-btn" aria-label="delete the lift" title="delete" onClick={() => removeLift(session, lift)}>
        <Trash2 size={14} />
      </button>
    </div>
  );
}

const KIND: Record<Lift['lift'], string> = {
  noise: 'noise',
  landform: 'landform',
  survey: 'survey',
  weather: 'weather',
  hand: 'sculpted by hand',
  route: 'route',
  pad: 'pad',
};

/** Thin spaces between thousands, a true minus. */
const signed = (m3: number): string => `${m3 >= 0 ? '+' : '−'}${Math.round(Math.abs(m3)).toLocaleString('en').replace(/,/g, '\u202f')} m³`;
