import { drawnOutlines } from '../drawnOutlines';
import type { PlaceKind, WhereOf } from './field';

/** Edges are looked for no farther than this, metres: what is wider lets in all that is on its side. */
const MOST_REACH = 250;

/** Metres inside the play bounds, or what is drawn of a habitat; negative outside it. As far as the band reaches. */
export const outline: PlaceKind<WhereOf<'outline'>> = {
  name: 'inside outline',
  unit: 'm',
  make({ of, band: [low, high], soft }, { outlines }) {
    const found = outlines.find((o) => o.id === of);
    if (!found || found.outlines.length === 0) return { at: () => NaN };
    const { inside } = drawnOutlines(found.outlines, Math.min(MOST_REACH, Math.max(Math.abs(low), Math.abs(high)) + soft / 2 + 0.01));
    return { at: inside, open: { below: -200, above: 200 } };
  },
};
