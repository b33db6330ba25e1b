/** Whether an error came from a WebAssembly trap: the kernel's memory can no longer be trusted. */
export const isTrap = (error: unknown): boolean =>
  error instanceof Error && (error.name === 'RuntimeError' || /memory access out of bounds|unreachable executed|null function|Aborted\(/.test(error.message));
