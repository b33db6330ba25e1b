import { Trash2 } from 'lucide-react';
import { ofKind, settingsOf } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useUi } from '../../store/ui';
import { newId, nextName } from '../../tools/names';
import { renameObject } from '../../tools/blockActions';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Row, Table } from '../../ui/Table';

const POINTS = ['N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'];

/** One sun, the work light and the saved viewpoints. */
export function LightBench({ session, pose, onPose }: { session: Session; pose(): Pose | undefined; onPose(pose: Pose): void }) {
  useSession(session);
  const { sun } = settingsOf(session.level);
  const workLight = useUi((s) => s.workLight);
  const viewpoints = ofKind(session.level, 'viewpoint');
  const set = (patch: Partial<typeof sun>) => session.commit({ kind: 'set', patches: [{ id: 'settings', set: { sun: { ...sun, ...patch } } }] }, 'sun');
  const a = (sun.azimuth * Math.PI) / 180;
  const r = 44 * (1 - sun.elevation / 90);
  return (
    <>
      <div className="flex gap-4 px-3 py-3">
        <svg width="112" height="112" viewBox="-56 -56 112 112" role="img" aria-label={`sun in the ${POINTS[Math.round(sun.azimuth / 45) % 8]}, ${sun.elevation} degrees high`} style={{ touchAction: 'none', cursor: 'crosshair' }}
          onPointerDown={(e) => {
            const box = e.currentTarget.getBoundingClientRect();
            const x = e.clientX - box.left - 56;
            const y = e.clientY - box.top - 56;
            set({ azimuth: Math.round(((Math.atan2(x, -y) * 180) / Math.PI + 360) % 360), elevation: Math.round(Math.min(90, Math.max(2, 90 * (1 - Math.hypot(x, y) / 44)))) });
          }}>
          <circle r="44" fill="var(--field)" stroke="var(--ink)" /><circle r="29.3" fill="none" stroke="var(--hair)" /><circle r="14.7" fill="none" stroke="var(--hair)" />
          <path d="M0 -44V44M-44 0H44" stroke="var(--hair)" /><text fill="var(--ink)" y={-46} textAnchor="middle" className="fig" fontSize="12">N</text>
          <circle cx={Math.sin(a) * r} cy={-Math.cos(a) * r} r="7" fill="#e9b44c" stroke="var(--ink)" strokeWidth="1.5" />
        </svg>
        <div className="grid flex-1 content-start gap-1.5">
          <NumberField label="sun from" value={sun.azimuth} unit="°" min={0} max={360} step={5} digits={0} onCommit={(azimuth) => set({ azimuth })} />
          <NumberField label="height" value={sun.elevation} unit="°" min={2} max={90} step={1} digits={0} onCommit={(elevation) => set({ elevation })} />
          <button className="act" aria-pressed={workLight} onClick={() => useUi.getState().set({ workLight: !workLight })}>work light (L)</button>
        </div>
      </div>
      <div className="px-3 pb-2"><button className="act" onClick={() => {
        const p = pose();
        if (p) session.commit({ kind: 'add', objects: [{ id: newId('view'), version: 1, kind: 'viewpoint', name: nextName(session.level, 'viewpoint'), pose: p }] }, 'save viewpoint');
      }}>save this viewpoint</button></div>
      <Table label="viewpoints" rows={viewpoints} empty="No viewpoints yet. Look at something worth coming back to, then save it."
        header={<span className="label">viewpoints</span>}
        row={(v) => (
          <Row title="click to look from there" onClick={() => onPose(v.pose)}>
            <NameCell name={v.name} onRename={(name) => renameObject(session, v.id, name)} /><span className="label">{v.pose.view}</span>
            <button className="icon-btn" aria-label={`delete ${v.name}`} onClick={(e) => { e.stopPropagation(); session.commit({ kind: 'remove', ids: [v.id] }, `delete ${v.name}`); }}><Trash2 size={14} /></button>
          </Row>
        )} />
    </>
  );
}
