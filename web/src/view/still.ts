import { Vector2, WebGLRenderTarget, type WebGLRenderer } from 'three';

/** What `paint` draws, as pixels of a size of their own; what is on the screen stays. */
export function pixelsOf(renderer: WebGLRenderer, width: number, height: number, paint: () => void): ImageData {
  const target = new WebGLRenderTarget(width, height);
  renderer.setRenderTarget(target);
  paint();
  const pixels = new Uint8Array(width * height * 4);
  renderer.readRenderTargetPixels(target, 0, 0, width, height, pixels);
  renderer.setRenderTarget(null);
  target.dispose();
  const image = new ImageData(width, height);
  for (let y = 0; y < height; y++) image.data.set(pixels.subarray((height - 1 - y) * width * 4, (height - y) * width * 4), y * width * 4);
  for (let i = 3; i < image.data.length; i += 4) image.data[i] = 255;
  return image;
}

/** What `paint` draws, as PNG at a size of its own and smoothed as the screen is; the screen is to be painted anew after it. */
export async function pngOf(renderer: WebGLRenderer, width: number, height: number, paint: () => void): Promise<Blob | null> {
  const ratio = renderer.getPixelRatio();
  const size = renderer.getSize(new Vector2());
  renderer.setPixelRatio(1);
  renderer.setSize(width, height, false);
  paint();
  const blob = await new Promise<Blob | null>((give) => renderer.domElement.toBlob(give, 'image/png'));
  renderer.setPixelRatio(ratio);
  renderer.setSize(size.x, size.y, false);
  return blob;
}
