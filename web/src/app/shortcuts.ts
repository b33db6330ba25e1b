import { ofKind } from '@rammer/core/level/level';
import type { Vec3 } from '@rammer/core/num/vec';
import type { Session } from '../store/session';
import { NO_KEY } from '../store/keys';
import { usePointer } from '../store/pointer';
import { nextOp, setNextOp } from '../store/blockDraft';
import { useEarth } from '../store/earthDraft';
import { useGround } from '../store/groundDraft';
import { OVERLAYS, STAGES, useUi, type StageId, type ViewMode } from '../store/ui';
import { isolate } from '../tools/blockActions';
import { chosenLift, removeLift } from '../tools/lifts';
import { dropThings } from '../tools/dropThings';
import { duplicateThings, keepThings, pasteThings } from '../tools/duplicateThings';
import { hideThings, moveThings, removeThings, things } from '../tools/things';
import type { LevelView } from '../view/LevelView';
import { orbitBy, panBy, zoomBy } from '../view/rig';

/** One key: what the code matches (key position), what it does. Listed by `?`. */
export interface Shortcut {
  /** KeyboardEvent.code, with Ctrl+, Shift+ before it; a name of its own where the label is `NO_KEY` */
  code: string;
  /** label where the keyboard's own is not asked for */
  label: string;
  does: string;
  run(): void;
  /** for keys that hold something while they are down */
  release?(): void;
  /** the table's own code, where the person has another key for it */
  own?: string;
}

/** Keys are inert in fields that are typed or picked in, while a dialog is open and while a button of the pointer is held. */
export function inField(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement && target.closest('input:not([type=checkbox], [type=radio]), textarea, select, [contenteditable], dialog[open]') !== null
  );
}

/** What the frame does that a key can ask for. */
export interface FrameActions {
  setMode(mode: ViewMode): void;
  beginWalk(at?: Vec3): Promise<void>;
  frameSelection(): void;
  pinNote(): void;
  switchSheet(): void;
  /** looks from the viewpoint after or before the one looked from */
  lookFrom(by: 1 | -1): void;
  /** shows the level as it was before the last change of lighting, and with everything that was taken out */
  holdBefore(on: boolean): void;
}

