import { useEffect, useState } from 'react';
import { withFacts } from '@rammer/core/kit/withFacts';
import { assetFile } from '../../store/assetFile';
import type { LevelView } from '../../view/LevelView';
import type { Entry } from './entries';

interface Props {
  entry: Entry;
  view?: LevelView;
  on: boolean;
  /** pixels of its picture */
  wide?: boolean;
  favourite: boolean;
  onPick(): void;
}

/** An asset in the library: beside the figure, with its size and its price. */
export function AssetCard({ entry, view, on, wide, favourite, onPick }: Props) {
  const [picture, setPicture] = useState<string>();
  const { hash } = entry;
  useEffect(() => {
    let gone = false;
    void assetFile(hash).then(
      async (mesh) => {
        const url = gone || !view ? undefined : await view.assetPicture(mesh);
        if (!gone) setPicture(url);
      },
      () => {},
    );
    return () => {
      gone = true;
    };
  }, [hash, view]);
  const [w, h, d] = entry.size;
  const faint = { color: on ? 'var(--hair)' : 'var(--ink-2)' };
  return (
    <button
      role="option"
      aria-selected={on}
      onClick={onPick}
      className="flex min-w-0 flex-col border-b border-r text-left"
      style={{
        height: wide ? 164 : 116,
        borderColor: 'var(--hair)',
        background: on ? 'var(--ink)' : 'var(--raised)',
        color: on ? 'var(--raised)' : undefined,
      }}
      title={
        `${entry.name}: ${w.toFixed(2)} x ${h.toFixed(2)} x ${d.toFixed(2)} m, ${entry.triangles.join(' / ')} ` +
        `triangles, ${entry.materials.length} material${entry.materials.length === 1 ? '' : 's'}, collider ${entry.collider}`
      }
    >
      <span className="relative block w-full" style={{ height: wide ? 112 : 72, background: 'var(--plot)' }}>
        {picture && <img src={picture} alt="" className="h-full w-full object-contain" />}
        {(favourite || (wide && entry.hollow.length > 0)) && (
          <span className="absolute right-1 top-0.5 text-[12px]" style={{ color: 'var(--ink-2)' }}>
            {favourite ? '★' : ''}
            {wide && entry.hollow.length > 0 ? ' hollow' : ''}
          </span>
        )}
      </span>
      <span className="truncate px-1.5 text-[13px] leading-4">{entry.name}</span>
      <span className="fig truncate px-1.5 text-[12px] leading-[13px]" style={faint}>
        {w.toFixed(1)} x {h.toFixed(1)} x {d.toFixed(1)} m
      </span>
      <span className="fig truncate px-1.5 text-[12px] leading-[13px]" style={faint}>
        {entry.triangles[0]} tri, {entry.materials.length} mat
        {wide && entry.placed + entry.grown > 0 ? `, ${entry.placed > 0 ? `${entry.placed} placed` : 'grows'}` : ''}
      </span>
    </button>
  );
}

/** An asset as this level has it. */
export async function assetOf(entry: Entry) {
  const file = await assetFile(entry.hash);
  return entry.object ? withFacts(file, entry.object) : file;
}
