import { readFileSync } from 'node:fs';
import { decode, encode } from 'fast-png';
import fc from 'fast-check';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { parseObject, type Surface } from '../level/objects';
import { composeTerrain } from '../earth/compose';
import { heightAt } from '../earth/sample';
import { DOCUMENT_VERSION, ofKind, presentBlocks, settingsOf, type Level, groundRulesOf } from '../level/level';
import { testBlock, testLevel } from '../testing/levels';
import { speciesFrom } from '../growth/shippedSpecies';
import { shippedPieces } from '../kit/pieces';
import { lightingOf, SHIPPED_LIGHTING } from '../level/lighting';
import { sha256 } from '../num/sha256';
import { groundDefaults } from '../surface/surfaces';
import { weaveOf } from '../surface/textures';
import type { Mend } from '../level/mend';
import { writeAsset } from './assetGlb';
import { packageJsonSchema } from './jsonSchema';
import { readPackage, writePackage } from './package';
import { placementsCsv } from './placementsCsv';
import { pngToRaster, rasterToPng } from './rasterPng';
import { pictureGlb } from './referenceGlb';
import { crc32, readZip } from './zip';
import { expectBits } from '../testing/bits';

function sample(): Level {
  const level = testLevel(2, 0.5, { seed: 5, height: 2, scale: 30, octaves: 3 });
  const tile = Int32Array.from({ length: 65 * 65 }, (_, i) => (i % 65 === 0 || i < 65 ? 0 : (i * 7919) % 4001) - (i % 65 === 0 || i < 65 ? 0 : 2000));
  level.tiles.set('hand/delta/1,1', tile);
  level.tiles.set(
    'hand/held/0,0',
    Int32Array.from({ length: 65 * 65 }, (_, i) => i * 40_000 - 85_000_000),
  );
  level.tiles.set(
    'hand/weight/0,0',
    Int32Array.from({ length: 65 * 65 }, (_, i) => i % 1025),
  );
  for (const b of [testBlock('box', [4, 2.4, 0.3], [10, 1.001, 10], 33), testBlock('ramp', [3, 1, 1], [20, 0, 5], -90, { hidden: true })])
    level.objects.set(b.id, b);
  return level;
}

const state = (level: Level) => ({
  objects: [...level.objects.values()].sort((a, b) => (a.id < b.id ? -1 : 1)),
  tiles: [...level.tiles].sort(([a], [b]) => (a < b ? -1 : 1)),
});
const code = (bytes: Uint8Array) => {
  const r = readPackage(bytes);
  return r.ok ? 'opened' : r.code;
};

/** A package with its level.json changed. */
function changed(change: (document: any) => void): Uint8Array {
  const files = unzipSync(writePackage(sample()));
  const document = JSON.parse(strFromU8(files['level.json']));
  change(document);
  return zipSync({ ...files, 'level.json': strToU8(JSON.stringify(document)) });
}

