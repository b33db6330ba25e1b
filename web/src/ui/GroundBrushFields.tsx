import { useUi } from '../store/ui';
import { NumberField } from './NumberField';

/** Radius, hardness and strength of the brushes that paint and sow. */
export function GroundBrushFields({ children }: { children?: React.ReactNode }) {
  const brush = useUi((s) => s.groundBrush);
  const set = useUi.getState().setGroundBrush;
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 py-2">
      <NumberField label="radius" value={brush.radius} unit="m" min={0.5} max={200} step={0.5} onCommit={(radius) => set({ radius })} />
      <NumberField label="strength" value={brush.strength * 100} unit="%" min={1} max={100} step={5} digits={0} onCommit={(v) => set({ strength: v / 100 })} />
      <NumberField label="hardness" value={brush.hardness * 100} unit="%" min={0} max={95} step={5} digits={0} onCommit={(v) => set({ hardness: v / 100 })} />
      {children}
    </div>
  );
}
