import { ArrowDown, ArrowUp, Copy, Trash2 } from 'lucide-react';
import { useMemo } from 'react';
import { TEXTURES, type Surface, type TextureName } from '@rammer/core/level/objects';
import { SLOTS, type GroundRaster } from '@rammer/core/surface/ground';
import type { Session } from '../../store/session';
import { useGround } from '../../store/groundDraft';
import { useUi } from '../../store/ui';
import { renameObject } from '../../tools/blockActions';
import { addSurface, copySurface, placeSurface, removeSurface } from '../../tools/grounds';
import { NameCell } from '../../ui/NameCell';
import { Row, Table } from '../../ui/Table';
import { Swatch } from './Swatch';

/** Surfaces of the level with the share of the ground each covers; the first is what is there without rules. */
export function SurfaceTable({ session, surfaces, surface, own }: { session: Session; surfaces: readonly Surface[]; surface: Surface; own: boolean }) {
  const { setTool } = useUi.getState();
  const { raster } = session.scene.ground;
  const shares = useMemo(() => sharesOf(raster), [raster, session.revision]); // eslint-disable-line react-hooks/exhaustive-deps
  const place = surfaces.indexOf(surface);
  return (
    <Table
      label="surfaces"
      rows={surfaces}
      empty=""
      header={
        <>
          <span className="label mr-auto whitespace-nowrap">paint with</span>
          {own && (
            <>
              <button className="icon-btn" aria-label="earlier in the list" disabled={place < 1} onClick={() => placeSurface(session, surface, place - 1)}>
                <ArrowUp size={14} />
              </button>
              <button
                className="icon-btn"
                aria-label="later in the list"
                disabled={place >= surfaces.length - 1}
                onClick={() => placeSurface(session, surface, place + 1)}
              >
                <ArrowDown size={14} />
              </button>
              <button className="icon-btn" aria-label="duplicate the surface" onClick={() => copySurface(session, surface)}>
                <Copy size={14} />
              </button>
              <button className="icon-btn" aria-label="delete the surface" onClick={() => removeSurface(session, surface)}>
                <Trash2 size={14} />
              </button>
              <select
                className="textf h-6 w-[62px] px-0.5"
                aria-label="add a surface"
                value=""
                onChange={(e) => addSurface(session, e.target.value as TextureName)}
              >
                <option value="" disabled>
                  add
                </option>
                {TEXTURES.map((t) => (
                  <option key={t}>{t}</option>
                ))}
              </select>
            </>
          )}
        </>
      }
      row={(s, i) => (
        <Row
          selected={s.id === surface.id}
          onClick={() => {
            useGround.setState({ surface: s.id });
            if (own && !['paint', 'replace', 'fill'].includes(useUi.getState().tool)) setTool('paint');
          }}
        >
          <Swatch session={session} surface={s} />
          {own ? <NameCell name={s.name} onRename={(name) => renameObject(session, s.id, name)} /> : <span>{s.name}</span>}
          <span className="label ml-auto">{s.tile} m</span>
          <span className="fig w-12 text-right">{(shares[i] * 100).toFixed(0)} %</span>
        </Row>
      )}
    />
  );
}

/** Share of the level each surface covers, by every fourth sample. */
function sharesOf({ of, weights, surfaces }: GroundRaster): number[] {
  const sums = surfaces.map(() => 0);
  let total = 0;
  for (let i = 0; i < weights.length; i += SLOTS * 4) {
    for (let k = i; k < i + SLOTS; k++) {
      if (of[k] < sums.length) sums[of[k]] += weights[k];
      total += weights[k];
    }
  }
  return sums.map((s) => s / (total || 1));
}
