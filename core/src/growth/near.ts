/**
 * Points in plan with a radius each, found by cell. Flat arrays: `head` one entry a cell (-1 none),
 * `next` one an entry; entries are x, z, radius and owner.
 */
export class NearPoints {
  private readonly across: number;
  private readonly down: number;
  private readonly head: Int32Array;
  private next: Int32Array;
  private x: Float64Array;
  private z: Float64Array;
  private radius: Float64Array;
  private owner: Int32Array;
  private count = 0;
  private widest = 0;

  /**
   * @param cell side of a cell, metres; about the largest distance that is asked for
   * @param expected about how many there will be
   */
  constructor(width: number, depth: number, private readonly cell: number, expected = 256) {
    const room = Math.max(256, expected);
    this.next = new Int32Array(room);
    this.x = new Float64Array(room);
    this.z = new Float64Array(room);
    this.radius = new Float64Array(room);
    this.owner = new Int32Array(room);
    this.across = Math.max(1, Math.ceil(width / cell));
    this.down = Math.max(1, Math.ceil(depth / cell));
    this.head = new Int32Array(this.across * this.down).fill(-1);
  }

  add(x: number, z: number, radius: number, owner: number): void {
    if (this.count === this.x.length) this.grow();
    const c = this.cellOf(z, this.down) * this.across + this.cellOf(x, this.across);
    const i = this.count++;
    this.x[i] = x;
    this.z[i] = z;
    this.radius[i] = radius;
    this.owner[i] = owner;
    this.next[i] = this.head[c];
    this.head[c] = i;
    if (radius > this.widest) this.widest = radius;
  }

  /**
   * Owner of the first point nearer than it may be, or -1: points of `owner` keep `own` metres, others
   * the larger of their radius and `radius`.
   */
  clash(x: number, z: number, radius: number, owner: number, own: number): number {
    if (this.count === 0) return -1;
    const reach = Math.max(radius, this.widest, own);
    const x0 = this.cellOf(x - reach, this.across);
    const x1 = this.cellOf(x + reach, this.across);
    const z1 = this.cellOf(z + reach, this.down);
    for (let gz = this.cellOf(z - reach, this.down); gz <= z1; gz++) {
      for (let gx = x0; gx <= x1; gx++) {
        for (let i = this.head[gz * this.across + gx]; i >= 0; i = this.next[i]) {
          const keep = this.owner[i] === owner ? own : Math.max(radius, this.radius[i]);
          const dx = this.x[i] - x;
          const dz = this.z[i] - z;
          if (dx * dx + dz * dz < keep * keep) return this.owner[i];
        }
      }
    }
    return -1;
  }

  private cellOf(v: number, cells: number): number {
    const c = Math.floor(v / this.cell);
    return c < 0 ? 0 : c >= cells ? cells - 1 : c;
  }

  private grow(): void {
    const bigger = <T extends Float64Array | Int32Array>(from: T, to: T): T => { to.set(from as never); return to; };
    const n = this.x.length * 2;
    this.x = bigger(this.x, new Float64Array(n));
    this.z = bigger(this.z, new Float64Array(n));
    this.radius = bigger(this.radius, new Float64Array(n));
    this.next = bigger(this.next, new Int32Array(n));
    this.owner = bigger(this.owner, new Int32Array(n));
  }
}
