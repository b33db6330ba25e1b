import { insertInOrder, moveInOrder } from '@rammer/core/level/ordered';
import { groundRulesOf, ofKind, speciesOf, type Level } from '@rammer/core/level/level';
import { MOST_SURFACES, PIXELS, type GroundRule, type Surface, type TextureName } from '@rammer/core/level/objects';
import { surfaceFrom, surfacesOf } from '@rammer/core/surface/surfaces';
import type { Kept } from '../store/pictures';
import type { Session } from '../store/session';
import { useGround } from '../store/groundDraft';
import { newId, nextName } from '../store/names';

/** Adds a surface at the end of the list and takes it to paint with. */
export function addSurface(session: Session, texture: TextureName): void {
  const list = ofKind(session.level, 'surface').sort((a, b) => a.order - b.order);
  if (list.length >= MOST_SURFACES) {
    session.say(`a level has at most ${MOST_SURFACES} surfaces: delete one first`, true);
    return;
  }
  const name = list.some((s) => s.name === texture) ? nextName(session.level, texture) : texture;
  const made = surfaceFrom(newId('surface'), name, 0, texture);
  if (session.commit(insertInOrder(list, made, list.length), `add ${name}`)) useGround.setState({ surface: made.id });
}

export function copySurface(session: Session, surface: Surface): void {
  const { surfaces } = surfacesOf(session.level);
  if (surfaces.length >= MOST_SURFACES) {
    session.say(`a level has at most ${MOST_SURFACES} surfaces: delete one first`, true);
    return;
  }
  const made = { ...surface, id: newId('surface'), version: 1, name: nextName(session.level, surface.name.replace(/ \d+$/, '')) };
  if (session.commit(insertInOrder(surfaces, made, surfaces.indexOf(surface) + 1), `duplicate ${surface.name}`)) useGround.setState({ surface: made.id });
}

/** The asset of the picture a surface wears, where nothing else in the level names it. */
export function onlyWornBy(level: Level, surface: Surface): string[] {
  const { picture } = surface;
  if (picture === undefined || level.object(picture)?.kind !== 'asset') return [];
  const others = [
    ...ofKind(level, 'surface')
      .filter((s) => s.id !== surface.id)
      .map((s) => s.picture),
    ...ofKind(level, 'reference').map((r) => r.asset),
  ];
  return others.includes(picture) ? [] : [picture];
}

/** Has a surface wear another picture, with as many pixels as that has, or its texture again. @param worn new to the level */
export function setPicture(session: Session, surface: Surface, worn?: Kept): boolean {
  const before = onlyWornBy(session.level, surface);
  return session.commit(
    {
      kind: 'together',
      parts: [
        ...(worn ? [{ kind: 'add' as const, objects: [worn.asset] }] : []),
        { kind: 'set', patches: [{ id: surface.id, set: worn ? { picture: worn.asset.id, pixels: pixelsOf(worn) } : { picture: null } }] },
        ...(before.length > 0 ? [{ kind: 'remove' as const, ids: before }] : []),
      ],
    },
    `picture of ${surface.name}`,
  );
}

/** The most pixels a side that a picture is good for. */
const pixelsOf = ({ width, height }: { width: number; height: number }) => PIXELS.findLast((p) => p <= Math.min(width, height)) ?? PIXELS[0];

/** Deletes a surface with its paint, unless something still names it. */
export function removeSurface(session: Session, surface: Surface): void {
  const { level } = session;
  const rule = groundRulesOf(level).find((r) => r.surface === surface.id);
  const route = ofKind(level, 'lift').find((l) => l.lift === 'route' && l.ground === surface.id);
  const species = speciesOf(level).find((s) => s.rule.grounds.includes(surface.id));
  const user = rule ? `the rule ${rule.name}` : route ? `the route ${route.name}` : species ? `the growth rule of ${species.name}` : undefined;
  if (user) session.say(`${surface.name} is used by ${user}: change that first`, true);
  else if (surfacesOf(level).surfaces.length === 1) session.say('a level has at least one surface', true);
  else session.commit({ kind: 'remove', ids: [surface.id, ...onlyWornBy(level, surface)] }, `delete ${surface.name}`);
}

export function placeSurface(session: Session, surface: Surface, to: number): void {
  const edit = moveInOrder(surfacesOf(session.level).surfaces, surface.id, to);
  if (edit) session.commit(edit, `move ${surface.name} in the list`);
}

/** Adds a rule over all others. */
export function addRule(session: Session, surface: Surface): void {
  const rules = groundRulesOf(session.level);
  const made: GroundRule = {
    id: newId('rule'),
    version: 1,
    kind: 'groundRule',
    name: nextName(session.level, surface.name),
    order: 0,
    surface: surface.id,
    share: 1,
    where: [{ by: 'slope', band: [35, 90], soft: 8 }],
    wins: false,
    on: true,
  };
  if (session.commit(insertInOrder(rules, made, rules.length), `add the rule ${made.name}`)) useGround.setState({ groundRule: made.id });
}

export function copyRule(session: Session, rule: GroundRule): void {
  const rules = groundRulesOf(session.level);
  const made = { ...rule, id: newId('rule'), version: 1, name: nextName(session.level, rule.name.replace(/ \d+$/, '')) };
  if (session.commit(insertInOrder(rules, made, rules.findIndex((r) => r.id === rule.id) + 1), `duplicate ${rule.name}`))
    useGround.setState({ groundRule: made.id });
}

/** @param set fields; `null` takes an optional one away: what is undefined would be lost on its way to the server */
export const setRule = (
  session: Session,
  rule: GroundRule,
  set: { [F in keyof GroundRule]?: Exclude<GroundRule[F], undefined> | null },
  label: string,
): boolean => session.commit({ kind: 'set', patches: [{ id: rule.id, set }] }, label);

/** Has a rule lay another surface. One that is named after the old one is named after the new one. */
export function laySurface(session: Session, rule: GroundRule, surface: string): void {
  const [old, now] = [session.level.object(rule.surface)?.name, session.level.object(surface)?.name];
  const named = old !== undefined && now !== undefined && rule.name.replace(/ \d+$/, '') === old;
  setRule(session, rule, { surface, ...(named ? { name: nextName(session.level, now) } : {}) }, `surface of ${rule.name}`);
}

export const removeRule = (session: Session, rule: GroundRule): boolean => session.commit({ kind: 'remove', ids: [rule.id] }, `delete the rule ${rule.name}`);

/** @param to place among the rules, 0 the lowest */
export function placeRule(session: Session, rule: GroundRule, to: number): void {
  const edit = moveInOrder(groundRulesOf(session.level), rule.id, to);
  if (edit) session.commit(edit, `move the rule ${rule.name}`);
}
