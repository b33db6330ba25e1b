import { useGround } from '../../store/groundDraft';
import { usePlanting } from '../../store/planting';
import { NumberField } from '../../ui/NumberField';

/** The brush that sets plants by hand: how wide, up to how much of their density, and whether by their rule. */
export function HandBrushFields() {
  const { radius } = useGround((s) => s.groundBrush);
  const { sowTo, byRule } = usePlanting();
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1 border-b px-3 py-2" style={{ borderColor: 'var(--hair)' }} role="group" aria-label="brush by hand">
      <NumberField label="radius" value={radius} unit="m" min={0.5} max={200} step={0.5} onCommit={(v) => useGround.getState().setGroundBrush({ radius: v })} />
      <NumberField label="to" value={sowTo * 100} unit="%" min={10} max={400} step={25} digits={0} onCommit={(v) => usePlanting.setState({ sowTo: v / 100 })} />
      <label className="col-span-2 flex items-center gap-1.5" title="its slope, height, ground and conditions; without, it is set wherever it can stand">
        <input type="checkbox" checked={byRule} onChange={(e) => usePlanting.setState({ byRule: e.target.checked })} />
        by its rule
      </label>
      <p className="label col-span-2 m-0">On floors, ledges, roofs and flanks, each up to its own density. Shift takes those away that were set by hand.</p>
    </div>
  );
}
