import { expect, it } from 'vitest';
import { wakeEnded, type Waiting } from './waiting';

it('who waits is woken when the job has ended or is gone, and not by an answer that was under way before the job came', async () => {
  const woken: string[] = [];
  const waiting: Waiting = new Map();
  const wait = (id: string) =>
    waiting.set(id, () => {
      woken.push(id);
      waiting.delete(id);
    });
  for (const id of ['done', 'running', 'queued', 'gone']) wait(id);
  const asked: string[][] = [];
  await wakeEnded(waiting, [...waiting.keys(), 'nobody waits'], async (ids) => {
    asked.push(ids);
    wait('new');
    return new Map([
      ['done', 'done'],
      ['running', 'running'],
      ['queued', 'queued'],
    ]);
  });
  expect(asked).toEqual([['done', 'running', 'queued', 'gone']]);
  expect(woken).toEqual(['done', 'gone']);
  expect([...waiting.keys()]).toEqual(['running', 'queued', 'new']);
  // The next look finds it.
  await wakeEnded(
    waiting,
    [...waiting.keys()],
    async () =>
      new Map([
        ['running', 'running'],
        ['queued', 'failed'],
        ['new', 'done'],
      ]),
  );
  expect(woken).toEqual(['done', 'gone', 'queued', 'new']);
  await wakeEnded(new Map(), ['a'], () => {
    throw new Error('nobody waits: nothing is asked');
  });
});
