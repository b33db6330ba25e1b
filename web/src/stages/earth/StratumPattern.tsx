import { useId } from 'react';
import type { Lift } from '@rammer/core/level/objects';
import { STRATA } from './strata';

/** A stratum's pattern, as wide and high as what it stands in: its kind is told by it, in words too unless those stand beside it (`mute`). */
export function StratumPattern({
  kind,
  className,
  hidden = false,
  mute = false,
}: {
  kind: Lift['lift'];
  className?: string;
  hidden?: boolean;
  mute?: boolean;
}) {
  const id = useId();
  return (
    <svg className={className} {...(mute ? { 'aria-hidden': true } : { role: 'img', 'aria-label': kind })} style={{ opacity: hidden ? 0.4 : undefined }}>
      {!mute && <title>{kind}</title>}
      <defs>
        <pattern id={id} width="16" height="16" patternUnits="userSpaceOnUse" y="4">
          <path d={STRATA[kind]} fill="none" stroke="var(--ink)" />
        </pattern>
      </defs>
      <rect width="100%" height="100%" fill={kind === 'hand' ? 'var(--chosen)' : 'var(--raised)'} />
      <rect width="100%" height="100%" fill={`url(#${id})`} />
    </svg>
  );
}
