import { assemble } from '@rammer/core/scene/parts';
import { barred } from '@rammer/core/earth/water';
import { marker, ofKind, playerBody } from '@rammer/core/level/level';
import { OPENING_BAND } from '@rammer/core/play/limits';
import { findReach } from '@rammer/core/play/reach';
import { makeWalkArea } from '@rammer/core/play/walkArea';
import { dotsApart, walkDots } from '@rammer/core/play/walkDots';
import type { Command } from './command';

/** Whether the player gets from the entry to the objective, and where each threat can go; exit 1 where not. */
export const walk: Command = async (level, { assets, kernel, body: wanted, progress }) => {
  const parts = await assemble(level, assets, kernel);
  const { terrain, solids } = parts;
  const blocks = parts.blocks.filter((b) => !b.stops && !b.background);
  const player = wanted ? ofKind(level, 'body').find((b) => b.id === wanted || b.name === wanted) : playerBody(level);
  if (!player)
    throw new Error(
      `there is no body ${wanted}; there are ${ofKind(level, 'body')
        .map((b) => b.name)
        .join(', ')}`,
    );
  const bake = (name: string, figures: typeof player.figures, from: [number, number, number] | undefined, to?: [number, number, number]) => {
    const area = makeWalkArea(figures, terrain.grid);
    area.update(
      { terrain: barred(terrain, parts.waters, figures.wade), blocks, meshes: solids },
      (share) => {
        progress(share, `walk area of ${name}`);
        return true;
      },
      from,
    );
    const dots = walkDots(area, from);
    let linked = 0;
    const square = dotsApart(terrain.grid) ** 2;
    for (let i = 3; i < dots.length; i += 4) linked += dots[i];
    return { reach: findReach(area, from, to), ground: (dots.length / 4) * square, linked: linked * square };
  };
  const own = bake(player.name, player.figures, marker(level, 'entry')?.at, marker(level, 'objective')?.at);
  const threats = ofKind(level, 'marker')
    .filter((m) => m.marker === 'threat')
    .flatMap((m) => {
      const body = m.body ? level.object(m.body) : undefined;
      if (body?.kind !== 'body') return [];
      const { ground, linked } = bake(body.name, body.figures, m.at);
      return [{ threat: m.name, body: body.name, ground, linked }];
    });
  const { reach } = own;
  const report = {
    body: player.name,
    reached: reach.reached,
    length: reach.length,
    walkTime: reach.walkTime,
    runTime: reach.runTime,
    ...(reach.stop ? { stop: reach.stop } : {}),
    path: reach.path,
    ground: own.ground,
    linked: own.linked,
    tolerance: OPENING_BAND,
    threats,
  };
  const text = [
    reach.reached
      ? `${player.name}: objective reached, ${reach.length.toFixed(1)} m, ${Math.round(reach.walkTime)} s at a walk, ${Math.round(reach.runTime)} s at a run`
      : `${player.name}: ${reach.stop!.message}`,
    `ground  ${own.linked} of ${own.ground} m2 linked to the entry; openings within ${OPENING_BAND.toFixed(2)} m of the body's width may be judged either way`,
    ...threats.map((t) => `threat  ${t.threat} (${t.body}): ${t.linked} of ${t.ground} m2`),
  ].join('\n');
  return { report, text, exit: reach.reached ? 0 : 1 };
};
