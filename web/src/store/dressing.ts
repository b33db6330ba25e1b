import { create } from 'zustand';
import { DRESSING, type Dressing } from '@rammer/core/level/lay/dressed';
import type { Throwing } from '@rammer/core/play/throwPieces';

interface DressingState {
  of: Dressing;
  /** metres */
  radius: number;
  /** strokes and throws so far: each draws anew */
  strokes: number;
  throwing: Omit<Throwing, 'radius'>;
  /** what falls now */
  falling?: { count: number; of: number; seconds: number; stop(): void };
  set(fields: Partial<Dressing>): void;
}

/** What is set by brush and by throw, and how each may differ. */
export const useDressing = create<DressingState>((set) => ({
  of: DRESSING,
  radius: 3,
  strokes: 0,
  throwing: { count: 12, height: 1.5, tumble: 30 },
  set: (fields) => set((s) => ({ of: { ...s.of, ...fields } })),
}));
