import {
  ClampToEdgeWrapping,
  CompressedTexture,
  DataTexture,
  DoubleSide,
  FrontSide,
  GLSL3,
  LinearFilter,
  LinearMipmapLinearFilter,
  Matrix3,
  MirroredRepeatWrapping,
  NearestFilter,
  NearestMipmapLinearFilter,
  NoColorSpace,
  RepeatWrapping,
  ShaderMaterial,
  SRGBColorSpace,
  Texture,
  Vector2,
  Vector3,
  Vector4,
  type IUniform,
  type WebGLRenderer,
} from 'three';
import type { Asset, DistantPicture, Primitive } from '@rammer/core/kit/asset';
import { pictureKey } from '@rammer/core/kit/pictureKey';
import type { AssetMaterial, AssetTexture, TextureSlot, TextureUse, Wrap } from '@rammer/core/kit/material';
import { keptCoverage } from '@rammer/core/num/coverage';
import { AUTHORED_FRAGMENT, AUTHORED_VERTEX } from './shaders/authored';

/** Pictures that are drawn, by the name the shader knows them under. */
const SLOTS: Partial<Record<TextureSlot, string>> = {
  baseColour: 'MAP',
  metalRough: 'METAL_ROUGH',
  normal: 'NORMAL',
  occlusion: 'OCCLUSION',
  emission: 'EMISSION',
  specular: 'SPECULAR',
  specularColour: 'SPECULAR_COLOUR',
};
const COLOURS = new Set<TextureSlot>(['baseColour', 'emission', 'specularColour']);
const WRAPS: Record<Wrap, typeof RepeatWrapping | typeof ClampToEdgeWrapping | typeof MirroredRepeatWrapping> = {
  repeat: RepeatWrapping,
  clamp: ClampToEdgeWrapping,
  mirror: MirroredRepeatWrapping,
};

/** What a picture is before it is there: it changes nothing. */
const plain = (rgba: number[]): DataTexture => {
  const t = new DataTexture(Uint8Array.from(rgba), 1, 1);
  t.needsUpdate = true;
  return t;
};

/** Sides of the alpha that coverage is worked out on: finer levels lose none. */
const COVERAGE_SIDE = 256;

/** How wide a picture is to be drawn for its coverage, and its alpha so. */
interface Alpha {
  skipped: number;
  side: number;
  bytes: Uint8Array;
}

interface Kept {
  /** of a picture that may be cut off: its alpha, small */
  alpha?: Alpha;
  texture: Texture;
  ready: Promise<void>;
  /** it came, or will not come */
  there?: boolean;
  bytes: number;
  used: number;
}

/** Pictures unpacked off the main thread and sent to the GPU; those not drawn for longest go when there are too many, and come back. */
export class AuthoredTextures {
  private readonly kept = new Map<AssetTexture, Map<string, Kept>>();
  /** pictures that several assets carry are one: the first that came, by what is in it */
  private readonly firsts = new Map<string, AssetTexture>();
  private readonly same = new WeakMap<AssetTexture, AssetTexture>();
  private readonly white = plain([255, 255, 255, 255]);
  private readonly level = plain([128, 128, 255, 255]);
  private clock = 0;

  /**
   * @param renderer whose GPU they go to
   * @param changed a picture came
   * @param most bytes on the GPU
   */
  constructor(
    private readonly renderer: WebGLRenderer,
    private readonly changed: () => void = () => {},
    private readonly most = 768 << 20,
  ) {}

  get bytes(): number {
    let sum = 0;
    for (const byUse of this.kept.values()) for (const k of byUse.values()) sum += k.bytes;
    return sum;
  }

  placeholder(slot: TextureSlot): Texture {
    return slot === 'normal' ? this.level : this.white;
  }

