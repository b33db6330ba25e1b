import { AIR, type Lighting } from '@rammer/core/level/objects';

/** The demo by moonlight, beside the lightings that every level starts with. */
export const NIGHT: Lighting = {
  id: 'lighting-night',
  version: 1,
  kind: 'lighting',
  name: 'moonlit night',
  sun: { azimuth: 30, elevation: -28 },
  sunlight: 1.4,
  fill: 1.6,
  sky: '#31445f',
  horizon: '#5d6f86',
  haze: 300,
  exposure: 0.6,
  contrast: 1.04,
  saturation: 0.9,
  air: { ...AIR, hazeHeight: 30, wind: 1 },
};
