declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
  /** Loads Draco's decoder. */
  export default function create(options?: { locateFile?(file: string): string }): Promise<unknown>;
}
