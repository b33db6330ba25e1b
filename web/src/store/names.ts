import type { Level } from '@rammer/core/level/level';

/** The next free name of a kind: `box 3`. */
export function nextName(level: Level, word: string): string {
  let n = 0;
  for (const o of level.objects.values()) {
    const m = o.name.startsWith(`${word} `) ? /^(\d+)$/.exec(o.name.slice(word.length + 1)) : null;
    if (m) n = Math.max(n, Number(m[1]));
  }
  return `${word} ${n + 1}`;
}

/** A short id, unique in practice and readable in a log. */
export const newId = (prefix: string): string => `${prefix}-${crypto.randomUUID().slice(0, 13)}`;
