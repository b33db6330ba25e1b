import { Eye, EyeOff, Trash2 } from 'lucide-react';
import { isCover } from '@rammer/core/cost/drawable';
import { surfacesOf } from '@rammer/core/surface/surfaces';
import type { Session } from '../../store/session';
import { usePlanting } from '../../store/planting';
import { renameObject } from '../../tools/blockActions';
import { allCovers, coverAtHand, removeCover, setCover } from '../../tools/covers';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';
import type { LevelView } from '../../view/LevelView';

/** What covers the ground: a row a species and surface, with how many there are round the eye. */
export function CoverTable({ session, view }: { session: Session; view?: LevelView }) {
  const list = allCovers(session.level);
  const at = coverAtHand(session.level);
  const { surfaces } = surfacesOf(session.level);
  const species = session.scene.plants.byId;
  const round = view?.drawables().filter(isCover) ?? [];
  const count = round.reduce((n, d) => n + d.instances, 0);
  return (
    <Table
      label="ground cover"
      rows={list}
      empty="No ground cover yet. Add one above: it follows its surface wherever that lies, and is gone where another is painted."
      header={
        <>
          <span className="label">on which surface</span>
          <span className="label ml-auto whitespace-nowrap" title="made round the eye, never stored">{`${count} here`}</span>
        </>
      }
      row={(c) => {
        const gone = !surfaces.some((s) => s.id === c.surface) ? 'its surface is gone' : !species.has(c.species) ? 'its species is gone' : undefined;
        return (
          <Row
            selected={c.id === at?.id}
            colour={c.on && !gone ? undefined : 'var(--ink-2)'}
            title={gone}
            onClick={() => usePlanting.setState({ cover: c.id, ...(species.has(c.species) ? { species: c.species } : {}) })}
          >
            <NameCell name={c.name} onRename={(name) => renameObject(session, c.id, name)} />
            <span className="label whitespace-nowrap" title={gone ?? 'on 100 m²'}>
              {gone ?? c.density}
            </span>
            <button
              className="icon-btn shrink-0"
              style={{ width: 18 }}
              aria-label={`turn ${c.name} ${c.on ? 'off' : 'on'}`}
              aria-pressed={!c.on}
              onClick={(e) => {
                e.stopPropagation();
                setCover(session, c, { on: !c.on }, c.on ? 'off' : 'on');
              }}
            >
              {c.on ? <Eye size={14} /> : <EyeOff size={14} />}
            </button>
            <button
              className="icon-btn shrink-0"
              style={{ width: 18 }}
              aria-label={`delete ${c.name}`}
              onClick={(e) => {
                e.stopPropagation();
                removeCover(session, c);
              }}
            >
              <Trash2 size={14} />
            </button>
          </Row>
        );
      }}
    />
  );
}
