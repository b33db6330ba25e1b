import type { Reference } from '@rammer/core/level/objects';
import { tiltAngles, tiltOf } from '@rammer/core/num/pose';
import { mm } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';

const degrees = { unit: '°', min: -360, max: 360, step: 15, digits: 1 } as const;

/** Where a board stands, how it is turned and tilted, and how much wider than its picture it is. */
export function BoardFields({ board, set }: { board: Reference; set(fields: Record<string, unknown>, verb: string): void }) {
  const at = board.at ?? [0, 0, 0];
  const [x, z] = tiltAngles(board.tilt);
  const [wide, tall, deep] = board.scale ?? [1, 1, 1];
  const field = 'grid min-w-0 flex-1 gap-0.5';
  const tilt = (a: number, b: number) => set({ tilt: tiltOf(a, b) ?? null }, 'tilt');
  return (
    <div className="grid gap-1" role="group" aria-label={`where ${board.name} stands`}>
      <div className="flex gap-1.5">
        {(['x', 'base', 'z'] as const).map((label, k) => (
          <NumberField
            key={label}
            label={label}
            className={field}
            fill
            value={at[k]}
            unit="m"
            digits={2}
            onCommit={(v) => set({ at: at.map((c, i) => (i === k ? mm(v) : c)) }, 'move')}
          />
        ))}
        <NumberField
          label="wide"
          className={field}
          fill
          value={wide * 100}
          unit="%"
          min={1}
          max={10_000}
          digits={0}
          onCommit={(v) => set({ scale: v === 100 && tall === 1 && deep === 1 ? null : [v / 100, tall, deep] }, 'width of')}
        />
      </div>
      <div className="flex gap-1.5">
        <NumberField label="turn" className={field} fill value={board.turn} {...degrees} onCommit={(turn) => set({ turn }, 'turn')} />
        <NumberField label="tilt x" className={field} fill value={x} {...degrees} min={-180} max={180} onCommit={(v) => tilt(v, z)} />
        <NumberField label="tilt z" className={field} fill value={z} {...degrees} min={-180} max={180} onCommit={(v) => tilt(x, v)} />
      </div>
    </div>
  );
}
