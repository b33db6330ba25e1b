import { readdirSync, readFileSync } from 'node:fs';
import type { AssetObject } from '@rammer/core/level/objects';
import { sha256 } from '@rammer/core/num/sha256';

/** The files of demo/kit as asset objects (`kit-door-wall`, `plant-birch`) with their bytes. */
export function shippedAssets(): { object: AssetObject; bytes: Uint8Array }[] {
  const folder = new URL('../kit/', import.meta.url);
  return readdirSync(folder)
    .filter((f) => f.endsWith('.glb'))
    .sort()
    .map((file) => {
      const bytes = new Uint8Array(readFileSync(new URL(file, folder)));
      const [, number, name] = /^(\d+)-(.+)\.glb$/.exec(file)!;
      const role = Number(number) <= 6 ? 'piece' : 'plant';
      return {
        bytes,
        object: { id: `${role === 'piece' ? 'kit' : 'plant'}-${name}`, version: 1, kind: 'asset', name: name.replace(/-/g, ' '), role, hash: sha256(bytes) },
      };
    });
}
