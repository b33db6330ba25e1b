import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { composed } from '../num/pose';
import type { Vec3 } from '../num/vec';
import { cornersAt, testKit, testLine } from '../testing/kits';
import { testLevel } from '../testing/levels';
import { applyEdit, commitChanges, type AnyEditBody } from './edits/index';
import { poseOf, withOverrides } from './instance';
import { layLine } from './lay/layLine';
import type { Level } from './level';
import type { Assembly, CopyObject, Kit, LaidLine, LevelObject, Override, Piece } from './objects';
import { presentOf } from './present';

function level(...objects: LevelObject[]): Level {
  const made = testLevel();
  for (const o of objects) made.objects.set(o.id, o);
  return made;
}

function apply(of: Level, edit: AnyEditBody): AnyEditBody {
  const applied = applyEdit(of, edit);
  if (!applied.ok) throw new Error(applied.message);
  commitChanges(of, applied.changes);
  return applied.inverse;
}
const set = (of: Level, id: string, fields: Record<string, unknown>): AnyEditBody => apply(of, { kind: 'set', patches: [{ id, set: fields }] });
const pieces = (of: Level): readonly Piece[] => presentOf(of.objects).of('piece');
const yard: Assembly = { id: 'yard', version: 1, kind: 'assembly', name: 'yard', group: 'yard', pivot: [0, 0, 0] };
const copy = (id: string, more: Partial<CopyObject> = {}): CopyObject => ({
  id,
  version: 1,
  kind: 'copy',
  name: id,
  assembly: 'yard',
  at: [50, 0, 0],
  turn: 90,
  hidden: false,
  out: false,
  ...more,
});

/** What laid lines are made into, the slow way: each laid from nothing. */
function slowly(of: Level): Map<string, Piece> {
  const out = new Map<string, Piece>();
  for (const line of of.objects.of('laidLine')) {
    const kit = of.objects.get(line.kit!) as Kit;
    for (const [around, prefix] of [
      [undefined, ''] as const,
      ...of.objects
        .of('copy')
        .filter((c) => line.group === 'yard' && !c.out)
        .map((c) => [c, `${c.id}~`] as const),
    ]) {
      const mine = around?.overrides?.find((o) => o.member === line.id);
      if (mine?.out ?? line.out) continue;
      const stands = around ? { ...line, ...composed(poseOf(around), poseOf(withOverrides(line, mine ? [mine] : []))) } : line;
      for (const [slot, piece] of layLine(line, kit).pieces) {
        const own = line.overrides?.find((o) => o.member === slot);
        if (own?.out) continue;
        const made = composed(poseOf(stands as LaidLine), poseOf(withOverrides(piece, own ? [own] : [])));
        out.set(`${prefix}${line.id}~${slot}`, { ...piece, ...made, asset: own?.swap ?? piece.asset });
      }
    }
  }
  return out;
}

function agree(of: Level): void {
  const want = slowly(of);
  const have = new Map(pieces(of).map((p) => [p.id, p]));
  expect([...have.keys()].sort()).toEqual([...want.keys()].sort());
  for (const [id, p] of want) {
    const is = have.get(id)!;
    expect(is.asset).toBe(p.asset);
    for (let k = 0; k < 3; k++) expect(is.at[k]).toBeCloseTo(p.at[k], 6);
    expect(is.turn).toBeCloseTo(p.turn, 6);
  }
}

