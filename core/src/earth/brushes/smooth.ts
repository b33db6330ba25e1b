import { relative, shareOf, type BrushOf } from './brushKind';
import { meanAround } from './meanAround';

/** Towards the mean of what lies around. */
export const smooth: BrushOf = { change: relative(({ now, ready: mean }, f, b) => shareOf(b, f) * (mean - now)), ready: meanAround, reversed: 'sharpen' };
