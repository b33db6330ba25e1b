import { readFileSync } from 'node:fs';
import { strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { checkLevel } from '../scene/checkLevel';
import { formatTables, withTables } from './formatTables';
import { packageJsonSchema } from './jsonSchema';
import { readPackage, writePackage } from './package';

const page = readFileSync(new URL('../../../docs/format.md', import.meta.url), 'utf8');
const wall = new Uint8Array(readFileSync(new URL('../../../demo/kit/01-wall.glb', import.meta.url)));

/** The tables as a stranger reads them: by heading the rows of field, what it holds, what it is where absent. */
const tables = new Map(
  page
    .slice(page.indexOf('<!-- fields'))
    .split('\n### ')
    .slice(1)
    .map((part): [string, string[][]] => {
      const [heading, ...lines] = part.split('\n');
      return [
        heading.replaceAll('`', ''),
        lines.filter((l) => l.startsWith('| `')).map((l) => l.split(' | ').map((c) => c.replace(/^\| /, '').replace(/ \|$/, ''))),
      ];
    }),
);

/** A value by what the table says of it: something plain in the middle of what may be. */
function valueOf(holds: string, nth = 0): unknown {
  const list = /^(\d+)(?: (?:to (\d+)|or more))? x \((.*)\)$/s.exec(holds);
  if (list) return Array.from({ length: Number(list[1]) }, (_, i) => valueOf(list[3], nth * 3 + i));
  if (holds.startsWith('`#`')) return '#336699';
  const literal = /^`([^`]*)`/.exec(holds);
  if (literal) return JSON.parse(literal[1]);
  if (holds === 'id') return 'nobody';
  if (holds === '64 hex digits') return '0'.repeat(64);
  if (holds.startsWith('text')) return 'words';
  const number = /^(whole number|number)(?: (?:(over|from) )?(-?[\d.]+))?(?: to (-?[\d.]+))?/.exec(holds);
  if (!number) throw new Error(`the table says "${holds}", which says nothing`);
  const [, kind, over, least, most] = number;
  // Corners of a line differ, and no three of them lie on one.
  const wanted = 1 + nth + (nth % 2) * 2 + (nth % 3 === 1 ? nth : 0);
  const low = least === undefined ? -Infinity : Number(least) + (over === 'over' ? 0.5 : 0);
  const v = Math.min(most === undefined ? Infinity : Number(most), Math.max(low, wanted));
  return kind === 'whole number' ? Math.round(v) : v;
}

/** An object of a kind with what the table says is needed, and no more. */
function objectOf(heading: string, id: string): Record<string, unknown> {
  const [kind, form] = heading.split(', lift ');
  const object: Record<string, unknown> = { id, kind, name: `a ${heading.replace(', lift', '')}`, ...(form ? { lift: form } : {}) };
  for (const [field, holds, absent] of tables.get(heading)!) {
    const path = field.replaceAll('`', '').split('.');
    if (absent !== 'needed' || path.some((p) => p.includes('['))) continue;
    let into = object;
    for (const p of path.slice(0, -1)) into = into?.[p] as Record<string, unknown>;
    if (into === undefined) continue;
    const key = path[path.length - 1];
    if (into[key] !== undefined) continue;
    const of = /^id of a `(\w+)`/.exec(holds);
    const list = /^(\d+).* x \(an object\)$/.exec(holds);
    if (list) {
      const fields = tables.get(heading)!.filter(([f, , a]) => f.startsWith(`\`${key}[].`) && a === 'needed');
      into[key] = Array.from({ length: Number(list[1]) }, (_, i) => Object.fromEntries(fields.map(([f, h]) => [f.slice(key.length + 4, -1), valueOf(h, i)])));
      continue;
    }
    into[key] = of ? (ids.get(of[1]) ?? `a-${of[1]}`) : holds === 'an object' ? {} : valueOf(holds);
  }
  return object;
}
const ids = new Map<string, string>([
  ['body', 'a-body'],
  ['asset', 'a-asset'],
]);

describe('docs/format.md', () => {
  it('has the tables that the schema makes, and the version', () => {
    expect(withTables(page, formatTables(packageJsonSchema()))).toBe(page);
    expect(page.match(/This is version (\d+)/)![1]).toBe(page.match(/\| `version` \| `(\d+)` \|/)![1]);
    // Every kind of the tables of fields is in the table of kinds, and the other way round.
    const told = new Set([...page.matchAll(/^\| `(\w+)`[^|]*\| /gm)].map((m) => m[1]));
    for (const heading of tables.keys()) expect([heading, told.has(heading.split(',')[0])]).toEqual([heading, true]);
  });

  it('is enough to write a package that opens: of every kind one object with what the tables say it needs', async () => {
    const hash = [...new Uint8Array(await crypto.subtle.digest('SHA-256', wall))].map((b) => b.toString(16).padStart(2, '0')).join('');
    const objects = [...tables.keys()].map((heading) =>
      objectOf(heading, heading.startsWith('settings') ? 'settings' : `a-${heading.replace(/, lift /, '-')}`),
    );
    const of = (kind: string) => objects.filter((o) => o.kind === kind);
    // What the text asks beyond the tables: one mesh, bodies that hold together, a water with its rectangle, ranges and lines.
    of('asset').forEach((o) => {
      o.hash = hash;
    });
    of('body').forEach((o) => {
      o.figures = { ...(o.figures as object), height: 1.8, eye: 1.6, step: 0.4, radius: 0.35 };
    });
    of('water').forEach((o) => Object.assign(o, { x0: 0, z0: 0, x1: 5, z1: 5 }));
    of('section').forEach((o) => Object.assign(o, { from: [1, 1], to: [20, 20] }));
    const level = strToU8(JSON.stringify({ format: 'rammer-level', version: Number(page.match(/This is version (\d+)/)![1]), objects, rasters: [] }));
    const opened = readPackage(zipSync({ 'level.json': level, [`assets/${hash}.glb`]: wall }));
    expect(opened.ok ? '' : opened.message).toBe('');
    if (!opened.ok) return;
    expect([...opened.value.objects.keys()].sort()).toEqual(objects.map((o) => String(o.id)).sort());
    // It can be checked and written again, and what was left out is what the tables say it is then.
    expect((await checkLevel(opened.value))!.size.tilesX).toBe(2);
    const again = JSON.parse(new TextDecoder().decode(unzipSync(writePackage(opened.value))['level.json'])) as { objects: Record<string, unknown>[] };
    for (const [heading, rows] of tables) {
      const object = again.objects.find((o) => o.id === (heading === 'settings' ? 'settings' : `a-${heading.replace(/, lift /, '-')}`))!;
      for (const [field, , absent] of rows) {
        const name = field.replaceAll('`', '');
        if (/[.[]/.test(name) || !absent.startsWith('`')) continue;
        expect([heading, name, object[name]]).toEqual([heading, name, JSON.parse(absent.replaceAll('`', ''))]);
      }
    }
  });
});
