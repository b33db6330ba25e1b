import { meshesOf } from '@rammer/core/growth/meshes';
import { speciesFrom } from '@rammer/core/growth/shippedSpecies';
import { ofKind } from '@rammer/core/level/level';
import type { AssetSummary } from '@rammer/core/kit/summary';
import type { AssetFactsSet } from '@rammer/core/level/kinds/asset';
import type { AssetObject } from '@rammer/core/level/objects';
import { call } from '../outbox/api';
import { newId, nextName } from '../store/names';
import type { Session } from '../store/session';
import { assetObjectFor } from './pieceTool';

/** The asset object of the level for an asset of the library; made where the level has none yet. */
export function assetHere(session: Session, asset: Pick<AssetSummary, 'hash' | 'name' | 'role'>): AssetObject | undefined {
  const there = ofKind(session.level, 'asset').find((a) => a.hash === asset.hash);
  if (there) return there;
  const object: AssetObject = { id: newId('asset'), version: 1, kind: 'asset', name: asset.name, role: asset.role, hash: asset.hash };
  return session.commit({ kind: 'add', objects: [object] }, `take ${asset.name} into the level`) ? object : undefined;
}

/** What the level says of an asset: every use follows. */
export function setFacts(session: Session, object: AssetObject, facts: Partial<AssetFactsSet>, what: string): boolean {
  const next = Object.fromEntries(Object.entries({ ...object.facts, ...facts }).filter(([, v]) => v !== undefined)) as AssetFactsSet;
  return session.commit({ kind: 'set', patches: [{ id: object.id, set: { facts: next } }] }, `${what} of ${object.name}`);
}

/**
 * Sets one asset in the place of another wherever it stands or grows; poses stay. One edit.
 *
 * @returns how many of each follow
 */
export function replaceEverywhere(session: Session, from: AssetObject, by: AssetObject): { pieces: number; species: number } | undefined {
  const pieces = ofKind(session.level, 'piece').filter((p) => p.asset === from.id);
  const species = ofKind(session.level, 'species').filter((s) => meshesOf(s).some((m) => m.asset === from.id));
  const patches = [
    ...pieces.map((o) => ({ id: o.id, set: { asset: by.id } })),
    ...species.map((s) => ({
      id: s.id,
      set: {
        ...(s.asset === from.id ? { asset: by.id } : {}),
        ...(s.meshes ? { meshes: s.meshes.map((m) => (m.asset === from.id ? { ...m, asset: by.id } : m)) } : {}),
      },
    })),
  ];
  if (patches.length === 0 || !session.commit({ kind: 'set', patches }, `replace ${from.name} by ${by.name}`)) return undefined;
  return { pieces: pieces.length, species: species.length };
}

/** Deletes a mesh that no level uses from the library. @throws Error in words for the person */
export const deleteFromLibrary = (hash: string): Promise<unknown> => call('DELETE', `/api/assets/${hash}`);

/**
 * A species that grows from an asset: the one there is, or a new one with settings to start from. One edit.
 *
 * @param byRule a new one grows by its rule where that is on to start with; else only where it is set
 * @returns its id
 */
export function growFrom(session: Session, asset: Pick<AssetSummary, 'hash' | 'name' | 'role' | 'authored' | 'size'>, byRule = true): string | undefined {
  const { object, there } = assetObjectFor({ session }, asset.hash, asset);
  const list = ofKind(session.level, 'species');
  const same = list.find((s) => s.asset === object.id);
  if (same) return same.id;
  const order = Math.max(-1, ...list.map((s) => s.order)) + 1;
  const from = speciesFrom(
    { id: object.id, name: asset.name, ...(asset.authored ? { size: asset.size, role: asset.role } : {}) },
    newId('species'),
    order,
    Math.floor(Math.random() * 1e6),
  );
  const made = {
    ...from,
    rule: { ...from.rule, on: byRule && from.rule.on },
    name: list.some((s) => s.name === asset.name) ? nextName(session.level, asset.name) : asset.name,
  };
  return session.commit({ kind: 'add', objects: there ? [made] : [object, made] }, `add ${made.name}`) ? made.id : undefined;
}
