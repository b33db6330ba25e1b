import { create } from 'zustand';
import type { Shortcut } from './shortcuts';

/** Keys the person has changed: the table's own code to another one, or to nothing where it is off. Kept in this browser. */
const STORE = 'rammer.keys';
type Changed = Record<string, string>;

function read(): Changed {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(STORE) ?? '{}');
    if (typeof value !== 'object' || value === null) return {};
    return Object.fromEntries(Object.entries(value).filter((e): e is [string, string] => typeof e[1] === 'string'));
  } catch {
    return {};
  }
}

export const useKeys = create<{ changed: Changed; set(code: string, to: string | undefined): void; reset(): void }>((set, get) => {
  const keep = (changed: Changed) => {
    set({ changed });
    try { localStorage.setItem(STORE, JSON.stringify(changed)); } catch { /* a full disk keeps them for this page only */ }
  };
  return {
    changed: read(),
    set(code, to) {
      const { [code]: _, ...rest } = get().changed;
      keep(to === undefined || to === code ? rest : { ...rest, [code]: to });
    },
    reset() { keep({}); },
  };
});

const NAMES: Record<string, string> = { BracketLeft: '[', BracketRight: ']', Minus: '-', Equal: '=', Slash: '/', Backslash: '\\', Semicolon: ';', Quote: "'", Comma: ',', Period: '.', Backquote: '`', PageUp: 'Page Up', PageDown: 'Page Down' };

/** What is printed on the key, as far as its position tells. */
export const keyLabel = (chord: string): string => chord.split('+').map((part) => NAMES[part] ?? part.replace(/^(Key|Digit)/, '').replace(/^Numpad/, 'pad ')).join('+');

/** The table with the person's own keys in it; those that are off have no code. */
export function withKeys(shortcuts: readonly Shortcut[], changed: Changed): Shortcut[] {
  return shortcuts.map((s) => {
    const to = changed[s.code];
    return to === undefined ? s : { ...s, own: s.code, code: to, label: to === '' ? 'off' : keyLabel(to) };
  });
}
