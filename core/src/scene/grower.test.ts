import fc from 'fast-check';
import { expect, it } from 'vitest';
import { loadSolidKernel } from '../block/loadKernel';
import { applyEdit, commitChanges } from '../level/edits/index';
import { makeLevel } from '../level/level';
import { freshParts } from '../testing/freshParts';
import { sceneAssets, sceneLevel, SCENE_EDITS } from '../testing/scenes';
import { Grower } from './grower';
import { inPlace } from './inPlace';
import { Scene } from './scene';

const kernel = await loadSolidKernel();
const assets = sceneAssets();

it('a level that grows again where it was touched has the plants of one that grows anew, after any edits', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(fc.nat(SCENE_EDITS.length - 1), { minLength: 6, maxLength: 12 }), async (picked) => {
      const grower = new Grower();
      const scene = new Scene({
        runner: {
          ...inPlace({ kernel, keepNoise: true }),
          asset: async ({ id }) => assets.get(id)!,
          // As a message to a worker: what the scene changes in place afterwards is not in it.
          grow: async (given) => grower.grow(structuredClone(given)),
        },
      });
      scene.open(sceneLevel());
      await scene.settled();
      for (const i of picked) {
        const applied = applyEdit(scene.level, SCENE_EDITS[i]);
        if (!applied.ok) continue;
        const kinds = new Set([...applied.changes.objects].map(([id, o]) => (o ?? scene.level.object(id))!.kind));
        commitChanges(scene.level, applied.changes);
        scene.changed(applied.changes, kinds);
        // Some edits come before the last one has grown.
        if (i % 3 > 0) await scene.settled();
      }
      await scene.settled();
      const { objects, tiles } = scene.level;
      const anew = freshParts(makeLevel([...objects.values()], tiles), assets, kernel).grown;
      expect(scene.plants.grown.map((p) => [p.species, p.count])).toEqual(anew.map((p) => [p.species, p.count]));
      scene.plants.grown.forEach((p, i) => {
        expect(p.id).toEqual(anew[i].id);
        expect(p.place).toEqual(anew[i].place);
      });
    }),
    { numRuns: 12 },
  );
}, 180_000);
