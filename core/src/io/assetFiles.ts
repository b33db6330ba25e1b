import { meshesOf } from '../growth/meshes';
import type { Asset } from '../kit/asset';
import { presentPieces, type Level } from '../level/level';
import type { Species } from '../level/objects';
import { writeAsset } from './assetGlb';

/** An asset of a level as a file of its own: materials, pictures, LODs and colliders as they are. */
export interface AssetFile {
  file: string;
  glb: Uint8Array;
}

/** The assets that stand in a level or grow in it, each as a GLB of its own. @param species those of the level */
export async function assetFilesOf(
  level: Level,
  assets: ReadonlyMap<string, Asset>,
  species: readonly Pick<Species, 'asset' | 'weight' | 'meshes'>[],
): Promise<AssetFile[]> {
  const used = new Set([...presentPieces(level).map((p) => p.asset), ...species.flatMap((s) => meshesOf(s).map((m) => m.asset))]);
  const out: AssetFile[] = [];
  const names = new Set<string>();
  for (const id of [...used].sort()) {
    const asset = assets.get(id);
    if (!asset) continue;
    const plain =
      asset.name
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-|-$/g, '') || 'asset';
    let file = plain;
    for (let n = 2; names.has(file); n++) file = `${plain}-${n}`;
    names.add(file);
    out.push({ file: `assets/${file}.glb`, glb: await writeAsset(asset) });
  }
  return out;
}
