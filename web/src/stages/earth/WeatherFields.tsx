import { useEffect, useState } from 'react';
import type { Weather } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { cancelWeathering, isStale, useWeathering, weatherLift } from '../../store/weathering';
import { NumberField } from '../../ui/NumberField';
import type { SetFields } from './LiftFields';

/** Rain and sliding: their numbers, when they were last worked out, and the button that does it again. */
export function WeatherFields({ session, lift, set }: { session: Session; lift: Weather; set: SetFields }) {
  const running = useWeathering((s) => s.lift);
  const progress = useWeathering((s) => s.progress);
  const stale = useStale(session, lift);
  const said = stale === undefined ? 'not weathered yet' : stale ? 'stale: the ground below it, or its numbers, changed' : 'up to date';
  return (
    <>
      <NumberField
        label="droplets"
        value={lift.droplets}
        min={0}
        max={2_000_000}
        step={10_000}
        digits={0}
        onCommit={(v) => set({ droplets: Math.round(v) }, 'droplets')}
      />
      <NumberField label="seed" value={lift.seed} min={0} max={2_147_483_647} step={1} digits={0} onCommit={(v) => set({ seed: Math.round(v) }, 'seed')} />
      <NumberField
        label="strength"
        value={lift.strength * 100}
        unit="%"
        min={0}
        max={1000}
        step={10}
        digits={0}
        onCommit={(v) => set({ strength: v / 100 }, 'strength')}
      />
      <NumberField label="radius" value={lift.radius} unit="m" min={0.25} max={50} step={0.25} onCommit={(radius) => set({ radius }, 'radius')} />
      <NumberField label="talus" value={lift.talus} unit="°" min={5} max={85} step={1} digits={0} onCommit={(talus) => set({ talus }, 'talus')} />
      <NumberField label="rounds" value={lift.rounds} min={0} max={5000} step={10} digits={0} onCommit={(v) => set({ rounds: Math.round(v) }, 'rounds')} />
      <div className="col-span-2 flex items-center gap-2" role="status">
        {running === lift.id ? (
          <>
            <progress className="min-w-0 flex-1" value={progress} max={1} aria-label="weathering" />
            <span className="fig">{Math.round(progress * 100)} %</span>
            <button className="act" style={{ padding: '1px 7px', minHeight: 24 }} onClick={cancelWeathering}>
              cancel
            </button>
          </>
        ) : (
          <>
            <span className="label min-w-0 flex-1" style={{ color: stale ? 'var(--ochre-text)' : undefined }}>
              {said}
            </span>
            <button
              className="act"
              style={{ padding: '1px 7px', minHeight: 24 }}
              disabled={!session.writable || running !== undefined || lift.locked}
              onClick={() => void weatherLift(session, lift)}
            >
              {lift.made ? 'weather again' : 'weather it'}
            </button>
          </>
        )}
      </div>
    </>
  );
}

/** Worked out once the level has been still for a moment. */
function useStale(session: Session, lift: Weather): boolean | undefined {
  const [ticket, setTicket] = useState(0);
  const [stale, setStale] = useState<boolean>();
  useEffect(
    () =>
      session.subscribe((c) => {
        if (c.rect || c.objects) setTicket((n) => n + 1);
      }),
    [session],
  );
  useEffect(() => {
    const timer = setTimeout(() => {
      if (!session.composing) setStale(isStale(session, lift));
    }, 250);
    return () => clearTimeout(timer);
  }, [ticket, session, lift]);
  return stale;
}
