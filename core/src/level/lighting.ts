import { ofKind, settingsOf, type Level } from './level';
import { AIR, type Lighting } from './objects';

const lighting = (id: string, name: string, rest: Omit<Lighting, 'id' | 'version' | 'kind' | 'name'>): Lighting => ({
  id,
  version: 1,
  kind: 'lighting',
  name,
  ...rest,
});

/** Lightings to start from. */
export const SHIPPED_LIGHTING: readonly Lighting[] = [
  lighting('lighting-day', 'clear day', {
    sun: { azimuth: 215, elevation: 38 },
    sunlight: 1,
    fill: 1,
    sky: '#5c809f',
    horizon: '#ccd5d5',
    haze: 420,
    exposure: 0,
    contrast: 1,
    saturation: 1,
    air: { ...AIR, sky: 'sun', clouds: 0.35 },
  }),
  lighting('lighting-evening', 'low evening', {
    sun: { azimuth: 282, elevation: 11 },
    sunlight: 1.25,
    fill: 0.72,
    sky: '#4a5f86',
    horizon: '#e6c3a0',
    haze: 260,
    exposure: 0.1,
    contrast: 1.1,
    saturation: 1.08,
    air: { ...AIR, sky: 'sun', dust: 2, clouds: 0.4, hazeHeight: 60, shafts: 2, wind: 2 },
  }),
  lighting('lighting-grey', 'grey morning', {
    sun: { azimuth: 120, elevation: 24 },
    sunlight: 0.35,
    fill: 1.2,
    sky: '#8f9aa0',
    horizon: '#c6cbcb',
    haze: 130,
    exposure: 0.05,
    contrast: 0.92,
    saturation: 0.78,
    air: { ...AIR, clouds: 0.95, hazeHeight: 40, wind: 5 },
  }),
];

/** The lighting a level is seen in; a level without one has the clear day with the settings' sun. */
export function lightingOf(level: Level): Lighting {
  const settings = settingsOf(level);
  const chosen = settings.lighting ? level.object(settings.lighting) : undefined;
  if (chosen?.kind === 'lighting') return chosen;
  return ofKind(level, 'lighting')[0] ?? { ...SHIPPED_LIGHTING[0], sun: settings.sun };
}

/** `#rrggbb` as three numbers from 0 to 1. */
export const rgb = (hex: string): [number, number, number] => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255) as [number, number, number];
