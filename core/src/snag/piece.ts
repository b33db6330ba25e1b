import { blockBounds } from '../block/solid';
import { heightAt } from '../earth/sample';
import { assetBounds } from '../kit/asset';
import { assetOf } from '../kit/bentAsset';
import { unlikelySize } from '../kit/realSizes';
import { isMade } from '../level/instance';
import { placer } from '../num/pose';
import { BoxIndex } from './boxIndex';
import type { Snag } from './finding';
import type { SnagInput } from './input';

/** Two things this near still touch, metres. */
const TOUCH = 0.06;

/** Pieces that are larger or smaller than what they stand for really is. */
export function pieceSize({ pieces, assets }: Pick<SnagInput, 'pieces' | 'assets'>): Snag[] {
  return pieces.flatMap((piece): Snag[] => {
    const asset = assetOf(assets, piece);
    // What is laid is drawn out by its line, and what a copy shows is told at its master.
    if (!asset || isMade(piece.id)) return [];
    const { min, max } = assetBounds(asset);
    const unlikely = unlikelySize(asset, (max[1] - min[1]) * (piece.scale?.[1] ?? 1));
    return unlikely
      ? [
          {
            code: 'size-unlikely',
            severity: 'warning',
            message: `${piece.name} ${unlikely}`,
            mend: "scale it, mend its asset's unit, or use another asset",
            at: piece.at,
            object: piece.id,
          },
        ]
      : [];
  });
}

/** Pieces that touch neither the ground nor, through other pieces and blocks, something that does; and pieces wholly under it. */
export function piecePlace(input: SnagInput): Snag[] {
  const { terrain, blocks, placed, pieces, assets } = input;
  const bounds = [...blocks.map(blockBounds), ...placed.map(({ min, max }) => ({ min, max }))];
  const ground = (x: number, z: number) => heightAt(terrain, x, z);
  const held = bounds.map(({ min, max }) =>
    [
      [min[0], min[2]],
      [max[0], min[2]],
      [max[0], max[2]],
      [min[0], max[2]],
      [(min[0] + max[0]) / 2, (min[2] + max[2]) / 2],
    ].some(([x, z]) => min[1] <= ground(x, z) + TOUCH),
  );
  const near = new BoxIndex(bounds);
  const queue = held.flatMap((h, i) => (h ? [i] : []));
  while (queue.length > 0) {
    for (const i of near.touching(bounds[queue.pop()!], TOUCH)) {
      if (held[i]) continue;
      held[i] = true;
      queue.push(i);
    }
  }
  const index = new Map(placed.map((m, i) => [m.id, blocks.length + i]));
  return pieces.flatMap((piece): Snag[] => {
    const i = index.get(piece.id);
    const asset = assetOf(assets, piece);
    if (i === undefined || !asset)
      return [
        {
          code: 'piece-no-mesh',
          severity: 'warning',
          message: `${piece.name} has no mesh: its asset is not in the level`,
          mend: 'remove it, or bring the asset back',
          at: piece.at,
          object: piece.id,
        },
      ];
    const { min, max } = assetBounds(asset);
    if (!held[i])
      return [
        {
          code: 'piece-floating',
          severity: 'warning',
          message: `${piece.name} floats ${(bounds[i].min[1] - ground(piece.at[0], piece.at[2])).toFixed(2)} m above the ground`,
          mend: 'drop it onto what is below (J)',
          at: piece.at,
          object: piece.id,
        },
      ];
    const place = placer(piece);
    const corners = [
      [min[0], min[2]],
      [max[0], min[2]],
      [max[0], max[2]],
      [min[0], max[2]],
    ].flatMap(([x, z]) => [place(x, min[1], z), place(x, max[1], z)]);
    const top = Math.max(...corners.map((p) => p[1]));
    const depth = Math.min(...corners.map((p) => ground(p[0], p[2])), ground(piece.at[0], piece.at[2])) - top;
    return depth > 0
      ? [
          {
            code: 'piece-buried',
            severity: 'warning',
            message: `${piece.name} lies ${depth.toFixed(2)} m under the ground`,
            mend: 'raise it, or take it out of the level',
            at: piece.at,
            object: piece.id,
          },
        ]
      : [];
  });
}
