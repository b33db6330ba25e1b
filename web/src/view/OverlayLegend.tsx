import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import type { LevelView } from './LevelView';
import { LAYER_COLOURS, LAYERS } from './overdraw';
import { useDrawnFrame } from './useFrame';

/** The legend of the overlay that lies on the ground, and the heights its contours carry. */
export function OverlayLegend({ session, view }: { session: Session; view: LevelView }) {
  useDrawnFrame(view);
  const overlay = useUi((s) => s.overlay);
  const shown = view.overlays.shown;
  const { colliders } = view.aids;
  if (overlay === 'collision' && colliders)
    return (
      <div
        className="pointer-events-none absolute bottom-3 right-3 border px-2 py-1"
        style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
        role="note"
        aria-label="overlay: collision"
        data-testid="overlay"
      >
        {colliders.drawn === colliders.all
          ? `${colliders.all} shapes stop a body`
          : `the ${colliders.drawn} nearest of ${colliders.all} shapes that stop a body`}
      </div>
    );
  if (overlay === 'overdraw')
    return <OverdrawLegend screens={view.drawn?.batches.reduce((sum, b) => sum + (b.course === 'plants' ? b.overdraw : 0), 0) ?? 0} />;
  if (!shown || shown.kind !== overlay) return null;
  const labels: { x: number; y: number; text: string }[] = [];
  for (let i = 0; i < shown.labels.length; i += 3) {
    const p = view.project([shown.labels[i], shown.labels[i + 1] + 0.2, shown.labels[i + 2]]);
    if (
      p &&
      p.x > 10 &&
      p.y > 10 &&
      p.x < view.width - 10 &&
      p.y < view.height - 40 &&
      !labels.some((l) => Math.abs(l.x - p.x) < 46 && Math.abs(l.y - p.y) < 16)
    )
      labels.push({ x: p.x, y: p.y, text: shown.labels[i + 1].toFixed((shown.step ?? 1) < 1 ? 2 : 0) });
  }
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
        {labels.map((l, i) => (
          <text
            key={i}
            x={l.x}
            y={l.y + 4}
            textAnchor="middle"
            className="fig"
            fontSize={12}
            fontWeight={600}
            fill="var(--ink)"
            stroke="var(--raised)"
            strokeWidth={3.5}
            paintOrder="stroke"
          >
            {l.text}
          </text>
        ))}
      </svg>
      <div
        className="absolute bottom-3 right-3 grid gap-1 border px-2 py-1"
        style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
        role="note"
        aria-label={`overlay: ${overlay}`}
        data-testid="overlay"
        onPointerDown={(e) => e.stopPropagation()}
        onPointerMove={(e) => e.stopPropagation()}
        onPointerUp={(e) => e.stopPropagation()}
      >
        {shown.keys.map((k) => (
          <span key={k.text} className="flex items-center gap-2">
            <svg width="18" height="14" className="shrink-0" aria-hidden>
              <rect x="0.5" y="0.5" width="17" height="13" fill={k.hatched ? 'var(--raised)' : k.colour} stroke="var(--ink)" />
              {k.hatched && <path d="M-2 10L8 0M3 14L14 3M10 16L20 6" stroke={k.colour} strokeWidth="3" />}
            </svg>
            {k.text}
          </span>
        ))}
        {overlay === 'cut and fill' && (
          <button
            className="act"
            style={{ padding: '1px 7px', minHeight: 24 }}
            title="compare with the ground as it is now"
            onClick={() => session.scene.markBefore()}
          >
            from now on
          </button>
        )}
      </div>
    </>
  );
}

/** How many plants lie over each other at a pixel, and what the estimate reckons with. */
function OverdrawLegend({ screens }: { screens: number }) {
  return (
    <div
      className="pointer-events-none absolute bottom-3 right-3 grid gap-1 border px-2 py-1"
      style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
      role="note"
      aria-label="overlay: overdraw"
      data-testid="overlay"
    >
      <span className="label">plants shaded over each other</span>
      {LAYERS.map((from, i) => (
        <span key={from} className="flex items-center gap-2">
          <svg width="18" height="14" className="shrink-0" aria-hidden>
            <rect x="0.5" y="0.5" width="17" height="13" fill={LAYER_COLOURS[i]} stroke="var(--ink)" />
          </svg>
          {i + 1 < LAYERS.length ? `${from} to ${LAYERS[i + 1] - 1}` : `${from} and more`}
        </span>
      ))}
      <span className="label">{`reckoned with ${screens.toFixed(1)} screens of cut-out leaves`}</span>
    </div>
  );
}
