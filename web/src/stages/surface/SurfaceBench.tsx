import { useMemo } from 'react';
import { TEXTURES, type Surface } from '@rammer/core/level/objects';
import { groundDefaults, surfacesOf } from '@rammer/core/surface/surfaces';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useUi } from '../../store/ui';
import { renameObject } from '../../tools/blockActions';
import { ColourField } from '../../ui/ColourField';
import { GroundBrushFields } from '../../ui/GroundBrushFields';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import { Row, Table } from '../../ui/Table';
import { swatch } from './swatch';

/** Surfaces, the slope rule, and the brushes that paint over it. */
export function SurfaceBench({ session }: { session: Session }) {
  useSession(session);
  const tool = useUi((s) => s.tool);
  const chosen = useUi((s) => s.surface);
  const { setTool, set } = useUi.getState();
  const { surfaces, rule, own } = surfacesOf(session.level);
  const surface = surfaces.find((s) => s.id === chosen) ?? surfaces[0];
  const shares = useMemo(() => sharesOf(session.made.ground.weights), [session.made.ground.weights, session.revision]); // eslint-disable-line react-hooks/exhaustive-deps
  const patch = (id: string, fields: Partial<Surface>, label: string) => session.commit({ kind: 'set', patches: [{ id, set: fields }] }, label);
  return (
    <>
      <div className="grid grid-cols-2 border-b" style={{ borderColor: 'var(--ink)' }}>
        <Profile name="paint" before="M0 15C30 15 40 15 59 15H118" after="M0 15H30L34 12L38 16L44 11L50 16L56 12L62 16L68 11L74 15L78 12L84 15H118" active={tool === 'paint'} onPick={() => setTool('paint')} />
        <Profile name="erase to rule" before="M0 15H30L34 12L38 16L44 11L50 16L56 12L62 16L68 11L74 15L78 12L84 15H118" after="M0 15H118" active={tool === 'unpaint'} onPick={() => setTool('unpaint')} />
      </div>
      <GroundBrushFields session={session} />
      {!own && (
        <p className="m-0 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>This level is from before surfaces: it shows turf and slate by slope.{' '}
          <button className="act" disabled={!session.writable} onClick={() => session.commit({ kind: 'add', objects: groundDefaults() }, 'add surfaces')}>add the four surfaces</button></p>
      )}
      {own && rule && (
        <div className="border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
          <RuleDrawing slope={rule.slope} soft={rule.soft} above={surfaces.find((s) => s.id === rule.above)} below={surfaces.find((s) => s.id === rule.below)} />
          <div className="mt-1 grid grid-cols-2 gap-x-3 gap-y-1">
            <Choice label="level" value={rule.below} surfaces={surfaces} onPick={(below) => session.commit({ kind: 'set', patches: [{ id: rule.id, set: { below } }] }, 'slope rule')} />
            <Choice label="steep" value={rule.above} surfaces={surfaces} onPick={(above) => session.commit({ kind: 'set', patches: [{ id: rule.id, set: { above } }] }, 'slope rule')} />
            <NumberField label="from" value={rule.slope} unit="°" min={1} max={89} step={1} digits={1} onCommit={(slope) => session.commit({ kind: 'set', patches: [{ id: rule.id, set: { slope } }] }, 'slope rule')} />
            <NumberField label="soft over" value={rule.soft} unit="°" min={0} max={40} step={1} digits={1} onCommit={(soft) => session.commit({ kind: 'set', patches: [{ id: rule.id, set: { soft } }] }, 'slope rule')} />
          </div>
        </div>
      )}
      {own && surface && (
        <div className="grid grid-cols-2 gap-x-3 gap-y-1 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
          <label className="flex items-center justify-between gap-2"><span className="label">texture</span>
            <select className="textf h-6 px-1" value={surface.texture} onChange={(e) => patch(surface.id, { texture: e.target.value as Surface['texture'] }, `texture of ${surface.name}`)}>{TEXTURES.map((t) => <option key={t}>{t}</option>)}</select>
          </label>
          <NumberField label="tile" value={surface.tile} unit="m" min={0.25} max={64} step={0.5} onCommit={(tile) => patch(surface.id, { tile }, `tile of ${surface.name}`)} />
          <ColourField label="tint" value={surface.tint} onCommit={(tint) => patch(surface.id, { tint }, `tint of ${surface.name}`)} />
        </div>
      )}
      <Table label="surfaces" rows={surfaces} empty=""
        header={<><span className="label">surfaces: click to paint with</span><span className="label ml-auto">of the ground</span></>}
        row={(s, i) => (
          <Row selected={s.id === surface?.id} onClick={() => { set({ surface: s.id }); if (own) setTool('paint'); }}>
            <img src={swatch(s.texture, s.tint)} width={30} height={16} alt="" style={{ height: 16, width: 30, objectFit: 'cover', border: '1px solid var(--ink)', imageRendering: 'auto' }} />
            {own ? <NameCell name={s.name} onRename={(name) => renameObject(session, s.id, name)} /> : <span>{s.name}</span>}
            <span className="label ml-auto">{s.tile} m</span>
            <span className="fig w-12 text-right">{(shares[i] * 100).toFixed(0)} %</span>
          </Row>
        )} />
    </>
  );
}

