import { marker } from '@rammer/core/level/level';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import { useSnags } from '../store/useSnags';
import { usePointer } from '../store/pointer';
import { useUi } from '../store/ui';
import { stopCutting, useCutting } from '../store/cutting';
import { cancelBake, useWalkArea } from '../store/walkArea';
import { PictureChoice } from './PictureChoice';

/** What is under the pointer; running work with its progress; what was done; whether the objective is reached. */
export function StatusLine({ session }: { session: Session }) {
  useSession(session);
  const hover = usePointer((s) => s.hover);
  const stage = useUi((s) => s.stage);
  const feet = usePointer((s) => s.feet);
  const { areas, stale, progress, summary, error } = useWalkArea();
  const reach = areas?.reach;
  const { open, known } = useSnags(session);
  const cutting = useCutting((s) => s.share);
  const say = session.message;
  const figure = (label: string, value: string, w: number) => (
    <span className="inline-flex gap-1 whitespace-nowrap" style={{ minWidth: w }}>
      <span className="label">{label}</span>
      <b className="fig">{value}</b>
    </span>
  );
  return (
    <footer
      className="flex h-7 shrink-0 items-center gap-4 overflow-hidden border-t px-3"
      style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
      aria-label="status"
    >
      {hover ? (
        <>
          {figure('x', hover.point[0].toFixed(1), 50)}
          {figure('z', hover.point[2].toFixed(1), 50)}
          {figure('height', `${signed(hover.point[1])} m`, 92)}
          {figure('slope', `${hover.slope.toFixed(0)}°`, 62)}
          {figure('ground', hover.ground, 90)}
          {hover.plants > 0 && figure('plants', `${hover.plants} / 100 m²`, 104)}
          {hover.host !== 'terrain' && figure('on', hover.host, 60)}
        </>
      ) : feet ? (
        <span data-testid="feet" className="inline-flex gap-4">
          {figure('body at x', feet.at[0].toFixed(1), 84)}
          {figure('z', feet.at[2].toFixed(1), 50)}
          {figure('feet', `${signed(feet.at[1])} m`, 80)}
          <span className="label">{feet.grounded ? 'on the ground' : 'in the air'}</span>
        </span>
      ) : (
        <span className="label">point at the level</span>
      )}
      <span className="flex-1" />
      <span role="status" className="min-w-0 truncate" style={{ color: say?.bad || error ? 'var(--oxide)' : undefined }} data-testid="message">
        {error ?? say?.text ?? (stage === 'grow' && session.scene.plants.summary ? session.scene.plants.summary : (summary ?? ''))}
      </span>
      {session.scene.plants.running && (
        <span className="fig whitespace-nowrap" data-testid="growing">
          growing plants
        </span>
      )}
      {cutting !== undefined && <Running id="cutting" what="cutting solids" share={cutting} cancel={stopCutting} />}
      {progress !== undefined && <Running id="progress" what="walk area" share={progress} cancel={cancelBake} />}
      <PictureChoice />
      {known && (
        <button
          className="fig whitespace-nowrap border-0 bg-transparent p-0"
          data-testid="snags"
          style={{
            color: open.some((s) => s.severity === 'blocking') ? 'var(--oxide)' : open.length > 0 ? 'var(--ochre-text)' : undefined,
            fontWeight: 600,
            borderBottom: stale ? '2px dashed' : undefined,
          }}
          onClick={() => {
            useUi.getState().setStage('play');
            useUi.setState({ findings: 'snags' });
          }}
        >
          {open.length} {open.length === 1 ? 'snag' : 'snags'}
        </button>
      )}
      {progress === undefined && reach && (
        <span
          data-testid="reach"
          data-reached={reach.reached}
          data-stale={stale}
          className="fig whitespace-nowrap"
          style={{ color: reach.reached ? 'var(--lichen-text)' : 'var(--oxide)', fontWeight: 600, borderBottom: stale ? '2px dashed' : undefined }}
          title={stale ? 'the level has changed since: bake again' : undefined}
        >
          {reach.reached
            ? `objective reached, ${reach.length.toFixed(0)} m, ${Math.round(reach.walkTime)} s`
            : marker(session.level, 'objective')
              ? 'objective not reached'
              : 'no objective yet'}
        </span>
      )}
    </footer>
  );
}

/** Work under way: how far it is, and how to end it. */
function Running({ id, what, share, cancel }: { id: string; what: string; share: number; cancel: () => void }) {
  return (
    <span className="inline-flex items-center gap-2" data-testid={id}>
      <span className="fig whitespace-nowrap">
        {what} {Math.round(share * 100)} %
      </span>
      <progress className="h-2 w-20" max={1} value={share} aria-label={what} />
      <button className="act" style={{ minHeight: 22, padding: '0 8px' }} aria-label={`cancel: ${what}`} onClick={cancel}>
        cancel
      </button>
    </span>
  );
}

/** Two digits, and no minus before a zero. */
const signed = (v: number): string => v.toFixed(2).replace(/^-(0\.00)$/, '$1');