  /** A picture laid as a material lays it. Until it is unpacked it is the placeholder. */
  get(given: AssetTexture, use: TextureUse, slot: TextureSlot): Kept {
    const picture = this.first(given);
    const key = `${use.wrap.join()} ${use.nearest ?? false} ${COLOURS.has(slot)}`;
    const byUse = this.kept.get(picture) ?? new Map<string, Kept>();
    this.kept.set(picture, byUse);
    const known = byUse.get(key);
    if (known) {
      known.used = ++this.clock;
      return known;
    }
    const kept: Kept = { texture: new Texture(), ready: Promise.resolve(), bytes: picture.gpuBytes, used: ++this.clock };
    kept.ready = this.unpack(picture).then(
      (texture) => {
        if (slot === 'baseColour') kept.alpha = alphaOf(texture.image);
        texture.flipY = false;
        [texture.wrapS, texture.wrapT] = use.wrap.map((w) => WRAPS[w]);
        texture.colorSpace = COLOURS.has(slot) ? SRGBColorSpace : NoColorSpace;
        texture.magFilter = use.nearest ? NearestFilter : LinearFilter;
        // A picture that came packed has the levels it came with.
        const levels = !(texture instanceof CompressedTexture) || texture.mipmaps!.length > 1;
        texture.minFilter = !levels ? LinearFilter : use.nearest ? NearestMipmapLinearFilter : LinearMipmapLinearFilter;
        texture.anisotropy = 4;
        texture.needsUpdate = true;
        kept.texture = texture;
        this.changed();
      },
      () => {},
    );
    void kept.ready.then(() => (kept.there = true));
    byUse.set(key, kept);
    this.evict();
    return kept;
  }

  private first(picture: AssetTexture): AssetTexture {
    let first = this.same.get(picture);
    if (!first) {
      const key = pictureKey(picture);
      first = this.firsts.get(key) ?? picture;
      this.firsts.set(key, first);
      this.same.set(picture, first);
    }
    return first;
  }

  /** Off the main thread: by the browser, KTX2 by a worker of its own. */
  private async unpack({ bytes, mime }: AssetTexture): Promise<Texture> {
    if (mime === 'image/ktx2') return (await import('./ktx')).ktxTexture(this.renderer, bytes);
    return new Texture(
      (await createImageBitmap(new Blob([bytes as BlobPart], { type: mime }), {
        premultiplyAlpha: 'none',
        colorSpaceConversion: 'none',
      })) as unknown as HTMLImageElement,
    );
  }

  /** Ends when all that is on its way is there. @returns whether there was anything */
  async settled(): Promise<boolean> {
    let waited = false;
    for (const byUse of this.kept.values())
      for (const kept of byUse.values()) {
        if (kept.there) continue;
        await kept.ready;
        waited = true;
      }
    return waited;
  }

  private evict(): void {
    let over = this.bytes - this.most;
    if (over <= 0) return;
    const all = [...this.kept].flatMap(([picture, byUse]) => [...byUse].map(([key, k]) => ({ picture, byUse, key, k })));
    for (const { picture, byUse, key, k } of all.sort((a, b) => a.k.used - b.k.used)) {
      if (over <= 0 || k.used === this.clock) break;
      over -= k.bytes;
      k.texture.dispose();
      (k.texture.image as ImageBitmap | null)?.close?.();
      byUse.delete(key);
      if (byUse.size === 0) this.kept.delete(picture);
    }
  }

  dispose(): void {
    for (const byUse of this.kept.values()) for (const k of byUse.values()) k.texture.dispose();
    this.kept.clear();
    this.white.dispose();
    this.level.dispose();
  }
}

/** Alpha of a picture drawn small; nothing where it is packed or has none. */
function alphaOf(image: unknown): Alpha | undefined {
  if (!(image instanceof ImageBitmap)) return undefined;
  const skipped = Math.max(0, Math.round(Math.log2(Math.max(image.width, image.height) / COVERAGE_SIDE)));
  const side = Math.max(1, Math.max(image.width, image.height) >> skipped);
  const canvas = new OffscreenCanvas(side, side);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(image, 0, 0, side, side);
  const { data } = context.getImageData(0, 0, side, side);
  const bytes = new Uint8Array(side * side);
  let solid = true;
  for (let i = 0; i < bytes.length; i++) {
    bytes[i] = data[i * 4 + 3];
    solid &&= bytes[i] === 255;
  }
  return solid ? undefined : { skipped, side, bytes };
}

