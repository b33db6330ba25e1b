import { useEffect, useRef } from 'react';
import { noiseLiftRaster } from '@rammer/core/earth/lifts/noise';
import { settingsOf } from '@rammer/core/level/level';
import type { NoiseLift } from '@rammer/core/level/objects';
import { gridOf } from '@rammer/core/level/tiles';
import { hashInts } from '@rammer/core/num/hash';
import type { Session } from '../../store/session';

const SIDE = 40;
const COUNT = 6;

/** Seeds to pick from, each as the level would look from above under its noise alone, lit from the north-west. */
export function SeedGallery({ session, lift, onPick }: { session: Session; lift: NoiseLift; onPick(seed: number): void }) {
  const seeds = Array.from({ length: COUNT }, (_, i) => hashInts(lift.seed, i + 1) % 100_000);
  return (
    <div className="col-span-2 flex justify-between py-0.5" role="group" aria-label="seeds to pick from">
      {seeds.map((seed) => (
        <Thumb key={seed} session={session} lift={lift} seed={seed} onPick={() => onPick(seed)} />
      ))}
    </div>
  );
}

function Thumb({ session, lift, seed, onPick }: { session: Session; lift: NoiseLift; seed: number; onPick(): void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { height, scale, octaves, style, warp } = lift;
  useEffect(() => {
    const ctx = canvas.current?.getContext('2d');
    if (!ctx) return;
    const grid = gridOf(settingsOf(session.level));
    const spacing = Math.max(grid.width, grid.depth) / SIDE;
    const raster = noiseLiftRaster({ ...lift, seed, height: 1 }, { ...grid, nx: SIDE, nz: SIDE, spacing });
    const image = ctx.createImageData(SIDE, SIDE);
    for (let z = 0, o = 0; z < SIDE; z++) {
      for (let x = 0; x < SIDE; x++, o += 4) {
        const here = raster[z * SIDE + x];
        const lit = here - raster[Math.max(0, z - 1) * SIDE + Math.max(0, x - 1)];
        const v = Math.min(235, Math.max(60, 160 + here * 38 + lit * 110));
        image.data.set([v, v, v * 0.94, 255], o);
      }
    }
    ctx.putImageData(image, 0, 0);
  }, [session, lift, seed, height, scale, octaves, style, warp]);
  return (
    <button className="border p-0" style={{ borderColor: 'var(--edge)', lineHeight: 0 }} aria-label={`seed ${seed}`} title={`seed ${seed}`} onClick={onPick}>
      <canvas ref={canvas} width={SIDE} height={SIDE} style={{ width: 36, height: 36 }} />
    </button>
  );
}
