import { Dices } from 'lucide-react';
import { BLENDS, type Lift, type NoiseLift, type Pad, type Route } from '@rammer/core/level/objects';
import { heightAt } from '@rammer/core/earth/sample';
import type { Session } from '../../store/session';
import { setLift } from '../../tools/lifts';
import { mm } from '../../tools/things';
import { NumberField } from '../../ui/NumberField';
import type { LevelView } from '../../view/LevelView';
import { LandformFields } from './LandformFields';
import { MaskFields } from './MaskFields';
import { SeedGallery } from './SeedGallery';
import { WeatherFields } from './WeatherFields';
import { useWorkWindow, WorkBar } from './workWindow';

const BLEND_WORDS = { add: 'adds', max: 'the higher', min: 'the lower', replace: 'replaces' } as const;

/** What can be set of the chosen lift: its own numbers, how it joins what lies below, and where it counts. */
export function LiftFields({ session, view, lift: kept }: { session: Session; view?: LevelView; lift: Lift }) {
  const work = useWorkWindow(session, view, kept);
  const lift = work.lift;
  const set = (fields: Record<string, unknown>, label: string) => (work.on ? work.tune(fields) : setLift(session, lift, fields, `${label} of ${lift.name}`));
  const differs = lift.lift === 'noise' || lift.lift === 'landform' || lift.lift === 'survey';
  const adds = lift.lift === 'noise' || lift.lift === 'landform';
  const own = adds ? 'add' : 'replace';
  const blend = lift.blend ?? own;
  return (
    <section aria-label={`fields of ${lift.name}`} className="max-h-[46%] shrink-0 overflow-y-auto border-t" style={{ borderColor: 'var(--hair)' }}>
      {lift.lift !== 'hand' && lift.lift !== 'survey' && lift.lift !== 'weather' && (
        <WorkBar work={work} disabled={!session.writable || kept.locked === true} />
      )}
      {lift.lift === 'landform' && <LandformFields lift={lift} set={set} />}
      <div className="grid grid-cols-2 gap-x-3 gap-y-1 px-3 py-2">
        {lift.lift === 'noise' && <NoiseFields session={session} lift={lift} set={set} />}
        {lift.lift === 'route' && <RouteFields session={session} lift={lift} set={set} />}
        {lift.lift === 'weather' && <WeatherFields session={session} lift={lift} set={set} />}
        {lift.lift === 'pad' && <PadFields lift={lift} set={set} />}
        <NumberField
          label="weight"
          value={(lift.weight ?? 1) * 100}
          unit="%"
          min={0}
          max={100}
          step={5}
          digits={0}
          onCommit={(v) => set({ weight: v >= 100 ? null : v / 100 }, 'weight')}
        />
        <label className="flex items-center justify-between gap-2">
          <span className="label">blend</span>
          <select
            className="textf h-6 w-[84px] px-1"
            aria-label="blend"
            value={blend}
            onChange={(e) => set({ blend: e.target.value === own ? null : e.target.value }, 'blend')}
          >
            {BLENDS.filter((b) => differs || b !== 'add').map((b) => (
              <option key={b} value={b}>
                {BLEND_WORDS[b]}
              </option>
            ))}
          </select>
        </label>
        {(lift.lift === 'noise' || lift.lift === 'landform') && blend !== 'add' && (
          <NumberField label="its zero" value={lift.base ?? 0} unit="m" min={-1000} max={3000} step={0.5} onCommit={(base) => set({ base }, 'zero')} />
        )}
      </div>
      <MaskFields session={session} lift={lift} set={set} />
    </section>
  );
}

export type SetFields = (fields: Record<string, unknown>, label: string) => boolean;

