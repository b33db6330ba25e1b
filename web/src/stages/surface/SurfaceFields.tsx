import { LAYINGS, PIXELS, SURFACE_KINDS, TEXTURES, type Surface } from '@rammer/core/level/objects';
import { SURFACE_PIXELS } from '@rammer/core/surface/surfaces';
import type { Session } from '../../store/session';
import { ColourField } from '../../ui/ColourField';
import { NumberField } from '../../ui/NumberField';
import { OwnPicture } from './OwnPicture';

/** What a surface looks like, how large, how it is laid, and what a foot meets on it. */
export function SurfaceFields({ session, surface }: { session: Session; surface: Surface }) {
  const patch = (fields: { [K in keyof Surface]?: Surface[K] | null }, what: string) =>
    session.commit({ kind: 'set', patches: [{ id: surface.id, set: fields }] }, `${what} of ${surface.name}`);
  const pixels = surface.pixels ?? SURFACE_PIXELS;
  const { hollows } = surface;
  return (
    <div className="grid gap-1 border-t px-3 py-1.5" style={{ borderColor: 'var(--hair)' }} role="group" aria-label={`surface ${surface.name}`}>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1">
        <Choice label="texture" value={surface.texture} options={TEXTURES} onPick={(texture) => patch({ texture }, 'texture')} />
        <NumberField label="tile" value={surface.tile} unit="m" min={0.25} max={64} step={0.5} onCommit={(tile) => patch({ tile }, 'tile')} />
        <Choice
          label="laid"
          value={surface.laying ?? 'plain'}
          options={LAYINGS}
          onPick={(laying) => patch({ laying: laying === 'plain' ? null : laying }, 'laying')}
        />
        <ColourField label="tint" value={surface.tint} onCommit={(tint) => patch({ tint }, 'tint')} />
        <Choice label="underfoot" value={surface.feel ?? 'earth'} options={SURFACE_KINDS} onPick={(feel) => patch({ feel }, 'kind')} />
        <NumberField label="grip" value={surface.grip ?? 1} min={0} max={2} step={0.1} onCommit={(grip) => patch({ grip }, 'grip')} />
        <Choice
          label="pixels"
          value={String(pixels)}
          options={PIXELS.map(String)}
          onPick={(v) => patch({ pixels: Number(v) as Surface['pixels'] }, 'pixels')}
        />
        <span className="flex items-center justify-end">
          <span className="fig" title="of its texture in the game">
            {(pixels / surface.tile).toFixed(0)} px/m
          </span>
        </span>
      </div>
      <OwnPicture session={session} surface={surface} />
      <div className="flex items-center gap-2">
        <label className="flex min-w-0 flex-1 items-center gap-2">
          <span className="label whitespace-nowrap">in its hollows</span>
          <select
            className="textf h-6 min-w-0 flex-1 px-1"
            aria-label="in its hollows"
            value={hollows?.texture ?? ''}
            onChange={(e) =>
              patch({ hollows: e.target.value ? { level: 0.45, soft: 0.2, ...hollows, texture: e.target.value as Surface['texture'] } : null }, 'hollows')
            }
          >
            <option value="">nothing else</option>
            {TEXTURES.filter((t) => surface.picture !== undefined || t !== surface.texture).map((t) => (
              <option key={t}>{t}</option>
            ))}
          </select>
        </label>
      </div>
      {hollows && (
        <div className="grid grid-cols-2 gap-x-3">
          <NumberField
            label="filled to"
            value={hollows.level * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            digits={0}
            onCommit={(v) => patch({ hollows: { ...hollows, level: v / 100 } }, 'hollows')}
          />
          <NumberField
            label="edge"
            value={hollows.soft * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            digits={0}
            onCommit={(v) => patch({ hollows: { ...hollows, soft: v / 100 } }, 'hollows')}
          />
        </div>
      )}
    </div>
  );
}

function Choice<T extends string>({ label, value, options, onPick }: { label: string; value: T; options: readonly T[]; onPick(value: T): void }) {
  return (
    <label className="flex items-center justify-between gap-2">
      <span className="label">{label}</span>
      <select className="textf h-6 min-w-0 max-w-[76px] px-0.5" aria-label={label} value={value} onChange={(e) => onPick(e.target.value as T)}>
        {options.map((o) => (
          <option key={o}>{o}</option>
        ))}
      </select>
    </label>
  );
}
