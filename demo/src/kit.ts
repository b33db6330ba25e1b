import { mkdirSync, writeFileSync } from 'node:fs';
import { shippedPieces } from '@rammer/core/kit/pieces';
import { shippedPlants } from '@rammer/core/kit/plants';
import { writeAsset } from '@rammer/core/io/assetGlb';

/** Writes the shipped kit and plants as GLB files: `demo/kit/NAME.glb`, numbered in the order of the library. */
const folder = new URL('../kit/', import.meta.url);
mkdirSync(folder, { recursive: true });
for (const [i, asset] of [...shippedPieces(), ...shippedPlants()].entries()) {
  const file = `${String(i + 1).padStart(2, '0')}-${asset.name.replace(/ /g, '-')}.glb`;
  const bytes = await writeAsset(asset);
  writeFileSync(new URL(file, folder), bytes);
  console.log(`wrote demo/kit/${file}, ${bytes.length} bytes`);
}
