import { NumberField } from '../../ui/NumberField';

/** How plants stand about others. */
export interface Cluster {
  /** share of these that have any */
  chance: number;
  count: [number, number];
  /** metres */
  spread: number;
}

/** Chance, spread and count of what stands about others, in two columns of its place. */
export function ClusterFields({ of: { chance, count, spread }, onSet }: { of: Cluster; onSet(fields: Partial<Cluster>): void }) {
  const [low, high] = count;
  const whole = { min: 0, max: 24, step: 1, digits: 0 };
  return (
    <>
      <NumberField label="chance" value={chance * 100} unit="%" min={0} max={100} step={5} digits={0} onCommit={(v) => onSet({ chance: v / 100 })} />
      <NumberField label="spread" value={spread} unit="m" min={0.05} max={100} step={0.25} onCommit={(v) => onSet({ spread: v })} />
      <NumberField label="each has" value={low} {...whole} onCommit={(v) => onSet({ count: [Math.round(v), Math.max(Math.round(v), high)] })} />
      <NumberField label="to" value={high} {...whole} onCommit={(v) => onSet({ count: [Math.min(Math.round(v), low), Math.round(v)] })} />
    </>
  );
}
