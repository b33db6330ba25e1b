import { mkdirSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { Document, WebIO } from '@gltf-transform/core';
import { EXTTextureWebP } from '@gltf-transform/extensions';
import { writeAsset } from '@rammer/core/io/assetGlb';
import type { Asset } from '@rammer/core/kit/asset';
import { moss, turf } from './made/paint/green';
import type { Sheet } from './made/paint/sheet';
import { gravel, rock } from './made/paint/stone';
import { pieces } from './made/pieces';
import { lowPlants } from './made/plants/low';
import { groundPlants } from './made/plants/ground';
import { lying } from './made/plants/lying';
import { trees } from './made/plants/trees';
import { props } from './made/props';

/** Pieces, props and plants in the order of the library. */
const all = (): (() => Promise<Asset>)[] => [...pieces(), ...props(), ...trees(), ...lowPlants(), ...lying(), ...groundPlants()];
const grounds: Record<string, () => Promise<Sheet>> = { turf, slate: rock, gravel, moss };

const file = (i: number, name: string): string => `${String(i + 1).padStart(2, '0')}-${name.replace(/ /g, '-')}.glb`;

/** A picture of the ground as an asset: a board, as every picture in a level is. */
async function groundAsset(name: string, { withHeight, metres }: Sheet): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Rammer';
  document.createExtension(EXTTextureWebP).setRequired(true);
  const scene = document.createScene(`${name} ground`).setExtras({ rammer: { role: 'reference', collider: 'none', tags: ['ground'] } });
  document.getRoot().setDefaultScene(scene);
  const buffer = document.createBuffer();
  const put = (type: 'VEC2' | 'VEC3' | 'SCALAR', array: Float32Array<ArrayBuffer> | Uint32Array<ArrayBuffer>) =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const h = metres / 2;
  const texture = document
    .createTexture(name)
    .setImage(withHeight!.bytes as Uint8Array<ArrayBuffer>)
    .setMimeType('image/webp');
  const board = document
    .createPrimitive()
    .setMaterial(document.createMaterial(name).setBaseColorTexture(texture).setRoughnessFactor(1).setMetallicFactor(0).setDoubleSided(true))
    .setAttribute('POSITION', put('VEC3', Float32Array.from([-h, 0, h, h, 0, h, h, 0, -h, -h, 0, -h])))
    .setAttribute('NORMAL', put('VEC3', Float32Array.from([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0])))
    .setAttribute('TEXCOORD_0', put('VEC2', Float32Array.from([0, 1, 1, 1, 1, 0, 0, 0])))
    .setIndices(put('SCALAR', Uint32Array.from([0, 1, 2, 0, 2, 3])));
  scene.addChild(document.createNode(name).setMesh(document.createMesh(name).addPrimitive(board)));
  return new WebIO().registerExtensions([EXTTextureWebP]).writeBinary(document);
}

/**
 * Writes the demo's assets as GLB files: `demo/kit/NN-NAME.glb` in the order of the library, `demo/grounds/NAME.glb`.
 * With words, those alone whose names hold one of them.
 */
const words = process.argv.slice(2);
const wanted = (name: string): boolean => words.length === 0 || words.some((w) => name.includes(w));
const folder = new URL('../kit/', import.meta.url);
mkdirSync(folder, { recursive: true });
if (words.length === 0) for (const old of readdirSync(folder)) rmSync(new URL(old, folder));
const put = (to: URL, bytes: Uint8Array): void => {
  writeFileSync(to, bytes);
  console.log(`wrote ${to.pathname.split('/').slice(-3).join('/')}, ${bytes.length} bytes`);
};
for (const [i, make] of all().entries()) {
  // Functions are named after what they make, but for the birches.
  if (words.length > 0 && make.name && !wanted(make.name.toLowerCase())) continue;
  const asset = await make();
  if (wanted(asset.name)) put(new URL(file(i, asset.name), folder), await writeAsset(asset));
}
mkdirSync(new URL('../grounds/', import.meta.url), { recursive: true });
for (const [name, paint] of Object.entries(grounds))
  if (wanted(name)) put(new URL(`../grounds/${name}.glb`, import.meta.url), await groundAsset(name, await paint()));
