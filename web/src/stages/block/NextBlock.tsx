import { DRAWN_DEFAULTS, isDrawn, type DrawnShape } from '@rammer/core/level/drawn';
import { MIN_BLOCK } from '@rammer/core/level/objects';
import { useBlockDraft } from '../../store/blockDraft';
import { useUi } from '../../store/ui';
import { NumberField } from '../../ui/NumberField';

const side = 'grid min-w-0 gap-0.5';

/** What the next block will be: its size by a click, or what is drawn along a line. */
export function NextBlock() {
  const tool = useUi((s) => s.tool);
  return isDrawn(tool) ? <NextDrawn shape={tool} /> : <NextSize />;
}

function NextSize() {
  const size = useBlockDraft((s) => s.blockSize);
  const op = useBlockDraft((s) => s.blockOp);
  const set = (i: number, v: number) => {
    const next: [number, number, number] = [...size];
    next[i] = v;
    useBlockDraft.setState({ blockSize: next });
  };
  return (
    <>
      <div className="flex gap-2">
        {(['length', 'height', 'width'] as const).map((n, i) => (
          <NumberField key={n} label={n} className="grid gap-0.5" value={size[i]} unit="m" min={MIN_BLOCK} max={4096} onCommit={(v) => set(i, v)} />
        ))}
      </div>
      <p className="label m-0">
        A click sets a block of this size; a drag draws its footprint. Corners and edges near the pointer are taken; Shift takes the place itself.
        {op === 'void' ? ' On a wall a click cuts straight through it: low down a door, higher up a window.' : ''}
      </p>
    </>
  );
}

const HINTS: Record<DrawnShape, string> = {
  wall:
    'Click corner after corner; type a length for the next one. Enter, or the last corner again, ' +
    'ends the wall; the first one closes it. Backspace takes a corner back, Shift keeps to 15\u00b0.',
  slab: 'Click the corners of its outline; the first one again, or Enter, closes it. Backspace takes a corner back, Shift keeps to 15\u00b0.',
  tunnel:
    'Click along its floor, from the mouth in; Enter or the last corner again ends ' +
    'it. As a void it bores through the solids it meets, as a solid it is a lining.',
};

function NextDrawn({ shape }: { shape: DrawnShape }) {
  const drawn = useBlockDraft((s) => s.drawn);
  const { followGround, grade } = useBlockDraft();
  const { tall, wide } = drawn[shape] ?? DRAWN_DEFAULTS[shape];
  const put = (patch: Partial<{ tall: number; wide: number }>) => useBlockDraft.setState({ drawn: { ...drawn, [shape]: { ...drawn[shape], ...patch } } });
  return (
    <>
      <div className="flex gap-2">
        <NumberField
          label={shape === 'slab' ? 'thickness' : shape === 'tunnel' ? 'clear height' : 'height'}
          className={side}
          value={tall}
          unit="m"
          min={MIN_BLOCK}
          max={4096}
          onCommit={(v) => put({ tall: v })}
        />
        {shape !== 'slab' && (
          <NumberField
            label={shape === 'tunnel' ? 'clear width' : 'thickness'}
            className={side}
            value={wide}
            unit="m"
            min={0.02}
            max={1000}
            onCommit={(v) => put({ wide: v })}
          />
        )}
        {shape === 'tunnel' && (
          <NumberField
            label="grade"
            className={side}
            value={grade}
            unit="%"
            min={-100}
            max={100}
            step={1}
            onCommit={(v) => useBlockDraft.setState({ grade: v })}
          />
        )}
      </div>
      {shape === 'wall' && (
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={followGround} onChange={(e) => useBlockDraft.setState({ followGround: e.target.checked })} />
          <span className="label">each corner stands on the ground</span>
        </label>
      )}
      <p className="label m-0">{HINTS[shape]}</p>
    </>
  );
}
