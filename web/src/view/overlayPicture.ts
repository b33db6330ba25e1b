import type { Terrain } from '@rammer/core/earth/compose';
import { contours } from '@rammer/core/earth/overlays/contours';
import { curvature } from '@rammer/core/earth/overlays/curvature';
import { islands } from '@rammer/core/earth/overlays/islands';
import { runoff } from '@rammer/core/earth/overlays/runoff';
import { barred, type WaterBody } from '@rammer/core/earth/water';
import { TEXELS_COARSE, TEXELS_FINE } from '@rammer/core/body/texel';
import { GLARING, repeats, SEEN } from '@rammer/core/surface/overlays/repeats';
import { texelRatio } from '@rammer/core/surface/overlays/texels';
import { strongestOf, type GroundRaster } from '@rammer/core/surface/ground';

/** Overlays that are a picture over the ground, worked out from the level. */
export const PICTURED = ['height', 'curvature', 'water depth', 'ground', 'cut and fill', 'runoff', 'islands', 'repeat', 'texels'] as const;
export type Pictured = (typeof PICTURED)[number];

export interface OverlayInput {
  terrain: Terrain;
  ground: GroundRaster;
  waters: readonly WaterBody[];
  /** heights as they were, to compare with */
  before?: Float32Array;
  wade: number;
  maxSlope: number;
  eye: number;
  home?: [number, number];
}

/** One line of the legend: a swatch as on the ground, and what it stands for. */
export interface Key {
  colour: string;
  hatched?: boolean;
  text: string;
}

/**
 * What an overlay shows: `picture` four bytes a sample, row by row: a colour and how it lies on the
 * ground, 0 not at all, to 246 as a tint, 255 hatched.
 */
export interface OverlayResult {
  picture: Uint8Array;
  keys: Key[];
  /** heights written on the ground: x, y, z, three numbers each */
  labels: Float32Array;
  /** metres between contour lines, where it draws them */
  step?: number;
}

const HATCH = 255;
type Colour = readonly [number, number, number];
const hex = (c: Colour): string => `#${c.map((v) => Math.round(v).toString(16).padStart(2, '0')).join('')}`;
const mix = (a: Colour, b: Colour, t: number): Colour => [0, 1, 2].map((k) => a[k] + (b[k] - a[k]) * t) as unknown as Colour;

const OXIDE: Colour = [179, 64, 42];
const OCHRE: Colour = [201, 139, 27];
const INK: Colour = [23, 33, 31];
const PAPER: Colour = [236, 238, 234];
const SHALLOW: Colour = [206, 222, 222];
const DEEP: Colour = [58, 88, 96];
/** Bands of height from low to high. */
const LOW: Colour = [92, 120, 118];
const HIGH: Colour = [240, 224, 186];
/** Sixteen grounds, neighbours in the list far apart. */
const GROUNDS: readonly Colour[] = [[152, 168, 96], [120, 124, 140], [206, 190, 150], [86, 116, 70], [170, 110, 84], [96, 140, 150], [214, 206, 190], [118, 90, 104], [190, 160, 70], [70, 86, 110], [176, 186, 160], [130, 96, 62], [160, 134, 168], [78, 128, 108], [220, 176, 150], [64, 72, 66]];

const metric = (v: number): string => (Math.abs(v) >= 10 ? v.toFixed(0) : v.toFixed(1));
const thousands = (v: number): string => Math.round(v).toLocaleString('en').replace(/,/g, '\u202f');

/** A step of contours that gives about a dozen over the range: 1, 2 or 5 of a power of ten. */
export function contourStep(range: number): number {
  let step = 0.25;
  for (const s of [0.25, 0.5, 1, 2, 5, 10, 20, 50, 100]) if (range / s > 16) step = s; else return s;
  return step;
}

/** Contours shorter than this carry no label, metres. */
const LABELLED = 40;

