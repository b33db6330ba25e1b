import { beforeEach, describe, expect, it, vi } from 'vitest';
import { BRUSH_DEFAULTS } from '@rammer/core/earth/brush';
import { composeRect, composeTerrain, type Terrain } from '@rammer/core/earth/compose';
import { heightAt } from '@rammer/core/earth/sample';
import { applyEdit, commitChanges, type AnyEditBody } from '@rammer/core/level/edits/index';
import { liftStack, ofKind, type Level } from '@rammer/core/level/level';
import type { AssetObject, GroundRule, LevelObject, Lift } from '@rammer/core/level/objects';
import { parseTileKey } from '@rammer/core/level/tiles';
import type { Vec3 } from '@rammer/core/num/vec';
import { groundDefaults } from '@rammer/core/surface/surfaces';
import { weave, weaveKey, weaveOf } from '@rammer/core/surface/textures';
import { expectBits } from '../../../core/src/testing/bits';
import { testLevel } from '../../../core/src/testing/levels';
import { useEarth } from '../store/earthDraft';
import { TOOLS, useUi, type ToolId } from '../store/ui';
import { addRule, copySurface, laySurface, removeSurface, setPicture, setRule } from './grounds';
import { makeTool } from './index';
import type { Tool, ToolContext, ToolEvent } from './tool';

// Before anything is imported: the sheet's look is remembered in the browser.
vi.hoisted(() => {
  (globalThis as { localStorage?: unknown }).localStorage = { getItem: () => null, setItem: () => {} };
});

/** A level with its terrain, as a tool meets them; ten pixels a metre, seen from above. */
class Bench {
  readonly level: Level;
  readonly terrain: Terrain;
  readonly said: string[] = [];
  readonly edits: { body: AnyEditBody; label: string }[] = [];
  previews = 0;
  readonly context: ToolContext;

  constructor(level = testLevel(2, 0.5)) {
    this.level = level;
    this.terrain = composeTerrain(level);
    const session = {
      level,
      terrain: this.terrain,
      writable: true,
      get stack() {
        return liftStack(level);
      },
      scene: { solids: { all: [], built: new Map() }, placed: { list: [] } },
      say: (text: string) => {
        this.said.push(text);
      },
      commit: (body: AnyEditBody, label: string) => {
        const applied = applyEdit(level, body);
        if (!applied.ok) {
          this.said.push(applied.message);
          return false;
        }
        commitChanges(level, applied.changes);
        this.edits.push({ body, label });
        composeRect(this.terrain, liftStack(level), level.tiles, { x0: 0, z0: 0, x1: this.terrain.grid.nx - 1, z1: this.terrain.grid.nz - 1 });
        return true;
      },
    };
    const view = {
      terrainPreview: () => {
        this.previews++;
      },
      project: (p: Vec3) => ({ x: p[0] * 10, y: p[2] * 10 }),
      pixelsPerMetre: () => 10,
      request: () => {},
    };
    this.context = { session, view } as never;
  }

  /** Another tab took the level over. */
  lose(): void {
    (this.context.session as { writable: boolean }).writable = false;
  }

  tool(id: ToolId): Tool {
    useUi.getState().setTool(id);
    return makeTool(id, this.context);
  }

  at(x: number, z: number, more: Partial<ToolEvent> = {}): ToolEvent {
    return {
      x: x * 10,
      y: z * 10,
      shift: false,
      alt: false,
      ctrl: false,
      pick: { point: [x, heightAt(this.terrain, x, z), z], normal: [0, 1, 0], host: { kind: 'terrain' } } as never,
      ...more,
    };
  }

  click(tool: Tool, x: number, z: number, more: Partial<ToolEvent> = {}): void {
    const e = this.at(x, z, more);
    tool.cursor(e);
    tool.begin(e);
    tool.end(e);
  }

  drag(tool: Tool, points: [number, number][], more: Partial<ToolEvent> = {}): void {
    tool.begin(this.at(...points[0], more));
    for (const p of points.slice(1)) tool.move(this.at(...p, more));
    tool.end(this.at(...points[points.length - 1], more));
  }
}

