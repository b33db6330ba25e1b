import { useEffect, useState } from 'react';
import { ofKind } from '@rammer/core/level/level';
import type { Pose, Reference } from '@rammer/core/level/objects';
import { pictureUrl } from '../store/pictures';
import type { Session } from '../store/session';
import { useSession } from '../store/useSession';
import type { LevelView } from './LevelView';
import { useDrawnFrame } from './useFrame';

/** The picture of a reference, once it is here. */
export function usePicture(session: Session, reference: Reference | undefined): string | undefined {
  const asset = reference && session.level.object(reference.asset);
  const hash = asset?.kind === 'asset' ? asset.hash : undefined;
  const [url, setUrl] = useState<{ hash: string; url: string }>();
  useEffect(() => {
    let gone = false;
    if (hash)
      void pictureUrl(hash).then(
        (found) => {
          if (!gone) setUrl({ hash, url: found });
        },
        () => {},
      );
    return () => {
      gone = true;
    };
  }, [hash]);
  return url && url.hash === hash ? url.url : undefined;
}

const near = (a: number, b: number, by: number) => Math.abs(a - b) < by;
const sameView = (a: Pose, b: Pose): boolean =>
  a.view === b.view &&
  a.target.every((v, k) => near(v, b.target[k], 0.02)) &&
  near(a.yaw, b.yaw, 0.06) &&
  near(a.pitch, b.pitch, 0.06) &&
  near(a.distance, b.distance, 0.02);

/** Reference pictures over the view, or in its corner, while it stands at their viewpoint; boards in the level are the view's own. */
export function ReferencePictures({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  useSession(session);
  const references = ofKind(session.level, 'reference');
  useEffect(() => {
    view.aids.setBoards(
      references
        .filter((r) => r.mode === 'board' && r.at)
        .flatMap((r) => {
          const asset = session.level.object(r.asset);
          return asset?.kind === 'asset'
            ? [
                {
                  id: r.id,
                  hash: asset.hash,
                  at: r.at!,
                  turn: r.turn,
                  ...(r.tilt ? { tilt: r.tilt } : {}),
                  height: r.height * (r.scale?.[1] ?? 1),
                  width: ((r.height * r.size[0]) / r.size[1]) * (r.scale?.[0] ?? 1),
                  opacity: r.opacity,
                },
              ]
            : [];
        }),
    );
  });
  const here = references.filter((r) => {
    const viewpoint = r.viewpoint ? session.level.object(r.viewpoint) : undefined;
    return r.mode !== 'board' && viewpoint?.kind === 'viewpoint' && sameView(view.pose, viewpoint.pose);
  });
  return (
    <>
      {here.map((r) => (
        <Picture key={r.id} session={session} reference={r} />
      ))}
    </>
  );
}

function Picture({ session, reference: r }: { session: Session; reference: Reference }) {
  const url = usePicture(session, r);
  if (!url) return null;
  if (r.mode === 'overlay')
    return (
      <img
        src={url}
        alt={`reference ${r.name}`}
        className="pointer-events-none absolute left-1/2 top-0 h-full max-w-none"
        style={{ opacity: r.opacity, transform: `translateX(-50%) rotate(${-r.roll}deg)` }}
        data-testid="reference"
      />
    );
  return (
    <figure className="pointer-events-none absolute right-3 top-3 m-0 border" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>
      <img src={url} alt={`reference ${r.name}`} className="block w-[260px]" style={{ opacity: r.opacity }} data-testid="reference" />
      <figcaption className="px-2">{r.name}</figcaption>
    </figure>
  );
}