describe('what is laid along lines', () => {
  it('stands in the level by the names of its places, moved and turned with its line', () => {
    const of = level(testKit(), testLine({ at: [10, 5, 20], turn: 90 }));
    expect(pieces(of).map((p) => [p.id, ...p.at.map((v) => Math.round(v * 100) / 100), p.turn])).toEqual([
      ['line~c0-0-0', 10, 5.02, 19, 90],
      ['line~c0-0-1', 10, 5.02, 17, 90],
      ['line~c0-0-2', 10, 5.02, 15, 90],
      ['line~c0-0-3', 10, 5.02, 13, 90],
    ]);
    expect(pieces(of)[0].name).toBe('line: wall 1.1');
    expect(presentOf(of.objects).inCopy('line').length).toBe(4);
    set(of, 'line', { out: true });
    expect(pieces(of)).toEqual([]);
  });

  it('follows a moved corner: only what lies at it is told of, and undo brings it back', () => {
    const corners = cornersAt(...Array.from({ length: 11 }, (_, i): [number, number] => [i * 10, (i % 2) * 4]));
    const of = level(testKit(), testLine({ corners, remainder: 'stretch' }));
    const present = presentOf(of.objects);
    const before = pieces(of);
    const { mark } = present.since();
    const back = set(of, 'line', { corners: corners.map((c) => (c.n === 5 ? { ...c, at: [50, 0, 6] } : c)) });
    const { ids } = present.since(mark);
    expect(ids).toBeDefined();
    expect([...ids!].every((id) => /^line(~(c|k|f)[456]-.*)?$/.test(id) || /~(fk|k)[456]/.test(id))).toBe(true);
    agree(of);
    apply(of, back);
    expect(pieces(of)).toEqual(before);
  });

  it('keeps what was changed by hand through a moved corner, and through a length that has no such place for a while', () => {
    const overrides: Override[] = [
      { member: 'c0-0-3', turn: 20, move: [0, 0, 0.5] },
      { member: 'c0-0-1', swap: 'kit-window' },
    ];
    const of = level(testKit(), testLine({ overrides }));
    const turned = (): Piece => presentOf(of.objects).get('line~c0-0-3') as Piece;
    expect(turned()).toMatchObject({ turn: 20, at: [7, 0.02, 0.5] });
    set(of, 'line', { corners: cornersAt([0, 0], [4, 0]) });
    expect(turned()).toBeUndefined();
    set(of, 'line', { corners: cornersAt([0, 0], [0, 12]) });
    expect(turned().at.map((v) => Math.round(v * 100) / 100)).toEqual([0, 0.02, 7.5]);
    expect((presentOf(of.objects).get('line~c0-0-1') as Piece).asset).toBe('kit-window');
    agree(of);
  });

  it('stands in copies of an assembly, and follows the line and the kit in each', () => {
    const of = level(
      testKit(),
      testLine({ group: 'yard' }),
      yard,
      copy('a'),
      copy('b', { at: [0, 0, 40], turn: 0, overrides: [{ member: 'line', move: [1, 0, 0] }] }),
    );
    agree(of);
    expect(pieces(of).length).toBe(12);
    set(of, 'line', { corners: cornersAt([0, 0], [12, 0]) });
    agree(of);
    expect(pieces(of).length).toBe(18);
    expect(presentOf(of.objects).get('a~line')).toMatchObject({ corners: [{ n: 0 }, { n: 1, at: [12, 0, 0] }] });
    const [wall, ...rest] = testKit().parts;
    set(of, 'kit', { parts: [{ ...wall, asset: 'kit-window' }, ...rest] });
    agree(of);
    expect(new Set(pieces(of).map((p) => p.asset))).toEqual(new Set(['kit-window']));
  });

  it('is laid as it would be while a corner is dragged', () => {
    const of = level(testKit(), testLine());
    const line = of.objects.get('line') as LaidLine;
    expect(presentOf(of.objects).would({ ...line, corners: cornersAt([0, 0], [4, 0]) }).length).toBe(2);
    expect(pieces(of).length).toBe(4);
  });

  it('cannot be without its kit', () => {
    const of = level(testKit(), testLine());
    expect(applyEdit(of, { kind: 'remove', ids: ['kit'] })).toMatchObject({ ok: false, code: 'object-used' });
    expect(applyEdit(of, { kind: 'add', objects: [{ ...testLine(), id: 'other', kit: 'none' }] })).toMatchObject({ ok: false, code: 'object-missing' });
  });

  it('agrees with laying all from nothing under random edits and undo', () => {
    const corner = fc.record({ at: fc.tuple(fc.integer({ min: -200, max: 200 }), fc.constant(0), fc.integer({ min: -200, max: 200 })) });
    const change = fc.oneof(
      fc.record({ what: fc.constant('corners' as const), points: fc.array(corner, { minLength: 2, maxLength: 6 }) }),
      fc.record({
        what: fc.constant('fields' as const),
        set: fc.record({ turn: fc.integer({ min: -90, max: 90 }), seed: fc.integer({ min: 0, max: 5 }), storeys: fc.integer({ min: 1, max: 2 }) }),
      }),
      fc.record({ what: fc.constant('fields' as const), set: fc.record({ out: fc.boolean() }) }),
      fc.record({ what: fc.constant('fields' as const), set: fc.record({ group: fc.constantFrom('yard', null) }) }),
      fc.record({ what: fc.constant('hand' as const), slot: fc.constantFrom('c0-0-0', 'c0-0-1', 'c1-0-0'), turn: fc.integer({ min: -40, max: 40 }) }),
      fc.record({ what: fc.constant('copy' as const), at: fc.tuple(fc.integer({ min: -50, max: 50 }), fc.constant(0), fc.integer({ min: -50, max: 50 })) }),
      fc.record({ what: fc.constant('kit' as const), weight: fc.integer({ min: 1, max: 3 }) }),
    );
    fc.assert(
      fc.property(fc.array(fc.tuple(change, fc.boolean()), { maxLength: 8 }), (changes) => {
        const of = level(
          testKit(),
          testLine({ group: 'yard' }),
          yard,
          copy('a'),
          testLine({ id: 'other', corners: cornersAt([0, 0], [0, 7]), remainder: 'filler' }),
        );
        for (const [c, undone] of changes) {
          const before = JSON.stringify(pieces(of));
          const back =
            c.what === 'corners'
              ? set(of, 'line', { corners: c.points.map((p, n) => ({ n, at: p.at.map((v) => v / 10) as Vec3 })) })
              : c.what === 'fields'
                ? set(of, 'line', c.set)
                : c.what === 'hand'
                  ? set(of, 'line', { overrides: [{ member: c.slot, turn: c.turn }] })
                  : c.what === 'copy'
                    ? set(of, 'a', { at: c.at })
                    : set(of, 'kit', { parts: testKit().parts.map((p) => ({ ...p, weight: c.weight })) });
          agree(of);
          if (!undone) continue;
          apply(of, back);
          expect(JSON.stringify(pieces(of))).toBe(before);
        }
      }),
      { numRuns: 60 },
    );
  });
});
