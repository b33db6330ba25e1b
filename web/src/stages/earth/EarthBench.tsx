import { Dices, Eye, EyeOff } from 'lucide-react';
import { useEffect, useState } from 'react';
import { BRUSHES, type BrushKind } from '@rammer/core/earth/brush';
import { cutAndFill, type CutAndFill } from '@rammer/core/earth/volume';
import { liftStack, playerBody } from '@rammer/core/level/level';
import type { NoiseLift } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useUi } from '../../store/ui';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import { Row, Table } from '../../ui/Table';
import { BrushDrawing } from '../../ui/BrushDrawing';

const SECTIONS: Record<BrushKind, { before: string; after: string }> = {
  raise: { before: 'M0 19H118', after: 'M0 19H28C42 19 46 5 59 5S76 19 90 19H118' },
  lower: { before: 'M0 10H118', after: 'M0 10H28C42 10 46 21 59 21S76 10 90 10H118' },
  level: { before: 'M0 18C20 18 28 6 46 8S80 21 92 14S110 12 118 12', after: 'M0 18C8 18 16 13 24 13H96L118 12' },
  smooth: { before: 'M0 16L14 9L24 19L36 8L48 19L60 8L72 18L84 9L98 17L118 11', after: 'M0 16C20 13 30 14 48 13S90 14 118 12' },
};
const NAMES: Record<BrushKind, string> = { raise: 'raise', lower: 'lower', level: 'level to', smooth: 'smooth' };

/** Brushes, the brush drawing and the lifts as strata, top one wins. */
export function EarthBench({ session }: { session: Session }) {
  useSession(session);
  const tool = useUi((s) => s.tool);
  const brush = useUi((s) => s.brush);
  const { setTool, setBrush } = useUi.getState();
  const stack = [...liftStack(session.level)].reverse();
  const [chosen, choose] = useState<string>();
  const lift = stack.find((l) => l.id === chosen) ?? stack.find((l) => l.lift === 'noise');
  const volumes = useVolumes(session);
  const most = Math.max(1, ...[...volumes.values()].flatMap((v) => [v.cut, v.fill]));

  return (
    <>
      <div className="grid grid-cols-2 border-b" style={{ borderColor: 'var(--ink)' }}>
        {BRUSHES.map((b) => <Profile key={b} name={NAMES[b]} {...SECTIONS[b]} active={tool === b} onPick={() => setTool(b)} />)}
      </div>
      <BrushDrawing brush={brush} body={playerBody(session.level).figures} onChange={setBrush} />
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 pb-2">
        <NumberField label="radius" value={brush.radius} unit="m" min={0.5} max={200} step={0.5} onCommit={(radius) => setBrush({ radius })} />
        <NumberField label="strength" value={brush.strength} unit="m" min={0.005} max={5} step={0.01} digits={3} onCommit={(strength) => setBrush({ strength })} />
        <NumberField label="hardness" value={brush.hardness * 100} unit="%" min={0} max={95} step={5} digits={0} onCommit={(v) => setBrush({ hardness: v / 100 })} />
        <NumberField label="level to" value={brush.levelTo} unit="m" min={-2000} max={3000} step={0.25} onCommit={(levelTo) => setBrush({ levelTo })} />
      </div>
      {lift?.lift === 'noise' && <NoiseFields session={session} lift={lift} />}
      <Table
        label="lifts" rows={stack} empty=""
        header={<><span className="label w-[132px]">lifts, top wins</span><span className="label">cut</span><span className="label ml-3">fill</span></>}
        row={(l) => {
          const v = volumes.get(l.id);
          return (
            <Row selected={l.id === lift?.id} onClick={() => choose(l.id)}>
              <svg width="16" height="14" aria-hidden><rect x="0.5" y="0.5" width="15" height="13" fill={l.lift === 'hand' ? 'var(--ink)' : 'var(--raised)'} stroke="var(--ink)" />{l.lift === 'noise' && <path d="M1 9C4 4 6 12 9 7S13 5 15 8" fill="none" stroke="var(--ink)" />}</svg>
              <span className="w-[92px] truncate" title={l.name}>{l.name}</span>
              <svg width="58" height="14" aria-hidden>
                {v && <path d={`M29 3h${-(v.cut / most) * 27}v8h${(v.cut / most) * 27}z`} fill="var(--cut)" />}
                {v && <path d={`M29 3h${(v.fill / most) * 27}v8h${-(v.fill / most) * 27}z`} fill="var(--fill)" />}
                <path d="M29 0V14" stroke="var(--ink)" />
              </svg>
              <span className="fig ml-auto whitespace-nowrap" title={v ? `cut ${Math.round(v.cut)} m³, fill ${Math.round(v.fill)} m³` : 'being worked out'} style={{ borderBottom: v ? undefined : '1px dashed' }}>{v ? `${v.fill - v.cut >= 0 ? '+' : '−'}${Math.round(Math.abs(v.fill - v.cut)).toLocaleString('en').replace(/,/g, '\u202f')} m³` : '…'}</span>
              <button className="icon-btn" aria-label={l.visible ? `hide ${l.name}` : `show ${l.name}`} aria-pressed={!l.visible} onClick={(e) => { e.stopPropagation(); session.commit({ kind: 'set', patches: [{ id: l.id, set: { visible: !l.visible } }] }, l.visible ? `hide ${l.name}` : `show ${l.name}`); }}>{l.visible ? <Eye size={14} /> : <EyeOff size={14} />}</button>
            </Row>
          );
        }}
      />
      <p className="label m-0 border-t px-3 py-1.5" style={{ borderColor: 'var(--hair)' }}>A new seed keeps hand work: raised ground stays raised by as much, levelled ground stays at its height.</p>
    </>
  );
}

