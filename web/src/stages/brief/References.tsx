import { Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { ofKind } from '@rammer/core/level/level';
import type { Pose, Reference } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { addReference } from '../../store/pictures';
import type { Session } from '../../store/session';
import { renameObject } from '../../tools/blockActions';
import { mm } from '../../tools/things';
import { BoardFields } from './BoardFields';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import type { LevelView } from '../../view/LevelView';
import { FitDialog } from './FitDialog';

const small = { padding: '1px 7px', minHeight: 24 };

/** Reference pictures: over the view at a viewpoint, beside it, or as a board of real height in the level. */
export function References({ session, view, onPose }: { session: Session; view?: LevelView; onPose(pose: Pose): void }) {
  const list = ofKind(session.level, 'reference');
  const viewpoints = ofKind(session.level, 'viewpoint');
  const file = useRef<HTMLInputElement>(null);
  const [fitting, setFitting] = useState<string>();
  const [busy, setBusy] = useState(false);
  const set = (r: Reference, fields: Record<string, unknown>, verb: string) =>
    session.commit({ kind: 'set', patches: [{ id: r.id, set: fields }] }, `${verb} ${r.name}`);
  const add = (picked: File) => {
    setBusy(true);
    addReference(session, picked)
      .catch((e: Error) => session.say(`${picked.name} was not added: ${e.message}`, true))
      .finally(() => setBusy(false));
  };
  /** In the middle of the view, facing the eye. */
  const stand = (r: Reference) => {
    const at = view?.pick(view.width / 2, view.height / 2)?.point;
    if (!view || !at) session.say('look at the place where the board is to stand', true);
    else set(r, { mode: 'board', at: at.map(mm) as Vec3, turn: view.pose.view === 'plan' ? 0 : mm(((540 - view.pose.yaw) % 360) - 180) }, 'stand');
  };
  const open = list.find((r) => r.id === fitting);
  return (
    <section aria-label="references">
      <div className="flex h-7 items-center border-y px-3" style={{ borderColor: 'var(--ink)' }}>
        <span className="label">references</span>
        <button className="ml-auto underline" disabled={busy} onClick={() => file.current?.click()}>
          {busy ? 'loading' : 'add a picture'}
        </button>
        <input
          ref={file}
          type="file"
          accept="image/*"
          className="hidden"
          aria-label="reference picture"
          onChange={(e) => {
            const f = e.target.files?.[0];
            e.target.value = '';
            if (f) add(f);
          }}
        />
      </div>
      {list.length === 0 && (
        <p className="label m-0 px-3 py-2">
          No references yet. Add a picture of the place: it can lie over the view, stand beside it, or be a board at its real height; lines drawn on it find its
          camera.
        </p>
      )}
      {list.map((r) => {
        const viewpoint = viewpoints.find((v) => v.id === r.viewpoint);
        return (
          <div key={r.id} className="grid grid-cols-[minmax(0,1fr)] gap-1 border-b px-3 py-1.5" style={{ borderColor: 'var(--hair)' }}>
            <div className="flex items-center gap-1.5">
              <NameCell name={r.name} onRename={(name) => renameObject(session, r.id, name)} />
              <div className="seg" role="group" aria-label={`${r.name} is shown`}>
                {(
                  [
                    ['overlay', 'over'],
                    ['inset', 'beside'],
                    ['board', 'board'],
                  ] as const
                ).map(([mode, word]) => (
                  <button
                    key={mode}
                    className="act fig"
                    style={{ ...small, padding: '1px 5px' }}
                    aria-pressed={r.mode === mode}
                    onClick={() => (mode === 'board' && !r.at ? stand(r) : set(r, { mode }, 'show'))}
                  >
                    {word}
                  </button>
                ))}
              </div>
              <button className="icon-btn" aria-label={`delete ${r.name}`} onClick={() => session.commit({ kind: 'remove', ids: [r.id] }, `delete ${r.name}`)}>
                <Trash2 size={14} />
              </button>
            </div>
            <div className="flex items-end gap-1.5">
              <NumberField
                label="opacity"
                className="grid min-w-0 flex-1 gap-0.5"
                fill
                value={r.opacity * 100}
                unit="%"
                min={0}
                max={100}
                step={5}
                digits={0}
                onCommit={(v) => set(r, { opacity: v / 100 }, 'opacity of')}
              />
              {r.mode === 'board' ? (
                <>
                  <NumberField
                    label="real height"
                    className="grid min-w-0 flex-1 gap-0.5"
                    fill
                    value={r.height}
                    unit="m"
                    min={0.05}
                    max={1000}
                    onCommit={(height) => set(r, { height }, 'height of')}
                  />
                  <button className="act whitespace-nowrap" style={small} onClick={() => stand(r)}>
                    stand here
                  </button>
                </>
              ) : (
                <>
                  <label className="grid min-w-0 flex-1 gap-0.5">
                    <span className="label">at viewpoint</span>
                    <select
                      className="textf h-6 w-full px-1"
                      value={r.viewpoint ?? ''}
                      onChange={(e) =>
                        session.commit({ kind: 'set', patches: [{ id: r.id, set: { viewpoint: e.target.value || null } }] }, `viewpoint of ${r.name}`)
                      }
                    >
                      <option value="">none yet</option>
                      {viewpoints.map((v) => (
                        <option key={v.id} value={v.id}>
                          {v.name}
                        </option>
                      ))}
                    </select>
                  </label>
                  <button className="act" style={small} disabled={!viewpoint} onClick={() => viewpoint && onPose(viewpoint.pose)}>
                    go
                  </button>
                </>
              )}
              <button className="act" style={small} title="find its camera from lines drawn on it" onClick={() => setFitting(r.id)}>
                fit
              </button>
            </div>
            {r.mode === 'board' && <BoardFields board={r} set={(fields, verb) => set(r, fields, verb)} />}
          </div>
        );
      })}
      {open && (
        <FitDialog
          session={session}
          reference={open}
          onDone={(pose) => {
            setFitting(undefined);
            if (pose) onPose(pose);
          }}
        />
      )}
    </section>
  );
}
