import type { Species } from '../level/objects';
import { likelyGrowsAs, startAs } from './growsAs';
import type { Vec3 } from '../num/vec';

/** Settings a species starts with, by the name of its asset; what is not known here starts as a sparse bush. */
const KNOWN: Record<string, Partial<Species>> = {
  heather: {
    density: 9,
    spacing: 0.9,
    clearance: 0.5,
    height: [0.3, 0.55],
    slenderness: [0.9, 1.35],
    lean: 6,
    tints: ['#ffffff', '#e6c9d8', '#cfc0e0'],
    rule: { on: true, slope: [0, 26], height: [-500, 500], soft: 8, grounds: [] },
  },
  gorse: {
    density: 1.2,
    spacing: 2.2,
    clearance: 1,
    height: [0.9, 1.8],
    slenderness: [0.85, 1.2],
    lean: 5,
    tints: ['#ffffff', '#d8e0c0'],
    rule: { on: true, slope: [6, 34], height: [-500, 500], soft: 6, grounds: [] },
  },
  'bell heather': {
    density: 5,
    spacing: 0.8,
    clearance: 0.4,
    height: [0.22, 0.36],
    slenderness: [0.9, 1.3],
    lean: 6,
    rule: { on: true, slope: [0, 30], height: [-500, 500], soft: 8, grounds: [] },
  },
  bracken: { density: 3, spacing: 0.9, clearance: 0.4, height: [0.7, 1.15], lean: 8, tints: ['#ffffff', '#e8dcae'] },
  foxglove: { density: 0.5, spacing: 1, clearance: 0.4, height: [0.95, 1.5], lean: 5 },
  'tussock grass': { density: 9, spacing: 0.6, clearance: 0.3, height: [0.38, 0.62], lean: 6, tints: ['#ffffff', '#efe3b4'] },
  'moss cushion': { density: 6, spacing: 0.5, clearance: 0.2, height: [0.1, 0.17], slenderness: [0.8, 1.6], lean: 30 },
  'fallen trunk': { density: 0.1, spacing: 8, clearance: 2, height: [0.45, 0.65], lean: 3 },
  'loose slate': { density: 9, spacing: 0.7, clearance: 0, height: [0.07, 0.14], slenderness: [0.9, 1.8], lean: 40 },
  rowan: {
    density: 0.4,
    spacing: 5,
    clearance: 1.4,
    height: [3.4, 5.2],
    slenderness: [0.85, 1.15],
    lean: 4,
    tints: ['#ffffff', '#e6dcb0'],
    rule: { on: true, slope: [0, 30], height: [-500, 500], soft: 6, grounds: [] },
  },
  birch: {
    density: 0.8,
    spacing: 4.5,
    clearance: 1.6,
    height: [5, 8.5],
    slenderness: [0.8, 1.1],
    lean: 4,
    tints: ['#ffffff', '#e9e2a8', '#cfe0b8'],
    rule: { on: true, slope: [0, 22], height: [-500, 500], soft: 6, grounds: [] },
  },
};

/** A species of an asset with settings to start from. @param asset `size` of one with materials of its own, metres: it grows about as high as it is */
export function speciesFrom(
  asset: { id: string; name: string; size?: Vec3; role?: string; tags?: readonly string[] },
  id: string,
  order: number,
  seed: number,
): Species {
  const { size } = asset;
  return {
    id,
    version: 1,
    kind: 'species',
    name: asset.name,
    asset: asset.id,
    order,
    seed,
    density: 1,
    spacing: 2,
    clearance: 1,
    height: [1, 1.5],
    slenderness: [0.9, 1.1],
    lean: 4,
    tints: ['#ffffff'],
    rule: { on: false, slope: [0, 30], height: [-500, 500], soft: 6, grounds: [] },
    cutoff: 0,
    shadows: true,
    hidden: false,
    out: false,
    ...(size ? startAs(likelyGrowsAs({ ...asset, size }), size) : {}),
    // Several of a kind are told apart by a number.
    ...KNOWN[asset.name.replace(/ \d+$/, '')],
  };
}
