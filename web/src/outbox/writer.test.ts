import { beforeEach, describe, expect, it, vi } from 'vitest';

const kept = new Map<string, string>();
const store = { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, value: string) => { kept.set(key, value); } };
vi.stubGlobal('localStorage', store);
vi.mock('../store/api', () => ({ call: vi.fn(), sendLease: vi.fn() }));
const { browserId, Writer } = await import('./writer');

beforeEach(() => { kept.clear(); vi.stubGlobal('localStorage', store); });

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
    vi.stubGlobal('localStorage', { getItem: () => { throw new Error('not here'); } });
    expect(browserId()).toMatch(/^[0-9a-f-]{36}$/);
  });
});
