import { handLean, handSeed } from '../growth/growing';
import { poseOf } from '../level/instance';
import { presentPieces, presentPlants, type Level } from '../level/level';
import type { LevelObject, Piece, PlantObject } from '../level/objects';
import { leanOf, poseRotation } from './rotation';

const COLUMNS = ['kind', 'id', 'name', 'asset', 'x', 'y', 'z', 'turn', 'scale', 'scale_x', 'scale_y', 'scale_z', 'qx', 'qy', 'qz', 'qw'];

/**
 * Where pieces and hand-set plants stand, for other programs: metres, the turn about y in degrees, scales on
 * each axis (`scale` is that of the height) and the whole rotation as a unit quaternion. Members of copies
 * are among them. What is taken out of the level, and plants that are removed, are left out. Empty where nothing stands.
 */
export function placementsCsv(level: Level, objects: Iterable<LevelObject> = [...presentPieces(level), ...presentPlants(level)]): string {
  const rows: string[] = [];
  for (const o of [...objects]
    .filter((v): v is Piece | PlantObject => v.kind === 'piece' || v.kind === 'plant')
    .sort((a, b) => (a.kind === b.kind ? (a.id < b.id ? -1 : 1) : a.kind === 'piece' ? -1 : 1))) {
    const of = level.object(o.kind === 'piece' ? o.asset : o.species);
    if (o.kind === 'piece' ? o.out : o.gone || o.out || (of?.kind === 'species' && of.out)) continue;
    const [sx, sy, sz] = poseOf(o).scale ?? [1, 1, 1];
    const rotation = o.kind === 'plant' && !o.tilt && of?.kind === 'species' ? leanOf(...handLean(of, handSeed(of, o.id)), o.turn) : poseRotation(o);
    rows.push(
      [
        o.kind,
        o.id,
        cell(o.name),
        cell(of?.name ?? (o.kind === 'piece' ? o.asset : o.species)),
        ...o.at.map((v) => v.toFixed(3)),
        o.turn,
        sy,
        sx,
        sy,
        sz,
        ...rotation.map(figure),
      ].join(','),
    );
  }
  return rows.length === 0 ? '' : `${[COLUMNS.join(','), ...rows].join('\n')}\n`;
}

const cell = (text: string): string => (/[",\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text);
/** Six digits, and no minus before a zero. */
const figure = (v: number): string => String(Number(v.toFixed(6)) + 0);
