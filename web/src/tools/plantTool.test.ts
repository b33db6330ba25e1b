import { expect, it, vi } from 'vitest';
import { assetBounds } from '@rammer/core/kit/asset';
import type { AnyEditBody } from '@rammer/core/level/edits/index';
import { makeLevel } from '@rammer/core/level/level';
import type { PlantObject } from '@rammer/core/level/objects';
import { testAssets } from '../../../core/src/testing/assets';
import { testSpecies } from '../../../core/src/testing/growth';
import { usePlanting } from '../store/planting';
import { plantTool } from './plantTool';
import type { ToolEvent } from './tool';

// Before anything is imported: what is remembered in the browser.
vi.hoisted(() => {
  (globalThis as { localStorage?: unknown }).localStorage = { getItem: () => null, setItem: () => {} };
});

const species = testSpecies('birch', 0, { height: [4, 6] });
const tall = assetBounds(testAssets().get('birch')!).max[1];

/** A level of one species seen from its side, ten pixels a metre; nothing stands in it. */
function bench(list = [species], writable = true) {
  const made: PlantObject[] = [];
  const said: string[] = [];
  const ghosts: unknown[][] = [];
  const level = makeLevel(list);
  const session = {
    level,
    writable,
    scene: { plants: { grown: [], species: list, byId: new Map(list.map((s) => [s.id, s])) }, placed: { assets: testAssets() } },
    say: (text: string) => said.push(text),
    commit: (body: AnyEditBody) => {
      if (body.kind === 'add') made.push(...(body.objects as PlantObject[]));
      return true;
    },
  };
  const view = {
    ray: () => ({ origin: [0, 9, 0], direction: [0, -1, 0] }),
    pixelsPerMetre: () => 10,
    aids: { setAssetGhost: (...g: unknown[]) => ghosts.push(g) },
  };
  usePlanting.setState({ species: species.id });
  return { tool: plantTool({ session, view } as never), made, said, ghosts };
}

const at = (x: number, y: number): ToolEvent => ({ x, y, shift: false, alt: false, ctrl: false, pick: { point: [x / 10, 0, 5], distance: 20 } as never });

it('shows what would be set; a click sets it there, as tall as its species is in the middle, the same that was shown', () => {
  const { tool, made, ghosts } = bench();
  tool.cursor(at(300, 400));
  const [asset, pose] = ghosts[ghosts.length - 1] as [unknown, { at: number[]; turn: number }];
  expect((asset as { name: string }).name).toBe('birch');
  expect(pose.at).toEqual([30, 0, 5]);
  tool.begin(at(300, 400));
  tool.move(at(302, 401));
  tool.end(at(302, 401));
  expect(made).toHaveLength(1);
  expect(made[0]).toMatchObject({ species: 'birch', at: [30, 0, 5], turn: pose.turn });
  expect((made[0].scale as number) * tall).toBeCloseTo(5, 2);
  expect(ghosts[ghosts.length - 1]).toEqual([]);
});

it('drawn up it is taller by as much, aside it turns; no smaller or larger than its species bears', () => {
  const { tool, made } = bench();
  const draw = (dx: number, up: number) => {
    tool.begin(at(300, 400));
    tool.move(at(300 + dx, 400 - up));
    const label = tool.marks!().map((m) => (m.kind === 'label' ? m.text : ''));
    tool.end(at(300 + dx, 400 - up));
    const last = made[made.length - 1];
    return { tall: (last.scale as number) * tall, turn: last.turn, label: label[0] };
  };
  const first = draw(0, 20);
  expect(first.tall).toBeCloseTo(7, 2);
  expect(first.label).toMatch(/birch, 7\.00 m tall/);
  expect(draw(0, -300).tall).toBeCloseTo(1, 2);
  expect(draw(0, 900).tall).toBeCloseTo(12, 2);
  tool.cursor(at(300, 400));
  const turned = draw(40, 0);
  expect(turned.tall).toBeCloseTo(5, 2);
  expect(turned.turn).toBeGreaterThanOrEqual(-180);
  expect(made.map((m) => m.id).filter((id, i, all) => all.indexOf(id) === i)).toHaveLength(made.length);
});

it("sets nothing without a species, in a level that is another's, and where the press was given up", () => {
  const none = bench([]);
  none.tool.begin(at(1, 1));
  none.tool.end(at(1, 1));
  expect(none.said).toEqual(['add a species first: pick a plant in the library']);
  const read = bench([species], false);
  read.tool.begin(at(1, 1));
  read.tool.end(at(1, 1));
  expect(read.said[0]).toContain('take over');
  const given = bench();
  given.tool.begin(at(1, 1));
  given.tool.cancel();
  given.tool.end(at(1, 1));
  expect([...none.made, ...read.made, ...given.made]).toEqual([]);
});
