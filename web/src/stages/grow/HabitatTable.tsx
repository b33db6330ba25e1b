import { ArrowDown, ArrowUp, Copy, Eye, EyeOff, Plus, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { countOf, ruleKey } from '@rammer/core/growth/passes';
import type { Habitat, HabitatRule, Species } from '@rammer/core/level/objects';
import { allHabitats, speciesAtHand, usePlanting } from '../../store/planting';
import type { Session } from '../../store/session';
import { renameObject } from '../../tools/blockActions';
import {
  addRule,
  copyHabitat,
  giveHabitatRule,
  placeHabitat,
  placeHabitatRule,
  removeHabitat,
  removeHabitatRule,
  setHabitat,
  setHabitatRule,
} from '../../tools/habitats';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';

type Line = { habitat: Habitat; rule?: HabitatRule };

/** Habitats with their rules under them, earlier ones first: both are dragged to reorder, a rule into another habitat too. */
export function HabitatTable({ session }: { session: Session }) {
  const { habitat: picked, rule: ruled } = usePlanting();
  const list = allHabitats(session.level);
  const habitat = list.find((h) => h.id === picked) ?? list[0];
  const rule = habitat?.rules.find((r) => r.id === ruled);
  const lines = list.flatMap((h): Line[] => [{ habitat: h }, ...h.rules.map((r) => ({ habitat: h, rule: r }))]);
  const dragged = useRef<Line>(undefined);
  const [over, setOver] = useState<string>();
  const names = new Map(session.scene.plants.species.map((s): [string, Species] => [s.id, s]));
  const { grown } = session.scene.plants;
  const place = rule ? habitat.rules.indexOf(rule) : list.indexOf(habitat);
  const last = (rule ? habitat.rules.length : list.length) - 1;
  const move = (to: number) => (rule ? placeHabitatRule(session, habitat, rule, to) : placeHabitat(session, habitat, to));
  const keyOf = ({ habitat: h, rule: r }: Line) => (r ? ruleKey(h, r) : h.id);
  const drop = (on: Line) => {
    const from = dragged.current;
    dragged.current = undefined;
    setOver(undefined);
    if (!from || keyOf(from) === keyOf(on)) return;
    if (!from.rule) placeHabitat(session, from.habitat, list.indexOf(on.habitat));
    else if (from.habitat.id !== on.habitat.id) giveHabitatRule(session, from.habitat, from.rule, on.habitat);
    else placeHabitatRule(session, from.habitat, from.rule, on.rule ? on.habitat.rules.indexOf(on.rule) : 0);
  };
  return (
    <Table
      label="habitats"
      rows={lines}
      empty="No habitats yet. Add one above: its rules grow what the level has, in their order, where it lies."
      header={
        <>
          <span className="label">{`${list.length} ${list.length === 1 ? 'habitat' : 'habitats'}`}</span>
          {habitat && (
            <>
              <button
                className="icon-btn ml-auto"

                aria-label={rule ? 'rule earlier' : 'habitat earlier'}
                disabled={place <= 0}
                onClick={() => move(place - 1)}
              >
                <ArrowUp size={14} />
              </button>
              <button
                className="icon-btn"

                aria-label={rule ? 'rule later' : 'habitat later'}
                disabled={place >= last}
                onClick={() => move(place + 1)}
              >
                <ArrowDown size={14} />
              </button>
              {!rule && (
                <button className="icon-btn" aria-label="duplicate the habitat" onClick={() => copyHabitat(session, habitat)}>
                  <Copy size={14} />
                </button>
              )}
              <button
                className="icon-btn"

                aria-label={rule ? 'delete the rule' : 'delete the habitat'}
                title={`delete ${(rule ?? habitat).name}`}
                onClick={() => (rule ? removeHabitatRule(session, habitat, rule) : removeHabitat(session, habitat))}
              >
                <Trash2 size={14} />
              </button>
              <button
                className="icon-btn"

                aria-label="add a rule"
                title="add a rule of the species at hand"
                onClick={() => addRule(session, habitat)}
              >
                <Plus size={14} />
              </button>
            </>
          )}
        </>
      }
      row={(line) => (
        <div
          draggable
          onDragStart={(e) => {
            dragged.current = line;
            e.dataTransfer.effectAllowed = 'move';
            e.dataTransfer.setData('text/plain', (line.rule ?? line.habitat).name);
          }}
          onDragOver={(e) => {
            e.preventDefault();
            setOver(keyOf(line));
          }}
          onDragLeave={() => setOver(undefined)}
          onDragEnd={() => setOver(undefined)}
          onDrop={(e) => {
            e.preventDefault();
            drop(line);
          }}
          style={{ boxShadow: over === keyOf(line) ? 'inset 0 2px 0 var(--ink)' : undefined }}
          role="presentation"
        >
          {line.rule ? (
            <Row
              selected={line.rule.id === rule?.id && line.habitat.id === habitat.id}
              colour={line.rule.on && line.habitat.on ? undefined : 'var(--ink-2)'}
              title={line.rule.mix.map((m) => names.get(m.species)?.name ?? 'a species that is gone').join(', ')}
              onClick={() => pickRule(session, line.habitat, line.rule!)}
            >
              <span aria-hidden style={{ width: 8 }} />
              <NameCell name={line.rule.name} onRename={(name) => setHabitatRule(session, line.habitat, line.rule!, { name }, 'name')} />
              <span className="label whitespace-nowrap" title="on 100 m²">
                {line.rule.density}
              </span>
              <span className="fig w-11 text-right" data-testid={`rule-${line.rule.name}`}>
                {countOf(grown, ruleKey(line.habitat, line.rule))}
              </span>
              <OnOff name={line.rule.name} on={line.rule.on} onPick={(on) => setHabitatRule(session, line.habitat, line.rule!, { on }, on ? 'on' : 'off')} />
            </Row>
          ) : (
            <Row
              selected={line.habitat.id === habitat.id && !rule}
              colour={line.habitat.on ? undefined : 'var(--ink-2)'}
              onClick={() => usePlanting.setState({ habitat: line.habitat.id, rule: undefined })}
            >
              <span className="min-w-0 flex-1 truncate font-medium">
                <NameCell name={line.habitat.name} onRename={(name) => renameObject(session, line.habitat.id, name)} />
              </span>
              <span className="label whitespace-nowrap">{line.habitat.area === 'drawn' ? 'drawn' : line.habitat.where ? 'by conditions' : 'the rest'}</span>
              <OnOff
                name={line.habitat.name}
                on={line.habitat.on}
                onPick={(on) => setHabitat(session, line.habitat, { on }, `${line.habitat.name} ${on ? 'on' : 'off'}`)}
              />
            </Row>
          )}
        </div>
      )}
    />
  );
}

/** Takes a rule in hand, and one of its species: that is what is asked after. */
function pickRule(session: Session, habitat: Habitat, rule: HabitatRule): void {
  const hand = speciesAtHand(session.level)?.id;
  const species = rule.mix.some((m) => m.species === hand) ? hand : rule.mix[0].species;
  usePlanting.setState({ habitat: habitat.id, rule: rule.id, species });
}

function OnOff({ name, on, onPick }: { name: string; on: boolean; onPick(on: boolean): void }) {
  return (
    <button
      className="icon-btn shrink-0"
      style={{ width: 18 }}
      aria-label={`turn ${name} ${on ? 'off' : 'on'}`}
      aria-pressed={!on}
      onClick={(e) => {
        e.stopPropagation();
        onPick(!on);
      }}
    >
      {on ? <Eye size={14} /> : <EyeOff size={14} />}
    </button>
  );
}
