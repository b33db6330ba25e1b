import fc from 'fast-check';
import { expect, it } from 'vitest';
import { grow } from '../growth/grow';
import { applyEdit, commitChanges, type AnyEditBody } from '../level/edits/index';
import { makeLevel } from '../level/level';
import { TILE_SAMPLES, TILE_SIDE, tileKey } from '../level/tiles';
import { packRaster, toBase64 } from '../num/fixed';
import { groundDefaults } from '../surface/surfaces';
import { testAssets } from '../testing/assets';
import { testSpecies } from '../testing/growth';
import { testObjects } from '../testing/levels';
import { Grower } from './grower';
import { inPlace } from './inPlace';
import { growthInput } from './plantsInput';
import { HostsMirror } from './hosts';
import { Scene } from './scene';

const assets = testAssets();
const rule = { on: true, slope: [0, 25] as [number, number], height: [-2, 3] as [number, number], soft: 2, grounds: ['turf', 'moss'] };
const level = () =>
  makeLevel([
    ...testObjects(2, 0.5),
    ...groundDefaults(),
    ...[...assets.keys()].map((id) => ({ id, version: 1, kind: 'asset' as const, name: id, role: 'plant' as const, hash: '0'.repeat(64) })),
    testSpecies('birch', 0, { density: 2, spacing: 3, clearance: 1, rule }),
    testSpecies('heather', 1, { density: 12, spacing: 0.9, clearance: 0.3, rule }),
  ]);

/** A square of a raster raised or painted: of the hand lift, or of a surface that what grows does not grow on. */
const stroke = ([what, x, z, size, by]: readonly ['height' | 'paint' | 'sown', number, number, number, number]): AnyEditBody => {
  const delta = new Int32Array(TILE_SAMPLES);
  for (let k = 0; k < size; k++) for (let i = 0; i < size; i++) delta[(z + k) * TILE_SIDE + x + i] = by;
  const [id, channel] = what === 'height' ? (['hand', 'delta'] as const) : what === 'paint' ? (['gravel', 'paint'] as const) : (['heather', 'sown'] as const);
  return { kind: 'stroke', tiles: [{ key: tileKey(id, channel, 0, 0), delta: toBase64(packRaster(delta)) }] };
};
const edit = fc
  .tuple(
    fc.constantFrom('height' as const, 'paint' as const, 'sown' as const),
    fc.integer({ min: 2, max: 44 }),
    fc.integer({ min: 2, max: 44 }),
    fc.integer({ min: 4, max: 14 }),
  )
  .chain(([what, x, z, size]) => fc.constantFrom(900, 1500, 2000).map((by) => stroke([what, x, z, size, by])));

it('a level that grows again where it was touched has the plants of one that grows anew, after any strokes', async () => {
  let parts = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(edit, fc.boolean()), { minLength: 2, maxLength: 6 }), async (edits) => {
      const grower = new Grower();
      const mirror = new HostsMirror();
      let anew: ReturnType<typeof grow> = [];
      const scene = new Scene({
        runner: {
          ...inPlace({ keepNoise: true }),
          asset: async ({ id }) => assets.get(id)!,
          grow: async (given) => {
            // As a message to a worker: what the scene changes in place afterwards is not in it.
            const sent = structuredClone(given);
            anew = grow(growthInput(structuredClone(given), mirror));
            if (sent.touched !== 'all') parts++;
            return grower.grow(sent);
          },
        },
      });
      scene.open(level());
      await scene.settled();
      for (const [one, wait] of edits) {
        const applied = applyEdit(scene.level, one);
        // Paint over its most is refused.
        if (!applied.ok) continue;
        commitChanges(scene.level, applied.changes);
        scene.changed(applied.changes, new Set());
        // Some strokes come before the last one has grown.
        if (wait) await scene.settled();
      }
      await scene.settled();
      expect(anew[1].count).toBeGreaterThan(50);
      scene.plants.grown.forEach((p, i) => {
        expect(p.id).toEqual(anew[i].id);
        expect(p.place).toEqual(anew[i].place);
      });
    }),
    { numRuns: 20 },
  );
  // It was told where, and did not look at all of it.
  expect(parts).toBeGreaterThan(20);
}, 120_000);
