import { checkLevel, type Check } from '@rammer/core/scene/checkLevel';
import type { Command } from './command';

export const check: Command = async (level, { assets, kernel, progress }) => {
  const onProgress = (share: number) => {
    progress(share);
    return true;
  };
  const report = (await checkLevel(level, { assets, kernel, onProgress }))!;
  const { size, reach, cost, snags } = report;
  const text = [
    `size    ${size.width} x ${size.depth} m, heights ${size.lowest.toFixed(1)} to ${size.highest.toFixed(1)} m, ${size.blocks} blocks`,
    `bodies  ${report.bodies.map(bodyLine).join('; ')}`,
    reach.reached ? `reach   objective reached: ${reach.length.toFixed(1)} m, ${Math.round(reach.walkTime)} s at a walk` : `reach   ${reach.stop!.message}`,
    `cost    ${cost.frame.frame.toFixed(1)} of ${cost.budget.toFixed(1)} ms on ${cost.device}, ` +
      `${cost.frame.governs}-bound, estimate; ${cost.drawn.triangles} triangles, ${cost.drawn.draws} draws (${cost.view})`,
    `snags   ${snags.filter((s) => !s.accepted).length}${snags.some((s) => s.accepted) ? `, ${snags.filter((s) => s.accepted).length} accepted` : ''}`,
    ...snags.map((s) => (s.accepted ? `  accepted, because ${s.accepted}: ${s.message}.` : `  ${s.severity}: ${s.message}. Mend: ${s.mend}.`)),
  ].join('\n');
  return { report, text, exit: cost.over || snags.some((s) => s.severity === 'blocking' && !s.accepted) ? 1 : 0 };
};

const bodyLine = ({ name, player, derived }: Check['bodies'][number]): string =>
  `${name}${player ? ' (player)' : ''}: jump reach ${derived.reach.toFixed(2)} m, across in ${Math.round(derived.crossWalk)} s`;
