import type { PointerEvent } from 'react';
import { levelLine, relined } from '@rammer/core/block/drawn';
import { levelToBlock } from '@rammer/core/block/solid';
import { lineFault } from '@rammer/core/level/drawn';
import type { Block } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { snapTo, useUi } from '../../store/ui';
import { setBlocks } from '../blockActions';
import { nearCorner } from '../placing';
import { CornerHandles } from './CornerHandles';
import type { LevelView } from '../../view/LevelView';
import { rayPlane } from '../../view/project';

interface Props {
  session: Session;
  view: LevelView;
  block: Block;
  at(e: PointerEvent): [number, number];
  preview(next?: Map<string, Block>): void;
}

/** Corners of a drawn block, dragged in plan. */
export function LineHandles({ session, view, block, at, preview }: Props) {
  const ownLine = (line: readonly Vec3[]) => line.map((p) => levelToBlock(block, p));
  return (
    <CornerHandles
      view={view}
      corners={levelLine(block)}
      loop={block.closed || block.shape === 'slab'}
      what={block.shape}
      at={at}
      refuse={(why) => session.say(why, true)}
      place={(x, y, from, free) => {
        const p = rayPlane(view.ray(x, y), from, [0, 1, 0]);
        if (!p) return undefined;
        const { snap } = useUi.getState();
        const under = view.pick(x, y, new Set([block.id]));
        const near = free || !under ? undefined : nearCorner({ session, view }, under.point);
        return near ? [near.at[0], p[1], near.at[2]] : [snapTo(p[0], snap), p[1], snapTo(p[2], snap)];
      }}
      preview={(line) => {
        if (!line) {
          preview(undefined);
          return;
        }
        const next = { ...block, line: ownLine(line) };
        if (!lineFault(next)) preview(new Map([[block.id, { ...next, ...relined(next, next.line) }]]));
      }}
      commit={(line, verb) => {
        const own = ownLine(line);
        const fault = lineFault({ ...block, line: own });
        if (fault) session.say(`${fault}; its last shape is kept`, true);
        else setBlocks(session, [block], () => relined(block, own), verb);
      }}
    />
  );
}
