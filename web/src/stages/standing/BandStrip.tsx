import { useId } from 'react';

const LEFT = 10;
const WIDE = 224;

/** A band of values: its ends, how wide its soft edges are, and how it is drawn and typed. */
export interface Band {
  name: string;
  unit: string;
  band: readonly [number, number];
  soft: number;
  /** values that are drawn */
  drawn: readonly [number, number];
}

/** A band drawn along the values it goes by: what holds in it, with its soft ends, over what lies below. @param above,below pictures */
export function BandStrip({ of, above, below }: { of: Band; above: string; below: string }) {
  const id = useId();
  const {
    name,
    unit,
    drawn: [from, to],
    band: [low, high],
    soft,
  } = of;
  const x = (v: number) => LEFT + ((Math.min(to, Math.max(from, v)) - from) / (to - from)) * WIDE;
  const [a, b] = low <= from ? [from, from] : [low - soft / 2, low + soft / 2];
  const [c, d] = high >= to ? [to, to] : [high - soft / 2, high + soft / 2];
  // Round numbers: the range of each kind falls into six or four.
  const parts = (to - from) % 6 === 0 && to - from >= 6 ? 6 : 4;
  const ticks = Array.from({ length: parts + 1 }, (_, i) => from + ((to - from) * i) / parts);
  return (
    <svg width="248" height="34" className="block" role="img" aria-label={`${name} from ${low} to ${high}, soft over ${soft}`}>
      <defs>
        <linearGradient id={`${id}-in`}>
          <stop offset="0" stopColor="#fff" stopOpacity="0" />
          <stop offset="1" stopColor="#fff" />
        </linearGradient>
        <linearGradient id={`${id}-out`}>
          <stop offset="0" stopColor="#fff" />
          <stop offset="1" stopColor="#fff" stopOpacity="0" />
        </linearGradient>
        <mask id={`${id}-mask`}>
          {x(b) > x(a) && <rect x={x(a)} width={x(b) - x(a)} height="16" fill={`url(#${id}-in)`} />}
          <rect x={x(b)} width={Math.max(0, x(c) - x(b))} height="16" fill="#fff" />
          {x(d) > x(c) && <rect x={x(c)} width={x(d) - x(c)} height="16" fill={`url(#${id}-out)`} />}
        </mask>
      </defs>
      <image href={below} x={LEFT} y={0} width={WIDE} height={16} preserveAspectRatio="xMidYMid slice" />
      <image href={above} x={LEFT} y={0} width={WIDE} height={16} preserveAspectRatio="xMidYMid slice" mask={`url(#${id}-mask)`} />
      <rect x={LEFT} y={0.5} width={WIDE} height={15.5} fill="none" stroke="var(--ink)" />
      {ticks.map((v) => (
        <g key={v}>
          <path d={`M${x(v)} 16v4`} stroke="var(--ink)" />
          <text x={x(v)} y={31} className="fig" fontSize="12" textAnchor="middle" fill="var(--ink-2)">
            {Number(v.toFixed(2))}
            {unit === '°' ? '°' : ''}
          </text>
        </g>
      ))}
    </svg>
  );
}
