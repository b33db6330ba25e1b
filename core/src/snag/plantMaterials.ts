import { assetsOfSpecies } from '../growth/meshes';
import type { Asset } from '../kit/asset';
import type { Assets } from '../kit/placement';
import type { Species } from '../level/objects';
import type { Snag } from './finding';

/** More materials than this on a plant are a draw more each, in every cell it stands in. */
export const ADVISED_PLANT_MATERIALS = 2;

/** The most materials that a mesh is drawn with at once: that of its distant picture is drawn alone. */
const materialsOf = (asset: Asset): number => Math.max(...asset.lods.map((parts) => parts.length));

/** Meshes of species with more materials than advised. One finding a species, at its worst mesh. */
export function plantMaterials(species: readonly Species[], assets: Assets): Snag[] {
  return species.flatMap((s): Snag[] => {
    const counts = assetsOfSpecies(s, assets).map((asset) => (asset ? materialsOf(asset) : 1));
    const most = Math.max(...counts);
    if (s.out || most <= ADVISED_PLANT_MATERIALS) return [];
    const mesh = assetsOfSpecies(s, assets)[counts.indexOf(most)]!;
    return [
      {
        code: 'materials-many',
        severity: 'warning',
        message:
          `${mesh.name}, a mesh of ${s.name}, wears ${most} materials, ${ADVISED_PLANT_MATERIALS} are advised for a plant: ` +
          `${most - ADVISED_PLANT_MATERIALS} draws more in each cell it stands in`,
        mend: 'merge its materials in its card',
        object: s.id,
      },
    ];
  });
}
