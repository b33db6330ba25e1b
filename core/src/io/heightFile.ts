import { readAsset } from './assetGlb';
import { fault, type Outcome } from './fault';
import { readGeoTiff } from './geotiff';
import { heightmapSizeFault, readHeightPng, type Heightmap } from './heightmap';
import { meshHeights } from './meshHeights';
import { readObj } from './readObj';

/** What heights are read from, by the end of the name; a RAW says nothing of its size and is read by `readHeightRaw`. */
export const HEIGHT_FILES = '.png,.raw,.r16,.tif,.tiff,.obj,.glb';
/** Whether a file is a raster of plain numbers, by its name. */
export const isRaw = (name: string): boolean => /\.(raw|r16)$/i.test(name);

/** The largest picture that is read, in doubles. */
const MOST_BYTES = 400 << 20;

/**
 * What is wrong with a file by its size and its first bytes, so that nothing huge is read for nothing.
 *
 * @param head its first 33 bytes
 */
export function heightFileFault(name: string, bytes: number, head: Uint8Array) {
  if (bytes > MOST_BYTES)
    return fault(
      'heightmap-size',
      `${name} is ${Math.round(bytes / (1 << 20))} MB: heights are read from files of up to ${MOST_BYTES >> 20} MB; scale it down first`,
    );
  if (!/\.png$/i.test(name) || head.length < 33 || head[0] !== 137) return undefined;
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  return heightmapSizeFault(name, view.getUint32(16), view.getUint32(20));
}

/** Reads heights from a picture or a mesh of ground; every fault is named and nothing is made. */
export async function readHeightFile(name: string, bytes: Uint8Array): Promise<Outcome<Heightmap>> {
  if (/\.tiff?$/i.test(name)) return readGeoTiff(name, bytes);
  if (/\.obj$/i.test(name)) {
    const mesh = readObj(name, bytes);
    return mesh.ok ? meshHeights(name, [mesh.value]) : mesh;
  }
  if (/\.glb$/i.test(name)) {
    const asset = await readAsset(bytes, name);
    return asset.ok ? meshHeights(name, asset.value.lods[0]) : asset;
  }
  return readHeightPng(name, bytes);
}
