import { beforeEach, describe, expect, it, vi } from 'vitest';
import { HEARTBEAT_MS, LEASE_MS } from '@rammer/core/level/lease';
import { fakeLocks } from '../testing/fakeServer';

const kept = new Map<string, string>();
const store = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => {
    kept.set(key, value);
  },
};
vi.stubGlobal('localStorage', store);
const api = vi.hoisted(() => ({ call: vi.fn(() => Promise.resolve({})), sendLease: vi.fn() }));
vi.mock('./api', () => api);
const { browserId, Writer } = await import('./writer');

beforeEach(() => {
  kept.clear();
  vi.stubGlobal('localStorage', store);
});

describe('the name of a browser', () => {
  it('is the same for every page it opens, and that of the lease', () => {
    const first = browserId();
    expect(browserId()).toBe(first);
    expect([new Writer('a', () => {}).client, new Writer('b', () => {}).client]).toEqual([first, first]);
    kept.clear();
    expect(browserId()).not.toBe(first);
  });

  it('is made anew where what was kept is none, and is there where nothing can be kept', () => {
    kept.set('rammer-browser', 'somebody');
    const name = browserId();
    expect(name).toMatch(/^[0-9a-f-]{36}$/);
    expect(kept.get('rammer-browser')).toBe(name);
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('not here');
      },
    });
    expect(browserId()).toMatch(/^[0-9a-f-]{36}$/);
  });
});

describe('the right to write', () => {
  const lease = (answer: object | Error) => {
    api.sendLease.mockImplementation(() => (answer instanceof Error ? Promise.reject(answer) : Promise.resolve(answer)));
  };
  beforeEach(() => {
    vi.stubGlobal('navigator', { locks: fakeLocks() });
    lease({ held: true, version: 3 });
  });

  it("is one tab's at a time; another takes over and the first is told", async () => {
    const lost = vi.fn();
    const [first, second] = [new Writer('l', lost), new Writer('l', () => {})];
    expect(await first.acquire(false)).toBe(true);
    expect(await second.acquire(false)).toBe(false);
    expect(lost).not.toHaveBeenCalled();
    expect(await second.acquire(true)).toBe(true);
    expect(lost).toHaveBeenCalledTimes(1);
    expect(api.sendLease).toHaveBeenLastCalledWith('l', second.client, true);
    second.close();
    expect(await new Writer('l', () => {}).acquire(false)).toBe(true);
  });

  it('is that of a page just left as soon as that has let go of it', async () => {
    const old = new Writer('l', () => {});
    await old.acquire(false);
    setTimeout(() => old.close(), 300);
    expect(await new Writer('l', () => {}).acquire(false)).toBe(true);
  });

  it("is not another browser's; where the server is away it is found out later", async () => {
    lease({ held: false, version: 3 });
    expect(await new Writer('a', () => {}).acquire(false)).toBe(false);
    lease(Object.assign(new Error('away'), { away: true }));
    expect(await new Writer('b', () => {}).acquire(false)).toBe(true);
    lease(Object.assign(new Error('gone'), { away: false }));
    await expect(new Writer('c', () => {}).acquire(false)).rejects.toThrow('gone');
  });

  it('renewed tells the version, or that it is lost; given back it is so as the page is left', async () => {
    const writer = new Writer('l', () => {});
    expect(await writer.renew()).toBe(3);
    lease({ held: false, version: 4 });
    expect(await writer.renew()).toBeUndefined();
    writer.leave();
    expect(api.call).toHaveBeenCalledWith('POST', '/api/levels/l/lease', { client: writer.client, release: true }, { keepalive: true });
  });

  it('is renewed often enough to outlive two answers that are lost', () => {
    expect(LEASE_MS).toBeGreaterThan(3 * HEARTBEAT_MS);
  });
});
