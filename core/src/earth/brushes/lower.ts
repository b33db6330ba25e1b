import { relative, type BrushOf } from './brushKind';

export const lower: BrushOf = { change: relative((_, f, b) => -b.strength * f), reversed: 'raise' };
