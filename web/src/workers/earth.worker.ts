import { expose, transfer } from 'comlink';
import { coverOf, lightUnder, ROOF_CLEAR, type Cover } from '@rammer/core/light/cover';
import { clearSky, type SkyTable } from '@rammer/core/light/atmosphere';
import { daylight } from '@rammer/core/light/sunAt';
import { occluderHeights, sunDirection, sunlit } from '@rammer/core/light/sunlit';
import type { Terrain } from '@rammer/core/earth/compose';
import { fill, type Filled } from '@rammer/core/earth/waters';
import { proposeRoute, type ProposalSettings } from '@rammer/core/earth/proposeRoute';
import { HostsMirror, type HostsChange } from '@rammer/core/scene/hosts';
import { enlarged, TEXTURE_SIDE, weave, weaveKey, type Weave } from '@rammer/core/surface/textures';
import type { Lift, Water } from '@rammer/core/level/objects';
import type { Grid } from '@rammer/core/level/tiles';
import { pictureLayer } from './pictureLayer';
import { overlayPicture, type OverlayResult } from './overlayPicture';
import type { Pictured } from './overlays/index';
import type { OverlayInput } from './overlays/paint';

/** A level to be lit. */
interface Lit {
  grid: Grid;
  heights: Float32Array;
  /** what stands */
  hosts: HostsChange;
  /** ids of those that are not seen, or so far away that they throw no shadow into the level */
  unlit: ReadonlySet<string>;
  /** of plants: they throw shadows and are no roofs */
  crowns: Float32Array;
  sun: { azimuth: number; elevation: number };
}

/** What stands in the level that is lit. */
const standing = new HostsMirror();
/** by `weaveKey` */
const woven = new Map<string, Uint8Array>();

/** Towards what lights the level: the sun, by night the moon. */
const lightDirection = (sun: { azimuth: number; elevation: number }) => {
  const { azimuth, elevation } = daylight(sun);
  return sunDirection(azimuth, elevation);
};

const api = {
  /** Sunlight and open sky of a level, two bytes a sample, on its tops and on the ground under them; and what is roofed over. */
  sunlit({ grid, heights, hosts, unlit, crowns, sun }: Lit): { tops: Uint8Array; ground: Uint8Array; cover: Cover } {
    const terrain = { grid, heights, noise: new Map() };
    standing.take(hosts);
    const blocks = standing.blocks.list.filter((b) => !unlit.has(b.id));
    const pieces = [...standing.meshes.values()].filter((m) => !unlit.has(m.id));
    // Crowns throw shadows and are no roofs.
    const solid = occluderHeights(terrain, blocks, pieces);
    const cover = coverOf(terrain, occluderHeights(terrain, blocks, pieces, undefined, ROOF_CLEAR), solid);
    const tops = sunlit({ ...terrain, heights: solid }, occluderHeights(terrain, blocks, pieces, crowns), lightDirection(sun), {
      x0: 0,
      z0: 0,
      x1: grid.nx - 1,
      z1: grid.nz - 1,
    });
    const ground = lightUnder(terrain, tops, cover);
    return transfer({ tops, ground, cover }, [tops.buffer, ground.buffer, cover.top.buffer, cover.hangs.buffer, cover.open.buffer]);
  },
  /** The sky of a clear day; see core. */
  clearSky(sun: number, dust: number): SkyTable {
    return clearSky(sun, dust);
  },
  /** Fills waters. */
  fill(grid: Grid, heights: Float32Array, waters: Water[], routes: Lift[]): Filled[] {
    const terrain = { grid, heights, noise: new Map() };
    return waters.map((w) => fill(terrain, w, routes));
  },
  /** Points of a route between two places. */
  propose(terrain: Terrain, from: [number, number], to: [number, number], settings: ProposalSettings) {
    return proposeRoute(terrain, from, to, settings);
  },
  /** What an overlay lays on the ground. */
  overlay(kind: Pictured, input: OverlayInput): OverlayResult {
    const result = overlayPicture(kind, input);
    return transfer(result, [result.picture.buffer, result.labels.buffer]);
  },
  /**
   * Textures of surfaces, one after the other, `side` pixels a side; each is made once. A picture that cannot be read wears its texture,
   * until it is asked for again.
   */
  async textures(weaves: Weave[], side = TEXTURE_SIDE): Promise<Uint8Array> {
    const size = side * side * 4;
    const out = new Uint8Array(size * weaves.length);
    for (const [i, w] of weaves.entries()) {
      const key = `${side} ${weaveKey(w)}`;
      let made = woven.get(key);
      if (!made) {
        const picture = w.picture === undefined ? undefined : await pictureLayer(w.picture, side).catch(() => undefined);
        // What is painted by a formula is no finer than that: it takes seconds, and nobody sees it.
        made = picture || side === TEXTURE_SIDE ? weave(w, side, picture) : enlarged(weave(w, TEXTURE_SIDE), TEXTURE_SIDE, side / TEXTURE_SIDE);
        if (side === TEXTURE_SIDE && (w.picture === undefined || picture)) woven.set(key, made);
      }
      out.set(made, i * size);
    }
    return transfer(out, [out.buffer]);
  },
};

export type EarthWorker = typeof api;
expose(api);
