import { X } from 'lucide-react';
import { habitatIn } from '@rammer/core/growth/keptHabitat';
import { HABITAT_RECIPES } from '@rammer/core/growth/habitatRecipes';
import type { Habitat } from '@rammer/core/level/objects';
import { signedArea } from '@rammer/core/num/outline';
import { forgetOwn, useOwnHabitats } from '../../store/ownHabitats';
import type { Session } from '../../store/session';
import { addHabitat, addKept, keepHabitatHere, setHabitat } from '../../tools/habitats';
import { readHabitatFile, saveHabitatFile } from '../../tools/habitatFiles';
import { paintFromPicture } from '../../tools/habitatPicture';
import { FileButton } from '../../ui/FileButton';
import { NumberField } from '../../ui/NumberField';
import { WhereFields } from './WhereFields';

const CHIP = { padding: '0 7px', minHeight: 24 };

/** Adds a habitat: with rules of what usually grows together, or with none. */
export function AddHabitat({ session }: { session: Session }) {
  const own = useOwnHabitats((s) => s.list);
  return (
    <div className="flex flex-wrap items-center gap-1.5 px-3 py-2" role="group" aria-label="add a habitat">
      <span className="label">add</span>
      {HABITAT_RECIPES.map(({ name }) => (
        <button key={name} className="act" style={CHIP} onClick={() => addHabitat(session, name)}>
          {name}
        </button>
      ))}
      {own.map((kept) => {
        const { name, rules } = habitatIn(kept);
        return (
          <span key={name} className="inline-flex">
            <button className="act" style={CHIP} title={`kept by you: ${rules.map((r) => r.name).join(', ')}`} onClick={() => addKept(session, kept)}>
              {name}
            </button>
            <button
              className="icon-btn"
              style={{ width: 18 }}
              aria-label={`forget ${name}`}
              title="keep it no more; levels that have it keep theirs"
              onClick={() => forgetOwn(name)}
            >
              <X size={12} />
            </button>
          </span>
        );
      })}
      <button className="act" style={CHIP} title="without rules" onClick={() => addHabitat(session)}>
        empty
      </button>
      <FileButton
        words="from a file"
        label="file with habitats"
        accept=".zip"
        title="habitats that were saved as a file, or those of a level package (.rammer.zip): they are kept here to be added"
        onFile={(file) => readHabitatFile(session, file)}
      />
    </div>
  );
}

/** Where the habitat at hand lies: drawn, painted, by conditions, or wherever no earlier one does. */
export function HabitatFields({ session, habitat }: { session: Session; habitat: Habitat }) {
  const set = (fields: Partial<Habitat>, what: string) => setHabitat(session, habitat, fields, `${what} of ${habitat.name}`);
  return (
    <div className="grid gap-1.5 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }} role="group" aria-label={`where ${habitat.name} lies`}>
      <div className="flex items-center gap-1.5">
        <span className="label">lies</span>
        {(
          [
            ['rest', 'on the rest', 'wherever no earlier habitat lies'],
            ['drawn', 'where drawn', 'inside its outlines and where it is painted'],
          ] as const
        ).map(([area, name, title]) => (
          <button key={area} className="act" style={CHIP} title={title} aria-pressed={habitat.area === area} onClick={() => set({ area }, 'area')}>
            {name}
          </button>
        ))}
      </div>
      {habitat.area === 'drawn' && (
        <>
          <NumberField label="border over" value={habitat.soft} unit="m" min={0} max={200} step={1} digits={1} onCommit={(soft) => set({ soft }, 'border')} />
          {habitat.outlines.map((o, i) => (
            <div key={i} className="flex items-center gap-1.5">
              <span className="label">{`outline ${i + 1}`}</span>
              <span className="fig">{`${Math.abs(signedArea(o)).toFixed(0)} m²`}</span>
              <button
                className="icon-btn ml-auto"
                style={{ width: 20 }}
                aria-label={`delete outline ${i + 1}`}
                onClick={() => set({ outlines: habitat.outlines.filter((_, k) => k !== i) }, 'outline')}
              >
                <X size={13} />
              </button>
            </div>
          ))}
          {habitat.outlines.length === 0 && <p className="label m-0">Draw an outline, or paint it: both tools are above.</p>}
          <div>
            <FileButton
              words="paint from a picture"
              label={`picture that ${habitat.name} is painted from`}
              accept="image/*"
              title="bright is of the habitat, dark is not; it lies over the whole level, its top in the north"
              onFile={(file) => paintFromPicture(session, habitat, file)}
            />
          </div>
        </>
      )}
      <div className="flex flex-wrap gap-1.5">
        <button
          className="act"
          style={CHIP}
          disabled={habitat.rules.length === 0}
          title="its rules with their species, to be added in other levels; outlines stay here"
          onClick={() => keepHabitatHere(session, habitat)}
        >
          keep as a recipe
        </button>
        <button
          className="act"
          style={CHIP}
          disabled={habitat.rules.length === 0}
          title="the same with its meshes, to be read in another Rammer"
          onClick={() => void saveHabitatFile(session, habitat)}
        >
          save as a file
        </button>
      </div>
      <WhereFields
        session={session}
        name={habitat.name}
        where={habitat.where ?? []}
        before={[]}
        onSet={(where) => setHabitat(session, habitat, { where: where ?? null }, `conditions of ${habitat.name}`)}
      />
    </div>
  );
}
