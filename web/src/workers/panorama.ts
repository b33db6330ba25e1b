import { decode, encode } from 'fast-png';
import { packLight, shrunk, sunOf, unpackLight, type Panorama } from '@rammer/core/light/panorama';
import { srgbToLinear } from '@rammer/core/num/srgb';
import type { Vec3 } from '@rammer/core/num/vec';

/** Widest a panorama is kept, texels; widest and largest one that is read. */
const KEPT = 2048;
const MOST = { width: 8192, height: 4096, bytes: 256 << 20 };

export interface PackedPanorama {
  /** four bytes a texel, see `packLight` */
  png: Uint8Array;
  width: number;
  height: number;
  sun?: Vec3;
}

/** Reads a panorama: Radiance HDR, OpenEXR, or any picture the browser knows. @throws Error in words */
export async function readPanorama(file: File): Promise<PackedPanorama> {
  if (file.size === 0) throw new Error('the file is empty');
  if (file.size > MOST.bytes) throw new Error(`it has ${(file.size / 2 ** 20).toFixed(0)} MB; at most ${MOST.bytes >> 20} MB are read`);
  const bytes = new Uint8Array(await file.arrayBuffer());
  const whole = await light(bytes, file);
  if (whole.width < whole.height * 1.5 || whole.width > whole.height * 2.5)
    throw new Error(`it is ${whole.width} x ${whole.height}: a panorama of all round is twice as wide as it is high`);
  const panorama = shrunk(whole, KEPT);
  const { width, height } = panorama;
  const sun = sunOf(panorama);
  return { png: encode({ width, height, data: packLight(panorama), channels: 4, depth: 8 }), width, height, ...(sun ? { sun } : {}) };
}

/** A panorama as it was packed. */
export function unpackPanorama(png: Uint8Array): Panorama {
  const { width, height, data, channels } = decode(png);
  if (channels !== 4) throw new Error('the asset carries a picture that is no panorama');
  return unpackLight(data as Uint8Array, width, height);
}

const within = (width: number, height: number): void => {
  if (!(width > 0 && height > 0)) throw new Error('it has no pixels');
  if (width > MOST.width || height > MOST.height) throw new Error(`it is ${width} x ${height}; at most ${MOST.width} x ${MOST.height} are read`);
};

async function light(bytes: Uint8Array, file: Blob): Promise<Panorama> {
  const start = new TextDecoder('latin1').decode(bytes.subarray(0, 65_536));
  if (start.startsWith('#?')) {
    // Its size stands in its head: it is looked at before anything is unpacked.
    const size = /\n-Y (\d+) \+X (\d+)\n/.exec(start);
    if (!size) throw new Error('it says no size, or is turned: rows from the top and columns from the left are read (-Y +X)');
    within(Number(size[2]), Number(size[1]));
    const { HDRLoader } = await import('three/examples/jsm/loaders/HDRLoader.js');
    return fromRows(await parsed(() => new HDRLoader().setDataType(1015).parse(whole(bytes))), false);
  }
  if (bytes[0] === 0x76 && bytes[1] === 0x2f && bytes[2] === 0x31 && bytes[3] === 0x01) {
    const at = start.indexOf('dataWindow\0box2i\0');
    if (at < 0) throw new Error('it says no size');
    const view = new DataView(bytes.buffer, bytes.byteOffset + at + 21, 16);
    within(view.getInt32(8, true) - view.getInt32(0, true) + 1, view.getInt32(12, true) - view.getInt32(4, true) + 1);
    const { EXRLoader } = await import('three/examples/jsm/loaders/EXRLoader.js');
    // Its rows come from the foot up.
    return fromRows(await parsed(() => new EXRLoader().setDataType(1015).parse(whole(bytes))), true);
  }
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error('it is no panorama that can be read: Radiance HDR, OpenEXR, PNG, JPEG and WebP are');
  });
  within(bitmap.width, bitmap.height);
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  const context = canvas.getContext('2d')!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const { width, height, data } = context.getImageData(0, 0, canvas.width, canvas.height);
  const table = Float32Array.from({ length: 256 }, (_, i) => srgbToLinear(i / 255));
  return fromRows({ width, height, data: Float32Array.from(data, (v) => table[v]) }, false);
}

const whole = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer;

interface Rows {
  width: number;
  height: number;
  data: ArrayLike<number>;
}

/** What a loader gives, its fault in words. */
async function parsed(parse: () => unknown): Promise<Rows> {
  try {
    return parse() as Rows;
  } catch (e) {
    const why = e instanceof Error ? e.message.replace(/^THREE\.\w+: ?/, '') : String(e);
    throw new Error(`it is cut off or damaged: copy it again, or save it anew (${why})`, { cause: e });
  }
}

/** Three numbers of each texel, rows from the foot; what is no number is dark. */
function fromRows({ width, height, data }: Rows, footFirst: boolean): Panorama {
  const channels = data.length / (width * height);
  if (channels !== 3 && channels !== 4) throw new Error('it has no red, green and blue');
  const out = new Float32Array(width * height * 3);
  for (let y = 0; y < height; y++) {
    const from = footFirst ? y : height - 1 - y;
    for (let x = 0; x < width; x++)
      for (let c = 0; c < 3; c++) {
        const v = data[(from * width + x) * channels + c];
        out[(y * width + x) * 3 + c] = v > 0 && v < 1e30 ? v : 0;
      }
  }
  return { width, height, data: out };
}
