import type { Cover, Species, Surface } from '@rammer/core/level/objects';
import { ofKind, type Level } from '@rammer/core/level/level';
import { newId } from '../store/names';
import { usePlanting } from '../store/planting';
import type { Session } from '../store/session';

/** So dense a cover begins, plants on 100 m2; what grows sparsely by its rule covers as sparsely. */
const BEGINS = 120;

/** What covers the ground of a level, off or on, in the order it was added. */
export const allCovers = (level: Level): Cover[] => ofKind(level, 'cover').sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));

/** The cover that is worked on: the one picked, else the first. */
export function coverAtHand(level: Level): Cover | undefined {
  const list = allCovers(level);
  return list.find((c) => c.id === usePlanting.getState().cover) ?? list[0];
}

/** Lets a species cover a surface; it is taken in hand. */
export function addCover(session: Session, species: Species, surface: Surface): boolean {
  const list = allCovers(session.level);
  const there = list.find((c) => c.surface === surface.id && c.species === species.id);
  if (there) {
    usePlanting.setState({ cover: there.id });
    session.say(`${species.name} covers ${surface.name} already: set its density`, true);
    return false;
  }
  const made: Cover = {
    id: newId('cover'),
    version: 1,
    kind: 'cover',
    name: `${species.name} on ${surface.name}`,
    order: (list[list.length - 1]?.order ?? -1) + 1,
    surface: surface.id,
    species: species.id,
    density: Math.max(BEGINS, species.density),
    on: true,
  };
  if (!session.commit({ kind: 'add', objects: [made] }, `cover ${surface.name} with ${species.name}`)) return false;
  usePlanting.setState({ cover: made.id, species: species.id });
  return true;
}

export const setCover = (session: Session, cover: Cover, set: Partial<Cover>, words: string): boolean =>
  session.commit({ kind: 'set', patches: [{ id: cover.id, set }] }, `${words} of ${cover.name}`);

export const removeCover = (session: Session, cover: Cover): boolean => session.commit({ kind: 'remove', ids: [cover.id] }, `delete ${cover.name}`);
