import type { Lift, LiftOf } from '../../level/objects';
import type { Grid } from '../../level/tiles';
import { handPass } from './hand';
import { landformPass } from './landform';
import { noisePass } from './noise';
import { padPass } from './pad';
import type { EarthSource, Pass, PassMaker } from './pass';
import { routePass } from './route';
import { surveyPass } from './survey';
import { weatherPass } from './weather';

const MAKERS: { readonly [K in Lift['lift']]: PassMaker<LiftOf<K>> } = {
  noise: noisePass,
  survey: surveyPass,
  landform: landformPass,
  weather: weatherPass,
  route: routePass,
  pad: padPass,
  hand: handPass,
};

/** Kinds made of their own numbers and the grid alone: each is made ready once, as long as the lift is the same object. */
const GEOMETRIC: readonly Lift['lift'][] = ['landform', 'route', 'pad'];
const ready = new WeakMap<Lift, { grid: Grid; pass: Pass | undefined }>();

/** A lift made ready to run, or `undefined` where it changes nothing: hidden, without weight, outside the level. */
export function passOf(lift: Lift, source: EarthSource): Pass | undefined {
  if (!lift.visible || lift.weight === 0) return undefined;
  const make = () => (MAKERS[lift.lift] as PassMaker<Lift>)(lift, source);
  if (!GEOMETRIC.includes(lift.lift)) return make();
  const known = ready.get(lift);
  if (known && known.grid.nx === source.grid.nx && known.grid.nz === source.grid.nz && known.grid.spacing === source.grid.spacing) return known.pass;
  const pass = make();
  ready.set(lift, { grid: source.grid, pass });
  return pass;
}
