/** Who waits for jobs, by the job's id. */
export type Waiting = Map<string, () => void>;

/**
 * Wakes those whose jobs have ended or are gone. Only jobs that were asked about are looked at: one that came while the
 * answer was under way is not gone because nothing is known of it.
 *
 * @param states the states of some jobs; those that are gone are left out
 */
export async function wakeEnded(waiting: Waiting, asked: readonly string[], states: (ids: string[]) => Promise<Map<string, string>>): Promise<void> {
  const ids = asked.filter((id) => waiting.has(id));
  if (ids.length === 0) return;
  const now = await states(ids);
  for (const id of ids) {
    const state = now.get(id);
    if (state !== 'queued' && state !== 'running') waiting.get(id)?.();
  }
}
