import type { Why } from '@rammer/core/growth/why';

/** The answer to "why here, why not here": a verdict and every part of it with its value. */
export function WhyPanel({ why }: { why?: Why }) {
  if (!why) return <p className="label m-0 px-3 py-2">Click a spot: every mask and chance of the species at hand is told, with its value.</p>;
  return (
    <div className="border-t px-3 py-2" style={{ borderColor: 'var(--hair)' }} data-testid="why">
      <p className="m-0 pb-1 font-medium" style={{ color: why.here ? 'var(--lichen-text)' : undefined }}>{why.here ? '✓ ' : '✕ '}{why.verdict}</p>
      <dl className="m-0 grid grid-cols-[64px_1fr_44px] gap-x-2">
        {why.parts.map((p) => (
          <div key={p.what} className="contents">
            <dt className="label">{p.what}</dt>
            <dd className="m-0 leading-4">{p.value}</dd>
            <dd className="fig m-0 text-right">{p.factor === undefined ? '' : p.what === 'wanted' ? `x ${p.factor.toFixed(2)}` : `${(p.factor * 100).toFixed(0)} %`}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
