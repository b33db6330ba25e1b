/** What the eye in a table does, and what it does not. */
export const HIDES = 'only hidden from view: it still stands, costs and is exported; take it out of the level to be rid of it';
