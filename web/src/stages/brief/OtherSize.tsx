import { useState } from 'react';
import { useNavigate } from 'react-router';
import { derivedFigures } from '@rammer/core/body/derived';
import { playerBody, settingsOf } from '@rammer/core/level/level';
import { GRID_SPACINGS } from '@rammer/core/level/objects';
import { gridOf } from '@rammer/core/level/tiles';
import { tanDeg } from '@rammer/core/num/trig';
import { call, LONG } from '../../outbox/api';
import type { Session } from '../../store/session';
import { NumberField } from '../../ui/NumberField';

/** The level at another size, as a copy beside it: lifts, paint, plants and everything that stands in it come along. */
export function OtherSize({ session }: { session: Session }) {
  const go = useNavigate();
  const now = settingsOf(session.level);
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState<{ tilesX?: number; tilesZ?: number; spacing?: (typeof GRID_SPACINGS)[number]; west: number; north: number }>({
    west: 0,
    north: 0,
  });
  const [state, setState] = useState<{ busy?: boolean; problem?: string }>({});
  const size = { tilesX: typed.tilesX ?? now.tilesX, tilesZ: typed.tilesZ ?? now.tilesZ, spacing: typed.spacing ?? now.spacing };
  const grid = gridOf(size);
  const f = playerBody(session.level).figures;
  const derived = derivedFigures(f, Math.max(grid.width, grid.depth), tanDeg(f.maxSlope));
  const same = size.tilesX === now.tilesX && size.tilesZ === now.tilesZ && size.spacing === now.spacing && typed.west === 0 && typed.north === 0;
  const waits = session.save.kind !== 'saved';
  const make = async () => {
    setState({ busy: true });
    try {
      const { id } = await call<{ id: string; outside: number }>(
        'POST',
        `/api/levels/${session.id}/reshape`,
        { name: `${now.name}, ${grid.width} x ${grid.depth} m`.slice(0, 120), ...size, west: typed.west, north: typed.north },
        LONG,
      );
      void go(`/levels/${id}?stage=brief`);
    } catch (e) {
      setState({ problem: (e as Error).message });
    }
  };
  return (
    <div className="border-t" style={{ borderColor: 'var(--ink)' }}>
      <button className="flex h-7 w-full items-center px-3 text-left" aria-expanded={open} onClick={() => setOpen(!open)}>
        <span className="label">another size</span>
        <span className="label ml-auto">{open ? '−' : '+'}</span>
      </button>
      {open && (
        <div className="grid gap-1.5 px-3 pb-3" role="group" aria-label="another size">
          <div className="grid grid-cols-2 gap-x-3 gap-y-1">
            <NumberField
              label="tiles across"
              value={size.tilesX}
              min={2}
              max={64}
              step={1}
              digits={0}
              onCommit={(v) => setTyped({ ...typed, tilesX: Math.round(v) })}
            />
            <NumberField
              label="tiles down"
              value={size.tilesZ}
              min={2}
              max={64}
              step={1}
              digits={0}
              onCommit={(v) => setTyped({ ...typed, tilesZ: Math.round(v) })}
            />
          </div>
          <div className="grid gap-y-1">
            <NumberField
              label="add in the west"
              value={typed.west}
              unit="m"
              min={-8192}
              max={8192}
              step={32}
              onCommit={(west) => setTyped({ ...typed, west })}
            />
            <NumberField
              label="add in the north"
              value={typed.north}
              unit="m"
              min={-8192}
              max={8192}
              step={32}
              onCommit={(north) => setTyped({ ...typed, north })}
            />
          </div>
          <div className="flex items-center gap-2">
            <span className="label" id="other-spacing">
              between heights, m
            </span>
            <div className="seg ml-auto" role="group" aria-labelledby="other-spacing">
              {GRID_SPACINGS.map((s) => (
                <button
                  key={s}
                  className="act fig"
                  style={{ padding: '0 6px', minHeight: 22 }}
                  aria-pressed={size.spacing === s}
                  onClick={() => setTyped({ ...typed, spacing: s })}
                >
                  {s}
                </button>
              ))}
            </div>
          </div>
          <p className="m-0">
            <b className="fig">
              {grid.width} x {grid.depth} m
            </b>{' '}
            <span className="label">
              {grid.nx} x {grid.nz} heights, across in {Math.round(derived.crossWalk)} s at a walk
            </span>
          </p>
          <p className="label m-0">
            A duplicate is made; this level stays as it is. What is left outside comes back when the duplicate grows again, but for hand work and paint.
          </p>
          <button
            className="act main justify-self-start"
            disabled={same || waits || state.busy}
            title={same ? 'it has this size already' : waits ? 'waits until everything is saved' : undefined}
            onClick={() => void make()}
          >
            {state.busy ? 'making it' : 'make the duplicate'}
          </button>
          {state.problem && (
            <p role="alert" className="m-0" style={{ color: 'var(--oxide)' }}>
              ✕ The duplicate was not made: {state.problem}
            </p>
          )}
        </div>
      )}
    </div>
  );
}
