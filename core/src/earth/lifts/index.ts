import type { Lift } from '../../level/objects';
import { handPass } from './hand';
import { landformPass } from './landform';
import { noisePass } from './noise';
import { padPass } from './pad';
import type { EarthSource, Pass, PassMaker } from './pass';
import { routePass } from './route';

const MAKERS: Record<Lift['lift'], PassMaker<never>> = { noise: noisePass, landform: landformPass, route: routePass, pad: padPass, hand: handPass };

/** A lift made ready to run, or `undefined` where it changes nothing: hidden, without weight, outside the level. */
export function passOf(lift: Lift, source: EarthSource): Pass | undefined {
  return lift.visible && lift.weight !== 0 ? MAKERS[lift.lift](lift as never, source) : undefined;
}
