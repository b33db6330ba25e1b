import { RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { isMade, memberOf, ownerOf } from '@rammer/core/level/instance';
import { ofKind, speciesOf } from '@rammer/core/level/level';
import type { CopyObject, LaidLine, Piece, PlantObject } from '@rammer/core/level/objects';
import { variantOf } from '@rammer/core/kit/otherParts';
import { isMaker } from '@rammer/core/level/present';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import { nextVariant, partIn, toKit } from '../../tools/kitSwap';
import { kitsOf } from '../../tools/laidLines';
import { masterOf, putBack } from '../../tools/overrides';
import { setThings, takeOutThings, things, type Thing } from '../../tools/things';
import { Arrange } from './Arrange';
import { CopyFields } from './CopyFields';
import { LaidAs, LaidLineFields } from './LaidLineFields';
import { GroupField, PlaceFields, ScaleFields, ThingButtons, TurnFields } from './PoseFields';

/** Numbers that all selected things share, whatever they are: place, turn, tilt, size, group. */
export function ThingFields({ session, list }: { session: Session; list: readonly Thing[] }) {
  const copies = list.filter((t): t is CopyObject => t.kind === 'copy' && !isMade(t.id));
  if (copies.length === list.length) return <CopyFields session={session} copies={copies} />;
  const lines = list.filter((t): t is LaidLine => t.kind === 'laidLine' && !isMade(t.id));
  if (lines.length === list.length) return <LaidLineFields session={session} lines={lines} />;
  if (list.every((t) => isMade(t.id))) return <MemberFields session={session} list={list} />;
  return <OwnFields session={session} list={list} />;
}

function OwnFields({ session, list }: { session: Session; list: readonly Thing[] }) {
  const [arranging, setArranging] = useState(false);
  const kinds = new Set(list.map((t) => t.kind)).size;
  const panel = (name: string, on: boolean) => (
    <button className="act fig" style={{ padding: '1px 4px', minHeight: 24 }} aria-pressed={arranging === on} onClick={() => setArranging(on)}>
      {name}
    </button>
  );
  const head = (
    <div className="flex items-center justify-between gap-2">
      <b className="min-w-0 flex-1 truncate font-medium">
        {list.length === 1 ? list[0].name : `${list.length} selected, ${kinds} kind${kinds > 1 ? 's' : ''}`}
      </b>
      <div className="seg" role="group" aria-label="of the selection">
        {panel('numbers', false)}
        {panel('arrange', true)}
      </div>
    </div>
  );
  if (arranging)
    return (
      <>
        {head}
        <Arrange session={session} list={list} />
      </>
    );
  return (
    <>
      {head}
      <PlaceFields session={session} list={list} />
      <TurnFields session={session} list={list} />
      <ScaleFields session={session} list={list} />
      <SwapFields session={session} list={list} />
      <PartFields session={session} pieces={list.filter((t): t is Piece => t.kind === 'piece')} />
      <div className="flex items-end gap-1">
        <GroupField session={session} list={list} />
        <ThingButtons session={session} list={list} />
      </div>
    </>
  );
}

/** What stands in a copy: what is set here is its own there, laid on what the master is. */
function MemberFields({ session, list }: { session: Session; list: readonly Thing[] }) {
  const [first] = list;
  const around = session.level.object(ownerOf(first.id));
  const laid = around?.kind === 'laidLine';
  const own = list.filter((t) => {
    const of = session.level.object(ownerOf(t.id));
    return isMaker(of) && of.overrides?.some((o) => o.member === memberOf(t.id));
  });
  const master = masterOf(session, first.id)?.master;
  return (
    <>
      <b className="min-h-[18px] truncate font-medium">
        {list.length === 1 ? `${master?.name ?? first.name}, in ${around?.name ?? 'a copy'}` : `${list.length} ${laid ? 'laid pieces' : 'members of copies'}`}
      </b>
      <PlaceFields session={session} list={list} />
      <TurnFields session={session} list={list} />
      <ScaleFields session={session} list={list} />
      <SwapFields session={session} list={list} />
      <PartFields session={session} pieces={list.filter((t): t is Piece => t.kind === 'piece')} />
      {laid && <LaidAs session={session} list={list} />}
      <div className="flex flex-wrap items-center gap-1">
        <button
          className="act"
          disabled={own.length === 0}
          title="take away what it has of its own here"
          onClick={() => own.forEach((t) => putBackOne(session, t))}
        >
          <RotateCcw size={14} />
          {laid ? 'as laid' : 'as the master'}
        </button>
        <button className="act" title={laid ? 'take it out of the line' : 'take it out of this copy'} onClick={() => takeOutThings(session, list)}>
          take out
        </button>
        <button className="act" onClick={() => useUi.getState().select([ownerOf(first.id)])}>
          {laid ? 'the line' : 'the copy'}
        </button>
        {master && list.length === 1 && !laid && (
          <button className="act" onClick={() => useUi.getState().select([master.id])}>
            the master
          </button>
        )}
      </div>
    </>
  );
}

function putBackOne(session: Session, t: Thing): void {
  const copy = session.level.object(ownerOf(t.id));
  if (isMaker(copy)) putBack(session, [copy], memberOf(t.id));
}

/** Parts of kits: the same of another kit, or the next variant of each. */
function PartFields({ session, pieces }: { session: Session; pieces: readonly Piece[] }) {
  const kits = kitsOf(session);
  const parts = new Map(pieces.map((p) => [p.id, partIn(kits, p.asset)]));
  if (pieces.length === 0 || [...parts.values()].some((p) => !p)) return null;
  const kit = parts.get(pieces[0].id)!.kit;
  const one = pieces.every((p) => parts.get(p.id)!.kit === kit);
  const varied = pieces.some((p) => variantOf(parts.get(p.id)!.part, parts.get(p.id)!.kit));
  if (kits.length < 2 && !varied) return null;
  return (
    <div className="flex items-end gap-2">
      {kits.length > 1 && (
        <label className="flex min-w-0 flex-1 items-center gap-2">
          <span className="label">of kit</span>
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="of kit"
            value={one ? kit.id : ''}
            onChange={(e) => toKit(session, pieces, e.target.value)}
          >
            {!one && <option value="">several</option>}
            {kits.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {varied && (
        <button className="act" title="the next part of the kit that is as long and does the same" onClick={() => nextVariant(session, pieces)}>
          next variant
        </button>
      )}
    </div>
  );
}

/** What stands there instead, where all selected are of one kind, and the colour it is seen in. */
function SwapFields({ session, list }: { session: Session; list: readonly Thing[] }) {
  const pieces = list.filter((t): t is Piece => t.kind === 'piece');
  const plants = list.filter((t): t is PlantObject => t.kind === 'plant');
  const choices =
    pieces.length === list.length
      ? ofKind(session.level, 'asset').filter((a) => a.role !== 'plant' && a.role !== 'reference')
      : plants.length === list.length
        ? speciesOf(session.level)
        : [];
  if (choices.length === 0) return null;
  const field = pieces.length > 0 ? 'asset' : 'species';
  const values = new Set(list.map((t) => (t as unknown as Record<string, string>)[field]));
  const value = values.size === 1 ? [...values][0] : '';
  const tint = pieces.length > 0 && pieces.every((p) => p.tint === pieces[0].tint) ? pieces[0].tint : undefined;
  return (
    <div className="flex items-end gap-2">
      <label className="grid min-w-0 flex-1 gap-0.5">
        <span className="label">{field === 'asset' ? 'piece' : 'species'}</span>
        <select className="textf h-6 w-full px-1" value={value} onChange={(e) => setThings(session, list, () => ({ [field]: e.target.value }), 'swap')}>
          {value === '' && <option value="">several</option>}
          {choices.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
      </label>
      {pieces.length > 0 && (
        <label className="grid gap-0.5">
          <span className="label">tint</span>
          <span className="flex gap-1">
            <input
              type="color"
              className="h-6 w-9"
              aria-label="tint"
              value={tint ?? '#ffffff'}
              onChange={(e) => setThings(session, list, () => ({ tint: e.target.value === '#ffffff' ? null : e.target.value }), 'tint')}
            />
          </span>
        </label>
      )}
    </div>
  );
}

/** Fields of the selection where a stage has none of its own for it; nothing where nothing is selected. */
export function SelectionFields({ session }: { session: Session }) {
  useUi((s) => s.selection);
  const list = things(session);
  return list.length > 0 ? <ThingFields session={session} list={list} /> : null;
}
