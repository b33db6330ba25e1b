import { blockToLevel } from '../block/solid';
import type { Block, Piece } from '../level/objects';
import type { Vec3 } from '../num/vec';
import { assetBounds, type Asset } from './asset';

/** Fitted: drawn to the block's own size. Own: the asset keeps its real size, on the block's base. */
export type Fit = 'own' | 'fitted';

/** How much an asset is larger than a block, along the block's length, height and width, metres. */
export function sizeDifference(block: Pick<Block, 'size'>, asset: Asset): Vec3 {
  const { min, max } = assetBounds(asset);
  return [0, 1, 2].map((k) => max[k] - min[k] - block.size[k]) as Vec3;
}

/** In words: `0.20 m longer, 0.05 m lower`; the same size where it is within a centimetre. */
export function differenceText(by: Vec3): string {
  const words = [
    ['longer', 'shorter'],
    ['higher', 'lower'],
    ['wider', 'narrower'],
  ];
  const parts = by.flatMap((d, k) => (Math.abs(d) < 0.01 ? [] : [`${Math.abs(d).toFixed(2)} m ${words[k][d > 0 ? 0 : 1]}`]));
  return parts.length > 0 ? parts.join(', ') : 'the same size';
}

/** Where an asset stands for a block: its base's middle on the block's, turned with it. */
export function standFor(block: Block, asset: Asset, fit: Fit): Pick<Piece, 'at' | 'turn' | 'tilt' | 'scale'> {
  const { min, max } = assetBounds(asset);
  const scale = fit === 'fitted' ? ([0, 1, 2].map((k) => block.size[k] / Math.max(1e-6, max[k] - min[k])) as Vec3) : undefined;
  const s = scale ?? [1, 1, 1];
  const at = blockToLevel(block, -((min[0] + max[0]) / 2) * s[0], -min[1] * s[1], -((min[2] + max[2]) / 2) * s[2]);
  return { at, turn: block.turn, ...(block.tilt ? { tilt: block.tilt } : {}), ...(scale ? { scale } : {}) };
}

/** Blocks that no asset stands for yet and that are in the level: what is still blockout. */
export const stillBlockout = (blocks: Iterable<Block>): Block[] => [...blocks].filter((b) => !b.out && b.op !== 'void');
