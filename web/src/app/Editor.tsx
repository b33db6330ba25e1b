import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { marker, ofKind, playerBody } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import { heightAt } from '@rammer/core/earth/sample';
import { overviewPose } from '@rammer/core/snag/checkLevel';
import type { Vec3 } from '@rammer/core/num/vec';
import { Session } from '../store/session';
import { READINGS, STAGES, useUi, type Reading, type StageId, type ViewMode } from '../store/ui';
import { useWalkArea } from '../store/walkArea';
import { startWalk, type WalkMode } from '../store/walkMode';
import { duplicateBlocks, dropBlocks, hideBlocks, moveBlocks, removeBlocks, selectedBlocks } from '../tools/blockActions';
import type { LevelView } from '../view/LevelView';
import { changeView, orbitBy, panBy, poseFromText, poseToText, zoomBy } from '../view/rig';
import { ViewPane } from '../view/ViewPane';
import { Section } from '../section/Section';
import { Wall } from '../wall/Wall';
import { BriefBench } from '../stages/brief/BriefBench';
import { BlockBench } from '../stages/block/BlockBench';
import { EarthBench } from '../stages/earth/EarthBench';
import { PlayBench } from '../stages/play/PlayBench';
import { LightBench } from '../stages/light/LightBench';
import { HandoverBench } from '../stages/handover/HandoverBench';
import { Bench } from './Bench';
import { Header } from './Header';
import { Help } from './Help';
import { chordOf, inField, type Shortcut } from './shortcuts';
import { Staff } from './Staff';
import { StatusLine } from './StatusLine';

/** Opens a level and shows the frame around it; says why when it cannot, and tries again. */
export function Editor() {
  const { id } = useParams();
  const [tries, setTries] = useState(0);
  return <Opened key={`${id}/${tries}`} id={id!} again={() => setTries((n) => n + 1)} />;
}

function Opened({ id, again }: { id: string; again(): void }) {
  const [session, setSession] = useState<Session>();
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    let current: Session | undefined;
    let gone = false;
    Session.open(id).then((s) => {
      if (gone) { s.close(); return; }
      current = s;
      useUi.setState({ selection: [], mode: 'orbit', tool: 'select', lastTool: {} });
      useWalkArea.setState({ reach: undefined, dots: undefined, stale: true, progress: undefined, summary: undefined, error: undefined });
      setSession(s);
    }, (e: Error) => { if (!gone) setProblem(e.message); });
    return () => {
      gone = true;
      current?.close();
    };
  }, [id]);
  useEffect(() => {
    if (!problem) return;
    const timer = setTimeout(again, 2500);
    return () => clearTimeout(timer);
  }, [problem, again]);
  if (problem) {
    return <main className="grid h-full place-content-center gap-3 text-center"><p role="alert" className="m-0"><b>This level cannot be opened:</b> {problem}.</p><p className="label m-0">Rammer tries again by itself.</p><p className="m-0"><Link className="act" to="/">back to the levels</Link></p></main>;
  }
  if (!session) return <main className="grid h-full place-content-center"><p role="status">opening the level</p></main>;
  return <Sheet session={session} key={session.id} />;
}

