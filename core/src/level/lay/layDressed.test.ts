import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { poseAxes } from '../../num/pose';
import { distance, type Vec3 } from '../../num/vec';
import { cornersAt, testLine } from '../../testing/kits';
import { testLevel } from '../../testing/levels';
import type { LaidLine, LineDressing } from '../kinds/laidLine';
import { parseObject } from '../objects';
import { presentOf } from '../present';
import { layDressed } from './layDressed';

const dressing = (more: Partial<LineDressing> = {}): LineDressing => ({
  pieces: [{ asset: 'stone', weight: 1 }],
  plants: [],
  spacing: 1,
  loose: 0,
  aside: [0, 0],
  turn: [0, 0],
  size: [1, 1],
  uneven: 0,
  sink: [0, 0],
  lean: 0,
  tilt: 0,
  flip: 0,
  ...more,
});
const dressedLine = (dress: LineDressing, more: Partial<LaidLine> = {}): LaidLine & { dress: LineDressing } => {
  const { kit: _, ...line } = testLine(more);
  return { ...line, dress };
};
const places = (line: LaidLine & { dress: LineDressing }): Vec3[] => [...layDressed(line).pieces.values()].map((p) => p.at);

describe('a dressed line', () => {
  it('sets a whole number on each stretch, evenly, to the right of the way it goes', () => {
    // East for 3 m, then south for 2.4 m: three at 0.5, 1.5 and 2.5 m, and two at 0.6 and 1.8 m.
    const line = dressedLine(dressing({ aside: [0.5, 0.5] }), { corners: cornersAt([0, 0], [3, 0], [3, 2.4]) });
    const laid = layDressed(line);
    expect(laid.stretches.map((s) => [s.parts, s.length])).toEqual([
      [3, 3],
      [2, 2.4],
    ]);
    expect(places(line)).toEqual([
      [0.5, 0, 0.5],
      [1.5, 0, 0.5],
      [2.5, 0, 0.5],
      [2.5, 0, 0.6],
      [2.5, 0, 1.8],
    ]);
    // Its own x goes along the line: north to south is a turn of -90 degrees.
    expect([...laid.pieces.values()].map((p) => p.turn)).toEqual([0, 0, 0, -90, -90]);
    expect([...laid.pieces.keys()]).toEqual(['m0-0', 'm0-1', 'm0-2', 'm1-0', 'm1-1']);
  });

  it('stands on the ground beside it and leans with it', () => {
    // The ground rises by 1 to the right of the line and by 0.5 along it.
    const flat = [0, 1, 2].map((k) => k);
    const corners = cornersAt([0, 0], [4, 0]).map((c, i) =>
      i === 0 ? { ...c, ground: flat, beside: [flat.map((h) => h - 1), flat.map((h) => h + 1)] as [number[], number[]] } : { ...c, at: [4, 2, 0] as Vec3 },
    );
    const line = dressedLine(dressing({ aside: [-1, 1], lean: 1, spacing: 0.5 }), { corners });
    for (const p of layDressed(line).pieces.values()) {
      expect(p.at[1]).toBeCloseTo(p.at[0] * 0.5 + p.at[2], 3);
      const [nx, ny, nz] = poseAxes(p as { turn: number; tilt?: [number, number, number, number] })[1];
      const l = Math.sqrt(0.25 + 1 + 1);
      expect([nx, ny, nz].map((v, k) => Math.abs(v - [-0.5, 1, -1][k] / l) < 1e-3)).toEqual([true, true, true]);
    }
  });

  it('draws each from its ranges and the list by its weights, plants at their own scale', () => {
    const dress = dressing({
      plants: [{ species: 'fern', weight: 3, scale: 0.5 }],
      spacing: 0.1,
      size: [0.8, 1.2],
      turn: [-30, 60],
      sink: [0.1, 0.2],
      loose: 1,
    });
    const all = [...layDressed(dressedLine(dress, { corners: cornersAt([0, 0], [100, 0]) })).pieces.values()];
    expect(all).toHaveLength(1000);
    const plants = all.filter((p) => p.kind === 'plant');
    expect(plants.length / all.length).toBeGreaterThan(0.7);
    expect(plants.length / all.length).toBeLessThan(0.8);
    for (const p of plants) {
      expect(p.scale).toBeGreaterThanOrEqual(0.4 - 1e-3);
      expect(p.scale).toBeLessThanOrEqual(0.6 + 1e-3);
    }
    for (const [i, p] of all.entries()) {
      expect(p.turn).toBeGreaterThanOrEqual(-30.01);
      expect(p.turn).toBeLessThanOrEqual(60.01);
      expect(p.at[1]).toBeLessThanOrEqual(-0.099);
      expect(p.at[1]).toBeGreaterThanOrEqual(-0.201);
      // Off its even place by at most half the spacing.
      expect(Math.abs(p.at[0] - (i + 0.5) * 0.1)).toBeLessThanOrEqual(0.0501);
    }
  });

  it('leaves what stands on a stretch where it is while another corner moves, and the same objects', () => {
    const line = dressedLine(dressing({ loose: 0.7, turn: [-180, 180] }), { corners: cornersAt([0, 0], [6, 0], [6, 6], [0, 6]) });
    const before = layDressed(line);
    const moved = { ...line, corners: line.corners.map((c, i) => (i === 3 ? { ...c, at: [-5, 0, 8] as Vec3 } : c)) };
    const after = layDressed(moved, before);
    for (const [slot, piece] of before.pieces) if (slot.startsWith('m0-') || slot.startsWith('m1-')) expect(after.pieces.get(slot)).toBe(piece);
    expect([...layDressed(moved).pieces.values()]).toEqual([...after.pieces.values()]);
  });

  it('of a closed curve is a ring: all as far apart', () => {
    fc.assert(
      fc.property(fc.double({ min: 1, max: 20, noNaN: true }), fc.double({ min: 0.3, max: 2, noNaN: true }), (radius, spacing) => {
        const corners = cornersAt(
          ...Array.from({ length: 12 }, (_, i): [number, number] => [radius * Math.cos((i * Math.PI) / 6), radius * Math.sin((i * Math.PI) / 6)]),
        );
        const ring = places(dressedLine(dressing({ spacing }), { corners, closed: true, curved: true }));
        const count = Math.max(1, Math.round((2 * Math.PI * radius) / spacing));
        expect(Math.abs(ring.length - count)).toBeLessThanOrEqual(1);
        for (const p of ring) expect(distance(p, [0, 0, 0]) / radius).toBeCloseTo(1, 2);
        const chord = 2 * radius * Math.sin(Math.PI / ring.length);
        if (ring.length > 2) ring.forEach((p, i) => expect(distance(p, ring[(i + 1) % ring.length]) / chord).toBeCloseTo(1, 1));
      }),
      { numRuns: 60 },
    );
  });

  it('says what is wrong: an empty list, far too many, both kit and list, heights beside that are too few', () => {
    const none = layDressed(dressedLine(dressing({ pieces: [] })));
    expect([none.pieces.size, none.faults]).toEqual([0, ['nothing stands along it yet: put pieces or plants into its list']]);
    expect(layDressed(dressedLine(dressing({ spacing: 0.05 }), { corners: cornersAt([0, 0], [90_000, 0]) })).faults[0]).toMatch(
      /would stand along it and \d+ are the most/,
    );
    const said = (o: object) => {
      const read = parseObject(o);
      return read.ok ? 'sound' : read.message;
    };
    const line = dressedLine(dressing());
    expect(said(line)).toBe('sound');
    expect(said({ ...line, kit: 'kit' })).toMatch(/either a kit/);
    // With neither nothing stands along it.
    expect(said({ ...line, dress: undefined })).toBe('sound');
    expect(said({ ...line, dress: { ...line.dress, aside: [1, 0] } })).toMatch(/lower one comes first/);
    expect(
      said({
        ...line,
        corners: line.corners.map((c) => ({
          ...c,
          ground: [0, 0],
          beside: [
            [0, 0],
            [0, 0, 0],
          ],
        })),
      }),
    ).toMatch(/as many/);
  });

  it('stands in a level with pieces and plants, and is made anew as its list changes', () => {
    const level = testLevel();
    const line = dressedLine(dressing({ plants: [{ species: 'fern', weight: 1, scale: 1 }] }), { corners: cornersAt([0, 0], [20, 0]) });
    level.objects.set('line', line);
    const present = presentOf(level.objects);
    expect(present.of('piece').length + present.of('plant').length).toBe(20);
    expect(present.of('plant').length).toBeGreaterThan(3);
    level.objects.set('line', { ...line, dress: { ...line.dress, plants: [] } });
    expect([present.of('piece').length, present.of('plant').length]).toEqual([20, 0]);
    level.objects.delete('line');
    expect(present.of('piece').length).toBe(0);
  });
});
