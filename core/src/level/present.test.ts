import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { composed, placer, tiltOf, type Pose } from '../num/pose';
import type { Vec3 } from '../num/vec';
import { testBlock, testLevel } from '../testing/levels';
import { applyEdit, commitChanges, type AnyEditBody } from './edits/index';
import { atPose, isMade, memberOf, overrideFor, ownerOf, poseOf, withOverrides } from './instance';
import { makeLevel, presentPlants, type Level } from './level';
import {
  isStanding,
  parseObject,
  STANDING_KINDS,
  type Assembly,
  type Block,
  type CopyObject,
  type LevelObject,
  type Override,
  type Piece,
  type Standing,
} from './objects';
import { DEEPEST, MOST_MADE, presentOf } from './present';

const block = (id: string, more: Partial<Block> = {}): Block => ({ ...testBlock('box', [2, 1, 1], [0, 0, 0]), id, name: id, ...more });
const piece = (id: string, more: Partial<Piece> = {}): Piece => ({
  id,
  version: 1,
  kind: 'piece',
  name: id,
  asset: 'wall',
  at: [0, 0, 0],
  turn: 0,
  sink: 0,
  collider: 'asset',
  hidden: false,
  out: false,
  ...more,
});
const assembly = (id: string, pivot: Vec3 = [0, 0, 0]): Assembly => ({ id, version: 1, kind: 'assembly', name: id, group: id, pivot });
const copy = (id: string, of: string, more: Partial<CopyObject> = {}): CopyObject => ({
  id,
  version: 1,
  kind: 'copy',
  name: id,
  assembly: of,
  at: [0, 0, 0],
  turn: 0,
  hidden: false,
  out: false,
  ...more,
});
const asset: LevelObject = { id: 'wall', version: 1, kind: 'asset', name: 'wall', role: 'piece', hash: '0'.repeat(64) } as LevelObject;

function level(...objects: LevelObject[]): Level {
  const made = testLevel();
  for (const o of [asset, { ...asset, id: 'other' }, ...objects]) made.objects.set(o.id, o as LevelObject);
  return made;
}

/** Everything that stands, made the slow way: each copy walked down by itself, by places and not by keys. */
function slowly(objects: readonly LevelObject[]): Map<string, Standing> {
  const out = new Map<string, Standing>();
  const by = new Map(objects.map((o) => [o.id, o]));
  const members = (group: string) => objects.filter((o): o is Standing => isStanding(o) && o.group === group);
  for (const o of objects) if (isStanding(o) && !o.out) out.set(o.id, o);
  const walk = (c: CopyObject, id: string, hidden: boolean, laid: { path: string; list: readonly Override[] }[], inside: readonly string[]) => {
    const of = by.get(c.assembly);
    if (of?.kind !== 'assembly' || inside.includes(of.group) || inside.length >= DEEPEST) return;
    const all = [{ path: '', list: c.overrides ?? [] }, ...laid];
    for (const m of members(of.group)) {
      const own = all.flatMap(({ path, list }) => list.filter((o) => o.member === path + m.id));
      if (own.reduce((now, o) => o.out ?? now, m.out ?? false)) continue;
      const moved = withOverrides(m, own);
      const pose = poseOf(moved);
      const placed = composed(poseOf(c), { ...pose, at: pose.at.map((v, k) => v - of.pivot[k]) as Vec3 });
      const made = { ...atPose(moved, placed), id: `${id}~${m.id}`, name: `${c.name}: ${m.name}`, group: c.name } as Standing;
      for (const o of own) {
        if (o.hidden !== undefined) made.hidden = o.hidden;
        if (o.tint && made.kind === 'piece') made.tint = o.tint;
        if (o.swap && made.kind === 'piece') made.asset = o.swap;
        if (o.swap && made.kind === 'copy') made.assembly = o.swap;
      }
      if (hidden || c.hidden) made.hidden = true;
      if (made.out) made.out = false;
      out.set(made.id, made);
      if (made.kind === 'copy')
        walk(
          made,
          made.id,
          hidden || c.hidden,
          all.map(({ path, list }) => ({ path: `${path}${m.id}~`, list })),
          [...inside, of.group],
        );
    }
  };
  for (const o of objects) if (o.kind === 'copy' && !o.out) walk(o, o.id, false, [], o.group === undefined ? [] : [o.group]);
  return out;
}

