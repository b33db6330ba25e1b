import { X } from 'lucide-react';
import { meshesOf } from '@rammer/core/growth/meshes';
import type { Species } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { addMesh, setMeshes } from '../../tools/speciesMeshes';
import { NumberField } from '../../ui/NumberField';
import { useEntries } from '../assets/useEntries';

/** The meshes a species has, how often it has each, and others of the library to add. */
export function MeshFields({ session, species }: { session: Session; species: Species }) {
  const { entries } = useEntries(session);
  const list = meshesOf(species);
  const all = list.reduce((sum, m) => sum + m.weight, 0);
  const names = new Map(entries.flatMap((e) => (e.object ? [[e.object.id, e.name] as const] : [])));
  const free = entries.filter((e) => !list.some((m) => m.asset === e.object?.id)).sort((a, b) => Number(b.role === 'plant') - Number(a.role === 'plant'));
  const several = list.length > 1;
  return (
    <div className="grid gap-1 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }} role="group" aria-label={`meshes of ${species.name}`}>
      {list.map(({ asset, weight }, i) => {
        const name = names.get(asset) ?? 'a mesh that is gone';
        return (
          <div key={asset} className="flex items-center gap-1.5">
            {i === 0 && <span className="label">mesh</span>}
            <span className="min-w-0 flex-1 truncate" style={i > 0 ? { paddingLeft: 36 } : undefined}>
              {name}
            </span>
            {several && (
              <>
                <NumberField
                  label={`weight of ${name}`}
                  hideLabel
                  className="w-[52px]"
                  fill
                  value={weight}
                  min={0.01}
                  max={100}
                  step={0.5}
                  onCommit={(v) =>
                    setMeshes(
                      session,
                      species,
                      list.map((m, k) => (k === i ? { ...m, weight: v } : m)),
                      'weight of a mesh',
                    )
                  }
                />
                <span className="fig w-9 text-right">{`${Math.round((weight / all) * 100)} %`}</span>
                <button
                  className="icon-btn"
                  style={{ width: 18 }}
                  aria-label={`take the mesh ${name} out`}
                  onClick={() =>
                    setMeshes(
                      session,
                      species,
                      list.filter((_, k) => k !== i),
                      'meshes',
                    )
                  }
                >
                  <X size={13} />
                </button>
              </>
            )}
          </div>
        );
      })}
      {free.length > 0 && (
        <select
          className="textf h-6 min-w-0 justify-self-end px-1"
          aria-label="add a mesh"
          value=""
          title="each plant has one of the meshes, by its weight and its own chance, as tall as the species is"
          onChange={(e) => {
            const entry = free.find((f) => f.hash === e.target.value);
            if (entry) addMesh(session, species, entry);
          }}
        >
          <option value="">another mesh …</option>
          {free.map((f) => (
            <option key={f.hash} value={f.hash}>
              {f.name}
            </option>
          ))}
        </select>
      )}
    </div>
  );
}
