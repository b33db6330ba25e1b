import { allCoats } from '@rammer/core/coat/coats';
import { COAT_RECIPES } from '@rammer/core/coat/recipes';
import { MOST_COATS } from '@rammer/core/level/objects';
import { ArrowDown, ArrowUp, Eye, EyeOff, Trash2 } from 'lucide-react';
import { useCoating } from '../../store/coating';
import type { Session } from '../../store/session';
import { renameObject } from '../../tools/blockActions';
import { addCoat, coatInHand, placeCoat, removeCoat, setCoat } from '../../tools/coats';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';
import { coatConditionWords } from './coatConditions';

/** The coats of the level, the top one laid last. */
export function CoatTable({ session }: { session: Session }) {
  useCoating();
  const up = allCoats(session.level);
  const chosen = coatInHand(session);
  const place = chosen ? up.findIndex((c) => c.id === chosen.id) : -1;
  return (
    <Table
      label="coats"
      rows={[...up].reverse()}
      empty="No coats yet. Add one: it lies on pieces by its rule, and where it is painted."
      header={
        <>
          <select
            className="textf h-6 min-w-0 px-1"
            aria-label="add a coat"
            value=""
            onChange={(e) => {
              addCoat(session, e.target.value);
              e.target.value = '';
            }}
          >
            <option value="" disabled>
              add a coat
            </option>
            {COAT_RECIPES.map((r) => (
              <option key={r.name} value={r.name}>
                {r.name}
              </option>
            ))}
          </select>
          {chosen && (
            <span className="ml-auto flex">
              <button className="icon-btn" aria-label="raise the coat" disabled={place >= up.length - 1} onClick={() => placeCoat(session, chosen, place + 1)}>
                <ArrowUp size={14} />
              </button>
              <button className="icon-btn" aria-label="lower the coat" disabled={place < 1} onClick={() => placeCoat(session, chosen, place - 1)}>
                <ArrowDown size={14} />
              </button>
              <button className="icon-btn" aria-label="delete the coat" onClick={() => removeCoat(session, chosen)}>
                <Trash2 size={14} />
              </button>
            </span>
          )}
        </>
      }
      row={(c) => (
        <Row
          selected={c.id === chosen?.id}
          colour={c.on ? undefined : 'var(--ink-2)'}
          title={c.share === 0 ? 'only where it is painted' : c.where.length === 0 ? 'everywhere' : c.where.map(coatConditionWords).join(', ')}
          onClick={() => useCoating.setState({ coat: c.id })}
        >
          <span className="h-3.5 w-3.5 shrink-0 border" style={{ background: c.ground ? 'transparent' : c.colour, borderColor: 'var(--edge)' }} aria-hidden />
          <NameCell name={c.name} onRename={(name) => renameObject(session, c.id, name)} />
          <span className="label min-w-0 shrink truncate" style={{ maxWidth: 120 }}>
            {up.indexOf(c) >= MOST_COATS
              ? 'not used: four at most'
              : c.share === 0
                ? 'painted only'
                : c.where.length === 0
                  ? 'everywhere'
                  : coatConditionWords(c.where[0])}
            {up.indexOf(c) < MOST_COATS && c.share > 0 && c.where.length > 1 ? ` +${c.where.length - 1}` : ''}
          </span>
          <button
            className="icon-btn shrink-0"
            style={{ width: 18 }}
            aria-label={c.on ? `turn ${c.name} off` : `turn ${c.name} on`}
            aria-pressed={!c.on}
            onClick={(e) => {
              e.stopPropagation();
              setCoat(session, c, { on: !c.on }, c.on ? `${c.name} off` : `${c.name} on`);
            }}
          >
            {c.on ? <Eye size={14} /> : <EyeOff size={14} />}
          </button>
        </Row>
      )}
    />
  );
}
