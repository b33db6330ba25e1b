import { useState } from 'react';
import type { Session } from '../../store/session';
import { kitSources, makeKit } from '../../tools/kits';
import { useEntries } from '../assets/useEntries';

/** Makes a kit of meshes of the library that belong together. */
export function KitSources({ session }: { session: Session }) {
  const { entries } = useEntries(session);
  const [making, setMaking] = useState(false);
  const sources = kitSources(entries);
  if (sources.length === 0)
    return (
      <p className="label m-0">
        A kit is made of meshes that join: bring some in that say which kit they are of, or share a tag, with a wall, a fence or a post among them.
      </p>
    );
  return (
    <label className="grid gap-0.5">
      <span className="label">a kit of</span>
      <select
        className="textf h-6 w-full px-1"
        aria-label="make a kit of"
        value=""
        disabled={making || !session.writable}
        onChange={(e) => {
          const of = sources.find((s) => s.name === e.target.value);
          if (!of) return;
          setMaking(true);
          void makeKit(session, of.name, of.members).finally(() => setMaking(false));
        }}
      >
        <option value="">{making ? 'reading its meshes' : 'pick what belongs together'}</option>
        {sources.map((s) => (
          <option key={s.name} value={s.name}>
            {`${s.name}: ${s.members.length} mesh${s.members.length === 1 ? '' : 'es'}`}
          </option>
        ))}
      </select>
    </label>
  );
}
