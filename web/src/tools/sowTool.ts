import { sowDab } from '@rammer/core/growth/sow';
import { speciesOf } from '@rammer/core/level/level';
import { useGround } from '../store/groundDraft';
import { usePlanting } from '../store/planting';
import { strokeTool, withStroke } from './strokeTool';
import type { Tool, ToolContext, ToolEvent } from './tool';

/** Sows a species to a multiple of its density, or clears it or all; Shift takes what was sown or cleared back to the rule. */
export function sowTool(which: 'sow' | 'clear', context: ToolContext): Tool {
  const { session } = context;
  const goal = (e: ToolEvent | undefined) => (e?.shift ? 0 : which === 'sow' ? usePlanting.getState().sowTo : usePlanting.getState().leaves - 1);
  const chosen = () => {
    const list = speciesOf(session.level);
    const { species, clearAll } = usePlanting.getState();
    return which === 'clear' && clearAll ? list : list.filter((s) => s.id === (species ?? list[0]?.id));
  };
  return strokeTool(context, {
    refuse: () => (chosen().length === 0 ? 'add a species first: pick a plant in the library' : undefined),
    dab(stroke, [x, z], e) {
      const { radius, hardness, strength } = useGround.getState().groundBrush;
      return sowDab(
        stroke,
        session.level.tiles,
        chosen().map((s) => s.id),
        { radius, hardness, strength, target: goal(e) },
        { x, z },
      );
    },
    preview(stroke) {
      session.scene.plants.regrow(stroke && withStroke(stroke, session.level.tiles));
    },
    label: (e) => {
      const list = chosen();
      const name = list.length === 1 ? list[0].name : 'all species';
      return e?.shift ? `${name} back to its rule` : which === 'sow' ? `sow ${name}` : `clear ${name}`;
    },
    word: () => {
      const list = chosen();
      return `${which} ${list.length === 1 ? list[0].name : 'all'}`;
    },
  });
}