function NoiseFields({ session, lift }: { session: Session; lift: NoiseLift }) {
  const set = (fields: Partial<NoiseLift>, label: string) => session.commit({ kind: 'set', patches: [{ id: lift.id, set: fields }] }, label);
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
      <div className="flex items-center justify-between gap-1">
        <NumberField label="seed" className="flex flex-1 items-center justify-between gap-2" value={lift.seed} min={0} max={2_147_483_647} step={1} digits={0} onCommit={(v) => set({ seed: Math.round(v) }, 'new seed')} />
        <button className="icon-btn" aria-label="another seed" onClick={() => set({ seed: crypto.getRandomValues(new Uint32Array(1))[0] % 100_000 }, 'new seed')}><Dices size={15} /></button>
      </div>
      <NumberField label="height" value={lift.height} unit="m" min={0} max={500} step={0.5} onCommit={(height) => set({ height }, 'noise height')} />
      <NumberField label="scale" value={lift.scale} unit="m" min={2} max={5000} step={5} onCommit={(scale) => set({ scale }, 'noise scale')} />
      <NumberField label="octaves" value={lift.octaves} min={1} max={8} step={1} digits={0} onCommit={(v) => set({ octaves: Math.round(v) }, 'noise octaves')} />
    </div>
  );
}

/** Cut and fill of each lift, worked out once the level has been still for a moment. */
function useVolumes(session: Session): ReadonlyMap<string, CutAndFill> {
  const [ticket, setTicket] = useState(0);
  const [made, setMade] = useState<{ ticket: number; volumes: ReadonlyMap<string, CutAndFill> }>();
  useEffect(() => session.subscribe((c) => { if (c.rect || c.objects) setTicket((n) => n + 1); }), [session]);
  useEffect(() => {
    const timer = setTimeout(() => {
      setMade({ ticket, volumes: new Map(liftStack(session.level).map((l) => [l.id, cutAndFill(session.level, session.terrain, l.id)])) });
    }, 400);
    return () => clearTimeout(timer);
  }, [ticket, session]);
  return made?.ticket === ticket ? made.volumes : NO_VOLUMES;
}

const NO_VOLUMES: ReadonlyMap<string, CutAndFill> = new Map();
