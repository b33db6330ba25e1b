import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packRaster, toBase64 } from '../../num/fixed';
import { testBlock, testLevel } from '../../testing/levels';
import { makeLevel, type Level } from '../level';
import type { Block } from '../objects';
import { TILE_SAMPLES, tileKey } from '../tiles';
import { upgradeEdit } from '../upgrade';
import { applyEdit, commitChanges, disjoint, makeEdit, parseEdit, type AnyEditBody } from './index';

const uuid = (n: number) => `00000000-0000-4000-8000-${String(n).padStart(12, '0')}`;

const plain = (level: Level) => ({
  objects: [...level.objects.values()].map((o) => ({ ...o, version: 0 })).sort((a, b) => (a.id < b.id ? -1 : 1)),
  tiles: [...level.tiles].sort(([a], [b]) => (a < b ? -1 : 1)),
});

const copy = (level: Level): Level =>
  makeLevel(
    structuredClone([...level.objects.values()]),
    [...level.tiles].map(([k, t]) => [k, t.slice()]),
  );

/** Random edits over five blocks and two tiles; many are refused, which is part of the test. */
const stroke = fc
  .tuple(fc.constantFrom('delta', 'held', 'weight' as const), fc.integer({ min: 0, max: 1 }), fc.integer({ min: -300, max: 300 }), fc.nat(TILE_SAMPLES - 1))
  .map(([channel, tx, by, at]): AnyEditBody => {
    const delta = new Int32Array(TILE_SAMPLES);
    delta[at] = by;
    return { kind: 'stroke', tiles: [{ key: tileKey('hand', channel as 'delta', tx, 0), delta: toBase64(packRaster(delta)) }] };
  });
const blockId = fc.constantFrom('p', 'q', 'r', 's', 't');
const add = blockId.map((id): AnyEditBody => ({ kind: 'add', objects: [{ ...testBlock('box', [1, 1, 1], [0, 0, 0]), id }] }));
const remove = blockId.map((id): AnyEditBody => ({ kind: 'remove', ids: [id] }));
const set = fc
  .tuple(blockId, fc.constantFrom({ turn: 30 }, { hidden: true }, { size: [2, 3, 4] }, { at: [1, 2, 3], name: 'moved' }, { turn: 15, out: true }))
  .map(([id, fields]): AnyEditBody => ({ kind: 'set', patches: [{ id, set: fields }] }));
const single = fc.oneof(stroke, add, set, remove);
const both = fc.array(single, { minLength: 1, maxLength: 4 }).map((parts): AnyEditBody => ({ kind: 'together', parts: parts as never }));
const anyEdit = fc.oneof(single, single, single, both);

function start(): Level {
  const level = testLevel();
  for (const id of ['p', 'q', 'r']) level.objects.set(id, { ...testBlock('box', [1, 1, 1], [0, 0, 0]), id, name: id });
  return level;
}

