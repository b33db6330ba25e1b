import type { WhyPart } from '@rammer/core/surface/why';

/** The parts of an answer with their values and factors, one row each. */
export function WhyParts({ parts }: { parts: readonly WhyPart[] }) {
  return (
    <dl className="m-0 grid grid-cols-[64px_1fr_44px] gap-x-2">
      {parts.map((p, i) => (
        <div key={i} className="contents">
          <dt className="label">{p.what}</dt>
          <dd className="m-0 leading-4">{p.value}</dd>
          <dd className="fig m-0 text-right">
            {p.factor === undefined ? '' : p.what === 'wanted' ? `x ${p.factor.toFixed(2)}` : `${(p.factor * 100).toFixed(0)} %`}
          </dd>
        </div>
      ))}
    </dl>
  );
}