/** The table of keys. */
export function shortcutsOf(session: Session, view: LevelView | undefined, act: FrameActions): Shortcut[] {
  const s = useUi.getState;
  const nudge = (x: number, z: number) => {
    const by = s().snap || 0.1;
    if (s().selection.length > 0) moveThings(session, s().selection, [x * by, 0, z * by]);
    else if (view && view.pose.view === 'plan') view.setPose(panBy(view.pose, -x * 40, -z * 40, 1 / view.pixelsPerMetre(view.pose.target)));
    else if (view) view.setPose(orbitBy(view.pose, x * 20, z * 12));
  };
  const onGround = () => ['paint', 'unpaint', 'smudge', 'replace', 'sow', 'clear', 'habitat-paint', 'plant-brush'].includes(s().tool);
  const radius = (k: number) => {
    const size = (r: number) => Math.min(200, Math.max(0.5, round(r * k)));
    if (onGround()) useGround.getState().setGroundBrush({ radius: size(useGround.getState().groundBrush.radius) });
    else useEarth.getState().setBrush({ radius: size(useEarth.getState().brush.radius) });
  };
  const strength = (k: number) => {
    if (onGround()) useGround.getState().setGroundBrush({ strength: Math.min(1, Math.max(0.01, round(useGround.getState().groundBrush.strength * k))) });
    else useEarth.getState().setBrush({ strength: Math.min(5, Math.max(0.005, round(useEarth.getState().brush.strength * k))) });
  };
  const remove = () => {
    const lift = s().stage === 'earth' && s().tool === 'select' && s().selection.length === 0 ? chosenLift(session, useEarth.getState().lift) : undefined;
    if (lift) removeLift(session, lift);
    else removeThings(session);
  };
  const tool = (t: ReturnType<typeof s>['tool'], stage: StageId) => () => {
    if (s().stage !== stage) s().setStage(stage);
    s().setTool(t);
  };
  const round = (v: number) => Number(v.toPrecision(3));
  return [
    ...STAGES.map((g): Shortcut => ({ code: `Digit${g.number % 10}`, label: String(g.number % 10), does: `stage ${g.name}`, run: () => s().setStage(g.id) })),
    {
      code: 'KeyX',
      label: 'X',
      does: 'Plan, Orbit, Stand in turn',
      run: () => act.setMode(s().mode === 'plan' ? 'orbit' : s().mode === 'orbit' ? 'stand' : 'plan'),
    },
    { code: 'Enter', label: 'Enter', does: 'walk from the pointer', run: () => void act.beginWalk(usePointer.getState().hover?.point) },
    { code: 'KeyR', label: 'R', does: 'box', run: tool('box', 'block') },
    { code: 'KeyP', label: 'P', does: 'ramp', run: tool('ramp', 'block') },
    { code: 'KeyI', label: 'I', does: 'stair', run: tool('stair', 'block') },
    { code: 'KeyK', label: 'K', does: 'wall along a line', run: tool('wall', 'block') },
    { code: 'KeyG', label: 'G', does: 'slab from an outline', run: tool('slab', 'block') },
    { code: 'KeyF', label: 'F', does: 'tunnel along a line', run: tool('tunnel', 'block') },
    { code: 'KeyU', label: 'U', does: 'measure between two points', run: tool('measure', 'block') },
    { code: 'KeyO', label: 'O', does: 'the next block a solid, or a void', run: () => setNextOp(nextOp(s().tool) === 'void' ? 'solid' : 'void') },
    { code: 'KeyM', label: 'M', does: 'move', run: () => useUi.setState({ handle: 'move', tool: 'select' }) },
    { code: 'KeyT', label: 'T', does: 'turn', run: () => useUi.setState({ handle: 'turn', tool: 'select' }) },
    { code: 'KeyY', label: 'Y', does: 'size', run: () => useUi.setState({ handle: 'size', tool: 'select' }) },
    { code: 'KeyC', label: 'C', does: 'duplicate', run: () => duplicateThings(session) },
    { code: 'KeyJ', label: 'J', does: 'drop onto what is below', run: () => dropThings(session) },
    { code: 'Shift+KeyJ', label: 'Shift+J', does: 'drop together, as it is arranged', run: () => dropThings(session, undefined, true) },
    { code: 'KeyH', label: 'H', does: 'hide from view, or show', run: () => hideThings(session) },
    { code: 'Shift+KeyH', label: 'Shift+H', does: 'show the selection alone, or all again', run: () => isolate(s().isolated ? undefined : things(session)) },
    { code: 'Delete', label: 'Delete', does: 'delete the selection; in Earth, the chosen lift', run: remove },
    { code: 'Backspace', label: 'Backspace', does: 'delete the selection; in Earth, the chosen lift', run: remove },
    { code: 'Ctrl+KeyC', label: 'Ctrl+C', does: 'keep the selection to be pasted', run: () => keepThings(session) },
    {
      code: 'Ctrl+KeyV',
      label: 'Ctrl+V',
      does: 'paste at the pointer, as it was arranged',
      run: () => pasteThings(session, usePointer.getState().hover?.point, false),
    },
    {
      code: 'Ctrl+Shift+KeyV',
      label: 'Ctrl+Shift+V',
      does: 'paste at the pointer, each dropped onto what is below',
      run: () => pasteThings(session, usePointer.getState().hover?.point, true),
    },
    {
      code: 'Ctrl+KeyA',
      label: 'Ctrl+A',
      does: 'select every block, in Build every piece',
      run: () => s().select(ofKind(session.level, s().stage === 'build' ? 'piece' : 'block').map((b) => b.id)),
    },
    { code: 'Space', label: 'Space', does: 'frame the selection', run: act.frameSelection },
    { code: 'KeyN', label: 'N', does: 'pin a note at the pointer', run: act.pinNote },
    {
      code: 'KeyV',
      label: 'V',
      does: 'step through overlays',
      run: () => useUi.setState({ overlay: OVERLAYS[(OVERLAYS.indexOf(s().overlay) + 1) % OVERLAYS.length] }),
    },
    { code: 'Period', label: '.', does: 'the next viewpoint', run: () => act.lookFrom(1) },
    { code: 'Comma', label: ',', does: 'the viewpoint before', run: () => act.lookFrom(-1) },
    { code: 'KeyL', label: 'L', does: 'work light', run: () => useUi.setState({ workLight: !s().workLight }) },
    {
      code: 'KeyB',
      label: 'B',
      does: 'hold: the lighting, and what was taken out, as before',
      run: () => act.holdBefore(true),
      release: () => act.holdBefore(false),
    },
    { code: 'Shift+KeyL', label: 'Shift+L', does: 'Sheet or Night sheet', run: act.switchSheet },
    { code: 'BracketLeft', label: '[', does: 'smaller brush', run: () => radius(1 / 1.15) },
    { code: 'BracketRight', label: ']', does: 'larger brush', run: () => radius(1.15) },
    { code: 'weaker', label: NO_KEY, does: 'weaker brush', run: () => strength(1 / 1.25) },
    { code: 'stronger', label: NO_KEY, does: 'stronger brush', run: () => strength(1.25) },
    { code: 'ArrowLeft', label: 'arrows', does: 'nudge the selection by the grid, or turn the view', run: () => nudge(-1, 0) },
    { code: 'ArrowRight', label: 'arrows', does: 'nudge the selection by the grid, or turn the view', run: () => nudge(1, 0) },
    { code: 'ArrowUp', label: 'arrows', does: 'nudge the selection by the grid, or turn the view', run: () => nudge(0, -1) },
    { code: 'ArrowDown', label: 'arrows', does: 'nudge the selection by the grid, or turn the view', run: () => nudge(0, 1) },
    { code: 'PageUp', label: 'Page Up', does: 'nearer', run: () => view?.setPose(zoomBy(view.pose, 0.8)) },
    { code: 'PageDown', label: 'Page Down', does: 'farther', run: () => view?.setPose(zoomBy(view.pose, 1.25)) },
    { code: 'Ctrl+KeyZ', label: 'Ctrl+Z', does: 'undo', run: () => session.undoLast() },
    { code: 'Ctrl+Shift+KeyZ', label: 'Ctrl+Shift+Z', does: 'redo', run: () => session.redoNext() },
    { code: 'Ctrl+KeyK', label: 'Ctrl+K', does: 'find a command', run: () => useUi.setState({ finder: true }) },
    { code: 'Shift+Slash', label: '?', does: 'list of keys', run: () => useUi.setState({ help: true }) },
  ];
}
