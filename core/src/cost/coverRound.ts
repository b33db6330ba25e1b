import type { Rect } from '../earth/rect';
import { COVER_CELL, COVER_RINGS, coverCell, type CoverInput } from '../growth/cover/coverCell';
import type { CoverSpecies } from '../growth/cover/coverSpecies';
import { meshesOf, meshOf } from '../growth/meshes';
import type { Assets } from '../kit/placement';
import type { Vec3 } from '../num/vec';
import type { InstanceCell } from './instances';
import { PlantCell } from './plantCells';

/** So many cells are kept before those far from an eye are given up. */
const KEPT = 1200;
/** A cell is made before it is in reach, metres: nobody sees it come in. */
const AHEAD = 6;

/**
 * Ground cover round eyes: cells are made as an eye comes near and kept while it is; nothing of it is stored. The same cell is the
 * same wherever one comes from.
 */
export class CoverRound {
  private readonly made = new Map<string, InstanceCell[]>();
  private readonly reach: number;

  constructor(
    private readonly input: CoverInput,
    private readonly species: readonly CoverSpecies[],
    private readonly assets: Assets,
  ) {
    this.reach = Math.max(0, ...species.map((s) => s.reach)) + AHEAD;
  }

  get any(): boolean {
    return this.species.length > 0;
  }

  /**
   * What covers the ground round an eye, each cell with its own cut-off.
   *
   * @param most cells that are made now; the nearest first
   * @returns `left`: how many are still to be made
   */
  around(eye: Vec3, most = Infinity): { cells: InstanceCell[]; left: number } {
    if (!this.any) return { cells: [], left: 0 };
    const near = this.cellsNear(eye);
    let room = most;
    let left = 0;
    const cells: InstanceCell[] = [];
    for (const { key, cx, cz } of near) {
      let found = this.made.get(key);
      if (!found) {
        if (room <= 0) {
          left++;
          continue;
        }
        room--;
        this.made.set(key, (found = this.make(cx, cz)));
      }
      cells.push(...found);
    }
    if (this.made.size > KEPT) {
      const keep = new Set(near.map((n) => n.key));
      for (const key of this.made.keys()) if (this.made.size > KEPT / 2 && !keep.has(key)) this.made.delete(key);
    }
    return { cells, left };
  }

  /** Ground is another in some samples: what covers it is made anew. */
  forget({ x0, z0, x1, z1 }: Rect): void {
    const { spacing } = this.input.terrain.grid;
    // Steepness is looked at a sample to either side.
    const [ax, az] = [Math.floor(((x0 - 2) * spacing) / COVER_CELL), Math.floor(((z0 - 2) * spacing) / COVER_CELL)];
    const [bx, bz] = [Math.floor(((x1 + 2) * spacing) / COVER_CELL), Math.floor(((z1 + 2) * spacing) / COVER_CELL)];
    for (const key of this.made.keys()) {
      const [cx, cz] = key.split(',').map(Number);
      if (cx >= ax && cx <= bx && cz >= az && cz <= bz) this.made.delete(key);
    }
  }

  /** Cells in reach of an eye, the nearest first. */
  private cellsNear([x, y, z]: Vec3): { key: string; cx: number; cz: number; far: number }[] {
    const { width, depth } = this.input.terrain.grid;
    const [across, down] = [Math.ceil(width / COVER_CELL), Math.ceil(depth / COVER_CELL)];
    const cell = (v: number) => Math.floor(v / COVER_CELL);
    const out: { key: string; cx: number; cz: number; far: number }[] = [];
    for (let cz = Math.max(0, cell(z - this.reach)); cz <= Math.min(down - 1, cell(z + this.reach)); cz++) {
      for (let cx = Math.max(0, cell(x - this.reach)); cx <= Math.min(across - 1, cell(x + this.reach)); cx++) {
        const dx = Math.max(cx * COVER_CELL - x, 0, x - (cx + 1) * COVER_CELL);
        const dz = Math.max(cz * COVER_CELL - z, 0, z - (cz + 1) * COVER_CELL);
        const dy = this.above(cx, cz, y);
        const far = Math.sqrt(dx * dx + dz * dz + dy * dy);
        if (far <= this.reach) out.push({ key: `${cx},${cz}`, cx, cz, far });
      }
    }
    return out.sort((a, b) => a.far - b.far || (a.key < b.key ? -1 : 1));
  }

  /** How far an eye is above the ground of a cell at least, by its corners and middle, metres. */
  private above(cx: number, cz: number, y: number): number {
    const { grid, heights } = this.input.terrain;
    let high = -Infinity;
    for (const [u, v] of [
      [0, 0],
      [1, 0],
      [0, 1],
      [1, 1],
      [0.5, 0.5],
    ]) {
      const ix = Math.min(grid.nx - 1, Math.round(((cx + u) * COVER_CELL) / grid.spacing));
      const iz = Math.min(grid.nz - 1, Math.round(((cz + v) * COVER_CELL) / grid.spacing));
      high = Math.max(high, heights[iz * grid.nx + ix]);
    }
    return Math.max(0, y - high - COVER_CELL / 2);
  }

  private make(cx: number, cz: number): InstanceCell[] {
    return this.species.flatMap((of) => {
      const plants = coverCell(this.input, of, cx, cz);
      const list = Array.from({ length: plants.count }, (_, i) => i);
      return meshesOf(of.s).flatMap(({ asset }, mesh) =>
        COVER_RINGS.flatMap(({ reach }, ring): InstanceCell[] => {
          const mine = list.slice(ring > 0 ? plants.upTo[ring - 1] : 0, plants.upTo[ring]).filter((i) => meshOf(plants, i) === mesh);
          const drawn = this.assets.get(asset);
          if (mine.length === 0 || !drawn) return [];
          const named = { key: `cover/${of.s.id}/${mesh}.${ring}/${cx},${cz}`, asset, owner: of.s.id };
          const cell = new PlantCell(named, plants, Int32Array.from(mine)).measure(drawn);
          cell.cutoff = of.reach * reach;
          return [cell];
        }),
      );
    });
  }
}