const brush = (more: Partial<typeof BRUSH_DEFAULTS>) => useEarth.getState().setBrush({ ...BRUSH_DEFAULTS, ...more });
const height = (b: Bench, x: number, z: number) => heightAt(b.terrain, x, z);

beforeEach(() => {
  useUi.setState({ tool: 'select', selection: [], snap: 0.5, workPlane: undefined, typed: '' });
  useEarth.setState({ lift: undefined, brush: { ...BRUSH_DEFAULTS } });
});

it('a tool that there is not is an error, and every one there is can be taken in hand', () => {
  const bench = new Bench();
  expect(() => makeTool('rake' as ToolId, bench.context)).toThrow('there is no tool rake');
  expect(() => makeTool('toString' as ToolId, bench.context)).toThrow('there is no tool toString');
  for (const id of TOOLS) expect(makeTool(id, bench.context)).toMatchObject({ begin: expect.any(Function), cancel: expect.any(Function) });
});

describe('the brush as a tool', () => {
  it('shows a stroke as it is drawn and commits it as one edit that leaves the same bits', () => {
    const b = new Bench();
    const tool = b.tool('raise');
    brush({ kind: 'raise', radius: 6, strength: 0.5 });
    tool.begin(b.at(20, 32));
    for (let x = 21; x <= 40; x++) tool.move(b.at(x, 32));
    expect(b.edits).toHaveLength(0);
    expect(b.previews).toBeGreaterThan(5);
    const shown = b.terrain.heights.slice();
    expect(height(b, 30, 32)).toBeGreaterThan(0.5);
    tool.end(b.at(40, 32));
    expect(b.edits.map((e) => [e.body.kind, e.label])).toEqual([['stroke', 'raise ground']]);
    expectBits(b.terrain.heights, shown);
  });

  it('cancelled it leaves nothing, not a bit', () => {
    const b = new Bench(testLevel(2, 0.5, { seed: 4, height: 3, scale: 20, octaves: 3 }));
    const before = b.terrain.heights.slice();
    const tool = b.tool('smooth');
    brush({ kind: 'smooth', strength: 1 });
    tool.begin(b.at(30, 30));
    tool.move(b.at(36, 34));
    expect(b.terrain.heights).not.toEqual(before);
    tool.cancel();
    tool.end(b.at(36, 34));
    expectBits(b.terrain.heights, before);
    expect(b.edits).toEqual([]);
  });

  it('Shift reverses, a pen presses, Alt picks the height to level to, a mirror draws both sides', () => {
    const b = new Bench();
    const tool = b.tool('raise');
    brush({ kind: 'raise', strength: 0.4 });
    b.drag(tool, [[20, 20]], { shift: true });
    expect(height(b, 20, 20)).toBeCloseTo(-0.4, 2);
    b.drag(tool, [[44, 20]], { pressure: 0.5 });
    expect(height(b, 44, 20)).toBeCloseTo(0.2, 2);
    tool.begin(b.at(44, 20, { alt: true }));
    expect(useEarth.getState().brush.levelTo).toBeCloseTo(0.2, 2);
    tool.end(b.at(44, 20));
    brush({ kind: 'raise', strength: 0.4, mirror: 'east-west' });
    b.drag(tool, [[12, 50]]);
    expect([height(b, 12, 50), height(b, 52, 50)].map((h) => Math.round(h * 100) / 100)).toEqual([0.4, 0.4]);
    expect(b.edits).toHaveLength(3);
  });

  it('a print is pressed once, however far it is dragged; Shift presses it in; its frame shows its turn', () => {
    const b = new Bench();
    const tool = b.tool('print');
    useEarth.setState({ print: 'own', ownPrint: { name: 'plate', picture: { width: 2, height: 2, values: new Float32Array(4).fill(1) } } });
    brush({ kind: 'print', radius: 4, tall: 2, hardness: 0.9 });
    b.drag(tool, [
      [20, 20],
      [30, 20],
      [40, 20],
    ]);
    expect([height(b, 20, 20), height(b, 30, 20), height(b, 40, 20)]).toEqual([2, 0, 0]);
    b.drag(tool, [[40, 40]], { shift: true });
    expect(height(b, 40, 40)).toBe(-2);
    brush({ kind: 'print', radius: 4, turn: 90 });
    tool.cursor(b.at(20, 20));
    const [, frame] = tool.marks!().filter((m) => m.kind === 'ring');
    // Its tick points east: turned to the right from north.
    expect(frame.points[0][0]).toBeGreaterThan(24);
    expect(frame.points[0][2]).toBeCloseTo(20, 6);
  });

  it('says why where it cannot sculpt, and leaves a drag beside the ground to the camera', () => {
    const b = new Bench();
    const tool = b.tool('raise');
    const hand = liftStack(b.level).find((l) => l.lift === 'hand')!;
    expect(tool.begin({ ...b.at(20, 20), pick: undefined })).toBe(false);
    b.level.objects.set(hand.id, { ...hand, locked: true } as Lift);
    expect(tool.begin(b.at(20, 20))).toBe(true);
    b.level.objects.set(hand.id, { ...hand, visible: false } as Lift);
    tool.begin(b.at(20, 20));
    b.lose();
    tool.begin(b.at(20, 20));
    expect(b.said).toEqual([
      `${hand.name} is locked: unlock it to sculpt`,
      'the hand lift is hidden: show it to sculpt',
      'this level is read only here: take over to edit it',
    ]);
    expect(b.edits).toEqual([]);
  });

  it('ink in one tile sends that tile alone', () => {
    const b = new Bench();
    const tool = b.tool('raise');
    brush({ kind: 'raise', radius: 5 });
    b.drag(tool, [[16, 16]]);
    const [{ body }] = b.edits;
    expect(body.kind === 'stroke' && body.tiles.map((t) => parseTileKey(t.key)!).map(({ channel, tx, tz }) => [channel, tx, tz])).toEqual([['delta', 0, 0]]);
  });
});

