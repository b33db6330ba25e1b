import { useEffect, useRef, useState } from 'react';
import type { Fit } from '@rammer/core/cost/fitPlants';
import type { Session } from '../../store/session';
import { lostBy, type Lost } from '../../tools/fitBudget';
import type { LevelView } from '../../view/LevelView';

const SMALL = { minHeight: 22, padding: '0 6px' };
const SHOWN = ['now', 'after', 'difference'] as const;

/** What one would see of a fit, at the dearest places: as it is, as it would be, and what is another. */
export function LostPictures({ session, view, fit }: { session: Session; view: LevelView; fit: Fit }) {
  const [lost, setLost] = useState<Lost[]>();
  const [busy, setBusy] = useState(false);
  const [which, setWhich] = useState<(typeof SHOWN)[number]>('difference');
  if (!lost)
    return (
      <button
        className="act justify-self-start"
        style={SMALL}
        disabled={busy}
        title="pictures from the dearest place, before and after"
        onClick={() => {
          setBusy(true);
          void lostBy(session, view, fit)
            .then(setLost)
            .catch((error: Error) => session.say(`no picture could be made: ${error.message}`, true))
            .finally(() => setBusy(false));
        }}
      >
        {busy ? 'drawing' : 'show what is lost'}
      </button>
    );
  return (
    <div className="grid gap-1" role="group" aria-label="what is lost">
      <div className="flex items-center gap-1">
        {SHOWN.map((name) => (
          <button key={name} className="act" style={SMALL} aria-pressed={which === name} onClick={() => setWhich(name)}>
            {name}
          </button>
        ))}
      </div>
      {lost.map((l) => (
        <figure key={l.place} className="m-0">
          <Picture image={l[which]} label={`${which}, ${l.place}`} />
          <figcaption className="label">{`${l.place}: ${(l.share * 100).toFixed(l.share < 0.01 ? 3 : 1)} % of the picture is another`}</figcaption>
        </figure>
      ))}
      {fit.steps.some((s) => s.what === 'shadows') && <p className="label m-0">Shadows are seen in the full picture alone.</p>}
    </div>
  );
}

function Picture({ image, label }: { image: ImageData; label: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => canvas.current?.getContext('2d')?.putImageData(image, 0, 0), [image]);
  return (
    <canvas
      ref={canvas}
      width={image.width}
      height={image.height}
      className="w-full border"
      style={{ borderColor: 'var(--edge)' }}
      role="img"
      aria-label={label}
    />
  );
}
