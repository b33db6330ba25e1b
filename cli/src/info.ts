import { ofKind, settingsOf } from '@rammer/core/level/level';
import { gridOf } from '@rammer/core/level/tiles';
import type { Command } from './command';

export const info: Command = (level) => {
  const settings = settingsOf(level);
  const grid = gridOf(settings);
  const report = {
    name: settings.name,
    size: { width: grid.width, depth: grid.depth, tilesX: grid.tilesX, tilesZ: grid.tilesZ, spacing: grid.spacing, samples: grid.nx * grid.nz },
    bodies: ofKind(level, 'body').map((b) => b.name),
    lifts: ofKind(level, 'lift').map((l) => ({ name: l.name, lift: l.lift })),
    blocks: ofKind(level, 'block').length,
    markers: ofKind(level, 'marker').map((m) => ({ name: m.name, marker: m.marker })),
    viewpoints: ofKind(level, 'viewpoint').map((v) => v.name),
    tiles: level.tiles.size,
  };
  const text = [
    `${report.name}: ${grid.width} x ${grid.depth} m, ${grid.tilesX} x ${grid.tilesZ} tiles ${grid.spacing} m apart`,
    `bodies      ${report.bodies.join(', ')}`,
    `lifts       ${report.lifts.map((l) => `${l.name} (${l.lift})`).join(', ')}`,
    `blocks      ${report.blocks}`,
    `markers     ${report.markers.map((m) => `${m.name} (${m.marker})`).join(', ') || 'none'}`,
    `viewpoints  ${report.viewpoints.join(', ') || 'none'}`,
  ].join('\n');
  return { report, text, exit: 0 };
};
