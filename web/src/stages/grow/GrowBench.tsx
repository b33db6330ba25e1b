import { Eye, EyeOff, Trash2 } from 'lucide-react';
import { useEffect } from 'react';
import { ofKind, settingsOf } from '@rammer/core/level/level';
import type { Species } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { habitatAtHand, usePlanting } from '../../store/planting';
import { useUi, type ToolId } from '../../store/ui';
import { renameObject } from '../../tools/blockActions';
import { growFrom } from '../../tools/libraryAssets';
import { OutSign } from '../../ui/OutSign';
import { GroundBrushFields } from '../surface/GroundBrushFields';
import { askWhy } from '../../tools/askWhy';
import { clearMargin } from '../../tools/clearMargin';
import { dressWith } from '../../tools/seams';
import { things } from '../../tools/things';
import { SeamFields } from '../build/SeamFields';
import { ThingFields } from '../standing/ThingFields';
import { Library } from '../assets/Library';
import { NameCell } from '../../ui/NameCell';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import { Row, Table } from '../../ui/Table';
import type { LevelView } from '../../view/LevelView';
import { WhyPanel } from './WhyPanel';
import { AreaFields } from './AreaFields';
import { FitButton, FitPanel } from './FitPanel';
import { AddHabitat, HabitatFields } from './HabitatFields';
import { CoverFields } from './CoverFields';
import { CoverTable } from './CoverTable';
import { HandBrushFields } from './HandBrushFields';
import { HabitatRuleFields } from './HabitatRuleFields';
import { HabitatTable } from './HabitatTable';
import { SpeciesFields, type SetFields } from './SpeciesFields';
import { HIDES } from '../../ui/hides';

const BARE = 'M0 19H118';
const THICK = 'M0 19H14L17 9L20 19H32L36 5L40 19H54L57 10L60 19H74L78 4L82 19H96L99 9L102 19H118';

type Shown = readonly [tool: ToolId, name: string, before: string, after: string];
const SELECT: Shown = ['select', 'select', BARE, 'M0 19H44L48 8L52 19H118'];
const ASK: Shown = ['ask', 'why here', BARE, 'M0 19H34L37 10L40 19H78L80 17L82 19H118'];
const OF_SPECIES: readonly Shown[] = [
  SELECT,
  ['sow', 'sow', BARE, THICK],
  ['clear', 'clear', THICK, BARE],
  ['area', 'area', BARE, 'M0 19H36L38 11L40 19H48L50 8L52 19H58L60 11L62 19H68L70 9L72 19H118'],
  ['plant', 'single plant', BARE, 'M0 19H54L59 4L64 19H118'],
  ['plant-brush', 'by hand', 'M0 19H58V14H98V19H118', 'M0 19H16L19 11L22 19H36L39 12L42 19H58V14H66L69 7L72 14H82L85 8L88 14H98V19H118'],
  ['seam', 'line', BARE, 'M0 19H14L18 10L22 19H34L38 11L42 19H54L58 9L62 19H74L78 11L82 19H94L98 10L102 19H118'],
  ASK,
];
const OF_HABITATS: readonly Shown[] = [
  SELECT,
  ['habitat', 'outline', BARE, 'M0 19H34V13H84V19H118'],
  ['habitat-paint', 'paint', BARE, 'M0 19H34C46 8 60 22 84 9V19H118'],
  ['plant', 'single plant', BARE, 'M0 19H54L59 4L64 19H118'],
  ['clear', 'clear', THICK, BARE],
  ASK,
];

const OF_COVER: readonly Shown[] = [SELECT, ASK, ['plant', 'single plant', BARE, 'M0 19H54L59 4L64 19H118']];
const TOOLS = { species: OF_SPECIES, habitats: OF_HABITATS, cover: OF_COVER };
const TITLES = {
  species: 'earlier ones take their place first',
  habitats: 'ordered rules, and where each set of them lies',
  cover: 'species that follow a surface, made round the eye',
};

