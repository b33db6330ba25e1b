import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Trash2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { LevelSummary } from '@rammer/core/level/summary';
import { call, type Job } from '../outbox/api';
import { forgetLevel } from '../outbox/disk';

const MAX_PACKAGE = 256 << 20;

/** The levels: size, whether the objective can be reached, last saved. */
export function Levels() {
  const queries = useQueryClient();
  const go = useNavigate();
  const file = useRef<HTMLInputElement>(null);
  const stopOpening = useRef<() => void>(undefined);
  const [sure, setSure] = useState<string>();
  const levels = useQuery({ queryKey: ['levels'], queryFn: () => call<LevelSummary[]>('GET', '/api/levels'), refetchInterval: 5000 });
  const open = useMutation({
    mutationFn: async (f: File) => {
      if (f.size > MAX_PACKAGE) throw new Error(`${f.name} has ${Math.round(f.size / (1 << 20))} MB; a package may have ${MAX_PACKAGE >> 20} MB`);
      const stop = new AbortController();
      stopOpening.current = () => stop.abort();
      return call<{ id: string }>('POST', '/api/levels/package', f, { type: 'application/zip', signal: stop.signal }).catch((error: Error) => {
        if (stop.signal.aborted) return undefined;
        throw error;
      });
    },
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: ['levels'] });
      // One that was stopped has made none.
      if (made) void go(`/levels/${made.id}`);
    },
  });
  const remove = useMutation({
    mutationFn: async (id: string) => {
      await call('DELETE', `/api/levels/${id}`);
      await forgetLevel(id);
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: ['levels'] }),
  });
  const list = levels.data ?? [];
  return (
    <div className="mx-auto flex h-full max-w-[1080px] flex-col px-6 py-6">
      <header className="flex items-end gap-4 border-b pb-3" style={{ borderColor: 'var(--ink)' }}>
        <h1 className="fig m-0 text-[30px] font-semibold leading-8 tracking-wide">RAMMER</h1>
        <p className="label m-0 pb-0.5">levels at true player scale</p>
        <div className="ml-auto flex gap-2">
          <input
            ref={file}
            type="file"
            accept=".zip"
            className="hidden"
            aria-label="level package"
            onChange={(e) => {
              const f = e.target.files?.[0];
              if (f) open.mutate(f);
              e.target.value = '';
            }}
          />
          <button className="act" disabled={open.isPending} onClick={() => file.current?.click()}>
            {open.isPending ? 'opening' : 'Open a package'}
          </button>
          {open.isPending && (
            <button className="act" onClick={() => stopOpening.current?.()}>
              cancel
            </button>
          )}
          <Link className="act main no-underline" to="/new">
            New level
          </Link>
        </div>
      </header>
      {open.error && (
        <p role="alert" className="m-0 mt-3 border px-3 py-2" style={{ borderColor: 'var(--oxide)', color: 'var(--oxide)', background: 'var(--raised)' }}>
          ✕ The package was not opened: {open.error.message}. Nothing was changed.
        </p>
      )}
      {remove.error && (
        <p role="alert" className="m-0 mt-3" style={{ color: 'var(--oxide)' }}>
          ✕ {remove.error.message}
        </p>
      )}
      <main className="min-h-0 flex-1 overflow-y-auto pt-4">
        {levels.error && (
          <p role="alert" style={{ color: 'var(--oxide)' }}>
            ✕ The levels cannot be listed: {levels.error.message}. Rammer tries again by itself.
          </p>
        )}
        {levels.isPending && !levels.error && (
          <p role="status" className="label">
            looking
          </p>
        )}
        {levels.data && list.length === 0 && (
          <p>
            No levels yet.{' '}
            <Link className="underline" to="/new">
              Make a new one
            </Link>
            , or open a package.
          </p>
        )}
        {list.length > 0 && (
          <table className="w-full border-collapse text-left" aria-label="levels">
            <thead>
              <tr className="label border-b" style={{ borderColor: 'var(--edge)' }}>
                {['plan, one scale for all', 'level', 'ground', 'blocks', 'objective', 'last saved', ''].map((h, i) => (
                  <th key={h || i} className="px-2 py-1.5 font-normal">
                    {h || <span className="sr-only">delete</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {list.map((l) => (
                <tr key={l.id} className="border-b hover:bg-[var(--raised)]" style={{ borderColor: 'var(--hair)' }}>
                  <td className="w-[150px] px-2 py-2">
                    <Footprint level={l} largest={Math.max(...list.map((x) => Math.max(x.width, x.depth)))} />
                  </td>
                  <td className="px-2">
                    <button
                      className="border-0 bg-transparent p-0 text-[16px] font-semibold underline decoration-1 underline-offset-4"
                      onClick={() => go(`/levels/${l.id}`)}
                    >
                      {l.name}
                    </button>
                  </td>
                  <td className="fig whitespace-nowrap px-2">
                    {l.width} x {l.depth} m<br />
                    <span className="label">
                      {l.tilesX} x {l.tilesZ} tiles, {l.spacing} m apart
                    </span>
                  </td>
                  <td className="fig px-2">{l.blocks}</td>
                  <td className="max-w-[280px] px-2">
                    <ReachCell level={l} />
                  </td>
                  <td className="fig whitespace-nowrap px-2">{new Date(l.savedAt).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })}</td>
                  <td className="px-2 text-right">
                    {sure === l.id ? (
                      <span className="inline-flex gap-1">
                        <button
                          className="act"
                          style={{ color: 'var(--oxide)', borderColor: 'var(--oxide)' }}
                          onClick={() => {
                            setSure(undefined);
                            remove.mutate(l.id);
                          }}
                        >
                          delete for good
                        </button>
                        <button className="act" onClick={() => setSure(undefined)}>
                          keep
                        </button>
                      </span>
                    ) : (
                      <button className="icon-btn" aria-label={`delete ${l.name}`} onClick={() => setSure(l.id)}>
                        <Trash2 size={15} />
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
    </div>
  );
}

/** The level's plan at one scale for all, with ticks every 20 m. */
function Footprint({ level, largest }: { level: LevelSummary; largest: number }) {
  const k = 120 / largest;
  const w = Math.max(3, level.width * k);
  const h = Math.max(3, level.depth * k);
  const ticks = Array.from({ length: Math.floor(level.width / 20) + 1 }, (_, i) => i * 20 * k).filter((_, i, all) => all.length < 30 || i % 5 === 0);
  return (
    <svg width={w + 4} height={h + 10} aria-hidden>
      <image href={`/api/levels/${level.id}/plan.png?v=${level.version}`} x={1} y={1} width={w} height={h} preserveAspectRatio="none" />
      <rect x={1} y={1} width={w} height={h} fill="none" stroke="var(--ink)" />
      <path d={ticks.map((t) => `M${1 + t} ${h + 1}v5`).join('')} stroke="var(--ink)" />
      <path d={`M1 ${h + 1}H${w + 1}`} stroke="var(--ink)" />
    </svg>
  );
}

/** Whether the objective is reached, by the last check; starts one on the server where it is out of date. */
function ReachCell({ level }: { level: LevelSummary }) {
  const queries = useQueryClient();
  const [job, setJob] = useState<Job>();
  const asked = useRef<string>(undefined);
  const wanted = !level.check || level.check.stale;
  useEffect(() => {
    const key = `${level.id}/${level.version}`;
    if (!wanted || asked.current === key) return;
    asked.current = key;
    let gone = false;
    const follow = async () => {
      let j = await call<Job>('POST', `/api/levels/${level.id}/check`);
      while (!gone && j.state === 'running') {
        setJob(j);
        await new Promise((r) => setTimeout(r, 500));
        j = await call<Job>('GET', `/api/jobs/${j.id}`);
      }
      if (!gone) {
        setJob(j);
        await queries.invalidateQueries({ queryKey: ['levels'] });
      }
    };
    follow().catch(() => {
      asked.current = undefined;
    });
    return () => {
      gone = true;
      asked.current = undefined;
    };
  }, [level.id, level.version, wanted, queries]);
  const running = job?.state === 'running';
  const c = level.check;
  return (
    <span data-testid="reach-cell">
      {c && (
        <span
          style={{
            color: c.stale ? undefined : c.reached ? 'var(--lichen-text)' : 'var(--oxide)',
            textDecoration: c.stale ? 'underline dashed' : undefined,
            textUnderlineOffset: 3,
          }}
        >
          {c.reached ? `✓ reached, ${c.length.toFixed(0)} m, ${Math.round(c.walkTime)} s` : `✕ ${c.message ?? 'not reached'}`}
        </span>
      )}
      {running && (
        <span className="label inline-flex items-center gap-2">
          {' '}
          {job?.waiting ? 'waits for its check' : `checking ${Math.round((job?.progress ?? 0) * 100)} %`}{' '}
          <button
            className="act"
            style={{ minHeight: 20, padding: '0 6px' }}
            onClick={() => {
              if (job) void call<Job>('DELETE', `/api/jobs/${job.id}`).then(setJob);
            }}
          >
            cancel
          </button>
        </span>
      )}
      {!c && !running && (
        <span className="label">{job?.state === 'cancelled' ? 'check cancelled' : job?.state === 'failed' ? job.error : 'not checked yet'}</span>
      )}
    </span>
  );
}