function Sheet({ session }: { session: Session }) {
  const [view, setView] = useState<LevelView>();
  const [walk, setWalk] = useState<WalkMode>();
  const walking = useRef<WalkMode>(undefined);
  const starting = useRef(false);
  const ui = useUi();
  const [params, setParams] = useSearchParams();
  const centre = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 800, height: 600 });

  const onReady = useCallback((v: LevelView | undefined) => {
    if (v) {
      const first = ofKind(session.level, 'viewpoint').find((p) => p.pose.view === 'orbit');
      const { grid } = session.terrain;
      const fallback = overviewPose(grid.width, grid.depth, heightAt(session.terrain, grid.width / 2, grid.depth / 2));
      const pose = poseFromText(new URLSearchParams(location.search).get('pose')) ?? first?.pose ?? fallback;
      useUi.setState({ mode: pose.view });
      v.setPose(pose);
    }
    setView(v);
  }, [session]);

  // Stage and reading from the link, once.
  useEffect(() => {
    const stage = params.get('stage') as StageId | null;
    const reading = params.get('reading') as Reading | null;
    if (stage && STAGES.some((s) => s.id === stage)) useUi.getState().setStage(stage);
    if (reading && READINGS.includes(reading)) useUi.setState({ reading });
  // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);

  // Pose, stage and reading go into the link, so that it shows the same thing elsewhere.
  useEffect(() => {
    if (!view) return;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const write = () => {
      clearTimeout(timer);
      timer = setTimeout(() => {
        if (walking.current) return;
        setParams({ stage: useUi.getState().stage, reading: useUi.getState().reading, pose: poseToText(view.pose) }, { replace: true });
      }, 350);
    };
    write();
    const off = view.onFrame(write);
    return () => { off(); clearTimeout(timer); };
  // setParams changes with every link; the view and what is shown decide here.
  // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [view, ui.stage, ui.reading]);

  useEffect(() => {
    const el = centre.current;
    if (!el) return;
    const observer = new ResizeObserver(([e]) => setSize({ width: Math.floor(e.contentRect.width), height: Math.floor(e.contentRect.height) }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);

  useEffect(() => session.subscribe((change) => {
    if ((change.rect || change.blocks || change.objects) && !useWalkArea.getState().stale) useWalkArea.setState({ stale: true });
    const { selection } = useUi.getState();
    const alive = selection.filter((s) => session.level.object(s)?.kind === 'block');
    if (alive.length !== selection.length) useUi.setState({ selection: alive });
  }), [session]);

  const dots = useWalkArea((s) => s.dots);
  useEffect(() => {
    view?.setDots(ui.reading === 'walk area' ? dots : undefined);
    view?.setSlopeReading(ui.reading === 'slope');
    view?.setWorkLight(ui.workLight);
  }, [view, ui.reading, ui.workLight, dots]);

  useFigures(session, view, walk !== undefined);

  const stopWalk = useCallback(() => {
    walking.current?.stop();
    walking.current = undefined;
    setWalk(undefined);
  }, []);
  useEffect(() => stopWalk, [stopWalk]);

  const beginWalk = useCallback(async (at?: Vec3) => {
    if (!view || walking.current || starting.current) return;
    const entry = marker(session.level, 'entry');
    const { grid } = session.terrain;
    const start = at ?? entry?.at ?? [grid.width / 2, heightAt(session.terrain, grid.width / 2, grid.depth / 2), grid.depth / 2];
    starting.current = true;
    try {
      const w = await startWalk(session, view, start as Vec3);
      walking.current = w;
      setWalk(w);
    } catch (error) {
      session.say(`walking could not start: ${(error as Error).message}`, true);
    } finally {
      starting.current = false;
    }
  }, [session, view]);

  const setMode = useCallback((mode: ViewMode) => {
    if (!view) return;
    if (mode === 'walk') { void beginWalk(useUi.getState().hover?.point); return; }
    if (walking.current) stopWalk();
    const hover = useUi.getState().hover?.point;
    view.setPose(changeView(view.pose, mode, session.terrain, mode === 'stand' && hover ? hover : undefined));
    useUi.setState({ mode });
  }, [view, session, beginWalk, stopWalk]);

  const goTo = useCallback((at: Vec3) => {
    if (!view) return;
    if (walking.current) { walking.current.walker.moveTo([at[0], at[1] + 0.05, at[2]]); return; }
    view.setPose({ ...view.pose, target: at, distance: view.pose.view === 'orbit' ? Math.min(view.pose.distance, 25) : view.pose.distance });
  }, [view]);

  const frameSelection = useCallback(() => {
    const blocks = selectedBlocks(session);
    if (!view || blocks.length === 0) return;
    const c = blocks.reduce<Vec3>((s, b) => [s[0] + b.at[0] / blocks.length, s[1] + (b.at[1] + b.size[1] / 2) / blocks.length, s[2] + b.at[2] / blocks.length], [0, 0, 0]);
    const r = Math.max(...blocks.map((b) => Math.hypot(b.at[0] - c[0], b.at[2] - c[2]) + Math.max(...b.size)));
    view.setPose({ ...view.pose, target: c, distance: Math.max(4, r * (view.pose.view === 'plan' ? 3 : 2.2)) });
  }, [session, view]);

  const shortcuts = useMemo((): Shortcut[] => {
    const s = useUi.getState;
    const nudge = (x: number, z: number) => {
      const by = s().snap || 0.1;
      if (s().selection.length > 0) moveBlocks(session, s().selection, [x * by, 0, z * by]);
      else if (view && view.pose.view === 'plan') view.setPose(panBy(view.pose, -x * 40, -z * 40, 1 / view.pixelsPerMetre(view.pose.target)));
      else if (view) view.setPose(orbitBy(view.pose, x * 20, z * 12));
    };
    const brush = (f: (b: ReturnType<typeof s>['brush']) => Partial<ReturnType<typeof s>['brush']>) => s().setBrush(f(s().brush));
    const tool = (t: ReturnType<typeof s>['tool'], stage: StageId) => () => { if (s().stage !== stage) s().setStage(stage); s().setTool(t); };
    const round = (v: number) => Number(v.toPrecision(3));
    return [
      ...STAGES.map((g): Shortcut => ({ code: `Digit${g.number % 10}`, label: String(g.number % 10), does: `stage ${g.name}`, run: () => s().setStage(g.id) })),
      { code: 'KeyX', label: 'X', does: 'Plan, Orbit, Stand in turn', run: () => setMode(s().mode === 'plan' ? 'orbit' : s().mode === 'orbit' ? 'stand' : 'plan') },
      { code: 'Enter', label: 'Enter', does: 'walk from the pointer', run: () => void beginWalk(s().hover?.point) },
      { code: 'KeyR', label: 'R', does: 'box', run: tool('box', 'block') },
      { code: 'KeyP', label: 'P', does: 'ramp', run: tool('ramp', 'block') },
      { code: 'KeyM', label: 'M', does: 'move', run: () => s().set({ handle: 'move', tool: 'select' }) },
      { code: 'KeyT', label: 'T', does: 'turn', run: () => s().set({ handle: 'turn', tool: 'select' }) },
      { code: 'KeyY', label: 'Y', does: 'size', run: () => s().set({ handle: 'size', tool: 'select' }) },
      { code: 'KeyC', label: 'C', does: 'duplicate', run: () => duplicateBlocks(session) },
      { code: 'KeyJ', label: 'J', does: 'drop to the host below', run: () => dropBlocks(session) },
      { code: 'KeyH', label: 'H', does: 'hide from view, or show', run: () => hideBlocks(session) },
      { code: 'Delete', label: 'Delete', does: 'delete', run: () => removeBlocks(session) },
      { code: 'Backspace', label: 'Backspace', does: 'delete', run: () => removeBlocks(session) },
      { code: 'Ctrl+KeyA', label: 'Ctrl+A', does: 'select every block', run: () => s().select(ofKind(session.level, 'block').map((b) => b.id)) },
      { code: 'Space', label: 'Space', does: 'frame the selection', run: frameSelection },
      { code: 'KeyV', label: 'V', does: 'step through readings', run: () => s().set({ reading: READINGS[(READINGS.indexOf(s().reading) + 1) % READINGS.length] }) },
      { code: 'KeyL', label: 'L', does: 'work light', run: () => s().set({ workLight: !s().workLight }) },
      { code: 'BracketLeft', label: '[', does: 'smaller brush', run: () => brush((b) => ({ radius: Math.max(0.5, round(b.radius / 1.15)) })) },
      { code: 'BracketRight', label: ']', does: 'larger brush', run: () => brush((b) => ({ radius: Math.min(200, round(b.radius * 1.15)) })) },
      { code: 'Minus', label: '-', does: 'weaker brush', run: () => brush((b) => ({ strength: Math.max(0.005, round(b.strength / 1.25)) })) },
      { code: 'Equal', label: '=', does: 'stronger brush', run: () => brush((b) => ({ strength: Math.min(5, round(b.strength * 1.25)) })) },
      { code: 'ArrowLeft', label: 'arrows', does: 'nudge the selection by the grid, or turn the view', run: () => nudge(-1, 0) },
      { code: 'ArrowRight', label: 'arrows', does: 'nudge the selection by the grid, or turn the view ', run: () => nudge(1, 0) },
      { code: 'ArrowUp', label: 'arrows', does: 'nudge the selection by the grid, or turn the view  ', run: () => nudge(0, -1) },
      { code: 'ArrowDown', label: 'arrows', does: 'nudge the selection by the grid, or turn the view   ', run: () => nudge(0, 1) },
      { code: 'PageUp', label: 'Page Up', does: 'nearer', run: () => view?.setPose(zoomBy(view.pose, 0.8)) },
      { code: 'PageDown', label: 'Page Down', does: 'farther', run: () => view?.setPose(zoomBy(view.pose, 1.25)) },
      { code: 'Ctrl+KeyZ', label: 'Ctrl+Z', does: 'undo', run: () => session.undoLast() },
      { code: 'Ctrl+Shift+KeyZ', label: 'Ctrl+Shift+Z', does: 'redo', run: () => session.redoNext() },
      { code: 'Shift+Slash', label: '?', does: 'this list', run: () => s().set({ help: true }) },
    ];
  }, [session, view, setMode, beginWalk, frameSelection]);

  useEffect(() => {
    const table = new Map(shortcuts.map((s) => [s.code, s]));
    let buttons = 0;
    const pointer = (e: PointerEvent) => { buttons = e.buttons; };
    const onDown = (e: KeyboardEvent) => {
      if (inField(e.target)) return;
      if (walking.current) {
        if (e.code === 'Escape') { stopWalk(); e.preventDefault(); return; }
        if (!e.ctrlKey && !e.metaKey && walking.current.key(e.code, true)) { e.preventDefault(); return; }
      }
      if (e.code === 'Escape') { useUi.setState({ tool: 'select', selection: useUi.getState().tool === 'select' ? [] : useUi.getState().selection }); return; }
      if (buttons !== 0) return;
      const onControl = e.target instanceof HTMLElement && e.target.closest('button, a, [role=option], [role=separator]') !== null;
      if (onControl && (e.code === 'Enter' || e.code === 'Space' || e.code.startsWith('Arrow'))) return;
      const found = table.get(chordOf(e));
      if (!found) return;
      e.preventDefault();
      found.run();
    };
    const onUp = (e: KeyboardEvent) => { walking.current?.key(e.code, false); };
    const blur = () => { for (const c of ['KeyW', 'KeyA', 'KeyS', 'KeyD', 'Space', 'ShiftLeft', 'ShiftRight', 'KeyQ', 'KeyE']) walking.current?.key(c, false); };
    addEventListener('keydown', onDown);
    addEventListener('keyup', onUp);
    addEventListener('blur', blur);
    addEventListener('pointerdown', pointer, true);
    addEventListener('pointerup', pointer, true);
    return () => {
      removeEventListener('keydown', onDown);
      removeEventListener('keyup', onUp);
      removeEventListener('blur', blur);
      removeEventListener('pointerdown', pointer, true);
      removeEventListener('pointerup', pointer, true);
    };
  }, [shortcuts, stopWalk]);

  const setPose = (pose: Pose) => {
    if (walking.current) stopWalk();
    view?.setPose(pose);
    useUi.setState({ mode: pose.view });
  };

  return (
    <div className="flex h-full flex-col">
      <Header session={session} onMode={setMode} />
      <div className="flex min-h-0 flex-1">
        <Staff />
        <Bench session={session}>
          {ui.stage === 'brief' && <BriefBench session={session} />}
          {ui.stage === 'block' && <BlockBench session={session} />}
          {ui.stage === 'earth' && <EarthBench session={session} />}
          {ui.stage === 'play' && <PlayBench session={session} onWalk={() => void beginWalk()} onGoTo={goTo} />}
          {ui.stage === 'light' && <LightBench session={session} pose={() => view?.pose} onPose={setPose} />}
          {ui.stage === 'handover' && <HandoverBench session={session} />}
        </Bench>
        <div ref={centre} className="flex min-w-0 flex-1 flex-col">
          <main className="relative min-h-0 flex-1"><ViewPane session={session} view={view} walk={walk} onReady={onReady} />{walk && <p className="pointer-events-none absolute left-3 top-3 m-0 border px-2 py-1" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>Walk: <b>{playerBody(session.level).name}</b>. W A S D, Shift runs, Space jumps, right drag looks. <b>Esc</b> comes back.</p>}</main>
          <section aria-label="section">
            <SectionEdge />
            {view && <Section session={session} view={view} width={size.width} height={ui.sectionHeight} />}
          </section>
        </div>
        <div className="w-[148px] shrink-0 border-l" style={{ borderColor: 'var(--ink)' }}>{view && <Wall session={session} view={view} height={size.height} />}</div>
      </div>
      <StatusLine session={session} />
      {ui.help && <Help shortcuts={shortcuts} onClose={() => useUi.setState({ help: false })} />}
    </div>
  );
}

/** Drags the section from 96 to 280 px. */
function SectionEdge() {
  const height = useUi((s) => s.sectionHeight);
  const set = (h: number) => useUi.setState({ sectionHeight: Math.min(280, Math.max(96, h)) });
  return (
    <div role="separator" aria-orientation="horizontal" aria-label="height of the section" aria-valuenow={height} aria-valuemin={96} aria-valuemax={280} tabIndex={0} className="h-[5px] shrink-0 cursor-row-resize border-t" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
      onKeyDown={(e) => { if (e.key === 'ArrowUp' || e.key === 'ArrowDown') { e.stopPropagation(); set(height + (e.key === 'ArrowUp' ? 12 : -12)); } }}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)} onPointerMove={(e) => { if (e.buttons === 1) set(height - e.movementY); }} />
  );
}

/** The player's figure beside the first selected block, and at the entry. */
function useFigures(session: Session, view: LevelView | undefined, walking: boolean) {
  const selection = useUi((s) => s.selection);
  useEffect(() => {
    if (!view) return;
    const place = () => {
      const figures = playerBody(session.level).figures;
      const wanted = new Map<string, { figures: typeof figures; at: Vec3; turn: number }>();
      const entry = marker(session.level, 'entry');
      if (entry && !walking) wanted.set('entry', { figures, at: entry.at, turn: entry.turn });
      const block = selection.length > 0 ? session.level.object(selection[0]) : undefined;
      if (block?.kind === 'block') {
        const x = block.at[0] + Math.hypot(block.size[0], block.size[2]) / 2 + 0.6;
        wanted.set('selected', { figures, at: [x, heightAt(session.terrain, x, block.at[2]), block.at[2]], turn: 0 });
      }
      view.setFigures(wanted);
    };
    place();
    return session.subscribe(place);
  }, [session, view, selection, walking]);
}
