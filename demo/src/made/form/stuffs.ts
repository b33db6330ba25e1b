import { PLAIN_MATERIAL, type AssetMaterial, type AssetTexture, type TextureUse } from '@rammer/core/kit/material';
import { iron } from '../paint/metal';
import type { Sheet } from '../paint/sheet';
import { masonry, sawn, slates } from '../paint/stone';
import { sacking, timber, darkBark, birchBark } from '../paint/wood';

/** A stuff: which sheet it wears and what is its own. */
interface Stuff {
  sheet?: () => Promise<Sheet>;
  /** multiplies the sheet's colours, linear */
  tint?: [number, number, number];
  roughness?: number;
  metalness?: number;
  emission?: [number, number, number];
  blend?: number;
  bothSides?: boolean;
}

const once = <T>(make: () => Promise<T>): (() => Promise<T>) => {
  let kept: Promise<T> | undefined;
  return () => (kept ??= make());
};
export const SHEETS = {
  masonry: once(masonry),
  sawn: once(sawn),
  slates: once(slates),
  timber: once(timber),
  iron: once(iron),
  sacking: once(sacking),
  birch: once(birchBark),
  bark: once(darkBark),
};

export const STUFFS: Readonly<Record<string, Stuff>> = {
  masonry: { sheet: SHEETS.masonry },
  'sawn slate': { sheet: SHEETS.sawn },
  'roof slates': { sheet: SHEETS.slates },
  timber: { sheet: SHEETS.timber },
  'tarred timber': { sheet: SHEETS.timber, tint: [0.34, 0.29, 0.26] },
  'painted timber': { sheet: SHEETS.timber, tint: [0.9, 0.95, 0.92] },
  iron: { sheet: SHEETS.iron, metalness: 1 },
  sacking: { sheet: SHEETS.sacking },
  'birch bark': { sheet: SHEETS.birch },
  bark: { sheet: SHEETS.bark },
  pane: { tint: [0.02, 0.026, 0.028], roughness: 0.12 },
  flame: { tint: [0.9, 0.6, 0.25], roughness: 0.6, emission: [3.2, 1.7, 0.6] },
};

const laid = (texture: number, metres: number): TextureUse => ({
  texture,
  uv: 0,
  offset: [0, 0],
  rotation: 0,
  scale: [1 / metres, 1 / metres],
  wrap: ['repeat', 'repeat'],
});

/** A stuff as a material of an asset; its pictures go into `textures`, each once. */
export async function materialOf(name: string, textures: AssetTexture[], occlusion?: AssetTexture): Promise<AssetMaterial> {
  const stuff = STUFFS[name];
  if (!stuff) throw new Error(`no stuff is called ${name}`);
  const put = (t: AssetTexture): number => (textures.includes(t) ? textures.indexOf(t) : textures.push(t) - 1);
  const sheet = await stuff.sheet?.();
  return {
    ...PLAIN_MATERIAL,
    name,
    baseColour: [...(stuff.tint ?? ([1, 1, 1] as const)), stuff.blend ?? 1],
    metalness: stuff.metalness ?? 0,
    roughness: stuff.roughness ?? 1,
    emission: stuff.emission ?? [0, 0, 0],
    alpha: stuff.blend === undefined ? 'opaque' : 'blend',
    doubleSided: stuff.bothSides ?? false,
    textures: {
      ...(sheet
        ? {
            baseColour: laid(put(sheet.colour), sheet.metres),
            normal: laid(put(sheet.normal), sheet.metres),
            metalRough: laid(put(sheet.metalRough), sheet.metres),
          }
        : {}),
      ...(occlusion ? { occlusion: { texture: put(occlusion), uv: 1 as const, offset: [0, 0], rotation: 0, scale: [1, 1], wrap: ['clamp', 'clamp'] } } : {}),
    } as AssetMaterial['textures'],
  };
}
