import { beforeEach, describe, expect, it, vi } from 'vitest';
import { composeTerrain } from '@rammer/core/earth/compose';
import { applyEdit, commitChanges, type AnyEditBody } from '@rammer/core/level/edits/index';
import { presentBlocks } from '@rammer/core/level/level';
import type { Assembly, Block, CopyObject, Standing } from '@rammer/core/level/objects';
import { presentOf } from '@rammer/core/level/present';
import { tiltOf } from '@rammer/core/num/pose';
import { testBlock, testLevel } from '../../../core/src/testing/levels';
import type { Session } from '../store/session';
import { useUi } from '../store/ui';
import { copyGroup, detachCopies, groupThings, renameGroup } from './assemblies';
import { alignThings, arrayThings, mirrorThings } from './arrangeThings';
import { asBlock, followBlock, poseFields } from './asBlock';
import { dropMembers, dropThings } from './dropThings';
import { keepThings, pasteThings } from './duplicateThings';
import { putBack } from './overrides';
import { hideThings, lockThings, moveThings, removeThings, setThings, takeOutThings, thing, things } from './things';

vi.hoisted(() => {
  (globalThis as { localStorage?: unknown }).localStorage = { getItem: () => null, setItem: () => {} };
});

const block = (id: string, more: Partial<Block> = {}): Block => ({ ...testBlock('box', [2, 1, 1], [20, 0, 20]), id, name: id, group: 'shed', ...more });
const shed: Assembly = { id: 'shed', version: 1, kind: 'assembly', name: 'shed', group: 'shed', pivot: [20, 0, 20] };
const copy = (id: string, more: Partial<CopyObject> = {}): CopyObject => ({
  id,
  version: 1,
  kind: 'copy',
  name: id,
  assembly: 'shed',
  at: [40, 0, 40],
  turn: 90,
  hidden: false,
  out: false,
  ...more,
});

let said: string[];
let undo: AnyEditBody[];
/** A session as the actions meet it: what is committed is applied, what is refused is said. */
function sessionOf(...objects: (Standing | Assembly)[]): Session {
  const level = testLevel();
  for (const o of objects) level.objects.set(o.id, o);
  said = [];
  undo = [];
  return {
    level,
    terrain: composeTerrain(level),
    writable: true,
    say: (text: string) => {
      said.push(text);
    },
    get scene() {
      return { placed: { assets: new Map(), list: [] }, solids: { plain: { list: presentBlocks(level) } } };
    },
    commit(body: AnyEditBody) {
      const applied = applyEdit(level, body);
      if (!applied.ok) {
        said.push(applied.message);
        return false;
      }
      commitChanges(level, applied.changes);
      undo.push(applied.inverse);
      return true;
    },
  } as unknown as Session;
}
const back = (session: Session) => {
  (session as unknown as { commit(b: AnyEditBody): boolean }).commit(undo.pop()!);
};
const copyIn = (session: Session) => session.level.object('c1') as CopyObject;
const select = (...ids: string[]) => useUi.getState().select(ids);

beforeEach(() => select());

