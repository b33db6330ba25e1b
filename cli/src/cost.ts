import { COURSES } from '@rammer/core/cost/drawable';
import { baseTerm, BUDGET_SHARE, DEVICES, termOf } from '@rammer/core/cost/frame';
import { costPlaces } from '@rammer/core/cost/places';
import { settingsOf } from '@rammer/core/level/level';
import { overviewPose } from '@rammer/core/scene/checkLevel';
import { sceneOf } from '@rammer/core/scene/parts';
import type { Command } from './command';

/** What each place costs on a device, by course; exit 1 where the dearest stands over the budget line. */
export const cost: Command = async (level, { assets, kernel, device: wanted }) => {
  const id = wanted ?? settingsOf(level).device;
  if (!Object.hasOwn(DEVICES, id)) throw new Error(`there is no device ${id}; there are ${Object.keys(DEVICES).join(', ')}`);
  const device = DEVICES[id as keyof typeof DEVICES];
  const scene = (await sceneOf(level, assets, { kernel }))!;
  const { grid } = scene.terrain.value;
  const saved = costPlaces(level);
  const overview = [{ name: 'overview', pose: overviewPose(grid.width, grid.depth, 0) }];
  const places = scene.cost.at(saved.length > 0 ? saved : overview, id as keyof typeof DEVICES).map(({ name, sums, frame }) => ({
    place: name,
    frame,
    drawn: sums.all,
    terms: Object.fromEntries([
      ['base', baseTerm(device, frame.governs)],
      ...COURSES.flatMap((c) => {
        const t = sums.byCourse[c];
        return t ? [[c, termOf(device, t, frame.governs)]] : [];
      }),
    ]),
  }));
  const budget = device.target * BUDGET_SHARE;
  const over = places[0].frame.frame > budget;
  const report = { device: device.name, target: device.target, budget, over, estimate: true, places };
  const text = [
    `${device.name}, budget ${budget.toFixed(1)} of ${device.target} ms, estimate${over ? ': OVER' : ''}`,
    ...places.map(
      (p) =>
        `${p.frame.frame.toFixed(2).padStart(7)} ms  ${p.frame.governs}  ${String(p.drawn.triangles).padStart(7)} ` +
        `triangles ${String(p.drawn.draws).padStart(5)} draws  ${p.place}: ${Object.entries(p.terms)
          .map(([c, v]) => `${c} ${(v as number).toFixed(2)}`)
          .join(', ')}`,
    ),
  ].join('\n');
  return { report, text, exit: over ? 1 : 0 };
};
