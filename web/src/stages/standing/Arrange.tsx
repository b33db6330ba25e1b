import { useState } from 'react';
import type { Session } from '../../store/session';
import { alignThings, arrayThings, copiesOf, distributeThings, middleOf, mirrorThings, MOST_COPIES, type ArrayPlan } from '../../tools/arrangeThings';
import { renameThings, type Thing } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';

const AXES = [
  ['X', 0],
  ['Y', 1],
  ['Z', 2],
] as const;
const count = { min: 1, max: 1000, step: 1, digits: 0 };

/** Arrays, mirror images, alignment and names of whatever is selected. */
export function Arrange({ session, list }: { session: Session; list: readonly Thing[] }) {
  const [kind, setKind] = useState<ArrayPlan['kind']>('row');
  const [row, setRow] = useState({ count: 3, x: 2, y: 0, z: 0 });
  const [grid, setGrid] = useState({ along: 3, across: 2, dx: 4, dz: 4 });
  const [arc, setArc] = useState(() => ({ count: 6, x: Math.round(middleOf(session, list, 0)), z: Math.round(middleOf(session, list, 2)) + 6, sweep: 360 }));
  const [axis, setAxis] = useState<0 | 1 | 2>(0);
  const [copies, setCopies] = useState(false);
  const [name, setName] = useState('');
  const plan: ArrayPlan = kind === 'row' ? { kind, count: row.count, step: [row.x, row.y, row.z] } : kind === 'grid' ? { kind, ...grid } : { kind, ...arc };
  const n = copiesOf(list.length, plan);
  const small = { padding: '1px 7px', minHeight: 24 };
  return (
    <div className="grid min-w-0 content-start gap-1.5" data-testid="arrange">
      <div className="flex items-center justify-between gap-2">
        <span className="label">array</span>
        <div className="seg" role="group" aria-label="array">
          {(['row', 'grid', 'arc'] as const).map((k) => (
            <button key={k} className="act" style={small} aria-pressed={kind === k} onClick={() => setKind(k)}>
              {k}
            </button>
          ))}
        </div>
      </div>
      <div className="grid grid-cols-4 gap-1.5">
        {kind === 'row' && (
          <>
            <NumberField
              label="count"
              className="grid min-w-0 gap-0.5"
              fill
              value={row.count}
              {...count}
              onCommit={(v) => setRow({ ...row, count: Math.round(v) })}
            />
            {(['x', 'y', 'z'] as const).map((k) => (
              <NumberField
                key={k}
                label={`step ${k}`}
                className="grid min-w-0 gap-0.5"
                fill
                value={row[k]}
                unit="m"
                onCommit={(v) => setRow({ ...row, [k]: v })}
              />
            ))}
          </>
        )}
        {kind === 'grid' && (
          <>
            {(['along', 'across'] as const).map((k) => (
              <NumberField
                key={k}
                label={k}
                className="grid min-w-0 gap-0.5"
                fill
                value={grid[k]}
                {...count}
                onCommit={(v) => setGrid({ ...grid, [k]: Math.round(v) })}
              />
            ))}
            {(['dx', 'dz'] as const).map((k) => (
              <NumberField
                key={k}
                label={k === 'dx' ? 'step x' : 'step z'}
                className="grid min-w-0 gap-0.5"
                fill
                value={grid[k]}
                unit="m"
                onCommit={(v) => setGrid({ ...grid, [k]: v })}
              />
            ))}
          </>
        )}
        {kind === 'arc' && (
          <>
            <NumberField
              label="count"
              className="grid min-w-0 gap-0.5"
              fill
              value={arc.count}
              {...count}
              onCommit={(v) => setArc({ ...arc, count: Math.round(v) })}
            />
            {(['x', 'z'] as const).map((k) => (
              <NumberField
                key={k}
                label={`centre ${k}`}
                className="grid min-w-0 gap-0.5"
                fill
                value={arc[k]}
                unit="m"
                onCommit={(v) => setArc({ ...arc, [k]: v })}
              />
            ))}
            <NumberField
              label="sweep"
              className="grid min-w-0 gap-0.5"
              fill
              value={arc.sweep}
              unit="°"
              min={-360}
              max={360}
              step={15}
              onCommit={(v) => setArc({ ...arc, sweep: v })}
            />
          </>
        )}
      </div>
      <button className="act main" disabled={n < 1 || n > MOST_COPIES} onClick={() => arrayThings(session, list, plan)}>
        {n > MOST_COPIES ? `${n} duplicates are too many for one edit` : `set ${n} ${n === 1 ? 'duplicate' : 'duplicates'}`}
      </button>
      <div className="flex items-center justify-between gap-1">
        <span className="label">mirror</span>
        <label className="flex items-center gap-1">
          <input type="checkbox" checked={copies} onChange={(e) => setCopies(e.target.checked)} />
          <span className="label">as duplicates</span>
        </label>
        <div className="flex gap-1">
          {(
            [
              ['X', 0],
              ['Z', 2],
            ] as const
          ).map(([letter, a]) => (
            <button key={letter} className="act" style={small} aria-label={`mirror along ${letter}`} onClick={() => mirrorThings(session, list, a, copies)}>
              {letter}
            </button>
          ))}
        </div>
      </div>
      <div className="flex items-center justify-between gap-1">
        <div className="seg" role="group" aria-label="axis">
          {AXES.map(([letter, a]) => (
            <button key={letter} className="act" style={small} aria-pressed={axis === a} onClick={() => setAxis(a)}>
              {letter}
            </button>
          ))}
        </div>
        <div className="seg" role="group" aria-label="align">
          {(['low', 'middle', 'high'] as const).map((side) => (
            <button
              key={side}
              className="act"
              style={{ ...small, padding: '1px 5px' }}
              disabled={list.length < 2}
              title={`to the ${side} side of the first`}
              aria-label={`align ${side === 'middle' ? 'mid' : side}`}
              onClick={() => alignThings(session, list, axis, side)}
            >
              {side === 'middle' ? 'mid' : side}
            </button>
          ))}
        </div>
        <button
          className="act"
          style={{ ...small, padding: '1px 4px' }}
          disabled={list.length < 3}
          title="equal gaps between the outer two"
          onClick={() => distributeThings(session, list, axis)}
        >
          distribute
        </button>
      </div>
      <label className="flex items-center gap-2">
        <span className="label whitespace-nowrap">name all</span>
        <input
          className="textf h-[24px] w-full min-w-0"
          maxLength={110}
          placeholder="wall, then wall 1, wall 2 ..."
          value={name}
          onChange={(e) => setName(e.target.value)}
          onKeyDown={(e) => {
            e.stopPropagation();
            if (e.key === 'Enter' && name.trim() && renameThings(session, list, name.trim())) setName('');
          }}
        />
      </label>
    </div>
  );
}
