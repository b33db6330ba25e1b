/** One table of keys: what the code matches (key position), what it does. Listed by `?`. */
export interface Shortcut {
  /** KeyboardEvent.code, with Ctrl+, Shift+ before it */
  code: string;
  /** label where the keyboard's own is not asked for */
  label: string;
  does: string;
  run(): void;
}

export const chordOf = (e: KeyboardEvent): string => `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${e.shiftKey ? 'Shift+' : ''}${e.code}`;

/** Keys are inert in fields, while a dialog is open and while a button of the pointer is held. */
export function inField(target: EventTarget | null): boolean {
  return target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable], dialog[open]') !== null;
}
