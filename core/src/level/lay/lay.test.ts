import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { placer } from '../../num/pose';
import { distance, type Vec3 } from '../../num/vec';
import { cornersAt, endJoins, testKit, testLine } from '../../testing/kits';
import type { Kit, Part } from '../kinds/kit';
import type { LaidLine } from '../kinds/laidLine';
import type { Piece } from '../kinds/piece';
import { parseObject } from '../objects';
import { OVER_GROUND, layLine, type Laid } from './layLine';
import { squared } from './squared';

const kit = testKit();
const round = (v: readonly number[]) => v.map((x) => Math.round(x * 1e4) / 1e4 + 0);
const partOf = (of: Kit, piece: Piece): Part => of.parts.find((p) => p.asset === piece.asset)!;
/** Where the two ends of a wall are. */
function ends(of: Kit, piece: Piece): [Vec3, Vec3] {
  const place = placer(piece);
  const joins = partOf(of, piece).joins;
  return [place(...joins[0].at), place(...joins[1].at)];
}
const walls = (laid: Laid<Piece>, start: string): Piece[] => [...laid.pieces].filter(([slot]) => slot.startsWith(start)).map(([, p]) => p);
const scaleX = (p: Piece) => Math.round((p.scale?.[0] ?? 1) * 1e4) / 1e4;

describe('a line of whole parts', () => {
  it('stands part by part, the left end of each where the one before ends, looking to the right of the way', () => {
    const laid = layLine(testLine({ corners: cornersAt([1, 2], [9, 2]) }), kit);
    expect([...laid.pieces.keys()]).toEqual(['c0-0-0', 'c0-0-1', 'c0-0-2', 'c0-0-3']);
    expect(walls(laid, 'c').map((p) => [...round(p.at), p.turn])).toEqual([
      [2, OVER_GROUND, 2, 0],
      [4, OVER_GROUND, 2, 0],
      [6, OVER_GROUND, 2, 0],
      [8, OVER_GROUND, 2, 0],
    ]);
    expect(laid.stretches).toEqual([{ corner: 0, length: 8, parts: 4, left: 0 }]);
    expect(laid.faults).toEqual([]);
  });

  it('goes to the north with its own x, and turned the other way round it looks back', () => {
    const north = layLine(testLine({ corners: cornersAt([0, 8], [0, 4]) }), kit);
    expect(walls(north, 'c').map((p) => [...round(p.at), p.turn])).toEqual([
      [0, OVER_GROUND, 7, 90],
      [0, OVER_GROUND, 5, 90],
    ]);
    const back = layLine(testLine({ corners: cornersAt([0, 8], [0, 4]), turned: true }), kit);
    expect(walls(back, 'c').map((p) => [...round(p.at), p.turn])).toEqual([
      [0, OVER_GROUND, 7, -90],
      [0, OVER_GROUND, 5, -90],
    ]);
  });

  it('puts a part by its joins where its pivot is not in its middle', () => {
    const corner = testKit({
      parts: [
        {
          asset: 'w',
          use: 'wall',
          weight: 1,
          box: [
            [0, 0, 0],
            [2, 3, 0.3],
          ],
          joins: [
            { at: [0, 0, 0.15], turn: 180, kind: 'wall', width: 0.3 },
            { at: [2, 0, 0.15], turn: 0, kind: 'wall', width: 0.3 },
          ],
        },
      ],
    });
    // The pivot lies 0.15 m left of the line, which its joins are on: north of a way to the east.
    expect(walls(layLine(testLine({ corners: cornersAt([1, 2], [5, 2]) }), corner), 'c').map((p) => round(p.at))).toEqual([
      [1, OVER_GROUND, 1.85],
      [3, OVER_GROUND, 1.85],
    ]);
  });
});

