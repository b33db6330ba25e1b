import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { playerBody } from '@rammer/core/level/level';
import type { Pose } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { usePointer } from '../store/pointer';
import { useEarth } from '../store/earthDraft';
import { useSpending } from '../store/spending';
import { useUi, type ViewMode } from '../store/ui';
import { shownThreat, useWalkArea } from '../store/walkArea';
import { asBlock } from '../tools/asBlock';
import { nextViewpoint } from '../tools/nextViewpoint';
import { thing, things } from '../tools/things';
import type { LevelView } from '../view/LevelView';
import { changeView } from '../view/rig';
import { Inset } from '../view/Inset';
import { ViewPane } from './ViewPane';
import { applySheet } from '../theme/sheetTheme';
import { LongProfile } from '../section/LongProfile';
import { SideProfile } from '../section/SideProfile';
import { Section } from '../section/Section';
import { Wall } from '../wall/Wall';
import { BriefBench } from '../stages/brief/BriefBench';
import { BlockBench } from '../stages/block/BlockBench';
import { EarthBench } from '../stages/earth/EarthBench';
import { BuildBench } from '../stages/build/BuildBench';
import { CostBench } from '../stages/cost/CostBench';
import { GrowBench } from '../stages/grow/GrowBench';
import { PlayBench } from '../stages/play/PlayBench';
import { LightBench } from '../stages/light/LightBench';
import { SurfaceBench } from '../stages/surface/SurfaceBench';
import { HandoverBench } from '../stages/handover/HandoverBench';
import { ComingCard } from '../stages/assets/ComingCard';
import { WideLibrary } from '../stages/assets/WideLibrary';
import { KitSheet } from '../stages/build/KitSheet';
import { Bench } from './Bench';
import { DropMeshes } from './DropMeshes';
import { Finder } from './Finder';
import { Header } from './Header';
import { Help } from './Help';
import { useKeys, withKeys } from '../store/keys';
import { shortcutsOf } from './shortcuts';
import { useLightingBefore } from './useLightingBefore';
import { useRoom } from './useNarrow';
import { Staff } from './Staff';
import { StatusLine } from './StatusLine';
import { usePeople } from './usePeople';
import { useLink } from './useLink';
import { useRunning } from './useRunning';
import { useShortcuts } from './useShortcuts';
import { useWalk } from './useWalk';
import { useKeyLabel } from '../store/keys';

