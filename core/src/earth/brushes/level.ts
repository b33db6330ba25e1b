import { holds, type BrushOf } from './brushKind';

export const level: BrushOf = { change: holds((_, b) => b.levelTo), label: (b) => `to ${b.levelTo.toFixed(2)} m` };
