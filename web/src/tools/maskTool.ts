import { outlineFault } from '@rammer/core/level/kinds/lift';
import type { Point2 } from '@rammer/core/num/outline';
import { useEarth } from '../store/earthDraft';
import { useUi } from '../store/ui';
import { drawTool } from './drawTool';
import { chosenLift, setLift } from './lifts';
import type { Tool, ToolContext } from './tool';

/** Soft edge of a mask just drawn, metres. */
const SOFT = 2;

/** Draws the outline inside which the chosen lift counts. */
export const maskTool = (context: ToolContext): Tool =>
  drawTool(context, {
    what: 'mask',
    closed: true,
    done(corners) {
      const { session } = context;
      const ui = useUi.getState();
      const earth = useEarth.getState();
      const lift = chosenLift(session, earth.lift);
      const line = corners.map(([x, , z]): Point2 => [x, z]);
      const fault = outlineFault(line);
      if (!lift || fault) {
        session.say(lift ? `${fault}; Backspace takes a corner back` : 'choose a lift first', true);
        return false;
      }
      if (setLift(session, lift, { mask: { ...lift.mask, outline: { line, soft: lift.mask?.outline?.soft ?? SOFT } } }, `draw the mask of ${lift.name}`))
        ui.setTool('select');
      return true;
    },
  });
