import { Eye, EyeOff, Trash2 } from 'lucide-react';
import { useEffect } from 'react';
import { densest } from '@rammer/core/growth/pattern';
import { ofKind, settingsOf } from '@rammer/core/level/level';
import type { GrowthWhere, Species } from '@rammer/core/level/objects';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { usePlanting } from '../../store/planting';
import { useUi } from '../../store/ui';
import { renameObject } from '../../tools/blockActions';
import { growFrom } from '../../tools/libraryAssets';
import { OutSign } from '../../ui/OutSign';
import { ColourField } from '../../ui/ColourField';
import { GroundBrushFields } from '../surface/GroundBrushFields';
import { askWhy } from '../../tools/askWhy';
import { things } from '../../tools/things';
import { ThingFields } from '../standing/ThingFields';
import { Library } from '../assets/Library';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import { Row, Table } from '../../ui/Table';
import type { LevelView } from '../../view/LevelView';
import { WhyPanel } from './WhyPanel';
import { WhereFields } from './WhereFields';
import { HIDES } from '../../ui/hides';

const BARE = 'M0 19H118';
const THICK = 'M0 19H14L17 9L20 19H32L36 5L40 19H54L57 10L60 19H74L78 4L82 19H96L99 9L102 19H118';

/** Sets fields of the species at hand; null takes one away. */
type SetFields = (fields: { [K in keyof Species]?: Species[K] | null }, what: string) => boolean;

