import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { beforeAll, describe, expect, it } from 'vitest';
import { needsKernel } from '../scene/parts';
import { readPackage, writePackage } from '../io/package';
import { inCopy, isMade, ownerOf } from '../level/instance';
import { presentBlocks, type Level } from '../level/level';
import { presentOf } from '../level/present';
import { applyEdit, commitChanges } from '../level/edits/index';
import type { Assembly, Block, CopyObject } from '../level/objects';
import { testBlock, testLevel } from '../testing/levels';
import { measure } from '../testing/meshes';
import { BlockBuilder } from './build';
import type { SolidKernel } from './kernel';
import { loadSolidKernel } from './loadKernel';

let kernel: SolidKernel;
beforeAll(async () => {
  kernel = await loadSolidKernel();
});

const assembly: Assembly = { id: 'shed', version: 1, kind: 'assembly', name: 'shed', group: 'shed', pivot: [10, 1, 20] };
const copy = (more: Partial<CopyObject> = {}): CopyObject => ({
  id: 'copy-1',
  version: 1,
  kind: 'copy',
  name: 'shed copy 1',
  assembly: 'shed',
  at: [40, 3, 30],
  turn: 90,
  hidden: false,
  out: false,
  ...more,
});
const mass = (more: Partial<Block> = {}) => ({ ...testBlock('box', [4, 3, 2], [11, 1, 20], 30, { name: 'mass', group: 'shed', ...more }), id: 'mass' });
const door = { ...testBlock('box', [1, 2.1, 3], [11, 1, 20], 30, { name: 'door', group: 'shed', op: 'void' as const, cuts: 'group' as const }), id: 'door' };

function level(...copies: CopyObject[]): Level {
  const made = testLevel();
  for (const o of [mass(), door, assembly, ...copies]) made.objects.set(o.id, o);
  return made;
}

describe('a copy of an assembly', () => {
  it("has the master's blocks turned about its pivot: worked by hand", () => {
    // A quarter turn counter-clockwise seen from above takes east to north.
    expect(inCopy({ at: [40, 3, 30], turn: 90 }, [10, 1, 20], [11, 1, 20]).map((v) => Math.round(v * 1e9) / 1e9)).toEqual([40, 3, 29]);
    const of = (...blocks: Block[]): Block[] => {
      const made = level(copy());
      made.objects.delete('door');
      for (const b of blocks) made.objects.set(b.id, b);
      return presentOf(made.objects).inCopy('copy-1') as Block[];
    };
    const [b] = of(mass(), testBlock('box', [1, 1, 1], [0, 0, 0]));
    expect(b).toMatchObject({ id: 'copy-1~mass', name: 'shed copy 1: mass', group: 'shed copy 1', turn: 120, size: [4, 3, 2] });
    expect(isMade(b.id) && ownerOf(b.id)).toBe('copy-1');
    expect(of(mass({ out: true }))).toEqual([]);
    const [lift] = of(
      mass({
        stops: [
          { by: [0, 0, 0], travel: 1, wait: 0 },
          { by: [2, 1, 0], travel: 1, wait: 0 },
        ],
      }),
    );
    expect(lift.stops![1].by.map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([0, 1, -2]);
  });

  it('is cut by the voids of its own group, and follows when the master is edited', () => {
    const made = level(copy(), copy({ id: 'copy-2', name: 'shed copy 2', at: [50, 0, 30], turn: 0 }));
    expect(presentBlocks(made).map((b) => b.id)).toEqual(['copy-1~door', 'copy-1~mass', 'copy-2~door', 'copy-2~mass', 'door', 'mass']);
    expect(needsKernel(made)).toBe(true);
    const volumes = () => new BlockBuilder(kernel).build(presentBlocks(made)).map((b) => Number(measure(b).volume.toFixed(3)));
    expect(volumes()).toEqual([19.8, 19.8, 19.8]);
    const edit = applyEdit(made, { kind: 'set', patches: [{ id: 'mass', set: { size: [6, 3, 2] } }] });
    if (edit.ok) commitChanges(made, edit.changes);
    expect(volumes()).toEqual([31.8, 31.8, 31.8]);
  });

  it('goes through a package; out of the level it is not there; without its assembly the package is refused', () => {
    const made = level(copy(), copy({ id: 'copy-2', out: true }));
    const opened = readPackage(writePackage(made));
    expect(opened.ok && presentBlocks(opened.value)).toEqual(presentBlocks(made));
    expect(presentBlocks(made)).toHaveLength(4);
    const files = unzipSync(writePackage(made));
    const document = JSON.parse(strFromU8(files['level.json']));
    document.objects = document.objects.filter((o: { id: string }) => o.id !== 'shed');
    expect(readPackage(zipSync({ ...files, 'level.json': strToU8(JSON.stringify(document)) }))).toMatchObject({
      ok: false,
      message: expect.stringContaining('copy copy-1 names the assembly shed, which is not there'),
    });
    // A level that an older Rammer left so gives a package that opens, without them.
    made.objects.delete('shed');
    const mended = readPackage(writePackage(made));
    expect(mended.ok && [...mended.value.objects.values()].filter((o) => o.kind === 'copy')).toEqual([]);
  });
});
