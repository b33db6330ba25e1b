import { spawn, type ChildProcess } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { serve } from '../testing/serve';
import { Crew, type Ended } from './crew';
import { addJob, claimJob, jobView, requeueJob, sweepJobs, tellJob } from './jobRows';

const root = fileURLToPath(new URL('../../..', import.meta.url));
const demo = new Uint8Array(readFileSync(new URL('../../../demo/harrow-ledge-small.rammer.zip', import.meta.url)));

/** A server that takes no jobs itself: what is started waits for workers. */
let s: Awaited<ReturnType<typeof serve>>;
beforeAll(async () => {
  s = await serve({ most: 0 });
});
afterAll(async () => {
  await s.stop();
});

const until = async (state: () => Promise<boolean>, ms = 40_000): Promise<void> => {
  for (const end = Date.now() + ms; !(await state()); await new Promise((go) => setTimeout(go, 60))) if (Date.now() > end) throw new Error('not in time');
};

async function worker(): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['--import', 'tsx', join(root, 'server/src/worker.ts')], {
    cwd: root,
    env: { ...process.env, DATABASE_URL: s.url, RAMMER_LOG: 'silent' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((done, fail) => {
    child.stdout!.on('data', (d: Buffer) => {
      if (d.toString().includes('ready')) done();
    });
    child.once('exit', (code) => fail(new Error(`the worker ended with ${code}`)));
  });
  return child;
}

describe('workers of their own', () => {
  it('share the jobs of a server; one that is killed loses none', async () => {
    const workers = [await worker(), await worker()];
    const uploads = Promise.all(Array.from({ length: 3 }, () => s.call('POST', '/api/levels/package', demo, { 'Content-Type': 'application/zip' })));
    const ids = (await uploads).map((a) => {
      expect(a.status).toBe(201);
      return a.body.id as string;
    });
    const jobs = await Promise.all(ids.map((id) => s.call('POST', `/api/levels/${id}/check`).then((a) => a.body.id as string)));
    const view = async (id: string) => (await s.call('GET', `/api/jobs/${id}`)).body;
    await until(async () => (await Promise.all(jobs.map(view))).some((j) => j.progress > 0.05 && j.state === 'running'));
    workers[0].kill('SIGKILL');
    // A job of the dead worker is found when nobody has spoken of it for a while; the test does not wait that long.
    await new Promise((go) => setTimeout(go, 700));
    await s.pool.query("update jobs set seen_at = now() - interval '1 minute' where state = 'running' and seen_at < now() - interval '500 milliseconds'");
    await until(async () => (await Promise.all(jobs.map(view))).every((j) => j.state === 'done'), 55_000);
    for (const id of jobs) expect(await view(id)).toMatchObject({ state: 'done', progress: 1, result: { reach: { reached: true } } });
    const { rows } = await s.pool.query('select count(*)::int as n from levels');
    expect(rows[0].n).toBe(3);
    workers[1].kill('SIGTERM');
  });
});

describe('the row of a job', () => {
  it("is given to one worker, is the newest try's alone, and is not tried for ever", async () => {
    const id = await addJob(s.db, { kind: 'plan' });
    const claims = await Promise.all([claimJob(s.db, id), claimJob(s.db, id), claimJob(s.db, id)]);
    expect(claims.filter(Boolean)).toEqual([{ kind: 'plan', attempt: 1 }]);
    expect(await requeueJob(s.db, id, 1, false)).toBe(true);
    expect(await claimJob(s.db, id)).toMatchObject({ attempt: 2 });
    // The first try's worker is heard no more.
    expect([await tellJob(s.db, id, 1, 0.5), await tellJob(s.db, id, 2, 0.25)]).toEqual([false, true]);
    // A try that ended for want of room does not count.
    expect(await requeueJob(s.db, id, 2, true)).toBe(true);
    expect(await claimJob(s.db, id)).toMatchObject({ attempt: 2 });
    await s.pool.query("update jobs set seen_at = now() - interval '1 minute' where id = $1", [id]);
    expect(await sweepJobs(s.db)).toEqual([id]);
    expect(await claimJob(s.db, id)).toMatchObject({ attempt: 3 });
    expect(await requeueJob(s.db, id, 3, false)).toBe(false);
    expect(await jobView(s.db, id)).toMatchObject({ state: 'failed', code: 'work-died' });
  });
});

describe('a child', () => {
  const crew = (options: object) => new Crew({ url: s.url, most: 2, ...options });
  const level = async () => {
    const { rows } = await s.pool.query('select id from levels limit 1');
    return rows[0].id as string;
  };
  const begin = async (c: Crew, kind: 'check' | 'plan', seconds: number, onProgress?: () => void) => {
    const id = await addJob(s.db, { kind, level: await level(), version: 0 });
    const claimed = (await claimJob(s.db, id))!;
    return { id, work: c.begin({ job: id, attempt: claimed.attempt }, seconds, onProgress) };
  };

  it('that grows too large or takes too long is ended, and its work says so', async () => {
    const small = crew({ childBytes: 60 << 20 });
    expect(await (await begin(small, 'check', 60)).work.ended).toMatchObject({ kind: 'fault', code: 'work-too-large' });
    small.close();
    const hasty = crew({});
    expect(await (await begin(hasty, 'check', 0.3)).work.ended).toMatchObject({ kind: 'fault', code: 'work-too-long' });
    hasty.close();
  });

  it('that dies leaves its work to be begun again, and the next is a new one', async () => {
    const c = crew({});
    const { work } = await begin(c, 'check', 60, () => {
      for (const pid of c.pids) process.kill(pid, 'SIGKILL');
    });
    expect(await work.ended).toEqual({ kind: 'again', why: 'died' });
    const { id, work: next } = await begin(c, 'plan', 60);
    expect(await next.ended).toMatchObject({ kind: 'done' });
    expect(await jobView(s.db, id)).toMatchObject({ state: 'done' });
    c.close();
  });

  it('is given back its newest work where all together need more than there is', async () => {
    const c = crew({ allBytes: 220 << 20 });
    const first = await begin(c, 'check', 60);
    await new Promise((go) => setTimeout(go, 300));
    const second = await begin(c, 'check', 60);
    const ended: Ended[] = await Promise.all([first.work.ended, second.work.ended]);
    expect(ended).toMatchObject([{ kind: 'done' }, { kind: 'again', why: 'room' }]);
    c.close();
  });

  it('stands ready before any work comes, and again after it is lost', async () => {
    const c = crew({ warm: 50 });
    const one = () =>
      vi.waitFor(() => {
        expect(c.pids).toHaveLength(1);
        return c.pids[0];
      }, 5000);
    const first = await one();
    process.kill(first, 'SIGKILL');
    await vi.waitFor(() => {
      expect(c.pids.filter((pid) => pid !== first)).toHaveLength(1);
    }, 5000);
    const { work } = await begin(c, 'plan', 60);
    expect(await work.ended).toMatchObject({ kind: 'done' });
    c.close();
  });

  it('stops when it is told to', async () => {
    const c = crew({});
    const { work } = await begin(c, 'check', 60, () => work.stop());
    expect(await work.ended).toEqual({ kind: 'stopped' });
    expect(c.busy).toBe(0);
    c.close();
  });
});