/** Share of the level each surface covers. */
function sharesOf(weights: Uint8Array): number[] {
  const sums = [0, 0, 0, 0];
  for (let i = 0; i < weights.length; i += 16) for (let k = 0; k < 4; k++) sums[k] += weights[i + k];
  const total = sums.reduce((a, b) => a + b, 0) || 1;
  return sums.map((s) => s / total);
}

function Choice({ label, value, surfaces, onPick }: { label: string; value: string; surfaces: Surface[]; onPick(id: string): void }) {
  return (
    <label className="flex items-center justify-between gap-2"><span className="label">{label}</span>
      <select className="textf h-6 min-w-0 px-1" value={value} onChange={(e) => onPick(e.target.value)}>{surfaces.map((s) => <option key={s.id} value={s.id}>{s.name}</option>)}</select>
    </label>
  );
}

/** The rule drawn as a slope that steepens: where the steep surface begins, and how softly. */
function RuleDrawing({ slope, soft, above, below }: { slope: number; soft: number; above?: Surface; below?: Surface }) {
  const x = (deg: number) => 8 + (deg / 90) * 232;
  const low = Math.max(0, slope - soft / 2);
  const high = Math.min(90, slope + soft / 2);
  return (
    <svg width="248" height="44" className="block" role="img" aria-label={`${above?.name ?? 'steep'} above ${slope} degrees, soft over ${soft} degrees`}>
      <defs><linearGradient id="rule-edge"><stop offset="0" stopColor="#fff" stopOpacity="0" /><stop offset="1" stopColor="#fff" /></linearGradient><mask id="rule-mask"><rect x={x(low)} width={Math.max(1, x(high) - x(low))} height="20" fill="url(#rule-edge)" /><rect x={x(high)} width={x(90) - x(high)} height="20" fill="#fff" /></mask></defs>
      {below && <image href={swatch(below.texture, below.tint)} x={8} y={0} width={232} height={20} preserveAspectRatio="xMidYMid slice" />}
      {above && <image href={swatch(above.texture, above.tint)} x={8} y={0} width={232} height={20} preserveAspectRatio="xMidYMid slice" mask="url(#rule-mask)" />}
      <rect x={8} y={0.5} width={232} height={19.5} fill="none" stroke="var(--ink)" />
      {[0, 15, 30, 45, 60, 75, 90].map((d) => <g key={d}><path d={`M${x(d)} 20v5`} stroke="var(--ink)" /><text x={x(d)} y={37} className="fig" fontSize="12" textAnchor="middle" fill="var(--ink-2)">{d}°</text></g>)}
      <path d={`M${x(slope)} 0V27`} stroke="var(--ink)" strokeWidth="2" />
    </svg>
  );
}
