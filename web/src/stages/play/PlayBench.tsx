import { marker, ofKind, playerBody } from '@rammer/core/level/level';
import { OPENING_BAND } from '@rammer/core/play/limits';
import { dotsApart } from '@rammer/core/play/walkDots';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { useUi } from '../../store/ui';
import { bakeWalkArea, cancelBake, shownThreat, useWalkArea } from '../../store/walkArea';
import { Profile } from '../../ui/Profile';
import { Findings } from './Findings';
import { WalkedThrough } from './WalkedThrough';
import { PlayBoundsFields } from './PlayBoundsFields';
import { useHint } from '../../store/keys';

/** Markers, the walk areas, the way, and what the checks found. @param review without tools that change the level */
export function PlayBench({
  session,
  review = false,
  onWalk,
  onGoTo,
}: {
  session: Session;
  review?: boolean;
  onWalk(): void;
  onGoTo(at: [number, number, number]): void;
}) {
  const hint = useHint();
  useSession(session);
  const tool = useUi((s) => s.tool);
  const { setTool } = useUi.getState();
  const { areas: baked, stale, progress, error } = useWalkArea();
  const { reach, threats: areas = [] } = baked ?? {};
  const chosen = useUi((s) => s.threat);
  const threat = shownThreat(areas, chosen);
  const overlay = useUi((s) => s.overlay);
  const threats = ofKind(session.level, 'marker').filter((m) => m.marker === 'threat');
  const body = playerBody(session.level);
  return (
    <>
      {!review && (
        <div className="grid grid-cols-2 border-b" style={{ borderColor: 'var(--ink)' }}>
          <Profile
            name="entry"
            before="M0 19H118"
            after="M0 19H40V5L58 9L40 13M40 19H118"
            active={tool === 'entry'}
            onPick={() => setTool(tool === 'entry' ? 'select' : 'entry')}
          />
          <Profile
            name="objective"
            before="M0 19H118"
            after="M0 19H50V5H68L64 9L68 13H50M50 19H118"
            active={tool === 'objective'}
            onPick={() => setTool(tool === 'objective' ? 'select' : 'objective')}
          />
          <Profile
            name="threat"
            before="M0 19H118"
            after="M0 19H44L50 11H70L74 6L79 8L76 12L77 19M70 19H118"
            active={tool === 'threat'}
            onPick={() => setTool(tool === 'threat' ? 'select' : 'threat')}
          />
          <Profile
            name="play bounds"
            before="M0 19H118"
            after="M0 19H14L20 8H26L30 19H88L92 8H98L104 19H118"
            active={tool === 'playBounds'}
            onPick={() => setTool(tool === 'playBounds' ? 'select' : 'playBounds')}
          />
          <div className="col-span-2 flex h-6 items-center px-3 leading-4">
            <span className="label truncate">
              {tool === 'playBounds'
                ? 'click the corners of the bounds; the first one again closes it'
                : threats.length === 0
                  ? 'no threat yet'
                  : threat
                    ? `${threat.name}: ${(threat.dots.length / 4) * dotsApart(session.terrain.grid) ** 2} m² to stand on`
                    : `${threats.length} ${threats.length === 1 ? 'threat' : 'threats'}, not baked yet`}
            </span>
          </div>
        </div>
      )}
      {!review && <PlayBoundsFields session={session} />}
      <div className="grid gap-2 px-3 py-2.5">
        <p className="m-0">
          Walk area for <b>{body.name}</b>{' '}
          <span className="label">
            from terrain, blocks, pieces and trunks; step {body.figures.step} m, slope {body.figures.maxSlope}°
          </span>
        </p>
        <div className="flex gap-2">
          {progress === undefined ? (
            <button
              className="act main"
              data-testid="bake"
              onClick={() => {
                useUi.setState({ overlay: 'walk area' });
                void bakeWalkArea(session);
              }}
            >
              {reach && !stale ? 'bake again' : 'bake walk area'}
            </button>
          ) : (
            <button className="act" onClick={cancelBake}>
              cancel, {Math.round(progress * 100)} %
            </button>
          )}
          <button className="act" onClick={onWalk} title={hint('from the pointer instead', 'Enter')}>
            walk from entry
          </button>
        </div>
        <WalkedThrough session={session} />
        {threat && areas.length > 1 && (
          <label className="flex items-center gap-2">
            <span className="label">threat</span>
            <select
              className="textf h-6 min-w-0 flex-1 px-1"
              aria-label="threat whose area is shown"
              value={threat.id}
              onChange={(e) => useUi.setState({ threat: e.target.value, overlay: overlay === 'both areas' ? 'both areas' : 'threat area' })}
            >
              {areas.map((t) => (
                <option key={t.id} value={t.id}>{`${t.name}, ${t.body}`}</option>
              ))}
            </select>
          </label>
        )}
        {threat && (
          <div className="seg" role="group" aria-label="whose walk area is shown">
            {(
              [
                ['walk area', body.name],
                ['threat area', threat.body],
                ['both areas', 'both compared'],
              ] as const
            ).map(([r, name]) => (
              <button key={r} className="act" aria-pressed={overlay === r} onClick={() => useUi.setState({ overlay: overlay === r ? 'none' : r })}>
                {name}
              </button>
            ))}
          </div>
        )}
        {threat && overlay === 'both areas' && (
          <p className="label m-0">
            Dots: both get there. Rings: only {body.name}. Triangles: only {threat.body}.
          </p>
        )}
        {error && (
          <p role="alert" className="m-0" style={{ color: 'var(--oxide)' }}>
            {error}
          </p>
        )}
        {!marker(session.level, 'entry') && <p className="label m-0">Set the entry first: where the player comes in.</p>}
        {marker(session.level, 'entry') && !marker(session.level, 'objective') && (
          <p className="label m-0">Now set the objective: where the player must get to.</p>
        )}
        {reach && (
          <div style={{ opacity: stale ? 0.75 : 1 }} data-testid="reach-report">
            {reach.reached ? (
              <dl className="fig m-0 grid gap-0.5">
                <div className="flex justify-between">
                  <dt className="label">objective</dt>
                  <dd className="m-0 font-semibold" style={{ color: 'var(--lichen-text)' }}>
                    ✓ can be reached
                  </dd>
                </div>
                <div className="flex justify-between">
                  <dt className="label">way</dt>
                  <dd className="m-0 font-semibold">{reach.length.toFixed(1)} m</dd>
                </div>
                <div className="flex justify-between">
                  <dt className="label">at a walk, a run</dt>
                  <dd className="m-0 font-semibold">
                    {Math.round(reach.walkTime)} s, {Math.round(reach.runTime)} s
                  </dd>
                </div>
              </dl>
            ) : (
              <p className="m-0">
                <b style={{ color: 'var(--oxide)' }}>✕ the objective cannot be reached</b>
                <br />
                {reach.stop?.message}
                {reach.stop?.at && (
                  <>
                    {' '}
                    <button className="underline" onClick={() => onGoTo(reach.stop!.at!)}>
                      go there
                    </button>
                  </>
                )}
              </p>
            )}
            {stale && (
              <p className="label m-0" style={{ textDecoration: 'underline dashed', textUnderlineOffset: 3 }}>
                The level has changed since: bake again.
              </p>
            )}
            <p className="label m-0">
              An opening within {OPENING_BAND.toFixed(2)} m of the body's width may be judged either way;{' '}
              <a href="/docs/numbers.md" target="_blank" rel="noreferrer" className="underline">
                all numbers
              </a>
              .
            </p>
          </div>
        )}
      </div>
      <Findings session={session} onGoTo={onGoTo} />
    </>
  );
}
