import type { Session } from '../../store/session';
import { followedFiles, useFollowing } from '../../store/following';
import { openFiles } from '../../tools/comingMeshes';

/** Assets whose followed file changed on disk: a look at each, with its mends made again. */
export function ChangedOnDisk({ session }: { session: Session }) {
  const files = useFollowing((s) => s.files);
  const changed = Object.entries(files).flatMap(([id, f]) => {
    const object = f.changed ? session.level.object(id) : undefined;
    return object?.kind === 'asset' ? [object] : [];
  });
  if (changed.length === 0) return null;
  return (
    <ul className="m-0 list-none border-b p-0" aria-label="changed on disk" style={{ borderColor: 'var(--hair)' }}>
      {changed.map((object) => (
        <li key={object.id} className="flex items-center gap-2 px-2 py-1">
          <span className="min-w-0 flex-1 truncate">{object.name} changed on disk</span>
          <button
            className="act main"
            style={{ minHeight: 24, padding: '1px 7px' }}
            disabled={!session.writable}
            onClick={() =>
              void followedFiles(object.id).then((list) =>
                openFiles(
                  session,
                  list.map((file) => ({ path: file.name, file })),
                  object,
                ),
              )
            }
          >
            look
          </button>
        </li>
      ))}
    </ul>
  );
}
