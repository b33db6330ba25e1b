import { pictureTexture } from '@rammer/core/surface/pictured';

/** The picture that an asset carries as the texture of a surface, `side` pixels a side. @throws where it is not on the server or cannot be read */
export async function pictureLayer(hash: string, side: number): Promise<Uint8Array> {
  const answer = await fetch(`/api/assets/${hash}`);
  if (!answer.ok) throw new Error('the picture is not on the server');
  // Few levels wear pictures: what reads them is loaded when the first one does.
  const { pictureOf } = await import('@rammer/core/io/referenceGlb');
  const picture = await pictureOf(new Uint8Array(await answer.arrayBuffer()));
  if (!picture.ok) throw new Error(picture.message);
  const bitmap = await createImageBitmap(new Blob([picture.value as BlobPart]), {
    resizeWidth: side,
    resizeHeight: side,
    resizeQuality: 'high',
  });
  const context = new OffscreenCanvas(side, side).getContext('2d')!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return pictureTexture(context.getImageData(0, 0, side, side).data, side);
}
