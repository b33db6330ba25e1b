import { ArrowDown, ArrowUp, Copy, Eye, EyeOff, Plus, Trash2 } from 'lucide-react';
import { useRef, useState } from 'react';
import { groundRulesOf } from '@rammer/core/level/level';
import type { GroundRule, Surface } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { useGround } from '../../store/groundDraft';
import { renameObject } from '../../tools/blockActions';
import { addRule, copyRule, placeRule, removeRule, setRule } from '../../tools/grounds';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';
import { conditionWords } from './conditions';
import { Swatch } from './Swatch';

/** The rules, the top one laid last: dragged to reorder. */
export function RuleTable({ session, surfaces, chosen }: { session: Session; surfaces: readonly Surface[]; chosen?: GroundRule }) {
  const up = groundRulesOf(session.level);
  const place = chosen ? up.indexOf(chosen) : -1;
  const dragged = useRef<GroundRule>(undefined);
  const [over, setOver] = useState<string>();
  const drop = (on: GroundRule) => {
    if (dragged.current && dragged.current.id !== on.id) placeRule(session, dragged.current, up.indexOf(on));
    dragged.current = undefined;
    setOver(undefined);
  };
  const surface = surfaces.find((s) => s.id === useGround.getState().surface) ?? surfaces[0];
  return (
    <Table
      label="rules of the ground"
      rows={[...up].reverse()}
      empty={`no rules: all is ${surfaces[0]?.name ?? 'bare'} until it is painted. Add one, and say where it holds.`}
      header={
        <>
          <span className="label mr-auto truncate">{chosen?.name ?? 'top one is laid last'}</span>
          {chosen && (
            <>
              <button className="icon-btn" aria-label="raise the rule" disabled={place >= up.length - 1} onClick={() => placeRule(session, chosen, place + 1)}>
                <ArrowUp size={14} />
              </button>
              <button className="icon-btn" aria-label="lower the rule" disabled={place < 1} onClick={() => placeRule(session, chosen, place - 1)}>
                <ArrowDown size={14} />
              </button>
              <button className="icon-btn" aria-label="duplicate the rule" onClick={() => copyRule(session, chosen)}>
                <Copy size={14} />
              </button>
              <button className="icon-btn" aria-label="delete the rule" onClick={() => removeRule(session, chosen)}>
                <Trash2 size={14} />
              </button>
            </>
          )}
          <button
            className="act"
            style={{ padding: '0 6px', minHeight: 22 }}
            title={`a rule that lays ${surface?.name}`}
            onClick={() => addRule(session, surface)}
          >
            <Plus size={13} />
            rule
          </button>
        </>
      }
      row={(r) => (
        <div
          draggable
          onDragStart={(e) => {
            dragged.current = r;
            e.dataTransfer.effectAllowed = 'move';
            e.dataTransfer.setData('text/plain', r.name);
          }}
          onDragOver={(e) => {
            e.preventDefault();
            setOver(r.id);
          }}
          onDragLeave={() => setOver(undefined)}
          onDragEnd={() => setOver(undefined)}
          onDrop={(e) => {
            e.preventDefault();
            drop(r);
          }}
          style={{ boxShadow: over === r.id ? 'inset 0 2px 0 var(--ink)' : undefined }}
          role="presentation"
        >
          <Row
            selected={r.id === chosen?.id}
            colour={r.on ? undefined : 'var(--ink-2)'}
            title={r.where.length === 0 ? 'everywhere' : r.where.map(conditionWords).join(', ')}
            onClick={() => useGround.setState({ groundRule: r.id })}
          >
            <Swatch session={session} surface={surfaces.find((s) => s.id === r.surface)} />
            <NameCell name={r.name} onRename={(name) => renameObject(session, r.id, name)} />
            <span className="label min-w-0 shrink truncate" style={{ maxWidth: 108 }}>
              {r.where.length === 0 ? 'everywhere' : conditionWords(r.where[0])}
              {r.where.length > 1 ? ` +${r.where.length - 1}` : ''}
            </span>
            {r.lies && (
              <span className="fig" title={r.lies === 'tops' ? 'lies on tops of blocks and pieces' : 'lies on the ground and on tops'}>
                {r.lies === 'tops' ? 'tops' : '+ tops'}
              </span>
            )}
            {r.wins && (
              <span className="fig" title="lies over paint too">
                wins
              </span>
            )}
            <button
              className="icon-btn shrink-0"
              style={{ width: 18 }}
              aria-label={r.on ? `turn ${r.name} off` : `turn ${r.name} on`}
              aria-pressed={!r.on}
              onClick={(e) => {
                e.stopPropagation();
                setRule(session, r, { on: !r.on }, r.on ? `${r.name} off` : `${r.name} on`);
              }}
            >
              {r.on ? <Eye size={14} /> : <EyeOff size={14} />}
            </button>
          </Row>
        </div>
      )}
    />
  );
}
