import { Plus, X } from 'lucide-react';
import { densest } from '@rammer/core/growth/pattern';
import { speciesOf } from '@rammer/core/level/level';
import { MOST_CHILDREN, MOST_MIX, type Habitat, type HabitatChild, type HabitatRule, type Species } from '@rammer/core/level/objects';
import { allHabitats } from '../../store/planting';
import type { Session } from '../../store/session';
import { setHabitatRule } from '../../tools/habitats';
import { NumberField } from '../../ui/NumberField';
import { Which } from '../surface/ConditionExtras';
import { ClusterFields } from './ClusterFields';
import { WhereFields } from './WhereFields';

const ADD = { padding: '0 4px', minHeight: 22 };

/** A rule of a habitat: its mix and density, what stands about its plants, and where it holds. */
export function HabitatRuleFields({ session, habitat, rule }: { session: Session; habitat: Habitat; rule: HabitatRule }) {
  const species = speciesOf(session.level);
  const set = (fields: Partial<HabitatRule>, what: string) => setHabitatRule(session, habitat, rule, fields, what);
  const mixed = rule.mix.flatMap((m) => species.find((s) => s.id === m.species) ?? []);
  const all = rule.mix.reduce((sum, m) => sum + m.weight, 0);
  const full = rule.mix.flatMap(({ species: id, weight }) => {
    const s = mixed.find((m) => m.id === id);
    const wanted = (rule.density * weight) / all;
    return s && wanted > densest(s.spacing, s.seed) ? [{ name: s.name, room: densest(s.spacing, s.seed) }] : [];
  });
  return (
    <div className="grid gap-1.5 border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }} role="group" aria-label={`rule ${rule.name}`}>
      <div className="flex items-center justify-between">
        <NumberField label="density" value={rule.density} min={0} max={2000} step={0.5} onCommit={(density) => set({ density }, 'density')} />
        <span className="label">on 100 m², all of the mix</span>
      </div>
      {full.map(({ name, room }) => (
        <p key={name} className="m-0" style={{ color: 'var(--ochre-text)' }}>
          {`At its spacing there is room for ${room.toFixed(1)} ${name} on 100 m².`}
        </p>
      ))}
      <Mix rule={rule} species={species} all={all} onSet={(mix) => set({ mix }, 'mix')} />
      <Children rule={rule} species={species} onSet={(children) => set({ children: children.length > 0 ? children : undefined }, 'clusters')} />
      <WhereFields
        session={session}
        name={rule.name}
        where={rule.where ?? []}
        before={earlier(session, habitat, rule)}
        onSet={(where) => set({ where }, 'conditions')}
      />
      <p className="label m-0">Each species keeps to its own slope, height, ground and conditions here too.</p>
    </div>
  );
}

/** Species of which some may stand before a rule grows: those of earlier rules and habitats, and those that grow by themselves. */
function earlier(session: Session, habitat: Habitat, rule: HabitatRule): Species[] {
  const before = new Set<string>();
  for (const h of allHabitats(session.level)) {
    for (const r of h.rules) {
      if (h.id === habitat.id && r.id === rule.id) return speciesOf(session.level).filter((s) => s.rule.on || before.has(s.id));
      for (const m of r.mix) before.add(m.species);
      for (const c of r.children ?? []) before.add(c.species);
    }
  }
  return [];
}