/** Works out an overlay. */
export function overlayPicture(kind: Pictured, input: OverlayInput): OverlayResult {
  const { terrain } = input;
  const { heights } = terrain;
  const picture = new Uint8Array(heights.length * 4);
  const put = (i: number, c: Colour, how: number) => { picture[i * 4] = c[0]; picture[i * 4 + 1] = c[1]; picture[i * 4 + 2] = c[2]; picture[i * 4 + 3] = how; };
  let labels = new Float32Array(0);
  const result = (keys: Key[], step?: number): OverlayResult => ({ picture, keys, labels, ...(step ? { step } : {}) });
  let [low, high] = [Infinity, -Infinity];
  for (const h of heights) {
    if (h < low) low = h;
    if (h > high) high = h;
  }
  switch (kind) {
    case 'height': {
      const step = contourStep(high - low);
      const bands = Math.max(1, Math.floor(high / step) - Math.floor(low / step));
      const colourOf = (h: number) => mix(LOW, HIGH, (Math.floor(h / step) - Math.floor(low / step)) / bands);
      for (let i = 0; i < heights.length; i++) put(i, colourOf(heights[i]), 190);
      const lines = contours(terrain, step, LABELLED);
      labels = Float32Array.from(lines.flatMap(({ points, height }) => { const k = Math.floor(points.length / 4) * 2; return [points[k], height, points[k + 1]]; }));
      return result([{ colour: hex(colourOf(low)), text: `${metric(low)} m` }, { colour: hex(colourOf(high)), text: `${metric(high)} m, contours each ${step} m` }], step);
    }
    case 'curvature': {
      const bent = curvature(terrain);
      // Half a metre of radius is as bent as it is drawn.
      bent.forEach((v, i) => { const k = Math.min(1, Math.abs(v) / 0.6); if (k > 0.08) put(i, v > 0 ? INK : PAPER, Math.round(k * 200)); });
      return result([{ colour: hex(PAPER), text: 'crests' }, { colour: hex(INK), text: 'hollows' }]);
    }
    case 'water depth': {
      const { nx } = terrain.grid;
      let deepest = 0;
      for (const b of input.waters) {
        const w = b.rect.x1 - b.rect.x0 + 1;
        for (let k = 0; k < b.wet.length; k++) {
          if (!b.wet[k]) continue;
          const i = (b.rect.z0 + Math.floor(k / w)) * nx + b.rect.x0 + (k % w);
          const depth = (b.levels ? b.levels[k] : b.height) - heights[i];
          deepest = Math.max(deepest, depth);
          put(i, mix(SHALLOW, DEEP, Math.min(1, depth / 4)), b.closed || depth > input.wade ? HATCH : 200);
        }
      }
      if (deepest === 0) return result([{ colour: hex(SHALLOW), text: 'no water stands in the level' }]);
      return result([{ colour: hex(SHALLOW), text: `waded through, to ${input.wade} m` }, { colour: hex(DEEP), hatched: true, text: `too deep; ${deepest.toFixed(2)} m at the deepest` }]);
    }
    case 'ground': {
      const { surfaces } = input.ground;
      const counts = surfaces.map(() => 0);
      for (let i = 0; i < heights.length; i++) {
        const most = strongestOf(input.ground, i);
        counts[most]++;
        put(i, GROUNDS[most], 200);
      }
      return result(surfaces.map((s, k) => ({ colour: hex(GROUNDS[k]), text: `${s.name} ${((counts[k] / heights.length) * 100).toFixed(0)} %` })));
    }
    case 'cut and fill': {
      const { before } = input;
      const area = terrain.grid.spacing ** 2;
      let [cut, fill] = [0, 0];
      if (before?.length === heights.length) {
        for (let i = 0; i < heights.length; i++) {
          const d = heights[i] - before[i];
          if (Math.abs(d) < 0.01) continue;
          if (d > 0) fill += d * area; else cut -= d * area;
          put(i, d > 0 ? OCHRE : INK, d > 0 ? Math.round(70 + Math.min(1, d / 4) * 140) : HATCH);
        }
      }
      return result([{ colour: hex(OCHRE), text: `filled ${thousands(fill)} m³` }, { colour: hex(INK), hatched: true, text: `cut ${thousands(cut)} m³` }]);
    }
    case 'runoff': {
      const drained = runoff(terrain);
      const least = 25 * terrain.grid.spacing;
      for (let i = 0; i < drained.length; i++) if (drained[i] > least) put(i, DEEP, Math.min(235, 60 + 55 * Math.log10(drained[i] / least)));
      return result([{ colour: hex(DEEP), text: `where water gathers, over ${least} m² of ground` }]);
    }
    case 'repeat': {
      const { of, surfaces } = repeats(input.ground);
      of.forEach((k, i) => { if (k > SEEN) put(i, k > GLARING ? OXIDE : OCHRE, k > GLARING ? HATCH : Math.round(90 + ((k - SEEN) / (GLARING - SEEN)) * 110)); });
      const worst = surfaces.map((s, i) => ({ ...s, ...input.ground.surfaces[i] })).filter((s) => s.most > SEEN).sort((a, b) => b.most - a.most);
      return result(worst.length === 0
        ? [{ colour: hex(PAPER), text: 'no surface shows that it repeats' }]
        : worst.slice(0, 4).map((s) => ({ colour: hex(s.most > GLARING ? OXIDE : OCHRE), hatched: s.most > GLARING, text: `${s.name}: ${s.most.toFixed(0)} tiles of ${s.tile} m side by side; lay it ${s.laying === 'two scales' ? 'scattered' : 'at two scales'}, or break it up` })));
    }
    case 'texels': {
      const ratio = texelRatio(input.ground, barred(terrain, input.waters, input.wade), { maxSlope: input.maxSlope, eye: input.eye }, input.home);
      let [coarse, fine] = [0, 0];
      ratio.forEach((k, i) => {
        if (k < TEXELS_COARSE) { coarse++; put(i, OXIDE, HATCH); }
        else if (k > TEXELS_FINE) { fine++; put(i, OCHRE, Math.round(Math.min(220, 90 + (k - TEXELS_FINE) * 30))); }
        else put(i, SHALLOW, 150);
      });
      const share = (n: number) => `${((n / ratio.length) * 100).toFixed(0)} %`;
      return result([
        { colour: hex(OXIDE), hatched: true, text: `coarse, under half of what the nearest eye wants: ${share(coarse)}` },
        { colour: hex(SHALLOW), text: `as wanted: ${share(ratio.length - coarse - fine)}` },
        { colour: hex(OCHRE), text: `over twice as fine: ${share(fine)}` },
      ]);
    }
    case 'islands': {
      const found = islands(barred(terrain, input.waters, input.wade), input.maxSlope, input.home);
      found.of.forEach((island, i) => { if (island > 1) put(i, OXIDE, HATCH); });
      const others = found.areas.slice(1);
      return result(others.length === 0
        ? [{ colour: hex(PAPER), text: 'all ground that can be stood on is linked' }]
        : [{ colour: hex(OXIDE), hatched: true, text: `${others.length} island${others.length === 1 ? '' : 's'} not linked, ${thousands(others.reduce((a, b) => a + b, 0))} m²; the largest ${thousands(others[0])} m²` }]);
    }
  }
}
