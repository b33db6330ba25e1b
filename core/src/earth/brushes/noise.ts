import { fractalNoise } from '../../num/noise';
import { relative, type BrushOf } from './brushKind';

const grain = fractalNoise(17, 4);

export const noise: BrushOf = { change: relative(({ x, z }, f, b) => b.strength * f * grain.at(x / b.grain, z / b.grain)) };
