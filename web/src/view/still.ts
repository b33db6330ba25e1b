import { WebGLRenderTarget, type WebGLRenderer } from 'three';

/** What `paint` draws, as pixels of a size of their own; what is on the screen stays. */
export function pixelsOf(renderer: WebGLRenderer, width: number, height: number, paint: () => void): ImageData {
  const target = new WebGLRenderTarget(width, height);
  renderer.setRenderTarget(target);
  paint();
  const image = readPixels(renderer, target);
  renderer.setRenderTarget(null);
  target.dispose();
  return image;
}

/** Pixels of a target of bytes, the first row on top, none of them seen through. */
export function readPixels(renderer: WebGLRenderer, target: WebGLRenderTarget): ImageData {
  const { width, height } = target;
  const pixels = new Uint8Array(width * height * 4);
  renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels);
  const image = new ImageData(width, height);
  for (let y = 0; y < height; y++) image.data.set(pixels.subarray((height - 1 - y) * width * 4, (height - y) * width * 4), y * width * 4);
  for (let i = 3; i < image.data.length; i += 4) image.data[i] = 255;
  return image;
}

/** Pixels as PNG. */
export async function pngOfPixels(image: ImageData): Promise<Blob> {
  const canvas = new OffscreenCanvas(image.width, image.height);
  canvas.getContext('2d')!.putImageData(image, 0, 0);
  return canvas.convertToBlob({ type: 'image/png' });
}
