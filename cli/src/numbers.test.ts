import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { SHIPPED_BODIES, type BodyFigures } from '@rammer/core/body/bodies';
import { LOD_ON_SCREEN, QUAD_ON_SCREEN } from '@rammer/core/cost/lods';
import { CASCADES } from '@rammer/core/cost/shadows';
import { BUDGET_SHARE, DEVICES } from '@rammer/core/cost/frame';
import { SHADE } from '@rammer/core/cost/sheet';
import { REAL_HEIGHTS } from '@rammer/core/kit/realSizes';
import { HEAD_ROOM, OPENING_BAND, SIDE_ROOM, SLOPE_ROOM, STEP_ROOM } from '@rammer/core/play/limits';
import { OBJECTIVE_RADIUS } from '@rammer/core/play/reach';

const page = readFileSync(new URL('../../docs/numbers.md', import.meta.url), 'utf8');
/** Rows of the table that begins with a header cell. */
const table = (header: string): string[][] => {
  const lines = page.split('\n');
  const from = lines.findIndex((l) => l.startsWith(`| ${header} |`));
  const to = lines.findIndex((l, i) => i > from && !l.startsWith('|'));
  return lines
    .slice(from, to)
    .filter((l) => !l.startsWith('|---'))
    .map((l) =>
      l
        .split('|')
        .slice(1, -1)
        .map((c) => c.trim()),
    );
};

describe('docs/numbers.md', () => {
  it('has the figures of the shipped bodies', () => {
    const [head, ...rows] = table('figure');
    const fields: Record<string, keyof BodyFigures> = {
      height: 'height',
      crouched: 'crouched',
      eye: 'eye',
      radius: 'radius',
      step: 'step',
      'max slope': 'maxSlope',
      walk: 'walk',
      run: 'run',
      gravity: 'gravity',
      'jump apex': 'jumpApex',
      vault: 'vault',
      climb: 'climb',
      'safe drop': 'safeDrop',
      wade: 'wade',
    };
    expect(head.slice(1).sort()).toEqual(Object.keys(SHIPPED_BODIES).sort());
    expect(rows.map(([name]) => name)).toEqual(Object.keys(fields));
    for (const [name, ...values] of rows)
      values.forEach((v, i) => {
        expect([head[i + 1], name, v]).toEqual([head[i + 1], name, String(SHIPPED_BODIES[head[i + 1]][fields[name]] ?? '-')]);
      });
  });

  it('has the heights that things really have', () => {
    const [, ...rows] = table('word');
    expect(rows).toEqual(Object.entries(REAL_HEIGHTS).map(([word, [low, high]]) => [word, String(low), String(high)]));
  });

  it('has the coefficients of the devices', () => {
    const [, ...rows] = table('device');
    expect(rows).toEqual(
      Object.values(DEVICES).map((d) =>
        [
          d.name,
          d.target,
          `${d.width}x${d.height}`,
          d.cpu.base,
          d.cpu.draw,
          d.cpu.instance,
          d.gpu.base,
          d.gpu.vertex,
          d.gpu.triangle,
          d.gpu.pixel,
          d.gpu.overdraw,
          d.memory / 1e6,
        ].map(String),
      ),
    );
    expect(page).toContain(`${BUDGET_SHARE * 100} % of the target`);
    expect(page).toContain(`${LOD_ON_SCREEN[0]}, ${LOD_ON_SCREEN[1]} and ${LOD_ON_SCREEN[2]}`);
    expect(page).toContain(`under ${QUAD_ON_SCREEN} of half the screen`);
    expect(page).toContain(`${SHADE.surface} for each surface more`);
    expect(page).toContain(`water covers ${SHADE.water}; ${SHADE.haze} of the whole screen where the lighting has haze`);
    expect(page).toContain(`to ${CASCADES[0]}, ${CASCADES[1]} and ${CASCADES[2]} m`);
  });

  it('has the limits of the walk area', () => {
    const rows = Object.fromEntries(
      table('limit')
        .slice(1)
        .map(([name, is, band]) => [name, { is, band }]),
    );
    expect(rows.opening.is).toContain((2 * SIDE_ROOM).toFixed(2));
    expect(rows.opening.band).toBe(String(OPENING_BAND));
    expect(rows.step.is).toBe(`step + ${STEP_ROOM}`);
    expect(rows.headroom.is).toBe(`height - ${HEAD_ROOM}`);
    expect(rows.slope.is).toContain(String(SLOPE_ROOM));
    expect(page).toContain(`within ${OBJECTIVE_RADIUS} m of it`);
  });
});
