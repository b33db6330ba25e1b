import type { Piece } from '@rammer/core/level/objects';
import { KIT_GRID, STOREY } from '@rammer/core/kit/pieces';
import { sinCosDeg } from '@rammer/core/num/trig';

/** Lays sheds from the kit: pieces on a 2 m grid, turned together about the shed's middle. */
export class KitYard {
  readonly pieces: Piece[] = [];
  constructor(private readonly ground: (x: number, z: number) => number) {}

  /**
   * A shed of `cellsX` x 2 cells: walls all round, quoins at the corners, floor, and a pitched roof.
   *
   * @param door which cells of the south (and, negative, north) side have a door, from the west
   * @param sunk how far the door pieces are let into the ground, metres: a flaw for the checks to find
   */
  shed(name: string, cellsX: number, { x, z, turn }: { x: number; z: number; turn: number }, door: number[], sunk = 0): void {
    const [s, c] = sinCosDeg(turn);
    const under = (lx: number, lz: number) => this.ground(x + c * lx + s * lz, z - s * lx + c * lz);
    // The floor lies a little over the doors' thresholds; the walls' feet reach down to lower ground.
    const doors = door.flatMap((d) =>
      [-0.4, 0, 0.4].map((k) => under(-cellsX + KIT_GRID * (Math.abs(d) - 0.5) + k, d > 0 ? (KIT_GRID * 2) / 2 : (-KIT_GRID * 2) / 2)),
    );
    const floor = Math.max(...doors) + 0.02;
    const put = (asset: string, part: string, [lx, y, lz]: readonly [number, number, number], more = 0, sink = 0) => {
      const round = (v: number) => Math.round(v * 1000) / 1000;
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
      const front = door.includes(i + 1);
      const back = door.includes(-(i + 1));
      put(front ? 'kit-door-wall' : 'kit-wall', `${front ? 'door' : 'wall'} south ${i + 1}`, [lx, 0, depth / 2], 0, front ? sunk : 0);
      put(back ? 'kit-door-wall' : 'kit-wall', `${back ? 'door' : 'wall'} north ${i + 1}`, [lx, 0, -depth / 2], 180, back ? sunk : 0);
      put('kit-roof', `roof south ${i + 1}`, [lx, STOREY, KIT_GRID / 2]);
      put('kit-roof', `roof north ${i + 1}`, [lx, STOREY, -KIT_GRID / 2], 180);
    }
    for (const side of [-1, 1]) {
      for (const lz of [-KIT_GRID / 2, KIT_GRID / 2])
        put('kit-wall', `wall ${side < 0 ? 'west' : 'east'} ${lz < 0 ? 1 : 2}`, [side * half, 0, lz], side < 0 ? 90 : -90);
      for (const lz of [-depth / 2, depth / 2]) put('kit-corner', 'quoin', [side * half, 0, lz]);
    }
  }

  /** One piece by itself on the ground. */
  piece(asset: string, name: string, x: number, z: number, turn: number): void {
    this.pieces.push({
      id: `p${String(this.pieces.length + 1).padStart(3, '0')}`,
      version: 1,
      kind: 'piece',
      name,
      asset,
      sink: 0,
      collider: 'asset',
      hidden: false,
      out: false,
      at: [x, Math.round(this.ground(x, z) * 1000) / 1000, z],
      turn,
    });
  }
}
