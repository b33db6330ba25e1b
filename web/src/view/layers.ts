/** Layers of the view's scenes besides the level itself: what one sees through (water, glass), and people, who throw shadows. */
export const SEE_THROUGH = 1;
export const PEOPLE = 2;
