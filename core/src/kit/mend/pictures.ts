import { halvePicture, type PixelKind, type Pixels } from '../../num/halvePicture';
import type { Asset } from '../asset';
import { TEXTURE_SLOTS, textureBytes, type AssetTexture, type TextureUse } from '../material';
import { tidyMaterials } from './mergeMaterials';
import type { PictureTools } from './tools';

/** What the pixels of a picture say, by where it is worn. */
function kindOf(asset: Asset, texture: number): PixelKind {
  const worn = TEXTURE_SLOTS.filter((slot) => asset.materials?.some((m) => m.textures[slot]?.texture === texture));
  if (worn.includes('normal')) return 'normal';
  return worn.includes('baseColour') || worn.includes('emission') || worn.includes('specularColour') ? 'colour' : 'data';
}

/**
 * Pictures with a longer side than is wanted are halved until they fit; others stay as they came, to the byte.
 *
 * @param most pixels a side
 * @throws Error where a picture cannot be unpacked here, by its name
 */
export async function halvePictures(asset: Asset, most: number, tools: PictureTools): Promise<Asset> {
  const textures: AssetTexture[] = [];
  for (const [i, t] of (asset.textures ?? []).entries()) {
    if (Math.max(t.width, t.height) <= most) {
      textures.push(t);
      continue;
    }
    const kind = kindOf(asset, i);
    let pixels = await tools.unpack(t);
    while (Math.max(pixels.width, pixels.height) > most) pixels = halvePicture(pixels, kind);
    textures.push(await packed(t.name, pixels, t.mime, tools));
  }
  return { ...asset, textures, textureBytes: textures.reduce((s, t) => s + t.gpuBytes, 0) };
}

async function packed(name: string, pixels: Pixels, mime: string, tools: PictureTools): Promise<AssetTexture> {
  const { width, height } = pixels;
  return { name, width, height, gpuBytes: textureBytes(width, height), ...(await tools.pack(pixels, mime)) };
}

const laidAlike = (a: TextureUse, b: TextureUse): boolean => JSON.stringify({ ...a, texture: 0 }) === JSON.stringify({ ...b, texture: 0 });

/** Materials whose occlusion and roughness lie in two pictures that could be one. */
export const packable = (asset: Asset): number =>
  (asset.materials ?? []).filter(
    ({ textures: { occlusion, metalRough } }) => occlusion && metalRough && occlusion.texture !== metalRough.texture && laidAlike(occlusion, metalRough),
  ).length;

/**
 * Occlusion, roughness and metalness in one picture where they lie in two that are laid alike: red, green and blue, as glTF has
 * them; the larger side of both. The two go where nobody wears them any more.
 */
export async function packPictures(asset: Asset, tools: PictureTools): Promise<Asset> {
  const textures = [...(asset.textures ?? [])];
  const known = new Map<string, number>();
  const materials = [];
  for (const m of asset.materials ?? []) {
    const { occlusion, metalRough } = m.textures;
    if (!occlusion || !metalRough || occlusion.texture === metalRough.texture || !laidAlike(occlusion, metalRough)) {
      materials.push(m);
      continue;
    }
    const key = `${occlusion.texture} ${metalRough.texture}`;
    let at = known.get(key);
    if (at === undefined) {
      const [a, b] = [await tools.unpack(textures[occlusion.texture]), await tools.unpack(textures[metalRough.texture])];
      at = textures.push(await packed(`${textures[metalRough.texture].name} packed`, together(a, b), 'image/png', tools)) - 1;
      known.set(key, at);
    }
    materials.push({ ...m, textures: { ...m.textures, occlusion: { ...occlusion, texture: at }, metalRough: { ...metalRough, texture: at } } });
  }
  return tidyMaterials({ ...asset, materials, textures });
}

/** Red of one picture, green and blue of another; the smaller is stretched by its nearest pixels. */
function together(red: Pixels, rest: Pixels): Pixels {
  const [width, height] = [Math.max(red.width, rest.width), Math.max(red.height, rest.height)];
  const data = new Uint8Array(width * height * 4);
  const at = (p: Pixels, x: number, y: number, k: number) =>
    p.data[(Math.floor((y * p.height) / height) * p.width + Math.floor((x * p.width) / width)) * 4 + k];
  for (let y = 0, o = 0; y < height; y++) for (let x = 0; x < width; x++, o += 4) data.set([at(red, x, y, 0), at(rest, x, y, 1), at(rest, x, y, 2), 255], o);
  return { width, height, data };
}