describe('edits', () => {
  it('are undone by their inverses, newest first, back to the same level', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { maxLength: 25 }), (list) => {
        const level = start();
        const before = plain(copy(level));
        const inverses: AnyEditBody[] = [];
        for (const edit of list) {
          const applied = applyEdit(level, edit);
          if (!applied.ok) continue;
          commitChanges(level, applied.changes);
          inverses.push(applied.inverse);
        }
        for (const inverse of inverses.reverse()) {
          const undone = applyEdit(level, inverse);
          expect(undone.ok).toBe(true);
          if (undone.ok) commitChanges(level, undone.changes);
        }
        expect(plain(level)).toEqual(before);
      }),
      { numRuns: 60 },
    );
  });

  it('made together are done whole or not at all', () => {
    const level = start();
    const body: AnyEditBody = {
      kind: 'together',
      parts: [
        { kind: 'remove', ids: ['p'] },
        { kind: 'add', objects: [{ ...testBlock('ramp', [1, 1, 1], [0, 0, 0]), id: 'p' }] },
        {
          kind: 'set',
          patches: [
            { id: 'p', set: { turn: 45 } },
            { id: 'q', set: { out: true } },
          ],
        },
      ],
    };
    const applied = applyEdit(level, body);
    expect(applied.ok && [...applied.changes.objects].map(([id, o]) => [id, (o as Block).shape, (o as Block).turn, (o as Block).out])).toEqual([
      ['p', 'ramp', 45, false],
      ['q', 'box', 0, true],
    ]);
    const edit = makeEdit(body, uuid(1), 'both');
    expect(edit.writes).toEqual(['o:p', 'o:p/turn', 'o:q/out']);
    expect(parseEdit(edit).ok).toBe(true);
    expect(parseEdit({ ...edit, parts: [body] }).ok).toBe(false);
    const half = applyEdit(level, {
      kind: 'together',
      parts: [
        { kind: 'remove', ids: ['p'] },
        { kind: 'remove', ids: ['nobody'] },
      ],
    });
    expect(half).toMatchObject({ ok: false, code: 'object-missing' });
    expect(level.object('p')).toBeDefined();
  });

  it('leave the level alone while they are worked out', () => {
    fc.assert(
      fc.property(anyEdit, (edit) => {
        const level = start();
        const before = plain(copy(level));
        applyEdit(level, edit);
        expect(plain(level)).toEqual(before);
      }),
      { numRuns: 60 },
    );
  });

  it('change only what their write keys name', () => {
    fc.assert(
      fc.property(anyEdit, (body) => {
        const level = start();
        const applied = applyEdit(level, body);
        fc.pre(applied.ok);
        if (!applied.ok) return;
        const { writes } = makeEdit(body, uuid(1), 'x');
        for (const id of applied.changes.objects.keys()) expect(writes.some((w) => w === `o:${id}` || w.startsWith(`o:${id}/`))).toBe(true);
        for (const key of applied.changes.tiles.keys()) expect(writes).toContain(`t:${key}`);
      }),
      { numRuns: 80 },
    );
  });

  it('that are disjoint give the same level in either order', () => {
    let checked = 0;
    fc.assert(
      fc.property(anyEdit, anyEdit, (a, b) => {
        if (!disjoint(makeEdit(a, uuid(1), 'a'), makeEdit(b, uuid(2), 'b'))) return;
        const run = (order: AnyEditBody[]): unknown => {
          const level = start();
          return [
            order.map((edit) => {
              const applied = applyEdit(level, edit);
              if (applied.ok) commitChanges(level, applied.changes);
              return applied.ok;
            }),
            plain(level),
          ];
        };
        const [okAB, ab] = run([a, b]) as [boolean[], unknown];
        const [okBA, ba] = run([b, a]) as [boolean[], unknown];
        expect(okBA.reverse()).toEqual(okAB);
        expect(ba).toEqual(ab);
        checked++;
      }),
      { numRuns: 150 },
    );
    expect(checked).toBeGreaterThan(40);
  });

  it('are not disjoint where one removes what the other changes, or both set one field', () => {
    const edit = (body: AnyEditBody) => makeEdit(body, uuid(1), 'x');
    const turn = edit({ kind: 'set', patches: [{ id: 'p', set: { turn: 3 } }] });
    const hide = edit({ kind: 'set', patches: [{ id: 'p', set: { hidden: true } }] });
    const gone = edit({ kind: 'remove', ids: ['p'] });
    expect(disjoint(turn, hide)).toBe(true);
    expect(disjoint(turn, turn)).toBe(false);
    expect(disjoint(turn, gone)).toBe(false);
    expect(disjoint(gone, turn)).toBe(false);
    const player = edit({ kind: 'set', patches: [{ id: 'settings', set: { player: 'ram' } }] });
    expect(disjoint(player, edit({ kind: 'remove', ids: ['ram'] }))).toBe(false);
  });
});

