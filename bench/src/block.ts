import { BlockBuilder } from '@rammer/core/block/build';
import { loadSolidKernel } from '@rammer/core/block/loadKernel';
import { shapeMesh } from '@rammer/core/block/shapes';
import type { SolidKernel } from '@rammer/core/block/kernel';
import type { Block } from '@rammer/core/level/objects';
import { hashUnit } from '@rammer/core/num/hash';
import type { Pair } from './measure';

const VOIDS = 200;

const block = (id: string, more: Partial<Block>): Block => ({
  id,
  version: 1,
  kind: 'block',
  name: id,
  shape: 'box',
  size: [1, 1, 1],
  at: [0, 0, 0],
  turn: 0,
  hidden: false,
  out: false,
  ...more,
});

/** A slab 60 m square with 200 voids of two shapes on a shaken grid. */
function slab(): Block[] {
  const voids = Array.from({ length: VOIDS }, (_, i) =>
    block(`void-${String(i).padStart(3, '0')}`, {
      op: 'void',
      shape: i % 3 === 0 ? 'cylinder' : 'box',
      size: [1.6, 3, 1.4 + hashUnit(3, i)],
      turn: Math.round(hashUnit(4, i) * 90),
      at: [-27 + (i % 15) * 3.8 + hashUnit(1, i), -1, -26 + Math.floor(i / 15) * 3.8 + hashUnit(2, i)],
    }),
  );
  return [block('slab', { size: [60, 1, 60] }), ...voids];
}

/** The slab less its voids one after the other with the same kernel, each step forced. */
function oneByOne(kernel: SolidKernel, [solid, ...voids]: readonly Block[]): number {
  const manifold = (b: Block) => {
    const { positions, indices } = shapeMesh(b);
    const flat = new kernel.Manifold(
      new kernel.Mesh({
        numProp: 3,
        vertProperties: positions.map((_, i) => (i % 3 === 1 ? -positions[i + 1] : i % 3 === 2 ? positions[i - 1] : positions[i])),
        triVerts: indices,
      }),
    );
    const turned = flat.rotate([0, 0, b.turn]);
    const placed = turned.translate([b.at[0], -b.at[2], b.at[1]]);
    flat.delete();
    turned.delete();
    return placed;
  };
  let left = manifold(solid);
  for (const v of voids) {
    const cutter = manifold(v);
    const next = left.subtract(cutter);
    next.numTri();
    cutter.delete();
    left.delete();
    left = next;
  }
  const volume = left.volume();
  left.delete();
  return volume;
}

/** `block/` rows. */
export async function blockPairs(): Promise<(() => Pair)[]> {
  const kernel = await loadSolidKernel();
  const blocks = slab();
  const whole = () => {
    const builder = new BlockBuilder(kernel);
    const [built] = builder.build(blocks);
    builder.dispose();
    return built;
  };
  const volume = whole().volume;
  const slow = oneByOne(kernel, blocks);
  if (Math.abs(volume - slow) > 1e-3 * slow) throw new Error(`at once ${volume} m3, one by one ${slow} m3`);
  return [
    () => ({
      name: 'block/voids',
      target: 5,
      note:
        `${VOIDS} voids cut into a slab at once, with mesh and faces by void, against ` +
        `one after the other, each step forced by numTri(); both leave ${volume.toFixed(2)} m3`,
      ours: () => {
        whole();
      },
      baseline: () => {
        oneByOne(kernel, blocks);
      },
    }),
    () => {
      const builder = new BlockBuilder(kernel);
      const moving = new Set(['void-100']);
      let step = 0;
      const moved = () => blocks.map((b) => (b.id === 'void-100' ? { ...b, at: [b.at[0] + ++step * 0.01, b.at[1], b.at[2]] as Block['at'] } : b));
      builder.build(moved(), { moving });
      return {
        name: 'block/drag',
        target: 8,
        note: `each step after the first of dragging one of ${VOIDS} voids, against building all again`,
        ours: () => {
          builder.build(moved(), { moving });
        },
        baseline: () => {
          const fresh = new BlockBuilder(kernel);
          fresh.build(moved());
          fresh.dispose();
        },
      };
    },
  ];
}
