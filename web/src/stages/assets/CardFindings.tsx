import { useState } from 'react';
import { mendText, type Mend } from '@rammer/core/level/mend';
import type { Session } from '../../store/session';
import { useComing } from '../../store/coming';
import { plan, withMend } from '../../tools/comingMeshes';
import { NumberField } from '../../ui/NumberField';
import type { MendedMesh } from '../../workers/asset.worker';

const small = { minHeight: 24, padding: '1px 7px' };

/** What looks wrong about a mesh, each with its mends; the mends made, each of which can be taken back; and those made by hand. */
export function CardFindings({ session, look }: { session: Session; look: MendedMesh }) {
  const mends = useComing((s) => (s.chosen === undefined ? [] : (s.plans[s.chosen]?.mends ?? NONE)));
  const [more, setMore] = useState(false);
  const add = (mend: Mend) => plan(session, (p) => ({ ...p, mends: withMend(p.mends, mend) }));
  const remove = (at: number) => plan(session, (p) => ({ ...p, mends: p.mends.filter((_, i) => i !== at) }));
  return (
    <div className="border-b" style={{ borderColor: 'var(--hair)' }}>
      <h3 className="m-0 px-3 pt-2 text-[13px] font-semibold">{look.findings.length === 0 ? 'Nothing looks wrong' : 'Looks wrong'}</h3>
      <ul className="m-0 list-none p-0" aria-label="what looks wrong">
        {look.findings.map((f) => (
          <li key={f.about} className="px-3 py-1.5" data-about={f.about}>
            <span style={{ color: 'var(--oxide)' }}>{f.says}</span>
            <span className="mt-1 flex flex-wrap gap-1">
              {f.mends.map((m, i) => (
                <button key={m.label} className={`act ${i === 0 ? 'main' : ''}`} style={small} onClick={() => add(m.mend)}>
                  {m.label}
                </button>
              ))}
            </span>
          </li>
        ))}
      </ul>
      {mends.length > 0 && (
        <>
          <h3 className="m-0 px-3 pt-1 text-[13px] font-semibold">Mends</h3>
          <ol className="m-0 list-none p-0 pb-1" aria-label="mends">
            {mends.map((m, i) => (
              <li key={i} className="flex items-center gap-2 px-3">
                <span className="fig w-4" style={{ color: 'var(--ink-2)' }}>
                  {i + 1}
                </span>
                <span className="min-w-0 flex-1 truncate">{mendText(m)}</span>
                <button className="act plain" style={small} aria-label={`take back: ${mendText(m)}`} onClick={() => remove(i)}>
                  take back
                </button>
              </li>
            ))}
          </ol>
        </>
      )}
      <button className="act plain mx-1.5 mb-1" style={small} aria-expanded={more} onClick={() => setMore(!more)}>
        {more ? 'fewer mends' : 'more mends'}
      </button>
      {more && <ByHand look={look} add={add} />}
    </div>
  );
}

const NONE: Mend[] = [];

/** Mends that nothing asks for: each with its figures. */
function ByHand({ look, add }: { look: MendedMesh; add(mend: Mend): void }) {
  const [factor, setFactor] = useState(1);
  const [turn, setTurn] = useState(90);
  const [shares, setShares] = useState(40);
  const [parts, setParts] = useState(8);
  const [trunk, setTrunk] = useState(0.2);
  const [to, setTo] = useState(2);
  const [slot, setSlot] = useState<[string, string]>(['', '']);
  const { card, asset } = look;
  const names = card.materials.map((m) => m.name);
  const button = (label: string, mend: Mend) => (
    <button key={label} className="act" style={small} onClick={() => add(mend)}>
      {label}
    </button>
  );
  const rows = 'flex flex-wrap items-end gap-1';
  return (
    <div className="grid gap-2 px-3 pb-2">
      <div className={rows}>
        <NumberField label="times" value={factor} min={0.000001} max={1000000} digits={4} onCommit={setFactor} />
        {button('size', { mend: 'unit', factor })}
        <NumberField label="degrees" value={turn} min={-360} max={360} step={15} digits={0} onCommit={setTurn} />
        {button('turn', { mend: 'turn', degrees: turn })}
      </div>
      <div className={rows}>
        <span className="label w-full">up in its file</span>
        {(['+z', '-z', '+x', '-x', '-y'] as const).map((up) => button(up, { mend: 'axis', up }))}
      </div>
      <div className={rows}>
        <span className="label w-full">pivot</span>
        {(['foot', 'centre', 'corner'] as const).map((at) => button(at, { mend: 'pivot', at }))}
      </div>
      <div className={rows}>
        <span className="label w-full">surface</span>
        {button('weld', { mend: 'weld', within: Math.min(1, Math.max(...card.size) * 1e-4) })}
        {[0, 40, 180].map((crease) => button(crease === 0 ? 'flat' : crease === 180 ? 'round' : 'sharp over 40°', { mend: 'normals', crease }))}
        {asset.materials && button('both sides', { mend: 'sides' })}
      </div>
      <div className={rows}>
        <NumberField label="first LOD, % of its triangles" value={shares} min={1} max={95} digits={0} step={5} onCommit={setShares} />
        {asset.materials && button('distant picture', { mend: 'distant', side: 96 })}
        {button('make LODs', { mend: 'lods', shares: [shares / 100, (shares / 100) * 0.38, (shares / 100) * 0.13].filter((s) => s >= 0.001) })}
      </div>
      <div className={rows}>
        <span className="label w-full">
          collider: {card.collider.kind}
          {card.collider.shapes > 0 ? `, ${card.collider.triangles} triangles` : ''}
        </span>
        {(['none', 'box', 'cylinder', 'capsule', 'hull', 'mesh'] as const).map((as) => button(as, { mend: 'collider', as, parts: 8 }))}
        <NumberField label="parts at most" value={parts} min={2} max={32} digits={0} step={1} onCommit={setParts} />
        {button('parts', { mend: 'collider', as: 'parts', parts })}
      </div>
      <div className={rows}>
        <NumberField label="trunk" value={trunk} unit="m" min={0} max={50} onCommit={setTrunk} />
        {button('set', { mend: 'trunk', radius: trunk })}
        {button('find', { mend: 'trunk' })}
        <NumberField label="materials" value={to} min={1} max={64} digits={0} step={1} onCommit={setTo} />
        {asset.materials && button('merge', { mend: 'materials', to })}
      </div>
      {card.textures.length > 0 && (
        <div className={rows}>
          <span className="label w-full">pictures, pixels a side at most</span>
          {[2048, 1024, 512, 256].map((most) => button(`${most}`, { mend: 'pictures', most }))}
        </div>
      )}
      {names.length > 1 && asset.materials && (
        <div className={rows}>
          <span className="label w-full">what wears one wears another</span>
          {([0, 1] as const).map((side) => (
            <select
              key={side}
              className="textf h-6 w-[104px] px-1"
              aria-label={side === 0 ? 'material to replace' : 'material instead'}
              value={slot[side] || names[side]}
              onChange={(e) => setSlot(side === 0 ? [e.target.value, slot[1]] : [slot[0], e.target.value])}
            >
              {names.map((n) => (
                <option key={n}>{n}</option>
              ))}
            </select>
          ))}
          {button('wear', { mend: 'slot', from: slot[0] || names[0], to: slot[1] || names[1] })}
        </div>
      )}
    </div>
  );
}
