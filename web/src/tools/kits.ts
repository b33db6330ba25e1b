import { likelyPitch, partOf, useOf } from '@rammer/core/kit/joins';
import { assetBounds, type Asset } from '@rammer/core/kit/asset';
import type { AssetSummary } from '@rammer/core/kit/summary';
import { ofKind } from '@rammer/core/level/level';
import type { AssetObject, Kit, LevelObject, Part } from '@rammer/core/level/objects';
import { assetFile } from '../store/assetFile';
import { useLaying } from '../store/laying';
import { newId, nextName } from '../store/names';
import type { Session } from '../store/session';
import { assetObjectFor } from './pieceTool';

type Member = Pick<AssetSummary, 'hash' | 'name' | 'role' | 'tags'>;

/** Meshes of the library that would make a kit: by the kit they say they belong to, or by a tag that several of them share. */
export function kitSources<E extends Member & { kit?: string }>(entries: readonly E[]): { name: string; members: E[] }[] {
  const groups = new Map<string, E[]>();
  for (const e of entries) {
    if (e.role !== 'piece') continue;
    for (const name of new Set([...(e.kit ? [e.kit] : []), ...e.tags])) groups.set(name, [...(groups.get(name) ?? []), e]);
  }
  const laid = (list: E[]) => list.some((e) => useOf(e) === 'wall' || useOf(e) === 'post');
  return [...groups]
    .filter(([, members]) => laid(members))
    .map(([name, members]) => ({ name, members }))
    .sort((a, b) => b.members.length - a.members.length || a.name.localeCompare(b.name));
}

/** Floor to floor: the commonest height of walls over their pivot, to a tenth of a metre. */
function likelyStorey(walls: readonly Asset[]): number {
  const tops = walls.map((a) => Math.round(assetBounds(a).max[1] * 10) / 10).filter((h) => h > 0.1);
  const count = (h: number) => tops.filter((t) => t === h).length;
  return tops.sort((a, b) => count(b) - count(a))[0] ?? 3;
}

/** Makes a kit of meshes of the library: measured, their joins found. One edit; says what could not be read. @returns its id */
export async function makeKit(session: Session, name: string, members: readonly Member[]): Promise<string | undefined> {
  let read: Asset[];
  try {
    read = await Promise.all(members.map((m) => assetFile(m.hash)));
  } catch (error) {
    session.say(`no kit was made: ${(error as Error).message}`, true);
    return undefined;
  }
  const walls = read.filter((a) => useOf(a) === 'wall');
  const pitch = likelyPitch(walls.length > 0 ? walls : read);
  const objects = new Map<string, AssetObject>();
  const parts = members.map((m, i) => {
    const { object, there } = assetObjectFor({ session }, m.hash, m);
    if (!there) objects.set(object.id, object);
    return partOf(object.id, read[i], pitch);
  });
  const kits = ofKind(session.level, 'kit');
  const called = kits.some((k) => k.name === name) ? nextName(session.level, name) : name;
  const kit: Kit = { id: newId('kit'), version: 1, kind: 'kit', name: called, pitch, storey: likelyStorey(walls), stretch: [0.8, 1.25], parts };
  if (!session.commit({ kind: 'add', objects: [...objects.values(), kit] as LevelObject[] }, `make the kit ${called}`)) return undefined;
  useLaying.setState({ kit: kit.id });
  return kit.id;
}

/** Adds a mesh of the library to a kit. One edit. */
export async function addPart(session: Session, kit: Kit, member: Member): Promise<boolean> {
  try {
    const asset = await assetFile(member.hash);
    const { object, there } = assetObjectFor({ session }, member.hash, member);
    const parts = [...kit.parts, partOf(object.id, asset, kit.pitch)];
    const set = { kind: 'set' as const, patches: [{ id: kit.id, set: { parts } }] };
    return session.commit(there ? set : { kind: 'together', parts: [{ kind: 'add', objects: [object] }, set] }, `${member.name} into ${kit.name}`);
  } catch (error) {
    session.say((error as Error).message, true);
    return false;
  }
}

export const setKit = (session: Session, kit: Kit, set: Partial<Kit>, what: string): boolean =>
  session.commit({ kind: 'set', patches: [{ id: kit.id, set }] }, `${what} of ${kit.name}`);

/** Gives one part of a kit other fields. One edit. */
export const setPart = (session: Session, kit: Kit, index: number, set: Partial<Part>, what: string): boolean =>
  setKit(session, kit, { parts: kit.parts.map((p, i) => (i === index ? { ...p, ...set } : p)) }, what);

/** Deletes a kit that no line is laid from. */
export function removeKit(session: Session, kit: Kit): void {
  const line = ofKind(session.level, 'laidLine').find((l) => l.kit === kit.id);
  if (line) session.say(`${kit.name} is used by ${line.name}: give that another kit, or delete it first`, true);
  else session.commit({ kind: 'remove', ids: [kit.id] }, `delete ${kit.name}`);
}