describe('a remainder of 0.6 m', () => {
  // 4.6 m east, then 4 m south: two walls and 0.6 m, then two walls.
  const bent = cornersAt([0, 0], [4.6, 0], [4.6, 4]);
  const lay = (remainder: LaidLine['remainder']) => layLine(testLine({ corners: bent, remainder }), kit);

  it('is left', () => {
    const laid = lay('leave');
    expect(laid.stretches.map((s) => [s.parts, Math.round(s.left * 1e6) / 1e6])).toEqual([
      [2, 0.6],
      [2, 0],
    ]);
    expect(round(ends(kit, laid.pieces.get('c0-0-1')!)[1])).toEqual([4, OVER_GROUND, 0]);
  });

  it('is taken up by parts drawn out to 115 %', () => {
    const laid = lay('stretch');
    expect(walls(laid, 'c0').map(scaleX)).toEqual([1.15, 1.15]);
    expect(round(ends(kit, laid.pieces.get('c0-0-1')!)[1])).toEqual([4.6, OVER_GROUND, 0]);
    expect(walls(laid, 'c1').map(scaleX)).toEqual([1, 1]);
    expect(laid.stretches.map((s) => s.left)).toEqual([0, 0]);
  });

  it('is filled by a filler pressed to it', () => {
    const laid = lay('filler');
    const filler = laid.pieces.get('c0-0-fill')!;
    expect(filler.asset).toBe('kit-filler');
    expect(scaleX(filler)).toBe(0.6);
    expect(ends(kit, filler).map(round)).toEqual([
      [4, OVER_GROUND, 0],
      [4.6, OVER_GROUND, 0],
    ]);
  });

  it('moves the corner, and what comes after it', () => {
    const laid = lay('corner');
    expect(laid.corners.map(round)).toEqual([
      [0, 0, 0],
      [4, 0, 0],
      [4, 0, 4],
    ]);
    expect(laid.stretches.map((s) => [s.parts, s.left])).toEqual([
      [2, 0],
      [2, 0],
    ]);
    expect(round(laid.pieces.get('k1-0')!.at)).toEqual([4, OVER_GROUND, 0]);
  });

  it('is left where it cannot be stretched within the limits, and says so', () => {
    const laid = layLine(testLine({ corners: cornersAt([0, 0], [2.6, 0]), remainder: 'stretch' }), kit);
    expect(laid.stretches[0]).toMatchObject({ parts: 1 });
    expect(laid.faults).toEqual(['2.60 m would stretch its parts to 130 % or 65 %: its 0.60 m are left']);
  });
});

