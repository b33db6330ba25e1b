import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { blockGrid, CELL } from '../block/grid';
import { TILE_SAMPLES, TILE_SIDE, tileKey } from '../level/tiles';
import { growthOn, testSpecies } from '../testing/growth';
import { terrainOf, testBlock } from '../testing/levels';
import { masksOf, wantedIn } from './masks';
import { hostsOf, ruleAt, spotAt } from './spot';
import { ASK, OPEN, reliefOf, SHUT, verdictsOf } from './verdicts';

/** A plain at 1 m in the west, a cliff of 60 degrees from 40 m on to 30 m up, then hills; 96 m, so 6 x 6 cells. */
const terrain = terrainOf((x, z) => (x < 40 ? 1 : x < 57 ? 1 + (x - 40) * 1.7 : 30 + Math.sin(x / 5) * Math.cos(z / 7)), 3);
const rule = { on: true, slope: [0, 30] as [number, number], height: [-5, 20] as [number, number], soft: 4, grounds: ['turf'] };
const judged = (
  more: Partial<typeof rule> = {},
  blocks = blockGrid([]),
  only?: Parameters<typeof reliefOf>[2],
  on = terrain,
  tiles = new Map<string, Int32Array>(),
) => {
  const input = growthOn(on, [testSpecies('gorse', 0)], { blocks, tiles });
  const masks = masksOf(
    { rule: { ...rule, ...more } },
    input.ground.surfaces.map((s) => s.id),
  );
  const hosts = hostsOf(input);
  return { input, masks, hosts, verdicts: verdictsOf(masks, reliefOf(on, input.ground, only), hosts) };
};

describe('what a rule says of a cell', () => {
  it('worked by hand: open on the plain, asked over the cliff, shut on hills that lie too high', () => {
    const row = (v: Uint8Array) => [...v.subarray(6, 12)];
    expect(row(judged().verdicts)).toEqual([OPEN, OPEN, ASK, ASK, SHUT, SHUT]);
    expect(row(judged({ grounds: ['moss'] }).verdicts)).toEqual([SHUT, SHUT, SHUT, SHUT, SHUT, SHUT]);
    // The plain lies lower than the rule begins to let in; no height is too great.
    expect(row(judged({ height: [10, 500] }).verdicts)).toEqual([SHUT, SHUT, ASK, ASK, OPEN, OPEN]);
    // What must be steep is asked everywhere that is not ruled out.
    expect(row(judged({ slope: [20, 60] }).verdicts)).toEqual([ASK, ASK, ASK, ASK, SHUT, SHUT]);
    expect(row(judged({ on: false }).verdicts)).toEqual([SHUT, SHUT, SHUT, SHUT, SHUT, SHUT]);
  });

  it('is asked of each place where a block may be the host, and outside the part that was looked at', () => {
    const { verdicts } = judged({}, blockGrid([testBlock('box', [2, 2, 2], [8, 1, 24])]));
    expect([verdicts[6], verdicts[7]]).toEqual([ASK, OPEN]);
    const part = judged({}, blockGrid([]), { x0: 0, z0: 0, x1: 31, z1: 31 }).verdicts;
    expect([part[0], part[3], part[14]]).toEqual([OPEN, ASK, ASK]);
  });

  it('is asked where a little of another ground lies, and where the step is just outside', () => {
    // One sample of moss in the second cell of the third row, sample 40, 70.
    const moss = new Int32Array(TILE_SAMPLES);
    moss[(70 - 64) * TILE_SIDE + 40] = 1024;
    const painted = (more: Partial<typeof rule>) => judged(more, blockGrid([]), undefined, terrain, new Map([[tileKey('moss', 'paint', 0, 1), moss]])).verdicts;
    expect([
      painted({})[13],
      painted({})[12],
      painted({ grounds: ['turf', 'moss'] })[13],
      painted({ grounds: [] })[13],
      painted({ grounds: ['moss'] })[13],
    ]).toEqual([ASK, OPEN, OPEN, OPEN, ASK]);
    // Level up to the edge of the first cell, a cliff from the first sample behind it: on the edge the ground is steep.
    const cliff = terrainOf((x) => (x <= 16 ? 1 : 1 + (x - 16) * 3), 1);
    expect([...judged({ grounds: [] }, blockGrid([]), undefined, cliff).verdicts]).toEqual([ASK, ASK, ASK, ASK]);
  });

  it('is open on ground of no surface at all where any ground will do', () => {
    const { input, masks, hosts } = judged({ grounds: [] });
    input.ground.weights.fill(0);
    expect(verdictsOf(masks, reliefOf(terrain, input.ground), hosts)[6]).toBe(OPEN);
  });

  it('four weights are summed in one word', () => {
    const word = (...bytes: number[]) => new Int32Array(Uint8Array.from(bytes).buffer)[0];
    expect([wantedIn(word(10, 20, 30, 195)), wantedIn(word(0, 0, 0, 255)), wantedIn(word(255, 0, 0, 0)), wantedIn(word(1, 2, 4, 128)), wantedIn(0)]).toEqual([
      255, 255, 255, 135, 0,
    ]);
  });

  it('holds at every place in it', () => {
    let [open, shut] = [0, 0];
    const some = fc.record({ x: fc.double({ min: 0, max: 95.99, noNaN: true }), z: fc.double({ min: 0, max: 95.99, noNaN: true }) });
    for (const more of [
      {},
      { grounds: ['slate'] },
      { grounds: [] as string[], slope: [0, 45] as [number, number] },
      { height: [29.5, 500] as [number, number], soft: 0 },
    ]) {
      const { input, masks, hosts, verdicts } = judged(more);
      fc.assert(
        fc.property(some, ({ x, z }) => {
          const verdict = verdicts[Math.floor(z / CELL) * 6 + Math.floor(x / CELL)];
          const lets = ruleAt(input, masks, spotAt(input, hosts, x, z, { height: 0, gradient: 0, top: false }), x, z);
          if (verdict === OPEN) {
            open++;
            expect(lets).toBe(1);
          }
          if (verdict === SHUT) {
            shut++;
            expect(lets).toBe(0);
          }
        }),
        { numRuns: 300 },
      );
    }
    expect([open > 200, shut > 200]).toEqual([true, true]);
  });
});
