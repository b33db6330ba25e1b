import { packPng, unpackPng } from '@rammer/core/io/assets/pngPictures';
import type { PictureTools } from '@rammer/core/kit/mend/tools';
import type { Pixels } from '@rammer/core/num/halvePicture';

/** Pictures by the browser; PNG by our own reader, for a canvas forgets colours that are clear. */
export const BROWSER_PICTURES: PictureTools = {
  async unpack({ name, mime, bytes }) {
    if (mime === 'image/png') return unpackPng(bytes);
    if (mime === 'image/ktx2') throw new Error(`${name} is KTX2, which stays packed on the GPU: it is not made smaller here`);
    const image = await createImageBitmap(new Blob([bytes as BlobPart], { type: mime }), { colorSpaceConversion: 'none', premultiplyAlpha: 'none' });
    const context = contextOf(image.width, image.height);
    context.drawImage(image, 0, 0);
    const { data } = context.getImageData(0, 0, image.width, image.height);
    const out = { width: image.width, height: image.height, data: new Uint8Array(data.buffer) };
    image.close();
    return out;
  },

  async pack(pixels: Pixels, mime: string) {
    if (mime !== 'image/jpeg' && mime !== 'image/webp') return { bytes: packPng(pixels), mime: 'image/png' };
    const context = contextOf(pixels.width, pixels.height);
    context.putImageData(new ImageData(new Uint8ClampedArray(pixels.data), pixels.width, pixels.height), 0, 0);
    const blob = await context.canvas.convertToBlob({ type: mime, quality: 0.92 });
    return { bytes: new Uint8Array(await blob.arrayBuffer()), mime: blob.type };
  },
};

const contextOf = (width: number, height: number): OffscreenCanvasRenderingContext2D =>
  new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