/** Species, habitats with their rules, ground cover, and the tools that sow, clear and set single plants. */
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
  const habitat = habitatAtHand(session.level);
  const rule = habitat?.rules.find((r) => r.id === planting.rule);
  const chosen = species ? [species, ...list.filter((s) => s.id !== species.id && planting.also.includes(s.id))] : [];
  const lineOf = (species: readonly Species[]) => {
    dressWith(session, species);
    ui.setTool('seam');
  };
  const set: SetFields = (fields, what) =>
    session.commit(
      { kind: 'set', patches: chosen.map((s) => ({ id: s.id, set: typeof fields === 'function' ? fields(s) : fields })) },
      `${what} of ${chosen.length === 1 ? species.name : `${chosen.length} species`}`,
    );
  return (
    <>
      <div className="grid grid-cols-3 border-b" style={{ borderColor: 'var(--ink)' }}>
        {TOOLS[planting.listed].map(([tool, name, before, after]) => (
          <Profile
            key={tool}
            narrow
            name={name}
            before={before}
            after={after}
            active={ui.tool === tool}
            onPick={() => (tool === 'seam' ? lineOf(chosen) : ui.setTool(tool))}
          />
        ))}
      </div>
      <div className="min-h-0 shrink overflow-y-auto" style={{ maxHeight: planting.fit ? '24%' : '52%' }}>
        {(ui.tool === 'sow' || ui.tool === 'clear' || ui.tool === 'habitat-paint') && (
          <GroundBrushFields session={session}>
            {ui.tool === 'habitat-paint' ? null : ui.tool === 'sow' ? (
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
              <>
                <NumberField
                  label="leaves"
                  value={planting.leaves * 100}
                  unit="%"
                  min={0}
                  max={95}
                  step={10}
                  digits={0}
                  onCommit={(v) => usePlanting.setState({ leaves: v / 100 })}
                />
                <label className="flex items-center gap-1.5">
                  <input type="checkbox" checked={planting.clearAll} onChange={(e) => usePlanting.setState({ clearAll: e.target.checked })} />
                  all species
                </label>
                <NumberField
                  label="margin"
                  value={planting.margin}
                  unit="m"
                  min={0}
                  max={50}
                  step={0.5}
                  onCommit={(margin) => usePlanting.setState({ margin })}
                />
                <button
                  className="act"
                  style={{ minHeight: 24, padding: '0 6px' }}
                  disabled={things(session).length === 0}
                  title="clears so far about what is selected: pieces, blocks, markers"
                  onClick={() => clearMargin(session)}
                >
                  round selected
                </button>
              </>
            )}
          </GroundBrushFields>
        )}
        {ui.tool === 'plant-brush' && <HandBrushFields />}
        {ui.tool === 'seam' && (
          <div className="grid gap-1.5 border-b px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
            <SeamFields session={session} picked={false} />
          </div>
        )}
        {ui.tool === 'area' && <AreaFields session={session} species={species} view={view} />}
        {ui.selection.length > 0 && things(session).length > 0 && (
          <div className="grid gap-1.5 border-b px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
            <ThingFields session={session} list={things(session)} />
          </div>
        )}
        {ui.tool === 'plant' && (
          <p className="label m-0 px-3 py-2">
            Click sets a plant; drawn up or down as it is set it is as tall as that, aside it turns. A drag moves the one under the pointer and sets it by hand,
            Delete removes it. Rules leave these alone.
          </p>
        )}
        {(ui.tool === 'ask' || (ui.tool === 'plant' && planting.why)) && <WhyPanel why={planting.why} />}
        {planting.listed === 'species' && (
          <Library
            session={session}
            view={view}
            role="plant"
            onPick={(a) => {
              const species = growFrom(session, a);
              if (species) usePlanting.setState({ species });
            }}
          />
        )}
        {planting.listed === 'cover' ? (
          <CoverFields session={session} />
        ) : planting.listed === 'habitats' ? (
          <>
            <AddHabitat session={session} />
            {habitat && rule && <HabitatRuleFields session={session} habitat={habitat} rule={rule} />}
            {habitat && !rule && <HabitatFields session={session} habitat={habitat} />}
          </>
        ) : (
          species && <SpeciesFields session={session} species={species} chosen={chosen} set={set} />
        )}
      </div>
      {/* Beside its button, wherever the fields are scrolled to. */}
      <FitPanel session={session} view={view} />
      <div className="flex items-center justify-between border-t px-3 py-1" style={{ borderColor: 'var(--hair)' }}>
        <NumberField
          label="all species, at most"
          short="all, at most"
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
        <FitButton session={session} />
      </div>
      <div className="flex items-center justify-between gap-2 border-t px-3 py-1" style={{ borderColor: 'var(--hair)' }}>
        <Listed />
        {over > 0 ? <span className="label whitespace-nowrap">{`${over} kept out`}</span> : null}
      </div>
      {planting.listed === 'cover' ? (
        <CoverTable session={session} view={view} />
      ) : planting.listed === 'habitats' ? (
        <HabitatTable session={session} />
      ) : (
        <Table
          label="species"
          rows={list}
          empty="No species yet. Pick a plant in the library above: it starts with a rule of its own."
          header={
            <>
              <span className="label">earlier ones first</span>
              <span className="label ml-auto whitespace-nowrap" style={{ borderBottom: session.scene.plants.running ? '1px dashed' : undefined }}>
                {[...counts.values()].reduce((a, b) => a + b, 0)} plants
              </span>
            </>
          }
          row={(s) => (
            <Row
              selected={chosen.includes(s)}
              colour={s.out ? 'var(--edge)' : undefined}
              onClick={(e) => usePlanting.setState(pickedSpecies(list, species, planting.also, s, e))}
            >
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
                title="with its plants set by hand and what it covers"
                onClick={(e) => {
                  e.stopPropagation();
                  session.commit(
                    {
                      kind: 'remove',
                      ids: [s.id, ...[...ofKind(session.level, 'plant'), ...ofKind(session.level, 'cover')].filter((p) => p.species === s.id).map((p) => p.id)],
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
      )}
    </>
  );
}

/** What is picked after a click on a species: it alone, with Ctrl it besides or no more, with Shift all up to it. */
function pickedSpecies(
  list: readonly Species[],
  at: Species,
  also: readonly string[],
  clicked: Species,
  e: { ctrlKey: boolean; metaKey: boolean; shiftKey: boolean },
): { species: string; also: string[] } {
  if (e.shiftKey) {
    const [from, to] = [list.indexOf(at), list.indexOf(clicked)].sort((a, b) => a - b);
    return { species: at.id, also: list.slice(from, to + 1).map((s) => s.id) };
  }
  if (!e.ctrlKey && !e.metaKey) return { species: clicked.id, also: [] };
  if (clicked.id === at.id) return { species: also[0] ?? at.id, also: also.slice(1) };
  return { species: at.id, also: also.includes(clicked.id) ? also.filter((id) => id !== clicked.id) : [...also, clicked.id] };
}

/** What is listed below, and worked on above it. */
function Listed() {
  const { listed } = usePlanting();
  const { tool, setTool } = useUi();
  return (
    <span className="inline-flex gap-1.5" role="group" aria-label="what the table lists">
      {(['species', 'habitats', 'cover'] as const).map((name) => (
        <button
          key={name}
          className="act"
          style={{ padding: '0 6px', minHeight: 22 }}
          aria-pressed={listed === name}
          title={TITLES[name]}
          onClick={() => {
            usePlanting.setState({ listed: name });
            // A tool that the other list has not is put down.
            if (!TOOLS[name].some(([id]) => id === tool)) setTool('select');
          }}
        >
          {name}
        </button>
      ))}
    </span>
  );
}
