import { Canvas, useThree } from '@react-three/fiber';
import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { densityAt } from '@rammer/core/growth/densityAt';
import type { Session } from '../store/session';
import { usePointer } from '../store/pointer';
import { useUi } from '../store/ui';
import { makeTool } from '../tools';
import type { Tool, ToolEvent } from '../tools/tool';
import type { WalkMode } from '../tools/walkMode';
import { LevelView } from '../view/LevelView';
import { People } from '../view/People';
import { LaidLineHandles } from '../tools/handles/LaidLineHandles';
import { LiftHandles } from '../tools/handles/LiftHandles';
import { Lines } from '../tools/handles/Lines';
import { Marks } from '../tools/handles/Marks';
import { SwapRings } from '../tools/handles/SwapRings';
import { flyBy, lookBy, orbitBy, panBy, zoomBy } from '../view/rig';
import { Motion } from '../tools/handles/Motion';
import { Notes } from '../tools/handles/Notes';
import { OverlayLegend } from '../view/OverlayLegend';
import { ReferencePictures } from '../view/ReferencePictures';
import { Selection } from '../tools/handles/Selection';
import { Measures } from '../view/Measures';
import { Fingers } from '../view/touch';
import { StillBlockout } from '../view/StillBlockout';
import { Voids } from '../view/Voids';
import { WaterMarks } from '../view/WaterMarks';

interface Props {
  session: Session;
  walk?: WalkMode;
  onReady(view: LevelView | undefined): void;
  view?: LevelView;
}

/** Hands fiber's renderer to our own view; nothing of the level is a React element. */
function Bridge({ session, onReady }: { session: Session; onReady(view: LevelView | undefined): void }) {
  const gl = useThree((s) => s.gl);
  const size = useThree((s) => s.size);
  const view = useRef<LevelView>(undefined);
  useEffect(() => {
    const made = new LevelView(gl, session);
    view.current = made;
    onReady(made);
    return () => {
      onReady(undefined);
      made.dispose();
    };
  }, [gl, session, onReady]);
  useEffect(() => {
    view.current?.resize(size.width, size.height);
  }, [size.width, size.height, gl, session]);
  return null;
}

type Drag = { kind: 'tool' } | { kind: 'orbit' | 'pan' | 'look' | 'walk-look' } | undefined;

