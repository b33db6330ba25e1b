import { fractalNoise } from '../num/noise';
import { smoothstep } from '../num/vec';
import type { HeightPicture } from './survey';

const SIDE = 129;

/** What a print is at a place, from -1 to 1 either way; heights from -1 to 1. */
type Form = (u: number, v: number) => number;

const rough = fractalNoise(91, 5);
const ridges = fractalNoise(47, 4);
const warp = fractalNoise(12, 3);
const from = (u: number, v: number): number => Math.sqrt(u * u + v * v);
/** 1 in the middle, out at the rim. */
const dome = (u: number, v: number): number => 1 - smoothstep(0.2, 0.95, from(u, v) + 0.18 * warp.at(u * 2.2, v * 2.2));

const FORMS = {
  /** a knuckle of rock, split into steps */
  outcrop: (u, v) => {
    const h = dome(u, v) * (0.75 + 0.45 * (1 - 2 * Math.abs(ridges.at(u * 2.4 + 3, v * 1.2))));
    return (Math.floor(h * 5) + smoothstep(0.55, 0.95, h * 5 - Math.floor(h * 5))) / 5;
  },
  /** a hollow with what came out of it thrown up around */
  crater: (u, v) => {
    const d = from(u, v) + 0.06 * rough.at(u * 3, v * 3);
    return d < 0.6 ? 0.45 - 1.2 * (1 - (d / 0.6) * (d / 0.6)) : 0.45 * (1 - smoothstep(0.6, 0.98, d));
  },
  /** furrows that run down from one side to the other, as water leaves them */
  gullies: (u, v) => {
    const across = u * 5.5 + 0.9 * warp.at(u * 1.5, v * 2 + 7);
    const cut = 1 - 2 * Math.abs(across - Math.floor(across) - 0.5);
    return -Math.max(0, cut) * (0.5 + 0.5 * rough.at(u * 2, v * 1.4)) * (1 - smoothstep(0.55, 0.98, from(u, v))) * (0.4 + 0.6 * (0.5 + v / 2));
  },
  /** tipped stone: a heap of lumps */
  rubble: (u, v) => dome(u, v) * Math.max(0, 0.35 + 0.65 * Math.abs(rough.at(u * 4.5, v * 4.5)) * 2),
} satisfies Record<string, Form>;

export type PrintName = keyof typeof FORMS;
export const PRINTS = Object.keys(FORMS) as PrintName[];

const made = new Map<PrintName, HeightPicture>();

/** A print that ships with Rammer: heights from -1 to 1, 0 all along its rim. Made once. */
export function shippedPrint(name: PrintName): HeightPicture {
  let print = made.get(name);
  if (!print) {
    const values = new Float32Array(SIDE * SIDE);
    const half = (SIDE - 1) / 2;
    for (let z = 0, i = 0; z < SIDE; z++)
      for (let x = 0; x < SIDE; x++, i++) values[i] = from(x - half, z - half) >= half ? 0 : FORMS[name]((x - half) / half, (z - half) / half);
    print = { width: SIDE, height: SIDE, values };
    made.set(name, print);
  }
  return print;
}
