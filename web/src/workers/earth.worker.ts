import { expose, transfer } from 'comlink';
import { daylight } from '@rammer/core/light/sunAt';
import { occluderHeights, sunDirection, sunlit } from '@rammer/core/light/sunlit';
import type { Rect, Terrain } from '@rammer/core/earth/compose';
import { fill, type Filled } from '@rammer/core/earth/waters';
import { proposeRoute, type ProposalSettings } from '@rammer/core/earth/proposeRoute';
import type { PlacedMesh } from '@rammer/core/block/placedMesh';
import { TEXTURE_SIDE, weave, weaveKey, type Weave } from '@rammer/core/surface/textures';
import type { Block, Lift, Water } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import { pictureLayer } from './pictureLayer';
import { overlayPicture, type Pictured, type OverlayInput, type OverlayResult } from '../view/overlayPicture';

/** by `weaveKey` */
const woven = new Map<string, Uint8Array>();

/** Towards what lights the level: the sun, by night the moon. */
const lightDirection = (sun: { azimuth: number; elevation: number }) => { const { azimuth, elevation } = daylight(sun); return sunDirection(azimuth, elevation); };

const api = {
  /** Sunlight and open sky of a rectangle of samples, two bytes each. */
  sunlit(grid: Grid, heights: Float32Array, blocks: Block[], pieces: PlacedMesh[], crowns: Float32Array, sun: { azimuth: number; elevation: number }, rect: Rect): Uint8Array {
    const terrain = { grid, heights, noise: new Map() };
    const out = sunlit(terrain, occluderHeights(terrain, blocks, pieces, crowns), lightDirection(sun), rect.x0, rect.z0, rect.x1, rect.z1);
    return transfer(out, [out.buffer]);
  },
  /** Fills waters. */
  fill(grid: Grid, heights: Float32Array, waters: Water[], routes: Lift[]): Filled[] {
    const terrain = { grid, heights, noise: new Map() };
    return waters.map((w) => fill(terrain, w, routes));
  },
  /** Points of a route between two places. */
  propose(terrain: Terrain, from: [number, number], to: [number, number], settings: ProposalSettings) { return proposeRoute(terrain, from, to, settings); },
  /** What an overlay lays on the ground. */
  overlay(kind: Pictured, input: OverlayInput): OverlayResult {
    const result = overlayPicture(kind, input);
    return transfer(result, [result.picture.buffer, result.labels.buffer]);
  },
  /** Textures of surfaces, one after the other; each is made once. A picture that cannot be read wears its texture, until it is asked for again. */
  async textures(weaves: Weave[]): Promise<Uint8Array> {
    const size = TEXTURE_SIDE * TEXTURE_SIDE * 4;
    const out = new Uint8Array(size * weaves.length);
    await Promise.all(weaves.map(async (w, i) => {
      const key = weaveKey(w);
      const picture = woven.has(key) || w.picture === undefined ? undefined : await pictureLayer(w.picture, TEXTURE_SIDE).catch(() => undefined);
      const made = woven.get(key) ?? weave(w, TEXTURE_SIDE, picture);
      if (w.picture === undefined || picture) woven.set(key, made);
      out.set(made, i * size);
    }));
    return transfer(out, [out.buffer]);
  },
};

export type EarthWorker = typeof api;
expose(api);