describe('drawing by corners', () => {
  const square: [number, number][] = [
    [10, 10],
    [30, 10],
    [30, 30],
    [10, 30],
  ];

  it('an outline closes on its first corner, or by Enter; corners lie on the grid, by Shift where they are', () => {
    const b = new Bench();
    const tool = b.tool('playBounds');
    for (const [x, z] of square) b.click(tool, x + 0.2, z - 0.1);
    b.click(tool, 10.4, 10.2);
    expect(ofKind(b.level, 'playBounds')[0].outline).toEqual(square);
    expect(useUi.getState().tool).toBe('select');
    const again = b.tool('playBounds');
    for (const [x, z] of square.slice(0, 3)) b.click(again, x + 0.2, z, { shift: true });
    again.key!('Enter');
    expect(ofKind(b.level, 'playBounds')[0].outline).toEqual([
      [10.2, 10],
      [30.2, 10],
      [30.2, 30],
    ]);
    expect(b.edits.map((e) => e.label)).toEqual(['draw the play bounds', 'draw the play bounds anew']);
  });

  it('a typed length sets the next corner the way the pointer goes; Backspace takes back what was typed, then corners', () => {
    const b = new Bench();
    const tool = b.tool('playBounds');
    b.click(tool, 10, 10);
    tool.cursor(b.at(20, 10));
    for (const key of '13') tool.key!(key);
    tool.key!('Backspace');
    tool.key!('5');
    expect(useUi.getState().typed).toBe('15');
    tool.key!('Enter');
    expect(useUi.getState().typed).toBe('');
    b.click(tool, 25, 40);
    tool.key!('Backspace');
    b.click(tool, 25, 30);
    b.click(tool, 10, 30);
    tool.key!('Enter');
    expect(ofKind(b.level, 'playBounds')[0].outline).toEqual([
      [10, 10],
      [25, 10],
      [25, 30],
      [10, 30],
    ]);
  });

  it('what crosses itself, is too short or is no length is told, and kept to be mended', () => {
    const b = new Bench();
    const tool = b.tool('playBounds');
    for (const [x, z] of [
      [10, 10],
      [30, 30],
      [30, 10],
      [10, 30],
    ])
      b.click(tool, x, z);
    tool.key!('Enter');
    expect(b.said[0]).toMatch(/the play bounds cross themselves: the side from corner 1 meets the side from corner 3/);
    tool.key!('Backspace');
    tool.key!('Backspace');
    tool.key!('Enter');
    expect(b.said[1]).toBe('play bounds: at least three corners are needed');
    tool.cursor(b.at(12, 12));
    for (const key of '0') tool.key!(key);
    tool.key!('Enter');
    expect(b.said[2]).toMatch(/"0" is no length/);
    expect(b.edits).toEqual([]);
    tool.cancel();
    expect(tool.key!('Enter')).toBe(false);
  });

  it('a mask is drawn for the chosen lift, keeps its other bands, and asks for a lift where none is chosen', () => {
    const b = new Bench(testLevel(2, 0.5, { seed: 4, height: 3, scale: 20, octaves: 2 }));
    const noise = b.level.object('noise') as Lift;
    b.level.objects.set('noise', { ...noise, mask: { slope: { band: [0, 30], soft: 5 } } } as Lift);
    const draw = () => {
      const tool = b.tool('mask');
      for (const [x, z] of square) b.click(tool, x, z);
      tool.key!('Enter');
    };
    draw();
    expect(b.said).toEqual(['choose a lift first']);
    useEarth.setState({ lift: 'noise' });
    draw();
    expect((b.level.object('noise') as Lift).mask).toEqual({ slope: { band: [0, 30], soft: 5 }, outline: { line: square, soft: 2 } });
    expect(height(b, 50, 50)).toBe(0);
  });

  it('a pool is filled from where it is clicked, as deep there as the bench says', () => {
    const b = new Bench();
    useEarth.setState({ poolDepth: 1.5 });
    const tool = b.tool('pool');
    b.click(tool, 20, 24);
    expect(ofKind(b.level, 'water')[0]).toMatchObject({ form: 'pool', seed: [20, 24], height: 1.5, name: 'pool 1' });
    b.lose();
    b.click(b.tool('pool'), 30, 24);
    expect([b.said, b.edits.length]).toEqual([['this level is read only here: take over to edit it'], 1]);
  });
});

