import type { BodyFigures } from '../body/bodies';
import { coverVerdict, ledgeVerdict, openingVerdict, slopeVerdict } from '../body/checks';
import { tallOf, wideOf } from '../level/drawn';
import { DEFAULT_STEPS, DEFAULT_WALL, type Block } from '../level/objects';
import { slopeDeg } from '../num/trig';
import type { BlockShape } from './shapes';

/** What a block is to a body, as a verdict and in words with the measures. */
export interface Metric {
  verdict: 'good' | 'warning' | 'bad';
  text: string;
}

/** Wider than this no void or arch is a door, metres. */
const WIDEST = 4;
const m = (v: number) => v.toFixed(2);

/** What a block's own dimensions mean for a body: an opening, a stair, a slope, a ledge with the cover it gives. */
export function blockMetrics(block: BlockShape & Pick<Block, 'tilt'>, body: BodyFigures): Metric[] {
  // What lies askew is no door, stair or ledge by its own measures; the walk area judges it as it is.
  if (block.tilt) return [];
  const [l, h, w] = block.size;
  const { shape, steps = DEFAULT_STEPS, wall = DEFAULT_WALL } = block;
  if (block.op === 'void' && shape === 'tunnel') return corridorMetric(body, wideOf(block), tallOf(block));
  if (block.op === 'void') return shape === 'box' || shape === 'wedge' ? openingMetric(body, Math.min(l, WIDEST + 1), h) : [];
  switch (shape) {
    case 'arch':
      return openingMetric(body, l - 2 * wall, h - wall);
    case 'stair': {
      const riser = h / steps;
      const going = l / steps;
      const sum = 2 * riser + going;
      if (riser > body.step + 1e-6) return [{ verdict: 'bad', text: `riser ${m(riser)} m, over the step of ${m(body.step)}` }];
      const comfortable = sum >= 0.6 - 1e-6 && sum <= 0.66 + 1e-6;
      return [
        {
          verdict: comfortable ? 'good' : 'warning',
          text:
            `${comfortable ? 'comfortable' : 'uncomfortable'}: riser ${riser.toFixed(3)}, going ` +
            `${going.toFixed(3)} m, 2 risers + going ${m(sum)}${comfortable ? '' : ', wants 0.60 to 0.66'}`,
        },
      ];
    }
    case 'ramp':
    case 'wedge': {
      const slope = slopeDeg(shape === 'ramp' ? h / l : h / (w / 2));
      const verdict = slopeVerdict(body, slope);
      return [{ verdict: verdict === 'comfortable' ? 'good' : verdict === 'steep' ? 'warning' : 'bad', text: `${verdict}: ${slope.toFixed(1)}°` }];
    }
    case 'tunnel':
      return corridorMetric(body, wideOf(block), tallOf(block));
    case 'terraces': {
      const rise = h / steps;
      const cover = coverVerdict(body, rise);
      return [
        { verdict: 'good', text: `${steps} terraces of ${m(rise)} m: ${ledgeVerdict(body, rise)}${cover ? `, ${cover} cover` : ''}; ${m(l / steps)} m apart` },
      ];
    }
    case 'cone':
      return [];
    default: {
      const ledge = ledgeVerdict(body, h);
      const cover = coverVerdict(body, h);
      return [{ verdict: 'good', text: `${m(h)} m: ${ledge}${cover ? `, ${cover} cover` : ''}` }];
    }
  }
}

/** A passage is judged as an opening that goes on: its width, and the height at its middle. */
function corridorMetric(body: BodyFigures, width: number, height: number): Metric[] {
  const verdict = openingVerdict(body, width, height);
  return [
    {
      verdict: verdict === 'clear' ? 'good' : verdict === 'blocked' ? 'bad' : 'warning',
      text: `${verdict === 'crouch' ? 'crouched only' : verdict}: passage ${m(width)} m wide, ${m(height)} m high`,
    },
  ];
}

function openingMetric(body: BodyFigures, width: number, height: number): Metric[] {
  if (width > WIDEST) return [];
  const verdict = openingVerdict(body, width, height);
  return [
    {
      verdict: verdict === 'clear' ? 'good' : verdict === 'blocked' ? 'bad' : 'warning',
      text: `${verdict === 'crouch' ? 'crouched only' : verdict}: ${m(width)} m wide, ${m(height)} m high`,
    },
  ];
}
