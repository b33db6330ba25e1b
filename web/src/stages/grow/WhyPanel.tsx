import type { Why } from '@rammer/core/growth/why';
import { WhyParts } from '../../ui/WhyParts';

/** The answer to "why here, why not here": a verdict and every part of it with its value. */
export function WhyPanel({ why }: { why?: Why }) {
  if (!why) return <p className="label m-0 px-3 py-2">Click a spot: every mask and chance of the species at hand is told, with its value.</p>;
  return (
    <div className="border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }} data-testid="why">
      <p className="m-0 pb-1 font-medium" style={{ color: why.here ? 'var(--lichen-text)' : undefined }}>
        {why.here ? '✓ ' : '✕ '}
        {why.verdict}
      </p>
      <WhyParts parts={why.parts} />
    </div>
  );
}
