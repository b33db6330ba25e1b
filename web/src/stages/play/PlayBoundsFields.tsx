import { Trash2 } from 'lucide-react';
import { useState } from 'react';
import { backgroundRing } from '@rammer/core/block/background';
import { ofKind } from '@rammer/core/level/level';
import type { Block } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { newId } from '../../store/names';
import { NumberField } from '../../ui/NumberField';

const small = { padding: '1px 7px', minHeight: 24 };

/** What the play bounds have beside its outline: the ring of plain masses that closes the skyline behind the level. */
export function PlayBoundsFields({ session }: { session: Session }) {
  const [ring, setRing] = useState({ distance: 40, height: 30, count: 28 });
  const bounds = ofKind(session.level, 'playBounds')[0];
  const behind = ofKind(session.level, 'block').filter((b) => b.background);
  if (!bounds && behind.length === 0) return null;
  const set = () => {
    const { grid, heights } = session.terrain;
    let foot = Infinity;
    for (let i = 0; i < grid.nx; i++) foot = Math.min(foot, heights[i], heights[(grid.nz - 1) * grid.nx + i]);
    for (let i = 0; i < grid.nz; i++) foot = Math.min(foot, heights[i * grid.nx], heights[i * grid.nx + grid.nx - 1]);
    const masses = backgroundRing(grid.width, grid.depth, { ...ring, foot, seed: behind.length + ring.count });
    const objects = masses.map((m, i): Block => ({ id: newId('block'), version: 1, kind: 'block', name: `mass ${i + 1}`, hidden: false, out: false, ...m }));
    session.commit(
      behind.length > 0
        ? {
            kind: 'together',
            parts: [
              { kind: 'remove', ids: behind.map((b) => b.id) },
              { kind: 'add', objects },
            ],
          }
        : { kind: 'add', objects },
      'set a ring of masses',
    );
  };
  return (
    <section aria-label="play bounds" className="grid gap-1.5 border-b px-3 pb-2" style={{ borderColor: 'var(--hair)' }}>
      {bounds && (
        <div className="flex items-center gap-2">
          <span className="label">play bounds, {bounds.outline.length} corners: checked when the walk area is baked</span>
          <button
            className="icon-btn ml-auto"
            aria-label="delete the play bounds"
            onClick={() => session.commit({ kind: 'remove', ids: [bounds.id] }, 'delete the play bounds')}
          >
            <Trash2 size={14} />
          </button>
        </div>
      )}
      <div className="flex items-end gap-1.5">
        <NumberField
          label="behind by"
          className="grid gap-0.5"
          value={ring.distance}
          unit="m"
          min={0}
          max={2000}
          step={5}
          digits={0}
          onCommit={(distance) => setRing({ ...ring, distance })}
        />
        <NumberField
          label="height"
          className="grid gap-0.5"
          value={ring.height}
          unit="m"
          min={1}
          max={1000}
          step={5}
          digits={0}
          onCommit={(height) => setRing({ ...ring, height })}
        />
        <button
          className="act"
          style={small}
          disabled={!session.writable}
          title="plain ridges round the level, outside it, that close the skyline"
          onClick={set}
        >
          {behind.length > 0 ? 'ring anew' : 'ring of masses'}
        </button>
      </div>
    </section>
  );
}