/** Species with their rules, and the tools that sow, clear and set single plants. */
export function GrowBench({ session, view }: { session: Session; view?: LevelView }) {
  useSession(session);
  const ui = useUi();
  const planting = usePlanting();
  const list = ofKind(session.level, 'species').sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
  const species = list.find((s) => s.id === planting.species) ?? list[0];
  const over = session.scene.plants.grown.reduce((n, p) => n + (p.over ?? 0), 0);
  const counts = new Map(session.scene.plants.grown.map((p) => [p.species, p.count]));
  // What was asked is told anew as the rule, the ground or what stands there changes.
  const { grown } = session.scene.plants;
  useEffect(() => {
    const { asked } = usePlanting.getState();
    if (asked && useUi.getState().tool === 'ask') askWhy(session, asked);
  }, [session, grown]);
  const set: SetFields = (fields, what) => session.commit({ kind: 'set', patches: [{ id: species.id, set: fields }] }, `${what} of ${species.name}`);
  return (
    <>
      <div className="grid grid-cols-2 border-b" style={{ borderColor: 'var(--ink)' }}>
        <Profile name="sow" before={BARE} after={THICK} active={ui.tool === 'sow'} onPick={() => ui.setTool('sow')} />
        <Profile name="clear" before={THICK} after={BARE} active={ui.tool === 'clear'} onPick={() => ui.setTool('clear')} />
        <Profile name="single plant" before={BARE} after="M0 19H54L59 4L64 19H118" active={ui.tool === 'plant'} onPick={() => ui.setTool('plant')} />
        <Profile name="why here" before={BARE} after="M0 19H30L33 10L36 19H78L80 17L82 19H118" active={ui.tool === 'ask'} onPick={() => ui.setTool('ask')} />
      </div>
      <div className="min-h-0 shrink overflow-y-auto" style={{ maxHeight: '62%' }}>
        {(ui.tool === 'sow' || ui.tool === 'clear') && (
          <GroundBrushFields session={session}>
            {ui.tool === 'sow' ? (
              <NumberField
                label="to"
                value={planting.sowTo * 100}
                unit="%"
                min={10}
                max={400}
                step={25}
                digits={0}
                onCommit={(v) => usePlanting.setState({ sowTo: v / 100 })}
              />
            ) : (
              <label className="flex items-center gap-1.5">
                <input type="checkbox" checked={planting.clearAll} onChange={(e) => usePlanting.setState({ clearAll: e.target.checked })} />
                all species
              </label>
            )}
          </GroundBrushFields>
        )}
        {ui.selection.length > 0 && things(session).length > 0 && (
          <div className="grid gap-1.5 border-b px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
            <ThingFields session={session} list={things(session)} />
          </div>
        )}
        {ui.tool === 'plant' && (
          <p className="label m-0 px-3 py-2">
            Click sets a plant, a drag moves the one under the pointer and sets it by hand, Delete removes it. Rules leave these alone when they run again.
          </p>
        )}
        {(ui.tool === 'ask' || (ui.tool === 'plant' && planting.why)) && <WhyPanel why={planting.why} />}
        <Library
          session={session}
          view={view}
          role="plant"
          onPick={(a) => {
            const species = growFrom(session, a);
            if (species) usePlanting.setState({ species });
          }}
        />
        {species && <Fields session={session} species={species} set={set} />}
      </div>
      <div className="flex items-center justify-between border-t px-3 py-1" style={{ borderColor: 'var(--hair)' }}>
        <NumberField
          label="all species, at most"
          value={settingsOf(session.level).plantCeiling ?? 0}
          min={0}
          max={20_000}
          step={5}
          digits={0}
          onCommit={(v) =>
            session.commit(
              { kind: 'set', patches: [{ id: 'settings', set: { plantCeiling: v > 0 ? Math.round(v) : null } }] },
              v > 0 ? `at most ${Math.round(v)} plants on 100 m²` : 'no ceiling',
            )
          }
        />
        <span className="label whitespace-nowrap" title="0 is no ceiling">
          {over > 0 ? `${over} kept out` : 'a 100 m²'}
        </span>
      </div>
      <Table
        label="species"
        rows={list}
        empty="No species yet. Pick a plant in the library above: it starts with a rule of its own."
        header={
          <>
            <span className="label" title="earlier ones take their place first">
              species
            </span>
            <span className="label ml-auto whitespace-nowrap">a 100 m²</span>
            <span className="label whitespace-nowrap" style={{ borderBottom: session.scene.plants.running ? '1px dashed' : undefined }}>
              {[...counts.values()].reduce((a, b) => a + b, 0)} plants
            </span>
          </>
        }
        row={(s) => (
          <Row selected={s.id === species?.id} colour={s.out ? 'var(--edge)' : undefined} onClick={() => usePlanting.setState({ species: s.id })}>
            <NameCell name={s.name} onRename={(name) => renameObject(session, s.id, name)} />
            <span className="label whitespace-nowrap" title="on 100 m²">
              {s.density}
            </span>
            <span className="fig w-11 text-right" data-testid={`count-${s.name}`}>
              {counts.get(s.id) ?? 0}
            </span>
            <button
              className="icon-btn"
              title={HIDES}
              aria-label={s.hidden ? `show ${s.name}` : `hide ${s.name}`}
              aria-pressed={s.hidden}
              onClick={(e) => {
                e.stopPropagation();
                session.commit({ kind: 'set', patches: [{ id: s.id, set: { hidden: !s.hidden } }] }, `${s.hidden ? 'show' : 'hide'} ${s.name}`);
              }}
            >
              {s.hidden ? <EyeOff size={14} /> : <Eye size={14} />}
            </button>
            <button
              className="icon-btn"
              aria-label={s.out ? `put ${s.name} back` : `take ${s.name} out`}
              aria-pressed={s.out}
              onClick={(e) => {
                e.stopPropagation();
                session.commit({ kind: 'set', patches: [{ id: s.id, set: { out: !s.out } }] }, `${s.out ? 'put back' : 'take out'} ${s.name}`);
              }}
            >
              <OutSign out={s.out} />
            </button>
            <button
              className="icon-btn"
              aria-label={`delete ${s.name}`}
              title="with its plants set by hand"
              onClick={(e) => {
                e.stopPropagation();
                session.commit(
                  {
                    kind: 'remove',
                    ids: [
                      s.id,
                      ...ofKind(session.level, 'plant')
                        .filter((p) => p.species === s.id)
                        .map((p) => p.id),
                    ],
                  },
                  `delete ${s.name}`,
                );
              }}
            >
              <Trash2 size={14} />
            </button>
          </Row>
        )}
      />
    </>
  );
}

function Fields({ session, species, set }: { session: Session; species: Species; set: SetFields }) {
  const { surfaces } = surfacesOf(session.level);
  const { rule } = species;
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
  return (
    <div className="border-t" style={{ borderColor: 'var(--hair)' }}>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 py-2">
        <NumberField label="density" value={species.density} min={0} max={2000} step={0.5} onCommit={(density) => set({ density }, 'density')} />
        <NumberField
          label="at most"
          value={species.ceiling ?? 0}
          min={0}
          max={8000}
          step={1}
          digits={1}
          onCommit={(v) => set({ ceiling: v > 0 ? v : null }, 'ceiling')}
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
      {species.density > most && (
        <p className="m-0 px-3 pb-1" style={{ color: 'var(--ochre-text)' }}>
          At {species.spacing} m apart there is room for {most.toFixed(1)} on 100 m².
        </p>
      )}
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
        <label className="flex items-center gap-1.5 font-medium">
          <input type="checkbox" checked={rule.on} onChange={(e) => setRule({ on: e.target.checked })} />
          grows by rule
        </label>
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
        <WhereFields session={session} species={species} onSet={setWhere} />
        <NumberField label="seed" value={species.seed} min={0} max={2_147_483_647} step={1} digits={0} onCommit={(v) => set({ seed: Math.round(v) }, 'seed')} />
      </div>
    </div>
  );
}
