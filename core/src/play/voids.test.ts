import { beforeAll, describe, expect, it } from 'vitest';
import { SHIPPED_BODIES } from '../body/bodies';
import { BlockBuilder } from '../block/build';
import type { SolidKernel } from '../block/kernel';
import { loadSolidKernel } from '../block/loadKernel';
import { assemble, needsKernel } from '../scene/parts';
import { levelToGlb } from '../io/glb';
import { blocksToObj } from '../io/obj';
import { applyEdit, commitChanges } from '../level/edits/index';
import { presentBlocks, type Level } from '../level/level';
import type { Block } from '../level/objects';
import { checkLevel } from '../scene/checkLevel';
import { makeWalker } from './walker';
import { groundAt } from '../surface/groundAt';
import { loadKernels } from '../testing/kernels';
import { terrainOf, testBlock, testLevel } from '../testing/levels';

let solids: SolidKernel;
beforeAll(async () => {
  solids = await loadSolidKernel();
});

const H = 0;
/** A wall right across a level of 64 m, with a door in it, between entry and objective. */
function walled(door: Partial<Block> & { size: Block['size'] }): Level {
  const level = testLevel();
  const objects = [
    testBlock('box', [80, 4, 0.4], [32, H, 32], 0, { name: 'wall' }),
    testBlock('box', door.size, [32, H, 32], 0, { op: 'void', name: 'door', ...door }),
    { id: 'in', version: 1, kind: 'marker' as const, name: 'entry', marker: 'entry' as const, at: [32, H, 50] as Block['at'], turn: 0 },
    { id: 'aim', version: 1, kind: 'marker' as const, name: 'objective', marker: 'objective' as const, at: [32, H, 14] as Block['at'], turn: 0 },
  ];
  const added = applyEdit(level, { kind: 'add', objects });
  if (!added.ok) throw new Error(added.message);
  commitChanges(level, added.changes);
  return level;
}

describe('a door cut into a wall', () => {
  it('is walked through where the body fits, and is a snag where it does not', async () => {
    const check = async (size: Block['size']) => (await checkLevel(walled({ size }), { kernel: solids }))!;
    const open = await check([1.2, 2.2, 1]);
    expect(open.reach.reached).toBe(true);
    expect(open.snags.filter((s) => s.code.startsWith('opening'))).toEqual([]);
    const low = await check([1.2, 1.1, 1]);
    expect(low.reach.reached).toBe(false);
    expect(low.snags.find((s) => s.code === 'opening-blocked')).toMatchObject({
      severity: 'blocking',
      message: 'door: an opening 1.20 m wide and 1.10 m high cannot be passed',
    });
    const narrow = await check([0.7, 2.2, 1]);
    expect(narrow.reach.reached).toBe(false);
    expect(narrow.snags.find((s) => s.code === 'opening-blocked')?.message).toContain('0.70 m wide');
    const tight = await check([0.92, 2.2, 1]);
    expect(tight.reach.reached).toBe(true);
    expect(tight.snags.find((s) => s.code === 'opening-tight')?.message).toBe('door: an opening 0.92 m wide and 2.20 m high is tight');
  }, 60_000);

  it('is told from a window, which has a sill, and a niche, which has a back', async () => {
    const found = async (...more: Block[]) => {
      const level = walled({ size: [1.2, 2.2, 1] });
      for (const b of more) level.objects.set(b.id, b);
      return (await checkLevel(level, { kernel: solids }))!.snags.filter((s) => s.code.startsWith('opening')).map((s) => s.message);
    };
    expect(
      await found(
        testBlock('box', [1.2, 0.9, 1], [40, 0.9, 32], 0, { op: 'void' }),
        testBlock('box', [1.2, 0.9, 1], [44, 2.5, 32], 0, { op: 'void' }),
        testBlock('box', [0.8, 0.8, 0.3], [48, 0.6, 32.15], 0, { op: 'void' }),
      ),
    ).toEqual([]);
    // A hole at the floor is a way for something smaller: too low for the adult.
    expect(await found(testBlock('box', [1.2, 0.9, 1], [40, 0, 32], 0, { op: 'void', name: 'hatch' }))).toEqual([
      'hatch: an opening 1.20 m wide and 0.90 m high cannot be passed',
    ]);
  });

  it('is open to what asks for the ground; over it the wall still stands', async () => {
    const parts = await assemble(walled({ size: [1.2, 2.2, 1] }), new Map(), solids);
    const at = (x: number, y: number) => groundAt(parts.terrain, parts.grid, [x, y, 32], { meshes: parts.meshes });
    expect(at(32, 1)).toMatchObject({ host: { kind: 'terrain' }, height: H });
    expect(at(32, 9)).toMatchObject({ host: { kind: 'block', name: 'wall' }, height: 4 });
    expect(at(36, 9).height).toBe(4);
    expect(SHIPPED_BODIES.adult.height).toBeLessThan(2.2);
  });

  it('is refused without the kernel, and counted with the triangles of its mesh', async () => {
    const level = walled({ size: [1.2, 2.2, 1] });
    expect(needsKernel(level)).toBe(true);
    expect(needsKernel(testLevel())).toBe(false);
    await expect(assemble(level, new Map())).rejects.toThrow(/kernel/);
    const parts = await assemble(level, new Map(), solids);
    const blocks = parts.drawables.filter((d) => d.course === 'blocks');
    expect(blocks.map((d) => d.triangles[0])).toEqual([parts.built[0].indices.length / 3]);
  });

  it('leaves for other programs to a millimetre, and the void does not', async () => {
    const parts = await assemble(walled({ size: [1.2, 2.2, 1] }), new Map(), solids);
    const obj = blocksToObj(parts.blocks, parts.built);
    expect(obj.match(/^o .*/gm)).toEqual(['o wall']);
    const corners = [...obj.matchAll(/^v (\S+) (\S+) (\S+)$/gm)].map((m) => m.slice(1).map(Number));
    for (const [x, y, z] of [
      [31.4, 0, 31.8],
      [32.6, 2.2, 32.2],
      [31.4, 2.2, 31.8],
      [-8, 4, 31.8],
      [72, 0, 32.2],
    ]) {
      expect(Math.min(...corners.map((c) => Math.hypot(c[0] - x, c[1] - y, c[2] - z)))).toBeLessThan(0.001);
    }
    const bytes = await levelToGlb(parts.level, parts.terrain, { built: parts.built });
    const view = new DataView(bytes.buffer, bytes.byteOffset);
    const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + view.getUint32(12, true)))) as {
      nodes: { name: string; translation?: number[]; scale?: number[] }[];
    };
    expect(json.nodes.map((n) => n.name)).toEqual(['terrain', 'wall']);
    expect(json.nodes[1].scale).toBeUndefined();
    await expect(levelToGlb(parts.level, parts.terrain)).rejects.toThrow('block wall has no mesh');
  });

  it('is the same after a reload, bit for bit', () => {
    const level = walled({ size: [1.2, 2.2, 1], shape: 'arch', wall: 0.1 });
    const build = () => new BlockBuilder(solids).build(presentBlocks(level));
    expect(build()).toEqual(build());
  });
});

