import { ofKind } from '@rammer/core/level/level';
import { toggleFacet, useLibrary } from '../../store/library';
import { usePlanting } from '../../store/planting';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import { copyGroup } from '../../tools/assemblies';
import { openFiles } from '../../tools/comingMeshes';
import { growFrom } from '../../tools/libraryAssets';
import { WideSheet } from '../../ui/WideSheet';
import type { LevelView } from '../../view/LevelView';
import { AssetCard } from './AssetCard';
import { AssetDetail } from './AssetDetail';
import { ChangedOnDisk } from './ChangedOnDisk';
import { facetCounts, found, type Entry } from './entries';
import { BringIn } from './Library';
import { MeshFiles } from './MeshFiles';
import { useEntries } from './useEntries';

/** The library in wide: facets, pictures, and all of the one that is chosen; whole structures beside single meshes. */
export function WideLibrary({ session, view }: { session: Session; view?: LevelView }) {
  const wide = useLibrary((s) => s.wide);
  return wide ? <Wide session={session} view={view} /> : null;
}

const close = () => useLibrary.setState({ wide: false });

function Wide({ session, view }: { session: Session; view?: LevelView }) {
  const library = useLibrary();
  const { entries, error } = useEntries(session);
  const wanted = { query: library.query, facets: library.facets, favourites: new Set(library.favourites) };
  const list = found(entries, wanted);
  const chosen = entries.find((e) => e.hash === library.chosen) ?? list[0];
  const structures = ofKind(session.level, 'assembly');
  const here = entries.filter((e) => e.object);
  const line = { borderColor: 'var(--hair)' };
  const held = Object.values(library.facets).flat().length;
  const place = (e: Entry) => {
    usePlanting.setState({ kitAsset: e.hash });
    useUi.getState().setStage('build');
    useUi.getState().setTool('piece');
    close();
  };
  const grow = (e: Entry) => {
    const species = growFrom(session, e);
    if (!species) return;
    usePlanting.setState({ species });
    useUi.getState().setStage('grow');
    close();
  };
  return (
    <WideSheet
      label="library in wide"
      title="Library"
      onClose={close}
      head={
        <>
          <input
            className="textf h-6 w-[150px]"
            type="search"
            aria-label="search in wide"
            placeholder={`search ${entries.length}`}
            autoFocus
            value={library.query}
            onChange={(e) => useLibrary.setState({ query: e.target.value })}
          />
          <span className="label min-w-0 truncate" title="pictures of all assets of this level on the GPU">
            {list.length} of {entries.length}; {here.length} in this level, pictures{' '}
            <span className="fig">{(here.reduce((s, e) => s + e.textureBytes, 0) / 1e6).toFixed(1)} MB</span>
          </span>
          <span className="flex-1" />
          <BringIn session={session} />
          <MeshFiles label="mesh folder" title="bring in all meshes of a folder" folder onChosen={(files) => void openFiles(session, files)}>
            a folder
          </MeshFiles>
        </>
      }
    >
      <nav aria-label="facets" className="w-[150px] shrink-0 overflow-y-auto border-r py-1" style={line}>
        {held > 0 && (
          <button className="act plain mx-1" style={{ minHeight: 24, padding: '1px 7px' }} onClick={() => useLibrary.setState({ facets: {} })}>
            clear {held}
          </button>
        )}
        {facetCounts(entries, wanted).map(({ facet, values }) => (
          <fieldset key={facet} className="m-0 border-0 p-0 pb-1.5">
            <legend className="px-3 text-[13px] font-semibold">{facet}</legend>
            {values.map(([value, count]) => (
              <label key={value} className="flex items-center gap-1.5 px-3">
                <input type="checkbox" checked={library.facets[facet]?.includes(value) ?? false} onChange={() => toggleFacet(facet, value)} />
                <span className="min-w-0 flex-1 truncate" title={value}>
                  {value}
                </span>
                <span className="fig" style={{ color: 'var(--ink-2)' }}>
                  {count}
                </span>
              </label>
            ))}
          </fieldset>
        ))}
      </nav>
      <div className="min-w-0 flex-1 overflow-y-auto">
        <ChangedOnDisk session={session} />
        {error && (
          <p role="alert" className="m-0 px-3 py-2" style={{ color: 'var(--oxide)' }}>
            The library cannot be read: {error.message}
          </p>
        )}
        {list.length === 0 && <p className="label m-0 p-3">Nothing fits all of this: clear the search or a facet.</p>}
        <div className="grid content-start" style={{ gridTemplateColumns: 'repeat(auto-fill, minmax(120px, 1fr))' }} role="listbox" aria-label="assets">
          {list.map((e) => (
            <AssetCard
              key={e.hash}
              entry={e}
              view={view}
              wide
              on={e.hash === chosen?.hash}
              favourite={wanted.favourites.has(e.hash)}
              onPick={() => useLibrary.setState({ chosen: e.hash })}
            />
          ))}
        </div>
        {structures.length > 0 && (
          <>
            <h3 className="m-0 border-t px-3 pt-2 text-[13px] font-semibold" style={line}>
              Whole structures
            </h3>
            <ul className="m-0 list-none p-0 pb-2" aria-label="whole structures">
              {structures.map((a) => (
                <li key={a.id} className="flex items-center gap-2 px-3 py-0.5">
                  <span className="min-w-0 flex-1 truncate">{a.name}</span>
                  <span className="fig" style={{ color: 'var(--ink-2)' }}>
                    {ofKind(session.level, 'copy').filter((c) => c.assembly === a.id).length} copies
                  </span>
                  <button
                    className="act"
                    style={{ minHeight: 24, padding: '1px 7px' }}
                    disabled={!session.writable}
                    onClick={() => {
                      if (copyGroup(session, a.group)) close();
                    }}
                  >
                    place a copy
                  </button>
                </li>
              ))}
            </ul>
          </>
        )}
      </div>
      {chosen && (
        <AssetDetail
          key={chosen.hash}
          session={session}
          view={view}
          entry={chosen}
          entries={entries}
          onPlace={() => place(chosen)}
          onGrow={() => grow(chosen)}
        />
      )}
    </WideSheet>
  );
}
