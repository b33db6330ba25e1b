import { sowDab } from '@rammer/core/growth/sow';
import { speciesOf } from '@rammer/core/level/level';
import { useGround } from '../store/groundDraft';
import { usePlanting } from '../store/planting';
import { strokeTool, withStroke } from './strokeTool';
import type { Tool, ToolContext, ToolEvent } from './tool';

/**
 * Sows what is picked, each species to a multiple of its own density, so that several are a mix; or clears it or all. Shift takes what
 * was sown or cleared back to the rule.
 */
export function sowTool(which: 'sow' | 'clear', context: ToolContext): Tool {
  const { session } = context;
  const goal = (e: ToolEvent | undefined) => (e?.shift ? 0 : which === 'sow' ? usePlanting.getState().sowTo : usePlanting.getState().leaves - 1);
  const chosen = () => {
    const list = speciesOf(session.level);
    const { species, also, clearAll } = usePlanting.getState();
    return which === 'clear' && clearAll ? list : list.filter((s) => s.id === (species ?? list[0]?.id) || also.includes(s.id));
  };
  const named = (): string => {
    const list = chosen();
    if (list.length === 1) return list[0].name;
    return list.length === speciesOf(session.level).length ? 'all species' : `${list.length} species`;
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
      const name = named();
      return e?.shift ? `${name} back to its rule` : which === 'sow' ? `sow ${name}` : `clear ${name}`;
    },
    word: () => `${which} ${named()}`,
  });
}