function NoiseFields({ session, lift, set }: { session: Session; lift: NoiseLift; set: SetFields }) {
  return (
    <>
      <div className="flex items-center justify-between gap-1">
        <NumberField
          label="seed"
          className="flex flex-1 items-center justify-between gap-2"
          value={lift.seed}
          min={0}
          max={2_147_483_647}
          step={1}
          digits={0}
          onCommit={(v) => set({ seed: Math.round(v) }, 'seed')}
        />
        <button className="icon-btn" aria-label="another seed" onClick={() => set({ seed: crypto.getRandomValues(new Uint32Array(1))[0] % 100_000 }, 'seed')}>
          <Dices size={15} />
        </button>
      </div>
      <NumberField label="height" value={lift.height} unit="m" min={0} max={500} step={0.5} onCommit={(height) => set({ height }, 'height')} />
      <NumberField label="scale" value={lift.scale} unit="m" min={2} max={5000} step={5} onCommit={(scale) => set({ scale }, 'scale')} />
      <NumberField label="octaves" value={lift.octaves} min={1} max={8} step={1} digits={0} onCommit={(v) => set({ octaves: Math.round(v) }, 'octaves')} />
      <NumberField label="warp" value={lift.warp ?? 0} unit="m" min={0} max={1000} step={1} onCommit={(warp) => set({ warp: warp || null }, 'warp')} />
      <label className="flex items-center justify-between gap-2">
        <span className="label">style</span>
        <select
          className="textf h-6 w-[84px] px-1"
          aria-label="style"
          value={lift.style ?? 'fractal'}
          onChange={(e) => set({ style: e.target.value === 'fractal' ? null : e.target.value }, 'style')}
        >
          <option value="fractal">hills</option>
          <option value="ridged">ridged</option>
          <option value="billow">billow</option>
        </select>
      </label>
      <SeedGallery session={session} lift={lift} onPick={(seed) => set({ seed }, 'seed')} />
    </>
  );
}

function RouteFields({ session, lift, set }: { session: Session; lift: Route; set: SetFields }) {
  const lay = () => set({ line: lift.line.map(([x, , z]) => [x, mm(heightAt(session.terrain, x, z)), z]) }, 'heights');
  const grounds = [...session.scene.ground.raster.surfaces];
  return (
    <>
      <NumberField label="width" value={lift.width} unit="m" min={0.3} max={60} step={0.25} onCommit={(width) => set({ width }, 'width')} />
      <NumberField label="shoulder" value={lift.shoulder} unit="m" min={0} max={30} step={0.25} onCommit={(shoulder) => set({ shoulder }, 'shoulder')} />
      <NumberField label="grade" value={lift.grade} unit="%" min={0} max={100} step={1} digits={1} onCommit={(grade) => set({ grade }, 'grade')} />
      <NumberField
        label="crossfall"
        value={lift.crossfall}
        unit="%"
        min={-20}
        max={20}
        step={0.5}
        digits={1}
        onCommit={(crossfall) => set({ crossfall }, 'crossfall')}
      />
      <NumberField
        label="sunk"
        value={lift.sunk ?? 0}
        unit="m"
        min={0}
        max={50}
        step={0.25}
        onCommit={(sunk) => set({ sunk: sunk || null }, 'depth below its line')}
      />
      <NumberField label="batter" value={lift.batter} unit="°" min={5} max={85} step={5} digits={0} onCommit={(batter) => set({ batter }, 'batter')} />
      <label className="flex items-center justify-between gap-2">
        <span className="label">ground</span>
        <select
          className="textf h-6 w-[84px] px-1"
          aria-label="ground it carries"
          value={lift.ground ?? ''}
          onChange={(e) => set({ ground: e.target.value || null }, 'ground')}
        >
          <option value="">as it is</option>
          {grounds.map((s) => (
            <option key={s.id} value={s.id}>
              {s.name}
            </option>
          ))}
        </select>
      </label>
      <span className="label self-center">{lift.line.length} points</span>
      <button
        className="act"
        style={{ padding: '1px 7px', minHeight: 24 }}
        title="takes the heights of its points from the ground as it lies now"
        onClick={lay}
      >
        lay on the ground
      </button>
    </>
  );
}

function PadFields({ lift, set }: { lift: Pad; set: SetFields }) {
  const following = lift.follows?.length ?? 0;
  return (
    <>
      <NumberField
        label="height"
        value={lift.height}
        unit="m"
        disabled={following > 0}
        min={-1000}
        max={3000}
        step={0.25}
        onCommit={(height) => set({ height }, 'height')}
      />
      <NumberField label="batter" value={lift.batter} unit="°" min={5} max={85} step={5} digits={0} onCommit={(batter) => set({ batter }, 'batter')} />
      <NumberField label="margin" value={lift.margin} unit="m" min={0} max={100} step={0.25} onCommit={(margin) => set({ margin }, 'margin')} />
      {following > 0 && (
        <button
          className="act"
          style={{ padding: '1px 7px', minHeight: 24 }}
          title="it stays where it lies now"
          onClick={() => set({ follows: null, outline: lift.outline, height: lift.height }, 'what it follows')}
        >{`let go of ${following}`}</button>
      )}
    </>
  );
}
