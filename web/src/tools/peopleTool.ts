import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import { placeAt } from './placing';
import { mm } from './things';
import type { Tool, ToolContext, ToolEvent, ToolMark } from './tool';
import type { Vec3 } from '@rammer/core/num/vec';

/** Sets a row of figures of the player's body, standing, crouched, reaching up and at a jump's apex, facing the eye. */
export function peopleTool(context: ToolContext): Tool {
  const { session, view } = context;
  let over: Vec3 | undefined;
  const turn = (): number => (view.pose.view === 'plan' ? 0 : Math.round(view.pose.yaw / 15) * 15);
  return {
    begin(e: ToolEvent) {
      const place = placeAt(context, e);
      if (!place) return false;
      const at = place.at.map(mm) as Vec3;
      const name = nextName(session.level, 'people');
      if (
        session.commit(
          { kind: 'add', objects: [{ id: newId('people'), version: 1, kind: 'people', name, at, turn: ((((turn() + 180) % 360) + 360) % 360) - 180 }] },
          `set ${name}`,
        )
      )
        useUi.getState().setTool('select');
      return true;
    },
    move() {},
    end() {},
    cancel() {
      over = undefined;
    },
    cursor(e) {
      over = placeAt(context, e)?.at;
    },
    marks: (): ToolMark[] => (over ? [{ kind: 'label', at: over, text: 'people from here' }] : []),
  };
}
