declare module 'gltf-validator' {
  /** What the Khronos validator reports; severity 0 is an error, 1 a warning. */
  export interface Report {
    issues: { numErrors: number; numWarnings: number; messages: { severity: number; code: string; message: string; pointer?: string }[] };
  }
  export function validateBytes(bytes: Uint8Array): Promise<Report>;
}