describe('refusals', () => {
  const refused = (body: AnyEditBody, level = start()) => {
    const r = applyEdit(level, body);
    return r.ok ? 'accepted' : r.code;
  };

  it('name the fault by a stable code', () => {
    const box = testBlock('box', [1, 1, 1], [0, 0, 0]) as Block;
    expect(refused({ kind: 'add', objects: [{ ...box, id: 'p' }] })).toBe('object-exists');
    expect(refused({ kind: 'add', objects: [{ ...box, id: 'z', size: [1, Number.NaN, 1] }] })).toBe('object-invalid');
    expect(refused({ kind: 'add', objects: [{ ...box, id: 'z', size: [0.01, 1, 1] }] })).toBe('object-invalid');
    expect(refused({ kind: 'set', patches: [{ id: 'nobody', set: { turn: 1 } }] })).toBe('object-missing');
    expect(refused({ kind: 'set', patches: [{ id: 'p', set: { id: 'other' } }] })).toBe('field-fixed');
    expect(refused({ kind: 'set', patches: [{ id: 'p', set: { colour: 'red' } }] })).toBe('field-unknown');
    expect(refused({ kind: 'set', patches: [{ id: 'settings', set: { player: 'p' } }] })).toBe('object-missing');
    expect(refused({ kind: 'set', patches: [{ id: 'p', set: JSON.parse('{"__proto__": 1}') }] })).toBe('field-fixed');
    expect(refused({ kind: 'remove', ids: ['settings'] })).toBe('object-kept');
    expect(refused({ kind: 'remove', ids: ['adult'] })).toBe('object-kept');
    expect(refused({ kind: 'remove', ids: ['p', 'p'] })).toBe('object-missing');
  });

  it('keep tiles inside the level, the range and the weights', () => {
    const one = (key: string, value: number): AnyEditBody => {
      const delta = new Int32Array(TILE_SAMPLES);
      delta[7] = value;
      return { kind: 'stroke', tiles: [{ key, delta: toBase64(packRaster(delta)) }] };
    };
    expect(refused(one('hand/delta/0,0', 5))).toBe('accepted');
    expect(refused(one('hand/delta/2,0', 5))).toBe('tile-invalid');
    expect(refused(one('noise/delta/0,0', 5))).toBe('tile-invalid');
    expect(refused(one('hand/colour/0,0', 5))).toBe('tile-invalid');
    expect(refused(one('hand/delta/0,0', 2_000_000_000))).toBe('tile-invalid');
    expect(refused(one('hand/weight/0,0', 1025))).toBe('tile-invalid');
    expect(refused(one('hand/weight/0,0', -1))).toBe('tile-invalid');
    expect(refused({ kind: 'stroke', tiles: [{ key: 'hand/delta/0,0', delta: 'AAAA' }] })).toBe('tile-invalid');
  });
});

describe('what an object cannot be without', () => {
  const asset = { id: 'a', version: 1, kind: 'asset', name: 'wall', role: 'piece', hash: 'f'.repeat(64) } as const;
  const piece = {
    id: 'w',
    version: 1,
    kind: 'piece',
    name: 'w',
    asset: 'a',
    at: [0, 0, 0],
    turn: 0,
    sink: 0,
    collider: 'asset',
    hidden: false,
    out: false,
  } as const;
  const add = (...objects: unknown[]): AnyEditBody => ({ kind: 'add', objects: objects as never });
  const run = (level: Level, body: AnyEditBody) => {
    const applied = applyEdit(level, body);
    if (applied.ok) commitChanges(level, applied.changes);
    return applied.ok ? 'accepted' : applied.code;
  };

  it('must be there when it is added, and cannot be removed from under it', () => {
    const level = start();
    expect(run(level, add(piece))).toBe('object-missing');
    expect(run(level, add({ ...piece, asset: 'p' }))).toBe('object-missing');
    expect(run(level, add(piece, asset))).toBe('accepted');
    expect(run(level, { kind: 'remove', ids: ['a'] })).toBe('object-used');
    expect(run(level, { kind: 'set', patches: [{ id: 'w', set: { asset: 'nobody' } }] })).toBe('object-missing');
    expect(run(level, add({ id: 'c', kind: 'copy', name: 'c', assembly: 'nobody', at: [0, 0, 0] }))).toBe('object-missing');
    expect(run(level, add({ id: 'h', kind: 'plant', name: 'h', species: 'nobody', at: [0, 0, 0] }))).toBe('object-missing');
    expect(
      run(level, {
        kind: 'together',
        parts: [
          { kind: 'remove', ids: ['a'] },
          { kind: 'remove', ids: ['w'] },
        ],
      }),
    ).toBe('accepted');
  });

  it('is a key: adding a piece and removing its asset are not disjoint, renaming the asset is', () => {
    const edit = (body: AnyEditBody) => makeEdit(body, uuid(1), 'x');
    expect(disjoint(edit(add(piece)), edit({ kind: 'remove', ids: ['a'] }))).toBe(false);
    expect(disjoint(edit({ kind: 'remove', ids: ['a'] }), edit({ kind: 'set', patches: [{ id: 'w', set: { asset: 'a' } }] }))).toBe(false);
    expect(disjoint(edit(add(piece)), edit({ kind: 'set', patches: [{ id: 'a', set: { name: 'low wall' } }] }))).toBe(true);
    const stroke = edit({ kind: 'stroke', tiles: [{ key: 'hand/delta/0,0', delta: '' }] });
    expect(disjoint(stroke, edit({ kind: 'remove', ids: ['hand'] }))).toBe(false);
    expect(disjoint(stroke, edit({ kind: 'set', patches: [{ id: 'hand', set: { name: 'mine' } }] }))).toBe(true);
  });
});

