import { COLLIDER_NAMES } from '@rammer/core/level/fields';
import { isMade } from '@rammer/core/level/instance';
import type { Piece } from '@rammer/core/level/objects';
import { useDressing } from '../../store/dressing';
import type { Session } from '../../store/session';
import { swapBack } from '../../tools/castBlocks';
import { mm, setThings } from '../../tools/things';
import { settle } from '../../tools/throwing';
import { NumberField } from '../../ui/NumberField';
import type { LevelView } from '../../view/LevelView';

/** How far pieces are sunk, what stops a body at them, and what only pieces can do. */
export function PieceFields({ session, view, pieces }: { session: Session; view?: LevelView; pieces: readonly Piece[] }) {
  const falling = useDressing((s) => s.falling !== undefined);
  const set = (fields: (p: Piece) => Partial<Piece>, verb: string) => setThings(session, pieces, (t) => fields(t as Piece), verb);
  const one = <K extends keyof Piece>(key: K): { value: Piece[K]; mixed?: string } => ({
    value: pieces[0][key],
    ...(pieces.every((p) => p[key] === pieces[0][key]) ? {} : { mixed: 'mixed' }),
  });
  return (
    <div className="flex items-end gap-2">
      <NumberField
        label="sink"
        className="grid min-w-0 gap-0.5"
        {...one('sink')}
        unit="m"
        min={-5}
        max={5}
        step={0.05}
        onCommit={(sink) => set((p) => ({ sink, at: [p.at[0], mm(p.at[1] + p.sink - sink), p.at[2]] }), 'sink')}
      />
      <label className="grid min-w-0 flex-1 gap-0.5">
        <span className="label">collider</span>
        {pieces.every((p) => session.scene.placed.assets.get(p.asset)?.role === 'background') ? (
          <span className="label h-6 leading-6" title="its role is background: it stops nobody, whatever is said of it">
            none: background
          </span>
        ) : (
          <select
            className="textf h-6 w-full px-1"
            value={one('collider').mixed ? '' : one('collider').value}
            onChange={(e) => set(() => ({ collider: e.target.value as Piece['collider'] }), 'collider of')}
          >
            {one('collider').mixed && <option value="">mixed</option>}
            <option value="asset">{`asset: ${session.scene.placed.assets.get(pieces[0].asset)?.collider ?? '?'}`}</option>
            {COLLIDER_NAMES.map((c) => (
              <option key={c}>{c}</option>
            ))}
          </select>
        )}
      </label>
      {view && (
        <button
          className="act"
          title="let them fall and find their hold, by their colliders"
          disabled={falling}
          onClick={() => void settle({ session, view }, pieces)}
        >
          settle
        </button>
      )}
      {pieces.some((p) => p.bend && !isMade(p.id)) && (
        <button
          className="act"
          title="bent along the line it was laid on: as its mesh is"
          onClick={() => setThings(session, pieces, () => ({ bend: null }), 'straighten')}
        >
          straighten
        </button>
      )}
      {pieces.some((p) => p.standsFor) && (
        <button className="act" title="put the blocks back that it stands for" onClick={() => swapBack(session, pieces)}>
          swap back
        </button>
      )}
    </div>
  );
}
