import { plantSwaps, swapText } from '@rammer/core/cost/plantSwaps';
import { startAs } from '@rammer/core/growth/growsAs';
import { openBelow } from '@rammer/core/growth/upright';
import { densest } from '@rammer/core/growth/pattern';
import { assetFacts } from '@rammer/core/kit/asset';
import { GROWS_AS, PLANT_STOPS, type GrowsAs, type GrowthWhere, type Species } from '@rammer/core/level/objects';
import { ofKind } from '@rammer/core/level/level';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import { allHabitats } from '../../store/planting';
import type { Session } from '../../store/session';
import { ColourField } from '../../ui/ColourField';
import { NumberField } from '../../ui/NumberField';
import { hazeOf } from '../../tools/hazeOf';
import { AboutFields } from './AboutFields';
import { CompanionFields } from './CompanionFields';
import { WhatIf } from './FitPanel';
import { MeshFields } from './MeshFields';
import { speciesBefore } from './growthConditions';
import { WhereFields } from './WhereFields';

type Fields = { [K in keyof Species]?: Species[K] | null };
/** Sets fields of the species that are picked, the same of all or of each its own; null takes one away. */
export type SetFields = (fields: Fields | ((species: Species) => Fields), what: string) => boolean;

/** A number of a species that is typed. */
interface Numeral {
  label: string;
  /** in the name of the edit */
  what: string;
  unit?: string;
  min: number;
  max: number;
  step: number;
  digits?: number;
  get(s: Species): number;
  set(s: Species, v: number): Fields;
  off?(s: Species): boolean;
}

/** One end of a range: the other gives way. */
const end = ([low, high]: readonly [number, number], i: 0 | 1, v: number): [number, number] => (i === 0 ? [v, Math.max(v, high)] : [Math.min(v, low), v]);
const ends = (key: 'height' | 'slenderness', labels: [string, string], more: Pick<Numeral, 'unit' | 'min' | 'max' | 'step'>): Numeral[] =>
  ([0, 1] as const).map((i) => ({
    ...more,
    label: labels[i],
    what: key === 'height' ? 'height' : 'width',
    get: (s) => s[key][i],
    set: (s, v) => ({ [key]: end(s[key], i, v) }),
  }));
const bands = (key: 'slope' | 'height', label: string, more: Pick<Numeral, 'unit' | 'min' | 'max' | 'step' | 'digits'>): Numeral[] =>
  ([0, 1] as const).map((i) => ({
    ...more,
    label: i === 0 ? label : 'up to',
    what: `rule ${key}`,
    get: (s) => s.rule[key][i],
    set: (s, v) => ({ rule: { ...s.rule, [key]: end(s.rule[key], i, v) } }),
  }));
const plain = (key: 'spacing' | 'clearance' | 'lean' | 'cutoff', label: string, more: Omit<Numeral, 'label' | 'what' | 'get' | 'set'>): Numeral => ({
  ...more,
  label,
  what: label,
  get: (s) => s[key],
  set: (_, v) => ({ [key]: v }),
});

/** A share that is typed in percent; what it is where absent is not kept. */
const share = (key: 'roots' | 'sway', label: string, what: string, absent: number): Numeral => ({
  label,
  what,
  unit: '%',
  min: 0,
  max: key === 'sway' ? 300 : 100,
  step: 10,
  digits: 0,
  get: (s) => (s[key] ?? absent) * 100,
  set: (_, v) => ({ [key]: v / 100 === absent ? null : v / 100 }),
});

