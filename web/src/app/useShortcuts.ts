import { useEffect } from 'react';
import { useUi } from '../store/ui';
import { chordOf } from '../store/keys';
import { inField, type Shortcut } from './shortcuts';
import type { Walking } from './useWalk';

/** Listens for the keys of the table; in Walk the body's keys come first and Esc comes back. */
export function useShortcuts(shortcuts: readonly Shortcut[], walking: Walking): void {
  const { now, stop } = walking;
  useEffect(() => {
    const table = new Map(shortcuts.filter((s) => s.code !== '').map((s) => [s.code, s]));
    let holding: Shortcut | undefined;
    const letGo = () => {
      holding?.release?.();
      holding = undefined;
    };
    let buttons = 0;
    const pointer = (e: PointerEvent) => {
      buttons = e.buttons;
    };
    const onDown = (e: KeyboardEvent) => {
      if (inField(e.target)) return;
      if (now.current) {
        if (e.code === 'Escape') {
          stop();
          e.preventDefault();
          return;
        }
        if (!e.ctrlKey && !e.metaKey && now.current.key(e.code, true)) {
          e.preventDefault();
          return;
        }
      }
      if (e.code === 'Escape') {
        useUi.setState({ tool: 'select', selection: useUi.getState().tool === 'select' ? [] : useUi.getState().selection });
        return;
      }
      if (buttons !== 0) return;
      const onControl = e.target instanceof HTMLElement && e.target.closest('button, a, input, [role=option], [role=separator]') !== null;
      if (onControl && (e.code === 'Enter' || e.code === 'Space' || e.code.startsWith('Arrow'))) return;
      const found = table.get(chordOf(e));
      if (!found) return;
      e.preventDefault();
      if (found.release) {
        if (holding === found) return;
        letGo();
        holding = found;
      }
      found.run();
    };
    const onUp = (e: KeyboardEvent) => {
      if (holding && holding.code.endsWith(e.code)) letGo();
      now.current?.key(e.code, false);
    };
    const blur = () => {
      letGo();
      for (const c of ['KeyW', 'KeyA', 'KeyS', 'KeyD', 'Space', 'ShiftLeft', 'ShiftRight', 'KeyQ', 'KeyE']) now.current?.key(c, false);
    };
    addEventListener('keydown', onDown);
    addEventListener('keyup', onUp);
    addEventListener('blur', blur);
    addEventListener('pointerdown', pointer, true);
    addEventListener('pointerup', pointer, true);
    return () => {
      letGo();
      removeEventListener('keydown', onDown);
      removeEventListener('keyup', onUp);
      removeEventListener('blur', blur);
      removeEventListener('pointerdown', pointer, true);
      removeEventListener('pointerup', pointer, true);
    };
  }, [shortcuts, now, stop]);
}
