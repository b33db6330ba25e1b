import { REMAINDERS, SLOPES, type Kit, type LaidLine } from '@rammer/core/level/objects';
import type { LaidAs } from '../../store/laying';
import type { Session } from '../../store/session';
import { kitsOf } from '../../tools/laidLines';
import { NumberField } from '../../ui/NumberField';

const SLOPE_WORDS: Record<LaidLine['slope'], string> = { level: 'level', step: 'in steps', lean: 'leaning' };
const REMAINDER_WORDS: Record<LaidLine['remainder'], string> = { leave: 'left', stretch: 'stretched', filler: 'filled', corner: 'corner moves' };

/** Which kit. */
export function KitField({ session, value, onPick }: { session: Session; value: string; onPick(id: string): void }) {
  return (
    <label className="grid min-w-0 flex-1 gap-0.5">
      <span className="label">kit</span>
      <select className="textf h-6 w-full px-1" aria-label="kit" value={value} onChange={(e) => onPick(e.target.value)}>
        {value === '' && <option value="">several</option>}
        {kitsOf(session).map((k) => (
          <option key={k.id} value={k.id}>
            {k.name}
          </option>
        ))}
      </select>
    </label>
  );
}

/** How a line is laid. Fields that several lines have otherwise are shown as those of the first. */
export function LineOptions({ kit, value, onSet }: { kit: Kit; value: LaidAs; onSet(set: Partial<LaidAs>, what: string): void }) {
  const has = (use: string) => kit.parts.some((p) => p.use === use && p.weight > 0);
  const regular = (use: 'door' | 'window') => value.regular?.find((r) => r.use === use)?.each ?? 0;
  const setRegular = (use: 'door' | 'window', each: number) => {
    const others = (value.regular ?? []).filter((r) => r.use !== use);
    const next = each > 0 ? [...others, { use, each, first: Math.floor(each / 2) }] : others;
    onSet({ regular: next.length > 0 ? next : undefined }, `${use}s`);
  };
  return (
    <>
      <div className="flex items-end gap-2">
        <Choice label="on slopes" value={value.slope} words={SLOPE_WORDS} options={SLOPES} onPick={(slope) => onSet({ slope }, 'slope')} />
        <Choice
          label="remainder"
          value={value.remainder}
          words={REMAINDER_WORDS}
          options={REMAINDERS}
          onPick={(remainder) => onSet({ remainder }, 'remainder')}
        />
        <NumberField
          label="storeys"
          className="grid w-[52px] shrink-0 gap-0.5"
          fill
          value={value.storeys}
          min={0}
          max={40}
          step={1}
          digits={0}
          onCommit={(v) => onSet({ storeys: Math.round(v) }, 'storeys')}
        />
      </div>
      <div className="flex flex-wrap gap-1">
        <Toggle name="curved" title="bends smoothly through its corners" on={value.curved} onSet={(curved) => onSet({ curved }, 'curve')} />
        <Toggle
          name="bent"
          title="parts are bent to follow the line, in plan and where they lean in height; each is a draw of its own"
          on={value.bent}
          onSet={(bent) => onSet({ bent }, 'bend')}
        />
        <Toggle name="other side" title="looks to the other side" on={value.turned} onSet={(turned) => onSet({ turned }, 'side')} />
        {has('floor') && (
          <Toggle name="floors" title="over every cell of the grid inside the outline" on={value.floors} onSet={(floors) => onSet({ floors }, 'floors')} />
        )}
        {has('stair') && <Toggle name="stairs" title="from storey to storey" on={value.stairs} onSet={(stairs) => onSet({ stairs }, 'stairs')} />}
        {has('roof') && <Toggle name="roof" title="over an outline of right angles" on={value.roof} onSet={(roof) => onSet({ roof }, 'roof')} />}
      </div>
      <div className="flex items-end gap-2">
        {has('window') && <Each label="window each" value={regular('window')} onSet={(v) => setRegular('window', v)} />}
        {has('door') && <Each label="door each" value={regular('door')} onSet={(v) => setRegular('door', v)} />}
        {has('post') && (
          <NumberField
            label="posts apart"
            className="grid min-w-0 flex-1 gap-0.5"
            fill
            value={value.spacing ?? 0}
            unit="m"
            min={0}
            max={1000}
            step={0.5}
            onCommit={(v) => onSet({ spacing: v >= 0.1 ? v : undefined }, 'posts')}
          />
        )}
      </div>
    </>
  );
}

/** How many parts apart; 0 is none. */
function Each({ label, value, onSet }: { label: string; value: number; onSet(v: number): void }) {
  return (
    <NumberField
      label={label}
      className="grid min-w-0 flex-1 gap-0.5"
      fill
      value={value}
      min={0}
      max={100}
      step={1}
      digits={0}
      onCommit={(v) => onSet(Math.round(v))}
    />
  );
}

function Choice<V extends string>({
  label,
  value,
  words,
  options,
  onPick,
}: {
  label: string;
  value: V;
  words: Record<V, string>;
  options: readonly V[];
  onPick(v: V): void;
}) {
  return (
    <label className="grid min-w-0 flex-1 gap-0.5">
      <span className="label whitespace-nowrap">{label}</span>
      <select className="textf h-6 w-full px-1" aria-label={label} value={value} onChange={(e) => onPick(e.target.value as V)}>
        {options.map((o) => (
          <option key={o} value={o}>
            {words[o]}
          </option>
        ))}
      </select>
    </label>
  );
}

function Toggle({ name, title, on = false, onSet }: { name: string; title: string; on?: boolean; onSet(on: boolean): void }) {
  return (
    <button className="act" style={{ minHeight: 24, padding: '1px 7px' }} aria-pressed={on} title={title} onClick={() => onSet(!on)}>
      {name}
    </button>
  );
}