export function ViewPane({ session, view, walk, onReady }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const mode = useUi((s) => s.mode);
  const toolId = useUi((s) => s.tool);
  const tool = useRef<Tool>(undefined);
  const [, redraw] = useState(0);
  const drag = useRef<Drag>(undefined);
  const fingers = useRef(new Fingers());

  useEffect(() => {
    if (!view) return;
    const made = makeTool(toolId, { session, view });
    tool.current = made;
    return () => made.cancel();
  }, [toolId, session, view]);

  useToolKeys(tool, () => redraw((n) => n + 1));
  useFly(view, drag, mode);

  useEffect(() => {
    const el = frame.current;
    if (!el || !view) return;
    const wheel = (e: WheelEvent) => {
      e.preventDefault();
      if (drag.current?.kind === 'look') {
        flySpeed.value = Math.min(80, Math.max(1, flySpeed.value * (e.deltaY < 0 ? 1.25 : 0.8)));
        return;
      }
      if (walk) return;
      const box = el.getBoundingClientRect();
      view.setPose(zoomBy(view.pose, 1.0015 ** e.deltaY, view.pick(e.clientX - box.left, e.clientY - box.top)?.point));
    };
    el.addEventListener('wheel', wheel, { passive: false });
    return () => el.removeEventListener('wheel', wheel);
  }, [view, walk]);

  const event = (e: PointerEvent): ToolEvent => {
    const box = frame.current!.getBoundingClientRect();
    const x = e.clientX - box.left;
    const y = e.clientY - box.top;
    return {
      x,
      y,
      pick: view!.pick(x, y),
      shift: e.shiftKey,
      alt: e.altKey,
      ctrl: e.ctrlKey || e.metaKey,
      ...(e.pointerType === 'pen' && e.pressure > 0 ? { pressure: e.pressure } : {}),
    };
  };

  const hover = (te: ToolEvent) => {
    const p = te.pick;
    usePointer.setState({
      hover: p
        ? {
            point: p.point,
            slope: p.slope,
            ground: p.ground,
            host: p.host.kind === 'terrain' ? 'terrain' : p.host.name,
            plants: densityAt(session.scene.plants.grown, p.point[0], p.point[2]),
          }
        : undefined,
    });
    view!.aids.setStaff(p && useUi.getState().mode === 'orbit' ? p.point : undefined);
  };

  const at = (e: PointerEvent): [number, number] => {
    const box = frame.current!.getBoundingClientRect();
    return [e.clientX - box.left, e.clientY - box.top];
  };

  /** A tap of one finger picks; everything else that changes the level is for a pen or a mouse. */
  const tap = (e: PointerEvent) => {
    if (toolId !== 'select') return;
    const te = event(e);
    hover(te);
    if (tool.current?.begin(te)) tool.current.end(te);
    redraw((n) => n + 1);
  };

  const down = (e: PointerEvent) => {
    if (!view) return;
    if (e.pointerType === 'touch') {
      frame.current!.setPointerCapture(e.pointerId);
      fingers.current.press(e.pointerId, at(e), e.timeStamp);
      return;
    }
    frame.current!.setPointerCapture(e.pointerId);
    (frame.current!.querySelector('canvas') as HTMLElement | null)?.focus({ preventScroll: true });
    if (e.button === 0) {
      const te = event(e);
      hover(te);
      if (tool.current?.begin(te)) drag.current = { kind: 'tool' };
      else drag.current = walk ? { kind: 'walk-look' } : { kind: view.pose.view === 'plan' ? 'pan' : 'orbit' };
    } else if (walk) drag.current = { kind: 'walk-look' };
    else if (e.button === 1) drag.current = { kind: e.shiftKey || view.pose.view === 'plan' ? 'pan' : 'orbit' };
    else drag.current = { kind: view.pose.view === 'plan' ? 'pan' : 'look' };
    redraw((n) => n + 1);
  };

  const move = (e: PointerEvent) => {
    if (!view) return;
    if (e.pointerType === 'touch') {
      if (walk) walk.look(e.movementX, e.movementY);
      else view.setPose(fingers.current.move(e.pointerId, at(e), view.pose, 1 / view.pixelsPerMetre(view.pose.target)));
      return;
    }
    const d = drag.current;
    if (!d || d.kind === 'tool') {
      const te = event(e);
      hover(te);
      if (d) tool.current?.move(te);
      else tool.current?.cursor(te);
      view.request();
      redraw((n) => n + 1);
      return;
    }
    if (d.kind === 'orbit') view.setPose(orbitBy(view.pose, e.movementX, e.movementY));
    else if (d.kind === 'look') view.setPose(lookBy(view.pose, e.movementX, e.movementY));
    else if (d.kind === 'pan') view.setPose(panBy(view.pose, e.movementX, e.movementY, 1 / view.pixelsPerMetre(view.pose.target)));
    else walk?.look(e.movementX, e.movementY);
  };

  const up = (e: PointerEvent) => {
    if (!view) return;
    if (e.pointerType === 'touch') {
      if (fingers.current.lift(e.pointerId, at(e), e.timeStamp)) tap(e);
      return;
    }
    if (drag.current?.kind === 'tool') tool.current?.end(event(e));
    drag.current = undefined;
    redraw((n) => n + 1);
  };

  return (
    <div
      ref={frame}
      className="relative h-full w-full overflow-hidden"
      data-testid="view"
      data-mode={mode}
      style={{ cursor: toolId === 'select' ? 'default' : 'crosshair', touchAction: 'none' }}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      onContextMenu={(e) => e.preventDefault()}
      onPointerCancel={() => {
        tool.current?.cancel();
        drag.current = undefined;
        fingers.current.clear();
      }}
      onPointerLeave={() => {
        if (!drag.current) {
          usePointer.setState({ hover: undefined });
          view?.aids.setStaff(undefined);
        }
      }}
    >
      <Canvas
        frameloop="never"
        flat
        gl={{ antialias: false, alpha: false, powerPreference: 'high-performance', stencil: false }}
        tabIndex={-1}
        style={{ position: 'absolute', inset: 0 }}
        resize={{ debounce: 0 }}
        onCreated={({ gl }) => {
          gl.domElement.tabIndex = 0;
          gl.domElement.setAttribute('aria-label', 'the level; arrow keys turn the view, plus and minus move nearer and farther');
          gl.domElement.setAttribute('role', 'application');
        }}
      >
        <Bridge session={session} onReady={onReady} />
      </Canvas>
      {view && <ReferencePictures session={session} view={view} />}
      {view && <Marks session={session} view={view} tool={tool} />}
      {view && <Voids session={session} view={view} />}
      {view && <Lines session={session} view={view} frame={frame} />}
      {view && <LiftHandles session={session} view={view} frame={frame} />}
      {view && <LaidLineHandles session={session} view={view} frame={frame} />}
      {view && <SwapRings session={session} view={view} />}
      {view && <WaterMarks session={session} view={view} />}
      {view && <People session={session} view={view} />}
      {view && <Motion session={session} view={view} />}
      {view && <Measures session={session} view={view} />}
      {view && <Selection session={session} view={view} />}
      {view && <Notes session={session} view={view} />}
      {view && <OverlayLegend session={session} view={view} />}
      <StillBlockout session={session} />
    </div>
  );
}

