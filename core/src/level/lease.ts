/** How long a writer may be silent before another may take its place without asking, ms: what the server holds it to. */
export const LEASE_MS = 20_000;

/** How often a client renews its lease, ms: two may be lost before it lapses. */
export const HEARTBEAT_MS = 6000;
