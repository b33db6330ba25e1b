import { marker } from '@rammer/core/level/level';
import type { Marker } from '@rammer/core/level/objects';
import { useUi } from '../store/ui';
import type { Tool, ToolContext } from './tool';

/** Sets the entry or the objective where the pointer clicks; there is one of each. */
export function markerTool(which: Marker['marker'], { session }: ToolContext): Tool {
  return {
    begin(e) {
      if (!e.pick) return false;
      const at = e.pick.point.map((v) => Math.round(v * 1000) / 1000);
      const old = marker(session.level, which);
      const done = old
        ? session.commit({ kind: 'set', patches: [{ id: old.id, set: { at } }] }, `move the ${which}`)
        : session.commit({ kind: 'add', objects: [{ id: which, version: 1, kind: 'marker', marker: which, name: which, at: at as [number, number, number], turn: 0 }] }, `set the ${which}`);
      if (done) useUi.getState().setTool('select');
      return true;
    },
    move() {},
    end() {},
    cancel() {},
    cursor() {},
  };
}