describe('a rule of the ground', () => {
  it('that lay on tops lies on the ground again on the server too: the field is taken away, not left out', () => {
    const b = new Bench();
    const moss: GroundRule = { id: 'r', version: 1, kind: 'groundRule', name: 'moss', order: 1, surface: 'moss', share: 1, where: [], wins: false, on: true };
    b.context.session.commit({ kind: 'add', objects: [moss] }, 'add');
    for (const lies of ['tops', null] as const) {
      setRule(b.context.session, b.level.objects.get('r') as GroundRule, { lies }, 'lies');
      // What the server gets is what JSON keeps of it.
      const sent = JSON.parse(JSON.stringify(b.edits[b.edits.length - 1].body)) as { patches: { set: object }[] };
      expect(sent.patches[0].set).toEqual({ lies });
    }
    expect(b.level.objects.get('r')).not.toHaveProperty('lies');
  });
});

describe('a surface with a picture of its own', () => {
  const picture = (id: string): AssetObject => ({ id, version: 1, kind: 'asset', name: id, role: 'reference', hash: id.charCodeAt(0).toString(16).repeat(32) });
  const bench = () => {
    const b = new Bench();
    const { session } = b.context;
    session.commit({ kind: 'add', objects: [...groundDefaults()].filter((o) => !b.level.objects.has(o.id)) as LevelObject[] }, 'defaults');
    const surface = (id: string) => ofKind(b.level, 'surface').find((s) => s.id === id)!;
    return { ...b, session, level: b.level, surface, assets: () => ofKind(b.level, 'asset').map((a) => a.id) };
  };

  it('wears it and leaves it in one act, and takes the asset with it when nothing else names it', () => {
    const { session, level, surface, assets } = bench();
    expect(weaveOf(surface('turf'), level)).toEqual({ texture: 'turf' });
    setPicture(session, surface('turf'), { asset: picture('fern'), width: 1500, height: 1100 });
    expect([weaveOf(surface('turf'), level).picture, assets()]).toEqual([picture('fern').hash, ['fern']]);
    // Texels are told by as many pixels as it is good for.
    expect(surface('turf').pixels).toBe(1024);
    setPicture(session, surface('turf'), { asset: picture('bark'), width: 4096, height: 90 });
    expect(surface('turf').pixels).toBe(256);
    expect(assets()).toEqual(['bark']);
    copySurface(session, surface('turf'));
    setPicture(session, surface('turf'));
    // Its copy still wears it.
    expect([surface('turf').picture, assets()]).toEqual([undefined, ['bark']]);
    removeSurface(
      session,
      ofKind(level, 'surface').find((s) => s.picture === 'bark')!,
    );
    expect(assets()).toEqual([]);
    // A picture whose asset is gone is none.
    expect(weaveOf({ ...surface('turf'), picture: 'bark' }, level)).toEqual({ texture: 'turf' });
  });

  it('two keys are the same where the bytes are, and a picture has one of its own', () => {
    const hollows = { texture: 'mud' as const, level: 0.4, soft: 0.1 };
    const keys = [
      { texture: 'turf' as const },
      { texture: 'turf' as const, hollows },
      { texture: 'turf' as const, picture: 'ab' },
      { texture: 'turf' as const, picture: 'ab', hollows },
    ].map(weaveKey);
    expect(new Set(keys).size).toBe(4);
    expect(weaveKey({ texture: 'slate', picture: 'ab' })).toBe(weaveKey({ texture: 'turf', picture: 'ab' }));
    const own = new Uint8Array(8 * 8 * 4).fill(200);
    expect(weave({ texture: 'turf', picture: 'ab' }, 8, own)).toEqual(own);
    expect(weave({ texture: 'turf', picture: 'ab', hollows: { ...hollows, level: 1 } }, 8, own)).not.toEqual(own);
  });
});

