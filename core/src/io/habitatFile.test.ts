import { readFileSync } from 'node:fs';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { habitatFrom, habitatIn } from '../growth/keptHabitat';
import { applyEdit, commitChanges } from '../level/edits/index';
import { makeLevel, ofKind } from '../level/level';
import { groundDefaults } from '../surface/surfaces';
import { testObjects } from '../testing/levels';
import { readHabitats, writeHabitat } from './habitatFile';
import { readPackage } from './package';

const demo = () => new Uint8Array(readFileSync(new URL('../../../demo/harrow-ledge-small.rammer.zip', import.meta.url)));
function value<T>(read: { ok: true; value: T } | { ok: false; message: string }): T {
  if (!read.ok) throw new Error(read.message);
  return read.value;
}

describe('a habitat as a file', () => {
  it('comes back the same, rule by rule, species by species, with the very meshes, and opens as a level that has it', () => {
    const { habitats, meshes } = value(readHabitats(demo()));
    expect(habitats.map((h) => habitatIn(h).name)).toEqual(
      ofKind(value(readPackage(demo())), 'habitat')
        .sort((a, b) => a.order - b.order)
        .map((h) => h.name),
    );
    const [kept] = habitats;
    const zip = writeHabitat(kept, meshes);
    const back = value(readHabitats(zip));
    expect(back.habitats).toHaveLength(1);
    const byId = (list: readonly { id: string }[]) => [...list].sort((a, b) => (a.id < b.id ? -1 : 1));
    expect(byId(back.habitats[0])).toEqual(byId(kept));
    // Meshes of this one alone.
    const own = kept.flatMap((o) => (o.kind === 'asset' ? [o.hash] : []));
    expect([...back.meshes.keys()].sort()).toEqual([...new Set(own)].sort());
    for (const hash of own) expect(back.meshes.get(hash)).toEqual(meshes.get(hash));
    const level = value(readPackage(zip));
    expect(ofKind(level, 'settings')[0].name).toBe(habitatIn(kept).name);
    // With the ground that any level has, so that it opens as one.
    for (const o of groundDefaults()) expect(level.object(o.id)?.kind).toBe(o.kind);
    // Another level takes it as it took the first.
    const to = makeLevel(testObjects(2, 0.5, { seed: 1, height: 1, scale: 30, octaves: 1 }));
    let n = 0;
    const applied = applyEdit(to, { kind: 'add', objects: habitatFrom(to, back.habitats[0], (kind) => `${kind}-new-${n++}`) });
    if (!applied.ok) throw new Error(applied.message);
    commitChanges(to, applied.changes);
    expect(ofKind(to, 'habitat').map((h) => h.rules.length)).toEqual([habitatIn(kept).rules.length]);
  });

  it('is refused by what is wrong with the file, whole', () => {
    const { habitats, meshes } = value(readHabitats(demo()));
    const files = unzipSync(writeHabitat(habitats[0], meshes));
    const code = (bytes: Uint8Array) => {
      const read = readHabitats(bytes);
      return read.ok ? 'ok' : `${read.code}: ${read.message}`;
    };
    const changed = (edit: (d: { version: number; objects: { kind: string; rules?: { density: number }[] }[] }) => void) => {
      const d = JSON.parse(strFromU8(files['level.json']));
      edit(d);
      return zipSync({ ...files, 'level.json': strToU8(JSON.stringify(d)) });
    };
    expect(code(changed(() => undefined))).toBe('ok');
    expect(code(new Uint8Array())).toMatch(/^zip/);
    expect(code(strToU8('a habitat'))).toMatch(/^zip/);
    expect(code(zipSync({ 'habitat.json': strToU8('{}') }))).toMatch(/^package-no-level/);
    expect(code(changed((d) => (d.objects = d.objects.filter((o) => o.kind !== 'habitat'))))).toMatch(/^no-habitat: .*choose/);
    expect(code(changed((d) => (d.version = 99)))).toMatch(/^package-future/);
    expect(code(changed((d) => (d.objects.find((o) => o.kind === 'habitat')!.rules![0].density = -1)))).toMatch(/^package-invalid: .*density/);
    const mesh = Object.keys(files).find((f) => f.startsWith('assets/'))!;
    expect(code(zipSync(Object.fromEntries(Object.entries(files).filter(([f]) => f !== mesh))))).toMatch(/^package-asset: .*missing/);
    expect(code(zipSync({ ...files, [mesh]: files[mesh].slice(4) }))).toMatch(/^package-asset/);
  });
});
