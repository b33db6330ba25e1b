import { readdirSync } from 'node:fs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { readPackage, writePackage } from '../../io/package';
import { testLevel } from '../../testing/levels';
import { applyEdit, commitChanges, type AnyEditBody } from '../edits/index';
import { base, finite, vec2, vec3 } from '../fields';
import { ofKind } from '../level';
import { parseObject } from '../objects';
import { outside, reshape } from '../reshape';
import { needOf, NEEDED_FIELDS, NEEDED_KINDS } from '../references';
import { CHANNELS } from '../tiles';
import { channelsOf, kindOf, KINDS, shifted, touches, type LevelObject } from './index';
import { ASPECTS, kind, shiftBy, type Kind } from './kind';

const all = Object.entries(KINDS as Record<string, Kind>);
/** The forms of a kind's schema: lifts have several. */
const forms = (schema: z.ZodType): Record<string, unknown>[] => {
  const { options, shape } = schema as unknown as { options?: { shape: Record<string, unknown> }[]; shape?: Record<string, unknown> };
  return options ? options.map((o) => o.shape) : [shape!];
};

describe('kinds of objects', () => {
  it('have a file and an entry each, say what they bear on, and name fields and kinds that there are', () => {
    const files = readdirSync(new URL('.', import.meta.url))
      .filter((f) => !/^(index|kind|kinds\.test)\.ts$/.test(f))
      .map((f) => f.replace('.ts', ''));
    expect(files.sort()).toEqual(all.map(([name]) => name).sort());
    for (const [name, { schema, aspects, names = {} }] of all) {
      expect([name, aspects.length > 0, aspects.every((a) => ASPECTS.includes(a))]).toEqual([name, true, true]);
      for (const form of forms(schema)) expect((form.kind as { value: string }).value).toBe(name);
      for (const [field, of] of Object.entries(names)) {
        expect([name, field, forms(schema).some((form) => field in form)]).toEqual([name, field, true]);
        expect(kindOf(of.kind)).toBeDefined();
      }
      // What is needed is one thing: a conflict is told by one key.
      expect(Object.values(names).filter((n) => n.needed).length).toBeLessThanOrEqual(1);
    }
  });

  it('what they need is derived: seven do, of five kinds', () => {
    expect(
      all
        .filter(([, k]) => Object.values(k.names ?? {}).some((n) => n.needed))
        .map(([name]) => name)
        .sort(),
    ).toEqual(['copy', 'laidLine', 'piece', 'plant', 'reference', 'settings', 'species']);
    expect([...NEEDED_FIELDS].sort()).toEqual(['assembly', 'asset', 'kit', 'player', 'species']);
    expect([...NEEDED_KINDS].sort()).toEqual(['assembly', 'asset', 'body', 'kit', 'species']);
    expect(needOf({ kind: 'plant', species: 'birch' } as never)).toEqual({ id: 'birch', kind: 'species' });
    expect([needOf({ kind: 'gap', from: 'a', to: 'b' } as never), needOf({ kind: 'toString' })]).toEqual([undefined, undefined]);
  });

  it('move with their level, every point of them, and back', () => {
    const points: Record<string, object> = {
      marker: { marker: 'entry', at: [1, 2, 3], turn: 0 },
      note: { text: 'look', at: [1, 2, 3] },
      copy: { assembly: 'a', at: [1, 2, 3] },
      plant: { species: 's', at: [1, 2, 3], was: [4, 5] },
      assembly: { group: 'g', pivot: [1, 2, 3] },
      measure: { from: [1, 2, 3], to: [4, 5, 6] },
      section: { from: [1, 2], to: [4, 8] },
      playBounds: {
        outline: [
          [0, 0],
          [9, 0],
          [9, 9],
        ],
      },
      viewpoint: { pose: { view: 'stand', target: [1, 2, 3], yaw: 0, pitch: 0, distance: 5 } },
      water: { form: 'pool', height: 2, seed: [3, 4] },
      people: { at: [1, 2, 3], turn: 0 },
      lift: {
        lift: 'pad',
        order: 1,
        visible: true,
        outline: [
          [0, 0],
          [5, 0],
          [5, 5],
        ],
        height: 1,
        batter: 40,
        mask: {
          outline: {
            line: [
              [0, 0],
              [5, 0],
              [5, 5],
            ],
            soft: 1,
          },
        },
      },
    };
    // An x and a z of each point.
    const MOVED: Record<string, number> = {
      marker: 2,
      note: 2,
      copy: 2,
      plant: 4,
      assembly: 2,
      measure: 4,
      section: 4,
      playBounds: 6,
      viewpoint: 2,
      water: 2,
      people: 2,
      lift: 12,
    };
    for (const [name, fields] of Object.entries(points)) {
      const read = parseObject({ version: 1, name: 'it', id: 'it', kind: name, ...fields });
      if (!read.ok) throw new Error(read.message);
      const moved = shifted(read.object, shiftBy(10, -4));
      const numbers = (o: unknown): number[] => (typeof o === 'number' ? [o] : o && typeof o === 'object' ? Object.values(o).flatMap(numbers) : []);
      const [before, after] = [numbers(read.object), numbers(moved)];
      expect([name, after.length, after.filter((v, i) => v !== before[i]).length]).toEqual([name, before.length, MOVED[name]]);
      expect(shifted(moved, shiftBy(-10, 4))).toEqual(read.object);
      expect(parseObject(moved).ok).toBe(true);
    }
    const light = { kind: 'lighting', id: 'l' } as LevelObject;
    expect(shifted(light, shiftBy(1, 1))).toBe(light);
  });

  it('have the rasters that are theirs', () => {
    const of = (object: object) => channelsOf(object as LevelObject);
    expect([
      of({ kind: 'lift', lift: 'hand' }),
      of({ kind: 'lift', lift: 'survey' }),
      of({ kind: 'lift', lift: 'noise' }),
      of({ kind: 'surface' }),
      of({ kind: 'species' }),
      of({ kind: 'habitat' }),
      of({ kind: 'block' }),
      channelsOf(undefined),
    ]).toEqual([['delta', 'held', 'weight'], ['held', 'weight'], [], ['paint', 'top'], ['sown'], ['area'], [], []]);
    expect(
      new Set(
        [{ lift: 'hand' }, { lift: 'weather' }, { lift: 'survey' }]
          .flatMap((l) => [...of({ kind: 'lift', ...l })])
          .concat([...of({ kind: 'surface' })], [...of({ kind: 'species' })], [...of({ kind: 'habitat' })]),
      ),
    ).toEqual(new Set(CHANNELS));
  });

  it('tell what follows a change by what they bear on', () => {
    expect([
      touches(['note', 'copy'], 'solid'),
      touches(['note', 'measure'], 'solid', 'earth', 'standing', 'plants', 'water'),
      touches(['asset'], 'plants'),
      touches([], 'solid'),
      touches(['no such kind'], 'solid'),
    ]).toEqual([true, false, true, false, false]);
  });
});

