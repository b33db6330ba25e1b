import { useEffect, useMemo, useState } from 'react';
import { assetBounds } from '@rammer/core/kit/asset';
import { playerBody } from '@rammer/core/level/level';
import type { Session } from '../../store/session';
import { useTurned } from '../../ui/useTurned';
import type { LevelView } from '../../view/LevelView';
import type { MendedMesh } from '../../workers/asset.worker';

/** The mesh beside the figure and the pieces of the level that are nearest to it in size, all at one scale; dragging turns it. */
export function CardPicture({ look, view, session }: { look: MendedMesh; view?: LevelView; session: Session }) {
  const { frame, size, turn, drag } = useTurned([25, 18]);
  const [lod, setLod] = useState(0);
  const [picture, setPicture] = useState<string>();
  const { asset, card, swaps } = look;

  const beside = useMemo(() => {
    const height = (a: typeof asset) => assetBounds(a).max[1] - assetBounds(a).min[1];
    const own = Math.max(0.05, height(asset));
    return [...session.scene.placed.assets.values()]
      .filter((a) => a.role === asset.role && a.name !== asset.name)
      .sort((a, b) => Math.abs(Math.log(height(a) / own)) - Math.abs(Math.log(height(b) / own)))
      .slice(0, 2);
  }, [asset, session]);

  useEffect(() => {
    if (!view || !size || size[0] < 20 || size[1] < 20) return;
    let gone = false;
    void view.assetPicture(asset, { width: size[0], height: size[1], round: turn[0], over: turn[1], lod, beside }).then((url) => {
      if (!gone) setPicture(url);
    });
    return () => {
      gone = true;
    };
  }, [view, asset, size, turn, lod, beside]);

  const [w, h, d] = card.size;
  const shownLod = Math.min(lod, card.triangles.length - 1);
  return (
    <div className="flex min-w-0 flex-1 flex-col">
      <div ref={frame} className="relative min-h-0 flex-1 cursor-grab touch-none overflow-hidden" style={{ background: 'var(--plot)' }} {...drag}>
        {picture && (
          <img src={picture} alt={`${card.name} beside the figure`} draggable={false} className="pointer-events-none block h-full w-full object-contain" />
        )}
        <p className="fig pointer-events-none absolute bottom-2 left-3 m-0" data-testid="card-size">
          {metres(w)} x {metres(h)} x {metres(d)} m
        </p>
        <p className="label pointer-events-none absolute left-3 right-3 top-2 m-0 truncate">
          beside {playerBody(session.level).name}
          {beside.length > 0 ? `, ${beside.map((b) => b.name).join(', ')}` : ''}; drag turns it
        </p>
      </div>
      {card.triangles.length > 1 && (
        <div className="flex flex-wrap gap-1.5 border-t px-3 py-1.5" style={{ borderColor: 'var(--hair)' }}>
          {card.triangles.map((n, i) => (
            <button key={i} className="act" style={{ minHeight: 24, padding: '1px 7px' }} aria-pressed={i === shownLod} onClick={() => setLod(i)}>
              {asset.distant && i === card.triangles.length - 1 ? 'distant' : `LOD ${i}`}: {n}
              {i > 0 && swaps[i - 1] && (
                <span style={{ opacity: 0.8 }}>
                  from {swaps[i - 1].distance.toFixed(0)} m{swaps[i - 1].pixels === undefined ? '' : `, ${swaps[i - 1].pixels!.toFixed(1)} px off`}
                </span>
              )}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}

const metres = (v: number): string => (v >= 100 ? v.toFixed(0) : v >= 1 ? v.toFixed(2) : v.toFixed(3));
