import { shareOf, type BrushOf } from './brushKind';

/** Towards zero, so that repeated light dabs always arrive. */
const fade = (value: number, share: number): number => Math.trunc(value * (1 - share));

/** Takes hand work away. */
export const erase: BrushOf = {
  change({ delta, held, weight, at }, _, f, brush) {
    const share = shareOf(brush, f);
    delta[at] = fade(delta[at], share);
    weight[at] = fade(weight[at], share);
    if (weight[at] === 0) held[at] = 0;
  },
};
