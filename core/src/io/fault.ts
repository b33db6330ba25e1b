/** A fault in something that came from outside: a stable code and a message that says what to do. */
export interface Fault {
  code: string;
  message: string;
}

export type Outcome<T> = { ok: true; value: T } | ({ ok: false } & Fault);

/**
 * A refusal as a value: a stable code, and words for the person that name the fault and what to do.
 *
 * @example
 * if (bytes.length === 0) return fault('empty-file', 'the file is empty: choose another');
 */
export const fault = (code: string, message: string): { ok: false } & Fault => ({ ok: false, code, message });
