import { ASSET_LIMITS_TEXT } from '@rammer/core/io/assets/limits';
import { favour, useLibrary } from '../../store/library';
import type { Session } from '../../store/session';
import { openFiles } from '../../tools/comingMeshes';
import type { LevelView } from '../../view/LevelView';
import { AssetCard } from './AssetCard';
import { ChangedOnDisk } from './ChangedOnDisk';
import { found, type Entry } from './entries';
import { MeshFiles } from './MeshFiles';
import { useEntries } from './useEntries';

interface Props {
  session: Session;
  view?: LevelView;
  role: 'piece' | 'plant';
  chosen?: string;
  onPick(asset: Entry): void;
}

/** The library in the bench: search, pictures beside the figure, and the way to bring meshes in. Anything that stands can be grown as well. */
export function Library({ session, view, role, chosen, onPick }: Props) {
  const { entries, error } = useEntries(session);
  const library = useLibrary();
  const favourites = new Set(library.favourites);
  const fits = entries.filter((e) => role === 'plant' || e.role !== 'plant');
  const list = found(fits, { query: library.query, facets: {}, favourites }).sort((a, b) => Number(b.role === role) - Number(a.role === role));
  const picked = list.find((e) => e.hash === chosen);
  return (
    <section
      aria-label={role === 'piece' ? 'library of pieces' : 'library of plants'}
      className={`flex flex-col border-t ${role === 'piece' ? 'min-h-[176px] flex-1' : 'h-[164px]'}`}
      style={{ borderColor: 'var(--hair)' }}
    >
      <div className="flex shrink-0 items-center gap-1 border-b px-2 py-1" style={{ borderColor: 'var(--hair)' }}>
        <input
          className="textf h-6 min-w-0 flex-1"
          type="search"
          aria-label="search the library"
          placeholder={`search ${fits.length}`}
          value={library.query}
          onChange={(e) => useLibrary.setState({ query: e.target.value })}
          onKeyDown={(e) => e.stopPropagation()}
        />
        {picked && (
          <button
            className="act plain"
            style={SMALL}
            aria-pressed={favourites.has(picked.hash)}
            title={favourites.has(picked.hash) ? `${picked.name} is a favourite` : `make ${picked.name} a favourite`}
            onClick={() => favour(picked.hash)}
          >
            {favourites.has(picked.hash) ? '★' : '☆'}
          </button>
        )}
        <button
          className="act"
          style={SMALL}
          title="the library in wide, with facets, facts and replacing"
          onClick={() => useLibrary.setState({ wide: true, chosen })}
        >
          wide
        </button>
        <BringIn session={session} />
      </div>
      <ChangedOnDisk session={session} />
      {error && (
        <p role="alert" className="m-0 px-3 py-2" style={{ color: 'var(--oxide)' }}>
          The library cannot be read: {error.message}
        </p>
      )}
      {list.length === 0 && !error && (
        <p className="label m-0 px-3 py-2">
          {fits.length === 0
            ? 'No meshes yet: bring some in, or drop them on the view.'
            : `Nothing is called ${library.query}: clear the search, or look in wide.`}
        </p>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-3 content-start overflow-y-auto" role="listbox" aria-label={role === 'piece' ? 'pieces' : 'plants'}>
        {list.map((e) => (
          <AssetCard key={e.hash} entry={e} view={view} on={e.hash === chosen} favourite={favourites.has(e.hash)} onPick={() => onPick(e)} />
        ))}
      </div>
    </section>
  );
}

const SMALL = { minHeight: 24, padding: '1px 7px' };

/** Brings meshes in. */
export function BringIn({ session }: { session: Session }) {
  return (
    <MeshFiles
      label="mesh files"
      title={`bring in meshes: glTF, GLB, OBJ, a zip of them; ${ASSET_LIMITS_TEXT}. Files and folders can be dropped on the view as well`}
      onChosen={(files) => void openFiles(session, files)}
    >
      bring in
    </MeshFiles>
  );
}
