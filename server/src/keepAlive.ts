/**
 * So long an idle connection is kept, ms. Clients keep theirs a few seconds: a server that drops them as early resets one that is
 * just being asked for something else, and the answer is lost for no reason.
 */
export const KEEP_ALIVE_MS = 65_000;
