import { create } from 'zustand';

/** Keys the person has changed: the table's own code to another one, or to nothing where it is off. Kept in this browser. */
const STORE = 'rammer.keys';
type Changed = Record<string, string>;
/** What is printed on the keys of this keyboard, by KeyboardEvent.code; empty where the browser does not tell. */
type Printed = Readonly<Record<string, string>>;

function read(): Changed {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(STORE) ?? '{}');
    if (typeof value !== 'object' || value === null) return {};
    return Object.fromEntries(Object.entries(value).filter((e): e is [string, string] => typeof e[1] === 'string'));
  } catch {
    return {};
  }
}

export const useKeys = create<{ changed: Changed; printed: Printed; set(code: string, to: string | undefined): void; reset(): void }>((set, get) => {
  const keep = (changed: Changed) => {
    set({ changed });
    try {
      localStorage.setItem(STORE, JSON.stringify(changed));
    } catch {
      /* a full disk keeps them for this page only */
    }
  };
  return {
    changed: read(),
    printed: {},
    set(code, to) {
      const { [code]: _, ...rest } = get().changed;
      keep(to === undefined || to === code ? rest : { ...rest, [code]: to });
    },
    reset() {
      keep({});
    },
  };
});

const NAMES: Record<string, string> = {
  BracketLeft: '[',
  BracketRight: ']',
  Minus: '-',
  Equal: '=',
  Slash: '/',
  Backslash: '\\',
  Semicolon: ';',
  Quote: "'",
  Comma: ',',
  Period: '.',
  Backquote: '`',
  PageUp: 'Page Up',
  PageDown: 'Page Down',
};

/** Not every browser tells the layout, and the types of none know of it. */
interface Keyboard {
  getLayoutMap?(): Promise<ReadonlyMap<string, string>>;
}
void (globalThis.navigator as (Navigator & { keyboard?: Keyboard }) | undefined)?.keyboard?.getLayoutMap?.().then(
  (map) => useKeys.setState({ printed: Object.fromEntries(map) }),
  () => {
    /* a page in a frame may not ask */
  },
);

/** Of a layout only what is printed for letters and signs is taken: digits are printed on the row of digits whatever a bare press gives. */
function printedOn(part: string, printed: Printed): string | undefined {
  const sign = /^(Digit|Numpad)/.test(part) ? undefined : printed[part];
  // A sharp s in capitals is two letters, and is printed small.
  return sign !== undefined && sign.toUpperCase().length === 1 ? sign.toUpperCase() : sign;
}

/** What is printed on the keys of a chord. With Ctrl a letter is the letter, see `chordOf`. */
export const keyLabel = (chord: string, printed: Printed = {}): string =>
  chord
    .split('+')
    .map(
      (part) => (chord.includes('Ctrl+') ? undefined : printedOn(part, printed)) ?? NAMES[part] ?? part.replace(/^(Key|Digit)/, '').replace(/^Numpad/, 'pad '),
    )
    .join('+');

/**
 * The chord of a key press. Alone a key is its place on the keyboard; with Ctrl a letter is that letter
 * wherever it lies, as everywhere else: undo is Ctrl and the key with Z on it.
 */
export function chordOf(e: Pick<KeyboardEvent, 'code' | 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey'>): string {
  const ctrl = e.ctrlKey || e.metaKey;
  return `${ctrl ? 'Ctrl+' : ''}${e.shiftKey ? 'Shift+' : ''}${ctrl && /^[a-z]$/i.test(e.key) ? `Key${e.key.toUpperCase()}` : e.code}`;
}

/** What stands for a key where a command is shipped with none. Its code is then a name, which no key sends. */
export const NO_KEY = 'no key';

/** The table with the person's own keys in it, as they are printed on the keyboard; those that are off have no code. */
export function withKeys<K extends { code: string; label: string; own?: string }>(shortcuts: readonly K[], changed: Changed, printed: Printed = {}): K[] {
  return shortcuts.map((s) => {
    const to = changed[s.code];
    // Where the keyboard prints what the table was written for, its own word stays: `?` and not Shift+/.
    if (to === undefined) return s.label === NO_KEY || keyLabel(s.code, printed) === keyLabel(s.code) ? s : { ...s, label: keyLabel(s.code, printed) };
    return { ...s, own: s.code, code: to, label: to === '' ? 'off' : keyLabel(to, printed) };
  });
}

/** A hint with its key in brackets, as the person has it: `drop (J)`; without where it is off. */
export const useHint = (): ((text: string, code: string) => string) => {
  const label = useKeyLabel();
  return (text, code) => {
    const key = label(code);
    return key ? `${text} (${key})` : text;
  };
};

/** The label of one key of the table, as the person has it; nothing where it is off. */
export const useKeyLabel = (): ((code: string) => string | undefined) => {
  const { changed, printed } = useKeys();
  return (code) => keyLabel(changed[code] ?? code, printed) || undefined;
};