/** Factors of alpha for each level of a picture, twelve of them; see `keptCoverage`. */
function keptLevels({ skipped, side, bytes }: Alpha, cutoff: number): number[] {
  const kept = keptCoverage(bytes, side, side, cutoff);
  return Array.from({ length: 12 }, (_, level) => kept[Math.min(kept.length - 1, Math.max(0, level - skipped))]);
}

/** How a material is drawn: what its mesh has, and by which path. */
export interface Drawn {
  merged: boolean;
  colours: boolean;
  uv1: boolean;
  /** instances have shifts of their own */
  shifted?: boolean;
  /** a plant: it moves in the wind */
  sways?: boolean;
  /** its foot takes on the colour of the ground */
  rooted?: boolean;
  /** coats lie over it: what it is compiled with, see `Coats.defines` */
  coated?: Record<string, number>;
  /** even light for a picture beside another renderer's */
  studio?: boolean;
}

/** Whether a primitive is the card of an asset's distant picture. */
export const isDistant = (asset: Pick<Asset, 'distant' | 'lods'>, p: Primitive): boolean =>
  asset.distant !== undefined && p === asset.lods[asset.lods.length - 1][0];

/** The materials of assets as shaders, one for each material and path. */
export class AuthoredMaterials {
  private readonly made = new Map<AssetMaterial, Map<string, ShaderMaterial>>();

  constructor(
    private readonly shared: Record<string, IUniform>,
    readonly textures: AuthoredTextures,
  ) {}

  /** The shader of a primitive of an asset; it has a look of its own. */
  of(asset: Pick<Asset, 'materials' | 'textures' | 'distant' | 'lods'>, p: Primitive, drawn: Omit<Drawn, 'colours' | 'uv1'>): ShaderMaterial {
    const m = asset.materials![p.look!];
    const how: Drawn = { ...drawn, colours: p.colours !== undefined, uv1: p.uvs1 !== undefined };
    const distant = isDistant(asset, p) ? asset.distant : undefined;
    const key = JSON.stringify(how);
    const byHow = this.made.get(m) ?? new Map<string, ShaderMaterial>();
    this.made.set(m, byHow);
    let found = byHow.get(key);
    if (!found) byHow.set(key, (found = this.make(m, asset.textures ?? [], how, distant)));
    return found;
  }

  /** Ends when all pictures of an asset are there. */
  async ready(asset: Pick<Asset, 'materials' | 'textures'>): Promise<void> {
    const waits: Promise<void>[] = [];
    for (const m of asset.materials ?? [])
      for (const [slot, use] of Object.entries(m.textures) as [TextureSlot, TextureUse][])
        if (SLOTS[slot]) waits.push(this.textures.get(asset.textures![use.texture], use, slot).ready);
    await Promise.all(waits);
  }

