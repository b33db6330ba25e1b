import { isMade } from '@rammer/core/level/instance';
import type { Piece } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { usePlanting } from '../../store/planting';
import { useUi, type ToolId } from '../../store/ui';
import { useDressing } from '../../store/dressing';
import { assetHere } from '../../tools/libraryAssets';
import { things } from '../../tools/things';
import { StandingTable } from '../standing/StandingTable';
import { ThingFields } from '../standing/ThingFields';
import type { Entry } from '../assets/entries';
import { Library } from '../assets/Library';
import { CoatFields } from './CoatFields';
import { CoatTable } from './CoatTable';
import { DressFields } from './DressFields';
import { LayFields } from './LayFields';
import { OpeningFields } from './OpeningFields';
import { PieceFields } from './PieceFields';
import { SeamFields } from './SeamFields';
import { ShadeFields } from './ShadeFields';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import type { LevelView } from '../../view/LevelView';
import { useKeyLabel } from '../../store/keys';

/** Tools whose fields have their own lists: the library would only take the room. */
const LAYING: ReadonlySet<string> = new Set(['lay', 'opening', 'seam', 'round', 'coat']);
/** The tools by their names, with the ground before them and after. */
const TOOLS: readonly (readonly [name: string, tool: ToolId, before: string, after: string])[] = [
  ['select', 'select', 'M0 19H118', 'M0 19H40V7H78V19H118'],
  ['place', 'piece', 'M0 19H42V6H74V19H118', 'M0 19H42V6H74V4H90V19H118'],
  ['brush', 'dress', 'M0 19H118', 'M0 19H30L33 13L38 12L41 19H54L59 8L66 9L69 19H78L81 14L86 13L88 19H118'],
  ['throw', 'throw', 'M0 19H118', 'M0 19H32L38 10L46 13L43 19H52V9H62V19H68L75 7L83 14L79 19H118'],
  ['lay', 'lay', 'M0 19H118', 'M0 19H30V6H48V19H49V6H67V19H68V6H88V19H118'],
  ['opening', 'opening', 'M0 19H32V5H86V19H118', 'M0 19H32V5H51V19H67V5H86V19H118'],
  ['seam', 'seam', 'M0 19H60V4H118', 'M0 19H34L38 14L44 13L47 19H50L54 11L60 12V4H118'],
  ['round', 'round', 'M0 19H48V5H70V19H118', 'M0 19H32L36 14L42 13L48 16V5H70V16L76 13L82 14L86 19H118'],
  ['coat', 'coat', 'M0 19H30L44 6H88V19H118', 'M0 19H30L44 6H88V19H118M27 16L41 3L52 4L61 2L72 4L80 2L91 3V10'],
];
const LISTED = ['piece', 'copy', 'laidLine'] as const;

/** Puts a mesh of the library into the brush of pieces, or takes it out of it. */
function toBrush(session: Session, entry: Entry): void {
  const object = assetHere(session, entry);
  if (!object) return;
  const { of, set } = useDressing.getState();
  const without = of.list.filter((l) => l.asset !== object.id);
  set({ list: without.length < of.list.length ? without : [...without, { asset: object.id, weight: 1 }] });
}

/** The kit's library, the fields of what is placed or selected, and the pieces of the level. */
export function BuildBench({ session, view }: { session: Session; view?: LevelView }) {
  const key = useKeyLabel();
  useSession(session);
  const ui = useUi();
  const planting = usePlanting();
  const list = things(session);
  const selected = list.filter((t): t is Piece => t.kind === 'piece' && !isMade(t.id));
  const laying = LAYING.has(ui.tool) || (ui.tool === 'select' && list.length > 0 && list.every((t) => t.kind === 'laidLine'));
  const authored = selected.length > 0 && selected.length === list.length && selected.every((p) => session.scene.placed.assets.get(p.asset)?.materials);
  return (
    <>
      <div className="grid grid-cols-3 border-b" style={{ borderColor: 'var(--ink)' }}>
        {TOOLS.map(([name, tool, before, after]) => (
          <Profile key={tool} name={name} narrow before={before} after={after} active={ui.tool === tool} onPick={() => ui.setTool(tool)} />
        ))}
      </div>
      {!laying && (
        <Library
          session={session}
          view={view}
          role="piece"
          chosen={planting.kitAsset}
          onPick={(a) => {
            if (ui.tool === 'dress' || ui.tool === 'throw') {
              toBrush(session, a);
              return;
            }
            usePlanting.setState({ kitAsset: a.hash });
            ui.setTool('piece');
          }}
        />
      )}
      <div
        className={`flex shrink-0 flex-col gap-1.5 overflow-y-auto border-t px-3 py-2 ${laying ? 'max-h-[430px]' : 'max-h-[330px]'}`}
        style={{ borderColor: 'var(--hair)' }}
      >
        {ui.tool === 'dress' || ui.tool === 'throw' ? (
          <DressFields session={session} thrown={ui.tool === 'throw'} />
        ) : ui.tool === 'lay' ? (
          <LayFields session={session} />
        ) : ui.tool === 'opening' ? (
          <OpeningFields />
        ) : ui.tool === 'coat' ? (
          <CoatFields session={session} view={view} />
        ) : ui.tool === 'seam' || ui.tool === 'round' ? (
          <SeamFields session={session} picked={ui.tool === 'round'} />
        ) : list.length === 0 || ui.tool === 'piece' ? (
          <>
            <div className="grid grid-cols-2 gap-x-3">
              <NumberField
                label="turn"
                value={planting.pieceTurn}
                unit="°"
                min={-180}
                max={180}
                step={90}
                digits={0}
                onCommit={(pieceTurn) => usePlanting.setState({ pieceTurn })}
              />
              <NumberField
                label="sink"
                value={planting.pieceSink}
                unit="m"
                min={-5}
                max={5}
                step={0.05}
                onCommit={(pieceSink) => usePlanting.setState({ pieceSink })}
              />
            </div>
            <p className="label m-0">
              Parts of a kit lock join to join, others take a 2 m grid; all stand on what is pointed at. {key('KeyQ')} and {key('KeyE')} turn, Shift leaves
              joins and grid.
            </p>
          </>
        ) : (
          <>
            <ThingFields session={session} list={list} />
            {authored && <ShadeFields session={session} pieces={selected} />}
            {selected.length === list.length && <PieceFields session={session} view={view} pieces={selected} />}
          </>
        )}
      </div>
      {ui.tool === 'coat' ? (
        <CoatTable session={session} />
      ) : (
        <StandingTable session={session} label="pieces" kinds={LISTED} empty="No pieces yet. Pick one in the library above, then click where it stands." />
      )}
    </>
  );
}