describe('what stands in a copy', () => {
  it("is set there alone, laid on its master, and refused where it is the master's", () => {
    const session = sessionOf(block('b', { at: [21, 0, 20] }), shed, copy('c1'), copy('c2', { at: [60, 0, 40] }));
    const member = thing(session, 'c1~b') as Block;
    expect(member.at.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([40, 0, 39]);
    setThings(session, [member], () => ({ at: [40, 0.5, 37], tilt: tiltOf(0, 30) }), 'move');
    // A metre along the copy's own x is a metre north there.
    expect(copyIn(session).overrides).toMatchObject([{ member: 'b', move: [2, 0.5, 0] }]);
    expect(thing(session, 'c2~b')).not.toHaveProperty('tilt');
    expect(thing(session, 'c1~b')!.at.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([40, 0.5, 37]);
    expect(setThings(session, things(session, ['c1~b']), () => ({ steps: 4 }), 'change')).toBe(false);
    expect(said.at(-1)).toContain('has its steps from its master');
    setThings(session, things(session, ['c1~b']), () => ({ size: [4, 1, 1] }), 'size');
    expect((thing(session, 'c1~b') as Block).size).toEqual([4, 1, 1]);
    putBack(session, [copyIn(session)], 'b');
    expect(copyIn(session).overrides).toBeUndefined();
  });

  it('of a copy in a copy is overridden at the outermost, over what the inner has', () => {
    const session = sessionOf(
      block('b'),
      shed,
      copy('in', { group: 'yard', at: [20, 0, 30], turn: 0, overrides: [{ member: 'b', move: [0, 1, 0] }] }),
      { ...shed, id: 'yard', name: 'yard', group: 'yard' },
      copy('c1', { assembly: 'yard', turn: 0 }),
    );
    expect(thing(session, 'c1~in~b')!.at).toEqual([40, 1, 50]);
    moveThings(session, ['c1~in~b'], [3, 0, 0]);
    expect(thing(session, 'c1~in~b')!.at).toEqual([43, 1, 50]);
    expect(copyIn(session).overrides).toEqual([{ member: 'in~b', move: [3, 0, 0] }]);
    expect(thing(session, 'in~b')!.at).toEqual([20, 1, 30]);
  });

  it('goes out of that copy when it is deleted; what is overridden on a member goes with the member, and comes back with it', () => {
    const session = sessionOf(block('b'), block('d'), shed, copy('c1', { overrides: [{ member: 'd', move: [0, 1, 0] }] }));
    select('c1~b');
    removeThings(session);
    expect(
      presentOf(session.level.objects)
        .inCopy('c1')
        .map((t) => t.id),
    ).toEqual(['c1~d']);
    select('d');
    removeThings(session);
    expect(copyIn(session).overrides).toEqual([{ member: 'b', out: true }]);
    back(session);
    expect(copyIn(session).overrides).toEqual([
      { member: 'd', move: [0, 1, 0] },
      { member: 'b', out: true },
    ]);
    takeOutThings(session, []);
    expect(undo).toHaveLength(2);
  });

  it('is dropped member by member, hidden, and detached as it stands', () => {
    const session = sessionOf(block('b', { at: [20, 3, 20] }), block('d', { at: [23, 5, 20] }), shed, copy('c1', { at: [40, 2, 40] }));
    dropMembers(session, [copyIn(session)]);
    expect(
      presentOf(session.level.objects)
        .inCopy('c1')
        .map((t) => Math.abs(t.at[1]) < 1e-9),
    ).toEqual([true, true]);
    expect((session.level.object('b') as Block).at[1]).toBe(3);
    hideThings(session, things(session, ['c1~d']));
    expect(thing(session, 'c1~d')!.hidden).toBe(true);
    detachCopies(session, [copyIn(session)]);
    const made = [...session.level.objects.values()].filter((o): o is Block => o.kind === 'block' && o.group === 'c1');
    expect(made.map((b) => [b.name, b.at[1], b.hidden])).toEqual([
      ['c1: b', 0, false],
      ['c1: d', 0, true],
    ]);
    expect(session.level.object('c1')).toBeUndefined();
  });
});

describe('groups of anything', () => {
  it('are put together, copied, renamed with their assembly, and moved whole without their copies', () => {
    const session = sessionOf(block('b', { group: undefined }), { id: 'm', version: 1, kind: 'marker', name: 'm', marker: 'threat', at: [22, 0, 20], turn: 0 });
    groupThings(session, things(session, ['b', 'm']), 'corner');
    expect(copyGroup(session, 'corner')).toBe(true);
    const [c] = session.level.objects.of('copy');
    expect(
      presentOf(session.level.objects)
        .inCopy(c.id)
        .map((t) => t.kind)
        .sort(),
    ).toEqual(['block', 'marker']);
    const before = presentOf(session.level.objects)
      .inCopy(c.id)
      .map((t) => t.at);
    moveThings(session, ['b', 'm'], [5, 0, 0]);
    expect(
      presentOf(session.level.objects)
        .inCopy(c.id)
        .map((t) => t.at),
    ).toEqual(before);
    moveThings(session, ['m'], [0, 0, 1]);
    expect(
      presentOf(session.level.objects)
        .inCopy(c.id)
        .map((t) => t.at),
    ).not.toEqual(before);
    renameGroup(session, 'corner', 'nook');
    expect(presentOf(session.level.objects).inCopy(c.id)).toHaveLength(2);
  });

  it('are locked whatever is in them', () => {
    const session = sessionOf(
      block('b'),
      { id: 'm', version: 1, kind: 'marker', name: 'm', marker: 'threat', at: [22, 0, 20], turn: 0, group: 'shed' },
      shed,
      copy('c1'),
    );
    lockThings(session, things(session, ['m', 'c1']), true);
    moveThings(session, ['m', 'b'], [1, 0, 0]);
    expect(session.level.object('m')).toMatchObject({ at: [22, 0, 20], locked: true });
    expect(session.level.object('b')).toMatchObject({ at: [21, 0, 20] });
    moveThings(session, ['c1~b'], [1, 0, 0]);
    expect(copyIn(session).overrides).toBeUndefined();
    expect(said.at(-1)).toContain('locked');
  });
});

describe('a box around a thing', () => {
  it('leads it: moved, tilted and sized as the box was, and only what changed is set', () => {
    const session = sessionOf(block('b'), shed, copy('c1', { turn: 0 }));
    const t = copyIn(session);
    const box = asBlock(session, t);
    expect(box).toMatchObject({ at: [40, 0, 40], size: [2, 1, 1], turn: 0 });
    const tilt = tiltOf(0, 90)!;
    const led = followBlock(session, t, { ...box, tilt, size: [4, 1, 1] });
    expect(led).toMatchObject({ tilt, scale: [2, 1, 1] });
    const again = asBlock(session, led);
    expect(again.size).toEqual([4, 1, 1]);
    again.at.forEach((v, k) => expect(v).toBeCloseTo(box.at[k], 9));
    expect(poseFields(t, led)).toMatchObject({ tilt, scale: [2, 1, 1] });
    expect(Object.keys(poseFields(t, { ...t, at: [1, 2, 3] }))).toEqual(['at', 'turn']);
  });

  it('that lies is dropped onto its lowest corner', () => {
    const session = sessionOf(block('b', { at: [20, 5, 20], tilt: tiltOf(0, 45)!, group: undefined }));
    dropThings(session, things(session, ['b']));
    // Tilted by 45 degrees about its width, the end of its base is half its length times the sine below its middle.
    expect((session.level.object('b') as Block).at[1]).toBeCloseTo(Math.SQRT1_2, 3);
  });
});

describe('what is dropped together', () => {
  it('keeps its arrangement: a stack stays a stack, and stands where its lowest does', () => {
    const session = sessionOf(
      block('low', { at: [20, 5, 20], group: undefined }),
      block('top', { at: [20, 6.5, 20], group: undefined }),
      block('aside', { at: [26, 7, 20], group: undefined }),
    );
    const y = (id: string) => (session.level.object(id) as Block).at[1];
    dropThings(session, things(session, ['low', 'top', 'aside']), true);
    const [low, top, aside] = [y('low'), y('top'), y('aside')];
    expect([top - low, aside - low]).toEqual([1.5, 2]);
    // Each by itself falls past the others of the selection.
    dropThings(session, things(session, ['low', 'top']));
    expect(y('top')).toBeCloseTo(y('low'), 3);
    expect(y('low')).toBeCloseTo(low, 3);
  });
});

describe('what is arranged', () => {
  it('stands in a row, on an arc, mirrored, flush and spread, whatever it is', () => {
    const session = sessionOf(block('b', { group: undefined }), shed, copy('c1', { turn: 0 }), block('m', { at: [19, 0, 20] }));
    arrayThings(session, things(session, ['c1']), { kind: 'row', count: 3, step: [0, 0, 5] });
    expect(things(session)).toMatchObject([
      { kind: 'copy', at: [40, 0, 45] },
      { kind: 'copy', at: [40, 0, 50] },
    ]);
    // A half turn about x = 20, z = 20 for what stands a metre west of it.
    arrayThings(session, things(session, ['b']), { kind: 'arc', count: 2, x: 19, z: 20, sweep: 180 });
    expect(things(session)[0].at).toEqual([18, 0, 20]);
    // The copy's box is that of its member, a metre west of its place.
    alignThings(session, things(session, ['b', 'c1']), 0, 'low');
    expect(thing(session, 'c1')!.at[0]).toBeCloseTo(21, 3);
    mirrorThings(session, things(session, ['c1']), 0, false);
    expect(thing(session, 'c1')!.turn).toBe(-180);
    expect(asBlock(session, thing(session, 'c1')!).at[0]).toBeCloseTo(20, 3);
  });
});

describe('what is pasted', () => {
  it('stands at the pointer as it was arranged, or each dropped, and is selected', () => {
    const session = sessionOf(block('b', { at: [20, 2, 20] }), block('d', { at: [24, 4, 20] }), shed, copy('c1'));
    pasteThings(session, [5, 0, 5], false);
    expect(said.at(-1)).toContain('nothing is kept');
    select('b', 'd');
    keepThings(session);
    pasteThings(session, [10, 1, 10], false);
    expect(things(session).map((t) => t.at)).toEqual([
      [8, 1, 10],
      [12, 3, 10],
    ]);
    pasteThings(session, [10, 1, 10], true);
    expect(things(session).map((t) => t.at)).toEqual([
      [8, 0, 10],
      [12, 0, 10],
    ]);
    pasteThings(session, undefined, false);
    expect(said.at(-1)).toContain('point at where');
    select('c1~b');
    keepThings(session);
    pasteThings(session, [30, 0, 10], false);
    expect(things(session)).toMatchObject([{ kind: 'block', at: [30, 0, 10] }]);
    expect(things(session)[0].group).toBeUndefined();
  });
});
