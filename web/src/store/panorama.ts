import { pictureGlb, pictureOf } from '@rammer/core/io/referenceGlb';
import type { AssetSummary } from '@rammer/core/kit/summary';
import type { Panorama } from '@rammer/core/light/panorama';
import type { Vec3 } from '@rammer/core/num/vec';
import { call, LONG } from '../outbox/api';
import { assetWorker } from '../workers/pool';
import { newId } from './names';
import type { Session } from './session';

/** A panorama that is in the level now, and where its sun stands. */
export interface AddedPanorama {
  asset: string;
  sun?: Vec3;
}

/** Reads a panorama, keeps it on the server and names it in the level. @throws Error in words */
export async function addPanorama(session: Session, file: File): Promise<AddedPanorama> {
  const { png, sun } = await assetWorker().readPanorama(file);
  const name = file.name.replace(/\.[a-z0-9]+$/i, '').slice(0, 100) || 'panorama';
  const made = await pictureGlb(png, name);
  if (!made.ok) throw new Error(made.message);
  const { hash } = await call<AssetSummary>('POST', `/api/assets?name=${encodeURIComponent(name)}`, made.value.bytes, { type: 'model/gltf-binary', ...LONG });
  const id = newId('asset');
  if (!session.commit({ kind: 'add', objects: [{ id, version: 1, kind: 'asset', name, role: 'reference', hash }] }, `add panorama ${name}`))
    throw new Error(session.message?.text ?? 'it was not kept');
  return { asset: id, ...(sun ? { sun } : {}) };
}

const read = new Map<string, Promise<Panorama>>();

/** A panorama by the hash of its asset; unpacked once a page. */
export function panorama(hash: string): Promise<Panorama> {
  let found = read.get(hash);
  if (!found) {
    found = fetch(`/api/assets/${hash}`).then(async (answer) => {
      if (!answer.ok) throw new Error('the panorama is not on the server');
      const picture = await pictureOf(new Uint8Array(await answer.arrayBuffer()));
      if (!picture.ok) throw new Error(picture.message);
      return assetWorker().unpackPanorama(picture.value);
    });
    found.catch(() => read.delete(hash));
    read.set(hash, found);
  }
  return found;
}
