import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Asset } from '@rammer/core/kit/asset';
import { realHeights } from '@rammer/core/kit/realSizes';
import type { AssetFactsSet } from '@rammer/core/level/kinds/asset';
import { ofKind } from '@rammer/core/level/level';
import { COLLIDER_NAMES } from '@rammer/core/level/fields';
import { mendText } from '@rammer/core/level/mend';
import { canFollow, followFiles, unfollow, useFollowing } from '../../store/following';
import { favour, useLibrary } from '../../store/library';
import type { Session } from '../../store/session';
import { openAsset, openFiles } from '../../tools/comingMeshes';
import { assetHere, deleteFromLibrary, replaceEverywhere, setFacts } from '../../tools/libraryAssets';
import { NumberField } from '../../ui/NumberField';
import type { LevelView } from '../../view/LevelView';
import { assetOf } from './AssetCard';
import type { Entry } from './entries';
import { MeshFiles } from './MeshFiles';

interface Props {
  session: Session;
  view?: LevelView;
  entry: Entry;
  entries: readonly Entry[];
  onPlace(): void;
  onGrow(): void;
}

const small = { minHeight: 24, padding: '1px 7px' };

/** All of one asset: its picture, its facts, which every use follows, where it is used, its newer file, what could stand for it. */
export function AssetDetail({ session, view, entry, entries, onPlace, onGrow }: Props) {
  const client = useQueryClient();
  const favourite = useLibrary((s) => s.favourites.includes(entry.hash));
  const [mesh, setMesh] = useState<Asset>();
  const [picture, setPicture] = useState<string>();
  const [by, setBy] = useState('');
  const [sure, setSure] = useState(false);
  const { object } = entry;
  const followed = useFollowing((s) => object !== undefined && object.id in s.files);
  useEffect(() => {
    let gone = false;
    void assetOf(entry).then(
      async (asset) => {
        if (gone) return;
        setMesh(asset);
        const url = await view?.assetPicture(asset, { width: 258, height: 170 });
        if (!gone) setPicture(url);
      },
      (e: Error) => session.say(e.message, true),
    );
    return () => {
      gone = true;
    };
  }, [entry, view, session]);
  const edit = (facts: Partial<AssetFactsSet>, what: string) => {
    const here = assetHere(session, entry);
    if (here) setFacts(session, here, facts, what);
  };
  const range = realHeights(entry);
  const others = entries.filter((e) => e.hash !== entry.hash);
  const replace = () => {
    const other = others.find((e) => e.hash === by);
    const to = other && assetHere(session, other);
    if (!to || !object) return;
    const done = replaceEverywhere(session, object, to);
    if (done) session.say(`${done.pieces} pieces and ${done.species} species are ${to.name} now`);
  };
  const remove = async () => {
    try {
      await deleteFromLibrary(entry.hash);
      session.say(`${entry.name} deleted from the library`);
      await client.invalidateQueries({ queryKey: ['assets'] });
    } catch (e) {
      session.say(`${entry.name} was not deleted: ${(e as Error).message}`, true);
    }
  };
  const line = { borderColor: 'var(--hair)' };
  const shapes = COLLIDER_NAMES.filter((c) => (c !== 'hull' && c !== 'parts') || c === entry.collider);
  return (
    <aside aria-label={`about ${entry.name}`} className="flex w-[260px] shrink-0 flex-col overflow-y-auto border-l" style={line}>
      <div className="h-[170px] shrink-0" style={{ background: 'var(--plot)' }}>
        {picture && <img src={picture} alt={`${entry.name} beside the figure`} className="h-full w-full object-contain" />}
      </div>
      <div className="grid gap-2 px-3 py-2">
        <div className="flex items-center gap-1">
          <h3 className="m-0 min-w-0 flex-1 truncate text-[14px] font-semibold">{entry.name}</h3>
          <button className="act plain" style={small} aria-pressed={favourite} aria-label="favourite" onClick={() => favour(entry.hash)}>
            {favourite ? '★' : '☆'}
          </button>
          <button className="act main" style={small} disabled={!session.writable} onClick={onPlace}>
            place
          </button>
          <button className="act" style={small} disabled={!session.writable} title="a species that grows from it" onClick={onGrow}>
            grow
          </button>
        </div>
        <p className="label m-0">
          <span className="fig">{entry.size.map((v) => v.toFixed(2)).join(' x ')}</span> m; <span className="fig">{entry.triangles.join(' / ')}</span>{' '}
          triangles; {entry.materials.length} {entry.materials.length === 1 ? 'material' : 'materials'}, pictures{' '}
          <span className="fig">{(entry.textureBytes / 1e6).toFixed(1)}</span> MB
          {entry.texel ? `, ${entry.texel.toFixed(0)} pixels a metre` : ''}; {entry.closed ? 'closed' : 'open'}
          {entry.hollow.length > 0 ? `, hollow ${entry.hollow.join(', ')}` : ''}.
        </p>
        <p className="m-0">
          {entry.placed} placed, {entry.grown} {entry.grown === 1 ? 'species grows' : 'species grow'} from it.
        </p>
        <label className="grid gap-0.5">
          <span className="label">collider</span>
          <select
            className="textf h-6 w-full px-1"
            value={entry.collider}
            disabled={!session.writable}
            onChange={(e) => edit({ collider: e.target.value as Asset['collider'] }, 'collider')}
          >
            {shapes.map((c) => (
              <option key={c}>{c}</option>
            ))}
          </select>
        </label>
        <div className="grid grid-cols-2 gap-x-2 gap-y-1">
          <NumberField
            label="real from"
            fill
            value={range?.[0] ?? entry.size[1]}
            unit="m"
            min={0.001}
            max={1000}
            onCommit={(v) => edit({ real: [v, Math.max(v, range?.[1] ?? entry.size[1])] }, 'real size')}
          />
          <NumberField
            label="to"
            fill
            value={range?.[1] ?? entry.size[1]}
            unit="m"
            min={0.001}
            max={1000}
            onCommit={(v) => edit({ real: [Math.min(v, range?.[0] ?? entry.size[1]), v] }, 'real size')}
          />
          <NumberField
            label="LODs from x"
            fill
            value={mesh?.detail ?? 1}
            min={0.1}
            max={10}
            step={0.1}
            onCommit={(detail) => edit({ detail }, 'LOD distances')}
          />
          <NumberField label="sink" fill value={mesh?.sink ?? 0} unit="m" min={-5} max={5} step={0.05} onCommit={(sink) => edit({ sink }, 'sink')} />
          <NumberField
            label="cut off at"
            fill
            value={mesh?.cutoff ?? 0}
            unit="m"
            min={0}
            max={20000}
            step={10}
            digits={0}
            onCommit={(cutoff) => edit({ cutoff }, 'cut-off')}
          />
          <NumberField label="trunk" fill value={entry.trunk} unit="m" min={0} max={50} onCommit={(trunk) => edit({ trunk }, 'trunk')} />
        </div>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={mesh?.shadows ?? true} disabled={!session.writable} onChange={(e) => edit({ shadows: e.target.checked }, 'shadow')} />
          throws a shadow where it is placed
        </label>
        {(
          [
            ['tags', entry.tags.join(', '), (v: string) => edit({ tags: list(v) }, 'tags')],
            ['kit', entry.kit ?? '', (v: string) => edit({ kit: v.trim() || undefined }, 'kit')],
            ['belongs on', (entry.grounds ?? []).join(', '), (v: string) => edit({ grounds: list(v) }, 'ground')],
            ['licence', entry.licence ?? '', (v: string) => edit({ licence: v.trim() || undefined }, 'licence')],
          ] as const
        ).map(([label, value, commit]) => (
          <label key={label} className="grid gap-0.5">
            <span className="label">{label}</span>
            <input
              key={value}
              className="textf h-6 w-full"
              maxLength={200}
              list={label === 'belongs on' ? 'surfaces-here' : undefined}
              defaultValue={value}
              disabled={!session.writable}
              onBlur={(e) => e.target.value !== value && commit(e.target.value)}
              onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
            />
          </label>
        ))}
        <datalist id="surfaces-here">
          {ofKind(session.level, 'surface').map((s) => (
            <option key={s.id} value={s.name} />
          ))}
        </datalist>
        <hr className="rule m-0" />
        {object?.mends && object.mends.length > 0 && (
          <p className="label m-0">
            From {object.source?.file}: {object.mends.map(mendText).join('; ')}.
          </p>
        )}
        <div className="flex flex-wrap gap-1">
          <button
            className="act"
            style={small}
            disabled={!session.writable}
            onClick={() => {
              const here = assetHere(session, entry);
              if (here) void openAsset(session, here);
            }}
          >
            mend
          </button>
          <MeshFiles
            label="newer file"
            title="the same mends are made on it; what is placed stays where it is"
            disabled={!session.writable}
            onChosen={(files) => {
              const here = assetHere(session, entry);
              if (here) void openFiles(session, files, here);
            }}
          >
            newer file
          </MeshFiles>
          {canFollow() && (
            <button
              className="act"
              style={small}
              aria-pressed={followed}
              disabled={!session.writable}
              title={
                followed ? 'its file on disk is looked at; press to follow it no more' : 'choose its file on disk: when it changes, its mends are made again'
              }
              onClick={() => {
                const here = assetHere(session, entry);
                if (!here) return;
                if (followed) unfollow(here.id);
                else void followFiles(here.id).then((files) => files && session.say(`${files.map((f) => f.name).join(', ')} followed for ${here.name}`));
              }}
            >
              {followed ? 'followed' : 'follow file'}
            </button>
          )}
          {!object && (
            <button
              className="act"
              style={{ ...small, color: sure ? 'var(--oxide)' : undefined }}
              title="from the library, where no level uses it; it cannot be undone"
              onBlur={() => setSure(false)}
              onClick={() => {
                if (sure) void remove();
                setSure(!sure);
              }}
            >
              {sure ? 'really delete' : 'delete'}
            </button>
          )}
        </div>
        {object && entry.placed + entry.grown > 0 && (
          <div className="flex items-end gap-1">
            <label className="grid min-w-0 flex-1 gap-0.5">
              <span className="label">replace everywhere by</span>
              <select className="textf h-6 w-full px-1" value={by} onChange={(e) => setBy(e.target.value)}>
                <option value="">choose</option>
                {others.map((e) => (
                  <option key={e.hash} value={e.hash}>
                    {e.name}
                    {e.content !== undefined && e.content === entry.content ? ' (holds the same)' : ''}
                  </option>
                ))}
              </select>
            </label>
            <button className="act" style={small} disabled={by === '' || !session.writable} onClick={replace}>
              replace
            </button>
          </div>
        )}
      </div>
    </aside>
  );
}

const list = (text: string): string[] =>
  [
    ...new Set(
      text
        .split(',')
        .map((t) => t.trim())
        .filter(Boolean),
    ),
  ].slice(0, 16);