  private make(m: AssetMaterial, textures: readonly AssetTexture[], how: Drawn, distant?: DistantPicture): ShaderMaterial {
    const defines: Record<string, string> = {};
    const uniforms: Record<string, IUniform> = {
      ...this.shared,
      uBase: { value: new Vector4(...m.baseColour) },
      uMetalness: { value: m.metalness },
      uRoughness: { value: m.roughness },
      uEmission: { value: new Vector3(...m.emission) },
      uCutoff: { value: m.cutoff },
      uNormalScale: { value: m.normalScale },
      uOcclusionStrength: { value: m.occlusionStrength },
      // Of what is no metal: by its index of refraction, as strong as its author says (KHR_materials_ior, _specular).
      uF0: { value: new Vector3(...m.specularColour.map((c) => Math.min(1, ((m.ior - 1) / (m.ior + 1)) ** 2 * c) * m.specular)) },
      uF90: { value: m.specular },
    };
    const set = (name: string, on: boolean) => {
      if (on) defines[name] = '';
    };
    set('MERGED', how.merged);
    set('COLOURS', how.colours);
    set('UV1', how.uv1);
    for (const [name, value] of Object.entries(how.coated ?? {})) defines[name] = String(value);
    set('STUDIO', how.studio === true);
    set('SHIFTED', how.shifted === true);
    set('SWAYS', how.sways === true);
    set('UNLIT', m.unlit);
    set('MASK', m.alpha === 'mask');
    set('BLEND', m.alpha === 'blend');
    set('TWO_SIDED', m.doubleSided);
    set('LEAF', how.sways === true && m.doubleSided && m.alpha === 'mask' && !how.studio && !distant);
    if (m.alpha === 'mask' && m.textures.baseColour) {
      defines.KEEP = '';
      uniforms.uKeep = { value: Array.from({ length: 12 }, () => 1) };
    }
    const waiting: { name: string; use: TextureUse; slot: TextureSlot; picture: AssetTexture }[] = [];
    for (const [slot, use] of Object.entries(m.textures) as [TextureSlot, TextureUse][]) {
      const name = SLOTS[slot];
      if (!name) continue;
      defines[name] = '';
      defines[`${name}_UV`] = use.uv === 1 && how.uv1 ? 'vUv1' : 'vUv';
      uniforms[`u${name}`] = { value: this.textures.placeholder(slot) };
      uniforms[`u${name}_AT`] = { value: laidBy(use) };
      waiting.push({ name, use, slot, picture: textures[use.texture] });
    }
    if (distant) {
      defines.DISTANT = '';
      const use: TextureUse = { ...m.textures.baseColour!, texture: distant.normals };
      uniforms.uDIRECTIONS = { value: this.textures.placeholder('normal') };
      uniforms.uSides = { value: new Vector2(distant.columns, distant.rows) };
      uniforms.uBetween = { value: distant.between };
      waiting.push({ name: 'DIRECTIONS', use, slot: 'normal', picture: textures[distant.normals] });
    }
    const material = new ShaderMaterial({
      defines,
      glslVersion: GLSL3,
      vertexShader: AUTHORED_VERTEX,
      fragmentShader: AUTHORED_FRAGMENT,
      side: m.doubleSided ? DoubleSide : FrontSide,
      transparent: m.alpha === 'blend',
      depthWrite: m.alpha !== 'blend',
      uniforms,
    });
    for (const { name, use, slot, picture } of waiting) {
      const kept = this.textures.get(picture, use, slot);
      void kept.ready.then(() => {
        if (kept.texture.image) material.uniforms[`u${name}`].value = kept.texture;
        if (name === 'MAP' && uniforms.uKeep && kept.alpha) uniforms.uKeep.value = keptLevels(kept.alpha, m.cutoff);
      });
    }
    // One that was let go comes back when it is drawn again.
    material.onBeforeRender = () => {
      for (const { name, use, slot, picture } of waiting) {
        const kept = this.textures.get(picture, use, slot);
        if (material.uniforms[`u${name}`].value !== kept.texture && kept.texture.image) {
          material.uniforms[`u${name}`].value = kept.texture;
          material.uniformsNeedUpdate = true;
        }
      }
    };
    return material;
  }

  dispose(): void {
    for (const byHow of this.made.values()) for (const m of byHow.values()) m.dispose();
    this.made.clear();
  }
}

/** KHR_texture_transform as a matrix: translation * rotation * scale. */
function laidBy({ offset, rotation, scale }: TextureUse): Matrix3 {
  const [c, s] = [Math.cos(rotation), Math.sin(rotation)];
  return new Matrix3(scale[0] * c, scale[1] * s, offset[0], -scale[0] * s, scale[1] * c, offset[1], 0, 0, 1);
}
