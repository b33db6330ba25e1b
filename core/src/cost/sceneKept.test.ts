import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { meshGrid } from '../block/placedMesh';
import { shippedPieces } from '../kit/pieces';
import { PlacedScene } from '../kit/placedScene';
import { placedPiece, placedPieces } from '../kit/placement';
import { applyEdit, commitChanges, type AnyEditBody } from '../level/edits/index';
import { makeLevel, presentPieces, type Level } from '../level/level';
import type { Assembly, CopyObject, LevelObject, Piece } from '../level/objects';
import { presentOf } from '../level/present';
import type { Mark } from '../num/journal';
import { tiltOf } from '../num/pose';
import { instanceDrawables, PieceCells, pieceCells } from './instances';

const assets = new Map(shippedPieces().map((a, i) => [`a${i}`, a]));
const asset = (i: number) => ({ id: `a${i}`, version: 1, kind: 'asset', name: `a${i}`, role: 'piece', hash: `${i}`.repeat(64) }) as LevelObject;
const piece = (i: number): Piece => ({
  id: `p${i}`,
  version: 1,
  kind: 'piece',
  name: `p${i}`,
  asset: `a${i % 3}`,
  at: [i * 9, 0, (i % 4) * 11],
  turn: i * 30,
  sink: 0,
  collider: 'asset',
  hidden: false,
  out: false,
  ...(i % 2 ? { group: 'g' } : {}),
});
const assembly: Assembly = { id: 'g', version: 1, kind: 'assembly', name: 'g', group: 'g', pivot: [0, 0, 0] };
const copy = (i: number): CopyObject => ({
  id: `c${i}`,
  version: 1,
  kind: 'copy',
  name: `c${i}`,
  assembly: 'g',
  at: [0, 0, 100 * (i + 1)],
  turn: 40 * i,
  hidden: false,
  out: false,
});
const start = (): Level => makeLevel([...[0, 1, 2].map(asset), ...Array.from({ length: 8 }, (_, i) => piece(i)), assembly, copy(0), copy(1)]);

/** A scene that takes in only what changed, as the interface keeps it. */
class Kept {
  private mark?: Mark;
  readonly scene = new PlacedScene();
  readonly cells = new PieceCells();
  follow(level: Level): void {
    const present = presentOf(level.objects);
    const { ids, mark } = present.since(this.mark);
    this.mark = mark;
    if (!ids)
      for (const m of this.scene.values()) {
        this.scene.delete(m.id);
        this.cells.set(m.id, undefined);
      }
    for (const id of ids ?? presentPieces(level).map((p) => p.id)) {
      const p = present.get(id);
      if (p?.kind === 'piece') this.scene.put(placedPiece(p, assets.get(p.asset)!));
      else this.scene.delete(id);
      this.cells.set(id, p?.kind === 'piece' ? p : undefined);
    }
  }
}

const edit = fc.oneof(
  fc
    .tuple(fc.nat(7), fc.record({ at: fc.tuple(fc.integer({ min: -80, max: 80 }), fc.nat(3), fc.integer({ min: -80, max: 80 })) }))
    .map(([i, set]): AnyEditBody => ({ kind: 'set', patches: [{ id: `p${i}`, set }] })),
  fc
    .tuple(
      fc.nat(7),
      fc.constantFrom<Record<string, unknown>>(
        { tilt: tiltOf(90, 20) },
        { tilt: null },
        { scale: [1, 2, 1] },
        { scale: null },
        { tint: '#aa5500' },
        { out: true },
        { out: false },
        { group: null },
        { group: 'g' },
        { asset: 'a2' },
        { name: 'other' },
      ),
    )
    .map(([i, set]): AnyEditBody => ({ kind: 'set', patches: [{ id: `p${i}`, set }] })),
  fc.nat(7).map((i): AnyEditBody => ({ kind: 'remove', ids: [`p${i}`] })),
  fc.nat(7).map((i): AnyEditBody => ({ kind: 'add', objects: [piece(i)] })),
  fc.nat(1).map((i): AnyEditBody => ({ kind: 'set', patches: [{ id: `c${i}`, set: { turn: 15 * i + 5, overrides: [{ member: 'p1', move: [0, 1, 0] }] } }] })),
  fc.constant<AnyEditBody>({ kind: 'set', patches: [{ id: 'g', set: { pivot: [3, 0, 1] } }] }),
);

describe('a scene that is kept up with its level', () => {
  it('is that of a fresh one after any edits, bit for bit: meshes, cells and drawables', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(edit, fc.boolean()), { maxLength: 20 }), (edits) => {
        const level = start();
        const kept = new Kept();
        kept.follow(level);
        for (const [e, look] of edits) {
          const applied = applyEdit(level, e);
          if (applied.ok) commitChanges(level, applied.changes);
          // What is not looked at between is taken in later.
          if (look) kept.follow(level);
        }
        kept.follow(level);
        const fresh = makeLevel([...level.objects.values()]);
        const placed = placedPieces(presentPieces(fresh), assets);
        expect([...kept.scene.values()].sort((a, b) => (a.id < b.id ? -1 : 1))).toEqual(placed);
        expect(new Map([...kept.scene.grid].sort())).toEqual(new Map([...meshGrid(placed)].sort()));
        const byKey = (a: { key: string }, b: { key: string }) => (a.key < b.key ? -1 : 1);
        const cells = [...kept.cells.list(assets)].sort(byKey);
        const wanted = pieceCells(presentPieces(fresh), assets).sort(byKey);
        expect(cells).toEqual(wanted);
        expect([...kept.cells.drawables(assets, new Map())].sort(byKey)).toEqual(instanceDrawables(wanted, assets, new Map()));
      }),
      { numRuns: 60 },
    );
  });

  it('has a colour for each tint of a cell, white for those without', () => {
    const at = (i: number, tint?: string): Piece => ({ ...piece(i), asset: 'a0', at: [i, 0, 0], ...(tint ? { tint } : {}) });
    const [cell] = pieceCells([at(0), at(1, '#aa5500'), at(2, '#0055aa'), at(3, '#aa5500')], assets);
    expect(cell.palette).toEqual(['#ffffff', '#aa5500', '#0055aa']);
    expect([...cell.tints]).toEqual([0, 1, 2, 1]);
    expect(pieceCells([at(0)], assets)[0].palette).toBeUndefined();
  });

  it('makes one cell anew for one piece, and tells both places of what moved and none of what was renamed', () => {
    const level = start();
    const kept = new Kept();
    kept.follow(level);
    const before = new Map(kept.cells.list(assets).map((c) => [c.key, c]));
    kept.scene.takeMoved();
    const change = (set: Record<string, unknown>) => {
      const a = applyEdit(level, { kind: 'set', patches: [{ id: 'p2', set }] });
      if (a.ok) commitChanges(level, a.changes);
      kept.follow(level);
    };
    change({ name: 'renamed' });
    expect(kept.scene.takeMoved()).toEqual([]);
    change({ at: [500, 0, 500] });
    expect(kept.scene.takeMoved()).toHaveLength(2);
    expect(
      kept.cells
        .list(assets)
        .filter((c) => before.get(c.key) !== c)
        .map((c) => c.key),
    ).toEqual(['kit/a2/15,15']);
  });
});
