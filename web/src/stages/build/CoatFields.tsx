import { BARE } from '@rammer/core/coat/paint';
import { isMade } from '@rammer/core/level/instance';
import { ofKind } from '@rammer/core/level/level';
import type { Coat, CoatCondition, Piece } from '@rammer/core/level/objects';
import { Plus } from 'lucide-react';
import { useCoating } from '../../store/coating';
import { useDressing } from '../../store/dressing';
import { useKeyLabel } from '../../store/keys';
import type { Session } from '../../store/session';
import { coatCost, coatInHand, fillPieces, setCoat } from '../../tools/coats';
import { things } from '../../tools/things';
import { ColourField } from '../../ui/ColourField';
import { NumberField } from '../../ui/NumberField';
import { FOLLOW_FRAMES, useDrawnFrame } from '../../view/useFrame';
import type { LevelView } from '../../view/LevelView';
import { BandFields } from '../standing/BandFields';
import { HALF } from '../standing/RangeFields';
import { BEARINGS, COAT_CONDITION_KINDS, COAT_CONDITIONS, firstCoatCondition } from './coatConditions';

const SMALL = { minHeight: 24, padding: '1px 7px' };

/** A plain picture of a colour. */
const plain = (colour: string): string =>
  `data:image/svg+xml,${encodeURIComponent(`<svg xmlns="http://www.w3.org/2000/svg"><rect width="100%" height="100%" fill="${colour}"/></svg>`)}`;

/** The brush of coats, what the coat in hand is made of, and where its rule lays it. */
export function CoatFields({ session, view }: { session: Session; view?: LevelView }) {
  useCoating();
  const coat = coatInHand(session);
  if (!coat) return <p className="label m-0">Moss, dirt, snow, wear: add a coat below. It lies on pieces by its rule, and where it is painted.</p>;
  return (
    <>
      <BrushOfCoats session={session} view={view} coat={coat} />
      <CoatLook session={session} coat={coat} />
      <CoatRule session={session} coat={coat} />
    </>
  );
}

function BrushOfCoats({ session, view, coat }: { session: Session; view?: LevelView; coat: Coat }) {
  const { strength, away } = useCoating();
  const { radius } = useDressing();
  const key = useKeyLabel();
  const pieces = things(session).filter((t): t is Piece => t.kind === 'piece');
  const fill = (value: number) => fillPieces(session, pieces, coat, value);
  return (
    <>
      <div className="flex items-end gap-2">
        <NumberField
          label="radius"
          className={HALF}
          fill
          value={Math.min(10, radius)}
          unit="m"
          min={0.25}
          max={10}
          step={0.25}
          onCommit={(v) => useDressing.setState({ radius: v })}
        />
        <NumberField
          label="strength"
          className={HALF}
          fill
          value={strength * 100}
          unit="%"
          min={1}
          max={100}
          step={5}
          digits={0}
          onCommit={(v) => useCoating.setState({ strength: v / 100 })}
        />
        <button
          className="act"
          style={SMALL}
          aria-pressed={away}
          title="Shift does the other for one stroke"
          onClick={() => useCoating.setState({ away: !away })}
        >
          {away ? 'takes away' : 'lays'}
        </button>
      </div>
      {pieces.length > 0 && (
        <div className="flex flex-wrap items-center gap-1">
          <span className="label">{pieces.length === 1 ? pieces[0].name : `${pieces.length} pieces`}:</span>
          <button className="act" style={SMALL} onClick={() => fill(255)}>
            cover
          </button>
          <button className="act" style={SMALL} onClick={() => fill(1)}>
            bare
          </button>
          <button className="act" style={SMALL} title="takes the paint away" onClick={() => fill(BARE)}>
            by rule
          </button>
        </div>
      )}
      <p className="label m-0">
        Shift takes away; {key('BracketLeft')} {key('BracketRight')} the radius.
      </p>
      {view && <Cost session={session} view={view} />}
    </>
  );
}

/** What all coats cost from here. */
function Cost({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view, FOLLOW_FRAMES);
  const { ms, bytes } = coatCost(session, view);
  return (
    <p className="m-0" data-testid="coat-cost">
      <span className="label">all coats from here</span> <span className="fig">{ms.toFixed(2)} ms</span> <span className="label">of GPU,</span>{' '}
      <span className="fig">{(bytes / 1e6).toFixed(1)} MB</span>
    </p>
  );
}

const PARTS = [
  ['roughness', 'rough'],
  ['metalness', 'metal'],
  ['levels', 'levels'],
  ['varied', 'varied'],
] as const;