function Mix({ rule, species, all, onSet }: { rule: HabitatRule; species: readonly Species[]; all: number; onSet(mix: HabitatRule['mix']): void }) {
  const free = species.filter((s) => !rule.mix.some((m) => m.species === s.id));
  return (
    <div className="grid gap-1" role="group" aria-label="mix">
      {rule.mix.map((m, i) => {
        const name = species.find((s) => s.id === m.species)?.name ?? 'a species that is gone';
        return (
          <div key={m.species} className="flex items-center gap-1.5">
            <Which
              label={`species ${i + 1} of the mix`}
              value={m.species}
              list={[{ id: m.species, name }, ...free]}
              onPick={(id) => id && onSet(rule.mix.map((o, k) => (k === i ? { ...o, species: id } : o)))}
            />
            <NumberField
              label={`weight of ${name}`}
              hideLabel
              className="w-[52px]"
              fill
              value={m.weight}
              min={0.01}
              max={100}
              step={0.5}
              onCommit={(weight) => onSet(rule.mix.map((o, k) => (k === i ? { ...o, weight } : o)))}
            />
            <span className="fig w-9 text-right">{`${Math.round((m.weight / all) * 100)} %`}</span>
            <button
              className="icon-btn"
              style={{ width: 18 }}
              aria-label={`take ${name} out of the mix`}
              disabled={rule.mix.length === 1}
              onClick={() => onSet(rule.mix.filter((_, k) => k !== i))}
            >
              <X size={13} />
            </button>
          </div>
        );
      })}
      {free.length > 0 && (
        <button
          className="act plain justify-self-end"
          style={ADD}
          disabled={rule.mix.length >= MOST_MIX}
          onClick={() => onSet([...rule.mix, { species: free[0].id, weight: 1 }])}
        >
          <Plus size={13} />
          species
        </button>
      )}
    </div>
  );
}

function Children({ rule, species, onSet }: { rule: HabitatRule; species: readonly Species[]; onSet(children: HabitatChild[]): void }) {
  const children = rule.children ?? [];
  const change = (i: number, fields: Partial<HabitatChild>) =>
    onSet(children.map((c, k) => (k === i ? (Object.fromEntries(Object.entries({ ...c, ...fields }).filter(([, v]) => v !== undefined)) as HabitatChild) : c)));
  /** Where none can stand: what both keep free is as wide as the spread. */
  const tooNear = (c: HabitatChild): string | undefined => {
    const own = species.find((s) => s.id === c.species)?.clearance ?? 0;
    const parents = (c.about === undefined ? rule.mix.map((m) => m.species) : [c.about]).flatMap((id) => species.find((s) => s.id === id) ?? []);
    const near = parents.find((p) => Math.max(own, p.clearance) >= c.spread);
    return near && `None stands about ${near.name}: ${Math.max(own, near.clearance)} m are kept free, and the spread is ${c.spread} m.`;
  };
  const named = (id: string) => ({ id, name: species.find((s) => s.id === id)?.name ?? 'a species that is gone' });
  return (
    <div className="grid gap-1" role="group" aria-label="about its plants">
      {children.map((c, i) => (
        <div key={i} className="grid grid-cols-2 gap-x-3 gap-y-1 border-t pt-1" style={{ borderColor: 'var(--hair)' }}>
          <div className="col-span-2 flex items-center gap-1.5">
            <Which label={`species of cluster ${i + 1}`} value={c.species} list={species} onPick={(id) => id && change(i, { species: id })} />
            <span className="label">about</span>
            <Which
              label={`about what cluster ${i + 1} stands`}
              any="the mix"
              value={c.about}
              list={[...new Set([...rule.mix.map((m) => m.species), ...children.slice(0, i).map((o) => o.species)])].map(named)}
              onPick={(about) => change(i, { about })}
            />
            <button className="icon-btn" style={{ width: 18 }} aria-label={`delete cluster ${i + 1}`} onClick={() => onSet(children.filter((_, k) => k !== i))}>
              <X size={13} />
            </button>
          </div>
          <ClusterFields of={c} onSet={(fields) => change(i, fields)} />
          <NumberField label="size x" value={c.size} min={0.1} max={10} step={0.1} onCommit={(size) => change(i, { size })} />
          {tooNear(c) && (
            <p className="col-span-2 m-0" style={{ color: 'var(--ochre-text)' }}>
              {tooNear(c)}
            </p>
          )}
        </div>
      ))}
      {species.length > 0 && (
        <button
          className="act plain justify-self-end"
          style={ADD}
          title="a species that stands about the plants of this rule"
          disabled={children.length >= MOST_CHILDREN}
          onClick={() => {
            const other = species.find((s) => !rule.mix.some((m) => m.species === s.id)) ?? species[0];
            const keeps = Math.max(other.clearance, ...rule.mix.map((m) => species.find((s) => s.id === m.species)?.clearance ?? 0));
            onSet([...children, { species: other.id, chance: 0.5, count: [1, 3], spread: keeps + 1.5, size: 1 }]);
          }}
        >
          <Plus size={13} />
          cluster
        </button>
      )}
    </div>
  );
}