describe('edits from outside', () => {
  const good = makeEdit({ kind: 'set', patches: [{ id: 'p', set: { turn: 3 } }] }, uuid(1), 'turn');

  it('are read back as they were written', () => {
    expect(parseEdit(JSON.parse(JSON.stringify(good)))).toEqual({ ok: true, edit: good });
  });

  it('mean the same whatever the order of their fields and keys, as a store may give them back', () => {
    const turned = (value: unknown): unknown =>
      Array.isArray(value)
        ? value.map(turned)
        : typeof value === 'object' && value !== null
          ? Object.fromEntries(
              Object.entries(value)
                .reverse()
                .map(([k, v]) => [k, turned(v)]),
            )
          : value;
    const two = makeEdit({ kind: 'set', patches: [{ id: 'p', set: { turn: 3, at: [1, 2, 3], name: 'x' } }] }, uuid(2), 'both');
    expect(parseEdit(turned(two))).toMatchObject({ ok: true });
    expect(parseEdit({ ...two, writes: [...two.writes].reverse() })).toMatchObject({ ok: true });
    expect(parseEdit({ ...two, writes: [...two.writes, 'o:q/turn'] })).toMatchObject({ ok: false, code: 'edit-keys' });
    // Who wrote before what is read was a key still saves; its reads are filled in.
    const stroke = makeEdit({ kind: 'stroke', tiles: [{ key: 'hand/delta/0,0', delta: '' }] }, uuid(3), 's');
    expect(parseEdit({ ...stroke, reads: ['o:settings/tilesX', 'o:settings/tilesZ'] })).toEqual({ ok: true, edit: stroke });
    expect(parseEdit({ ...stroke, reads: ['o:else'] })).toMatchObject({ ok: false, code: 'edit-keys' });
  });

  it('hold no half characters: a label is cut between them, what comes from outside is refused', () => {
    const face = '\ud83d\ude00';
    expect(makeEdit(good, uuid(1), `${'x'.repeat(199)}${face}`).label).toBe('x'.repeat(199));
    for (const label of ['\ud83d', 'a\0b']) expect(parseEdit({ ...good, label })).toMatchObject({ ok: false, code: 'edit-text' });
    expect(parseEdit(makeEdit({ kind: 'set', patches: [{ id: 'p', set: { name: face } }] }, uuid(1), face)).ok).toBe(true);
    expect(parseEdit(makeEdit({ kind: 'set', patches: [{ id: 'p', set: { name: '\ude00' } }] }, uuid(1), 'x'))).toMatchObject({ ok: false, code: 'edit-text' });
  });

  it('are refused by name: a later version, no uuid, wrong keys, an unknown kind', () => {
    const code = (value: unknown) => {
      const r = parseEdit(value);
      return r.ok ? 'accepted' : r.code;
    };
    expect(code({ ...good, version: 2 })).toBe('edit-future');
    expect(code({ ...good, id: 'x' })).toBe('edit-invalid');
    expect(code({ ...good, writes: ['o:q/turn'] })).toBe('edit-keys');
    expect(code({ ...good, kind: 'explode' })).toBe('edit-invalid');
    expect(code(null)).toBe('edit-invalid');
    expect(code([])).toBe('edit-invalid');
  });

  it('of before version 7 are understood, in the words of today', () => {
    const bounds = {
      id: 'r',
      version: 1,
      name: 'rim',
      outline: [
        [0, 0],
        [4, 0],
        [4, 4],
      ],
    };
    const old = {
      id: uuid(3),
      version: 1,
      label: 'old',
      reads: [],
      kind: 'together',
      writes: ['o:r', 'o:s', 'o:settings/mood', 'o:wall/mould'],
      parts: [
        {
          kind: 'add',
          objects: [
            { ...bounds, kind: 'rim' },
            { id: 's', version: 1, name: 'span', kind: 'span', from: [0, 0, 0], to: [1, 1, 1] },
          ],
        },
        {
          kind: 'set',
          patches: [
            { id: 'settings', set: { mood: 'm' } },
            { id: 'wall', set: { mould: null } },
          ],
        },
      ],
    };
    const read = parseEdit(old);
    if (!read.ok) throw new Error(read.message);
    expect(read.edit).toMatchObject({
      writes: ['o:r', 'o:s', 'o:settings/lighting', 'o:wall/cast'],
      parts: [{ objects: [{ ...bounds, kind: 'playBounds' }, { kind: 'measure' }] }, { patches: [{ set: { lighting: 'm' } }, { set: { cast: null } }] }],
    });
    // What is of today is not copied.
    expect(upgradeEdit(read.edit)).toBe(read.edit);
  });
});