function CoatLook({ session, coat }: { session: Session; coat: Coat }) {
  const surfaces = ofKind(session.level, 'surface');
  const look = coat.ground ? 'ground' : (coat.surface ?? '');
  return (
    <div className="grid grid-cols-1 gap-1 border-t pt-1" style={{ borderColor: 'var(--hair)' }}>
      <div className="flex items-center gap-2">
        <select
          className="textf h-6 min-w-0 flex-1 px-1"
          aria-label="what the coat looks like"
          value={look}
          onChange={(e) => {
            const to = e.target.value;
            setCoat(
              session,
              coat,
              { ground: to === 'ground' ? true : null, surface: to === '' || to === 'ground' ? null : to },
              `${coat.name} looks like ${e.target.selectedOptions[0].text}`,
            );
          }}
        >
          <option value="">its colour</option>
          <option value="ground">the ground under it</option>
          {coat.surface && !surfaces.some((s) => s.id === coat.surface) && <option value={coat.surface}>a surface that is gone</option>}
          {surfaces.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}, in its colour
            </option>
          ))}
        </select>
        <ColourField
          label="colour of the coat"
          hideLabel
          value={coat.colour}
          disabled={coat.ground}
          onCommit={(colour) => setCoat(session, coat, { colour }, `colour of ${coat.name}`)}
        />
      </div>
      <div className="flex gap-2">
        {PARTS.map(([field, label]) => (
          <NumberField
            key={field}
            label={label}
            className={HALF}
            fill
            value={coat[field] * 100}
            min={0}
            max={100}
            step={5}
            digits={0}
            onCommit={(v) => setCoat(session, coat, { [field]: v / 100 }, `${label} of ${coat.name}`)}
          />
        ))}
      </div>
    </div>
  );
}

function CoatRule({ session, coat }: { session: Session; coat: Coat }) {
  const put = (where: CoatCondition[]) => setCoat(session, coat, { where }, `condition of ${coat.name}`);
  const left = COAT_CONDITION_KINDS.filter((by) => !coat.where.some((c) => c.by === by));
  const selected = [...new Set(things(session).flatMap((t) => (t.kind === 'piece' && !isMade(t.asset) ? t.asset : [])))];
  const above = plain(coat.colour);
  const below = plain('#8d9196');
  return (
    <div className="grid grid-cols-1 gap-1 border-t pt-1" style={{ borderColor: 'var(--hair)' }}>
      <div className="flex flex-wrap items-center gap-2">
        <NumberField
          label="by rule"
          value={coat.share * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          digits={0}
          onCommit={(v) => setCoat(session, coat, { share: v / 100 }, `share of ${coat.name}`)}
        />
        <span className="label ml-auto whitespace-nowrap">
          {coat.assets === undefined ? 'on every piece' : `on ${coat.assets.length === 1 ? 'one mesh' : `${coat.assets.length} meshes`}`}
        </span>
        {selected.length > 0 && (
          <button
            className="act"
            style={SMALL}
            title="by its rule it lies on every piece of the selected meshes, and on no others"
            onClick={() => setCoat(session, coat, { assets: selected }, `${coat.name} on the selected`)}
          >
            selected alone
          </button>
        )}
        {coat.assets !== undefined && (
          <button className="act" style={SMALL} onClick={() => setCoat(session, coat, { assets: null }, `${coat.name} on every piece`)}>
            every piece
          </button>
        )}
      </div>
      {coat.where.map((c, i) => (
        <BandFields
          key={c.by}
          by={c.by}
          kinds={COAT_CONDITION_KINDS.map((by) => ({ by, name: COAT_CONDITIONS[by].name, off: by !== c.by && !left.includes(by) }))}
          of={{ ...COAT_CONDITIONS[c.by], band: c.band, soft: c.soft }}
          above={above}
          below={below}
          onKind={(by) => put(coat.where.map((o, k) => (k === i ? firstCoatCondition(by) : o)))}
          onSet={(fields) => put(coat.where.map((o, k) => (k === i ? { ...c, ...fields } : o)))}
          onRemove={() => put(coat.where.filter((_, k) => k !== i))}
        >
          {c.by === 'side' && (
            <select
              className="textf h-6 min-w-0 px-1"
              aria-label="bearing it looks to"
              value={Math.round(c.towards / 45) % 8}
              onChange={(e) => put(coat.where.map((o, k) => (k === i ? { ...c, towards: Number(e.target.value) * 45 } : o)))}
            >
              {BEARINGS.map((b, k) => (
                <option key={b} value={k}>
                  {b}
                </option>
              ))}
            </select>
          )}
          {c.by === 'noise' && (
            <>
              <NumberField
                label="size"
                value={c.scale}
                unit="m"
                min={0.05}
                max={1000}
                step={0.1}
                onCommit={(scale) => put(coat.where.map((o, k) => (k === i ? { ...c, scale } : o)))}
              />
              <button
                className="act"
                style={SMALL}
                title="other patches"
                onClick={() => put(coat.where.map((o, k) => (k === i ? { ...c, seed: (c.seed + 1) % 2_147_483_647 } : o)))}
              >
                seed <span className="fig">{c.seed}</span>
              </button>
            </>
          )}
        </BandFields>
      ))}
      <div className="flex items-center justify-between">
        <span className="label">{coat.where.length === 0 ? 'everywhere on it' : coat.where.length === 1 ? '' : 'all of them must hold'}</span>
        <button
          className="act plain"
          style={{ padding: '0 4px', minHeight: 22 }}
          disabled={left.length === 0}
          onClick={() => put([...coat.where, firstCoatCondition(left[0])])}
        >
          <Plus size={13} />
          condition
        </button>
      </div>
    </div>
  );
}
