import { isMade } from '@rammer/core/level/instance';
import { COLLIDER_NAMES } from '@rammer/core/level/fields';
import type { Piece } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { usePlanting } from '../../store/planting';
import { useUi } from '../../store/ui';
import { useDressing } from '../../store/dressing';
import { assetHere } from '../../tools/libraryAssets';
import { swapBack } from '../../tools/castBlocks';
import { mm, setThings, things } from '../../tools/things';
import { settle } from '../../tools/throwing';
import { StandingTable } from '../standing/StandingTable';
import { ThingFields } from '../standing/ThingFields';
import type { Entry } from '../assets/entries';
import { Library } from '../assets/Library';
import { DressFields } from './DressFields';
import { LayFields } from './LayFields';
import { OpeningFields } from './OpeningFields';
import { ShadeFields } from './ShadeFields';
import { NumberField } from '../../ui/NumberField';
import { Profile } from '../../ui/Profile';
import type { LevelView } from '../../view/LevelView';
import { useKeyLabel } from '../../store/keys';

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
  const falling = useDressing((s) => s.falling !== undefined);
  const selected = list.filter((t): t is Piece => t.kind === 'piece' && !isMade(t.id));
  const set = (fields: (p: Piece) => Partial<Piece>, verb: string) => setThings(session, selected, (t) => fields(t as Piece), verb);
  // What is laid is laid from its kit: the library would only take the room.
  const laying = ui.tool === 'lay' || ui.tool === 'opening' || (ui.tool === 'select' && list.length > 0 && list.every((t) => t.kind === 'laidLine'));
  const authored = selected.length > 0 && selected.length === list.length && selected.every((p) => session.scene.placed.assets.get(p.asset)?.materials);
  const one = <K extends keyof Piece>(key: K): { value: Piece[K]; mixed?: string } => ({
    value: selected[0][key],
    ...(selected.every((p) => p[key] === selected[0][key]) ? {} : { mixed: 'mixed' }),
  });
  return (
    <>
      <div className="grid grid-cols-2 border-b" style={{ borderColor: 'var(--ink)' }}>
        <Profile name="select" before="M0 19H118" after="M0 19H40V7H78V19H118" active={ui.tool === 'select'} onPick={() => ui.setTool('select')} />
        <Profile name="place" before="M0 19H30V6H62V19H118" after="M0 19H30V6H62V4H92V19H118" active={ui.tool === 'piece'} onPick={() => ui.setTool('piece')} />
        <Profile
          name="brush"
          before="M0 19H118"
          after="M0 19H14L18 13L24 12L28 19H46L52 8L60 9L64 19H82L85 15L91 14L94 19H118"
          active={ui.tool === 'dress'}
          onPick={() => ui.setTool('dress')}
        />
        <Profile
          name="throw"
          before="M0 19H118"
          after="M0 19H30L36 10L44 13L41 19H50V9H60V19H66L74 7L82 14L78 19H118"
          active={ui.tool === 'throw'}
          onPick={() => ui.setTool('throw')}
        />
        <Profile name="lay" before="M0 19H118" after="M0 19H12V5H36V19H37V5H61V19H62V5H86V19H118" active={ui.tool === 'lay'} onPick={() => ui.setTool('lay')} />
        <Profile
          name="opening"
          before="M0 19H14V5H104V19H118"
          after="M0 19H14V5H50V19H68V5H104V19H118"
          active={ui.tool === 'opening'}
          onPick={() => ui.setTool('opening')}
        />
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
      <div className="flex max-h-[330px] shrink-0 flex-col gap-1.5 overflow-y-auto border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }}>
        {ui.tool === 'dress' || ui.tool === 'throw' ? (
          <DressFields session={session} thrown={ui.tool === 'throw'} />
        ) : ui.tool === 'lay' ? (
          <LayFields session={session} />
        ) : ui.tool === 'opening' ? (
          <OpeningFields />
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
            {selected.length === list.length && (
              <div className="flex items-end gap-2">
                <NumberField
                  label="sink"
                  className="grid min-w-0 gap-0.5"
                  {...one('sink')}
                  unit="m"
                  min={-5}
                  max={5}
                  step={0.05}
                  onCommit={(sink) => set((p) => ({ sink, at: [p.at[0], mm(p.at[1] + p.sink - sink), p.at[2]] }), 'sink')}
                />
                <label className="grid min-w-0 flex-1 gap-0.5">
                  <span className="label">collider</span>
                  <select
                    className="textf h-6 w-full px-1"
                    value={one('collider').mixed ? '' : one('collider').value}
                    onChange={(e) => set(() => ({ collider: e.target.value as Piece['collider'] }), 'collider of')}
                  >
                    {one('collider').mixed && <option value="">mixed</option>}
                    <option value="asset">{`asset: ${session.scene.placed.assets.get(selected[0].asset)?.collider ?? '?'}`}</option>
                    {COLLIDER_NAMES.map((c) => (
                      <option key={c}>{c}</option>
                    ))}
                  </select>
                </label>
                {view && (
                  <button
                    className="act"
                    title="let them fall and find their hold, by their colliders"
                    disabled={falling}
                    onClick={() => void settle({ session, view }, selected)}
                  >
                    settle
                  </button>
                )}
                {selected.some((p) => p.standsFor) && (
                  <button className="act" title="put the blocks back that it stands for" onClick={() => swapBack(session, selected)}>
                    swap back
                  </button>
                )}
              </div>
            )}
          </>
        )}
      </div>
      <StandingTable session={session} label="pieces" kinds={LISTED} empty="No pieces yet. Pick one in the library above, then click where it stands." />
    </>
  );
}
