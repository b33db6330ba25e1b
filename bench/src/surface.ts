import { blockGrid } from '@rammer/core/block/grid';
import { wholeRect } from '@rammer/core/earth/compose';
import type { Block, GroundRule, Surface } from '@rammer/core/level/objects';
import { hashUnit } from '@rammer/core/num/hash';
import { composeGround, makeGround } from '@rammer/core/surface/ground';
import { groundAt } from '@rammer/core/surface/groundAt';
import { groundDefaults } from '@rammer/core/surface/surfaces';
import { tenLifts } from './earth';
import type { Pair } from './measure';

export function surfacePairs(): (() => Pair)[] {
  return [
    () => {
      const { terrain } = tenLifts();
      const blocks = Array.from({ length: 200 }, (_, i): Block => ({
        id: `b${i}`,
        version: 1,
        kind: 'block',
        name: `b${i}`,
        shape: 'box',
        size: [4, 3, 4],
        at: [(i * 37) % 500, 2, (i * 53) % 500],
        turn: i * 7,
        hidden: false,
        out: false,
      }));
      const surfaces = groundDefaults().filter((o): o is Surface => o.kind === 'surface');
      const ground = makeGround(terrain.grid, surfaces);
      composeGround(
        ground,
        { terrain, stack: [], tiles: new Map(), waters: [], rules: groundDefaults().filter((o): o is GroundRule => o.kind === 'groundRule') },
        wholeRect(terrain.grid),
      );
      const cells = blockGrid(blocks);
      // One cell that holds them all: every block is looked at for every point.
      const all = new Map([...cells.keys()].map((k) => [k, blocks]));
      const points = (count: number, grid: typeof cells) => {
        let sum = 0;
        for (let i = 0; i < count; i++) sum += groundAt(terrain, grid, [hashUnit(3, i, 0) * 511, 1e6, hashUnit(3, i, 1) * 511], { ground }).height;
        return sum;
      };
      return {
        name: 'surface/ground-at',
        pairs: 7,
        note:
          'host, height, normal and ground at a million points of a 1025 level with ' +
          '200 blocks, found by cell, against every block looked at in the cells that have any',
        ours: () => {
          points(1_000_000, cells);
        },
        baseline: () => {
          points(1_000_000, all);
        },
      };
    },
  ];
}
