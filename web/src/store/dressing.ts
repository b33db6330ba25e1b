import { create } from 'zustand';
import { DRESSING, type Dressing } from '@rammer/core/kit/dress';

interface DressingState {
  of: Dressing;
  /** metres */
  radius: number;
  /** strokes so far: each draws anew */
  strokes: number;
  set(fields: Partial<Dressing>): void;
}

/** The brush of pieces: what it sets and how each may differ. */
export const useDressing = create<DressingState>((set) => ({
  of: DRESSING,
  radius: 3,
  strokes: 0,
  set: (fields) => set((s) => ({ of: { ...s.of, ...fields } })),
}));
