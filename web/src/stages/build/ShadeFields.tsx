import type { Piece } from '@rammer/core/level/objects';
import type { Session } from '../../store/session';
import { setThings } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';

const SHADE = { saturation: 0, contrast: 0, roughness: 0 };
type Shade = keyof typeof SHADE;

/** How pieces differ from the materials they share with others: no material more, no draw more. */
export function ShadeFields({ session, pieces }: { session: Session; pieces: Piece[] }) {
  const of = (p: Piece, key: Shade): number => p.shade?.[key] ?? 0;
  const set = (key: Shade, value: number) =>
    setThings(
      session,
      pieces,
      (t) => {
        const shade = { ...SHADE, ...(t as Piece).shade, [key]: value };
        return { shade: Object.values(shade).every((v) => v === 0) ? null : shade };
      },
      key,
    );
  return (
    <div className="grid grid-cols-3 gap-x-2" title="of this use alone; the material stays one with the others">
      {(Object.keys(SHADE) as Shade[]).map((key) => (
        <NumberField
          key={key}
          label={key}
          className="grid min-w-0 gap-0.5"
          fill
          value={of(pieces[0], key) * 100}
          mixed={pieces.every((p) => of(p, key) === of(pieces[0], key)) ? undefined : 'mixed'}
          unit="%"
          min={-100}
          max={100}
          step={5}
          digits={0}
          onCommit={(v) => set(key, v / 100)}
        />
      ))}
    </div>
  );
}
