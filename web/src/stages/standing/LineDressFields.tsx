import { seamOffers } from '@rammer/core/kit/seamOffers';
import type { LineDressing } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { useMemo } from 'react';
import type { Session } from '../../store/session';
import { assetHere, growFrom } from '../../tools/libraryAssets';
import { groundAtPlace, hidersOf, toggled, type Hider } from '../../tools/seams';
import { NumberField } from '../../ui/NumberField';
import { useEntries } from '../assets/useEntries';
import { HALF, LeanField, MixList, Range, RangeFields } from './RangeFields';

/** So many are offered. */
const OFFERED = 9;

interface Props {
  session: Session;
  value: LineDressing;
  /** where the line begins: what is offered belongs on the ground there */
  at?: Vec3;
  onSet(dress: LineDressing, what: string): void;
}

/** What a line is dressed with, and how each may differ; what hides a seam there is offered. */
export function LineDressFields({ session, value, at, onSet }: Props) {
  const nameOf = (id: string) => session.level.object(id)?.name ?? 'one that is gone';
  const list = [
    ...value.pieces.map((p) => ({ id: p.asset, name: nameOf(p.asset), weight: p.weight })),
    ...value.plants.map((p) => ({ id: p.species, name: nameOf(p.species), weight: p.weight })),
  ];
  const set = (fields: Partial<LineDressing>, what: string) => onSet({ ...value, ...fields }, what);
  return (
    <>
      <MixList
        label="along the line"
        list={list}
        onWeight={(id, weight) =>
          set(
            {
              pieces: value.pieces.map((p) => (p.asset === id ? { ...p, weight } : p)),
              plants: value.plants.map((p) => (p.species === id ? { ...p, weight } : p)),
            },
            'weight in',
          )
        }
        onTake={(id) => set({ pieces: value.pieces.filter((p) => p.asset !== id), plants: value.plants.filter((p) => p.species !== id) }, 'list of')}
      />
      <Offers session={session} value={value} at={at} onSet={onSet} />
      <div className="flex gap-2">
        <NumberField
          label="apart"
          className={HALF}
          fill
          value={value.spacing}
          unit="m"
          min={0.05}
          max={1000}
          step={0.1}
          onCommit={(spacing) => set({ spacing }, 'spacing of')}
        />
        <NumberField
          label="loose"
          className={HALF}
          fill
          value={value.loose * 100}
          unit="%"
          min={0}
          max={100}
          step={10}
          digits={0}
          onCommit={(v) => set({ loose: v / 100 }, 'looseness of')}
        />
        <LeanField value={value.lean} onSet={(lean) => set({ lean }, 'lean along')} />
      </div>
      <Range label="aside" unit="m" value={value.aside} limits={[-100, 100]} step={0.1} onSet={(aside) => set({ aside }, 'width of')} />
      <RangeFields value={value} onSet={(fields) => set(fields as Partial<LineDressing>, 'ranges of')} />
    </>
  );
}

/** What can hide the seam by its size and the ground there: a click puts it into the list. */
function Offers({ session, value, at, onSet }: Props) {
  const { entries } = useEntries(session);
  const ground = at && groundAtPlace(session, at);
  const { version } = session.level;
  const offers = useMemo(() => {
    const here = hidersOf(session);
    const known = new Set(here.map((h) => h.asset));
    const others = entries.filter((e) => !e.object || !known.has(e.object.id));
    return seamOffers([...here, ...others], ground ?? '', value.spacing).filter((o) => ground !== undefined || !o.grounds);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the level is one object that changes: its version says when
  }, [session, entries, ground, value.spacing, version]);
  const inList = new Set([...value.pieces.map((p) => p.asset), ...value.plants.map((p) => p.species)]);
  const take = (of: (typeof offers)[number]) => {
    if ('scale' in of) {
      onSet(toggled(value, of), 'list of');
      return;
    }
    // Taken for a line it stands there, and does not spread over the level by its rule.
    const id = of.role === 'plant' ? growFrom(session, of, false) : assetHere(session, of)?.id;
    const found = id && hidersOf(session).find((h) => (h.species ?? h.asset) === id);
    const hider: Pick<Hider, 'species' | 'asset' | 'scale'> | undefined = found || (id && of.role !== 'plant' ? { asset: id, scale: 1 } : undefined);
    if (hider) onSet(toggled(value, hider), 'list of');
  };
  const open = offers.filter((o) => !('scale' in o) || !inList.has(o.species ?? o.asset)).slice(0, OFFERED);
  if (open.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-1">
      <span className="label">{ground ? `for ${ground}:` : 'offered:'}</span>
      {open.map((o) => (
        <button key={'scale' in o ? (o.species ?? o.asset) : o.hash} className="act" style={{ minHeight: 22, padding: '0 6px' }} onClick={() => take(o)}>
          {o.name}
        </button>
      ))}
    </div>
  );
}
