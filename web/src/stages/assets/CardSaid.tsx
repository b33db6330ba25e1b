import { useState } from 'react';
import { realHeights } from '@rammer/core/kit/realSizes';
import type { Role } from '@rammer/core/kit/asset';
import type { Session } from '../../store/session';
import { useComing } from '../../store/coming';
import { plan } from '../../tools/comingMeshes';
import type { SaidOfAsset } from '../../workers/asset.worker';

const ROLES: [Role, string][] = [
  ['piece', 'a part of a kit'],
  ['prop', 'stands by itself'],
  ['plant', 'grows by rule and brush'],
  ['background', 'is never reached: it stops nobody'],
  ['board', 'a picture that stands'],
];

/** What the person says of a mesh: name, role, tags and the heights these stand for, licence. */
export function CardSaid({ session }: { session: Session }) {
  const said = useComing((s) => (s.chosen === undefined ? undefined : s.plans[s.chosen]?.said));
  const [tag, setTag] = useState('');
  if (!said) return null;
  const set = (by: Partial<SaidOfAsset>) => plan(session, (p) => ({ ...p, said: { ...p.said, ...by } }));
  const range = realHeights(said);
  const addTag = () => {
    const word = tag.trim().toLowerCase().slice(0, 40);
    setTag('');
    if (word && !said.tags.includes(word) && said.tags.length < 20) set({ tags: [...said.tags, word] });
  };
  return (
    <div className="grid gap-1.5 border-b px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
      <label className="grid gap-0.5">
        <span className="label">name</span>
        <input
          key={said.name}
          className="textf h-6 w-full"
          maxLength={110}
          defaultValue={said.name}
          onBlur={(e) => e.target.value.trim() && set({ name: e.target.value.trim() })}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      </label>
      <div className="flex flex-wrap" role="radiogroup" aria-label="role">
        {ROLES.map(([role, what]) => (
          <button
            key={role}
            role="radio"
            aria-checked={said.role === role}
            aria-pressed={said.role === role}
            title={what}
            className="act -ml-px first:ml-0"
            style={{ minHeight: 24, padding: '1px 8px' }}
            onClick={() => set({ role })}
          >
            {role}
          </button>
        ))}
      </div>
      <div className="flex flex-wrap items-center gap-1">
        <span className="label">tags</span>
        {said.tags.map((t) => (
          <button
            key={t}
            className="act"
            style={{ minHeight: 22, padding: '0 6px' }}
            aria-label={`remove tag ${t}`}
            onClick={() => set({ tags: said.tags.filter((x) => x !== t) })}
          >
            {t} <span aria-hidden>×</span>
          </button>
        ))}
        <input
          className="textf h-6 w-[96px]"
          aria-label="new tag"
          placeholder="door, crate ..."
          value={tag}
          onChange={(e) => setTag(e.target.value)}
          onBlur={addTag}
          onKeyDown={(e) => e.key === 'Enter' && addTag()}
        />
      </div>
      <p className="label m-0">
        {range ? (
          <>
            such things are <span className="fig">{range[0]}</span> to <span className="fig">{range[1]}</span> m high
          </>
        ) : (
          'no tag says how high such things are: the body is the measure'
        )}
      </p>
      <label className="flex items-center gap-2">
        <span className="label">licence</span>
        <input
          key={said.licence}
          className="textf h-6 min-w-0 flex-1"
          maxLength={200}
          placeholder="where it is from, and its terms"
          defaultValue={said.licence ?? ''}
          onBlur={(e) => set({ licence: e.target.value.trim() || undefined })}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
      </label>
    </div>
  );
}
