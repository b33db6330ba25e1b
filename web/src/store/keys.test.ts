import { describe, expect, it } from 'vitest';
import { chordOf, keyLabel, withKeys } from './keys';

/** Parts of a French, a German and a plain keyboard. */
const FRENCH = { KeyQ: 'a', KeyA: 'q', KeyW: 'z', KeyZ: 'w', KeyR: 'r', Digit1: '&', BracketLeft: '^', Slash: '!' };
const GERMAN = { KeyY: 'z', KeyZ: 'y', Minus: 'ß', Slash: '-', KeyR: 'r' };
const PLAIN = { KeyQ: 'q', KeyZ: 'z', KeyR: 'r', Slash: '/', BracketLeft: '[' };
const press = (code: string, key: string, more: Partial<KeyboardEvent> = {}) =>
  chordOf({ code, key, ctrlKey: false, metaKey: false, shiftKey: false, ...more });
const table = [
  { code: 'KeyW', label: 'W' },
  { code: 'KeyR', label: 'R' },
  { code: 'Digit1', label: '1' },
  { code: 'Shift+Slash', label: '?' },
  { code: 'Ctrl+KeyZ', label: 'Ctrl+Z' },
  { code: 'BracketLeft', label: '[' },
];
const labels = (printed: Record<string, string>, changed: Record<string, string> = {}) => withKeys(table, changed, printed).map((s) => s.label);

describe('keys', () => {
  it('are named as they are printed, digits as digits; what is printed as the table says keeps its own word', () => {
    expect(labels({})).toEqual(['W', 'R', '1', '?', 'Ctrl+Z', '[']);
    expect(labels(PLAIN)).toEqual(['W', 'R', '1', '?', 'Ctrl+Z', '[']);
    expect(labels(FRENCH)).toEqual(['Z', 'R', '1', 'Shift+!', 'Ctrl+Z', '^']);
    expect(keyLabel('Minus', GERMAN)).toBe('ß');
    expect([keyLabel('Shift+KeyY', GERMAN), keyLabel('Numpad4', FRENCH), keyLabel('PageUp')]).toEqual(['Shift+Z', 'pad 4', 'Page Up']);
  });

  it('that a person has changed are named by their place on the same keyboard, those turned off are off', () => {
    const mine = withKeys(table, { KeyR: 'KeyA', Digit1: '' }, FRENCH);
    expect(mine[1]).toEqual({ code: 'KeyA', label: 'Q', own: 'KeyR' });
    expect(mine[2]).toEqual({ code: '', label: 'off', own: 'Digit1' });
  });

  it('alone go by their place, with Ctrl by their letter', () => {
    expect([press('KeyW', 'z'), press('KeyH', 'H', { shiftKey: true })]).toEqual(['KeyW', 'Shift+KeyH']);
    // Undo is Ctrl and the key with Z on it, on a German keyboard where Y lies on ours.
    expect([press('KeyY', 'z', { ctrlKey: true }), press('KeyZ', 'y', { ctrlKey: true }), press('KeyY', 'Z', { metaKey: true, shiftKey: true })]).toEqual([
      'Ctrl+KeyZ',
      'Ctrl+KeyY',
      'Ctrl+Shift+KeyZ',
    ]);
    // Where the layout has no Latin letters the place stands for them.
    expect(press('KeyZ', 'я', { ctrlKey: true })).toBe('Ctrl+KeyZ');
    expect(press('Slash', '/', { ctrlKey: true })).toBe('Ctrl+Slash');
  });
});