describe('a stair of blocks', () => {
  it('is begun under a door that leaves no room for a whole step over the head', async () => {
    const { rapier } = await loadKernels();
    const level = testLevel();
    const lintel = testBlock('box', [1, 1, 3], [27.2, 2.1, 32]);
    const stair = testBlock('stair', [4.48, 2.8, 1], [30.46, 0, 32], 0, { steps: 16 });
    for (const b of [lintel, stair]) level.objects.set(b.id, b);
    const parts = await assemble(level, new Map(), solids);
    const walker = makeWalker(rapier, SHIPPED_BODIES.adult, { terrain: parts.terrain, blocks: parts.blocks, meshes: parts.solids }, [26, 0.05, 32]);
    for (let i = 0; i < 60 * 4; i++) walker.step({ x: 1, z: 0, run: false, jump: false });
    expect(walker.at[1]).toBeGreaterThan(2);
    walker.dispose();
  });

  it('carries the walker up, a step at a time or a quarter turned', async () => {
    const { rapier } = await loadKernels();
    for (const [turn, at, dx, dz] of [
      [0, [27.4, 0.05, 32], 1, 0],
      [90, [32, 0.05, 36.6], 0, -1],
    ] as const) {
      const level = testLevel();
      const stair = testBlock('stair', [4.48, 2.8, 1], turn === 0 ? [30.4, 0, 32] : [32, 0, 33.6], turn, { steps: 16 });
      level.objects.set(stair.id, stair);
      const parts = await assemble(level, new Map(), solids);
      const walker = makeWalker(rapier, SHIPPED_BODIES.adult, { terrain: parts.terrain, blocks: parts.blocks, meshes: parts.solids }, [...at]);
      for (let i = 0; i < 60 * 3; i++) walker.step({ x: dx, z: dz, run: false, jump: false });
      expect(walker.at[1], `turned ${turn}`).toBeGreaterThan(2);
      walker.dispose();
    }
  });
});

describe('a stair where the head has hardly room', () => {
  it("is begun under a lintel and gone up past the stairwell's edge, wherever the steps of the clock fall", async () => {
    const shell = { op: 'void' as const, cuts: 'group' as const, group: 'shell' };
    const [x, z] = [30, 32];
    const blocks = [
      testBlock('box', [8, 5.8, 6], [x + 2, 0, z], 0, { group: 'shell' }),
      testBlock('box', [7.4, 2.5, 5.4], [x + 2, 0, z], 0, shell),
      testBlock('box', [7.4, 2.6, 5.4], [x + 2, 2.8, z], 0, shell),
      // The stairwell ends where the third step's riser has the body's back.
      testBlock('box', [1.2, 0.6, 4.8], [x, 2.4, z - 0.3], 0, shell),
      testBlock('box', [1, 2.1, 0.5], [x, 0, z + 2.85], 0, shell),
      testBlock('stair', [4.48, 2.8, 1], [x, 0, z - 0.06], 90, { steps: 16 }),
    ];
    const { rapier } = await loadKernels();
    const walls = new BlockBuilder(solids).build(blocks);
    for (const off of [0, 0.0037, 0.0111, 0.0185, 0.0259, 0.0296]) {
      const w = makeWalker(rapier, SHIPPED_BODIES.adult, { terrain: terrainOf(() => 0), blocks: [], meshes: walls }, [x + off, 0.05, z + 6 + off]);
      for (let i = 0; i < 420; i++) w.step({ x: 0, z: -1, run: false, jump: false });
      expect(w.at[1], `${off} m`).toBeGreaterThan(2.5);
      w.dispose();
    }
  });
});