describe("a kind of a test's own", () => {
  // What a kind is, in one place; its one line in the registry is the test's.
  const lampObject = z.object({
    ...base,
    kind: z.literal('lamp'),
    at: vec3,
    reach: finite.min(0.1, 'a lamp reaches at least 0.1 m').max(100),
    wakes: z.array(vec2).max(8).default([]),
  });
  const lampKind = kind({
    schema: lampObject,
    aspects: ['lighting'],
    shift: (o, by) => ({ ...o, at: by.p3(o.at), wakes: o.wakes.map(by.p2) }),
    place: (o) => o.at,
  });
  const registry = KINDS as Record<string, unknown>;
  beforeAll(() => {
    registry.lamp = lampKind;
  });
  afterAll(() => {
    delete registry.lamp;
  });
  const lamp = (more: object = {}) => ({ id: 'lamp-1', version: 1, kind: 'lamp', name: 'gate lamp', at: [3, 2, 4], reach: 6, wakes: [[1, 1]], ...more });

  it('is read, edited, undone, counted, moved with its level and packed, with no other file touched', () => {
    const level = testLevel(2, 0.5);
    const edit = (body: unknown) => {
      const done = applyEdit(level, body as AnyEditBody);
      if (!done.ok) throw new Error(`${done.code}: ${done.message}`);
      commitChanges(level, done.changes);
      return done.inverse;
    };
    edit({ kind: 'add', objects: [lamp()] });
    expect(() => edit({ kind: 'set', patches: [{ id: 'lamp-1', set: { reach: 0 } }] })).toThrow(
      'object-invalid: lamp lamp-1: reach: a lamp reaches at least 0.1 m',
    );
    const back = edit({ kind: 'set', patches: [{ id: 'lamp-1', set: { reach: 9 } }] });
    expect(level.object('lamp-1')).toMatchObject({ reach: 9, version: 2 });
    edit(back);
    expect(level.object('lamp-1')).toMatchObject({ reach: 6 });
    expect([ofKind(level, 'lamp' as 'note').length, touches(['lamp'], 'lighting'), touches(['lamp'], 'solid')]).toEqual([1, true, false]);
    const grown = reshape(level, { tilesX: 3, tilesZ: 2, spacing: 0.5, west: 32, north: 0 });
    expect(grown.object('lamp-1')).toMatchObject({ at: [35, 2, 4], wakes: [[33, 1]] });
    expect([outside(grown), outside(reshape(level, { tilesX: 2, tilesZ: 2, spacing: 0.5, west: -16, north: 0 }))]).toEqual([0, 1]);
    const read = readPackage(writePackage(level));
    if (!read.ok) throw new Error(read.message);
    expect(read.value.object('lamp-1')).toEqual(level.object('lamp-1'));
  });
});
