import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { playerBody } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { useUi, type ViewMode } from '../store/ui';
import { useWalkArea } from '../store/walkArea';
import { selectedBlocks } from '../tools/blockActions';
import type { LevelView } from '../view/LevelView';
import { changeView } from '../view/rig';
import { ViewPane } from '../view/ViewPane';
import { applySheet } from '../theme/sheetTheme';
import { Section } from '../section/Section';
import { Wall } from '../wall/Wall';
import { BriefBench } from '../stages/brief/BriefBench';
import { BlockBench } from '../stages/block/BlockBench';
import { EarthBench } from '../stages/earth/EarthBench';
import { PlayBench } from '../stages/play/PlayBench';
import { LightBench } from '../stages/light/LightBench';
import { HandoverBench } from '../stages/handover/HandoverBench';
import { Bench } from './Bench';
import { Finder } from './Finder';
import { Header } from './Header';
import { Help } from './Help';
import { shortcutsOf } from './shortcuts';
import { Staff } from './Staff';
import { StatusLine } from './StatusLine';
import { useFigures } from './useFigures';
import { useLink } from './useLink';
import { useShortcuts } from './useShortcuts';
import { useWalk } from './useWalk';

/** The survey sheet: header, staff, bench, view with its section, wall and status line around one open level. */
export function Sheet({ session }: { session: Session }) {
  const [view, setView] = useState<LevelView>();
  const ui = useUi();
  const centre = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 800, height: 600 });
  const { firstPose } = useLink(session, view);
  const walking = useWalk(session, view);
  const { begin, stop, now } = walking;

  const onReady = useCallback((v: LevelView | undefined) => {
    if (v) {
      const pose = firstPose();
      useUi.setState({ mode: pose.view });
      v.setPose(pose);
    }
    setView(v);
  }, [firstPose]);

  useEffect(() => {
    const el = centre.current;
    if (!el) return;
    const observer = new ResizeObserver(([e]) => setSize({ width: Math.floor(e.contentRect.width), height: Math.floor(e.contentRect.height) }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);

  useEffect(() => session.subscribe((change) => {
    if (change.play && !useWalkArea.getState().stale) useWalkArea.setState({ stale: true });
    const { selection } = useUi.getState();
    const alive = selection.filter((s) => session.level.object(s)?.kind === 'block');
    if (alive.length !== selection.length) useUi.setState({ selection: alive });
  }), [session]);

  const dots = useWalkArea((s) => (ui.reading === 'walk area' ? s.dots : ui.reading === 'threat area' ? s.threat?.dots : ui.reading === 'both areas' ? s.threat?.compared : undefined));
  useEffect(() => {
    view?.setDots(dots);
    view?.setSlopeReading(ui.reading === 'slope');
    view?.setWorkLight(ui.workLight);
  }, [view, ui.reading, ui.workLight, dots]);

  useFigures(session, view, walking.walk !== undefined);

  const setMode = useCallback((mode: ViewMode) => {
    if (!view) return;
    const hover = useUi.getState().hover?.point;
    if (mode === 'walk') { void begin(hover); return; }
    if (now.current) stop();
    view.setPose(changeView(view.pose, mode, session.terrain, mode === 'stand' && hover ? hover : undefined));
    useUi.setState({ mode });
  }, [view, session, begin, stop, now]);

  const goTo = useCallback((at: Vec3) => {
    if (!view) return;
    if (now.current) { now.current.walker.moveTo([at[0], at[1] + 0.05, at[2]]); return; }
    view.setPose({ ...view.pose, target: at, distance: view.pose.view === 'orbit' ? Math.min(view.pose.distance, 25) : view.pose.distance });
  }, [view, now]);

  const setPose = useCallback((pose: Pose) => {
    if (now.current) stop();
    view?.setPose(pose);
    useUi.setState({ mode: pose.view });
  }, [view, now, stop]);

  const frameSelection = useCallback(() => {
    const blocks = selectedBlocks(session);
    if (!view || blocks.length === 0) return;
    const c = blocks.reduce<Vec3>((s, b) => [s[0] + b.at[0] / blocks.length, s[1] + (b.at[1] + b.size[1] / 2) / blocks.length, s[2] + b.at[2] / blocks.length], [0, 0, 0]);
    const r = Math.max(...blocks.map((b) => Math.hypot(b.at[0] - c[0], b.at[2] - c[2]) + Math.max(...b.size)));
    view.setPose({ ...view.pose, target: c, distance: Math.max(4, r * (view.pose.view === 'plan' ? 3 : 2.2)) });
  }, [session, view]);

  /** At the pointer; where it is not over the level, as in Walk, at the middle of the view. */
  const pinNote = useCallback(() => {
    const at = useUi.getState().hover?.point ?? view?.pick(view.width / 2, view.height / 2)?.point;
    if (!at) session.say('there is no ground at the pointer to pin a note to', true);
    else if (!session.writable) session.say('this level is read only here: take over to pin a note', true);
    else useUi.setState({ noteAt: at });
  }, [session, view]);

  const switchSheet = useCallback(() => {
    const sheet = useUi.getState().sheet === 'night' ? 'sheet' : 'night';
    applySheet(sheet);
    useUi.setState({ sheet });
  }, []);

  const shortcuts = useMemo(() => shortcutsOf(session, view, { setMode, beginWalk: begin, frameSelection, pinNote, switchSheet }), [session, view, setMode, begin, frameSelection, pinNote, switchSheet]);
  useShortcuts(shortcuts, walking);

  return (
    <div className="flex h-full flex-col">
      <Header session={session} onMode={setMode} onSheet={switchSheet} />
      <div className="flex min-h-0 flex-1">
        <Staff />
        <Bench session={session}>
          {ui.stage === 'brief' && <BriefBench session={session} />}
          {ui.stage === 'block' && <BlockBench session={session} />}
          {ui.stage === 'earth' && <EarthBench session={session} />}
          {ui.stage === 'play' && <PlayBench session={session} onWalk={() => void walking.begin()} onGoTo={goTo} />}
          {ui.stage === 'light' && <LightBench session={session} pose={() => view?.pose} onPose={setPose} />}
          {ui.stage === 'handover' && <HandoverBench session={session} />}
        </Bench>
        <div ref={centre} className="flex min-w-0 flex-1 flex-col">
          <main className="relative min-h-0 flex-1"><ViewPane session={session} view={view} walk={walking.walk} onReady={onReady} />{walking.walk && <p className="pointer-events-none absolute left-3 top-3 m-0 border px-2 py-1" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>Walk: <b>{playerBody(session.level).name}</b>. W A S D, Shift runs, Space jumps, right drag looks. <b>Esc</b> comes back.</p>}</main>
          <section aria-label="section">
            <SectionEdge />
            {view && <Section session={session} view={view} width={size.width} height={ui.sectionHeight} />}
          </section>
        </div>
        <div className="w-[148px] shrink-0 border-l" style={{ borderColor: 'var(--ink)' }}>{view && <Wall session={session} view={view} height={size.height} />}</div>
      </div>
      <StatusLine session={session} />
      {ui.finder && <Finder shortcuts={shortcuts} onClose={() => useUi.setState({ finder: false })} />}
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
