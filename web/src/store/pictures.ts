import { pictureGlb, pictureOf } from '@rammer/core/io/referenceGlb';
import type { AssetSummary } from '@rammer/core/kit/summary';
import type { AssetObject } from '@rammer/core/level/objects';
import { newId } from './names';
import { call, LONG } from '../outbox/api';
import type { Session } from './session';

/** Longest side a picture is kept at, pixels. */
const LONGEST = 2048;
const shown = new Map<string, Promise<string>>();

/** A URL of the picture that an asset carries; made once a page. */
export function pictureUrl(hash: string): Promise<string> {
  let found = shown.get(hash);
  if (!found) {
    found = fetch(`/api/assets/${hash}`).then(async (answer) => {
      if (!answer.ok) throw new Error('the picture is not on the server');
      const picture = await pictureOf(new Uint8Array(await answer.arrayBuffer()));
      if (!picture.ok) throw new Error(picture.message);
      return URL.createObjectURL(new Blob([picture.value as BlobPart], { type: 'image/png' }));
    });
    found.catch(() => shown.delete(hash));
    shown.set(hash, found);
  }
  return found;
}

/** A picture that is on the server, and the object that is to name it in the level. */
export interface Kept {
  asset: AssetObject;
  width: number;
  height: number;
}

/** Reads any picture the browser knows and keeps it as PNG on the server. @throws Error in words */
export async function keepPicture(file: File): Promise<Kept> {
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error('it is no picture that this browser can read: PNG, JPEG and WebP are');
  });
  const k = Math.min(1, LONGEST / Math.max(bitmap.width, bitmap.height));
  const canvas = new OffscreenCanvas(Math.max(1, Math.round(bitmap.width * k)), Math.max(1, Math.round(bitmap.height * k)));
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  const png = new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
  const name = file.name.replace(/\.[a-z0-9]+$/i, '').slice(0, 100) || 'picture';
  const made = await pictureGlb(png, name);
  if (!made.ok) throw new Error(made.message);
  const { hash } = await call<AssetSummary>('POST', `/api/assets?name=${encodeURIComponent(name)}`, made.value.bytes, { type: 'model/gltf-binary', ...LONG });
  return { asset: { id: newId('asset'), version: 1, kind: 'asset', name, role: 'reference', hash }, width: made.value.width, height: made.value.height };
}

/** Adds a reference picture to the level. @throws Error in words */
export async function addReference(session: Session, file: File): Promise<string> {
  const { asset, width, height } = await keepPicture(file);
  const id = newId('reference');
  const done = session.commit(
    {
      kind: 'add',
      objects: [
        asset,
        {
          id,
          version: 1,
          kind: 'reference',
          name: asset.name,
          asset: asset.id,
          size: [width, height],
          mode: 'overlay',
          opacity: 0.5,
          roll: 0,
          turn: 0,
          height: 3,
        },
      ],
    },
    `add reference ${asset.name}`,
  );
  if (!done) throw new Error(session.message?.text ?? 'it was not kept');
  return id;
}
