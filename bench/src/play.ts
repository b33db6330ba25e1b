import { readFileSync } from 'node:fs';
import { SHIPPED_BODIES } from '@rammer/core/body/bodies';
import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import { assemble } from '@rammer/core/scene/parts';
import { composeTerrain } from '@rammer/core/earth/compose';
import { heightAt } from '@rammer/core/earth/sample';
import { barred } from '@rammer/core/earth/water';
import { readPackage } from '@rammer/core/io/package';
import { readAssets } from '@rammer/core/io/readAssets';
import { makeLevel, marker, playerBody } from '@rammer/core/level/level';
import type { Block, LevelObject } from '@rammer/core/level/objects';
import { hashUnit } from '@rammer/core/num/hash';
import { findReach } from '@rammer/core/play/reach';
import { makeWalkArea } from '@rammer/core/play/walkArea';
import { walkDots } from '@rammer/core/play/walkDots';
import type { Pair } from './measure';

const { adult } = SHIPPED_BODIES;
const SIDE = 256;

/** A level of 256 m: hills, and 160 boxes on them. */
function hills() {
  const objects: LevelObject[] = [
    {
      id: 'settings',
      version: 1,
      kind: 'settings',
      name: 'bench',
      tilesX: 8,
      tilesZ: 8,
      spacing: 0.5,
      player: 'adult',
      device: 'den-60',
      sun: { azimuth: 200, elevation: 40 },
    },
    { id: 'adult', version: 1, kind: 'body', name: 'adult', figures: adult },
    { id: 'noise', version: 1, kind: 'lift', lift: 'noise', name: 'noise', order: 0, visible: true, seed: 5, height: 4, scale: 60, octaves: 3 },
  ];
  const terrain = composeTerrain(makeLevel(objects));
  const blocks = Array.from({ length: 160 }, (_, i): Block => {
    const [x, z] = [10 + hashUnit(1, i) * (SIDE - 20), 10 + hashUnit(2, i) * (SIDE - 20)];
    return {
      id: `b${i}`,
      version: 1,
      kind: 'block',
      name: `b${i}`,
      shape: 'box',
      size: [2 + hashUnit(3, i) * 8, 3, 0.4 + hashUnit(4, i) * 3],
      at: [x, heightAt(terrain, x, z) - 0.5, z],
      turn: Math.round(hashUnit(5, i) * 180),
      hidden: false,
      out: false,
    };
  });
  return { terrain, blocks };
}

function rebake(): Pair {
  const { terrain, blocks } = hills();
  const area = makeWalkArea(adult, terrain.grid);
  area.update({ terrain, blocks, meshes: [] });
  const tiles = Math.round((SIDE / 16) ** 2);
  let step = 0;
  const moved = (): Block[] => blocks.map((b, i) => (i === 3 ? { ...b, at: [b.at[0] + 0.2 * (step % 2), b.at[1], b.at[2]] } : b));
  const dots = (of: typeof area) => walkDots(of, [128, heightAt(terrain, 128, 128), 128]);
  step = 1;
  const touched = area.update({ terrain, blocks: moved(), meshes: [] })!;
  const fresh = makeWalkArea(adult, terrain.grid);
  fresh.update({ terrain, blocks: moved(), meshes: [] });
  if (touched === 0 || touched > 8 || Buffer.compare(Buffer.from(dots(area).buffer), Buffer.from(dots(fresh).buffer)) !== 0)
    throw new Error(`after ${touched} tiles the area is not that of a fresh bake`);
  return {
    name: 'play/rebake',
    target: 15,
    pairs: 9,
    note:
      `one of ${blocks.length} boxes moved, the nav tiles it touches (${touched}) brought up to date ` +
      `(hashes, gathering, links), against a full bake at ${SIDE} m of ${tiles} nav tiles; equal to a fresh bake`,
    ours: () => {
      step++;
      area.update({ terrain, blocks: moved(), meshes: [] });
    },
    baseline: () => {
      makeWalkArea(adult, terrain.grid).update({ terrain, blocks: moved(), meshes: [] });
    },
  };
}

/** The walk area and the way of the small demo: open ground by its samples, and all of it in cells. */
async function check(): Promise<Pair> {
  const read = readPackage(new Uint8Array(readFileSync(new URL('../../demo/harrow-ledge-small.rammer.zip', import.meta.url))));
  if (!read.ok) throw new Error(read.message);
  const level = read.value;
  const assets = await readAssets(level);
  if (!assets.ok) throw new Error(assets.message);
  const parts = await assemble(level, assets.value, await loadSolidKernel());
  const body = playerBody(level).figures;
  const on = { terrain: barred(parts.terrain, parts.waters, body.wade), blocks: parts.blocks.filter((b) => !b.stops && !b.background), meshes: parts.solids };
  const [entry, objective] = [marker(level, 'entry')!.at, marker(level, 'objective')!.at];
  const whole = (everywhere: boolean): number => {
    const area = makeWalkArea(body, parts.terrain.grid, { everywhere });
    area.update(on);
    return findReach(area, entry, objective).length;
  };
  const [quick, slow] = [whole(false), whole(true)];
  if (Math.abs(quick / slow - 1) > 0.01) throw new Error(`ways of ${quick} and ${slow} m`);
  return {
    name: 'play/check',
    target: 4,
    pairs: 7,
    note:
      'walk area and way of the small demo, open ground by its own samples, ' +
      'against all of it cut into cells of half a radius; both ways as long within 1 %',
    ours: () => {
      whole(false);
    },
    baseline: () => {
      whole(true);
    },
  };
}

/** `play/` rows. */
export const playPairs = (): (() => Pair | Promise<Pair>)[] => [rebake, check];
