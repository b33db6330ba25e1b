import { create } from 'zustand';
import { BRUSHES, type BrushKind } from '@rammer/core/earth/brushes/index';
import { SHAPES } from '@rammer/core/level/objects';
import type { Vec3 } from '@rammer/core/num/vec';
import { useEarth } from './earthDraft';
import { shownSheet, type SheetTheme } from '../theme/sheetTheme';

export const STAGES = [
  { id: 'brief', number: 1, name: 'Brief' },
  { id: 'block', number: 2, name: 'Block' },
  { id: 'earth', number: 3, name: 'Earth' },
  { id: 'surface', number: 4, name: 'Surface' },
  { id: 'build', number: 5, name: 'Build' },
  { id: 'grow', number: 6, name: 'Grow' },
  { id: 'play', number: 7, name: 'Play' },
  { id: 'light', number: 8, name: 'Light' },
  { id: 'cost', number: 9, name: 'Cost' },
  { id: 'handover', number: 10, name: 'Hand over' },
] as const;
export type StageId = (typeof STAGES)[number]['id'];

export const TOOLS = [
  'select',
  'measure',
  'people',
  'section',
  'playBounds',
  ...SHAPES,
  ...BRUSHES,
  'earth-ramp',
  'landform',
  'route',
  'propose',
  'pad',
  'mask',
  'pool',
  'paint',
  'unpaint',
  'smudge',
  'replace',
  'fill',
  'ask-ground',
  'piece',
  'lay',
  'dress',
  'throw',
  'opening',
  'seam',
  'round',
  'coat',
  'sow',
  'clear',
  'area',
  'habitat',
  'habitat-paint',
  'plant',
  'plant-brush',
  'ask',
  'entry',
  'objective',
  'threat',
] as const;
export type ToolId = (typeof TOOLS)[number];

export const SNAPS = [0.25, 0.5, 1, 2, 0] as const;
export type HandleMode = 'move' | 'turn' | 'size';
export type ViewMode = 'plan' | 'orbit' | 'stand' | 'walk';
export const OVERLAYS = [
  'none',
  'slope',
  'height',
  'curvature',
  'islands',
  'water depth',
  'ground',
  'cut and fill',
  'runoff',
  'growth rule',
  'plant density',
  'plant swaps',
  'overdraw',
  'repeat',
  'texels',
  'wireframe',
  'blockout',
  'collision',
  'walk area',
  'threat area',
  'both areas',
] as const;
export type Overlay = (typeof OVERLAYS)[number];
export const FINDINGS = ['markers', 'snags', 'notes'] as const;
export type FindingsTab = (typeof FINDINGS)[number];

interface Ui {
  stage: StageId;
  tool: ToolId;
  lastTool: Partial<Record<StageId, ToolId>>;
  mode: ViewMode;
  selection: string[];
  handle: HandleMode;
  snap: number;
  overlay: Overlay;
  /** marker of the threat whose walk area is shown; the first where none is chosen */
  threat?: string;
  workLight: boolean;
  /** id of the kept line the section runs along; the view's own direction where none */
  sectionLine?: string;
  /** blocks that alone are shown, by id */
  isolated?: ReadonlySet<string>;
  /** blocks are set on a level plane at this height, metres; `undefined` on what is under the pointer */
  workPlane?: number;
  typed: string;
  benchFolded: boolean;
  benchWidth: number;
  sectionHeight: number;
  help: boolean;
  finder: boolean;
  sheet: SheetTheme;
  /** which list stands under Play */
  findings: FindingsTab;
  /** where a note is being written */
  noteAt?: Vec3;
  setStage(stage: StageId): void;
  setTool(tool: ToolId): void;
  select(ids: string[]): void;
}

const FIRST_TOOL: Record<StageId, ToolId> = {
  brief: 'select',
  block: 'box',
  earth: 'raise',
  surface: 'paint',
  build: 'select',
  grow: 'plant',
  cost: 'select',
  play: 'select',
  light: 'select',
  handover: 'select',
};
const isBrush = (tool: ToolId): tool is BrushKind => (BRUSHES as readonly string[]).includes(tool);

export const useUi = create<Ui>((set, get) => ({
  stage: 'brief',
  tool: 'select',
  lastTool: {},
  mode: 'orbit',
  selection: [],
  handle: 'move',
  snap: 0.5,
  overlay: 'none',
  workLight: false,
  typed: '',
  benchFolded: false,
  benchWidth: 272,
  sectionHeight: 132,
  help: false,
  finder: false,
  sheet: shownSheet(),
  findings: 'markers',
  setStage(stage) {
    const { stage: old, tool, lastTool } = get();
    const remembered = { ...lastTool, [old]: tool };
    const next = remembered[stage] ?? (stage === 'block' ? 'select' : FIRST_TOOL[stage]);
    takeBrush(next);
    set({ stage, lastTool: remembered, tool: next });
  },
  // A shape to set starts from the typed size, not from what was selected.
  setTool(tool) {
    takeBrush(tool);
    set({ tool, typed: '', ...((SHAPES as readonly string[]).includes(tool) ? { selection: [] } : {}) });
  },
  select(ids) {
    set({ selection: ids });
  },
}));

/** A brush at hand is the one that Earth's numbers are of. */
function takeBrush(tool: ToolId): void {
  if (isBrush(tool)) useEarth.getState().setBrush({ kind: tool });
}

/** Rounds to the snap grid; 0 is off (to a millimetre, so that numbers stay readable). */
export const snapTo = (value: number, snap: number): number => (snap > 0 ? Math.round(value / snap) * snap : Math.round(value * 1000) / 1000);
