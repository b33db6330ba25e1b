import type { Piece } from '@rammer/core/level/objects';
import { KIT_GRID, STOREY } from '@rammer/core/kit/pieces';
import { sinCosDeg } from '@rammer/core/num/trig';

/** Top of a roof over the foot of its walls, metres. */
const RIDGE = STOREY + 1.56;

/** Cells with an opening, counted from 1 in the west; those of the north side are negative. */
interface Openings {
  door: number[];
  windows?: number[];
  sunk?: number;
}

/** Lays sheds from the kit: pieces on a 2 m grid, turned together about the shed's middle. */
export class KitYard {
  readonly pieces: Piece[] = [];
  constructor(private readonly ground: (x: number, z: number) => number) {}

  /**
   * A shed of `cellsX` x 2 cells: walls all round, quoins at the corners, gables, and a pitched roof with its ridge.
   *
   * @param door which cells of the south (and, negative, north) side have a door, from the west; `windows` likewise
   * @param sunk how far the door pieces are let into the ground, metres: a flaw for the checks to find
   */
  shed(name: string, cellsX: number, { x, z, turn }: { x: number; z: number; turn: number }, { door, windows = [], sunk = 0 }: Openings): void {
    const [s, c] = sinCosDeg(turn);
    const under = (lx: number, lz: number) => this.ground(x + c * lx + s * lz, z - s * lx + c * lz);
    // The floor lies a little over the doors' thresholds; the walls' feet reach down to lower ground.
    const doors = door.flatMap((d) =>
      [-0.4, 0, 0.4].map((k) => under(-cellsX + KIT_GRID * (Math.abs(d) - 0.5) + k, d > 0 ? (KIT_GRID * 2) / 2 : (-KIT_GRID * 2) / 2)),
    );
    const floor = Math.max(...doors) + 0.02;
    const put = (asset: string, part: string, [lx, y, lz]: readonly [number, number, number], more = 0, sink = 0) => {
      // Parts meet to less than a millimetre.
      const round = (v: number) => Math.round(v * 10_000) / 10_000;
      this.pieces.push({
        id: `p${String(this.pieces.length + 1).padStart(3, '0')}`,
        version: 1,
        kind: 'piece',
        name: `${name} ${part}`,
        asset,
        sink,
        collider: 'asset',
        hidden: false,
        out: false,
        at: [round(x + c * lx + s * lz), round(floor + y - sink), round(z - s * lx + c * lz)],
        turn: (turn + more) % 360,
      });
    };
    const half = (cellsX * KIT_GRID) / 2;
    const depth = KIT_GRID * 2;
    for (let i = 0; i < cellsX; i++) {
      const lx = -half + KIT_GRID * (i + 0.5);
      for (const [cell, side] of [
        [i + 1, 'south'],
        [-(i + 1), 'north'],
      ] as const) {
        const what = door.includes(cell) ? 'door' : windows.includes(cell) ? 'window' : 'wall';
        const away = side === 'south' ? 1 : -1;
        put(
          what === 'wall' ? 'kit-wall' : `kit-${what}-wall`,
          `${what} ${side} ${i + 1}`,
          [lx, 0, (away * depth) / 2],
          away > 0 ? 0 : 180,
          what === 'door' ? sunk : 0,
        );
      }
      put('kit-ridge', `ridge ${i + 1}`, [lx, RIDGE, 0]);
      put('kit-roof', `roof south ${i + 1}`, [lx, STOREY, KIT_GRID / 2]);
      put('kit-roof', `roof north ${i + 1}`, [lx, STOREY, -KIT_GRID / 2], 180);
    }
    for (const side of [-1, 1]) {
      for (const lz of [-KIT_GRID / 2, KIT_GRID / 2])
        put('kit-wall', `wall ${side < 0 ? 'west' : 'east'} ${lz < 0 ? 1 : 2}`, [side * half, 0, lz], side < 0 ? 90 : -90);
      for (const lz of [-depth / 2, depth / 2]) put('kit-corner', 'quoin', [side * half, 0, lz]);
      put('kit-gable', `gable ${side < 0 ? 'west' : 'east'}`, [side * half, STOREY, 0], side < 0 ? 90 : -90);
    }
  }

  /** One piece by itself on the ground. @param more what is not as usual: how high over the ground, leant, sunk, larger */
  piece(asset: string, name: string, [x, z]: readonly [number, number], turn: number, { up = 0, ...more }: Partial<Piece> & { up?: number } = {}): void {
    const sink = more.sink ?? 0;
    this.pieces.push({
      id: `p${String(this.pieces.length + 1).padStart(3, '0')}`,
      version: 1,
      kind: 'piece',
      name,
      asset,
      sink,
      collider: 'asset',
      hidden: false,
      out: false,
      at: [x, Math.round((this.ground(x, z) + up - sink) * 1000) / 1000, z],
      turn,
      ...more,
    });
  }
}
