import { useEffect, useRef, useState } from 'react';
import { choosePicture, REFINED, STILL, TIERS, usePicture, type TierChoice } from '../store/picture';

const TOLD: Record<TierChoice, string> = {
  auto: 'by how long frames take',
  full: 'shadows, light of the sky, haze, water: for a GPU',
  plain: 'baked light: quick on any machine',
};

/** How the level is drawn, how far a picture at rest is refined, and the choice of both. */
export function PictureChoice() {
  const { choice, tier, able, refine, moves, refined, still } = usePicture();
  const [open, setOpen] = useState(false);
  const frame = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    if (!open) return;
    const away = (e: PointerEvent) => {
      if (!frame.current?.contains(e.target as Node)) setOpen(false);
    };
    const escape = (e: KeyboardEvent) => {
      if (e.key === 'Escape') setOpen(false);
    };
    window.addEventListener('pointerdown', away, true);
    window.addEventListener('keydown', escape);
    return () => {
      window.removeEventListener('pointerdown', away, true);
      window.removeEventListener('keydown', escape);
    };
  }, [open]);
  const state =
    still !== undefined
      ? `still ${still}/${STILL}`
      : refined === undefined
        ? tier
        : refined < REFINED
          ? `refining ${refined}/${REFINED}`
          : `refined, ${REFINED} frames`;
  return (
    <span ref={frame} className="relative">
      <button
        className="inline-flex gap-1 whitespace-nowrap border-0 bg-transparent p-0"
        data-testid="picture"
        data-tier={tier}
        data-refined={refined}
        aria-expanded={open}
        aria-haspopup="dialog"
        title="how the level is drawn"
        onClick={() => setOpen(!open)}
      >
        <span className="label">picture</span>
        <b className="fig" style={{ minWidth: 84, textAlign: 'left' }}>
          {state}
        </b>
      </button>
      {open && (
        <div
          role="dialog"
          aria-label="how the level is drawn"
          className="fixed bottom-8 z-20 grid w-72 gap-1.5 border p-3"
          style={{ background: 'var(--raised)', borderColor: 'var(--ink)', right: 160 }}
        >
          {TIERS.map((t) => (
            <label key={t} className="flex items-baseline gap-2">
              <input type="radio" name="tier" checked={choice === t} disabled={t === 'full' && !able} onChange={() => choosePicture({ choice: t })} />
              <b>{t}</b>
              <span className="label">{t === 'full' && !able ? 'not in this browser: it draws no pictures of floats' : TOLD[t]}</span>
            </label>
          ))}
          <label className="flex items-baseline gap-2 border-t pt-1.5" style={{ borderColor: 'var(--hair)' }}>
            <input type="checkbox" checked={refine} onChange={(e) => choosePicture({ refine: e.target.checked })} />
            refine at rest, {REFINED} frames
          </label>
          <label className="flex items-baseline gap-2">
            <input type="checkbox" checked={moves} onChange={(e) => choosePicture({ moves: e.target.checked })} />
            wind and waves move with the view
          </label>
        </div>
      )}
    </span>
  );
}
