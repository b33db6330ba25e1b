import { strFromU8 } from 'fflate';
import { PLAIN_MATERIAL, textureBytes, type AssetMaterial, type AssetTexture, type TextureSlot } from '../../kit/material';
import { srgbToLinear } from '../../num/srgb';
import type { Vec3 } from '../../num/vec';
import type { Beside } from './gltfFile';
import { ASSET_LIMITS } from './limits';
import { pictureHead } from './pictureHead';

/** How many words follow each option of a picture in an MTL. */
const OPTIONS: Record<string, number> = { bm: 1, blendu: 1, blendv: 1, boost: 1, cc: 1, clamp: 1, imfchan: 1, mm: 2, o: 3, s: 3, t: 3, texres: 1, type: 1 };

/** Materials of an OBJ, from the MTL files it names and the pictures they name. */
export class MtlReader {
  readonly materials: AssetMaterial[] = [];
  readonly textures: AssetTexture[] = [];
  readonly notes = new Set<string>();
  private readonly places = new Map<string, number>();
  private readonly pictures = new Map<string, number | undefined>();
  private pixels = 0;

  constructor(private readonly beside: Beside) {}

  /** Place of a material by the name an OBJ uses; one that no file describes is plain. */
  place(name: string): number {
    let at = this.places.get(name);
    if (at === undefined) {
      at = this.materials.push({ ...plain(), name: name || 'material' }) - 1;
      this.places.set(name, at);
    }
    return at;
  }

  /** Reads a file of materials. One that is not there is said, and its materials are plain. */
  read(path: string): void {
    const bytes = this.beside(path);
    if (!bytes || bytes.length > 16 << 20) {
      this.notes.add(`${path} is not with it: its materials are plain. Choose it together with the OBJ`);
      return;
    }
    let m: AssetMaterial | undefined;
    for (const line of strFromU8(bytes).split(/\r?\n/)) {
      const text = line.trim();
      const [word, ...rest] = text.split(/\s+/);
      const value = text.slice(word.length).trim();
      if (word === 'newmtl') m = this.materials[this.place(value.slice(0, 80))];
      else if (m) this.take(m, word.toLowerCase(), rest, value);
    }
  }

  private take(m: AssetMaterial, word: string, words: string[], value: string): void {
    const numbers = words.map(Number);
    const first = numbers[0];
    const rgb = (): Vec3 | undefined => {
      const c = numbers.length === 1 ? [first, first, first] : numbers.slice(0, 3);
      return c.length === 3 && c.every(Number.isFinite) ? (c.map((v) => srgbToLinear(Math.min(1, Math.max(0, v)))) as Vec3) : undefined;
    };
    const share = Math.min(1, Math.max(0, first));
    switch (word) {
      case 'kd':
        m.baseColour = [...(rgb() ?? [1, 1, 1]), m.baseColour[3]] as AssetMaterial['baseColour'];
        break;
      case 'ke':
        m.emission = rgb() ?? m.emission;
        break;
      case 'd':
      case 'tr': {
        const alpha = word === 'd' ? share : 1 - share;
        if (!Number.isFinite(alpha)) break;
        m.baseColour[3] = alpha;
        if (alpha < 1) m.alpha = 'blend';
        break;
      }
      case 'ns':
        // Half way across of a highlight of Blinn and Phong, as the roughness of a microfacet one.
        if (Number.isFinite(first)) m.roughness = Math.min(1, Math.sqrt(Math.sqrt(2 / (Math.max(0, first) + 2))));
        break;
      case 'pr':
        if (Number.isFinite(share)) m.roughness = share;
        break;
      case 'pm':
        if (Number.isFinite(share)) m.metalness = share;
        break;
      case 'map_kd':
        this.wear(m, 'baseColour', value);
        // Its colour is all in the picture; many files leave black beside it.
        if (m.textures.baseColour) m.baseColour = [1, 1, 1, m.baseColour[3]];
        break;
      case 'map_ke':
        this.wear(m, 'emission', value);
        if (m.textures.emission) m.emission = [1, 1, 1];
        break;
      case 'norm':
        this.wear(m, 'normal', value);
        break;
      case 'map_bump':
      case 'bump':
        if (/n(o?r)?ma?l?s?[^/\\]*\.\w+$/i.test(value)) this.wear(m, 'normal', value);
        else this.notes.add('a picture of bumps is not drawn: bake it to normals');
        break;
      case 'map_d':
        if (this.fileOf(value) === this.nameOf(m, 'baseColour')) m.alpha = 'mask';
        else this.notes.add('a picture of opacity apart from its colours is not drawn: put it in their alpha');
        break;
      case 'map_pr':
      case 'map_pm':
        this.notes.add('pictures of roughness and metalness apart are not drawn: pack them in one (glTF has green and blue)');
        break;
    }
  }

  private nameOf(m: AssetMaterial, slot: TextureSlot): string | undefined {
    const use = m.textures[slot];
    return use && this.textures[use.texture].name;
  }

  private fileOf(value: string): string {
    const words = value.split(/\s+/);
    let at = 0;
    while (words[at]?.startsWith('-')) {
      const most = OPTIONS[words[at].slice(1)] ?? 1;
      at++;
      // Of three numbers two may be left out.
      for (let n = 0; n < most && at < words.length - 1 && (n === 0 || /^-?[\d.]+$/.test(words[at])); n++) at++;
    }
    return words.slice(at).join(' ');
  }

  private wear(m: AssetMaterial, slot: TextureSlot, value: string): void {
    const texture = this.picture(this.fileOf(value));
    if (texture === undefined) return;
    const repeat: ['repeat', 'repeat'] = ['repeat', 'repeat'];
    m.textures = { ...m.textures, [slot]: { texture, uv: 0, offset: [0, 0], rotation: 0, scale: [1, 1], wrap: repeat } };
  }

  private picture(path: string): number | undefined {
    if (this.pictures.has(path)) return this.pictures.get(path);
    this.pictures.set(path, undefined);
    const bytes = this.beside(path);
    if (!bytes) {
      this.notes.add(`${path} is not with it: it is left out. Choose it together with the OBJ`);
      return undefined;
    }
    const head = pictureHead(bytes, path, ASSET_LIMITS.pictureSide);
    if (!head.ok) {
      this.notes.add(`${head.message}; it is left out`);
      return undefined;
    }
    const { mime, width, height } = head.value;
    this.pixels += width * height;
    if (this.pixels > ASSET_LIMITS.pixels) {
      this.notes.add(`its pictures have more than ${ASSET_LIMITS.pixels >> 20} million pixels together: ${path} is left out`);
      return undefined;
    }
    const at = this.textures.push({ name: path, mime, bytes, width, height, gpuBytes: textureBytes(width, height, mime === 'image/ktx2') }) - 1;
    this.pictures.set(path, at);
    return at;
  }
}

/** What a material of an MTL is before it says anything: neither metal nor mirror. */
const plain = (): Omit<AssetMaterial, 'name'> => ({
  ...PLAIN_MATERIAL,
  baseColour: [0.8, 0.8, 0.8, 1],
  emission: [0, 0, 0],
  specularColour: [1, 1, 1],
  metalness: 0,
  roughness: 0.9,
  textures: {},
});
