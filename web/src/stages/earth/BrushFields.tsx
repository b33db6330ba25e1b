import { playerBody } from '@rammer/core/level/level';
import type { Session } from '../../store/session';
import { useEarth } from '../../store/earthDraft';
import { useUi } from '../../store/ui';
import { BrushDrawing } from '../../ui/BrushDrawing';
import { NumberField } from '../../ui/NumberField';
import { PrintFields } from './PrintFields';

/** The drawing and the numbers of the brush at hand: only what it uses. */
export function BrushFields({ session }: { session: Session }) {
  const brush = useEarth((s) => s.brush);
  const tool = useUi((s) => s.tool);
  const { setBrush } = useEarth.getState();
  const ramp = tool === 'earth-ramp';
  const print = tool === 'print';
  return (
    <>
      <BrushDrawing
        brush={print ? { ...brush, strength: brush.tall / 10 } : brush}
        caption={print ? 'its full height' : undefined}
        body={playerBody(session.level).figures}
        onChange={(patch) => setBrush(print && patch.strength !== undefined ? { tall: Math.round(patch.strength * 1000) / 100 } : patch)}
      />
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 pb-2">
        <NumberField label="radius" value={brush.radius} unit="m" min={0.5} max={200} step={0.5} onCommit={(radius) => setBrush({ radius })} />
        {!ramp && !print && (
          <NumberField
            label="strength"
            value={brush.strength}
            unit="m"
            min={0.005}
            max={5}
            step={0.01}
            digits={3}
            onCommit={(strength) => setBrush({ strength })}
          />
        )}
        <NumberField
          label="hardness"
          value={brush.hardness * 100}
          unit="%"
          min={0}
          max={95}
          step={5}
          digits={0}
          onCommit={(v) => setBrush({ hardness: v / 100 })}
        />
        {!ramp && !print && (
          <NumberField
            label="spacing"
            value={brush.spacing * 100}
            unit="%"
            min={5}
            max={100}
            step={5}
            digits={0}
            onCommit={(v) => setBrush({ spacing: v / 100 })}
          />
        )}
        {tool === 'level' && (
          <NumberField label="level to" value={brush.levelTo} unit="m" min={-2000} max={3000} step={0.25} onCommit={(levelTo) => setBrush({ levelTo })} />
        )}
        {tool === 'terrace' && <NumberField label="rise" value={brush.rise} unit="m" min={0.1} max={100} step={0.25} onCommit={(rise) => setBrush({ rise })} />}
        {tool === 'weather' && (
          <NumberField label="talus" value={brush.talus} unit="°" min={5} max={85} step={1} digits={0} onCommit={(talus) => setBrush({ talus })} />
        )}
        {print && <PrintFields />}
        {tool === 'noise' && (
          <NumberField label="grain" value={brush.grain} unit="m" min={0.5} max={500} step={0.5} onCommit={(grain) => setBrush({ grain })} />
        )}
        {!ramp && (
          <label className="flex items-center justify-between gap-2">
            <span className="label">mirror</span>
            <select
              className="textf h-6 w-[78px] px-1"
              value={brush.mirror}
              aria-label="mirror"
              title="each dab again, at the other side of the level's middle"
              onChange={(e) => setBrush({ mirror: e.target.value as typeof brush.mirror })}
            >
              <option value="none">none</option>
              <option value="east-west">east-west</option>
              <option value="north-south">north-south</option>
            </select>
          </label>
        )}
      </div>
    </>
  );
}
