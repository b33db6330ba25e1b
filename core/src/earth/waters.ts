import type { Lift, Water } from '../level/objects';
import type { Terrain } from './compose';
import { meets, nothingLooked, type Looked } from './looked';
import type { Rect } from './rect';
import { waterBody, type WaterBody } from './water';

/** A water as it was filled, and all that this came from: while these stay as they are, so does the water. */
export interface Filled {
  water: Water;
  /** of a stream: the route it runs along */
  route?: Lift;
  looked: Looked;
  /** as it lies on the ground, or in words for the person why it lies nowhere */
  lies: WaterBody | string;
}

/** Why a water lies nowhere, in words for the person. */
export interface DryWater {
  id: string;
  message: string;
}

/** The waters of a level on its ground, and those that lie nowhere. */
export interface Waters {
  bodies: WaterBody[];
  dry: DryWater[];
}

const routeOf = (water: Water, stack: readonly Lift[]): Lift | undefined => (water.form === 'stream' ? stack.find((l) => l.id === water.route) : undefined);

/** Fills a water. @param stack the lifts the ground is composed from: streams run along its routes */
export function fill(terrain: Terrain, water: Water, stack: readonly Lift[]): Filled {
  const looked = nothingLooked(terrain.grid);
  return { water, route: routeOf(water, stack), looked, lies: waterBody(terrain, water, stack, looked) };
}

/** Whether a water lies as it was filled, after heights were changed in a rectangle of samples. */
export const stays = (filled: Filled, water: Water, stack: readonly Lift[], touched: Rect | undefined): boolean =>
  filled.water === water && filled.route === routeOf(water, stack) && !(touched && meets(filled.looked, touched));

/** Waters as they were filled, told apart: those that lie, and those that lie nowhere. */
export function watersOf(filled: readonly Filled[]): Waters {
  const bodies: WaterBody[] = [];
  const dry: DryWater[] = [];
  for (const { water, lies } of filled) {
    if (typeof lies === 'string') dry.push({ id: water.id, message: lies });
    else bodies.push(lies);
  }
  return { bodies, dry };
}

/** Those that are to be filled: what was taken out is in no list. */
export const toFill = (waters: Iterable<Water>): Water[] => [...waters].filter((w) => !w.out);

/** The waters of a level on its ground, and those that lie nowhere with the reason. Those taken out are in neither. */
export const waterBodies = (terrain: Terrain, waters: Iterable<Water>, stack: readonly Lift[] = []): Waters =>
  watersOf(toFill(waters).map((w) => fill(terrain, w, stack)));
