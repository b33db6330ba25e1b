import { useEffect, useRef } from 'react';
import type { Session } from '../store/session';
import { useSpending } from '../store/spending';
import type { LevelView } from './LevelView';

const WIDTH = 260;
const HEIGHT = 150;

/** A viewpoint pinned over the view: drawn again whenever the view has come to rest after a change. */
export function Inset({ session, view }: { session: Session; view: LevelView }) {
  const id = useSpending((s) => s.inset);
  const canvas = useRef<HTMLCanvasElement>(null);
  const viewpoint = id ? session.level.object(id) : undefined;
  const pose = viewpoint?.kind === 'viewpoint' ? viewpoint.pose : undefined;
  const name = viewpoint?.name;
  useEffect(() => {
    if (!pose) return;
    let drawn = -1;
    const paint = () => {
      // Only at rest: a second picture in every moving frame would halve their number.
      if (!view.atRest || drawn === view.changes || !canvas.current) return;
      drawn = view.changes;
      const image = view.snapshot(pose, WIDTH, HEIGHT);
      canvas.current.getContext('2d')!.putImageData(image, 0, 0);
    };
    const off = view.onFrame(paint);
    view.request();
    return off;
  }, [view, pose]);
  if (!pose) return null;
  return (
    <figure className="absolute bottom-3 right-3 m-0 border" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }} data-testid="inset">
      <figcaption className="flex items-center gap-2 px-2 py-0.5">
        <span className="truncate">{name}</span>
        <button className="ml-auto underline" onPointerDown={(e) => e.stopPropagation()} onClick={() => useSpending.setState({ inset: undefined })}>
          unpin
        </button>
      </figcaption>
      <canvas ref={canvas} width={WIDTH} height={HEIGHT} className="block" role="img" aria-label={`the level from ${name}`} />
    </figure>
  );
}