describe('a level package', () => {
  it('comes back without loss, tiles over 16 bits included', () => {
    const level = sample();
    const opened = readPackage(writePackage(level));
    expect(opened.ok).toBe(true);
    if (opened.ok) expect(state(opened.value)).toEqual(state(level));
  });

  it('is the same bytes for the same level', () => {
    expect(writePackage(sample()).length).toBeGreaterThan(500);
    const level = sample();
    expect(writePackage(level)).toEqual(writePackage(level));
  });

  it('holds rasters that another PNG reader can read by the rule of docs/format.md', () => {
    const level = sample();
    const files = unzipSync(writePackage(level));
    const { rasters } = JSON.parse(strFromU8(files['level.json'])) as {
      rasters: { lift: string; channel: string; offset: number; low: string; high?: string }[];
    };
    const held = rasters.find((r) => r.channel === 'held')!;
    const low = decode(files[held.low]).data;
    const high = decode(files[held.high!]).data;
    for (const [x, z] of [
      [0, 0],
      [5, 9],
      [64, 64],
    ]) {
      const i = z * 129 + x;
      expect(held.offset + low[i] + 65536 * high[i]).toBe(level.tiles.get('hand/held/0,0')![z * 65 + x]);
    }
  });

  it('of version 1, frozen, still opens and says what it said', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-1.rammer.zip', import.meta.url))));
    expect(opened.ok).toBe(true);
    if (!opened.ok) return;
    const level = opened.value;
    expect(settingsOf(level)).toMatchObject({ name: 'Frozen at version 1', tilesX: 2, tilesZ: 3, spacing: 1 });
    expect(ofKind(level, 'body').map((b) => b.name)).toEqual(['adult', 'ram']);
    expect(presentBlocks(level).map((b) => [b.name, b.shape, b.turn])).toEqual([
      ['wall', 'box', 12.5],
      ['way up', 'ramp', -90],
    ]);
    expect(
      ofKind(level, 'marker')
        .map((m) => m.marker)
        .sort(),
    ).toEqual(['entry', 'objective']);
    expect(ofKind(level, 'viewpoint')[0].pose.view).toBe('stand');
    const t = composeTerrain(level);
    expect(heightAt(t, 40, 40)).toBeCloseTo(3.5, 3);
    expect(heightAt(t, 90, 150)).toBeCloseTo(heightAt(composeTerrain(level), 90, 150), 6);
    expect(level.tiles.size).toBe(3);
    // What version 2 brought is there to be used: four surfaces, their rule, and lighting with the old sun.
    expect(ofKind(level, 'surface').map((o) => o.name)).toEqual(['turf', 'slate', 'gravel', 'moss']);
    expect(ofKind(level, 'groundRule')).toMatchObject([{ surface: 'slate', where: [{ by: 'slope' }] }]);
    expect(ofKind(level, 'lighting')[0].sun).toEqual(settingsOf(level).sun);
  });

  it('of version 2, frozen, still opens; its blocks are solids', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-2.rammer.zip', import.meta.url))));
    expect(opened.ok).toBe(true);
    if (!opened.ok) return;
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 2');
    expect(ofKind(level, 'water')).toMatchObject([{ name: 'pool', height: 1.25, x1: 20, z1: 30 }]);
    expect(ofKind(level, 'surface')).toHaveLength(4);
    expect(presentBlocks(level).map((b) => [b.name, b.shape, b.op])).toEqual([
      ['wall', 'box', undefined],
      ['way up', 'ramp', undefined],
    ]);
    expect(heightAt(composeTerrain(level), 40, 40)).toBeCloseTo(3.5, 3);
  });

  it('of version 3, frozen, still opens with its voids, shapes and spans', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-3.rammer.zip', import.meta.url))));
    expect(opened.ok).toBe(true);
    if (!opened.ok) return;
    expect(settingsOf(opened.value).name).toBe('Frozen at version 3');
    expect(presentBlocks(opened.value).map((b) => [b.name, b.shape, b.op, b.group])).toEqual([
      ['wall', 'box', undefined, undefined],
      ['way up', 'ramp', undefined, undefined],
      ['door', 'box', 'void', 'yard'],
      ['flight', 'stair', undefined, undefined],
      ['gate', 'arch', undefined, 'yard'],
    ]);
    expect(ofKind(opened.value, 'measure')).toMatchObject([{ name: 'span 1', to: [3, 4, 0] }]);
  });

  it('of version 4, frozen, still opens with its wall, mover, assembly, rim and plane of water', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-4.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 4');
    expect(
      presentBlocks(level)
        .filter((b) => b.stops || b.line)
        .map((b) => [b.name, b.shape, b.stops?.length, b.line?.length]),
    ).toEqual([
      ['lift', 'box', 2, undefined],
      ['wall 1', 'wall', undefined, 2],
    ]);
    expect([ofKind(level, 'assembly')[0].group, ofKind(level, 'playBounds')[0].outline.length]).toEqual(['yard', 4]);
    expect(ofKind(level, 'water')).toMatchObject([{ name: 'pond', form: 'plane', x1: 30 }, { form: 'plane' }]);
  });

  it('of version 5, frozen, still opens; its one rule of the ground becomes two that say the same', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-5.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 5');
    expect(ofKind(level, 'water')).toMatchObject([{ name: 'hole', form: 'pool', seed: [10, 10] }]);
    expect(groundRulesOf(level)).toMatchObject([
      { name: 'everywhere', surface: 'moss', where: [], on: true },
      { id: 'slope-rule', surface: 'slate', where: [{ by: 'slope', band: [28, 90], soft: 6 }] },
    ]);
  });

  it('of version 6, frozen, still opens; its kinds, fields and findings have the names of today', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-6.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level)).toMatchObject({ name: 'Frozen at version 6', lighting: 'mood-evening' });
    expect(settingsOf(level)).not.toHaveProperty('mood');
    expect(lightingOf(level).name).toBe('low evening');
    expect(ofKind(level, 'measure')).toMatchObject([{ name: 'span 1', to: [3, 4, 0] }]);
    expect(ofKind(level, 'people')).toMatchObject([{ at: [25, 1, 25], turn: 90 }]);
    expect(ofKind(level, 'playBounds')[0].outline).toHaveLength(4);
    expect(ofKind(level, 'asset')[0].cast).toEqual({ blocks: ['b1'], pivot: [20, 1, 20], turn: 15, collider: 'mesh', texel: 512, picture: 1024 });
    expect(ofKind(level, 'acceptance')).toMatchObject([{ snag: 'size-unlikely', object: 'p1' }]);
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('of version 8, frozen, still opens: tilts, tints, overrides and casts as they were', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-8.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 8');
    expect(level.object('p1')).toMatchObject({ turn: 30, tilt: [0.6, 0, 0, 0.8], scale: [1, 2, 1], tint: '#c08040', locked: true, collider: 'asset' });
    expect(level.object('c1')).toMatchObject({ tilt: [0, 0, 0.6, 0.8], overrides: [{ member: 'b1', hidden: true }] });
    const [asset] = ofKind(level, 'asset');
    expect(asset).toMatchObject({ role: 'piece', cast: { blocks: ['b1'], pivot: [20, 1, 20], collider: 'box' } });
    expect(asset).not.toHaveProperty('mends');
    expect(asset).not.toHaveProperty('facts');
  });

  it('of version 9, frozen, still opens: facts, shade, and a lighting that says nothing of its air', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-9.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 9');
    expect(level.object('p1')).toMatchObject({ shade: { saturation: -0.5, contrast: 0.2, roughness: 0.1 } });
    expect(ofKind(level, 'asset')[0]).toMatchObject({ facts: { tags: ['stone'], real: [1, 3] } });
    expect(lightingOf(level)).toMatchObject({ name: 'dusk', haze: 200 });
    expect(lightingOf(level)).not.toHaveProperty('air');
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('of version 10, frozen, still opens: air, a lens, a copy of an assembly', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-10.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 10');
    expect(lightingOf(level)).toMatchObject({ name: 'dawn', air: { sky: 'sun', dust: 2, wind: 6 } });
    expect(level.object('eye')).toMatchObject({ pose: { fov: 50, lens: { width: 35, focus: 8 } } });
    expect(level.object('c1')).toMatchObject({ overrides: [{ member: 'b1', turn: 10, tint: '#808080' }] });
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('of version 11, frozen, still opens: a kit, a laid line of straight lengths, a coat', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-11.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 11');
    expect(level.object('line1')).toMatchObject({ kit: 'kit1', curved: true, slope: 'lean', seed: 7 });
    expect(level.object('line1')).not.toHaveProperty('bent');
    expect(level.object('kit1')).toMatchObject({ parts: [{ asset: 'wall1', weight: 2 }] });
    expect(level.object('coat1')).toMatchObject({ where: [{ by: 'side', band: [0, 40] }] });
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('of version 12, frozen, still opens: a bent line, conditions of growth, a cluster, ceilings, and no habitat', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-12.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level)).toMatchObject({ name: 'Frozen at version 12', plantCeiling: 60 });
    expect(level.object('line1')).toMatchObject({ bent: true });
    expect(level.object('s1')).toMatchObject({
      as: 'shrub',
      ceiling: 9,
      rule: { where: [{ is: { by: 'noise' } }, { is: { by: 'marker', marker: 'entry' }, or: true, not: true }] },
    });
    expect(level.object('s1')).not.toHaveProperty('amount');
    expect(level.object('s2')).toMatchObject({ about: { species: 's1', chance: 0.5, count: [1, 4], spread: 2 } });
    expect(level.tile('s1/sown/0,0')![66]).toBe(512);
    expect(ofKind(level, 'habitat')).toEqual([]);
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('of version 13, frozen, still opens: a habitat, an amount, patches, one mesh a species and no cover', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-13.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 13');
    expect(level.object('s1')).toMatchObject({ amount: 0.5, patch: 7 });
    for (const field of ['meshes', 'weight', 'leanToSlope', 'sink']) expect(level.object('s1')).not.toHaveProperty(field);
    expect(level.object('wood')).toMatchObject({
      area: 'drawn',
      rules: [
        {
          mix: [
            { species: 's1', weight: 2 },
            { species: 's2', weight: 1 },
          ],
        },
      ],
    });
    expect(level.tile('wood/area/0,0')![66]).toBe(300);
    expect(ofKind(level, 'cover')).toEqual([]);
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('of version 14, frozen, still opens: cover, meshes by weight, lean and sink, and none of what came after', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-14.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 14');
    expect(level.object('s1')).toMatchObject({ weight: 3, meshes: [{ asset: 'a1', weight: 2 }], leanToSlope: 0.5, sink: 0.1 });
    for (const field of ['depth', 'swap', 'shadowsTo', 'sway', 'roots']) expect(level.object('s1')).not.toHaveProperty(field);
    expect(ofKind(level, 'cover')).toMatchObject([{ id: 'cover1', surface: 'turf', species: 's2', density: 40, on: true }]);
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('of version 15, frozen, still opens: depth, roots, sway, stops, shadows and swaps, a doorway; nothing goes with anything', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-15.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 15');
    const s1 = level.object('s1');
    expect(s1).toMatchObject({ depth: [0.7, 1.2], swap: 0.5, shadowsTo: 60, stops: 'shape', sway: 0.4, roots: 0.6 });
    expect(s1?.kind === 'species' && s1.rule.where?.[2]).toEqual({ is: { by: 'doorway', band: [2, 200], soft: 1 } });
    expect(s1).not.toHaveProperty('with');
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('of version 7, frozen, still opens; what stands in it stands as it did', () => {
    const opened = readPackage(new Uint8Array(readFileSync(new URL('../../fixtures/version-7.rammer.zip', import.meta.url))));
    if (!opened.ok) throw new Error(opened.message);
    const level = opened.value;
    expect(settingsOf(level).name).toBe('Frozen at version 7');
    expect(level.object('b1')).toEqual({
      id: 'b1',
      version: 3,
      kind: 'block',
      name: 'shed wall',
      shape: 'box',
      size: [4, 3, 0.3],
      at: [20, 1, 20],
      turn: 15,
      group: 'shed',
      locked: true,
      hidden: false,
      out: false,
    });
    expect(level.object('p1')).toMatchObject({ turn: 30, scale: [1, 2, 1], out: true });
    expect(level.object('t1')).toEqual({
      id: 't1',
      version: 1,
      kind: 'plant',
      name: 'birch 1',
      species: 's1',
      at: [30, 1, 12],
      turn: 45,
      scale: 0.8,
      was: [29, 12],
      radius: 2,
      gone: false,
    });
    expect(presentBlocks(level).map(({ id, at, turn, hidden }) => ({ id, at, turn, hidden }))).toEqual([
      { id: 'b1', at: [20, 1, 20], turn: 15, hidden: false },
      { id: 'b2', at: [20, 1, 20], turn: 15, hidden: true },
      { id: 'c1~b1', at: [40, 2, 40], turn: -75, hidden: false },
      { id: 'c1~b2', at: [40, 2, 40], turn: -75, hidden: true },
    ]);
    expect(readPackage(writePackage(level)).ok).toBe(true);
  });

  it('carries full poses and what members of copies have of their own', () => {
    const level = testLevel();
    const given = [
      { ...testBlock('box', [2, 1, 1], [5, 0, 5]), id: 'b', group: 'g', tilt: [0.5, 0, 0.5, 0.7071067811865476] },
      { id: 'g', version: 1, kind: 'assembly', name: 'g', group: 'g', pivot: [5, 0, 5] },
      {
        id: 'c',
        version: 1,
        kind: 'copy',
        name: 'c',
        assembly: 'g',
        at: [9, 1, 9],
        turn: 10,
        tilt: [0, 0, 0.6, 0.8],
        scale: [2, 1, 1],
        overrides: [{ member: 'b', move: [1, 0, 0], turn: 5, hidden: true }],
      },
    ];
    for (const o of given) {
      const parsed = parseObject(o);
      if (!parsed.ok) throw new Error(parsed.message);
      level.objects.set(o.id, parsed.object);
    }
    const opened = readPackage(writePackage(level));
    if (!opened.ok) throw new Error(opened.message);
    for (const o of given) expect(opened.value.object(o.id)).toEqual(level.object(o.id));
    expect(presentBlocks(opened.value)).toEqual(presentBlocks(level));
    expect(presentBlocks(level)[1]).toMatchObject({ id: 'c~b', hidden: true });
  });

  it('carries every kind of lift, its mask and blend, and a pool', () => {
    const level = testLevel();
    const lifts = [
      {
        id: 'heap',
        lift: 'landform',
        line: [
          [10, 10],
          [30, 10],
          [30, 30],
        ],
        height: 3,
        foot: 4,
        crown: 'domed',
        ragged: 1,
        blend: 'max',
        base: 1,
        mask: { slope: { band: [0, 30], soft: 4 } },
      },
      {
        id: 'way',
        lift: 'route',
        line: [
          [5, 1, 5],
          [50, 4, 40],
        ],
        width: 3,
        grade: 9,
        weight: 0.5,
        locked: true,
        ground: 'gravel',
      },
      {
        id: 'yard',
        lift: 'pad',
        outline: [
          [40, 40],
          [50, 40],
          [50, 50],
        ],
        height: 2,
        follows: [{ id: 'b' }],
      },
      { id: 'crags', lift: 'noise', seed: 4, height: 2, scale: 20, style: 'ridged', warp: 3 },
    ];
    for (const l of lifts) {
      const parsed = parseObject({ version: 1, kind: 'lift', name: l.id, order: 5, ...l });
      if (!parsed.ok) throw new Error(parsed.message);
      level.objects.set(l.id, parsed.object);
    }
    level.objects.set('pool', { id: 'pool', version: 1, kind: 'water', form: 'pool', name: 'pool', height: 1, seed: [20, 20], hidden: false, out: false });
    const opened = readPackage(writePackage(level));
    if (!opened.ok) throw new Error(opened.message);
    expect(new Map([...opened.value.objects].sort())).toEqual(new Map([...level.objects].sort()));
    expectBits(composeTerrain(opened.value).heights, composeTerrain(level).heights);
  });

  it('carries shapes and voids whole', () => {
    const level = testLevel();
    for (const b of [
      testBlock('arch', [4, 3, 1], [20, 0, 20], 30, { wall: 0.4, group: 'gate' }),
      testBlock('box', [1, 2, 1], [21, 0, 20], 0, { op: 'void', cuts: 'group', group: 'gate' }),
      testBlock('stair', [3, 2, 1], [30, 0, 20], 0, { steps: 11 }),
    ])
      level.objects.set(b.id, b);
    const opened = readPackage(writePackage(level));
    expect(opened.ok && presentBlocks(opened.value)).toEqual(presentBlocks(level));
  });
});

const boardOf = async (png: Uint8Array) => {
  const made = await pictureGlb(png, 'clay');
  if (!made.ok) throw new Error(made.message);
  return made.value;
};

describe('an asset that came from a file', () => {
  it('goes with it, its mends and its facts; without the file it is mended no further', async () => {
    const level = sample();
    const [source, mesh] = [await writeAsset(shippedPieces()[0]), await writeAsset(shippedPieces()[1])];
    for (const bytes of [source, mesh]) level.assets.set(sha256(bytes), bytes);
    const mends: Mend[] = [
      { mend: 'unit', factor: 0.01 },
      { mend: 'lods', shares: [0.4, 0.1] },
    ];
    const from = { hash: sha256(source), file: 'old wall.obj', scene: 1 };
    const facts = { collider: 'hull' as const, real: [2, 3] as [number, number], tags: ['wall'], kit: 'harbour' };
    level.objects.set('wall', { id: 'wall', version: 1, kind: 'asset', name: 'wall', role: 'prop', hash: sha256(mesh), source: from, mends, facts });
    const opened = readPackage(writePackage(level));
    expect(opened.ok && [state(opened.value), opened.value.assets]).toEqual([state(level), level.assets]);
    level.assets.delete(sha256(source));
    const without = readPackage(writePackage(level));
    expect(without.ok && without.value.object('wall')).toMatchObject({ mends, facts, source: undefined });
  });
});

describe('a package with surfaces, plants and pieces', () => {
  const full = async (): Promise<Level> => {
    const level = sample();
    for (const o of [...groundDefaults(), ...SHIPPED_LIGHTING]) level.objects.set(o.id, o);
    const bytes = await writeAsset(shippedPieces()[0]);
    const hash = sha256(bytes);
    level.assets.set(hash, bytes);
    level.objects.set('wall', { id: 'wall', version: 1, kind: 'asset', name: 'wall, "north"', role: 'piece', hash });
    level.objects.set('p1', {
      id: 'p1',
      version: 1,
      kind: 'piece',
      name: 'wall, west',
      asset: 'wall',
      at: [4, 1.5, 6],
      turn: 90,
      sink: 0.25,
      collider: 'box',
      hidden: false,
      out: false,
    });
    level.objects.set('bush', speciesFrom({ id: 'wall', name: 'gorse' }, 'bush', 0, 3));
    level.objects.set('plant-1', {
      id: 'plant-1',
      version: 1,
      kind: 'plant',
      name: 'gorse 1',
      species: 'bush',
      at: [8, 2, 9],
      turn: 10,
      scale: 1.5,
      gone: false,
    });
    level.tiles.set(
      'gravel/paint/0,1',
      Int32Array.from({ length: 65 * 65 }, (_, i) => (i < 65 ? 0 : i % 1025)),
    );
    level.tiles.set(
      'bush/sown/1,0',
      Int32Array.from({ length: 65 * 65 }, (_, i) => (i % 65 === 0 ? 0 : (i % 5121) - 1024)),
    );
    return level;
  };

  it('comes back without loss, meshes included', async () => {
    const level = await full();
    const opened = readPackage(writePackage(level));
    expect(opened).toMatchObject({ ok: true });
    if (!opened.ok) return;
    expect(state(opened.value)).toEqual(state(level));
    expect([...opened.value.assets]).toEqual([...level.assets]);
  });

  it('carries a picture that a surface wears, and opens where it is not there any more', async () => {
    const level = await full();
    const { bytes } = await boardOf(encode({ width: 4, height: 4, channels: 3, depth: 8, data: new Uint8Array(48).fill(90) }));
    level.assets.set(sha256(bytes), bytes);
    level.objects.set('clay', { id: 'clay', version: 1, kind: 'asset', name: 'clay', role: 'reference', hash: sha256(bytes) });
    level.objects.set('turf', { ...(level.object('turf') as Surface), picture: 'clay' });
    const opened = readPackage(writePackage(level));
    expect(opened.ok && [state(opened.value), opened.value.assets]).toEqual([state(level), level.assets]);
    expect(opened.ok && weaveOf(opened.value.object('turf') as Surface, opened.value)).toEqual({ texture: 'turf', picture: sha256(bytes) });
    level.objects.delete('clay');
    const without = readPackage(writePackage(level));
    expect(without.ok && weaveOf(without.value.object('turf') as Surface, without.value)).toEqual({ texture: 'turf' });
  });

  it('lists placements as CSV, names with commas and quotes in it', async () => {
    const rows = strFromU8(unzipSync(writePackage(await full()))['placements.csv'])
      .trim()
      .split('\n');
    expect(rows).toEqual([
      'kind,id,name,asset,x,y,z,turn,scale,scale_x,scale_y,scale_z,qx,qy,qz,qw',
      'piece,p1,"wall, west","wall, ""north""",4.000,1.500,6.000,90,1,1,1,1,0,0.707107,0,0.707107',
      expect.stringMatching(/^plant,plant-1,gorse 1,gorse,8\.000,2\.000,9\.000,10,1\.5,1\.5,1\.5,1\.5,/),
    ]);
    const q = rows[2].split(',').slice(-4).map(Number);
    expect(Math.hypot(...q)).toBeCloseTo(1, 5);
  });

  it('lists every scale, and nothing that is taken out', async () => {
    const level = await full();
    level.objects.set('p1', { ...level.object('p1'), scale: [2, 0.5, 3] } as never);
    const csv = (): string[][] =>
      placementsCsv(level)
        .trim()
        .split('\n')
        .slice(1)
        .map((row) => row.split(','));
    expect(csv()[0].slice(-8)).toEqual(['0.5', '2', '0.5', '3', '0', '0.707107', '0', '0.707107']);
    level.objects.set('p1', { ...level.object('p1'), out: true } as never);
    expect(csv().map(([kind]) => kind)).toEqual(['plant']);
    level.objects.set('plant-1', { ...level.object('plant-1'), gone: true } as never);
    expect(placementsCsv(level)).toBe('');
  });

  it('is refused where a mesh is missing, is another file, or a piece names nothing', async () => {
    const files = unzipSync(writePackage(await full()));
    const mesh = Object.keys(files).find((f) => f.endsWith('.glb'))!;
    const { [mesh]: bytes, ...rest } = files;
    expect(code(zipSync(rest))).toBe('package-asset');
    const other = bytes.slice();
    other[other.length - 1] ^= 1;
    expect(code(zipSync({ ...rest, [mesh]: other }))).toBe('package-asset');
    const document = JSON.parse(strFromU8(files['level.json']));
    document.objects = document.objects.filter((o: any) => o.id !== 'bush');
    document.rasters = document.rasters.filter((r: any) => r.lift !== 'bush');
    expect(code(zipSync({ ...files, 'level.json': strToU8(JSON.stringify(document)) }))).toBe('package-invalid');
  });
});

describe('a package that is not what it should be', () => {
  it('is refused with a stable code', () => {
    const good = writePackage(sample());
    expect(code(good)).toBe('opened');
    expect(code(new Uint8Array())).toBe('zip-empty');
    expect(code(strToU8('hello, this is no zip file at all'))).toBe('zip-invalid');
    expect(code(good.slice(0, good.length / 2))).toBe('zip-truncated');
    expect(code(zipSync({ 'readme.txt': strToU8('x') }))).toBe('package-no-level');
    expect(code(zipSync({ 'level.json': strToU8('{"format":') }))).toBe('package-json');
    expect(code(zipSync({ 'level.json': strToU8('{"format": NaN}') }))).toBe('package-json');
    expect(code(zipSync({ 'level.json': strToU8('[]') }))).toBe('package-invalid');
    expect(
      code(
        changed((d) => {
          d.version = DOCUMENT_VERSION + 1;
        }),
      ),
    ).toBe('package-future');
    expect(
      code(
        changed((d) => {
          d.objects = d.objects.filter((o: any) => o.kind !== 'settings');
        }),
      ),
    ).toBe('package-invalid');
    expect(
      code(
        changed((d) => {
          d.objects[0].size = null;
          d.objects.push(d.objects[0]);
        }),
      ),
    ).toBe('package-invalid');
    expect(
      code(
        changed((d) => {
          d.objects.find((o: any) => o.kind === 'block').size[0] = Number.MAX_VALUE;
        }),
      ),
    ).toBe('package-invalid');
    expect(
      code(
        changed((d) => {
          d.objects.find((o: any) => o.kind === 'block').at[1] = 'NaN';
        }),
      ),
    ).toBe('package-invalid');
    expect(
      code(
        changed((d) => {
          d.objects.find((o: any) => o.kind === 'settings').player = 'nobody';
        }),
      ),
    ).toBe('package-invalid');
    expect(
      code(
        changed((d) => {
          d.rasters[0].low = 'rasters/none.png';
        }),
      ),
    ).toBe('package-raster');
    expect(
      code(
        changed((d) => {
          d.rasters[0].lift = 'noise';
        }),
      ),
    ).toBe('package-invalid');
    expect(
      code(
        changed((d) => {
          d.objects.find((o: any) => o.kind === 'settings').tilesX = 3;
        }),
      ),
    ).toBe('png-size');
  });

  it('names the object and the field', () => {
    const r = readPackage(
      changed((d) => {
        d.objects.find((o: any) => o.shape === 'box').size[1] = -2;
      }),
    );
    expect(r).toMatchObject({ ok: false, message: expect.stringMatching(/block b\d+: size\.1: a block is at least 0\.05 m a side/) });
  });

  it('any damage to any byte is either harmless or refused, never a crash', () => {
    const good = writePackage(sample());
    fc.assert(
      fc.property(fc.nat(good.length - 1), fc.integer({ min: 1, max: 255 }), (at, by) => {
        const bad = good.slice();
        bad[at] ^= by;
        const r = readPackage(bad);
        if (!r.ok) expect(r.code).toMatch(/^(zip|png|package)-/);
      }),
      { numRuns: 120 },
    );
  });
});

/** A stored zip written by hand, so that it can lie. */
function zipOf(
  name: string,
  data: Uint8Array,
  lie: { size?: number; packed?: number; method?: number; crc?: number; flags?: number; copies?: number } = {},
): Uint8Array {
  const method = lie.method ?? 0;
  const header = (central: boolean) => {
    const h = new Uint8Array((central ? 46 : 30) + name.length);
    const v = new DataView(h.buffer);
    v.setUint32(0, central ? 0x02014b50 : 0x04034b50, true);
    const o = central ? 2 : 0;
    v.setUint16(6 + o, lie.flags ?? 0, true);
    v.setUint16(8 + o, method, true);
    v.setUint32(14 + o, lie.crc ?? crc32(data), true);
    v.setUint32(18 + o, lie.packed ?? data.length, true);
    v.setUint32(22 + o, lie.size ?? data.length, true);
    v.setUint16(26 + o, name.length, true);
    h.set(strToU8(name), central ? 46 : 30);
    return h;
  };
  const local = header(false);
  const central = header(true);
  const copies = lie.copies ?? 1;
  const end = new Uint8Array(22);
  const v = new DataView(end.buffer);
  v.setUint32(0, 0x06054b50, true);
  v.setUint16(8, copies, true);
  v.setUint16(10, copies, true);
  v.setUint32(12, central.length * copies, true);
  v.setUint32(16, local.length + data.length, true);
  return Uint8Array.from([...local, ...data, ...Array.from({ length: copies }, () => [...central]).flat(), ...end]);
}

describe('a hostile zip', () => {
  const zcode = (bytes: Uint8Array, limits?: Parameters<typeof readZip>[1]) => {
    const r = readZip(bytes, limits);
    return r.ok ? 'opened' : r.code;
  };
  const data = strToU8('some content');

  it('that climbs out is refused', () => {
    expect(zcode(zipOf('a/b.txt', data))).toBe('opened');
    for (const name of ['../x', 'a/../../x', '/etc/x', 'C:\\x', 'a\\b', 'x/..']) expect(zcode(zipOf(name, data))).toBe('zip-path');
  });

  it('that lies about sizes or content is refused', () => {
    expect(zcode(zipOf('a', data, { size: 5 }))).toBe('zip-lies');
    expect(zcode(zipOf('a', data, { crc: 1 }))).toBe('zip-lies');
    expect(zcode(zipOf('a', data, { packed: 5000 }))).toBe('zip-truncated');
    expect(zcode(zipOf('a', data, { method: 8, size: 5 }))).toBe('zip-lies');
    expect(zcode(zipOf('a', data, { method: 12 }))).toBe('zip-unsupported');
    expect(zcode(zipOf('a', data, { flags: 1 }))).toBe('zip-unsupported');
    expect(zcode(zipOf('a', data, { copies: 2 }))).toBe('zip-duplicate');
  });

  it('that would unpack to too much is refused before it does, in bounded memory', () => {
    const bomb = zipSync({ 'level.json': new Uint8Array(64 << 20) }, { level: 9 });
    const limits = { entries: 10, entryBytes: 1 << 20, totalBytes: 2 << 20 };
    expect(zcode(bomb, limits)).toBe('zip-too-large');
    // A bomb that states a small size is stopped as soon as it grows past it.
    const lying = bomb.slice();
    const view = new DataView(lying.buffer);
    for (let i = 0; i < lying.length - 4; i++) if (view.getUint32(i, true) === 64 << 20) view.setUint32(i, 1000, true);
    const before = process.memoryUsage().arrayBuffers;
    expect(zcode(lying, limits)).toBe('zip-lies');
    expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(16 << 20);
    expect(zcode(zipSync(Object.fromEntries(Array.from({ length: 12 }, (_, i) => [`f${i}`, data]))), limits)).toBe('zip-too-many');
  });
});

describe('raster pictures', () => {
  it('hold any int32 raster', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -100_000_000, max: 100_000_000 }), { minLength: 12, maxLength: 12 }), (a) => {
        const values = Int32Array.from(a);
        const file = rasterToPng(values, 4, 3);
        const back = pngToRaster('t.png', { low: file.low, high: file.high, offset: file.offset }, { width: 4, height: 3 });
        expect(back.ok && back.value).toEqual(values);
      }),
    );
  });

  it('that lie in their header are refused before they are made', () => {
    const file = rasterToPng(new Int32Array(12), 4, 3);
    const at = (change: (b: Uint8Array) => void) => {
      const bytes = file.low.slice();
      change(bytes);
      const r = pngToRaster('t.png', { low: bytes, high: undefined, offset: 0 }, { width: 4, height: 3 });
      return r.ok ? 'read' : r.code;
    };
    expect(at(() => {})).toBe('read');
    expect(at((b) => new DataView(b.buffer).setUint32(16, 60_000))).toBe('png-size');
    expect(
      at((b) => {
        b[24] = 8;
      }),
    ).toBe('png-format');
    expect(
      at((b) => {
        b[0] = 0;
      }),
    ).toBe('png-invalid');
    const cut = file.low.slice(0, 45);
    expect(pngToRaster('t.png', { low: cut, high: undefined, offset: 0 }, { width: 4, height: 3 })).toMatchObject({ ok: false });
  });
});

describe('the JSON Schema of level.json', () => {
  it('in docs is the one the reader guards by', () => {
    const shipped = JSON.parse(readFileSync(new URL('../../../docs/level.schema.json', import.meta.url), 'utf8'));
    expect(packageJsonSchema()).toEqual(shipped);
    expect(shipped.required).toEqual(['format', 'version', 'objects', 'rasters']);
  });
});
