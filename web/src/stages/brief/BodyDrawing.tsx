import type { BodyFigures } from '@rammer/core/body/bodies';
import { jumpReach, takeOffSpeed } from '@rammer/core/body/jump';

const W = 248;
const H = 104;

/** A body's drawing to scale: standing, its step, and the arc of its running jump over a gap. */
export function BodyDrawing({ figures: f }: { figures: BodyFigures }) {
  const reach = jumpReach(f) ?? 0;
  const k = Math.min((W - 24) / (reach + 4.4), (H - 26) / Math.max(f.height * 1.12, f.jumpApex + f.height * 0.6));
  const floor = H - 16;
  const edge = 12 + 2.6 * k;
  const v0 = takeOffSpeed(f);
  const arc = Array.from({ length: 25 }, (_, i) => {
    const t = ((2 * v0) / f.gravity) * (i / 24);
    return `${(edge + f.run * t * k).toFixed(1)} ${(floor - (v0 * t - (f.gravity * t * t) / 2) * k).toFixed(1)}`;
  }).join('L');
  const far = edge + reach * k;
  const h = f.height * k;
  return (
    <svg width={W} height={H} className="mx-3 my-1 block" role="img" aria-label={`${f.height} m tall, steps ${f.step} m, jumps ${reach.toFixed(2)} m`}>
      <defs>
        <pattern id="body-earth" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <path d="M0 0V6" stroke="var(--hair)" />
        </pattern>
      </defs>
      <path d={`M0 ${floor}H${edge}V${H}H0zM${far} ${H}V${floor}H${W}V${H}z`} fill="url(#body-earth)" />
      <path d={`M0 ${floor}H${edge}V${H}M${far} ${H}V${floor}H${W}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <path d={`M${arc}`} transform={`translate(0 0)`} fill="none" stroke="var(--ink)" strokeDasharray="4 3" />
      <g transform={`translate(${12 + 0.9 * k} ${floor}) scale(${h / 100})`} fill="var(--oxide)">
        <path d="M-9 0L-7 -48L-14 -50L-11 -82H11L14 -50L7 -48L9 0H3L0 -44L-3 0z" />
        <circle cy={-92} r={8} />
      </g>
      <path d={`M${12 + 0.9 * k - h * 0.3} ${floor - h}h${-4}M${12 + 0.9 * k - h * 0.3 - 2} ${floor}v${-h}`} stroke="var(--ink)" />
      <path d={`M${edge} ${H - 6}H${far}M${edge} ${H - 10}v8M${far} ${H - 10}v8`} stroke="var(--ink)" />
      <text
        fill="var(--ink)"
        className="fig"
        x={(edge + far) / 2}
        y={H - 9}
        textAnchor="middle"
        fontSize="12"
        fontWeight="600"
        stroke="var(--raised)"
        strokeWidth="3"
        paintOrder="stroke"
      >
        {reach.toFixed(2)} m
      </text>
      <text fill="var(--ink)" className="fig" x={12 + 0.9 * k + h * 0.22} y={floor - h * 0.55} fontSize="12" fontWeight="600">
        {f.height.toFixed(2)} m
      </text>
    </svg>
  );
}
