import { useEffect } from 'react';
import { heightAt } from '@rammer/core/earth/sample';
import { marker, playerBody, presentMarkers } from '@rammer/core/level/level';
import { presentOf } from '@rammer/core/level/present';
import { stancesOf } from '@rammer/core/body/derived';
import { add, type Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { asBlock } from '../tools/asBlock';
import { figurePlace } from '../view/People';
import { things } from '../tools/things';
import { useUi } from '../store/ui';
import { bareMiddle } from '../view/firstSight';
import type { LevelView } from '../view/LevelView';

/** From the figure's side to the staff where nothing else stands, metres. */
const STAFF_BESIDE = 0.6;

/** The player's figure beside the first thing selected, and at the entry; threats where they stand. */
export function usePeople(session: Session, view: LevelView | undefined, walking: boolean) {
  const selection = useUi((s) => s.selection);
  useEffect(() => {
    if (!view) return;
    const place = () => {
      const figures = playerBody(session.level).figures;
      const wanted = new Map<string, { figures: typeof figures; at: Vec3; turn: number }>();
      const entry = marker(session.level, 'entry');
      if (entry && !walking) wanted.set('entry', { figures, at: entry.at, turn: entry.turn });
      for (const m of presentMarkers(session.level)) {
        if (m.hidden) continue;
        const body = m.marker === 'threat' && m.body ? session.level.object(m.body) : undefined;
        if (body?.kind === 'body') wanted.set(m.id, { figures: body.figures, at: m.at, turn: m.turn });
      }
      for (const row of presentOf(session.level.objects).of('people')) {
        if (row.hidden) continue;
        const named = row.body ? session.level.object(row.body) : undefined;
        const own = named?.kind === 'body' ? named.figures : figures;
        stancesOf(own).forEach((s, i) =>
          wanted.set(`${row.id}~${s.name}`, { figures: { ...own, height: s.height }, at: add(figurePlace(row, own, i), [0, s.feet, 0]), turn: row.turn }),
        );
      }
      // Where nothing stands yet the figure and the staff beside it say how large everything is.
      const bare = walking ? undefined : bareMiddle(session);
      if (bare) wanted.set('bare', { figures, at: bare, turn: 0 });
      const [sx, sz] = bare ? [bare[0] + figures.radius + STAFF_BESIDE, bare[2]] : [0, 0];
      view.aids.setHome(bare && [sx, heightAt(session.terrain, sx, sz), sz]);
      const thing = things(session, selection.slice(0, 1))[0];
      if (thing) {
        const block = asBlock(session, thing);
        const x = block.at[0] + Math.hypot(block.size[0], block.size[2]) / 2 + 0.6;
        wanted.set('selected', { figures, at: [x, heightAt(session.terrain, x, block.at[2]), block.at[2]], turn: 0 });
      }
      view.aids.setFigures(wanted);
    };
    place();
    return session.subscribe(place);
  }, [session, view, selection, walking]);
}
