import type { Surface } from '@rammer/core/level/objects';
import { rgb } from '@rammer/core/mood/moods';
import { weave, weaveKey } from '@rammer/core/surface/textures';

const SIDE = 64;
const made = new Map<string, string>();
const NONE = 'data:image/gif;base64,R0lGODlhAQABAAAAACH5BAEKAAEALAAAAAABAAEAAAICTAEAOw==';

/** A small picture of a surface's texture with its tint, as a data URL; drawn once. */
export function swatchOf(surface: Surface | undefined): string {
  if (!surface) return NONE;
  const key = `${weaveKey(surface)}${surface.tint}`;
  let url = made.get(key);
  if (!url) {
    const data = weave(surface, SIDE);
    const [r, g, b] = rgb(surface.tint);
    const canvas = document.createElement('canvas');
    canvas.width = canvas.height = SIDE;
    const context = canvas.getContext('2d')!;
    const image = context.createImageData(SIDE, SIDE);
    // A little lighter than the ground lies in the sun, so that small swatches can be told apart.
    for (let i = 0; i < data.length; i += 4) image.data.set([data[i] * r * 1.25, data[i + 1] * g * 1.25, data[i + 2] * b * 1.25, 255], i);
    context.putImageData(image, 0, 0);
    url = canvas.toDataURL('image/png');
    made.set(key, url);
  }
  return url;
}
