import type { ReactNode } from 'react';
import { BRUSH_DEFAULTS } from '@rammer/core/earth/brush';
import { playerBody } from '@rammer/core/level/level';
import type { Session } from '../../store/session';
import { useGround } from '../../store/groundDraft';
import { BrushDrawing } from '../../ui/BrushDrawing';
import { NumberField } from '../../ui/NumberField';

/** A full dab is drawn as high as a strong dab of sculpting, metres. */
const DRAWN = 0.15;

/** The drawing, radius, hardness and strength of the brushes that paint and sow. */
export function GroundBrushFields({ session, children }: { session: Session; children?: ReactNode }) {
  const brush = useGround((s) => s.groundBrush);
  const set = useGround.getState().setGroundBrush;
  return (
    <>
      <BrushDrawing
        caption="share a dab covers"
        body={playerBody(session.level).figures}
        brush={{ ...BRUSH_DEFAULTS, radius: brush.radius, hardness: brush.hardness, strength: brush.strength * DRAWN }}
        onChange={({ strength, ...rest }) =>
          set({ ...rest, ...(strength === undefined ? {} : { strength: Math.min(1, Math.max(0.01, Number((strength / DRAWN).toFixed(2)))) }) })
        }
      />
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 py-2">
        <NumberField label="radius" value={brush.radius} unit="m" min={0.5} max={200} step={0.5} onCommit={(radius) => set({ radius })} />
        <NumberField
          label="strength"
          value={brush.strength * 100}
          unit="%"
          min={1}
          max={100}
          step={5}
          digits={0}
          onCommit={(v) => set({ strength: v / 100 })}
        />
        <NumberField label="hardness" value={brush.hardness * 100} unit="%" min={0} max={95} step={5} digits={0} onCommit={(v) => set({ hardness: v / 100 })} />
        {children}
      </div>
    </>
  );
}
