/** What keeps Rammer from starting, in one line that says what to do. */
export class StartFault extends Error {}
