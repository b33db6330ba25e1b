import type { WebIO } from '@gltf-transform/core';
import {
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  EXTTextureAVIF,
  EXTTextureWebP,
  KHRDracoMeshCompression,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsPBRSpecularGlossiness,
  KHRMaterialsSpecular,
  KHRMaterialsUnlit,
  KHRMeshPrimitiveRestart,
  KHRMeshQuantization,
  KHRTextureBasisu,
  KHRTextureTransform,
} from '@gltf-transform/extensions';

/** What a file needs to be unpacked. */
export interface Needed {
  draco?: boolean;
  meshopt?: boolean;
  /** where Draco's WebAssembly lies, for a host that moves files; left out in Node */
  dracoWasm?: string;
}

/** Loads Draco's decoder. */
type DracoFactory = (options: { locateFile?(file: string): string }) => Promise<unknown>;

/** Extensions of glTF that are read and written. */
const EXTENSIONS = [
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  EXTTextureAVIF,
  EXTTextureWebP,
  KHRDracoMeshCompression,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsPBRSpecularGlossiness,
  KHRMaterialsSpecular,
  KHRMaterialsUnlit,
  KHRMeshPrimitiveRestart,
  KHRMeshQuantization,
  KHRTextureBasisu,
  KHRTextureTransform,
];
/** Their names. */
export const READ_EXTENSIONS: ReadonlySet<string> = new Set([...EXTENSIONS.map((e) => e.EXTENSION_NAME), 'KHR_meshopt_compression']);

/**
 * Makes a reader of glTF read every extension that is read here; decoders are loaded where a file needs them, never before.
 *
 * @throws where a decoder cannot be loaded
 */
export async function withCodecs(io: WebIO, { draco, meshopt, dracoWasm }: Needed): Promise<WebIO> {
  io.registerExtensions(EXTENSIONS);
  if (meshopt) {
    const { MeshoptDecoder } = await import('meshoptimizer');
    await MeshoptDecoder.ready;
    io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
  }
  if (draco) {
    // @ts-expect-error -- it comes without types
    const loaded = (await import('draco3dgltf/draco_decoder_gltf_nodejs.js')) as { default: DracoFactory };
    io.registerDependencies({ 'draco3d.decoder': await loaded.default(dracoWasm ? { locateFile: () => dracoWasm } : {}) });
  }
  return io;
}
