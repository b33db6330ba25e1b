import { gapRange, gapText, nearestGap } from '@rammer/core/block/gap';
import { blockMetrics } from '@rammer/core/block/metrics';
import { heightAt } from '@rammer/core/earth/sample';
import { isMade } from '@rammer/core/level/instance';
import { ofKind, playerBody } from '@rammer/core/level/level';
import type { Block, Gap } from '@rammer/core/level/objects';
import { add } from '@rammer/core/num/vec';
import type { Session } from '../../store/session';
import { newId, nextName } from '../../store/names';
import type { LevelView } from '../../view/LevelView';

const MARK = { good: 'var(--lichen-text, var(--ink))', warning: 'var(--ochre-text)', bad: 'var(--oxide)' };
const WANTS = ['easy', 'tight', 'impossible'] as const;

/** Declares a gap between two blocks, changes what it is declared, or takes the declaration away where it is the same again. */
function declare(session: Session, from: string, to: string, want: Gap['want']): void {
  const known = ofKind(session.level, 'gap').find((g) => (g.from === from && g.to === to) || (g.from === to && g.to === from));
  if (!known)
    session.commit(
      { kind: 'add', objects: [{ id: newId('gap'), version: 1, kind: 'gap', name: nextName(session.level, 'gap'), from, to, want }] },
      `declare the gap ${want}`,
    );
  else if (known.want === want) session.commit({ kind: 'remove', ids: [known.id] }, `declare ${known.name} no more`);
  else session.commit({ kind: 'set', patches: [{ id: known.id, set: { want } }] }, `declare ${known.name} ${want}`);
}

/** What the block is to the player's body, over its top: "tight: 0.92 m wide". Its gaps can be declared and are checked from then on. */
export function Metrics({ session, view, block }: { session: Session; view: LevelView; block: Block }) {
  const body = playerBody(session.level);
  const { scene } = session;
  const around = {
    built: scene.solids.built,
    blocks: scene.solids.all,
    meshes: scene.walk.meshes,
    ground: (x: number, z: number) => heightAt(session.terrain, x, z),
  };
  const near = nearestGap(block, scene.solids.all, body.figures, around);
  const own = blockMetrics(block, body.figures);
  const declared = ofKind(session.level, 'gap').filter((g) => g.from === block.id || g.to === block.id);
  // Declared gaps first; the nearest one where it is not among them.
  const gaps = declared.flatMap((g) => {
    const [a, b] = [session.level.object(g.from), session.level.object(g.to)];
    const range = a?.kind === 'block' && b?.kind === 'block' && !a.out && !b.out ? gapRange(a, b, around) : undefined;
    if (!range) return [];
    const { verdict, text } = gapText(body.figures, range, around, new Set([g.from, g.to]));
    // Up and down are not alike: a gap is judged the way it was declared.
    const [word, other] = g.from === block.id ? ['to', b!] : ['from', a!];
    return [
      {
        to: other.id,
        text: `gap ${word} ${other.name} ${text}`,
        want: g.want as Gap['want'] | undefined,
        good: verdict === g.want,
        verdict: verdict === g.want ? ('good' as const) : ('bad' as const),
      },
    ];
  });
  if (near && !gaps.some((g) => g.to === near.to)) gaps.push({ to: near.to, text: near.text, want: undefined, good: true, verdict: near.verdict as 'good' });
  const at = view.project(add(block.at, [0, block.size[1], 0]));
  const lines = own.length + gaps.length * 2;
  if (lines === 0 || !at) return null;
  // Kept inside the view, and clear of the handle that stands up from the middle.
  const middle = view.project(add(block.at, [0, block.size[1] / 2, 0]));
  const left = Math.min(Math.max(at.x, 130), view.width - 130);
  const top = Math.min(Math.max(Math.min(at.y - 20, (middle?.y ?? at.y) - 88), 28 + lines * 20), view.height - 12);
  const line = (text: string, verdict: keyof typeof MARK) => (
    <span key={text} className="fig whitespace-nowrap text-[13px] leading-[18px]" data-verdict={verdict} style={{ color: MARK[verdict] }}>
      {verdict === 'good' ? '' : verdict === 'bad' ? '\u2715 ' : '\u25b2 '}
      {text}
    </span>
  );
  return (
    <div
      className="absolute grid border px-1.5 py-0.5"
      style={{ left, top, transform: 'translate(-50%, -100%)', background: 'var(--raised)', borderColor: 'var(--edge)' }}
      data-testid="metrics"
      role="note"
      aria-label={`for ${body.name}`}
    >
      {own.map((f) => line(f.text, f.verdict))}
      {gaps.map((g) => (
        <span key={g.to} className="grid">
          {line(g.text, g.verdict)}
          {session.writable && !isMade(g.to) && !isMade(block.id) && (
            <span
              className="pointer-events-auto flex items-center gap-1 pb-0.5"
              role="group"
              aria-label="the gap is meant to be"
              onPointerDown={(e) => e.stopPropagation()}
              onPointerMove={(e) => e.stopPropagation()}
              onPointerUp={(e) => e.stopPropagation()}
            >
              <span className="label text-[12px]">meant</span>
              {WANTS.map((w) => (
                <button
                  key={w}
                  className="act fig"
                  style={{ padding: '0 5px', minHeight: 20, fontSize: 12 }}
                  aria-pressed={g.want === w}
                  onClick={() => declare(session, block.id, g.to, w)}
                >
                  {w}
                </button>
              ))}
            </span>
          )}
        </span>
      ))}
    </div>
  );
}