describe('outlines', () => {
  /** An L drawn clockwise, 8.6 m wide. */
  const ell = cornersAt([0, 0], [8.6, 0], [8.6, 4], [4, 4], [4, 8], [0, 8]);

  it('look outwards whichever way they are drawn, with corners outside and inside', () => {
    const laid = layLine(testLine({ corners: ell, closed: true, remainder: 'stretch' }), kit);
    const reverse = layLine(testLine({ corners: cornersAt([0, 0], [0, 8], [4, 8], [4, 4], [8.6, 4], [8.6, 0]), closed: true, remainder: 'stretch' }), kit);
    // The north side's outside is north: its pieces are turned half round.
    expect(walls(laid, 'c0').every((p) => Math.abs(p.turn) === 180)).toBe(true);
    expect(walls(reverse, 'c5').every((p) => Math.abs(p.turn) === 180)).toBe(true);
    expect(walls(laid, 'c').length).toBe(4 + 2 + 2 + 2 + 2 + 4);
    expect(walls(laid, 'k').map((p) => round(p.at).filter((_, i) => i !== 1))).toEqual([
      [0, 0],
      [8.6, 0],
      [8.6, 4],
      [4, 4],
      [4, 8],
      [0, 8],
    ]);
    expect(laid.stretches.map((s) => Math.round(s.left * 1e6))).toEqual([0, 0, 0, 0, 0, 0]);
  });

  it('the corner way brings every side of a square one to whole parts and closes it', () => {
    const laid = layLine(testLine({ corners: ell, closed: true, remainder: 'corner' }), kit);
    expect(laid.corners.map(round)).toEqual([
      [0, 0, 0],
      [8, 0, 0],
      [8, 0, 4],
      [4, 0, 4],
      [4, 0, 8],
      [0, 0, 8],
    ]);
    expect(laid.stretches.map((s) => s.left)).toEqual([0, 0, 0, 0, 0, 0]);
  });

  it('leave 0.6 m on the long side, and 0.6 m on the one that faces it, where they are left', () => {
    const laid = layLine(testLine({ corners: ell, closed: true, remainder: 'leave' }), kit);
    expect(laid.stretches.map((s) => Math.round(s.left * 1e6) / 1e6)).toEqual([0.6, 0, 0.6, 0, 0, 0]);
    const filled = layLine(testLine({ corners: ell, closed: true, remainder: 'filler' }), kit);
    expect(
      walls(filled, 'c')
        .filter((p) => p.asset === 'kit-filler')
        .map(scaleX),
    ).toEqual([0.6, 0.6]);
  });

  it('take a part for an angle by its two joins, and leave it the room it takes', () => {
    // An angle of 1 m by 1 m: it comes from its own left and goes on to its own front.
    const angle: Part = {
      asset: 'angle',
      use: 'inner corner',
      weight: 1,
      box: [
        [-1, 0, -0.15],
        [0.15, 3, 1],
      ],
      joins: [
        { at: [-1, 0, 0], turn: 180, kind: 'wall', width: 0.3 },
        { at: [0, 0, 1], turn: -90, kind: 'wall', width: 0.3 },
      ],
    };
    const own = testKit({ parts: [...kit.parts, angle] });
    // East and then south turns right: the inside of the angle is where the walls look.
    const laid = layLine(testLine({ corners: cornersAt([0, 0], [5, 0], [5, 5]) }), own);
    const corner = laid.pieces.get('k1-0')!;
    expect(corner.asset).toBe('angle');
    const place = placer(corner);
    expect(round(place(...angle.joins[0].at))).toEqual([4, OVER_GROUND, 0]);
    expect(round(place(...angle.joins[1].at))).toEqual([5, OVER_GROUND, 1]);
    expect(round(ends(own, laid.pieces.get('c0-0-1')!)[1])).toEqual([4, OVER_GROUND, 0]);
    expect(round(ends(own, laid.pieces.get('c1-0-0')!)[0])).toEqual([5, OVER_GROUND, 1]);
  });

  it('as a house of two storeys have floors, a stair with a hole over it, a roof with its ridge, and gables', () => {
    const house = testLine({ corners: cornersAt([0, 0], [0, 4], [8, 4], [8, 0]), closed: true, storeys: 2, floors: true, stairs: true, roof: true });
    const laid = layLine(house, kit);
    expect(laid.faults).toEqual([]);
    // 4 x 2 cells, and a stair of two cells over which the upper floor is open.
    expect(walls(laid, 'd0').length).toBe(8);
    expect(walls(laid, 'd1').length).toBe(6);
    // The top of the floor is where the walls stand.
    expect(walls(laid, 'd1')[0].at[1]).toBeCloseTo(OVER_GROUND + 3 - 0.15, 6);
    const [stair] = walls(laid, 's');
    // Along the 8 m, the last cell of which is where one arrives.
    expect(round(placer(stair)(-2, 0, 0)).filter((_, k) => k !== 2)).toEqual([2, OVER_GROUND]);
    expect(round(placer(stair)(2, 3, 0)).filter((_, k) => k !== 2)).toEqual([6, 3 + OVER_GROUND]);
    // A ridge along the 8 m, 6 m + 0.02 up, over the middle; the roof is as the part is: 2 m from wall to ridge.
    const ridge = walls(laid, 'i');
    expect(ridge.map((p) => round([p.at[1], p.at[2]]))).toEqual(Array.from({ length: 4 }, () => [6 + OVER_GROUND + 1.5, 2]));
    expect(ridge.map((p) => Math.round(p.at[0])).sort()).toEqual([1, 3, 5, 7]);
    expect(walls(laid, 'ra').length + walls(laid, 'rb').length).toBe(8);
    for (const p of [...walls(laid, 'ra'), ...walls(laid, 'rb')]) {
      // Its ridge side is on the ridge, its eave outwards.
      expect(round([placer(p)(0, 0, -1)[2]])[0]).toBe(2);
      expect(Math.abs(placer(p)(0, 0, 1)[2] - 2)).toBeCloseTo(2, 6);
    }
    expect(walls(laid, 'g').map((p) => round(p.at)[0])).toEqual([0, 8]);
  });

  it('of 8 m depth have a roof twice as high, drawn out to half the depth', () => {
    const laid = layLine(testLine({ corners: cornersAt([0, 0], [0, 8], [10, 8], [10, 0]), closed: true, roof: true }), kit);
    expect(walls(laid, 'ra').map((p) => round(p.scale!))).toEqual(Array.from({ length: 5 }, () => [1, 2, 2]));
    expect(walls(laid, 'i')[0].at[1]).toBeCloseTo(OVER_GROUND + 3 + 3, 6);
    expect(walls(laid, 'g').map((p) => round(p.scale!))).toEqual([
      [2, 2, 1],
      [2, 2, 1],
    ]);
  });

  it('of an L have a wing whose ridge runs under the larger roof, and gables at three ends', () => {
    const laid = layLine(testLine({ corners: cornersAt([0, 0], [0, 8], [4, 8], [4, 4], [10, 4], [10, 0]), closed: true, roof: true }), kit);
    expect(walls(laid, 'g').length).toBe(3);
    const wing = walls(laid, 'i1');
    const z = wing.flatMap((p) => [placer(p)(-1, 0, 0)[2], placer(p)(1, 0, 0)[2]]);
    // From the gable at 8 m under the main roof, whose ridge is at 2 m.
    expect(Math.max(...z)).toBeCloseTo(8, 6);
    expect(Math.min(...z)).toBeCloseTo(2, 6);
  });

  it('that cross themselves, or are smaller than a part, say so', () => {
    const bow = layLine(testLine({ corners: cornersAt([0, 0], [8, 8], [8, 0], [0, 8]), closed: true }), kit);
    expect(bow.faults).toEqual(['the outline crosses itself: stretch 1 meets stretch 3; move a corner between them']);
    const small = layLine(testLine({ corners: cornersAt([0, 0], [0, 1], [1, 1], [1, 0]), closed: true, remainder: 'leave' }), kit);
    expect(small.faults).toEqual(['its longest stretch is 1.00 m and the shortest wall of kit takes 2.00 m: draw it larger, or take shorter parts']);
    expect(layLine(testLine({ corners: cornersAt([0, 0], [0.5, 0]) }), kit).faults).toHaveLength(1);
    expect(layLine(testLine({ corners: cornersAt([0, 0], [0, 4], [4, 4], [4, 0]), closed: true }), kit).faults).toEqual([]);
  });

  it('say why they have no roof or stair', () => {
    const askew = layLine(testLine({ corners: cornersAt([0, 0], [0, 8], [9, 5]), closed: true, roof: true }), kit);
    expect(askew.faults).toEqual(['a roof is laid over outlines of right angles: make the corners square, or leave the roof off']);
    const small = layLine(testLine({ corners: cornersAt([0, 0], [0, 2], [2, 2], [2, 0]), closed: true, storeys: 2, stairs: true }), kit);
    expect(small.faults).toEqual(['there is no room for a stair: it takes 2 cells in a row, one to start from and one to arrive at']);
    expect(layLine(testLine({ roof: true }), kit).faults).toEqual(['floors, stairs and roofs are laid over closed outlines with corners']);
  });
});

