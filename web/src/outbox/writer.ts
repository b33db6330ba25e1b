import { call, sendLease } from './api';

/** How often a waiting tab asks again for a lock that a page just left still holds, and for how long. */
const RETRY_MS = 120;
const RETRIES = 12;

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;

/**
 * The name of this browser to the server, the same in all its tabs and from day to day: a page that is loaded
 * again holds the lease of the one before it, also where that one could not give it back.
 */
export function browserId(): string {
  const made = crypto.randomUUID();
  try {
    const known = localStorage.getItem('rammer-browser');
    if (known && UUID.test(known)) return known;
    localStorage.setItem('rammer-browser', made);
  } catch {
    // A browser that keeps nothing has another name in each tab, as it has another outbox.
  }
  return made;
}

/**
 * The right to write a level: a Web Lock among the tabs of this browser, then a lease on the server among
 * browsers. Both can be taken over; the one that loses it is told.
 */
export class Writer {
  readonly client = browserId();
  private releaseLock?: () => void;
  private closed = false;

  /** @param onLost called when another tab or browser took over */
  constructor(
    private readonly level: string,
    private readonly onLost: () => void,
  ) {}

  /** @returns whether this tab may write; where the server is away it may, and finds out when it sends */
  async acquire(take: boolean): Promise<boolean> {
    if (take) this.releaseLock?.();
    let locked = await this.lock(take);
    for (let tries = 0; !locked && tries < RETRIES; tries++) {
      await new Promise((go) => setTimeout(go, RETRY_MS));
      locked = await this.lock(false);
    }
    if (!locked) return false;
    try {
      return (await sendLease(this.level, this.client, take)).held;
    } catch (error) {
      if ((error as { away?: boolean }).away) return true;
      throw error;
    }
  }

  /** Renews the lease. @returns the server's version of the level, or `undefined` where the lease is another's now */
  async renew(): Promise<number | undefined> {
    const lease = await sendLease(this.level, this.client, false);
    return lease.held ? lease.version : undefined;
  }

  /** Gives the lease back, also while the page is being left. */
  leave(): void {
    void call('POST', `/api/levels/${this.level}/lease`, { client: this.client, release: true }, { keepalive: true }).catch(() => {});
  }

  close(): void {
    this.closed = true;
    this.releaseLock?.();
  }

  private lock(steal: boolean): Promise<boolean> {
    return new Promise<boolean>((answer) => {
      void navigator.locks
        .request(`rammer-level-${this.level}`, steal ? { steal: true } : { ifAvailable: true }, (lock) => {
          answer(lock !== null);
          return lock
            ? new Promise<void>((release) => {
                this.releaseLock = release;
              })
            : undefined;
        })
        .catch(() => {
          // Another tab of this browser took over.
          if (!this.closed) this.onLost();
        });
    });
  }
}
