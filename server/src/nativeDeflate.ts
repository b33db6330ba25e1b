import { deflateRawSync, inflateRawSync } from 'node:zlib';
import { setDeflater } from '@rammer/core/num/fixed';

/** Rasters are packed by Node's own zlib here: the same form, several times as quick. */
export function useNativeDeflate(): void {
  setDeflater({
    deflate: (bytes) => new Uint8Array(deflateRawSync(bytes, { level: 3 })),
    inflate: (bytes, size) => {
      try {
        return new Uint8Array(inflateRawSync(bytes, { maxOutputLength: Math.max(1, size) }));
      } catch (error) {
        throw (error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE' ? new RangeError(`packed raster holds more than ${size} bytes`) : error;
      }
    },
  });
}
