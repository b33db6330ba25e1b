import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { AssetSummary } from '@rammer/core/kit/summary';
import { ofKind } from '@rammer/core/level/level';
import { ASSET_LIMITS_TEXT, INCOMING_FILES } from '@rammer/core/io/assets/limits';
import { call } from '../../outbox/api';
import { assetFile } from '../../store/assetFile';
import type { Session } from '../../store/session';
import { openFiles } from '../../tools/comingMeshes';
import type { LevelView } from '../../view/LevelView';

interface Props {
  session: Session;
  view?: LevelView;
  role: 'piece' | 'plant';
  chosen?: string;
  onPick(asset: AssetSummary): void;
}

/** The assets of a role: a picture of each beside the figure, real size, triangles, materials. A GLB can be added. */
export function Library({ session, view, role, chosen, onPick }: Props) {
  const client = useQueryClient();
  const { data, error } = useQuery({ queryKey: ['assets'], queryFn: () => call<AssetSummary[]>('GET', '/api/assets') });
  const file = useRef<HTMLInputElement>(null);
  const used = new Set(ofKind(session.level, 'asset').map((a) => a.hash));
  // What was cast is of its own level, and only as it was cast last.
  // Anything that stands can be grown as well: what comes as a plant first.
  const fits = (a: AssetSummary) => a.role !== 'reference' && (role === 'plant' || a.role !== 'plant');
  const list = (data ?? [])
    .filter((a) => fits(a) && (!a.tags.includes('cast') || used.has(a.hash)))
    .sort((a, b) => Number(b.role === role) - Number(a.role === role));
  const [sure, setSure] = useState(false);
  const picked = list.find((a) => a.hash === chosen);
  const remove = async (asset: AssetSummary) => {
    try {
      await call('DELETE', `/api/assets/${asset.hash}`);
      session.say(`${asset.name} deleted from the library`);
      await client.invalidateQueries({ queryKey: ['assets'] });
    } catch (e) {
      session.say(`${asset.name} was not deleted: ${(e as Error).message}`, true);
    }
  };
  return (
    <section aria-label={role === 'piece' ? 'library of pieces' : 'library of plants'} className="border-t" style={{ borderColor: 'var(--hair)' }}>
      {error && (
        <p role="alert" className="m-0 px-3 py-2" style={{ color: 'var(--oxide)' }}>
          The library cannot be read: {(error as Error).message}
        </p>
      )}
      <div className="flex gap-0 overflow-x-auto">
        {list.length > 0 && (
          <div className="flex" role="listbox" aria-label={role === 'piece' ? 'pieces' : 'plants'} aria-orientation="horizontal">
            {list.map((a) => (
              <Card key={a.hash} asset={a} view={view} on={a.hash === chosen} onPick={() => onPick(a)} />
            ))}
          </div>
        )}
        <div className="flex h-[116px] w-[64px] shrink-0 flex-col">
          <button
            className="flex-1 border-r text-center"
            style={{ borderColor: 'var(--hair)', background: 'var(--raised)' }}
            onClick={() => file.current?.click()}
            title={`bring in meshes: glTF, GLB, OBJ, a zip of them; ${ASSET_LIMITS_TEXT}. Files and folders can be dropped on the view as well`}
          >
            bring in
          </button>
          {picked && !used.has(picked.hash) && (
            <button
              className="border-r border-t py-1 text-center leading-4"
              style={{ borderColor: 'var(--hair)', background: 'var(--raised)', color: sure ? 'var(--oxide)' : undefined }}
              title="from the library, where no level uses it; it cannot be undone"
              onBlur={() => setSure(false)}
              onClick={() => {
                if (sure) void remove(picked);
                setSure(!sure);
              }}
            >
              {sure ? 'really delete' : `delete ${picked.name}`}
            </button>
          )}
        </div>
      </div>
      <input
        ref={file}
        type="file"
        multiple
        accept={INCOMING_FILES}
        className="hidden"
        aria-label="mesh files"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])].map((f) => ({ path: f.webkitRelativePath || f.name, file: f }));
          e.target.value = '';
          if (files.length > 0) void openFiles(session, files);
        }}
      />
    </section>
  );
}

function Card({ asset, view, on, onPick }: { asset: AssetSummary; view?: LevelView; on: boolean; onPick(): void }) {
  const [picture, setPicture] = useState<string>();
  useEffect(() => {
    let gone = false;
    void assetFile(asset.hash).then(
      (mesh) => {
        if (!gone && view) void view.assetPicture(mesh).then((url) => !gone && setPicture(url));
      },
      () => {},
    );
    return () => {
      gone = true;
    };
  }, [asset.hash, view]);
  const [w, h, d] = asset.size;
  return (
    <button
      role="option"
      aria-selected={on}
      onClick={onPick}
      className="flex h-[116px] w-[90px] shrink-0 flex-col border-r text-left"
      style={{ borderColor: 'var(--hair)', background: on ? 'var(--ink)' : 'var(--raised)', color: on ? 'var(--raised)' : undefined }}
      title={
        `${asset.name}: ${w.toFixed(2)} x ${h.toFixed(2)} x ${d.toFixed(2)} m, ${asset.triangles.join(' / ')} ` +
        `triangles, ${asset.materials.length} material${asset.materials.length === 1 ? '' : 's'}, collider ${asset.collider}`
      }
    >
      <span className="block h-[72px] w-full" style={{ background: 'var(--plot)' }}>
        {picture && <img src={picture} alt="" className="h-[72px] w-full object-contain" />}
      </span>
      <span className="truncate px-1.5 text-[13px] leading-4">{asset.name}</span>
      <span className="fig truncate px-1.5 text-[12px] leading-[13px]" style={{ color: on ? 'var(--hair)' : 'var(--ink-2)' }}>
        {w.toFixed(1)} x {h.toFixed(1)} x {d.toFixed(1)} m
      </span>
      <span className="fig truncate px-1.5 text-[12px] leading-[13px]" style={{ color: on ? 'var(--hair)' : 'var(--ink-2)' }}>
        {asset.triangles[0]} tri, {asset.materials.length} mat
      </span>
    </button>
  );
}
