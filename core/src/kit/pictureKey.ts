import { hashBytes } from '../num/hash';
import type { AssetTexture } from './material';

const known = new WeakMap<AssetTexture, string>();

/** What tells one picture from another, whatever assets carry it: the same bytes are one picture on the GPU. Worked out once. */
export function pictureKey(picture: AssetTexture): string {
  let key = known.get(picture);
  if (key === undefined) known.set(picture, (key = `picture/${hashBytes(picture.bytes)}`));
  return key;
}