describe('a rule that lays another surface', () => {
  it('is named after it where it was named after the one before, and keeps a name that was given', () => {
    const b = new Bench();
    const { session } = b.context;
    session.commit({ kind: 'add', objects: groundDefaults().filter((o) => !b.level.objects.has(o.id)) as LevelObject[] }, 'defaults');
    addRule(
      session,
      ofKind(b.level, 'surface').find((s) => s.id === 'moss')!,
    );
    const rule = () => ofKind(b.level, 'groundRule').find((r) => r.id !== 'slope-rule')!;
    expect(rule().name).toBe('moss 1');
    laySurface(session, rule(), 'gravel');
    expect([rule().name, rule().surface]).toEqual(['gravel 1', 'gravel']);
    laySurface(
      session,
      ofKind(b.level, 'groundRule').find((r) => r.id === 'slope-rule')!,
      'moss',
    );
    expect(ofKind(b.level, 'groundRule').find((r) => r.id === 'slope-rule')).toMatchObject({ name: 'steep ground', surface: 'moss' });
  });
});

describe('a stroke that is refused', () => {
  it('leaves the ground as the level has it', () => {
    const b = new Bench();
    const before = b.terrain.heights.slice();
    const raise = b.tool('raise');
    brush({ kind: 'raise', radius: 5, strength: 1 });
    b.context.session.commit = () => {
      b.said.push('refused');
      return false;
    };
    b.drag(raise, [
      [20, 20],
      [24, 20],
    ]);
    expect([b.said, b.edits]).toEqual([['refused'], []]);
    expect(b.previews).toBeGreaterThan(1);
    expectBits(b.terrain.heights, before);
  });
});