const LOOKS: readonly Numeral[] = [
  {
    label: 'density',
    what: 'density',
    min: 0,
    max: 2000,
    step: 0.5,
    get: (s) => s.density,
    set: (_, v) => ({ density: v }),
    off: (s) => s.about !== undefined,
  },
  { label: 'at most', what: 'ceiling', min: 0, max: 8000, step: 1, digits: 1, get: (s) => s.ceiling ?? 0, set: (_, v) => ({ ceiling: v > 0 ? v : null }) },
  {
    label: 'amount',
    what: 'amount',
    unit: '%',
    min: 0,
    max: 100,
    step: 5,
    digits: 0,
    get: (s) => (s.amount ?? 1) * 100,
    set: (_, v) => ({ amount: v < 100 ? v / 100 : null }),
  },
  plain('spacing', 'spacing', { unit: 'm', min: 0.1, max: 100, step: 0.1 }),
  plain('clearance', 'clearance', { unit: 'm', min: 0, max: 50, step: 0.1 }),
  plain('lean', 'lean to', { unit: '°', min: 0, max: 45, step: 1, digits: 0 }),
  {
    label: 'to slope',
    what: 'lean to the slope',
    unit: '%',
    min: 0,
    max: 100,
    step: 10,
    digits: 0,
    get: (s) => (s.leanToSlope ?? 0) * 100,
    set: (_, v) => ({ leanToSlope: v > 0 ? v / 100 : null }),
  },
  { label: 'sunk by', what: 'sink', unit: 'm', min: 0, max: 20, step: 0.05, get: (s) => s.sink ?? 0, set: (_, v) => ({ sink: v > 0 ? v : null }) },
  plain('cutoff', 'cut-off', { unit: 'm', min: 0, max: 20_000, step: 10, digits: 0 }),
  {
    label: 'LODs at',
    what: 'swap distances',
    unit: '%',
    min: 25,
    max: 400,
    step: 25,
    digits: 0,
    get: (s) => (s.swap ?? 1) * 100,
    set: (_, v) => ({ swap: v === 100 ? null : v / 100 }),
  },
  ...ends('height', ['height', 'up to'], { unit: 'm', min: 0.02, max: 100, step: 0.1 }),
  ...ends('slenderness', ['width x', 'up to x'], { min: 0.2, max: 5, step: 0.05 }),
  ...([0, 1] as const).map((i): Numeral => ({
    label: i === 0 ? 'depth x' : 'up to x',
    what: 'depth',
    min: 0.2,
    max: 5,
    step: 0.05,
    get: (s) => (s.depth ?? [1, 1])[i],
    set: (s, v) => {
      const depth = end(s.depth ?? [1, 1], i, v);
      return { depth: depth[0] === 1 && depth[1] === 1 ? null : depth };
    },
  })),
  share('roots', 'roots', 'colour of the ground at the foot', 0),
  share('sway', 'sway', 'sway', 1),
];
/** How far off a species throws its shadows. */
const SHADOWS_TO: Numeral = {
  label: 'within',
  what: 'shadows',
  unit: 'm',
  min: 0,
  max: 1000,
  step: 5,
  digits: 0,
  get: (s) => s.shadowsTo ?? 0,
  set: (_, v) => ({ shadowsTo: v > 0 ? Math.max(1, v) : null }),
  off: (s) => !s.shadows,
};
const RULE: readonly Numeral[] = [
  {
    label: 'soft edge',
    what: 'rule',
    unit: '°',
    min: 0,
    max: 40,
    step: 1,
    digits: 1,
    get: (s) => s.rule.soft,
    set: (s, soft) => ({ rule: { ...s.rule, soft } }),
  },
  ...bands('slope', 'slope', { unit: '°', min: 0, max: 90, step: 1, digits: 1 }),
  ...bands('height', 'from', { unit: 'm', min: -1000, max: 5000, step: 1, digits: 1 }),
];
const PATCH: Numeral = {
  label: 'patches',
  what: 'patches of tint',
  unit: 'm',
  min: 0,
  max: 1000,
  step: 1,
  digits: 1,
  get: (s) => s.patch ?? 0,
  set: (_, v) => ({ patch: v > 0 ? Math.max(0.5, v) : null }),
  off: (s) => s.tints.length < 2,
};
const SEED: Numeral = {
  label: 'seed',
  what: 'seed',
  min: 0,
  max: 2_147_483_647,
  step: 1,
  digits: 0,
  get: (s) => s.seed,
  set: (_, v) => ({ seed: Math.round(v) }),
};

function Numbered({ of, chosen, set }: { of: Numeral; chosen: readonly Species[]; set: SetFields }) {
  const { label, what, unit, min, max, step, digits, get, off } = of;
  const values = chosen.map(get);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const short = (v: number) => String(Number(v.toFixed(1)));
  return (
    <NumberField
      label={label}
      value={values[0]}
      mixed={low === high ? undefined : `${short(low)}–${short(high)}`}
      unit={unit}
      min={min}
      max={max}
      step={step}
      digits={digits}
      disabled={off && chosen.every(off)}
      onCommit={(v) => set((s) => of.set(s, v), what)}
    />
  );
}

const STOPS: Readonly<Record<(typeof PLANT_STOPS)[number], string>> = {
  none: 'one walks through it',
  trunk: 'where its mesh has one',
  shape: 'what stops a body at its mesh, or its hull: boulders, logs',
};

/** What a species starts with as a kind, by the size of its own mesh. */
function startOf(session: Session, species: Species, as: GrowsAs): Fields {
  const asset = session.scene.placed.assets.get(species.asset);
  // What another kind had of its own goes.
  return asset ? { leanToSlope: null, sink: null, sway: null, depth: null, roots: null, stops: null, ...startAs(as, assetFacts(asset).size) } : { as };
}

