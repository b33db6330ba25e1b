import { startAs } from '@rammer/core/growth/growsAs';
import { densest } from '@rammer/core/growth/pattern';
import { assetFacts } from '@rammer/core/kit/asset';
import { GROWS_AS, type GrowsAs, type GrowthWhere, type Species } from '@rammer/core/level/objects';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import { allHabitats } from '../../store/planting';
import type { Session } from '../../store/session';
import { ColourField } from '../../ui/ColourField';
import { NumberField } from '../../ui/NumberField';
import { AboutFields } from './AboutFields';
import { speciesBefore } from './growthConditions';
import { WhereFields } from './WhereFields';

/** Sets fields of the species at hand; null takes one away. */
export type SetFields = (fields: { [K in keyof Species]?: Species[K] | null }, what: string) => boolean;

/** How the species at hand looks, how densely it stands, and the rule it grows by. */
export function SpeciesFields({ session, species, set }: { session: Session; species: Species; set: SetFields }) {
  const { surfaces } = surfacesOf(session.level);
  const { rule } = species;
  const asset = session.scene.placed.assets.get(species.asset);
  const size = asset && assetFacts(asset).size;
  const most = densest(species.spacing, species.seed);
  const pair = (key: 'height' | 'slenderness', i: 0 | 1, v: number): [number, number] =>
    i === 0 ? [v, Math.max(v, species[key][1])] : [Math.min(v, species[key][0]), v];
  const setWhere = (where?: GrowthWhere[]) => {
    const { where: _, ...rest } = rule;
    set({ rule: where ? { ...rest, where } : rest }, 'conditions');
  };
  const setRule = (fields: Partial<Species['rule']>) => set({ rule: { ...rule, ...fields } }, 'rule');
  const band = (key: 'slope' | 'height', i: 0 | 1, v: number): [number, number] => (i === 0 ? [v, Math.max(v, rule[key][1])] : [Math.min(v, rule[key][0]), v]);
  const by = surfacesOf(session.level).own;
  const ruled = allHabitats(session.level)
    .filter((h) => h.rules.some((r) => [...r.mix, ...(r.children ?? [])].some((m) => m.species === species.id)))
    .map((h) => h.name);
  return (
    <div className="border-t" style={{ borderColor: 'var(--hair)' }}>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 py-2">
        <label className="col-span-2 flex items-center gap-2" title="sets density, spacing, sizes, lean, shadow and cut-off to what its kind starts with">
          <span className="label whitespace-nowrap">grows as</span>
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="grows as"
            value={species.as ?? ''}
            disabled={!size}
            onChange={(e) => size && set(startAs(e.target.value as GrowsAs, size), `grows as ${e.target.value}`)}
          >
            {species.as === undefined && <option value="">as it is set</option>}
            {GROWS_AS.map((as) => (
              <option key={as} value={as}>
                {as}
              </option>
            ))}
          </select>
        </label>
        <NumberField
          label="density"
          disabled={species.about !== undefined}
          value={species.density}
          min={0}
          max={2000}
          step={0.5}
          onCommit={(density) => set({ density }, 'density')}
        />
        <NumberField
          label="at most"
          value={species.ceiling ?? 0}
          min={0}
          max={8000}
          step={1}
          digits={1}
          onCommit={(v) => set({ ceiling: v > 0 ? v : null }, 'ceiling')}
        />
        <NumberField
          label="amount"
          value={(species.amount ?? 1) * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          digits={0}
          onCommit={(v) => set({ amount: v < 100 ? v / 100 : null }, 'amount')}
        />
        <NumberField label="spacing" value={species.spacing} unit="m" min={0.1} max={100} step={0.1} onCommit={(spacing) => set({ spacing }, 'spacing')} />
        <NumberField
          label="clearance"
          value={species.clearance}
          unit="m"
          min={0}
          max={50}
          step={0.1}
          onCommit={(clearance) => set({ clearance }, 'clearance')}
        />
        <NumberField label="lean to" value={species.lean} unit="°" min={0} max={45} step={1} digits={0} onCommit={(lean) => set({ lean }, 'lean')} />
        <NumberField
          label="cut-off"
          value={species.cutoff}
          unit="m"
          min={0}
          max={20000}
          step={10}
          digits={0}
          onCommit={(cutoff) => set({ cutoff }, 'cut-off')}
        />
        <NumberField
          label="height"
          value={species.height[0]}
          unit="m"
          min={0.02}
          max={100}
          step={0.1}
          onCommit={(v) => set({ height: pair('height', 0, v) }, 'height')}
        />
        <NumberField
          label="up to"
          value={species.height[1]}
          unit="m"
          min={0.02}
          max={100}
          step={0.1}
          onCommit={(v) => set({ height: pair('height', 1, v) }, 'height')}
        />
        <NumberField
          label="width x"
          value={species.slenderness[0]}
          min={0.2}
          max={5}
          step={0.05}
          onCommit={(v) => set({ slenderness: pair('slenderness', 0, v) }, 'slenderness')}
        />
        <NumberField
          label="up to x"
          value={species.slenderness[1]}
          min={0.2}
          max={5}
          step={0.05}
          onCommit={(v) => set({ slenderness: pair('slenderness', 1, v) }, 'slenderness')}
        />
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={species.shadows} onChange={(e) => set({ shadows: e.target.checked }, 'shadows')} />
          throws shadows
        </label>
      </div>
      <div className="flex items-center gap-1.5 px-3 pb-1">
        <span className="label">tints</span>
        {species.tints.map((t, i) => (
          <ColourField
            key={`${i}${t}`}
            label={`tint ${i + 1}`}
            hideLabel
            value={t}
            onCommit={(v) => set({ tints: species.tints.map((x, k) => (k === i ? v : x)) }, 'tints')}
          />
        ))}
        {species.tints.length < 6 && (
          <button className="icon-btn" aria-label="add a tint" onClick={() => set({ tints: [...species.tints, '#ffffff'] }, 'tints')}>
            +
          </button>
        )}
        {species.tints.length > 1 && (
          <button className="icon-btn" aria-label="remove the last tint" onClick={() => set({ tints: species.tints.slice(0, -1) }, 'tints')}>
            −
          </button>
        )}
      </div>
      <AboutFields session={session} species={species} set={set} />
      {!species.about && species.density > most && (
        <p className="m-0 px-3 pb-1" style={{ color: 'var(--ochre-text)' }}>
          At {species.spacing} m apart there is room for {most.toFixed(1)} on 100 m².
        </p>
      )}
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
        <label className="flex items-center gap-1.5 font-medium">
          <input type="checkbox" checked={rule.on} onChange={(e) => setRule({ on: e.target.checked })} />
          grows by rule
        </label>
        {ruled.length > 0 && (
          <p className="label col-span-full m-0" style={{ order: -1 }}>
            {`grows by rules of ${ruled.join(', ')}; what is set here holds there too`}
          </p>
        )}
        <NumberField label="soft edge" value={rule.soft} unit="°" min={0} max={40} step={1} digits={1} onCommit={(soft) => setRule({ soft })} />
        <NumberField
          label="slope"
          value={rule.slope[0]}
          unit="°"
          min={0}
          max={90}
          step={1}
          digits={1}
          onCommit={(v) => setRule({ slope: band('slope', 0, v) })}
        />
        <NumberField
          label="up to"
          value={rule.slope[1]}
          unit="°"
          min={0}
          max={90}
          step={1}
          digits={1}
          onCommit={(v) => setRule({ slope: band('slope', 1, v) })}
        />
        <NumberField
          label="from"
          value={rule.height[0]}
          unit="m"
          min={-1000}
          max={5000}
          step={1}
          digits={1}
          onCommit={(v) => setRule({ height: band('height', 0, v) })}
        />
        <NumberField
          label="up to"
          value={rule.height[1]}
          unit="m"
          min={-1000}
          max={5000}
          step={1}
          digits={1}
          onCommit={(v) => setRule({ height: band('height', 1, v) })}
        />
        <fieldset className="col-span-2 m-0 flex flex-wrap gap-x-3 border-0 p-0">
          <legend className="label float-left mr-2 p-0">on</legend>
          {surfaces.map((s) => (
            <label key={s.id} className="flex items-center gap-1">
              <input
                type="checkbox"
                disabled={!by}
                checked={rule.grounds.length === 0 || rule.grounds.includes(s.id)}
                onChange={(e) => {
                  const all = rule.grounds.length === 0 ? surfaces.map((x) => x.id) : rule.grounds;
                  const next = e.target.checked ? [...all, s.id] : all.filter((g) => g !== s.id);
                  if (next.length > 0) setRule({ grounds: next.length === surfaces.length ? [] : next });
                  else session.say('a rule grows on one surface at least: switch the rule off instead', true);
                }}
              />
              {s.name}
            </label>
          ))}
        </fieldset>
        <WhereFields session={session} name={species.name} where={rule.where ?? []} before={speciesBefore(session.level, species)} onSet={setWhere} />
        <NumberField label="seed" value={species.seed} min={0} max={2_147_483_647} step={1} digits={0} onCommit={(v) => set({ seed: Math.round(v) }, 'seed')} />
      </div>
    </div>
  );
}
