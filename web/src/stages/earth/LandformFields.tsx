import type { Landform } from '@rammer/core/level/objects';
import { NumberField } from '../../ui/NumberField';
import type { SetFields } from './LiftFields';

/** The numbers of a landform; its side profile stands in the section. */
export function LandformFields({ lift, set }: { lift: Landform; set: SetFields }) {
  return (
    <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 pt-2">
      <NumberField
        label={lift.cut ? 'depth' : 'crest'}
        value={lift.height}
        unit="m"
        min={0}
        max={500}
        step={0.25}
        onCommit={(height) => set({ height }, 'crest')}
      />
      <NumberField label="foot" value={lift.foot} unit="m" min={0.05} max={2000} step={0.25} onCommit={(foot) => set({ foot }, 'foot')} />
      <NumberField label="ragged" value={lift.ragged} unit="m" min={0} max={100} step={0.25} onCommit={(ragged) => set({ ragged }, 'ragged edge')} />
      {lift.line.length === 1 ? (
        <NumberField label="radius" value={lift.radius} unit="m" min={0.5} max={4096} step={0.5} onCommit={(radius) => set({ radius }, 'radius')} />
      ) : (
        <NumberField label="seed" value={lift.seed} min={0} max={2_147_483_647} step={1} digits={0} onCommit={(v) => set({ seed: Math.round(v) }, 'seed')} />
      )}
      <label className="flex items-center justify-between gap-2">
        <span className="label">crown</span>
        <select className="textf h-6 w-[84px] px-1" aria-label="crown" value={lift.crown} onChange={(e) => set({ crown: e.target.value }, 'crown')}>
          <option value="flat">flat</option>
          <option value="domed">domed</option>
          <option value="dished">dished</option>
        </select>
      </label>
      <div className="seg justify-self-end" role="group" aria-label="heap or cut">
        {[false, true].map((cut) => (
          <button
            key={String(cut)}
            className="act fig"
            style={{ padding: '0 6px', minHeight: 24 }}
            aria-pressed={lift.cut === cut}
            onClick={() => set({ cut }, 'way')}
          >
            {cut ? 'cut' : 'heap'}
          </button>
        ))}
      </div>
    </div>
  );
}
