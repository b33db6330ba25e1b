import { areaOfPicture, type GreyPicture } from '@rammer/core/growth/areaPicture';
import type { Habitat } from '@rammer/core/level/objects';
import { packRaster, toBase64 } from '@rammer/core/num/fixed';
import type { Session } from '../store/session';

/** A picture with more pixels is not laid over a level: no level has as many samples. */
const MOST_PIXELS = 8192 * 8192;

/** Reads how bright a picture is, pixel by pixel; what is clear is dark. @throws Error in words */
async function greyOf(file: File): Promise<GreyPicture> {
  const bitmap = await createImageBitmap(file, { premultiplyAlpha: 'premultiply', colorSpaceConversion: 'none' }).catch(() => {
    throw new Error('it is no picture that this browser can read: PNG, JPEG and WebP are');
  });
  const { width, height } = bitmap;
  if (width * height > MOST_PIXELS) {
    bitmap.close();
    throw new Error(`it has ${width} x ${height} pixels: make it smaller, one for each sample of the ground is enough`);
  }
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.fillRect(0, 0, width, height);
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { data } = context.getImageData(0, 0, width, height);
  const grey = new Uint8Array(width * height);
  for (let i = 0; i < grey.length; i++) grey[i] = Math.round(0.2126 * data[i * 4] + 0.7152 * data[i * 4 + 1] + 0.0722 * data[i * 4 + 2]);
  return { width, height, grey };
}

/** Paints a habitat as a picture has it, over the whole level: bright is of it. One edit; what is wrong with the picture is said. */
export async function paintFromPicture(session: Session, habitat: Habitat, file: File): Promise<void> {
  const refuse = (why: string) => session.say(`${file.name}: ${why}`, true);
  try {
    const picture = await greyOf(file);
    const now = session.level.object(habitat.id);
    if (now?.kind !== 'habitat') return refuse(`${habitat.name} is gone`);
    const deltas = areaOfPicture(picture, session.terrain.grid, session.level.tiles, habitat.id);
    if (typeof deltas === 'string') return refuse(deltas);
    if (deltas.length === 0) return refuse(`${habitat.name} is painted like that already, or the picture is dark all over: bright is of the habitat`);
    const stroke = { kind: 'stroke' as const, tiles: deltas.map(({ key, delta }) => ({ key, delta: toBase64(packRaster(delta)) })) };
    const drawn = { kind: 'set' as const, patches: [{ id: now.id, set: { area: 'drawn' as const } }] };
    session.commit(now.area === 'drawn' ? stroke : { kind: 'together', parts: [drawn, stroke] }, `paint ${now.name} from ${file.name}`);
  } catch (error) {
    refuse((error as Error).message);
  }
}
