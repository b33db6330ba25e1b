import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { DEVICES } from '@rammer/core/cost/frame';
import { settingsOf } from '@rammer/core/level/level';
import { ASSET_LIMITS_TEXT } from '@rammer/core/io/assets/limits';
import type { Session } from '../../store/session';
import { useComing } from '../../store/coming';
import { chooseMesh, closeComing, keepMesh } from '../../tools/comingMeshes';
import type { LevelView } from '../../view/LevelView';
import { CardFacts } from './CardFacts';
import { CardFindings } from './CardFindings';
import { CardPicture } from './CardPicture';
import { CardSaid } from './CardSaid';

/** Meshes that came in, or one that is mended: at true size, all that is said of it and what looks wrong, before any of it is kept. */
export function ComingCard({ session, view }: { session: Session; view?: LevelView }) {
  const client = useQueryClient();
  const coming = useComing();
  const { open, rows, faults, unused, kept, chosen, look, failed, of, work } = coming;
  useEffect(() => {
    if (!open) return;
    const key = (e: KeyboardEvent) => {
      if (e.key !== 'Escape') return;
      e.stopPropagation();
      closeComing();
    };
    window.addEventListener('keydown', key, true);
    return () => window.removeEventListener('keydown', key, true);
  }, [open]);
  if (!open) return null;
  const left = rows.filter((r) => !kept.includes(r.key));
  const keep = async (key: string) => {
    if (!(await keepMesh(session, key))) return;
    void client.invalidateQueries({ queryKey: ['assets'] });
    const next = useComing.getState().rows.find((r) => !useComing.getState().kept.includes(r.key));
    if (next) chooseMesh(session, next.key);
    else if (useComing.getState().faults.length === 0) closeComing();
  };
  const keepAll = async () => {
    for (const row of left) if (!(await keepMesh(session, row.key))) return;
    void client.invalidateQueries({ queryKey: ['assets'] });
    if (useComing.getState().faults.length === 0) closeComing();
  };
  const line = { borderColor: 'var(--hair)' };
  return (
    <section
      aria-label="meshes coming in"
      className="absolute inset-0 z-20 flex flex-col"
      style={{ background: 'var(--paper)' }}
      onPointerDown={(e) => e.stopPropagation()}
      onKeyDown={(e) => e.key !== 'Escape' && e.stopPropagation()}
    >
      <header className="flex h-9 shrink-0 items-center gap-3 border-b px-3" style={{ borderColor: 'var(--ink)', background: 'var(--raised)' }}>
        <h2 className="m-0 text-[15px] font-semibold">{of ? `Mending ${session.level.object(of.id)?.name ?? ''}` : 'Coming in'}</h2>
        <span className="label min-w-0 truncate">
          {work
            ? `${work.what} ${Math.round(work.share * 100)} %`
            : of
              ? 'what is placed follows once it is kept'
              : `${rows.length} ${rows.length === 1 ? 'mesh' : 'meshes'}; nothing is kept yet`}
        </span>
        {work && (
          <button className="act plain" style={{ minHeight: 24 }} onClick={closeComing}>
            stop
          </button>
        )}
        <span className="flex-1" />
        {chosen !== undefined && !kept.includes(chosen) && (
          <button className="act main" disabled={work !== undefined || !look || !session.writable} onClick={() => void keep(chosen)}>
            keep
          </button>
        )}
        {left.length > 1 && !of && (
          <button className="act" disabled={work !== undefined || !session.writable} onClick={() => void keepAll()}>
            keep all {left.length}
          </button>
        )}
        <button className="act" onClick={closeComing}>
          {left.length > 0 ? 'discard' : 'close'}
        </button>
      </header>
      <div className="flex min-h-0 flex-1">
        {(rows.length > 1 || faults.length > 0 || unused.length > 0) && (
          <div className="flex w-[168px] shrink-0 flex-col overflow-y-auto border-r" style={line}>
            <div role="listbox" aria-label="meshes that came in">
              {rows.map((row) => (
                <button
                  key={row.key}
                  role="option"
                  aria-selected={row.key === chosen}
                  className="block w-full border-b px-3 py-1 text-left"
                  style={{ ...line, background: row.key === chosen ? 'var(--ink)' : undefined, color: row.key === chosen ? 'var(--raised)' : undefined }}
                  title={row.path}
                  onClick={() => chooseMesh(session, row.key)}
                >
                  <span className="block truncate">{coming.plans[row.key]?.said.name || row.name}</span>
                  <span className="fig block text-[12px]" style={{ color: row.key === chosen ? 'var(--hair)' : 'var(--ink-2)' }}>
                    {kept.includes(row.key) ? 'kept' : `${row.triangles} triangles`}
                  </span>
                </button>
              ))}
            </div>
            {faults.map((f) => (
              <p key={f.path + f.code} role="alert" className="m-0 border-b px-3 py-1.5" style={{ ...line, color: 'var(--oxide)' }}>
                {f.message}
              </p>
            ))}
            {unused.length > 0 && (
              <p className="label m-0 px-3 py-1.5" title={unused.join('\n')}>
                {unused.length === 1 ? `${unused[0]} belongs to no mesh` : `${unused.length} files belong to no mesh`}
              </p>
            )}
          </div>
        )}
        {look && look.key === chosen ? (
          <>
            <CardPicture look={look} view={view} session={session} />
            <div className="flex w-[316px] shrink-0 flex-col gap-0 overflow-y-auto border-l" style={line}>
              {failed && (
                <p role="alert" className="m-0 px-3 py-2" style={{ color: 'var(--oxide)' }}>
                  It could not be mended so: {failed}. Take the last mend back.
                </p>
              )}
              <CardSaid session={session} />
              <CardFindings session={session} look={look} />
              <CardFacts look={look} before={of?.card} device={DEVICES[settingsOf(session.level).device]} />
            </div>
          </>
        ) : (
          <div className="grid flex-1 place-items-center p-6">
            <p className="label m-0 max-w-[420px] text-center">
              {work
                ? `${work.what} ...`
                : failed
                  ? `It could not be read so: ${failed}`
                  : rows.length === 0
                    ? `Nothing here can be kept. Meshes are read from .glb, .gltf with its files, .obj with its .mtl, or a .zip of these: ${ASSET_LIMITS_TEXT}.`
                    : 'Pick a mesh on the left.'}
            </p>
          </div>
        )}
      </div>
    </section>
  );
}