/** The survey sheet: header, staff, bench, view with its section, wall and status line around one open level. */
export function Sheet({ session }: { session: Session }) {
  const [view, setView] = useState<LevelView>();
  const ui = useUi();
  const earth = useEarth();
  const spending = useSpending();
  const centre = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 800, height: 600 });
  const { firstPose } = useLink(session, view);
  const walking = useWalk(session, view);
  const { begin, stop, now } = walking;

  const onReady = useCallback(
    (v: LevelView | undefined) => {
      if (v) {
        const pose = firstPose();
        useUi.setState({ mode: pose.view });
        v.setPose(pose);
      }
      setView(v);
    },
    [firstPose],
  );

  useEffect(() => {
    const el = centre.current;
    if (!el) return;
    const observer = new ResizeObserver(([e]) => setSize({ width: Math.floor(e.contentRect.width), height: Math.floor(e.contentRect.height) }));
    observer.observe(el);
    return () => observer.disconnect();
  }, []);

  useEffect(
    () =>
      session.subscribe((change) => {
        if (change.play && !useWalkArea.getState().stale) useWalkArea.setState({ stale: true });
        const { selection } = useUi.getState();
        const alive = selection.filter((s) => thing(session, s));
        if (alive.length !== selection.length) useUi.setState({ selection: alive });
      }),
    [session],
  );

  const dots = useWalkArea((s) =>
    ui.overlay === 'walk area'
      ? s.areas?.dots
      : ui.overlay === 'threat area'
        ? shownThreat(s.areas?.threats ?? [], ui.threat)?.dots
        : ui.overlay === 'both areas'
          ? shownThreat(s.areas?.threats ?? [], ui.threat)?.compared
          : undefined,
  );
  useEffect(() => {
    view?.aids.setDots(dots);
    view?.setOverlay(ui.overlay);
    view?.blocks.markStill(ui.overlay === 'blockout');
    view?.setWorkLight(ui.workLight);
    view?.setWithout(spending.without);
    view?.isolate(ui.isolated);
  }, [view, ui.overlay, ui.workLight, spending.without, ui.isolated, dots]);

  usePeople(session, view, walking.walk !== undefined);
  useRunning(view, walking.walk !== undefined);

  const setMode = useCallback(
    (mode: ViewMode) => {
      if (!view) return;
      const hover = usePointer.getState().hover?.point;
      if (mode === 'walk') {
        void begin(hover);
        return;
      }
      if (now.current) stop();
      view.setPose(changeView(view.pose, mode, session.terrain, mode === 'stand' && hover ? hover : undefined));
      useUi.setState({ mode });
    },
    [view, session, begin, stop, now],
  );

  const goTo = useCallback(
    (at: Vec3) => {
      if (!view) return;
      if (now.current) {
        now.current.walker.moveTo([at[0], at[1] + 0.05, at[2]]);
        return;
      }
      view.setPose({ ...view.pose, target: at, distance: view.pose.view === 'orbit' ? Math.min(view.pose.distance, 25) : view.pose.distance });
    },
    [view, now],
  );

  const setPose = useCallback(
    (pose: Pose) => {
      if (now.current) stop();
      view?.setPose(pose);
      useUi.setState({ mode: pose.view });
    },
    [view, now, stop],
  );

  const frameSelection = useCallback(() => {
    const blocks = things(session).map((t) => asBlock(session, t));
    if (!view || blocks.length === 0) return;
    const c = blocks.reduce<Vec3>(
      (s, b) => [s[0] + b.at[0] / blocks.length, s[1] + (b.at[1] + b.size[1] / 2) / blocks.length, s[2] + b.at[2] / blocks.length],
      [0, 0, 0],
    );
    const r = Math.max(...blocks.map((b) => Math.hypot(b.at[0] - c[0], b.at[2] - c[2]) + Math.max(...b.size)));
    view.setPose({ ...view.pose, target: c, distance: Math.max(4, r * (view.pose.view === 'plan' ? 3 : 2.2)) });
  }, [session, view]);

  /** At the pointer; where it is not over the level, as in Walk, at the middle of the view. */
  const pinNote = useCallback(() => {
    const at = usePointer.getState().hover?.point ?? view?.pick(view.width / 2, view.height / 2)?.point;
    if (!at) session.say('there is no ground at the pointer to pin a note to', true);
    else if (!session.writable) session.say('this level is read only here: take over to pin a note', true);
    else useUi.setState({ noteAt: at });
  }, [session, view]);

  const lookFrom = useCallback(
    (by: 1 | -1) => {
      const next = view && nextViewpoint(session, view.pose, by);
      if (next) setPose(next.pose);
      session.say(next ? `viewpoint ${next.name}` : 'no viewpoints yet: save one in Light');
    },
    [view, session, setPose],
  );
  const switchSheet = useCallback(() => {
    const sheet = useUi.getState().sheet === 'night' ? 'sheet' : 'night';
    applySheet(sheet);
    useUi.setState({ sheet });
  }, []);

  const lightingBefore = useLightingBefore(session);
  const holdBefore = useCallback(
    (on: boolean) => {
      view?.showLighting(on ? lightingBefore.current : undefined);
      view?.setWithout(on ? new Set() : useSpending.getState().without);
    },
    [view, lightingBefore],
  );

  const { changed: keys, printed } = useKeys();
  const shortcuts = useMemo(
    () => withKeys(shortcutsOf(session, view, { setMode, beginWalk: begin, frameSelection, pinNote, switchSheet, lookFrom, holdBefore }), keys, printed),
    [session, view, setMode, begin, frameSelection, pinNote, switchSheet, lookFrom, holdBefore, keys, printed],
  );
  useShortcuts(shortcuts, walking);

  const chosen = ui.stage === 'earth' && ui.tool === 'select' && earth.lift ? session.level.object(earth.lift) : undefined;
  const route = chosen?.kind === 'lift' && chosen.lift === 'route' && !walking.walk ? chosen : undefined;
  const landform = chosen?.kind === 'lift' && chosen.lift === 'landform' && !walking.walk ? chosen : undefined;

  const room = useRoom();
  const key = useKeyLabel();
  useEffect(() => {
    useUi.setState({ benchFolded: room === 'narrow' || room === 'small' });
  }, [room]);
  const bench = (
    <Bench session={session} over={room !== 'wide'} whole={room === 'phone'}>
      {ui.stage === 'brief' && <BriefBench session={session} view={view} onPose={setPose} />}
      {ui.stage === 'block' && <BlockBench session={session} />}
      {ui.stage === 'earth' && <EarthBench session={session} view={view} />}
      {ui.stage === 'surface' && <SurfaceBench session={session} />}
      {ui.stage === 'build' && <BuildBench session={session} view={view} />}
      {ui.stage === 'grow' && <GrowBench session={session} view={view} />}
      {ui.stage === 'play' && <PlayBench session={session} review={room === 'phone'} onWalk={() => void walking.begin()} onGoTo={goTo} />}
      {ui.stage === 'light' && <LightBench session={session} view={view} pose={() => view?.pose} onPose={setPose} />}
      {ui.stage === 'cost' && <CostBench session={session} view={view} onPose={setPose} />}
      {ui.stage === 'handover' && <HandoverBench session={session} />}
    </Bench>
  );
  useEffect(() => {
    if (room === 'phone') useUi.getState().setStage('play');
  }, [room]);

  return (
    <div className="flex h-full flex-col">
      <Header session={session} onMode={setMode} onSheet={switchSheet} room={room} />
      {room === 'phone' && (
        <p className="label m-0 border-b px-3 py-1" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>
          On a phone a level is reviewed: look, walk, snags and the budget. Edit it on a larger screen.
        </p>
      )}
      <div className="flex min-h-0 flex-1">
        {(room === 'wide' || room === 'narrow') && <Staff session={session} view={view} />}
        {room !== 'phone' && bench}
        <DropMeshes session={session} inner={centre}>
          <WideLibrary session={session} view={view} />
          <KitSheet session={session} view={view} />
          <ComingCard session={session} view={view} />
          <main className="relative min-h-0 flex-1">
            <ViewPane session={session} view={view} walk={walking.walk} onReady={onReady} />
            {walking.walk && (
              <p className="pointer-events-none absolute left-3 top-3 m-0 border px-2 py-1" style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}>
                Walk: <b>{playerBody(session.level).name}</b>. {['KeyW', 'KeyA', 'KeyS', 'KeyD'].map((k) => key(k)).join(' ')}, Shift runs, Space jumps, right
                drag looks. <b>Esc</b> comes back.
              </p>
            )}
            {view && <Inset session={session} view={view} />}
          </main>
          {room !== 'phone' && (
            <section aria-label="section">
              <SectionEdge />
              {view &&
                (route ? (
                  <LongProfile session={session} view={view} route={route} width={size.width} height={ui.sectionHeight} />
                ) : landform ? (
                  <SideProfile session={session} view={view} lift={landform} width={size.width} height={ui.sectionHeight} />
                ) : (
                  <Section session={session} view={view} width={size.width} height={ui.sectionHeight} />
                ))}
            </section>
          )}
        </DropMeshes>
        <div className="shrink-0 border-l" style={{ borderColor: 'var(--ink)', width: room === 'wide' ? 148 : 56 }}>
          {view && <Wall session={session} view={view} height={size.height} narrow={room !== 'wide'} />}
        </div>
      </div>
      {room === 'phone' && (
        <div className="flex h-[42vh] flex-col border-t" style={{ borderColor: 'var(--ink)' }}>
          {bench}
        </div>
      )}
      {room === 'small' && <Staff session={session} row />}
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
    <div
      role="separator"
      aria-orientation="horizontal"
      aria-label="height of the section"
      aria-valuenow={height}
      aria-valuemin={96}
      aria-valuemax={280}
      tabIndex={0}
      className="h-[5px] shrink-0 cursor-row-resize border-t"
      style={{ background: 'var(--raised)', borderColor: 'var(--ink)' }}
      onKeyDown={(e) => {
        if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
          e.stopPropagation();
          set(height + (e.key === 'ArrowUp' ? 12 : -12));
        }
      }}
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        if (e.buttons === 1) set(height - e.movementY);
      }}
    />
  );
}
