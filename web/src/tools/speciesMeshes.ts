import { meshesOf } from '@rammer/core/growth/meshes';
import { MOST_MESHES, type Species } from '@rammer/core/level/objects';
import type { AssetSummary } from '@rammer/core/kit/summary';
import type { Session } from '../store/session';
import { assetObjectFor } from './pieceTool';

/** Gives a species one mesh more, as often as its own. One edit, with the mesh where the level has it not yet. */
export function addMesh(session: Session, species: Species, asset: Pick<AssetSummary, 'hash' | 'name' | 'role'>): boolean {
  const { object, there } = assetObjectFor({ session }, asset.hash, asset);
  const list = meshesOf(species);
  if (list.some((m) => m.asset === object.id)) {
    session.say(`${species.name} has ${asset.name} already: set its weight`, true);
    return false;
  }
  if (list.length >= MOST_MESHES) {
    session.say(`a species has at most ${MOST_MESHES} meshes: take one out first`, true);
    return false;
  }
  const meshes = [...(species.meshes ?? []), { asset: object.id, weight: species.weight ?? 1 }];
  const set = { kind: 'set' as const, patches: [{ id: species.id, set: { meshes } }] };
  const words = `${asset.name} as a mesh of ${species.name}`;
  return session.commit(there ? set : { kind: 'together', parts: [{ kind: 'add', objects: [object] }, set] }, words);
}

/** Sets how often a species has each of its meshes, its own first; what has none any more is taken out. */
export function setMeshes(session: Session, species: Species, list: readonly { asset: string; weight: number }[], words: string): boolean {
  const [own, ...others] = list;
  const set = { asset: own.asset, weight: own.weight === 1 ? null : own.weight, meshes: others.length > 0 ? others : null };
  return session.commit({ kind: 'set', patches: [{ id: species.id, set }] }, `${words} of ${species.name}`);
}