/** Metres a second of flying; the wheel changes it while the right button is held. */
const flySpeed = { value: 14 };

/** W A S D, with Q and E for down and up, while the right button is held. */
function useFly(view: LevelView | undefined, drag: RefObject<Drag>, mode: string) {
  useEffect(() => {
    if (!view || mode !== 'orbit') return;
    const held = new Set<string>();
    let raf = 0;
    let last = 0;
    const tick = (now: number) => {
      const dt = Math.min(0.25, (now - last) / 1000);
      last = now;
      const axis = (plus: string, minus: string) => (held.has(plus) ? 1 : 0) - (held.has(minus) ? 1 : 0);
      const s = flySpeed.value * dt;
      if (drag.current?.kind === 'look' && held.size > 0)
        view.setPose(flyBy(view.pose, axis('KeyD', 'KeyA') * s, axis('KeyE', 'KeyQ') * s, axis('KeyW', 'KeyS') * s));
      raf = held.size > 0 ? requestAnimationFrame(tick) : 0;
    };
    const onDown = (e: KeyboardEvent) => {
      if (drag.current?.kind !== 'look' || !/^Key[WASDQE]$/.test(e.code)) return;
      e.preventDefault();
      e.stopImmediatePropagation();
      held.add(e.code);
      if (!raf) {
        last = performance.now();
        raf = requestAnimationFrame(tick);
      }
    };
    const onUp = (e: KeyboardEvent) => held.delete(e.code);
    addEventListener('keydown', onDown, true);
    addEventListener('keyup', onUp, true);
    return () => {
      cancelAnimationFrame(raf);
      removeEventListener('keydown', onDown, true);
      removeEventListener('keyup', onUp, true);
    };
  }, [view, drag, mode]);
}

/** Typed characters go to the tool at work (a height, say) before they are shortcuts. */
function useToolKeys(tool: RefObject<Tool | undefined>, changed: () => void) {
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const field = (e.target as HTMLElement | null)?.closest?.('input, textarea, select, [contenteditable]');
      if (field || e.ctrlKey || e.metaKey) return;
      if (tool.current?.key?.(e.key)) {
        e.preventDefault();
        e.stopImmediatePropagation();
        changed();
      }
    };
    addEventListener('keydown', onKey, true);
    return () => removeEventListener('keydown', onKey, true);
  });
}
