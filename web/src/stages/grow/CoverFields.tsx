import { useState } from 'react';
import { COVER_RINGS } from '@rammer/core/growth/cover/coverCell';
import { COVER_REACH, coverReach, MOST_COVER } from '@rammer/core/growth/cover/coverSpecies';
import { speciesOf } from '@rammer/core/level/level';
import type { Species } from '@rammer/core/level/objects';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import type { Session } from '../../store/session';
import { speciesAtHand } from '../../store/planting';
import { addCover, allCovers, coverAtHand, setCover } from '../../tools/covers';
import { NumberField } from '../../ui/NumberField';
import { Which } from '../surface/ConditionExtras';

/** How far cover of a species is drawn, and where it thins. */
function drawnText(species: Species): string {
  const reach = coverReach(species);
  const why = species.cutoff > 0 && species.cutoff <= COVER_REACH ? 'Its cut-off says so.' : `Cover goes no farther than ${COVER_REACH} m.`;
  const [, half, all] = COVER_RINGS;
  return `Drawn ${reach} m far: half of it from ${(reach * all.reach).toFixed(0)} m on, a quarter from ${(reach * half.reach).toFixed(0)} m on. ${why}`;
}

/** Adds ground cover, and sets the one at hand: which species, on which surface, how densely. */
export function CoverFields({ session }: { session: Session }) {
  const species = speciesOf(session.level);
  const { surfaces } = surfacesOf(session.level);
  const cover = coverAtHand(session.level);
  const of = species.find((s) => s.id === cover?.species);
  const all = allCovers(session.level).reduce((sum, c) => sum + (c.on && c.surface === cover?.surface ? c.density : 0), 0);
  return (
    <>
      <AddCover session={session} />
      {cover && (
        <div className="grid gap-1.5 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }} role="group" aria-label={cover.name}>
          <div className="flex items-center gap-1.5">
            <Which
              label="species of the cover"
              value={cover.species}
              list={of ? species : [{ id: cover.species, name: 'a species that is gone' }, ...species]}
              onPick={(id) => id && setCover(session, cover, { species: id }, 'species')}
            />
            <span className="label">on</span>
            <Which
              label="surface of the cover"
              value={cover.surface}
              list={surfaces.some((s) => s.id === cover.surface) ? surfaces : [{ id: cover.surface, name: 'a surface that is gone' }, ...surfaces]}
              onPick={(id) => id && setCover(session, cover, { surface: id }, 'surface')}
            />
          </div>
          <div className="flex items-center justify-between">
            <NumberField
              label="density"
              value={cover.density}
              min={0}
              max={4000}
              step={20}
              digits={1}
              onCommit={(density) => setCover(session, cover, { density }, 'density')}
            />
            <span className="label">on 100 m² of it</span>
          </div>
          {all > MOST_COVER && (
            <p
              className="m-0"
              style={{ color: 'var(--ochre-text)' }}
            >{`All cover of it would be ${all} on 100 m²: each is so much thinner that it is ${MOST_COVER}.`}</p>
          )}
          {of && <p className="label m-0">{drawnText(of)}</p>}
        </div>
      )}
    </>
  );
}

function AddCover({ session }: { session: Session }) {
  const species = speciesOf(session.level);
  const { surfaces } = surfacesOf(session.level);
  const [surface, setSurface] = useState<string>();
  const [picked, setPicked] = useState<string>();
  const of = species.find((s) => s.id === picked) ?? speciesAtHand(session.level);
  const on = surfaces.find((s) => s.id === surface) ?? surfaces[0];
  if (!of || !on) return <p className="label m-0 px-3 py-2">A cover is a species on a surface: pick a plant in the library under species first.</p>;
  return (
    <div className="flex items-center gap-1.5 px-3 py-2" role="group" aria-label="add ground cover">
      <Which label="which species" value={of.id} list={species} onPick={(id) => setPicked(id)} />
      <span className="label">on</span>
      <Which label="which surface" value={on.id} list={surfaces} onPick={(id) => setSurface(id)} />
      <button className="act" style={{ padding: '0 7px', minHeight: 24 }} onClick={() => addCover(session, of, on)}>
        add
      </button>
    </div>
  );
}