describe('over a slope of 12 degrees', () => {
  // tan 12 degrees
  const rise = 0.2125565616700221;
  const slope = (length: number) => [
    { n: 0, at: [0, 0, 0] as Vec3, ground: Array.from({ length: 41 }, (_, i) => (i / 40) * length * rise) },
    { n: 1, at: [length, length * rise, 0] as Vec3 },
  ];

  it('leaning parts follow it end to end, each 2 m long along it', () => {
    const laid = layLine(testLine({ corners: slope(20), slope: 'lean' }), kit);
    const list = walls(laid, 'c');
    // 20 m in plan are 20.447 m along the slope: ten parts.
    expect(list.length).toBe(10);
    const each = 2 * Math.cos((12 * Math.PI) / 180);
    list.forEach((p, i) => {
      const [a, b] = ends(kit, p);
      expect(a[0]).toBeCloseTo(i * each, 5);
      expect(a[1]).toBeCloseTo(i * each * rise, 5);
      expect(distance(a, b)).toBeCloseTo(2, 5);
      expect(p.scale).toBeUndefined();
      if (i > 0) expect(distance(ends(kit, list[i - 1])[1], a)).toBeLessThan(1e-4);
    });
    expect(laid.stretches[0].left).toBeCloseTo(20 / Math.cos((12 * Math.PI) / 180) - 20, 5);
  });

  it('stretched they reach its end', () => {
    const laid = layLine(testLine({ corners: slope(20), slope: 'lean', remainder: 'stretch' }), kit);
    const list = walls(laid, 'c');
    expect(round(ends(kit, list[list.length - 1])[1])).toEqual(round([20, 20 * rise, 0]));
    expect(new Set(list.map(scaleX))).toEqual(new Set([1.0223]));
  });

  it('stepped parts are upright on steps of 0.25 m over the highest ground under each, with foundations down to the lowest', () => {
    const laid = layLine(testLine({ corners: slope(8), slope: 'step' }), kit);
    const list = walls(laid, 'c');
    // Ground at 2, 4, 6 and 8 m: 0.425, 0.850, 1.275, 1.700.
    expect(list.map((p) => p.at[1])).toEqual([0.5, 1, 1.5, 1.75]);
    expect(list.every((p) => p.tilt === undefined)).toBe(true);
    // Their feet, 0.4 m deep, stay over the ground's lowest: 0.1 over 0, 0.6 over 0.425, 1.1 over 0.850, 1.35 over 1.275.
    const under = walls(laid, 'f');
    const bottoms = under.map((p) => Math.round((p.at[1] - 0.4 * p.scale![1]) * 1e3) / 1e3);
    const tops = under.map((p) => Math.round((p.at[1] + 3 * p.scale![1]) * 1e3) / 1e3);
    expect(tops).toEqual([0.1, 0.6, 1.1, 1.35]);
    expect(bottoms).toEqual([-0.2, 0.225, 0.65, 1.075]);
  });

  it('level ones are all as high as the highest ground', () => {
    const laid = layLine(testLine({ corners: slope(8) }), kit);
    expect(new Set(walls(laid, 'c').map((p) => Math.round(p.at[1] * 1e4) / 1e4))).toEqual(new Set([Math.round((8 * rise + OVER_GROUND) * 1e4) / 1e4]));
  });
});

