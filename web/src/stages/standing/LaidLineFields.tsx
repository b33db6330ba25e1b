import { Shuffle } from 'lucide-react';
import { memberOf, ownerOf } from '@rammer/core/level/instance';
import type { LaidLine } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import { useLaying, type LaidAs as Laying } from '../../store/laying';
import type { Session } from '../../store/session';
import { useUi } from '../../store/ui';
import { detachCopies } from '../../tools/assemblies';
import { dropLines, groundMoved, laidUse, onGround, placesOf, setLines, setOpening, squareLines } from '../../tools/laidLines';
import { putBack } from '../../tools/overrides';
import type { Thing } from '../../tools/things';
import { LineDressFields } from './LineDressFields';
import { KitField, LineOptions } from './LineOptions';
import { GroupField, PlaceFields, ThingButtons } from './PoseFields';

const SMALL = { padding: '1px 6px', minHeight: 24 };

/** Selected lines: what they are laid from and how, what is left over, and what of their pieces was changed by hand. */
export function LaidLineFields({ session, lines }: { session: Session; lines: LaidLine[] }) {
  const [first] = lines;
  const kit = first.kit === undefined ? undefined : session.level.object(first.kit);
  const { dress } = first;
  const present = presentOf(session.level.objects);
  const laid = lines.flatMap((l) => present.laidOf(l.id) ?? []);
  const count = laid.reduce((n, l) => n + l.pieces.size, 0);
  const left = laid.flatMap((l) => l.stretches.map((s) => s.left)).filter((v) => v > 1e-3);
  const faults = [...new Set(laid.flatMap((l) => l.faults))];
  const own = lines.filter((l) => l.overrides?.length);
  const moved = lines.length <= 20 && lines.some((l) => groundMoved(session, l));
  const set = (fields: Partial<Laying>, what: string) =>
    setLines(session, lines, () => Object.fromEntries(Object.entries(fields).map(([k, v]) => [k, v === undefined || v === false ? null : v])), what);
  return (
    <>
      <div className="flex items-baseline gap-2">
        <b className="min-w-0 flex-1 truncate font-medium">{lines.length === 1 ? first.name : `${lines.length} laid lines`}</b>
        <span className="label fig whitespace-nowrap" data-testid="laid-count">
          {dress ? `${count} along it` : `${count} pieces`}
          {left.length > 0
            ? `, ${left
                .map((v) => v.toFixed(2))
                .slice(0, 3)
                .join(' + ')} m left`
            : ''}
        </span>
      </div>
      {faults.map((f) => (
        <p key={f} className="m-0 text-[12px]" style={{ color: 'var(--ochre-text)' }}>
          {f}
        </p>
      ))}
      {!dress && (
        <div className="flex items-end gap-2">
          <KitField
            session={session}
            value={first.kit !== undefined && lines.every((l) => l.kit === first.kit) ? first.kit : ''}
            onPick={(id) =>
              setLines(
                session,
                lines.filter((l) => !l.dress),
                () => ({ kit: id }),
                'kit of',
              )
            }
          />
          {kit && (
            <button
              className="act"
              style={SMALL}
              title="parts of the kit, what they are laid as, and their joins"
              onClick={() => useLaying.setState({ sheet: kit.id })}
            >
              parts
            </button>
          )}
        </div>
      )}
      <div className="flex flex-wrap gap-1">
        <button
          className="act"
          style={SMALL}
          title="other variants: another seed"
          onClick={() => setLines(session, lines, (l) => ({ seed: (l.seed * 48271 + 11) % 2147483647 }), 'shuffle')}
        >
          <Shuffle size={14} />
          shuffle
        </button>
        {lines.length === 1 && lines[0].corners.length > 2 && (
          <button
            className="act"
            style={SMALL}
            aria-pressed={first.closed === true}
            title="leads from the last corner back to the first"
            onClick={() =>
              setLines(session, lines, (l) => ({ closed: l.closed ? null : true, corners: onGround(session, { ...l, closed: !l.closed }).corners }), 'close')
            }
          >
            closed
          </button>
        )}
        {dress && (
          <button
            className="act"
            style={SMALL}
            aria-pressed={first.curved === true}
            title="bends smoothly through its corners"
            onClick={() => set({ curved: !first.curved }, 'curve')}
          >
            curved
          </button>
        )}
        {lines.some((l) => l.corners.length > 2 && !l.curved) && (
          <button className="act" style={SMALL} title="right angles: each stretch along the first or across it" onClick={() => squareLines(session, lines)}>
            square
          </button>
        )}
      </div>
      {kit?.kind === 'kit' && <LineOptions kit={kit} value={first} onSet={set} />}
      {dress && (
        <LineDressFields
          session={session}
          value={dress}
          at={placesOf(first)[0]}
          onSet={(next, what) =>
            setLines(
              session,
              lines.filter((l) => l.dress),
              (l) => ({ dress: next, corners: onGround(session, { ...l, dress: next }).corners }),
              what,
            )
          }
        />
      )}
      <PlaceFields session={session} list={lines} />
      <div className="flex items-end gap-1">
        <GroupField session={session} list={lines} />
        <ThingButtons session={session} list={lines} />
      </div>
      <div className="flex flex-wrap gap-1">
        <button
          className="act"
          style={SMALL}
          aria-pressed={moved}
          title={moved ? 'the ground is another than it was laid on' : 'onto the ground as it is now'}
          onClick={() => dropLines(session, lines)}
        >
          {moved ? 'ground moved: drop' : 'drop'}
        </button>
        <button
          className="act"
          style={SMALL}
          title="make its pieces things of their own: they follow the line no more"
          onClick={() => detachCopies(session, lines)}
        >
          detach
        </button>
        <button
          className="act"
          style={SMALL}
          disabled={own.length === 0}
          title="take away what was changed by hand on its pieces"
          onClick={() => putBack(session, own)}
        >
          {own.length > 0 ? `${own.reduce((n, l) => n + l.overrides!.length, 0)} by hand: as laid` : 'as laid'}
        </button>
      </div>
    </>
  );
}

/** What laid pieces are: walls can be made openings, and openings walls. */
export function LaidAs({ session, list }: { session: Session; list: readonly Thing[] }) {
  const uses = list.map((t) => laidUse(session, t.id));
  const line = session.level.object(ownerOf(list[0].id));
  const kit = line?.kind === 'laidLine' && line.kit !== undefined ? session.level.object(line.kit) : undefined;
  if (uses.some((u) => u === undefined) || kit?.kind !== 'kit') return null;
  const same = uses.every((u) => u === uses[0]) ? uses[0]! : '';
  const choices = ['wall', 'door', 'window'].filter((u) => kit.parts.some((p) => p.use === u));
  return (
    <label className="flex items-center gap-2">
      <span className="label whitespace-nowrap">laid as</span>
      <select
        className="textf h-6 min-w-0 flex-1 px-1"
        aria-label="laid as"
        value={same}
        onChange={(e) => {
          const slots = list.map((t) => memberOf(t.id));
          const done = setOpening(
            session,
            list.map((t) => t.id),
            e.target.value as 'wall',
          );
          if (done) useUi.getState().select(slots.map((s) => `${line!.id}~${s}`));
        }}
      >
        {same === '' && <option value="">several</option>}
        {choices.map((c) => (
          <option key={c}>{c}</option>
        ))}
      </select>
    </label>
  );
}
