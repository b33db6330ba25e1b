import { Dices } from 'lucide-react';
import { MOST_THROWN } from '@rammer/core/play/throwPieces';
import { useDressing } from '../../store/dressing';
import type { Session } from '../../store/session';
import { useKeyLabel } from '../../store/keys';
import { rollAgain } from '../../tools/dressed';
import { NumberField } from '../../ui/NumberField';
import { HALF, LeanField, MixList, RangeFields } from '../standing/RangeFields';

const SMALL = { minHeight: 24, padding: '1px 7px' };

/** What brush and throw set, and the ranges each draws from. @param thrown fields of the throw, else of the brush */
export function DressFields({ session, thrown }: { session: Session; thrown: boolean }) {
  const { of, radius, throwing, falling, set } = useDressing();
  const setThrow = (fields: Partial<typeof throwing>) => useDressing.setState({ throwing: { ...throwing, ...fields } });
  const key = useKeyLabel();
  return (
    <>
      <MixList
        label={thrown ? 'to be thrown' : 'in the brush'}
        list={of.list.map((l) => ({ id: l.asset, name: session.level.object(l.asset)?.name ?? 'a mesh that is gone', weight: l.weight }))}
        onWeight={(id, weight) => set({ list: of.list.map((o) => (o.asset === id ? { ...o, weight } : o)) })}
        onTake={(id) => set({ list: of.list.filter((o) => o.asset !== id) })}
      />
      {of.list.length === 0 && (
        <p className="label m-0">
          Click pieces and props in the library: each click puts one {thrown ? 'to what is thrown' : 'into the brush'}, or takes it out.
        </p>
      )}
      <div className="flex gap-2">
        <NumberField
          label="radius"
          className={HALF}
          fill
          value={radius}
          unit="m"
          min={0.25}
          max={50}
          step={0.25}
          onCommit={(v) => useDressing.setState({ radius: v })}
        />
        {thrown ? (
          <>
            <NumberField
              label="count"
              className={HALF}
              fill
              value={throwing.count}
              min={1}
              max={MOST_THROWN}
              step={1}
              digits={0}
              onCommit={(v) => setThrow({ count: Math.round(v) })}
            />
            <NumberField
              label="from"
              className={HALF}
              fill
              value={throwing.height}
              unit="m"
              min={0}
              max={50}
              step={0.5}
              onCommit={(height) => setThrow({ height })}
            />
          </>
        ) : (
          <>
            <NumberField
              label="spacing"
              className={HALF}
              fill
              value={of.spacing}
              unit="m"
              min={0.05}
              max={100}
              step={0.1}
              onCommit={(spacing) => set({ spacing })}
            />
            <LeanField value={of.lean} onSet={(lean) => set({ lean })} />
          </>
        )}
      </div>
      <RangeFields
        value={of}
        onSet={set}
        flat={thrown}
        tilt={
          thrown && (
            <NumberField
              label="tumble"
              className={HALF}
              fill
              value={throwing.tumble}
              unit="°"
              min={0}
              max={180}
              step={5}
              digits={0}
              onCommit={(tumble) => setThrow({ tumble })}
            />
          )
        }
      />
      <div className="flex items-center gap-2">
        <button className="act" style={SMALL} onClick={() => rollAgain(session)}>
          <Dices size={14} />
          roll again ({key('KeyR')})
        </button>
        {falling ? (
          <button className="act" style={SMALL} onClick={falling.stop}>
            stop
          </button>
        ) : (
          <span className="label">
            {thrown ? 'Click throws, Escape stops it;' : 'Shift takes away;'} {key('BracketLeft')} {key('BracketRight')} the radius.
          </span>
        )}
      </div>
    </>
  );
}
