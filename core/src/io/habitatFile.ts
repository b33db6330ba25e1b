import { habitatIn, keepHabitat, type KeptHabitat } from '../growth/keptHabitat';
import { SHIPPED_BODIES } from '../body/bodies';
import { assetHashes } from '../level/kinds/asset';
import { makeLevel, newLevel, ofKind } from '../level/level';
import { groundDefaults } from '../surface/surfaces';
import { fault, type Outcome } from './fault';
import { readPackage, writePackage } from './package';

/** Habitats read from a file, each as if it had been kept, with the meshes they need by hash. */
export interface HabitatsRead {
  habitats: KeptHabitat[];
  meshes: Map<string, Uint8Array>;
}

/**
 * A habitat as a file: a level package of 64 x 64 m that holds it, its species, their meshes and the surfaces they name. So there is
 * no form of its own to keep, and it can be opened as a level to look at what it grows.
 *
 * @param meshes GLB of each mesh by hash; a mesh that is not there is left out with the species that need it
 */
export function writeHabitat(kept: KeptHabitat, meshes: ReadonlyMap<string, Uint8Array>): Uint8Array {
  const own = new Set(kept.map((o) => o.id));
  const level = newLevel({ name: habitatIn(kept).name, tilesX: 2, tilesZ: 2, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 1 }, [
    ...groundDefaults().filter((o) => !own.has(o.id)),
    ...kept,
  ]);
  return writePackage(makeLevel(level.objects.values(), [], 0, new Map(meshes)));
}

/**
 * The habitats of any level package, in their order.
 *
 * @returns as package faults, and `no-habitat` where the level has none
 */
export function readHabitats(bytes: Uint8Array): Outcome<HabitatsRead> {
  const level = readPackage(bytes);
  if (!level.ok) return level;
  const habitats = ofKind(level.value, 'habitat')
    .sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1))
    .map((h) => keepHabitat(level.value, h));
  if (habitats.length === 0) return fault('no-habitat', 'the level in it has no habitat: choose a package of one that has');
  const meshes = new Map<string, Uint8Array>();
  for (const o of habitats.flat())
    if (o.kind === 'asset')
      for (const hash of assetHashes(o)) {
        const glb = level.value.assets.get(hash);
        if (glb) meshes.set(hash, glb);
      }
  return { ok: true, value: { habitats, meshes } };
}
