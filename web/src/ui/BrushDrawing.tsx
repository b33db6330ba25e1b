import { useRef, type PointerEvent } from 'react';
import type { BodyFigures } from '@rammer/core/body/bodies';
import { falloff, type BrushSettings } from '@rammer/core/earth/brush';

const W = 248;
const H = 104;
const FLOOR = 82;

/**
 * The brush: its dome over the ground with the figure at true scale beside it. Drag the rim for the
 * radius, the crown for the strength, the shoulder for the hardness. The dome is drawn ten dabs high.
 *
 * @param caption what the height of the dome stands for
 */
export function BrushDrawing({
  brush,
  body,
  caption = 'ten dabs high',
  onChange,
}: {
  brush: BrushSettings;
  body: BodyFigures;
  caption?: string;
  onChange(patch: Partial<BrushSettings>): void;
}) {
  const drag = useRef<'radius' | 'strength' | 'hardness'>(undefined);
  const k = Math.min((W - 50) / (2 * brush.radius + 2.5), 30);
  const cx = 12 + brush.radius * k;
  const sign = brush.kind === 'lower' ? -1 : 1;
  const tall = Math.min(brush.strength * 10 * k, 62);
  const crown = FLOOR - (sign > 0 ? tall : -Math.min(tall, 16));
  const dome = Array.from({ length: 49 }, (_, i) => {
    const u = (i / 48) * 2 - 1;
    return `${(cx + u * brush.radius * k).toFixed(1)} ${(FLOOR + (crown - FLOOR) * falloff(Math.abs(u), brush.hardness)).toFixed(1)}`;
  }).join('L');
  const shoulder = brush.hardness * 0.5 + 0.5;
  const shoulderY = FLOOR + (crown - FLOOR) * falloff(shoulder, brush.hardness);
  const h = body.height * k;
  const grip = (what: 'radius' | 'strength' | 'hardness') => ({
    style: { cursor: what === 'strength' ? 'ns-resize' : 'ew-resize' },
    onPointerDown: (e: PointerEvent<SVGCircleElement>) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      drag.current = what;
    },
    onPointerUp: () => {
      drag.current = undefined;
    },
    onPointerMove: (e: PointerEvent<SVGCircleElement>) => {
      if (drag.current !== what) return;
      const limit = (v: number, low: number, high: number) => Math.min(high, Math.max(low, v));
      if (what === 'radius') onChange({ radius: Number(limit(brush.radius * (1 + e.movementX / 90), 0.5, 200).toFixed(2)) });
      else if (what === 'strength') onChange({ strength: Number(limit(brush.strength * (1 - (e.movementY * sign) / 50), 0.005, 5).toFixed(3)) });
      else onChange({ hardness: Number(limit(brush.hardness + e.movementX / 70, 0, 0.95).toFixed(2)) });
    },
  });
  return (
    <svg
      width={W}
      height={H}
      className="mx-auto mt-2 block select-none"
      style={{ touchAction: 'none' }}
      role="img"
      aria-label={`brush ${(brush.radius * 2).toFixed(1)} m wide, ${brush.strength} m a dab, beside a ${body.height} m figure`}
    >
      <defs>
        <pattern id="brush-earth" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke="var(--hair)" />
        </pattern>
      </defs>
      <path d={`M0 ${FLOOR}L${dome}L${W} ${FLOOR}V${H}H0z`} fill="url(#brush-earth)" />
      <path d={`M0 ${FLOOR}H${W}`} stroke="var(--ink)" strokeDasharray="3 3" />
      <path d={`M0 ${FLOOR}L${dome}L${W} ${FLOOR}`} fill="none" stroke="var(--ink)" strokeWidth="1.75" />
      <g transform={`translate(${Math.min(cx + brush.radius * k + 16 + h * 0.15, W - 10)} ${FLOOR}) scale(${h / 100})`} fill="var(--oxide)">
        <path d="M-9 0L-7 -48L-14 -50L-11 -82H11L14 -50L7 -48L9 0H3L0 -44L-3 0z" />
        <circle cy={-92} r={8} />
      </g>
      <path
        d={`M${cx - brush.radius * k} ${H - 9}H${cx + brush.radius * k}M${cx - brush.radius * k} ${H - 13}v8M${cx + brush.radius * k} ${H - 13}v8`}
        stroke="var(--ink)"
      />
      <text
        fill="var(--ink)"
        className="fig"
        x={cx}
        y={H - 5}
        textAnchor="middle"
        fontSize="13"
        fontWeight="600"
        stroke="var(--raised)"
        strokeWidth="5"
        paintOrder="stroke"
      >
        {(brush.radius * 2).toFixed(1)} m
      </text>
      <text className="fig" x={4} y={12} fontSize="12" fill="var(--ink-2)">
        {caption}
      </text>
      {(
        [
          ['strength', cx, crown],
          ['hardness', cx + shoulder * brush.radius * k, shoulderY],
          ['radius', cx + brush.radius * k, FLOOR],
        ] as const
      ).map(([what, x, y]) => (
        <g key={what}>
          <circle cx={x} cy={y} r={4.5} fill="var(--raised)" stroke="var(--ink)" strokeWidth="1.5" />
          <circle cx={x} cy={y} r={12} fill="transparent" {...grip(what)}>
            <title>{what}</title>
          </circle>
        </g>
      ))}
    </svg>
  );
}
