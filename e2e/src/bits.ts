import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { assemble } from '@rammer/core/cost/parts';
import { speciesFrom } from '@rammer/core/growth/shippedSpecies';
import { shippedPlants } from '@rammer/core/kit/plants';
import { groundDefaults } from '@rammer/core/surface/surfaces';
import { surfaceTexture } from '@rammer/core/surface/textures';
import { composeTerrain } from '@rammer/core/earth/compose';
import { newLevel } from '@rammer/core/level/level';
import { hashBytes } from '@rammer/core/num/hash';
import { atan2Deg, sinCosDeg } from '@rammer/core/num/trig';

/** What must come out the same wherever it runs; bundled and run in the browser by the test beside it. */
export function bits(): { terrain: string; angles: string; ground: string; plants: string[]; texture: string } {
  const level = newLevel({ name: 'bits', tilesX: 3, tilesZ: 2, spacing: 0.5, body: { name: 'adult', figures: SHIPPED_BODIES.adult }, seed: 4711 });
  const angles = Float64Array.from({ length: 20_000 }, (_, i) => sinCosDeg(i * 0.7331)[i % 2] + atan2Deg(i - 9000.5, 77.7 + (i % 911)));
  for (const o of groundDefaults()) level.objects.set(o.id, o);
  const assets = new Map([...shippedPlants()].map((a) => [a.name, a]));
  for (const [i, name] of ['birch', 'gorse', 'heather'].entries()) level.objects.set(name, speciesFrom({ id: name, name }, name, i, 11 + i));
  level.tiles.set('heather/sown/1,0', new Int32Array(65 * 65).fill(700));
  const parts = assemble(level, assets);
  return {
    terrain: hashBytes(new Uint8Array(composeTerrain(level).heights.buffer)), angles: hashBytes(new Uint8Array(angles.buffer)), ground: hashBytes(parts.ground.weights),
    plants: parts.grown.map((g) => `${g.species} ${g.count} ${hashBytes(new Uint8Array(g.place.buffer))} ${hashBytes(new Uint8Array(g.id.buffer))}`),
    texture: hashBytes(surfaceTexture('slate', 64)),
  };
}
