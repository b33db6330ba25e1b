import type { RefObject } from 'react';
import { ofKind } from '@rammer/core/level/level';
import { heightAt } from '@rammer/core/earth/sample';
import type { Session } from '../../store/session';
import { useSession } from '../../store/useSession';
import { habitatAtHand, usePlanting } from '../../store/planting';
import { useUi } from '../../store/ui';
import { drapedPath } from '../../view/draped';
import type { LevelView } from '../../view/LevelView';
import { setHabitat } from '../habitats';
import { OutlineHandles } from './OutlineHandles';
import { useDrawnFrame } from '../../view/useFrame';

/**
 * Lines that lie on the ground: the play bounds in Block and Play and the outlines of the habitat at hand in Grow, their corners to be
 * dragged while nothing is selected, and the kept line the section runs along.
 */
export function Lines({ session, view, frame }: { session: Session; view: LevelView; frame: RefObject<HTMLDivElement | null> }) {
  useDrawnFrame(view);
  useSession(session);
  const stage = useUi((s) => s.stage);
  const idle = useUi((s) => s.tool === 'select' && s.selection.length === 0);
  const kept = useUi((s) => s.sectionLine);
  const own = kept ? session.level.object(kept) : undefined;
  const bounds = stage === 'block' || stage === 'play' ? ofKind(session.level, 'playBounds') : [];
  const listed = usePlanting((s) => s.listed);
  usePlanting((s) => s.habitat);
  // A tool that draws one shows it itself.
  const habitat = stage === 'grow' && listed === 'habitats' && idle ? habitatAtHand(session.level) : undefined;
  const ends =
    own?.kind === 'section'
      ? (
          [
            [own.from, 'A'],
            [own.to, 'B'],
          ] as const
        ).flatMap(([[x, z], letter]) => {
          const p = view.project([x, heightAt(session.terrain, x, z) + 0.1, z]);
          return p ? [{ p, letter }] : [];
        })
      : [];
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" data-testid="lines" aria-hidden>
      {bounds.map((r) => (
        <OutlineHandles
          key={r.id}
          session={session}
          view={view}
          frame={frame}
          outline={r.outline}
          what="play bounds"
          dash="12 3 2 3"
          colour="var(--ink)"
          open={idle && session.writable}
          commit={(outline, verb) => session.commit({ kind: 'set', patches: [{ id: r.id, set: { outline } }] }, `${verb} the rim`)}
        />
      ))}
      {habitat?.area === 'drawn' &&
        habitat.outlines.map((outline, i) => (
          <OutlineHandles
            key={`${habitat.id}${i}`}
            session={session}
            view={view}
            frame={frame}
            outline={outline}
            what={`outline ${i + 1} of ${habitat.name}`}
            dash="2 5"
            colour="var(--ink)"
            open={session.writable}
            commit={(to, verb) => setHabitat(session, habitat, { outlines: habitat.outlines.map((o, k) => (k === i ? to : o)) }, `${verb} ${habitat.name}`)}
          />
        ))}
      {own?.kind === 'section' && (
        <g fill="none">
          <path d={drapedPath(view, session.terrain, [own.from, own.to], false)} stroke="var(--raised)" strokeWidth={4} />
          <path d={drapedPath(view, session.terrain, [own.from, own.to], false)} stroke="var(--ink)" strokeWidth={1.5} strokeDasharray="16 4 4 4" />
        </g>
      )}
      {ends.map(({ p, letter }) => (
        <g key={letter}>
          <circle cx={p.x} cy={p.y} r={9} fill="var(--raised)" stroke="var(--ink)" strokeWidth={1.5} />
          <text x={p.x} y={p.y + 4.5} textAnchor="middle" className="fig" fontSize={13} fontWeight={600} fill="var(--ink)">
            {letter}
          </text>
        </g>
      ))}
    </svg>
  );
}
