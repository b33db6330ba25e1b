import { clamp } from '../../num/vec';
import { relative, shareOf, type BrushOf } from './brushKind';
import { meanAround } from './meanAround';

/** Away from the mean of what lies around, no faster than a dab raises. */
export const sharpen: BrushOf = {
  change: relative(({ now, ready: mean }, f, b) => clamp(shareOf(b, f) * (now - mean), -b.strength * f, b.strength * f)),
  ready: meanAround,
  reversed: 'smooth',
};
