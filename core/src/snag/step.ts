import { ledgeVerdict, ledgeWord } from '../body/checks';
import { HAIR } from '../body/bodies';
import { meshTopAt } from '../block/placedMesh';
import { assetOf } from '../kit/bentAsset';
import { assetBounds } from '../kit/asset';
import { sinCosDeg } from '../num/trig';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** How finely a stair is felt along its middle, metres. */
const FEEL = 0.02;

/** Stairs of the kit whose risers the body cannot step: the tops of the mesh along its middle, foot to head. */
export function step(input: SnagInput): Snag[] {
  return input.pieces.flatMap((piece): Snag[] => {
    const asset = assetOf(input.assets, piece);
    const mesh = input.placed.find((m) => m.id === piece.id);
    if (!asset?.tags.includes('stair') || !mesh || piece.tilt) return [];
    const { min, max } = assetBounds(asset);
    const [s, c] = sinCosDeg(piece.turn);
    let before = piece.at[1];
    let worst = 0;
    for (let x = min[0] + FEEL / 2; x < max[0]; x += FEEL) {
      const top = meshTopAt(mesh, piece.at[0] + c * x, piece.at[2] - s * x, Infinity)?.height ?? before;
      worst = Math.max(worst, top - before);
      before = top;
    }
    return stepSnag(input, piece.name, piece.id, piece.at, worst);
  });
}

/** Blocks laid as steps, three or more in a flight, whose rise the body cannot step. */
export function blockStep(input: SnagInput): Snag[] {
  const boxes = input.blocks.filter((b) => b.shape === 'box' && !b.tilt && Math.min(b.size[0], b.size[2]) <= 1.2 && Math.max(b.size[0], b.size[2]) <= 8);
  const top = (i: number) => boxes[i].at[1] + boxes[i].size[1];
  const reach = (i: number) => Math.min(boxes[i].size[0], boxes[i].size[2]);
  // The next step up from each: the lowest top within a going of it.
  const next = boxes.map((b, i) => {
    let best = -1;
    for (let k = 0; k < boxes.length; k++) {
      const rise = top(k) - top(i);
      const dx = boxes[k].at[0] - b.at[0];
      const dz = boxes[k].at[2] - b.at[2];
      const far = (reach(i) + reach(k)) / 2 + 0.1;
      if (k !== i && rise > 0.04 && rise < 1.2 && dx * dx + dz * dz <= far * far && (best < 0 || top(k) < top(best))) best = k;
    }
    return best;
  });
  const hasBelow = new Set(next.filter((n) => n >= 0));
  return boxes.flatMap((b, i): Snag[] => {
    if (hasBelow.has(i) || next[i] < 0) return [];
    let worst = 0;
    let count = 1;
    for (let k = i; next[k] >= 0 && count < 100; k = next[k], count++) worst = Math.max(worst, top(next[k]) - top(k));
    return count >= 3 ? stepSnag(input, `the flight from ${b.name}`, b.id, b.at, worst) : [];
  });
}

function stepSnag({ body }: SnagInput, name: string, object: string, at: Snag['at'], rise: number): Snag[] {
  if (rise <= body.step + HAIR) return [];
  return [
    {
      code: 'step-too-high',
      severity: 'warning',
      object,
      at,
      message: `${name}: a riser of ${rise.toFixed(2)} m is a ${ledgeWord(ledgeVerdict(body, rise))}, the body steps ${body.step.toFixed(2)} m`,
      mend: 'make more and lower steps',
    },
  ];
}
