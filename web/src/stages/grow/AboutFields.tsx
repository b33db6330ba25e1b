import type { Species } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { Which } from '../surface/ConditionExtras';
import { ClusterFields } from './ClusterFields';
import { speciesBefore } from './growthConditions';
import type { SetFields } from './SpeciesFields';

type About = NonNullable<Species['about']>;

/** Whether a species grows by its density or in clusters about another, and how these are. */
export function AboutFields({ session, species, set }: { session: Session; species: Species; set: SetFields }) {
  const before = speciesBefore(session.level, species);
  const { about } = species;
  if (before.length === 0 && !about) return null;
  const put = (fields: Partial<About>) => about && set({ about: { ...about, ...fields } }, 'cluster');
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }} role="group" aria-label="grows about">
      <label className="col-span-2 flex items-center gap-2" title="about the plants of an earlier species, instead of by its density">
        <span className="label whitespace-nowrap">grows about</span>
        <Which
          label="grows about"
          any="nothing: by its density"
          value={about?.species}
          list={before}
          onPick={(id) =>
            set({ about: id ? { chance: 0.5, count: [2, 5], spread: Math.max(2, species.clearance * 2), ...about, species: id } : null }, 'cluster')
          }
        />
      </label>
      {about && <ClusterFields of={about} onSet={put} />}
    </div>
  );
}
