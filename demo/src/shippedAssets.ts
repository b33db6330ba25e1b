import { readdirSync, readFileSync } from 'node:fs';
import type { AssetObject } from '@rammer/core/level/objects';
import { sha256 } from '@rammer/core/num/sha256';

interface Shipped {
  object: AssetObject;
  bytes: Uint8Array;
}

/** Name and role as a GLB's own scene says them. */
function said(bytes: Uint8Array): { name: string; role: AssetObject['role'] } {
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
  const [scene] = json.scenes;
  return { name: scene.name, role: scene.extras.rammer.role };
}

function shipped(folder: URL, idOf: (name: string, role: AssetObject['role']) => string): Shipped[] {
  return readdirSync(folder)
    .filter((f) => f.endsWith('.glb'))
    .sort()
    .map((file) => {
      const bytes = new Uint8Array(readFileSync(new URL(file, folder)));
      const { name, role } = said(bytes);
      return { bytes, object: { id: idOf(name.replace(/ /g, '-'), role), version: 1, kind: 'asset', name, role, hash: sha256(bytes) } };
    });
}

/** The files of demo/kit as asset objects (`kit-door-wall`, `kit-crate`, `plant-birch`) with their bytes. */
export const shippedAssets = (): Shipped[] => shipped(new URL('../kit/', import.meta.url), (name, role) => `${role === 'plant' ? 'plant' : 'kit'}-${name}`);

/** The pictures that the four main grounds wear (`ground-turf`). */
export const shippedGrounds = (): Shipped[] => shipped(new URL('../grounds/', import.meta.url), (name) => name.replace(/^(.+)-ground$/, 'ground-$1'));
