import { Plus, X } from 'lucide-react';
import { moverPeriod, moverSpeed } from '@rammer/core/block/mover';
import type { Block, Stop } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useBlockDraft } from '../../store/blockDraft';
import { setBlocks } from '../../tools/blockActions';
import { NumberField } from '../../ui/NumberField';

const FIRST: Stop[] = [
  { by: [0, 0, 0], travel: 4, wait: 2 },
  { by: [0, 3, 0], travel: 4, wait: 2 },
];

/** Stops and times of the selected blocks: lifts, platforms, wagons. */
export function Motion({ session, blocks }: { session: Session; blocks: Block[] }) {
  const running = useBlockDraft((s) => s.running);
  const [first] = blocks;
  const stops = first.stops;
  const same = blocks.every((b) => JSON.stringify(b.stops) === JSON.stringify(stops));
  const put = (next: Stop[] | null, verb: string) => setBlocks(session, blocks, () => ({ stops: next }), verb);
  const set = (i: number, patch: Partial<Stop>) =>
    put(
      stops!.map((s, k) => (k === i ? { ...s, ...patch } : s)),
      'stops of',
    );
  const small = { padding: '1px 7px', minHeight: 24 };
  if (!stops) {
    return (
      <div className="grid content-start gap-1.5" data-testid="motion">
        <p className="label m-0">
          A mover goes from stop to stop by itself and carries who stands on it. Gaps to it are checked at its nearest and farthest; nothing counts on it in the
          walk area.
        </p>
        <div>
          <button className="act main" style={small} disabled={blocks.some((b) => b.op === 'void')} onClick={() => put(FIRST, 'make a mover of')}>
            make it move
          </button>
        </div>
      </div>
    );
  }
  return (
    <div className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-1" data-testid="motion">
      {!same && <p className="label m-0">They move differently: a change gives all the stops of {first.name}.</p>}
      <div className="grid max-h-[124px] gap-1 overflow-y-auto">
        {stops.map((s, i) => (
          <div key={i} className="grid grid-cols-[14px_1fr_1fr_1fr_1fr_1fr_20px] items-center gap-1">
            <span className="fig label">{i + 1}</span>
            {([0, 1, 2] as const).map((k) => (
              <NumberField
                key={k}
                label={`stop ${i + 1} ${'xyz'[k]}`}
                hideLabel
                className="min-w-0"
                fill
                disabled={i === 0}
                value={s.by[k]}
                min={-4096}
                max={4096}
                onCommit={(v) => set(i, { by: s.by.map((b, n) => (n === k ? v : b)) as Stop['by'] })}
              />
            ))}
            <NumberField
              label={`stop ${i + 1} travel`}
              hideLabel
              className="min-w-0"
              fill
              value={s.travel}
              min={0.1}
              max={3600}
              onCommit={(travel) => set(i, { travel })}
            />
            <NumberField
              label={`stop ${i + 1} wait`}
              hideLabel
              className="min-w-0"
              fill
              value={s.wait}
              min={0}
              max={3600}
              onCommit={(wait) => set(i, { wait })}
            />
            {i > 0 ? (
              <button
                className="icon-btn w-5"
                aria-label={`take stop ${i + 1} away`}
                onClick={() => put(stops.length > 2 ? stops.filter((_, k) => k !== i) : null, 'take a stop from')}
              >
                <X size={12} />
              </button>
            ) : (
              <span />
            )}
          </div>
        ))}
      </div>
      <div className="grid grid-cols-[14px_1fr_1fr_1fr_1fr_1fr_20px] gap-1">
        <span />
        {['x m', 'y m', 'z m', 'travel s', 'wait s'].map((w) => (
          <span key={w} className="label text-right text-[12px] leading-4">
            {w}
          </span>
        ))}
      </div>
      <div className="flex items-center gap-1.5">
        <button
          className="act"
          style={small}
          aria-label="add a stop"
          disabled={stops.length >= 20}
          onClick={() => {
            const last = stops[stops.length - 1];
            put([...stops, { ...last, by: [last.by[0] + 3, last.by[1], last.by[2]] }], 'add a stop to');
          }}
        >
          <Plus size={13} />
          stop
        </button>
        <button
          className="act"
          style={small}
          aria-pressed={running}
          title="let the movers run in the view"
          onClick={() => useBlockDraft.setState({ running: !running })}
        >
          run
        </button>
        <button className="act" style={small} title="it moves no more" onClick={() => put(null, 'keep still')}>
          still
        </button>
        <span className="label fig ml-auto whitespace-nowrap">
          {moverPeriod(stops).toFixed(1)} s, to {moverSpeed(stops).toFixed(2)} m/s
        </span>
      </div>
    </div>
  );
}