describe('openings', () => {
  const at = (laid: Laid<Piece>) => [...laid.pieces].filter(([, p]) => p.asset !== 'kit-wall').map(([slot, p]) => [slot, p.asset]);

  it('stand where they were set, and again and again', () => {
    const line = testLine({
      corners: cornersAt([0, 0], [12, 0]),
      storeys: 2,
      openings: [{ corner: 0, along: 4.5, storey: 0, use: 'door' }],
      regular: [{ use: 'window', each: 2, first: 0 }],
    });
    expect(at(layLine(line, kit))).toEqual([
      ['c0-0-0', 'kit-window'],
      ['c0-0-2', 'kit-door'],
      ['c0-0-4', 'kit-window'],
      ['c0-1-0', 'kit-window'],
      ['c0-1-2', 'kit-window'],
      ['c0-1-4', 'kit-window'],
    ]);
  });

  it('that are wider take the room of two', () => {
    const wide = testKit({
      parts: [
        kit.parts[0],
        {
          asset: 'gate',
          use: 'door',
          weight: 1,
          box: [
            [-2, 0, -0.1],
            [2, 3, 0.1],
          ],
          joins: endJoins(2),
        },
      ],
    });
    const laid = layLine(testLine({ openings: [{ corner: 0, along: 2.5, storey: 0, use: 'door' }] }), wide);
    expect([...laid.pieces.keys()]).toEqual(['c0-0-0', 'c0-0-1', 'c0-0-3']);
    expect(ends(wide, laid.pieces.get('c0-0-1')!).map((p) => round(p)[0])).toEqual([2, 6]);
  });
});

