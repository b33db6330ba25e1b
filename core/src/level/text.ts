/** What no database and no other program can keep: half of a surrogate pair, and the character of code 0. */
const UNSOUND = /\p{Surrogate}|\0/u;

/** Whether a text has nothing that PostgreSQL or JSON cannot hold: no NUL, no half of a pair. */
export const isSound = (text: string): boolean => !UNSOUND.test(text);

/** A text without what cannot be kept, at most `most` UTF-16 units long and never cut inside a character. */
export function soundText(text: string, most: number): string {
  return text.slice(0, most).replace(/\p{Surrogate}|\0/gu, '');
}

/** The path of the first text in a JSON value (keys included) that cannot be kept; `undefined` where all can. */
export function unsoundPath(value: unknown, path = ''): string | undefined {
  if (typeof value === 'string') return isSound(value) ? undefined : path || 'text';
  if (typeof value !== 'object' || value === null) return undefined;
  if (ArrayBuffer.isView(value)) return undefined;
  for (const [key, inner] of Object.entries(value)) {
    if (!isSound(key)) return `${path || 'value'}: a field's name`;
    const found = unsoundPath(inner, path ? `${path}.${key}` : key);
    if (found) return found;
  }
  return undefined;
}

/** @param path where it stands, see `unsoundPath` */
export const unsoundFault = (path: string): string => `${path}: holds half a character or a character of code 0, which cannot be kept`;
