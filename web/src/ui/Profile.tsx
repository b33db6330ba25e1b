interface Props {
  name: string;
  shortcut?: string;
  /** SVG paths in a 118 x 24 drawing: before dashed, after solid; the ground line is closed below and hatched */
  before: string;
  after: string;
  active: boolean;
  /** in a row of four: the drawing's middle 66 of its 118 are shown */
  narrow?: boolean;
  onPick(): void;
}

/** A tool as a miniature section: the ground before it dashed, after it solid, earth hatched. */
export function Profile({ name, shortcut, before, after, active, narrow, onPick }: Props) {
  const ink = active ? 'var(--raised)' : 'var(--ink)';
  return (
    <button
      className={`relative h-10 border-b border-r text-left`}
      aria-pressed={active}
      onClick={onPick}
      style={{ background: active ? 'var(--ink)' : 'var(--raised)', color: active ? 'var(--raised)' : undefined, borderColor: 'var(--hair)' }}
      title={shortcut ? `${name} (${shortcut})` : name}
    >
      <span className={`absolute ${narrow ? 'left-1' : 'left-3'} top-[2px] text-[13px] leading-4`}>{name}</span>
      {shortcut && (
        <span className="fig absolute right-1 top-[3px] text-[12px] leading-4" style={{ color: active ? 'var(--hair)' : 'var(--ink-2)' }}>
          {shortcut}
        </span>
      )}
      <svg
        className={`absolute bottom-0`}
        style={{ left: narrow ? 1 : 4 }}
        width={narrow ? 64 : 118}
        height="24"
        viewBox={narrow ? '27 0 64 24' : '0 0 118 24'}
        aria-hidden
      >
        <defs>
          <pattern id={active ? 'hatch-on' : 'hatch-off'} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <path d="M0 0V5" stroke={ink} strokeOpacity={active ? 0.5 : 0.3} />
          </pattern>
        </defs>
        <path d={`${after}V24H0z`} fill={`url(#${active ? 'hatch-on' : 'hatch-off'})`} />
        <path d={before} fill="none" stroke={ink} strokeWidth="1" strokeDasharray="3 2.5" />
        <path d={after} fill="none" stroke={ink} strokeWidth="1.6" strokeLinejoin="round" />
      </svg>
    </button>
  );
}
