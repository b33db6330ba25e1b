import { relative, type BrushOf } from './brushKind';

export const raise: BrushOf = { change: relative((_, f, b) => b.strength * f), reversed: 'lower' };
