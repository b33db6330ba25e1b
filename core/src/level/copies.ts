import { sinCosDeg } from '../num/trig';
import type { Vec3 } from '../num/vec';
import type { ObjectMap } from './objectMap';
import type { Assembly, Block, CopyObject } from './objects';

/**
 * Copies of an assembly are not in the document block by block: each is one object, and its blocks are made
 * from the master's whenever they are asked for, so that an edit of the master is an edit of all. Their ids
 * are `<copy>~<block>`, which no object of the document can have.
 */
const MARK = '~';

/** The object of the document that a block's id belongs to: itself, or the copy it is made for. */
export const ownerOf = (id: string): string => id.split(MARK)[0];
export const isMade = (id: string): boolean => id.includes(MARK);

/** A point of the master where it stands in a copy. */
export function inCopy(copy: Pick<CopyObject, 'at' | 'turn'>, pivot: Vec3, p: Vec3): Vec3 {
  const [s, c] = sinCosDeg(copy.turn);
  const [x, y, z] = [p[0] - pivot[0], p[1] - pivot[1], p[2] - pivot[2]];
  return [copy.at[0] + c * x + s * z, copy.at[1] + y, copy.at[2] - s * x + c * z];
}

/** The blocks of a copy: those of the master's group, turned and set where it stands, in a group of its name. */
export function copyBlocks(copy: CopyObject, assembly: Assembly, masters: Iterable<Block>): Block[] {
  const out: Block[] = [];
  for (const b of masters) {
    if (b.group !== assembly.group || b.out) continue;
    const at = inCopy(copy, assembly.pivot, b.at);
    // A stop is a way and not a place: it is turned, not moved.
    const stops = b.stops?.map((s) => ({ ...s, by: inCopy({ at: [0, 0, 0], turn: copy.turn }, [0, 0, 0], s.by).map((v) => v + 0) as Vec3 }));
    out.push({ ...b, id: `${copy.id}${MARK}${b.id}`, name: `${copy.name}: ${b.name}`, group: copy.name, at, turn: ((((b.turn + copy.turn + 180) % 360) + 360) % 360) - 180, hidden: b.hidden || copy.hidden, ...(stops ? { stops } : {}) });
  }
  return out;
}

/** The most blocks that copies are made into; a few small objects could name millions. */
export const MOST_MADE = 100_000;

/** The blocks of every copy that is in the level; copies that would make them more than `MOST_MADE` are left out, see `copiesLeftOut`. */
export const allCopies = (objects: ObjectMap): Block[] => makeCopies(objects).blocks;

/** Copies that stand in the level and are not made, for there are too many blocks in them. */
export const copiesLeftOut = (objects: ObjectMap): CopyObject[] => makeCopies(objects).leftOut;

function makeCopies(objects: ObjectMap): { blocks: Block[]; leftOut: CopyObject[] } {
  const copies = objects.of('copy').filter((o) => !o.out);
  const blocks: Block[] = [];
  const leftOut: CopyObject[] = [];
  if (copies.length === 0) return { blocks, leftOut };
  const byGroup = new Map<string, Block[]>();
  for (const o of objects.of('block')) if (o.group !== undefined) (byGroup.get(o.group) ?? byGroup.set(o.group, []).get(o.group)!).push(o);
  const assemblies = new Map(objects.of('assembly').map((o) => [o.id, o]));
  for (const copy of copies) {
    const of = assemblies.get(copy.assembly);
    const masters = of && byGroup.get(of.group);
    if (!of || !masters) continue;
    if (blocks.length + masters.length > MOST_MADE) leftOut.push(copy);
    else blocks.push(...copyBlocks(copy, of, masters));
  }
  return { blocks, leftOut };
}