const stands = (of: Level): Map<string, Standing> =>
  new Map(STANDING_KINDS.flatMap((kind) => presentOf(of.objects).of(kind) as readonly Standing[]).map((o) => [o.id, o]));
const plain = (map: Map<string, Standing>) =>
  [...map.values()]
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map((o) => JSON.parse(JSON.stringify({ ...o, ...('out' in o && !o.out ? { out: false } : {}) })) as unknown);

function apply(of: Level, edit: AnyEditBody): AnyEditBody | undefined {
  const applied = applyEdit(of, edit);
  if (!applied.ok) return undefined;
  commitChanges(of, applied.changes);
  return applied.inverse;
}

describe('what stands in a level', () => {
  it('has pieces, plants, markers and copies of copies among it: places worked by hand', () => {
    const made = level(
      block('b', { group: 'shed', at: [1, 0, 0] }),
      piece('p', { group: 'shed', at: [0, 2, 0], tilt: tiltOf(90, 0)! }),
      assembly('shed'),
      copy('inner', 'shed', { group: 'yard', at: [10, 0, 0], turn: 90 }),
      assembly('yard', [0, 0, 0]),
      copy('outer', 'yard', { at: [100, 5, 0], turn: 90, scale: [2, 2, 2] }),
    );
    const got = stands(made);
    expect([...got.keys()].filter(isMade).sort()).toEqual(['inner~b', 'inner~p', 'outer~inner', 'outer~inner~b', 'outer~inner~p']);
    // inner turns east to north, outer turns that again and doubles it: (1, 0, 0) is (10, 0, -1) in the yard and there (98, 5, -20).
    const b = got.get('outer~inner~b') as Block;
    expect(b.at.map((v) => Math.round(v * 1e6) / 1e6)).toEqual([98, 5, -20]);
    expect(b).toMatchObject({ size: [4, 2, 2], turn: -180 });
    expect((got.get('outer~inner~p') as Piece).scale).toEqual([2, 2, 2]);
    expect((got.get('outer~inner~p') as Piece).tilt).toBeDefined();
    expect(ownerOf('outer~inner~p')).toBe('outer');
    expect(memberOf('outer~inner~p')).toBe('inner~p');
  });

  it('lays overrides on the master as it is, and takes the innermost first', () => {
    const made = level(
      piece('p', { group: 'shed', at: [1, 0, 0] }),
      block('b', { group: 'shed' }),
      assembly('shed'),
      copy('inner', 'shed', {
        group: 'yard',
        overrides: [
          { member: 'p', move: [0, 1, 0], swap: 'other', tint: '#804020' },
          { member: 'b', out: true },
        ],
      }),
      assembly('yard'),
      copy('outer', 'yard', {
        at: [50, 0, 0],
        overrides: [
          { member: 'inner~p', move: [0, 0, 3], turn: 30, scale: [1, 2, 1] },
          { member: 'inner~b', out: false, hidden: true },
        ],
      }),
    );
    const p = () => stands(made).get('outer~inner~p') as Piece;
    expect(p()).toMatchObject({ at: [51, 1, 3], turn: 30, scale: [1, 2, 1], asset: 'other', tint: '#804020' });
    expect(stands(made).has('inner~b')).toBe(false);
    expect(stands(made).get('outer~inner~b')).toMatchObject({ hidden: true, out: false });
    // The master goes on: what is overridden goes along.
    apply(made, { kind: 'set', patches: [{ id: 'p', set: { at: [5, 0, 0], turn: 10 } }] });
    expect(p()).toMatchObject({ at: [55, 1, 3], turn: 40 });
    apply(made, { kind: 'remove', ids: ['p'] });
    expect(p()).toBeUndefined();
  });

  it('ends where an assembly stands in itself, and says what is too much', () => {
    const loop = level(block('b', { group: 'a' }), assembly('a'), copy('c', 'a', { group: 'a' }), copy('d', 'a'));
    expect([...stands(loop).keys()].filter(isMade).sort()).toEqual(['d~b', 'd~c']);
    const round = level(
      block('b', { group: 'x' }),
      assembly('x'),
      assembly('y'),
      copy('xy', 'y', { group: 'x' }),
      copy('yx', 'x', { group: 'y' }),
      copy('top', 'x'),
    );
    expect([...stands(round).keys()].filter((id) => id.startsWith('top~')).sort()).toEqual(['top~b', 'top~xy', 'top~xy~yx']);
    // Eight levels of ten copies each would be a hundred million.
    const many = level(
      block('b0', { group: 'g0' }),
      ...Array.from({ length: 8 }, (_, k) => assembly(`g${k}`)),
      ...Array.from({ length: 7 }, (_, k) => Array.from({ length: 10 }, (__, i) => copy(`c${k}-${i}`, `g${k}`, { group: `g${k + 1}` }))).flat(),
      copy('top', 'g7'),
    );
    // And again and again: told, and not looked at each time.
    for (let i = 0; i < 2000; i++) many.objects.set(`more${i}`, copy(`more${i}`, 'g7'));
    const left = presentOf(many.objects).leftOut.map((c) => c.id);
    expect(left).toContain('top');
    expect(left.length).toBeGreaterThan(2000);
    expect(stands(many).size).toBeLessThan(MOST_MADE * 1.1);
  });

  it('agrees with a slow expansion under random edits, nesting, overrides and undo', () => {
    const id = fc.constantFrom('b1', 'b2', 'p1', 'p2', 'c1', 'c2', 'c3', 'm1', 't1');
    const group = fc.constantFrom('ga', 'gb', null);
    const place = fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 0, max: 5 }), fc.integer({ min: -50, max: 50 }));
    const tilt = fc.option(
      fc.tuple(fc.constantFrom(-90, 30, 60), fc.constantFrom(0, 45)).map(([x, z]) => tiltOf(x, z)!),
      { nil: null },
    );
    const even = fc.option(fc.constantFrom<Vec3>([2, 2, 2], [0.5, 0.5, 0.5]), { nil: null });
    const override = fc.record(
      { member: fc.constantFrom('b1', 'p1', 'p2', 'c2', 'c2~p1', 'c3~b1'), move: place, turn: fc.constantFrom(0, 45), out: fc.boolean(), hidden: fc.boolean() },
      { requiredKeys: ['member'] },
    );
    const overrides = fc.option(fc.uniqueArray(override, { selector: (o) => o.member, maxLength: 4 }), { nil: null });
    const set = fc.oneof(
      fc.record({ at: place }),
      fc.record({ turn: fc.constantFrom(0, 90, -30) }),
      fc.record({ tilt }),
      fc.record({ group }),
      fc.record({ out: fc.boolean() }),
      fc.record({ hidden: fc.boolean() }),
      fc.record({ scale: even }),
      fc.record({ overrides }),
      fc.record({ assembly: fc.constantFrom('ga', 'gb') }),
    );
    const act = fc.oneof(
      { weight: 6, arbitrary: fc.tuple(id, set).map(([i, fields]) => ({ do: 'set' as const, id: i, fields })) },
      { weight: 1, arbitrary: id.map((i) => ({ do: 'remove' as const, id: i })) },
      { weight: 2, arbitrary: fc.constant({ do: 'undo' as const }) },
      { weight: 1, arbitrary: place.map((pivot) => ({ do: 'pivot' as const, pivot })) },
    );
    fc.assert(
      fc.property(fc.array(act, { maxLength: 25 }), (acts) => {
        const made = level(
          block('b1', { group: 'ga' }),
          block('b2'),
          piece('p1', { group: 'ga', at: [2, 1, 0] }),
          piece('p2', { group: 'gb' }),
          assembly('ga'),
          assembly('gb', [1, 0, 1]),
          copy('c1', 'ga', { at: [30, 0, 0] }),
          copy('c2', 'ga', { group: 'gb', turn: 90 }),
          copy('c3', 'gb', { at: [0, 0, 60] }),
          { id: 'm1', version: 1, kind: 'marker', name: 'm1', marker: 'threat', at: [1, 0, 0], turn: 0, group: 'gb' },
          { id: 's', version: 1, kind: 'species', name: 's', asset: 'wall' } as unknown as LevelObject,
          { id: 't1', version: 1, kind: 'plant', name: 't1', species: 's', at: [4, 0, 0], turn: 0, scale: 1, gone: false, group: 'ga' },
        );
        const undo: AnyEditBody[] = [];
        for (const a of acts) {
          const edit: AnyEditBody | undefined =
            a.do === 'undo'
              ? undo.pop()
              : a.do === 'remove'
                ? { kind: 'remove', ids: [a.id] }
                : a.do === 'pivot'
                  ? { kind: 'set', patches: [{ id: 'ga', set: { pivot: a.pivot } }] }
                  : { kind: 'set', patches: [{ id: a.id, set: a.fields }] };
          const inverse = edit && apply(made, edit);
          if (inverse && a.do !== 'undo') undo.push(inverse);
          const objects = [...made.objects.values()];
          const got = plain(stands(made));
          expect(got).toEqual(plain(slowly(objects)));
          // Kept up, and made from nothing: the same.
          expect(got).toEqual(plain(stands(makeLevel(objects))));
        }
      }),
      { numRuns: 60 },
    );
  });

  it('keeps a list as it was while the level goes on', () => {
    const made = level(block('b', { group: 'g' }), assembly('g'), copy('c', 'g', { at: [9, 0, 0] }));
    const before = presentOf(made.objects).of('block');
    apply(made, { kind: 'set', patches: [{ id: 'b', set: { at: [1, 0, 0] } }] });
    const after = presentOf(made.objects).of('block');
    expect(before.find((b) => b.id === 'c~b')!.at).toEqual([9, 0, 0]);
    expect(after.find((b) => b.id === 'c~b')!.at).toEqual([10, 0, 0]);
    expect(presentOf(made.objects).of('block')).toBe(after);
  });

  it('leaves the hole of a plant that was moved by hand and is taken out', () => {
    const made = level(
      { id: 't', version: 1, kind: 'plant', name: 't', species: 's', at: [4, 0, 0], turn: 0, scale: 1, gone: false, was: [3, 3], out: true },
      { id: 'u', version: 1, kind: 'plant', name: 'u', species: 's', at: [4, 0, 0], turn: 0, scale: 1, gone: false, out: true },
    );
    expect(presentPlants(made)).toMatchObject([{ id: 't', gone: true }]);
  });
});

