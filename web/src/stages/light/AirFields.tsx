import { useRef, useState } from 'react';
import { AIR, type Air, type Lighting } from '@rammer/core/level/objects';
import { atan2Deg } from '@rammer/core/num/trig';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { addPanorama } from '../../store/panorama';
import { NumberField } from '../../ui/NumberField';

const SKIES: Record<Air['sky'], string> = { colours: 'its colours', sun: 'sun and air', panorama: 'panorama' };

/** Where a direction in a panorama stands in the level, degrees. */
function standsAt([x, y, z]: Vec3, turn: number): Lighting['sun'] {
  const azimuth = (atan2Deg(x, -z) + turn + 720) % 360;
  return { azimuth: Math.round(azimuth * 10) / 10, elevation: Math.round(atan2Deg(y, Math.hypot(x, z)) * 10) / 10 };
}

/** Sky, haze by height and wind of a lighting, as the full picture draws them. */
export function AirFields({ session, lighting, set }: { session: Session; lighting: Lighting; set(fields: Partial<Lighting>, what: string): void }) {
  const air = lighting.air ?? AIR;
  const put = (patch: Partial<Air>, what: string) => set({ air: { ...air, ...patch } }, what);
  const file = useRef<HTMLInputElement>(null);
  const [reading, setReading] = useState(false);
  const read = async (picked: File) => {
    setReading(true);
    try {
      const { asset, sun } = await addPanorama(session, picked);
      const stands = sun && standsAt(sun, air.turn);
      set({ panorama: asset, air: { ...air, sky: 'panorama' }, ...(stands ? { sun: stands } : {}) }, `panorama ${picked.name}`);
      session.say(
        stands ? `panorama ${picked.name}: its sun stands at ${stands.azimuth}°, ${stands.elevation}° high` : `panorama ${picked.name}: no sun in it`,
      );
    } catch (e) {
      session.say(`${picked.name}: ${e instanceof Error ? e.message : String(e)}`, true);
    } finally {
      setReading(false);
    }
  };
  const choose = (sky: Air['sky']) => {
    if (sky === 'panorama' && !lighting.panorama) file.current?.click();
    else put({ sky }, 'sky');
  };
  return (
    <details
      className="border-t px-3 py-1.5"
      style={{ borderColor: 'var(--hair)' }}
      onToggle={(e) => {
        if (e.currentTarget.open) e.currentTarget.scrollIntoView({ block: 'nearest' });
      }}
    >
      <summary className="label cursor-pointer">air: sky, clouds, wind (full picture)</summary>
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 pt-1">
        <label className="col-span-2 flex items-center gap-2">
          <span className="label">sky by</span>
          <select className="textf h-7 flex-1 px-1" value={air.sky} disabled={reading} onChange={(e) => choose(e.target.value as Air['sky'])}>
            {Object.entries(SKIES).map(([id, name]) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          {air.sky === 'panorama' && (
            <button className="act" style={{ minHeight: 24, padding: '0 8px' }} disabled={reading} onClick={() => file.current?.click()}>
              {reading ? 'reading' : 'other picture'}
            </button>
          )}
        </label>
        <input
          ref={file}
          type="file"
          className="hidden"
          aria-label="panorama of the sky"
          accept=".hdr,.exr,image/png,image/jpeg,image/webp"
          onChange={(e) => {
            const picked = e.target.files?.[0];
            e.target.value = '';
            if (picked) void read(picked);
          }}
        />
        {air.sky === 'panorama' ? (
          <NumberField label="turned" value={air.turn} unit="°" min={0} max={360} step={5} digits={0} onCommit={(turn) => put({ turn }, 'turn of the sky')} />
        ) : (
          <NumberField
            label="clouds"
            value={air.clouds * 100}
            unit="%"
            min={0}
            max={100}
            step={5}
            digits={0}
            onCommit={(v) => put({ clouds: v / 100 }, 'clouds')}
          />
        )}
        <NumberField label="dust" value={air.dust} min={0} max={10} step={0.5} digits={1} onCommit={(dust) => put({ dust }, 'dust in the air')} />
        <NumberField
          label="haze to"
          value={air.hazeHeight}
          unit="m"
          min={0}
          max={5000}
          step={10}
          digits={0}
          onCommit={(hazeHeight) => put({ hazeHeight }, 'height of haze')}
        />
        <NumberField
          label="shafts"
          value={air.shafts * 100}
          unit="%"
          min={0}
          max={400}
          step={10}
          digits={0}
          onCommit={(v) => put({ shafts: v / 100 }, 'shafts')}
        />
        <NumberField label="wind" value={air.wind} unit="m/s" min={0} max={30} step={1} digits={0} onCommit={(wind) => put({ wind }, 'wind')} />
        <NumberField
          label="wind from"
          value={air.windFrom}
          unit="°"
          min={0}
          max={360}
          step={15}
          digits={0}
          onCommit={(windFrom) => put({ windFrom }, 'wind')}
        />
      </div>
    </details>
  );
}
