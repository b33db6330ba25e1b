/** A fault in something that came from outside: a stable code and a message that says what to do. */
export interface Fault {
  code: string;
  message: string;
}

export type Outcome<T> = { ok: true; value: T } | ({ ok: false } & Fault);

export const fault = (code: string, message: string): { ok: false } & Fault => ({ ok: false, code, message });
