import { habitatIn, keepHabitat, type KeptHabitat } from '@rammer/core/growth/keptHabitat';
import type { AssetSummary } from '@rammer/core/kit/summary';
import { assetHashes } from '@rammer/core/level/kinds/asset';
import type { Habitat } from '@rammer/core/level/objects';
import { call, LONG } from '../outbox/api';
import { keepOwn, useOwnHabitats } from '../store/ownHabitats';
import type { Session } from '../store/session';
import { download, slug } from '../ui/download';
import { exportWorker } from '../workers/pool';

/** The largest file that is read, bytes: a package of that many is a large level with all its meshes. */
const MOST_BYTES = 256 << 20;

/** Hands a habitat out as a file, with its species and their meshes: a level package of its own. What is wrong is said. */
export async function saveHabitatFile(session: Session, habitat: Habitat): Promise<void> {
  const kept = keepHabitat(session.level, habitat);
  try {
    const meshes = new Map<string, Uint8Array>();
    for (const o of kept) {
      if (o.kind !== 'asset') continue;
      for (const hash of assetHashes(o)) {
        const answer = await fetch(`/api/assets/${hash}`);
        if (answer.ok) meshes.set(hash, new Uint8Array(await answer.arrayBuffer()));
        else if (hash === o.hash) throw new Error(`the mesh of ${o.name} is not there`);
      }
    }
    const zip = await exportWorker().habitat(kept, meshes);
    download(zip as BlobPart, 'application/zip', `${slug(habitat.name)}.rammer.zip`);
    session.say(`${habitat.name} is saved with ${meshes.size === 1 ? '1 mesh' : `${meshes.size} meshes`}: read it in another Rammer with add, from a file`);
  } catch (error) {
    session.say(`${habitat.name} is not saved: ${(error as Error).message}`, true);
  }
}

/** Keeps the habitats of a level package as recipes; meshes that the server has not are sent to it first. What is wrong is said. */
export async function readHabitatFile(session: Session, file: File): Promise<void> {
  const refuse = (why: string) => session.say(`${file.name}: ${why}`, true);
  if (file.size > MOST_BYTES) return refuse(`it has ${file.size >> 20} MB, at most ${MOST_BYTES >> 20} are read`);
  try {
    const read = await exportWorker().habitats(new Uint8Array(await file.arrayBuffer()));
    if (!read.ok) return refuse(read.message);
    const { habitats, meshes } = read.value;
    const names = new Map(habitats.flat().flatMap((o) => (o.kind === 'asset' ? [[o.hash, o.name] as const] : [])));
    const known = new Set((await call<AssetSummary[]>('GET', '/api/assets')).map((a) => a.hash));
    /** those that the server knows by another hash */
    const renamed = new Map<string, string>();
    for (const [hash, bytes] of meshes) {
      if (known.has(hash)) continue;
      const name = names.get(hash);
      // What another mesh only came from is in no library.
      const query = name === undefined ? 'name=source&source=1' : `name=${encodeURIComponent(name.slice(0, 110))}`;
      const sent = await call<AssetSummary>('POST', `/api/assets?${query}`, bytes, { type: 'model/gltf-binary', ...LONG });
      if (sent.hash !== hash) renamed.set(hash, sent.hash);
    }
    const told = habitats.map((kept) => keepNew(kept.map((o) => (o.kind === 'asset' ? { ...o, hash: renamed.get(o.hash) ?? o.hash } : o))));
    session.say(`kept from ${file.name}: ${told.join(', ')}. They stand beside add above`);
  } catch (error) {
    refuse((error as Error).message);
  }
}

/** Keeps one under a name that none of another content has. @returns that name */
function keepNew(kept: KeptHabitat): string {
  const { list } = useOwnHabitats.getState();
  const { name: wanted } = habitatIn(kept);
  const named = (name: string) => kept.map((o) => (o.kind === 'habitat' ? { ...o, name } : o));
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted.slice(0, 110)} ${n}`;
    const there = list.find((o) => habitatIn(o).name === name);
    if (there && JSON.stringify(there) !== JSON.stringify(named(name))) continue;
    keepOwn(named(name));
    return name;
  }
}
