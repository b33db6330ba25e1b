import type { Document, Material, Texture, TextureInfo } from '@gltf-transform/core';
import {
  EXTTextureAVIF,
  EXTTextureWebP,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsSpecular,
  KHRMaterialsUnlit,
  KHRTextureBasisu,
  KHRTextureTransform,
} from '@gltf-transform/extensions';
import type { AssetMaterial, AssetTexture, TextureUse, Wrap } from '../../kit/material';

const WRAPS: Record<Wrap, 10497 | 33071 | 33648> = { repeat: 10497, clamp: 33071, mirror: 33648 };
const PACKED = { 'image/webp': EXTTextureWebP, 'image/ktx2': KHRTextureBasisu, 'image/avif': EXTTextureAVIF } as const;

/** Materials of an asset in a glTF document, each as it came in; pictures are its bytes, never packed anew. */
export class MaterialWriter {
  private readonly known = new Map<AssetMaterial, Material>();
  private readonly pictures = new Map<AssetTexture, Texture>();

  constructor(private readonly document: Document) {}

  /** @param prefix put before its name, to tell those of many assets apart */
  of(m: AssetMaterial, textures: readonly AssetTexture[], prefix = ''): Material {
    const before = this.known.get(m);
    if (before) return before;
    const { document } = this;
    const strength = Math.max(1, ...m.emission);
    const out = document
      .createMaterial(prefix + m.name)
      .setBaseColorFactor(m.baseColour)
      .setMetallicFactor(m.metalness)
      .setRoughnessFactor(m.roughness)
      .setEmissiveFactor(m.emission.map((v) => v / strength) as [number, number, number])
      .setNormalScale(m.normalScale)
      .setOcclusionStrength(m.occlusionStrength)
      .setAlphaMode(({ opaque: 'OPAQUE', mask: 'MASK', blend: 'BLEND' } as const)[m.alpha])
      .setAlphaCutoff(m.cutoff)
      .setDoubleSided(m.doubleSided);
    this.known.set(m, out);
    if (strength > 1)
      out.setExtension(
        'KHR_materials_emissive_strength',
        document.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength().setEmissiveStrength(strength),
      );
    if (m.unlit) out.setExtension('KHR_materials_unlit', document.createExtension(KHRMaterialsUnlit).createUnlit());
    if (m.ior !== 1.5) out.setExtension('KHR_materials_ior', document.createExtension(KHRMaterialsIOR).createIOR().setIOR(m.ior));
    const put = (use: TextureUse | undefined, texture: (t: Texture) => unknown, info: () => TextureInfo | null): void => {
      if (!use) return;
      texture(this.picture(textures[use.texture]));
      this.lay(info()!, use);
    };
    const t = m.textures;
    put(
      t.baseColour,
      (x) => out.setBaseColorTexture(x),
      () => out.getBaseColorTextureInfo(),
    );
    put(
      t.metalRough,
      (x) => out.setMetallicRoughnessTexture(x),
      () => out.getMetallicRoughnessTextureInfo(),
    );
    put(
      t.normal,
      (x) => out.setNormalTexture(x),
      () => out.getNormalTextureInfo(),
    );
    put(
      t.occlusion,
      (x) => out.setOcclusionTexture(x),
      () => out.getOcclusionTextureInfo(),
    );
    put(
      t.emission,
      (x) => out.setEmissiveTexture(x),
      () => out.getEmissiveTextureInfo(),
    );
    if (m.specular !== 1 || m.specularColour.some((v) => v !== 1) || t.specular || t.specularColour) {
      const specular = document.createExtension(KHRMaterialsSpecular).createSpecular();
      specular.setSpecularFactor(m.specular).setSpecularColorFactor(m.specularColour);
      out.setExtension('KHR_materials_specular', specular);
      put(
        t.specular,
        (x) => specular.setSpecularTexture(x),
        () => specular.getSpecularTextureInfo(),
      );
      put(
        t.specularColour,
        (x) => specular.setSpecularColorTexture(x),
        () => specular.getSpecularColorTextureInfo(),
      );
    }
    return out;
  }

  /** A picture of the document, whoever wears it. */
  picture(texture: AssetTexture): Texture {
    let out = this.pictures.get(texture);
    if (!out) {
      out = this.document
        .createTexture(texture.name)
        .setImage(texture.bytes as Uint8Array<ArrayBuffer>)
        .setMimeType(texture.mime);
      const packed = PACKED[texture.mime as keyof typeof PACKED];
      if (packed) this.document.createExtension(packed as typeof EXTTextureWebP).setRequired(true);
      this.pictures.set(texture, out);
    }
    return out;
  }

  private lay(info: TextureInfo, use: TextureUse): void {
    info.setTexCoord(use.uv).setWrapS(WRAPS[use.wrap[0]]).setWrapT(WRAPS[use.wrap[1]]);
    if (use.nearest) info.setMagFilter(9728).setMinFilter(9984);
    const moved = use.offset.some((v) => v !== 0) || use.rotation !== 0 || use.scale.some((v) => v !== 1);
    if (!moved) return;
    const transform = this.document.createExtension(KHRTextureTransform).createTransform();
    info.setExtension('KHR_texture_transform', transform.setOffset(use.offset).setRotation(use.rotation).setScale(use.scale));
  }
}
