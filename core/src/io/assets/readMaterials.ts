import type { Material, Texture, TextureInfo } from '@gltf-transform/core';
import type { EmissiveStrength, IOR, PBRSpecularGlossiness, Specular, Transform } from '@gltf-transform/extensions';
import { PLAIN_MATERIAL, textureBytes, type AssetMaterial, type AssetTexture, type TextureSlot, type TextureUse, type Wrap } from '../../kit/material';
import type { Vec3 } from '../../num/vec';
import { pictureHead } from './pictureHead';
import { ASSET_LIMITS } from './limits';

const WRAPS: Record<number, Wrap> = { 10497: 'repeat', 33071: 'clamp', 33648: 'mirror' };

/** Materials and pictures of a file, each taken once, in the order they are met. */
export class MaterialReader {
  readonly materials: AssetMaterial[] = [];
  readonly textures: AssetTexture[] = [];
  /** what is not drawn as its author made it, in words */
  readonly notes = new Set<string>();
  private readonly known = new Map<Material | null, number>();
  private readonly pictures = new Map<Texture, number>();
  private readonly names = new Set<string>();

  /** Place of a material among those read; one of a primitive that has none is glTF's plain one. */
  place(material: Material | null): number {
    let at = this.known.get(material);
    if (at === undefined) {
      at = this.materials.length;
      this.known.set(material, at);
      this.materials.push(this.read(material));
    }
    return at;
  }

  /** Two materials without a name, or of one name, stay two. */
  private nameOf(given: string): string {
    const wanted = given.trim().slice(0, 80) || 'material';
    let name = wanted;
    for (let n = 2; this.names.has(name); n++) name = `${wanted} ${n}`;
    this.names.add(name);
    return name;
  }

  private read(m: Material | null): AssetMaterial {
    if (!m) return { ...PLAIN_MATERIAL, name: this.nameOf(''), textures: {} };
    const textures: AssetMaterial['textures'] = {};
    const take = (slot: TextureSlot, texture: Texture | null, info: TextureInfo | null): void => {
      const use = texture && info && this.use(texture, info);
      if (use) textures[slot] = use;
    };
    const strength = m.getExtension<EmissiveStrength>('KHR_materials_emissive_strength')?.getEmissiveStrength() ?? 1;
    const out: AssetMaterial = {
      name: this.nameOf(m.getName()),
      baseColour: m.getBaseColorFactor().map((v) => share(v)) as AssetMaterial['baseColour'],
      metalness: share(m.getMetallicFactor()),
      roughness: share(m.getRoughnessFactor()),
      emission: m.getEmissiveFactor().map((v) => positive(v, 1) * positive(strength, 10_000)) as Vec3,
      normalScale: number(m.getNormalScale(), 1),
      occlusionStrength: share(m.getOcclusionStrength()),
      alpha: ({ OPAQUE: 'opaque', MASK: 'mask', BLEND: 'blend' } as const)[m.getAlphaMode()] ?? 'opaque',
      cutoff: share(m.getAlphaCutoff()),
      doubleSided: m.getDoubleSided(),
      unlit: m.getExtension('KHR_materials_unlit') !== null,
      specular: PLAIN_MATERIAL.specular,
      specularColour: [...PLAIN_MATERIAL.specularColour],
      ior: Math.max(1, number(m.getExtension<IOR>('KHR_materials_ior')?.getIOR() ?? 1.5, 1.5)),
      textures,
    };
    take('baseColour', m.getBaseColorTexture(), m.getBaseColorTextureInfo());
    take('metalRough', m.getMetallicRoughnessTexture(), m.getMetallicRoughnessTextureInfo());
    take('normal', m.getNormalTexture(), m.getNormalTextureInfo());
    take('occlusion', m.getOcclusionTexture(), m.getOcclusionTextureInfo());
    take('emission', m.getEmissiveTexture(), m.getEmissiveTextureInfo());
    const specular = m.getExtension<Specular>('KHR_materials_specular');
    if (specular) {
      out.specular = share(specular.getSpecularFactor());
      out.specularColour = specular.getSpecularColorFactor().map((v) => positive(v, 1)) as Vec3;
      take('specular', specular.getSpecularTexture(), specular.getSpecularTextureInfo());
      take('specularColour', specular.getSpecularColorTexture(), specular.getSpecularColorTextureInfo());
    }
    const gloss = m.getExtension<PBRSpecularGlossiness>('KHR_materials_pbrSpecularGlossiness');
    if (gloss) {
      // An older model: its diffuse colour is kept, its shine by its factors alone.
      out.baseColour = gloss.getDiffuseFactor().map((v) => share(v)) as AssetMaterial['baseColour'];
      out.metalness = 0;
      out.roughness = 1 - share(gloss.getGlossinessFactor());
      if (gloss.getSpecularGlossinessTexture()) this.notes.add('a picture of specular and glossiness, of an older model, is not drawn: its factors are');
      take('baseColour', gloss.getDiffuseTexture(), gloss.getDiffuseTextureInfo());
    }
    return out;
  }

  /** Place of a picture among those read; `undefined` where it is not there. */
  picture(texture: Texture): number | undefined {
    let at = this.pictures.get(texture);
    if (at === undefined) {
      const bytes = texture.getImage();
      // What it is said to be is often wrong; its bytes know.
      const head = bytes && pictureHead(bytes, texture.getName(), ASSET_LIMITS.pictureSide);
      if (!bytes || !head?.ok) {
        this.notes.add('a picture that is named but not there is left out');
        return undefined;
      }
      const { mime, width, height } = head.value;
      at = this.textures.length;
      this.pictures.set(texture, at);
      this.textures.push({
        name: (texture.getName() || texture.getURI().split('/').pop() || `picture ${at + 1}`).slice(0, 80),
        mime,
        bytes,
        width,
        height,
        gpuBytes: textureBytes(width, height, mime === 'image/ktx2'),
      });
    }
    return at;
  }

  private use(texture: Texture, info: TextureInfo): TextureUse | undefined {
    const at = this.picture(texture);
    if (at === undefined) return undefined;
    const moved = info.getExtension<Transform>('KHR_texture_transform');
    const coord = moved?.getTexCoord() ?? info.getTexCoord();
    if (coord > 1) this.notes.add(`a picture laid by texture coordinates ${coord} is laid by the first: two sets are read`);
    const magnified = info.getMagFilter();
    return {
      texture: at,
      uv: coord === 1 ? 1 : 0,
      offset: (moved?.getOffset().map((v) => number(v, 0)) ?? [0, 0]) as [number, number],
      rotation: number(moved?.getRotation() ?? 0, 0),
      scale: (moved?.getScale().map((v) => number(v, 1)) ?? [1, 1]) as [number, number],
      wrap: [WRAPS[info.getWrapS()] ?? 'repeat', WRAPS[info.getWrapT()] ?? 'repeat'],
      ...(magnified === 9728 ? { nearest: true } : {}),
    };
  }
}

const number = (v: number, otherwise: number): number => (Number.isFinite(v) ? v : otherwise);
const share = (v: number): number => (Number.isFinite(v) ? Math.min(1, Math.max(0, v)) : 1);
const positive = (v: number, otherwise: number): number => (Number.isFinite(v) ? Math.max(0, v) : otherwise);
