import type { Block } from '@rammer/core/level/objects';
import { relined } from '@rammer/core/block/drawn';
import type { Vec3 } from '@rammer/core/num/vec';
import { sinCosDeg } from '@rammer/core/num/trig';

/** Makes the demo's blocks: `ground` gives the height they stand on. */
export class Yard {
  readonly blocks: Block[] = [];
  constructor(private readonly ground: (x: number, z: number) => number) {}

  block(name: string, shape: Block['shape'], { size, at, turn = 0 }: { size: Vec3; at: Vec3; turn?: number }, more: Partial<Block> = {}): void {
    const id = `b${String(this.blocks.length + 1).padStart(3, '0')}`;
    const round = (v: number) => Math.round(v * 1000) / 1000;
    this.blocks.push({
      id,
      version: 1,
      kind: 'block',
      name,
      shape,
      size: size.map(round) as Block['size'],
      at: at.map(round) as Block['at'],
      turn,
      hidden: false,
      out: false,
      ...more,
    });
  }

  /** What follows a line: corners in the level. */
  along(name: string, shape: 'wall' | 'slab' | 'tunnel', line: Vec3[], more: Partial<Block>): void {
    this.block(name, shape, { size: [1, 1, 1], at: [0, 0, 0] }, more);
    const last = this.blocks[this.blocks.length - 1];
    Object.assign(last, relined(last, line));
  }

  /** A box on the ground, let in by `sink` metres. */
  box(name: string, size: Vec3, [x, z]: readonly [number, number], turn = 0, sink = 0.1): void {
    this.block(name, 'box', { size, at: [x, this.ground(x, z) - sink, z], turn });
  }

  /**
   * A shed with four walls 0.3 m thick, a door in its south wall and a pitched roof of two ramps.
   * `length` runs east to west before it is turned.
   */
  shed(
    name: string,
    { length, width, height }: { length: number; width: number; height: number },
    { x, z, turn }: { x: number; z: number; turn: number },
    door: { width: number; height: number; offset: number },
  ): void {
    const floor = this.ground(x, z);
    const [s, c] = sinCosDeg(turn);
    const put = (part: string, shape: Block['shape'], size: Vec3, [lx, y, lz]: Vec3, more = 0) =>
      this.block(`${name} ${part}`, shape, { size, at: [x + c * lx + s * lz, floor + y, z - s * lx + c * lz], turn: (turn + more) % 360 }, { group: name });
    const t = 0.3;
    const base = -0.6;
    put('north wall', 'box', [length, height - base, t], [0, base, -(width - t) / 2]);
    put('west wall', 'box', [t, height - base, width - 2 * t], [-(length - t) / 2, base, 0]);
    put('east wall', 'box', [t, height - base, width - 2 * t], [(length - t) / 2, base, 0]);
    const left = length / 2 + door.offset - door.width / 2;
    const right = length - left - door.width;
    put('south wall, west of the door', 'box', [left, height - base, t], [-length / 2 + left / 2, base, (width - t) / 2]);
    put('south wall, east of the door', 'box', [right, height - base, t], [length / 2 - right / 2, base, (width - t) / 2]);
    put('lintel', 'box', [door.width, height - door.height, t], [-length / 2 + left + door.width / 2, door.height, (width - t) / 2]);
    const eave = 0.4;
    const pitch = width * 0.32;
    // A ramp rises along its own +x: turned 90 degrees either way, the two meet at the ridge.
    put('roof, south side', 'ramp', [width / 2 + eave, pitch, length + 2 * eave], [0, height, (width / 2 + eave) / 2], 90);
    put('roof, north side', 'ramp', [width / 2 + eave, pitch, length + 2 * eave], [0, height, -(width / 2 + eave) / 2], -90);
  }

  /**
   * The mouth of an adit in front of a quarry face: a mass let into the face with a gallery cut into it, a
   * lamp niche beside that, and an arched portal before it. No heightmap can make it.
   */
  adit(name: string, x: number, from: number): void {
    // The face begins where the ground has risen by a metre and a half.
    let face = from;
    const floor = this.ground(x, from);
    while (this.ground(x, face) < floor + 1.5) face -= 0.25;
    const depth = 8;
    const front = face + 5.5;
    const group = name;
    this.block(`${name} mass`, 'box', { size: [6, 5.2, depth], at: [x, floor - 0.6, front - depth / 2] }, { group });
    this.along(
      `${name} gallery`,
      'tunnel',
      [
        [x, floor, front + 0.2],
        [x, floor, front - 5.2],
      ],
      { op: 'void', cuts: 'group', group, tall: 3, wide: 2.4 },
    );
    this.block(`${name} lamp niche`, 'box', { size: [1.2, 0.8, 0.6], at: [x + 1.4, floor + 1.2, front - 2.4], turn: 90 }, { op: 'void', cuts: 'group', group });
    this.block(`${name} portal`, 'arch', { size: [3.6, 3.7, 0.5], at: [x, floor - 0.05, front + 0.25] }, { wall: 0.5 });
  }

  /** Steps 0.2 m high and 0.32 m deep up to a platform. */
  steps(name: string, count: number, width: number, { x, z, turn }: { x: number; z: number; turn: number }): void {
    const floor = this.ground(x, z);
    const [s, c] = sinCosDeg(turn);
    for (let i = 0; i < count; i++) {
      const lx = i * 0.32;
      this.block(`${name} ${i + 1}`, 'box', { size: [0.32, 0.2 * (i + 1) + 0.2, width], at: [x + c * lx, floor - 0.2, z - s * lx], turn });
    }
  }
}
