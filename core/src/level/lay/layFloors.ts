import type { Kit } from '../kinds/kit';
import type { LaidLine } from '../kinds/laidLine';
import type { Piece } from '../kinds/piece';
import { holds, inPlan, type Outline } from './outline';
import { choose, measure, partsFor, pieceAt, standing, turnOf } from './parts';

/** The most floor parts of one outline. */
const MOST_FLOORS = 20_000;

interface Floors {
  line: LaidLine;
  kit: Kit;
  outline: Outline;
  /** height of the lowest floor */
  y: number;
  put(piece: Piece): void;
}

/**
 * Lays floors over the cells of the kit's grid whose middles lie in an outline, storey by storey, and a stair from each to
 * the next, with room left over it.
 *
 * @returns what could not be laid, in words
 */
export function layFloors({ line, kit, outline, y, put }: Floors): string[] {
  const faults: string[] = [];
  const { pitch } = kit;
  const reach = ([0, 1] as const).map((k) => outline.points.reduce(([low, high], p) => [Math.min(low, p[k]), Math.max(high, p[k])], [0, 0]));
  const [first, last] = [reach.map(([low]) => Math.floor(low / pitch)), reach.map(([, high]) => Math.ceil(high / pitch))];
  if ((last[0] - first[0]) * (last[1] - first[1]) * Math.max(1, line.storeys) > MOST_FLOORS)
    return ['its floors would take too many parts: use a kit of larger ones'];
  const inside = (i: number, j: number) => holds(outline, (i + 0.5) * pitch, (j + 0.5) * pitch);
  const turn = turnOf(outline.u[0], outline.u[1]);

  const stair = line.stairs && line.storeys > 1 ? choose(partsFor(kit, 'stair'), line.seed, [0, 0, -5]) : undefined;
  let hole: Set<string> | undefined;
  if (line.stairs && line.storeys > 1 && !stair) faults.push(`the kit ${kit.name} has no part laid as stair`);
  if (stair) {
    const m = measure(stair);
    const cells = Math.max(1, Math.round(m.length / pitch));
    const place = stairPlace(first, last, cells, inside);
    if (!place) faults.push(`there is no room for a stair: it takes ${cells} cells in a row, one to start from and one to arrive at`);
    else {
      const { at, on } = place;
      hole = new Set(Array.from({ length: cells }, (_, k) => `${at[0] + k * on[0]},${at[1] + k * on[1]}`));
      // Its left side is in the middle of the first cell's near side.
      const foot = [at[0] + on[1] * 0.5, at[1] + on[0] * 0.5].map((c) => c * pitch);
      const way = on[0] ? outline.u : outline.v;
      for (let storey = 0; storey + 1 < line.storeys; storey++) {
        const from = inPlan(outline, foot[0], foot[1], y + storey * kit.storey);
        put(pieceAt(`s${storey}`, `stair ${storey + 1}`, stair, standing({ at: from, turn: turnOf(way[0], way[1]) }, m.left)));
      }
    }
  }
  const floors = partsFor(kit, 'floor');
  if (!line.floors) return faults;
  if (floors.length === 0) return [...faults, `the kit ${kit.name} has no part laid as floor`];
  for (let storey = 0; storey < Math.max(1, line.storeys); storey++) {
    for (let j = first[1]; j < last[1]; j++) {
      for (let i = first[0]; i < last[0]; i++) {
        if (!inside(i, j) || (storey > 0 && hole?.has(`${i},${j}`))) continue;
        const part = choose(floors, line.seed, [i, storey, j])!;
        const [low, high] = part.box;
        // Its top is the floor.
        const middle = inPlan(outline, (i + 0.5) * pitch, (j + 0.5) * pitch, y + storey * kit.storey - high[1]);
        put(pieceAt(`d${storey}-${i}-${j}`, `floor ${storey + 1}`, part, standing({ at: middle, turn }, [(low[0] + high[0]) / 2, 0, (low[2] + high[2]) / 2])));
      }
    }
  }
  return faults;
}

interface StairPlace {
  /** its first cell */
  at: [number, number];
  /** along u or along v */
  on: [1, 0] | [0, 1];
}

/**
 * A row of cells with room for a stair, one before it to start from and one to arrive at, as far from the first stretch as
 * there is room: that one is likely to have the door.
 */
function stairPlace(first: readonly number[], last: readonly number[], cells: number, inside: (i: number, j: number) => boolean): StairPlace | undefined {
  for (const on of [
    [1, 0],
    [0, 1],
  ] as const) {
    for (let j = last[1] - 1; j >= first[1]; j--) {
      for (let i = first[0]; i < last[0]; i++) {
        if (Array.from({ length: cells + 2 }, (_, k) => inside(i + (k - 1) * on[0], j + (k - 1) * on[1])).every(Boolean)) return { at: [i, j], on: [...on] };
      }
    }
  }
  return undefined;
}