/** How the species at hand looks, how densely it stands, and the rule it grows by; where several are picked, what is typed is set of all. */
export function SpeciesFields({ session, species, chosen, set }: { session: Session; species: Species; chosen: readonly Species[]; set: SetFields }) {
  const { surfaces } = surfacesOf(session.level);
  const { rule } = species;
  const asset = session.scene.placed.assets.get(species.asset);
  const size = asset && assetFacts(asset).size;
  const most = densest(species.spacing, species.seed);
  // Conditions and clusters name others: they are of the first that is picked alone.
  const setOne: SetFields = (fields, what) =>
    session.commit({ kind: 'set', patches: [{ id: species.id, set: typeof fields === 'function' ? fields(species) : fields }] }, `${what} of ${species.name}`);
  const setWhere = (where?: GrowthWhere[]) => {
    const { where: _, ...rest } = rule;
    setOne({ rule: where ? { ...rest, where } : rest }, 'conditions');
  };
  const setRule = (fields: Partial<Species['rule']>) => set((o) => ({ rule: { ...o.rule, ...fields } }), 'rule');
  const by = surfacesOf(session.level).own;
  const ruled = allHabitats(session.level)
    .filter((h) => h.rules.some((r) => [...r.mix, ...(r.children ?? [])].some((m) => m.species === species.id)))
    .map((h) => h.name);
  return (
    <div className="border-t" style={{ borderColor: 'var(--hair)' }}>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 py-2">
        {chosen.length > 1 && <p className="label col-span-2 m-0">{`${chosen.length} species are picked: what is typed is set of all`}</p>}
        <label className="col-span-2 flex items-center gap-2" title="sets density, spacing, sizes, lean, shadow and cut-off to what its kind starts with">
          <span className="label whitespace-nowrap">grows as</span>
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="grows as"
            value={species.as ?? ''}
            disabled={!size}
            onChange={(e) => set((o) => startOf(session, o, e.target.value as GrowsAs), `grows as ${e.target.value}`)}
          >
            {species.as === undefined && <option value="">as it is set</option>}
            {GROWS_AS.map((as) => (
              <option key={as} value={as}>
                {as}
              </option>
            ))}
          </select>
        </label>
        {LOOKS.map((of) => (
          <Numbered key={of.label + of.what} of={of} chosen={chosen} set={set} />
        ))}
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={species.shadows} onChange={(e) => set({ shadows: e.target.checked }, 'shadows')} />
          throws shadows
        </label>
        <span title="only as near to the eye as this; 0: as far as shadows go">
          <Numbered of={SHADOWS_TO} chosen={chosen} set={set} />
        </span>
      </div>
      {species.lean > 0 && openBelow(species, session.scene.placed.assets) && (
        <p className="label m-0 px-3 pb-1">It is open below: it stands upright, or as its slope does, so that nobody sees into it.</p>
      )}
      <div className="flex items-center gap-1.5 px-3 pb-1" role="group" aria-label="stops a body">
        <span className="label" title="what is lower than 0.3 m is stepped over">
          stops
        </span>
        {PLANT_STOPS.map((stops) => (
          <button
            key={stops}
            className="act"
            style={{ minHeight: 22, padding: '0 6px' }}
            aria-pressed={(species.stops ?? 'trunk') === stops}
            title={STOPS[stops]}
            onClick={() => set({ stops: stops === 'trunk' ? null : stops }, 'what stops a body')}
          >
            {stops === 'trunk' ? 'at its trunk' : stops === 'shape' ? 'by its shape' : 'nobody'}
          </button>
        ))}
      </div>
      <div className="flex flex-wrap items-center gap-1.5 px-3 pb-1">
        <span className="label">tints</span>
        <span className="order-last ml-auto" title="plants of one tint stand together in patches about so wide; 0: each has its own by chance">
          <Numbered of={PATCH} chosen={chosen} set={set} />
        </span>
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
      <Swaps session={session} species={species} />
      <WhatIf session={session} chosen={chosen} />
      <MeshFields session={session} species={species} />
      <CompanionFields session={session} species={species} chosen={chosen} set={setOne} />
      <AboutFields session={session} species={species} set={setOne} />
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
        {RULE.map((of) => (
          <Numbered key={of.label + of.what} of={of} chosen={chosen} set={set} />
        ))}
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
        <Numbered of={SEED} chosen={chosen} set={set} />
      </div>
    </div>
  );
}

/** Where its plants are seen to change as the eye comes near. */
function Swaps({ session, species }: { session: Session; species: Species }) {
  const covers = ofKind(session.level, 'cover').some((c) => c.on && c.species === species.id);
  const swaps = plantSwaps(species, session.scene.placed.assets, { covers, haze: hazeOf(session.level) });
  if (swaps.length === 0) return null;
  return (
    <p className="label m-0 px-3 pb-1" title="of the tallest, on a screen 1080 high; the overlay plant swaps shows them about the eye">
      {swaps.map(swapText).join('; ')}
    </p>
  );
}