describe('an override for a wanted place', () => {
  const angle = fc.constantFrom(0, 20, 90, -135);
  const pose = fc
    .record({
      at: fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -5, max: 5 }), fc.integer({ min: -50, max: 50 })),
      turn: angle,
      tx: angle,
      tz: angle,
    })
    .map(({ at, turn, tx, tz }): Pose => {
      const tilt = tiltOf(tx, tz);
      return { at: at as Vec3, turn, ...(tilt ? { tilt } : {}) };
    });
  it('puts a member where it is wanted, whatever its copy and its master are', () => {
    fc.assert(
      fc.property(pose, pose, pose, fc.constantFrom(1, 2), (around, master, wanted, even) => {
        const c = copy('c', 'g', { ...around, scale: [even, even, even] });
        const m = piece('p', { ...master, group: 'g' });
        const target = piece('c~p', { ...wanted, scale: [even, even * 3, even] });
        const made = level(m, assembly('g', [3, 0, 4]), {
          ...c,
          overrides: [{ member: 'p', ...overrideFor(m, { pose: poseOf(c), pivot: [3, 0, 4] }, target) }],
        });
        const got = stands(made).get('c~p') as Piece;
        for (const p of [
          [0, 0, 0],
          [1, 2, 3],
          [-4, 1, 0],
        ] as Vec3[])
          placer(poseOf(got))(...p).forEach((v, k) => expect(Math.abs(v - placer(poseOf(target))(...p)[k])).toBeLessThan(2e-3));
      }),
    );
    const m = piece('p', { at: [1, 2, 3], turn: 15 });
    expect(overrideFor(m, { pose: { at: [0, 0, 0], turn: 0 }, pivot: [0, 0, 0] }, m)).toEqual({});
  });

  it('is refused where a member has two, and where a tilt is none', () => {
    expect(parseObject({ ...copy('c', 'g'), overrides: [{ member: 'p' }, { member: 'p', out: true }] })).toMatchObject({
      ok: false,
      message: expect.stringContaining('overridden twice'),
    });
    expect(parseObject(piece('p', { tilt: [1, 1, 0, 0] }))).toMatchObject({ ok: false, message: expect.stringContaining('unit quaternion') });
    expect(parseObject(piece('p', { tilt: [0, 0, 0.6, 0.8] }))).toMatchObject({ ok: true });
  });
});