describe('curves and posts', () => {
  it('a curve has parts of one length end to end', () => {
    const laid = layLine(testLine({ corners: cornersAt([0, 0], [10, 6], [20, 0]), curved: true }), kit);
    const list = walls(laid, 'c');
    expect(list.length).toBeGreaterThan(10);
    list.forEach((p, i) => {
      expect(p.scale).toBeUndefined();
      if (i > 0) expect(distance(ends(kit, list[i - 1])[1], ends(kit, p)[0])).toBeLessThan(1e-4);
    });
  });

  it('posts stand where parts meet, or so far apart', () => {
    const fence = testKit({
      parts: [
        kit.parts[0],
        {
          asset: 'post',
          use: 'post',
          weight: 1,
          box: [
            [-0.1, 0, -0.1],
            [0.1, 2, 0.1],
          ],
          joins: [],
        },
      ],
    });
    const xs = (line: LaidLine) => walls(layLine(line, fence), 'p').map((p) => round(p.at)[0]);
    expect(xs(testLine())).toEqual([0, 2, 4, 6, 8]);
    expect(xs(testLine({ spacing: 3 }))).toEqual([0, 3, 6]);
    const lamps = testKit({ parts: fence.parts.slice(1) });
    expect(xs(testLine({ spacing: 3, slope: 'lean' }))).toEqual([0, 3, 6]);
    expect([...layLine(testLine({ spacing: 4 }), lamps).pieces.keys()]).toEqual(['p0-0', 'p0-1', 'p0-2']);
  });
});

describe('squared', () => {
  it('makes right angles of what was drawn by hand, and leaves what has them', () => {
    const drawn: Vec3[] = [
      [0, 1, 0],
      [8.2, 2, 0],
      [8, 3, 4.2],
      [0.1, 4, 4],
    ];
    const made = squared(drawn, true);
    expect(made.map(round)).toEqual([
      [0.05, 1, 0],
      [8.1, 2, 0],
      [8.1, 3, 4.1],
      [0.05, 4, 4.1],
    ]);
    expect(squared(made, true).map(round)).toEqual(made.map(round));
    // Of an open one too: along its first stretch and across it.
    const [p, q, r] = squared(
      [
        [0, 0, 0],
        [4, 0, 3],
        [1.2, 0, 7],
      ],
      false,
    );
    expect((q[0] - p[0]) * (r[0] - q[0]) + (q[2] - p[2]) * (r[2] - q[2])).toBeCloseTo(0, 9);
  });
});

/** Lines of a few corners, open or closed, that cross themselves or not. */
const anyLine = fc
  .record({
    points: fc.array(fc.tuple(fc.integer({ min: -300, max: 300 }), fc.integer({ min: -20, max: 20 }), fc.integer({ min: -300, max: 300 })), {
      minLength: 2,
      maxLength: 9,
    }),
    closed: fc.boolean(),
    curved: fc.boolean(),
    turned: fc.boolean(),
    slope: fc.constantFrom('level', 'step', 'lean'),
    remainder: fc.constantFrom('leave', 'stretch', 'filler', 'corner'),
    storeys: fc.integer({ min: 0, max: 2 }),
    seed: fc.integer({ min: 0, max: 1000 }),
    house: fc.boolean(),
  })
  .map(({ points, house, ...rest }) =>
    testLine({ corners: cornersAt(...points.map(([x, y, z]): Vec3 => [x / 10, y / 10, z / 10])), floors: house, roof: house, ...rest } as Partial<LaidLine>),
  );

