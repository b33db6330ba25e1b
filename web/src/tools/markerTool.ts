import { marker, ofKind, playerBody } from '@rammer/core/level/level';
import type { Marker } from '@rammer/core/level/objects';
import { useUi } from '../store/ui';
import { newId, nextName } from '../store/names';
import type { Tool, ToolContext } from './tool';

/** Sets the entry, the objective or a threat where the pointer clicks; there is one of each but of threats. */
export function markerTool(which: Marker['marker'], { session }: ToolContext): Tool {
  return {
    begin(e) {
      if (!e.pick) return false;
      const at = e.pick.point.map((v) => Math.round(v * 1000) / 1000);
      if (which === 'threat') {
        const body = ofKind(session.level, 'body').find((b) => b.id !== playerBody(session.level).id);
        if (!body) {
          session.say('add a second body in stage Brief first: a threat moves as one', true);
          return true;
        }
        if (
          session.commit(
            {
              kind: 'add',
              objects: [
                {
                  id: newId('threat'),
                  version: 1,
                  kind: 'marker',
                  marker: 'threat',
                  name: nextName(session.level, body.name),
                  at: at as [number, number, number],
                  turn: 0,
                  body: body.id,
                },
              ],
            },
            `set a threat, ${body.name}`,
          )
        )
          useUi.getState().setTool('select');
        return true;
      }
      const old = marker(session.level, which);
      const done = old
        ? session.commit({ kind: 'set', patches: [{ id: old.id, set: { at } }] }, `move the ${which}`)
        : session.commit(
            { kind: 'add', objects: [{ id: which, version: 1, kind: 'marker', marker: which, name: which, at: at as [number, number, number], turn: 0 }] },
            `set the ${which}`,
          );
      if (done) useUi.getState().setTool('select');
      return true;
    },
    move() {},
    end() {},
    cancel() {},
    cursor() {},
  };
}
