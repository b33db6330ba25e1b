import { PanelLeftClose, PanelLeftOpen } from 'lucide-react';
import { useRef, type ReactNode } from 'react';
import { settingsOf } from '@rammer/core/level/level';
import type { Session } from '../store/session';
import { STAGES, useUi } from '../store/ui';
import { RedropOffer } from './RedropOffer';

/**
 * The panel beside the staff: header, and what the stage brings. Its edge drags from 240 to 420 px.
 *
 * @param over opened, it lies over the view, because there is no room beside it
 * @param whole as wide as the screen, and never folded
 */
export function Bench({ session, over = false, whole = false, children }: { session: Session; over?: boolean; whole?: boolean; children: ReactNode }) {
  const stage = useUi((s) => s.stage);
  const folded = useUi((s) => s.benchFolded);
  const width = useUi((s) => s.benchWidth);
  const drag = useRef<{ x: number; w: number }>(undefined);
  const s = settingsOf(session.level);
  const set = useUi.setState;
  if (folded && !whole) {
    return (
      <aside
        className="w-12 shrink-0 border-r pt-1.5 text-center"
        style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
        aria-label="bench, folded"
      >
        <button className="icon-btn" aria-label="open the bench" onClick={() => set({ benchFolded: false })}>
          <PanelLeftOpen size={16} />
        </button>
      </aside>
    );
  }
  const clamp = (w: number) => Math.min(420, Math.max(240, w));
  return (
    <aside
      className={`flex shrink-0 flex-col border-r ${over && !whole ? 'absolute bottom-7 top-11 z-20' : 'relative min-h-0 flex-1'}`}
      style={{ ...(whole ? {} : over ? { left: narrowLeft(), width } : { width, flex: 'none' }), background: 'var(--raised)', borderColor: 'var(--ink)' }}
      aria-label="bench"
    >
      <div className="flex h-9 shrink-0 items-center gap-2 border-b pl-3 pr-1" style={{ borderColor: 'var(--ink)' }}>
        <h1 className="fig m-0 text-[19px] font-semibold">{STAGES.find((x) => x.id === stage)!.name}</h1>
        <span className="label ml-auto truncate">
          {s.tilesX} x {s.tilesZ} tiles, {s.spacing} m apart
        </span>
        {!whole && (
          <button className="icon-btn" aria-label="fold the bench" onClick={() => set({ benchFolded: true })}>
            <PanelLeftClose size={16} />
          </button>
        )}
      </div>
      <div className="flex min-h-0 flex-1 flex-col">{children}</div>
      <RedropOffer session={session} />
      {!whole && (
        <div
          role="separator"
          aria-orientation="vertical"
          aria-label="width of the bench"
          aria-valuenow={width}
          aria-valuemin={240}
          aria-valuemax={420}
          tabIndex={0}
          className="absolute inset-y-0 -right-1 z-10 w-2 cursor-col-resize"
          onKeyDown={(e) => {
            if (e.key === 'ArrowLeft' || e.key === 'ArrowRight') {
              e.stopPropagation();
              set({ benchWidth: clamp(width + (e.key === 'ArrowRight' ? 16 : -16)) });
            }
          }}
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            drag.current = { x: e.clientX, w: width };
          }}
          onPointerMove={(e) => {
            if (drag.current) set({ benchWidth: clamp(drag.current.w + e.clientX - drag.current.x) });
          }}
          onPointerUp={() => {
            drag.current = undefined;
          }}
        />
      )}
    </aside>
  );
}

/** Beside the staff where there is one at the side. */
const narrowLeft = (): number => (innerWidth < 820 ? 0 : 64);