describe('any line', () => {
  it('is laid of sound objects, the same each time, with parts that meet to a hundredth of a millimetre along each stretch', () => {
    fc.assert(
      fc.property(anyLine, (line) => {
        const laid = layLine(line, kit);
        expect(JSON.stringify([...layLine(structuredClone(line), kit).pieces])).toBe(JSON.stringify([...laid.pieces]));
        for (const p of laid.pieces.values()) expect(parseObject(p)).toMatchObject({ ok: true });
        for (const [slot, p] of laid.pieces) {
          const next = /^c(\d+)-(\d+)-(\d+)$/.exec(slot);
          const after = next && laid.pieces.get(`c${next[1]}-${next[2]}-${Number(next[3]) + 1}`);
          if (!after || (line.slope === 'step' && after.at[1] !== p.at[1])) continue;
          const turned = ends(kit, p)[0];
          const gap = Math.min(distance(ends(kit, p)[1], ends(kit, after)[0]), distance(turned, ends(kit, after)[1]));
          expect(gap).toBeLessThan(1e-5);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('laid after a change takes over what it can and is as if laid from nothing', () => {
    fc.assert(
      fc.property(anyLine, fc.nat(), fc.integer({ min: -20, max: 20 }), (line, which, by) => {
        const before = layLine(line, kit);
        const corners = line.corners.map((c, i) => (i === which % line.corners.length ? { ...c, at: [c.at[0] + by / 10, c.at[1], c.at[2]] as Vec3 } : c));
        const moved = { ...line, corners };
        const after = layLine(moved, kit, before);
        expect([...after.pieces]).toEqual([...layLine(moved, kit).pieces]);
        expect(after.stretches).toEqual(layLine(moved, kit).stretches);
      }),
      { numRuns: 150 },
    );
  });

  it('keeps the pieces of stretches whose ends did not move', () => {
    const street = testLine({ corners: cornersAt(...Array.from({ length: 41 }, (_, i): [number, number] => [i * 20, (i % 2) * 3])), remainder: 'stretch' });
    const before = layLine(street, kit);
    const after = layLine({ ...street, corners: street.corners.map((c) => (c.n === 20 ? { ...c, at: [400, 0, 2] as Vec3 } : c)) }, kit, before);
    const kept = [...after.pieces].filter(([slot, p]) => before.pieces.get(slot) === p).length;
    // All but the two stretches at the corner and the three corners whose angles are others.
    expect(before.pieces.size - kept).toBeLessThan(30);
    expect(after.pieces.get('c0-0-0')).toBe(before.pieces.get('c0-0-0'));
  });

  it('whose corners lie on each other is laid where it has a length, of sound objects', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 2 }), fc.constant(0), fc.integer({ min: 0, max: 2 })), { minLength: 2, maxLength: 7 }),
        fc.boolean(),
        fc.constantFrom('leave', 'stretch', 'filler', 'corner'),
        fc.boolean(),
        (points, closed, remainder, curved) => {
          const corners = cornersAt(...points.map(([x, y, z]): Vec3 => [x * 4, y, z * 4]));
          const line = testLine({ corners, closed, curved, remainder, floors: true, roof: true, stairs: true, storeys: 2 } as Partial<LaidLine>);
          for (const p of layLine(line, kit).pieces.values()) expect(parseObject(p)).toMatchObject({ ok: true });
        },
      ),
      { numRuns: 200 },
    );
  });

  it('that would be too long is not laid, and says so', () => {
    const laid = layLine(testLine({ corners: cornersAt([0, 0], [90_000, 0]) }), kit);
    expect(laid.pieces.size).toBe(0);
    expect(laid.faults).toEqual(['90000 m take 45000 parts and 20000 are the most: use longer parts, or several lines']);
  });

  it('chooses among variants by weight, and by place and seed alone', () => {
    const two = testKit({ parts: [kit.parts[0], { ...kit.parts[0], asset: 'other', weight: 3 }] });
    const long = testLine({ corners: cornersAt([0, 0], [2000, 0]) });
    const list = walls(layLine(long, two), 'c');
    const share = list.filter((p) => p.asset === 'other').length / list.length;
    expect(share).toBeGreaterThan(0.7);
    expect(share).toBeLessThan(0.8);
    const shorter = walls(layLine({ ...long, corners: cornersAt([0, 0], [1000, 0]) }, two), 'c');
    expect(shorter.map((p) => p.asset)).toEqual(list.slice(0, 500).map((p) => p.asset));
    expect(walls(layLine({ ...long, seed: 2 }, two), 'c').map((p) => p.asset)).not.toEqual(list.map((p) => p.asset));
  });
});
