import { useLaying } from '../../store/laying';

/** What a click makes of a laid wall. */
export function OpeningFields() {
  const opening = useLaying((s) => s.opening);
  return (
    <>
      <div className="flex items-center gap-2">
        <span className="label">a click makes a</span>
        <div className="seg" role="group" aria-label="opening">
          {(['door', 'window'] as const).map((use) => (
            <button
              key={use}
              className="act"
              style={{ minHeight: 24, padding: '1px 9px' }}
              aria-pressed={opening === use}
              onClick={() => useLaying.setState({ opening: use })}
            >
              {use}
            </button>
          ))}
        </div>
      </div>
      <p className="label m-0">
        Click a wall of a laid line; a click on the same again makes it a wall. It stays so many metres from its corner when the line is moved.
      </p>
    </>
  );
}
